"""What a log teaches: hidden truths found as often as said, never worse than what was believed."""

import random
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest

from caldarium.core.assess import assess
from caldarium.core.log.as_it_was import lived, slopes
from caldarium.core.log.beliefs import KINDS, PRIOR, about, believed, parted, with_belief
from caldarium.core.log.diary import Diary
from caldarium.core.log.evidence import FELT_NIGHT, NIGHT_SD, ODD_NIGHT
from caldarium.core.log.learned import before_log, diary_of, teach
from caldarium.core.log.updating import Evidence, learn
from caldarium.core.plan.belief import Belief
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import (
    Decided,
    Entry,
    Event,
    Halted,
    Lay,
    Led,
    Log,
    OthersRight,
    Slept,
    Thermometer,
    Was,
    Went,
)
from caldarium.core.plan.value import NotThereError
from caldarium.demo import demo_course


def told(*events: Event) -> tuple[Entry, ...]:
    begin = datetime(2026, 9, 26, tzinfo=UTC)
    return tuple(
        Entry(token=f"entry-{at:05d}", at=begin + timedelta(seconds=at), event=event)
        for at, event in enumerate(events)
    )


@pytest.fixture(scope="module")
def plan() -> Course:
    return demo_course().altered(log=Log())


def felt_for(margin: float) -> str:
    return next(name for name in ("cold", "cool", "right") if margin < FELT_NIGHT[name][1])


SLEEPERS, NIGHTS = 500, 5


def test_hidden_sleepers_lie_in_the_stated_interval_as_often_as_it_says(plan: Course) -> None:
    """500 sleepers with a true index that nobody knows, five nights each in air of their own, felt
    by what their bed then had to spare: the truth lies in the interval of four in five as often,
    and the mean after is nearer to it than the one before."""
    dice = random.Random(7)
    was = lived(plan, (), Diary())
    person = plan.person("runa")
    bed = slopes(was, Diary(), [(person, 2)])["runa", 2]
    unknown = "sleep runa"
    inside, before_off, after_off = 0, 0.0, 0.0
    for _ in range(SLEEPERS):
        truth = dice.gauss(1.0, 0.5)
        evidence: list[Evidence] = []
        for _ in range(NIGHTS):
            weather = dice.gauss(0, 3)
            margin = bed.margin + weather
            felt = felt_for(margin + bed.by_index * (truth - 1.0) + dice.gauss(0, NIGHT_SD))
            low, high = FELT_NIGHT[felt]
            shift = bed.by_index * 1.0 - margin
            weights = {unknown: bed.by_index}
            evidence.append(Evidence(weights, low + shift, high + shift, NIGHT_SD, ODD_NIGHT))
        found = learn({unknown: Belief(mean=1.0, sd=0.5)}, evidence)[unknown]
        inside += abs(truth - found.mean) <= 1.2816 * found.sd
        before_off += (truth - 1.0) ** 2
        after_off += (truth - found.mean) ** 2
    assert 0.75 <= inside / SLEEPERS <= 0.88
    assert after_off < 0.75 * before_off


def logger(course: Course, celsius: list[float], day: int, where: str, of: str = "") -> Thermometer:
    first = datetime.combine(course.start, datetime.min.time()) + timedelta(days=day, hours=18)
    return Thermometer(
        id=f"t-{where}-{day}",
        name=where,
        where=where,
        of=of,
        first=first,
        utc_offset_h=course.place.utc_offset_h,
        celsius=tuple(celsius),
    )


def test_a_night_colder_than_forecast_excuses_the_bed(plan: Course) -> None:
    cold = told(Slept(person="runa", day=2, felt="cold"))
    as_forecast = teach(plan, Log(entries=cold)).of("sleep runa")
    measured = Log(thermometers=(logger(plan, [-14.0] * 96, 2, "outside"),), entries=cold)
    colder = teach(plan, measured).of("sleep runa")
    assert as_forecast is not None
    assert colder is not None
    assert as_forecast.after.mean > as_forecast.before.mean
    assert colder.after.mean - 1.0 < 0.4 * (as_forecast.after.mean - 1.0)


