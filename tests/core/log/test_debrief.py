"""The debrief, the next course, test nights, the season, and what the store is asked."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from caldarium.core.assess import assess
from caldarium.core.log.beliefs import believed
from caldarium.core.log.carried import carried_to, night_changes, with_taught
from caldarium.core.log.learned import teach
from caldarium.core.log.next_course import (
    Proposal,
    may_stay,
    night_near_road,
    proposals,
    with_proposals,
)
from caldarium.core.log.review import Review, review
from caldarium.core.log.season import season
from caldarium.core.log.upkeep import WASH_AFTER, upkeep, upkept
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import PARTY, Found, Halted, Lay, Log, OthersRight, Slept, Was, Went
from caldarium.core.stock.inventory import Stored
from caldarium.core.what_if.idle import idle_pieces
from caldarium.demo import DEMOS, demo_course
from tests.core.log.test_learned import logger, told


@pytest.fixture(scope="module")
def plan() -> Course:
    return demo_course().altered(log=Log())


def said(plan: Course, *events):
    found = review(plan, Log(entries=told(*events)))
    return found.teaching, found.debrief


def offers(plan: Course, found: Review) -> list[Proposal]:
    """What the next course is offered, with the ledgers of everybody."""
    result = assess(plan)
    idle = idle_pieces(plan, result, tuple(each.id for each in plan.people))
    return proposals(plan, found, may_stay(plan, result, idle))


def with_doubles(plan: Course) -> Course:
    """Somebody with everything twice, and beds without clothes."""
    person = plan.person("runa")
    twice = tuple(each.altered(id=f"{each.id}-two") for each in person.garments)
    more = person.altered(garments=(*person.garments, *twice))
    people = tuple(more if each.id == "runa" else each for each in plan.people)
    return plan.altered(people=people, clothes_in_bed=False)


def test_a_piece_in_no_outfit_and_no_bed_was_never_used(plan: Course) -> None:
    course = with_doubles(plan)
    taught, found = said(course)
    result = taught.lived.worn_result
    for each in found.unused:
        person = course.person(each.person)
        piece = next(g for g in person.garments if g.id == each.piece)
        assert not (piece.spare or piece.shades or piece.always)
        assert all(each.piece not in s.worn for s in result.of(each.person).moments)
    assert "rain-jacket-two" in {each.piece for each in found.unused}


def test_the_diary_says_that_a_piece_was_worn_after_all_and_that_one_was_not(plan: Course) -> None:
    course = with_doubles(plan)
    worn = Was(person="runa", moment="1.lookout.halt", felt="right", worn=("rain-jacket-two",))
    _, after = said(course, worn)
    assert "rain-jacket-two" not in {each.piece for each in after.unused}
    first = plan.person("runa").garments[0]
    never = Found(subject="runa", what="unused", name=first.name, piece=first.id)
    _, told_so = said(plan, never)
    assert ("runa", first.id) in {(each.person, each.piece) for each in told_so.unused}


def test_what_is_taken_back_is_not_said(plan: Course) -> None:
    _, found = said(
        plan,
        Found(subject=PARTY, what="wished", name="A lamp"),
        Found(subject=PARTY, what="wished", name="a LAMP", so=False),
    )
    assert found.found == ()


def test_cold_and_slack_are_told_by_person(plan: Course) -> None:
    warm = [Slept(person="dag", day=day, felt="right") for day in range(4)]
    _, found = said(plan, *warm, Slept(person="runa", day=1, felt="cold"))
    assert [each.person for each in found.cold] == ["runa"]
    assert [each.person for each in found.slack] == ["dag"]


def lessons(plan: Course):
    halts = [m.id for m in assess(plan).timeline.moments if m.kind == "halt"]
    events = [Slept(person="tavi", day=day, felt="cold") for day in (1, 2, 3)]
    events += [Halted(moment=each, minutes=40) for each in halts]
    events += [Went(day=1, leg="climb", hours=4.4)]
    runa = plan.person("runa")
    for piece in (runa.items[-1], next(g for g in runa.garments if g.id == "rain-jacket")):
        events += [Found(subject="runa", what="unused", name=piece.name, piece=piece.id)]
    found = review(plan, Log(entries=told(*events)))
    return found.teaching, offers(plan, found)


def test_the_next_course_begins_with_what_was_taken_and_nothing_else(plan: Course) -> None:
    _, offered = lessons(plan)
    keys = {each.key for each in offered}
    assert {"sleep tavi", "halts hale", "pace hale", "leave runa:spare-layers"} <= keys
    assert with_proposals(plan, offered, ()) == plan
    made = with_proposals(plan, offered, keys)
    assert made.person("tavi").sleeper_index > plan.person("tavi").sleeper_index
    assert plan.person("runa").items[-1] not in made.person("runa").items
    for day, before in zip(made.days, plan.days, strict=True):
        for leg, was in zip(day.legs, before.legs, strict=True):
            assert leg.halt_min > was.halt_min
    sleep = with_proposals(plan, offered, {"sleep tavi"})
    assert sleep.altered(people=plan.people) == plan
    assert sleep.person("runa") == plan.person("runa")


def test_what_nobody_put_on_but_the_cautious_plan_needs_is_not_left_at_home(plan: Course) -> None:
    """It did not rain; the ledger of grams keeps the jacket all the same."""
    _, offered = lessons(plan)
    assert "leave runa:rain-jacket" not in {each.key for each in offered}
    never = {("runa", "rain-jacket"), ("runa", "spare-layers")}
    unused = review(plan, Log(entries=told(*(
        Found(subject=who, what="unused", name=piece, piece=piece) for who, piece in never
    )))).debrief.unused  # fmt: skip
    assert never <= {(each.person, each.piece) for each in unused}
    made = with_proposals(plan, offered, {e.key for e in offered if e.change == "leave out"})
    gaps = [
        sum(state.state == "gap" for found in assess(each).people for state in found.moments)
        for each in (plan, made)
    ]
    assert gaps[1] <= gaps[0]


def test_halts_planned_as_they_are_led_are_as_planned_the_next_time(plan: Course) -> None:
    """What is planned with what was learned says nothing new when it comes so."""
    taught, offered = lessons(plan)
    made = with_proposals(plan, offered, {"halts hale"})
    first = taught.of("halts hale")
    assert first is not None
    assert first.after.mean > 1.2
    belief = believed(made, "halts hale")
    assert belief.mean == 1.0
    assert belief.sd == pytest.approx(first.after.sd / first.after.mean)
    as_planned = Log(entries=told(OthersRight(day=1, part="evening")))
    again = teach(made, as_planned).of("halts hale")
    assert again is not None
    assert again.before == belief
    assert again.after.mean == pytest.approx(1.0, abs=0.02)
    assert carried_to(made, [first]) == []


def test_lessons_taken_are_the_next_logs_beginning(plan: Course) -> None:
    taught, offered = lessons(plan)
    made = with_proposals(plan, offered, {"sleep tavi"})
    first = taught.of("sleep tavi")
    assert first is not None
    again = teach(made, Log(entries=told(Slept(person="tavi", day=2, felt="right"))))
    second = again.of("sleep tavi")
    assert second is not None
    assert second.before == first.after
    assert second.after.sd < first.after.sd


@pytest.mark.parametrize("name", DEMOS)
def test_a_test_night_has_the_same_people_beds_and_tents(name: str) -> None:
    course = demo_course(name)
    for night in range(len(course.days) - 1):
        made = night_near_road(course, night, "Try")
        there = course.on_night(night)
        assert [e.own_bed for e in made.people] == [e.own_bed for e in there.people]
        assert [e.shelter for e in made.people] == [e.shelter for e in there.people]
        assert made.shelters == course.shelters
        assert made.log.empty
        result = assess(made)
        assert all(len(each.nights) == 1 for each in result.people)


def test_a_test_night_tells_of_the_real_ones(plan: Course) -> None:
    tried = night_near_road(plan, 2, "Try")
    frost = tried.days[0].conditions.altered(low_c=-9.0)
    tried = tried.altered(days=tuple(each.altered(conditions=frost) for each in tried.days))
    log = Log(entries=told(Slept(person="tavi", day=0, felt="cold")))
    taught = teach(tried, log).taught
    carried = carried_to(plan, taught)
    assert {"sleep tavi"} <= {each.about for each in carried}
    after = with_taught(plan, carried)
    changes = night_changes(assess(plan), assess(after))
    assert changes
    assert all(each.after < each.before for each in changes if each.person == "tavi")
    assert carried_to(after, taught) == []


def tagged(plan: Course) -> Course:
    person = plan.person("tavi")
    assert person.bag is not None
    there = person.altered(bag=person.bag.altered(tag="BAG-7"))
    return plan.altered(people=tuple(there if e.id == "tavi" else e for e in plan.people))


def test_a_bag_many_were_cold_in_is_a_cold_bag(plan: Course) -> None:
    """One course says little of whether the sleeper or the bag is cold; three, with three
    sleepers, say that it is the bag."""
    log = Log(entries=told(*(Slept(person="tavi", day=day, felt="cold") for day in (1, 2, 3))))
    logged = [(number, tagged(plan), log) for number in (1, 2, 3)]
    (one,), (three,) = season(logged[:1]).pieces, season(logged).pieces
    assert (one.tag, one.courses, three.courses) == ("BAG-7", 1, 3)
    assert three.after.mean > one.after.mean > 0
    assert three.after.sd < one.after.sd


def test_a_season_adds_up_its_courses_and_names_their_shelters(plan: Course) -> None:
    log = Log(entries=told(OthersRight(day=1, part="morning")))
    heard: list[float] = []
    found = season([(1, plan, log), (2, demo_course("deep-winter"), log)], heard.append)
    assert [each.id for each in found.courses] == [1, 2]
    assert heard == sorted(heard)
    assert len(found.outcomes) == sum(len(e.review.outcomes) for e in found.courses) == 16
    assert found.chances.count == 16
    names = {shelter.name for shelter in (*plan.shelters, *demo_course("deep-winter").shelters)}
    assert {each.shelter for each in found.outcomes} <= {*names, ""}
    assert season([]).chances.count == 0


def test_the_store_is_asked_to_mend_retire_wash_and_buy(plan: Course) -> None:
    course = tagged(plan)
    bag = Stored(tag="BAG-7", name="Bag", kind="bag", mass_g=900, nights_used=WASH_AFTER + 1)
    pad = Stored(tag="PAD-1", name="Pad", kind="pad", mass_g=400, condition="unfit")
    found = [
        Found(subject="runa", what="failed", name="Pad", tag="PAD-1"),
        Found(subject="runa", what="failed", name="Stove"),
        Found(subject=PARTY, what="wished", name="Lamp"),
    ]
    known = {"bag-7": bag, "pad-1": pad}
    tasks = {(each.task, each.name) for each in upkeep(course, found, known)}
    assert tasks == {("retire", "Pad"), ("mend", "Stove"), ("buy", "Lamp"), ("wash", "Bag")}
    mended = upkept(pad.altered(condition="good"), "mend")
    assert mended.condition == "to mend"
    again = upkeep(course, found[:1], {**known, "pad-1": mended})
    assert [each.task for each in again if each.name == "Pad"] == ["mend"]
    assert upkept(bag, "wash").washes == 1
    assert upkept(bag, "retire").retired
    assert upkept(bag, "buy") == bag
    washed = {**known, "bag-7": bag.altered(washes=1)}
    assert "wash" not in {each.task for each in upkeep(course, found, washed)}


@settings(max_examples=20, deadline=None)
@given(st.data())
def test_any_diary_teaches_debriefs_and_proposes_without_a_fault(data) -> None:
    """Answers of every kind on every demo, of anybody, anywhere, in any order."""
    name = data.draw(st.sampled_from(sorted(DEMOS)))
    course = demo_course(name).altered(log=Log())
    who = st.sampled_from([each.id for each in course.people])
    day = st.integers(0, len(course.days) - 1)
    moments = [m.id for m in assess(course).timeline.moments]
    felt = st.sampled_from(["cold", "cool", "right", "warm", "hot"])
    pieces = st.lists(st.sampled_from([g.id for p in course.people for g in p.garments]),
                      max_size=4, unique=True).map(tuple)  # fmt: skip
    event = st.one_of(
        st.builds(Slept, person=who, day=day, felt=felt),
        st.builds(Lay, person=who, day=day, worn=st.none() | pieces, pads=st.just(())),
        st.builds(Was, person=who, moment=st.sampled_from(moments), felt=felt,
                  worn=st.none() | pieces),
        st.builds(Halted, moment=st.sampled_from(moments), minutes=st.floats(1, 600)),
    )  # fmt: skip
    events = data.draw(st.lists(event, min_size=1, max_size=6))
    cold = logger(course, [data.draw(st.floats(-40, 40))] * 96, 0, "outside")
    found = review(course, Log(thermometers=(cold,), entries=told(*events)))
    taught = found.teaching
    offered = offers(course, found)
    made = with_proposals(course, offered, {each.key for each in offered})
    assess(made)
    for each in taught.taught:
        believed(course, each.about)
