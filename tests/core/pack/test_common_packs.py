"""Packs of three kinds come out as the trade fills them: common practice, no published source."""

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.load.travel import travel
from caldarium.core.pack.bags import in_bag
from caldarium.core.pack.plan import PackPlan, plan_pack
from caldarium.core.pack.zones import MAIN
from caldarium.core.plan.changes import with_person
from caldarium.core.plan.kit import Bedding, Garment, Hammock, Item
from caldarium.demo import demo_course
from caldarium.words.pack import place_words
from tests.courses import from_nothing


def packed(course, person, day: int = 0) -> PackPlan:
    return plan_pack(course, person, assess(course), day)


def test_a_weekend_pack() -> None:
    """Bed at the foot, then camp clothes, food by the spine, what halts ask for on top, water at
    the sides, light and map in the lid or at the hip."""
    course = from_nothing(days=2, high=9, low=-1, rain=4)
    person = course.people[0]
    plan = packed(course, person)
    zones, order = plan.placing.zones, plan.laid.order
    roles = {name: each.role for name, each in plan.pieces.items()}
    assert {zones[name] for name, role in roles.items() if role == "bed"} == {"foot"}
    assert {zones[name] for name, role in roles.items() if role == "water"} <= {"left", "right"}
    assert {zones[name] for name, role in roles.items() if role == "food"} <= {
        "high spine",
        "low spine",
    }
    for name, role in roles.items():
        if role in ("light", "way"):
            assert zones[name] in ("lid", "hip")
    inside = [name for name in order if zones[name] in MAIN]
    assert roles[inside[0]] in ("bed", "pad")
    hurry = [plan.needs[name].hurry for name in inside]
    assert max(hurry) == plan.needs[inside[-1]].hurry


def test_a_winter_pack_with_axe_spikes_and_helmet() -> None:
    """Axe and spikes outside or in a pocket, never against cloth; a helmet never below; bottles
    and filter inside, out of the frost; heavy things low on snow."""
    course = demo_course("deep-winter")
    person = course.people[0]
    sharp = [
        Item(id="axe", name="ice axe", kind="snow and technical", mass_g=480, purpose="safety"),
        Item(
            id="spikes",
            name="boot spikes",
            kind="snow and technical",
            mass_g=700,
            purpose="safety",
            packed_l=2.0,
        ),
        Item(
            id="helmet",
            name="helmet",
            kind="snow and technical",
            mass_g=300,
            purpose="safety",
            packed_l=5.0,
        ),
        load_catalogue().items["water-filter"],
    ]
    person = person.altered(items=(*person.items, *sharp))
    course = with_person(course, person)
    for day in range(3):
        plan = packed(course, person, day)
        zones = plan.placing.zones
        assert zones["axe"] not in MAIN
        assert zones["spikes"] not in MAIN
        assert zones["helmet"] in ("top", "over", "high outer", "high spine")
        for name, each in plan.pieces.items():
            if each.role in ("water", "filter"):
                assert zones[name] in (*MAIN, "over")
        reasons = {each.reason for each in plan.findings}
        assert not reasons & {"sharp inside", "crushed", "freezes"}
        assert plan.needs["axe"].why == "on the snow"
        assert "the pick inward" in place_words(plan, plan.pieces["axe"])
    day = course.days[0]
    bare = tuple(
        leg.altered(kind="traverse", terrain="track")
        for leg in day.legs
        if not leg.hours or leg.distance_km
    )
    bare = tuple(leg for leg in bare if leg.distance_km)
    later = day.altered(legs=(*bare, bare[-1].altered(id="ice", glacier=True, start_h=None)))
    course = course.altered(days=(later, *course.days[1:]))
    result = assess(course)
    need = plan_pack(course, person, result, 0).needs["axe"]
    assert need.why == "on the snow"
    assert need.hour == next(s.start for s in result.timeline.stages[0] if s.leg.id == "ice")


def test_a_hammock_pack() -> None:
    """The hammock is bed, not shelter: low, inside the liner, reached last."""
    course = from_nothing(days=2)
    person = course.people[0]
    hammock = Hammock(id="hammock", name="hammock", mass_g=600)
    person = person.altered(pads=(), bedding=Bedding(hammock=hammock))
    course = with_person(course, person)
    plan = packed(course, person)
    assert plan.pieces["hammock"].role == "bed"
    assert plan.placing.zones["hammock"] in ("foot", "low outer")


def test_a_shell_is_at_hand_when_it_rains_and_a_dry_set_is_not_touched() -> None:
    course = demo_course()
    person = course.people[0]
    dry = next(p for p in person.garments if p.id == "fleece-trousers").altered(spare=True)
    rest = tuple(p for p in person.garments if p.id != dry.id)
    person = person.altered(garments=(*rest, dry), overrules=())
    course = with_person(course, person)
    result = assess(course)
    for day in range(len(course.days)):
        plan = plan_pack(course, person, result, day)
        for name, each in plan.pieces.items():
            piece = each.garment
            if isinstance(piece, Garment) and plan.needs[name].why == "put on in rain":
                assert plan.placing.zones[name] in ("front", "over", "lid", "top", "left", "right")
        assert plan.needs[dry.id].hurry < 0.5


def test_a_bag_by_air_has_heavy_things_below_and_what_breaks_among_clothes() -> None:
    """Common practice, no published source."""
    course = demo_course()
    person = course.people[0]
    more = [
        Item(id="helmet", name="helmet", kind="snow and technical", mass_g=320, purpose="safety"),
        Item(id="axe", name="ice axe", kind="snow and technical", mass_g=480, purpose="safety"),
    ]
    person = person.altered(items=(*person.items, *more))
    course = with_person(course, person)
    result = assess(course)
    flight = travel(course, person, result.of(person.id).moments)
    found = in_bag(course, person, flight.hold)
    assert {each.line for each in found} == set(flight.hold)
    places = {each.line.id: each.place for each in found}
    assert places["axe"] == "bottom"
    assert places["helmet"] == places[person.bag.id] == "middle"
    assert places["head-torch"] == places["rain-jacket"] == "top"
    order = [each.place for each in found]
    assert order == sorted(order, key=["bottom", "middle", "top"].index)