def test_the_same_word_of_a_bed_without_its_pad_says_less_of_the_sleeper(plan: Course) -> None:
    night = Slept(person="runa", day=2, felt="cold")
    pads = plan.person("runa").pads
    assert pads
    whole = teach(plan, Log(entries=told(night))).of("sleep runa")
    bare = teach(plan, Log(entries=told(night, Lay(person="runa", day=2, pads=())))).of(
        "sleep runa"
    )
    assert whole is not None
    assert bare is not None
    assert bare.after.mean < whole.after.mean


def test_a_shelters_lift_by_thermometers_is_the_closed_form(plan: Course) -> None:
    """One night's lift without odd ones is a normal mean with known variance; with them the
    figure lies between it and what was believed."""
    out, inside = (
        logger(plan, [0.0] * 96, 1, "outside"),
        logger(plan, [2.0] * 96, 1, "shelter", "dome"),
    )
    found = teach(plan, Log(thermometers=(out, inside))).of("tent dome")
    assert found is not None
    computed = found.evidence[0].computed
    closed = (1.0 / 0.25 + computed * 2.0 / 0.49) / (1 / 0.25 + computed**2 / 0.49)
    assert found.after.mean == pytest.approx(closed, abs=0.05)
    assert min(closed, 1.0) <= found.after.mean + 0.02


def test_halts_and_ways_are_learned_of_whoever_led(plan: Course) -> None:
    timeline = assess(plan).timeline
    halts = [each for each in timeline.moments if each.kind == "halt" and each.day == 1]
    events = [Led(day=1, person="wren"), Went(day=1, leg="climb", hours=4.5)]
    events += [Halted(moment=each.id, minutes=each.hours * 60 * 2) for each in halts]
    found = teach(plan, Log(entries=told(*events)))
    longer, slower = found.of("halts wren"), found.of("pace wren")
    assert longer is not None
    assert slower is not None
    assert 1.3 < longer.after.mean < 2.0
    assert slower.after.mean > 1.1
    assert found.of("halts hale") is None


def test_a_day_all_as_planned_says_that_halts_were_too(plan: Course) -> None:
    found = teach(plan, Log(entries=told(OthersRight(day=1, part="evening"))))
    halts = found.of("halts hale")
    assert halts is not None
    assert halts.after.mean == pytest.approx(1.0, abs=0.02)
    assert halts.after.sd < halts.before.sd


def test_who_is_hot_walking_makes_more_heat_and_who_is_cold_less(plan: Course) -> None:
    timeline = assess(plan).timeline
    walks = [each.id for each in timeline.moments if each.kind == "moving"]
    hot = teach(plan, Log(entries=told(*(Was(person="dag", moment=w, felt="hot") for w in walks))))
    cold = teach(
        plan, Log(entries=told(*(Was(person="dag", moment=w, felt="cold") for w in walks)))
    )
    warmer, colder = hot.of("walk dag"), cold.of("walk dag")
    assert warmer is not None
    assert colder is not None
    assert warmer.after.mean > 1.0 > colder.after.mean


def test_what_was_taken_is_in_force_and_counts_no_second_time(plan: Course) -> None:
    nights = told(*(Slept(person="tavi", day=day, felt="cold") for day in (1, 2, 3)))
    first = teach(plan, Log(entries=nights)).of("sleep tavi")
    assert first is not None
    decided = Decided(about=first.about, taken=True, before=first.before, after=first.after)
    after = with_belief(plan, first.about, first.after)
    log = Log(entries=(*nights, *told(*[decided] * 60)[-1:]))
    again = teach(after, log).of("sleep tavi")
    assert again is not None
    assert again.stand == "in force"
    assert again.after == first.after
    assert believed(before_log(after, diary_of(log.entries)), "sleep tavi") == first.before
    undone = teach(plan, log).of("sleep tavi")
    assert undone is not None
    assert undone.stand == "new"


def test_what_was_taken_moves_the_verdict_by_as_much(plan: Course) -> None:
    """A bag found three kelvin colder holds about three kelvin less, as it was found to."""
    person = plan.person("tavi")
    assert person.bag is not None
    name = about("bag", f"tavi:{person.bag.id}")
    colder = with_belief(plan, name, Belief(mean=3.0, sd=1.0, times=4))
    before, after = (assess(each).of("tavi").nights[2].margin for each in (plan, colder))
    assert before - after == pytest.approx(3.0, abs=0.7)
    assert with_belief(colder, name, PRIOR["bag"]) == plan


