"""What caution costs never falls; the store is never given out twice."""

from itertools import pairwise

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess_people
from caldarium.core.lighten.frontier import at_caution, by_source, coldest_camp, frontier
from caldarium.core.lighten.offers import counted, offers_for
from caldarium.core.lighten.party import lighten_party, with_people
from caldarium.core.lighten.proposal import Question
from caldarium.core.lighten.verdict import fails
from caldarium.core.stock.inventory import Stored
from caldarium.core.stock.issue import lent
from caldarium.core.stock.supply import Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import demo_course

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
    lows = [each.low for each in treads]
    assert lows == sorted(lows, reverse=True)
    for at, tread in enumerate(treads):
        for milder in treads[: at + 1]:
            plan = at_caution(course, milder.deviations)
            found = assess_people(plan, (tread.proposal.after,), build_timeline(plan))[0]
            assert fails(found) <= milder.proposal.beyond | tread.proposal.beyond


def test_caution_is_one_axis_for_typed_weather_and_hourly(demo) -> None:
    lows = [coldest_camp(at_caution(demo, each)) for each in (0, 0.5, 1, 1.5, 2)]
    assert all(a > b for a, b in pairwise(lows))
    assert lows[2] == coldest_camp(demo.altered(caution="cautious"))
    assert lows[4] == coldest_camp(demo.altered(caution="expedition"))


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


def test_a_party_is_never_given_more_than_there_is() -> None:
    course = demo_course("hot-canyon")
    shelf = [stored("T-1", "synthetic-tee", 1), stored("S-1", "liner-socks", 2)]
    supply = Supply(shelf, {"t-1": 1, "s-1": 2}, EVERYTHING)
    hears = few_points(200)
    found = lighten_party(
        course, build_timeline(course), supply, lambda _, search: hears(search), ["own", "store"]
    )
    assert found.bound <= found.grams + 0.1
    assert found.scarce
    people = [each.after for each in found.proposals if each.after is not None]
    out = lent(with_people(course, people, supply))
    assert all(out[tag] <= count for tag, count in supply.left.items())
