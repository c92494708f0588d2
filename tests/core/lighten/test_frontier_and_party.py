"""What caution costs never falls; the store is never given out twice."""

import re
from dataclasses import replace
from itertools import pairwise
from types import SimpleNamespace

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess_people
from caldarium.core.lighten.frontier import (
    Tread,
    at_caution,
    by_source,
    forecast_worst,
    frontier,
    passed,
    ready_of,
    with_milder,
    worst_of,
)
from caldarium.core.lighten.offers import counted, look_of, offers_for
from caldarium.core.lighten.party import lighten_party, with_people
from caldarium.core.lighten.proposal import Question, lighten
from caldarium.core.lighten.rounds import EnoughError, Search
from caldarium.core.lighten.verdict import fails
from caldarium.core.stock.inventory import Stored
from caldarium.core.stock.issue import lent
from caldarium.core.stock.supply import Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import demo_course
from caldarium.words.lighten import (
    explain_party,
    milder_words,
    party_sentence,
    proposal_sentence,
    ready_words,
    taken_words,
    trigger_words,
)
from caldarium.words.units import Display

EVERYTHING = load_catalogue().everything


def few_points(most: int):
    """Hears every search, and ends each after so many points."""
    heard: list = []

    def go_on(search) -> bool:
        if not heard or heard[0] is not search:
            heard[:] = [search, 0]
        heard[1] += 1
        return heard[1] < most

    return go_on


def test_the_frontier_never_falls_and_each_set_holds_up_to_its_step() -> None:
    course = demo_course("high-plateau")
    person = course.people[2]
    supply = Supply(everything=EVERYTHING)
    question = Question(course, person, build_timeline(course), supply, ("own", "buy"))
    treads = frontier(question, few_points(150), steps=3)
    grams = [each.grams for each in treads]
    assert len(treads) > 1
    assert grams == sorted(grams)
    lows = [each.worst.low for each in treads]
    assert lows == sorted(lows, reverse=True)
    for at, tread in enumerate(treads):
        bought = {look_of(each.piece) for each in tread.proposal.incoming}
        assert not bought & {look_of(piece) for piece in tread.proposal.outgoing}
        for milder in treads[: at + 1]:
            plan = at_caution(course, milder.deviations)
            found = assess_people(plan, (tread.proposal.after,), build_timeline(plan))[0]
            assert fails(found) <= milder.proposal.beyond | tread.proposal.beyond


def test_what_a_set_lets_fail_where_it_is_milder_than_planned_is_told(demo) -> None:
    """A set for snow can be short in rain just over freezing."""
    tavi = demo.person("tavi")
    supply, timeline = Supply(everything=EVERYTHING), build_timeline(demo)
    question = Question(demo, tavi, timeline, supply, ("own", "buy"))
    found = with_milder(lighten(question, few_points(60), told=False), demo)
    assert found.milder
    told = dict(found.milder)
    for each in (0.0, 0.5):
        plan = at_caution(demo, each)
        (result,) = assess_people(plan, (found.after,), build_timeline(plan))
        assert told.get(each, frozenset()) == fails(result) - found.beyond
    assert set(told) <= {0.0, 0.5}
    assert "where it is milder than planned" in proposal_sentence(found, ["own"], Display())
    names = {each.id: f"<{at:03}>" for at, each in enumerate(timeline.moments)}
    lines = milder_words(found, names)
    assert len(lines) == len(told)
    assert all(re.findall("<.*?>", line) == sorted(re.findall("<.*?>", line)) for line in lines)
    assert with_milder(found, demo.altered(caution="as forecast")).milder == ()
    assert with_milder(replace(found, after=None), demo).milder == found.milder


def test_caution_is_one_axis_for_typed_weather_and_hourly(demo) -> None:
    lows = [worst_of(at_caution(demo, each)).low for each in (0, 0.5, 1, 1.5, 2)]
    assert all(a > b for a, b in pairwise(lows))
    assert lows[2] == worst_of(demo.altered(caution="cautious")).low
    assert lows[4] == worst_of(demo.altered(caution="expedition")).low


def test_more_sources_never_weigh_more(demo) -> None:
    supply = Supply(everything=EVERYTHING)
    question = Question(demo, demo.person("pell"), build_timeline(demo), supply)
    found = by_source(question, few_points(60))
    grams = [each.proposal.grams for each in found]
    assert grams == sorted(grams, reverse=True)


def stored(tag: str, like: str, count: int, owner: str = "school") -> Stored:
    piece = EVERYTHING[like]
    return Stored(
        tag=tag,
        name=piece.name,
        kind="garment",
        like=like,
        mass_g=piece.mass_g,
        count=count,
        owner=owner,
    )


def test_of_pieces_alike_one_is_offered_and_each_gets_its_own_tag() -> None:
    course = demo_course("hot-canyon")
    shelf = [stored("T-1", "synthetic-tee", 1), stored("T-2", "synthetic-tee", 1)]
    supply = Supply(shelf, {"t-1": 1, "t-2": 1}, EVERYTHING)
    offers = [e for e in offers_for(course.people[0], supply, ["store"]) if e.source == "store"]
    assert [each.tags for each in offers] == [("t-1", "t-2")]
    assert counted(offers[0], supply) == 2
    people = [
        each.altered(garments=(*each.garments, offers[0].piece)) for each in course.people[:2]
    ]
    given = with_people(course, people, supply)
    assert lent(given) == {"t-1": 1, "t-2": 1}