@pytest.mark.parametrize("kind", KINDS)
def test_every_belief_reads_back_from_where_it_was_put(plan: Course, kind: str) -> None:
    person = plan.person("tavi")
    whose = {
        "bag": f"tavi:{person.bag.id if person.bag else ''}",
        "pad": f"tavi:{person.pads[0].id}",
        "tent": "dome",
    }.get(kind, "tavi")
    name = f"{kind} {whose}"
    assert parted(name)[0] == kind
    belief = Belief(mean=1.2, sd=0.3, times=3)
    assert believed(with_belief(plan, name, belief), name) == belief


@pytest.mark.parametrize("name", ["", "sleep", "sleep nobody", "bag tavi:none", "tent none", "x y"])
def test_beliefs_of_what_is_not_there_are_refused(plan: Course, name: str) -> None:
    with pytest.raises(NotThereError):
        believed(plan, name)


def test_a_log_of_what_is_no_more_on_the_course_teaches_nothing_and_breaks_nothing(
    plan: Course,
) -> None:
    entries = told(
        Slept(person="gone", day=1, felt="cold"),
        Slept(person="runa", day=19, felt="cold"),
        Was(person="runa", moment="9.gone.halt", felt="cold"),
        Went(day=19, leg="gone", hours=3),
        Lay(person="runa", day=1, moved=True, shelter="gone"),
        Slept(person="runa", day=1, felt="cool"),
    )
    gone = logger(plan, [1.0] * 30, 1, "bed", "gone")
    found = teach(plan, Log(thermometers=(gone,), entries=entries))
    assert {each.about.partition(" ")[2].partition(":")[0] for each in found.taught} <= {"runa"}


def test_a_later_word_on_a_night_is_the_one_that_counts(plan: Course) -> None:
    both = told(Slept(person="runa", day=2, felt="cold"), Slept(person="runa", day=2, felt="right"))
    one = told(Slept(person="runa", day=2, felt="right"))
    assert teach(plan, Log(entries=both)).of("sleep runa") == teach(plan, Log(entries=one)).of(
        "sleep runa"
    )


@pytest.mark.parametrize("felt", ["cold", "cool", "right", "warm"])
def test_one_night_moves_nobody_by_more_than_their_doubt(plan: Course, felt: str) -> None:
    for day in range(4):
        entries = told(*(Slept(person=each.id, day=day, felt=felt) for each in plan.people))
        for each in teach(plan, Log(entries=entries)).taught:
            if each.kind != "tent":
                assert abs(each.after.mean - each.before.mean) <= each.before.sd
            assert np.isfinite(each.after.mean)


def test_a_bed_told_of_one_sleeper_leaves_the_others_school_alone(plan: Course) -> None:
    """A word on one bed is not that everybody wears clothes in theirs."""
    apart = plan.altered(clothes_in_bed=False)
    nights = told(Slept(person="dag", day=2, felt="right"))
    alone = teach(apart, Log(entries=nights)).nights["dag", 2]
    both = told(
        Slept(person="dag", day=2, felt="right"),
        Lay(person="runa", day=2, worn=("big-down-jacket",)),
    )
    assert teach(apart, Log(entries=both)).nights["dag", 2] == alone


def test_what_was_taken_twice_goes_back_to_what_the_last_was_learned_from(plan: Course) -> None:
    first, second = Belief(mean=0.4, sd=0.5), Belief(mean=1.0, sd=0.5)
    one, two = Belief(mean=0.8, sd=0.4, times=1), Belief(mean=1.3, sd=0.4, times=1)
    entries = told(
        Decided(about="sleep tavi", taken=True, before=first, after=one),
        Decided(about="sleep tavi", taken=True, before=second, after=two),
    )
    now = with_belief(plan, "sleep tavi", two)
    assert believed(before_log(now, diary_of(entries)), "sleep tavi") == second