def test_two_people_never_get_the_same_bag_of_the_store() -> None:
    course = demo_course("hot-canyon")
    bag = EVERYTHING["quilt-0"]
    shelf = [
        Stored(tag=tag, name="quilt", kind="quilt", like="quilt-0", mass_g=bag.mass_g)
        for tag in ("Q-1", "Q-2")
    ]
    supply = Supply(shelf, {"q-1": 1, "q-2": 1}, EVERYTHING)
    (offer,) = (e for e in offers_for(course.people[0], supply, ["store"]) if e.tags)
    people = [each.altered(bag=offer.piece) for each in course.people[:2]]
    given = with_people(course, people, supply)
    assert [each.bag.tag for each in given.people[:2]] == ["Q-1", "Q-2"]


def test_what_is_given_touches_nothing_but_clothes_and_bed() -> None:
    course = demo_course("hot-canyon")
    person = course.people[0]
    stale = person.altered(name="As it was", garments=person.garments[:-1])
    given = with_people(course, [stale], Supply()).people[0]
    assert given.name == person.name
    assert given.garments == stale.garments


@pytest.mark.parametrize(
    "pieces",
    [
        {"synthetic-tee": 1, "liner-socks": 2},
        # So many that are scarce that people take turns in the end.
        {
            "synthetic-tee": 1,
            "liner-socks": 2,
            "thin-socks": 2,
            "light-crew-synthetic": 1,
            "light-trousers": 1,
        },
    ],
)
def test_a_party_is_never_given_more_than_there_is(pieces: dict[str, int]) -> None:
    course = demo_course("hot-canyon")
    shelf = [stored(f"T-{at}", *each) for at, each in enumerate(pieces.items())]
    supply = Supply(shelf, {each.tag.lower(): each.count for each in shelf}, EVERYTHING)
    hears = few_points(200)
    found = lighten_party(
        course, build_timeline(course), supply, lambda _, search: hears(search), ["own", "store"]
    )
    assert found.bound <= found.grams + 0.1
    assert found.scarce
    people = [each.after for each in found.proposals if each.after is not None]
    out = lent(with_people(course, people, supply))
    assert all(out[tag] <= count for tag, count in supply.left.items())
    told = party_sentence(found, Display())
    assert "wanted more often than there are: " in told
    assert "Together no less than " in told
    some = next(each for each in found.proposals if each.after is not None)
    assert "scarce" in proposal_sentence(some, ["own"], Display(), shared=True)
    whence = [
        explain_party(replace(found, in_turn=turn), Display())[-1].source for turn in (False, True)
    ]
    assert found.scarce[0] in whence[0]
    assert "judgement" in whence[1]


@pytest.mark.parametrize("stop_at", [0, 6, 9, 40])
def test_a_party_is_ended_soon_once_stop_is_said(stop_at: int) -> None:
    """Nothing is begun after that, whoever has no set keeps theirs, and the store is kept."""
    course, said = demo_course("hot-canyon"), 0
    shelf = [stored("T-0", "synthetic-tee", 1), stored("T-1", "liner-socks", 2)]
    supply = Supply(shelf, {each.tag.lower(): each.count for each in shelf}, EVERYTHING)

    def heard(share: float, search: Search) -> bool:
        nonlocal said
        said += 1
        return said <= stop_at

    def ask():
        return lighten_party(course, build_timeline(course), supply, heard, ["own", "store"])

    if stop_at == 0:
        with pytest.raises(EnoughError):
            ask()
        return
    found = ask()
    # Each person's search is let know once more, and whoever has to choose anew.
    assert said <= stop_at + 2 * len(course.people) + 3
    people = [each.after for each in found.proposals if each.after is not None]
    out = lent(with_people(course, people, supply))
    assert all(out[tag] <= count for tag, count in supply.left.items())
    assert len(people) + found.without == len(course.people)
    assert found.without or found.bound <= found.grams + 0.1
    said_so = "no set was found yet" in party_sentence(found, Display())
    assert said_so == bool(found.without)
    for each in found.proposals:
        if each.after is None and not each.proven:
            assert "found so far" in proposal_sentence(each, ["own"], Display(), shared=True)


def test_triggers_pass_by_cold_wind_or_wet_and_not_by_what_the_step_holds(demo) -> None:
    """The forecast of the step before passes nothing; one worse in any one way does."""
    before, after = (
        Tread(each, worst_of(at_caution(demo, each)), SimpleNamespace(), (), ()) for each in (0, 1)
    )
    proposal = SimpleNamespace(before=demo.people[0], grams=500.0)
    before, after = (
        replace(each, proposal=proposal, incoming=names, outgoing=gone)
        for each, names, gone in (
            (before, (), ()),
            (after, ("second quilt",), ("thin quilt",)),
        )
    )
    ready = ready_of((before, after), 1)
    assert ready is not None
    now = forecast_worst(demo)
    assert passed(ready, now) == ()
    assert passed(ready, replace(now, low=now.low - 0.3)) == ("low",)
    assert passed(ready, replace(now, wind=now.wind + 0.3)) == ("wind",)
    assert passed(ready, replace(now, rain=now.rain + 0.3)) == ("rain",)
    assert passed(ready, replace(now, low=float("nan"))) == ()
    told = trigger_words(ready, Display())
    assert "low under" in told
    assert "wind over" in told
    assert "or over" in told
    assert "a day" in told
    assert taken_words(ready) == "second quilt; in place of thin quilt"
    assert taken_words(ready.altered(instead_of=())) == "second quilt"
    assert ready_words(ready, now, Display()).startswith("leave it")
    assert "take it: forecast now wind" in ready_words(ready, replace(now, wind=40.0), Display())
    no_night = replace(before, worst=replace(before.worst, low=float("nan")))
    by_day = ready_of((no_night, after), 1)
    assert by_day is not None
    assert by_day.below_c is None
    assert "low" not in trigger_words(by_day, Display())
