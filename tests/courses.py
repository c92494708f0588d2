"""Courses of every kind that people plan, from the demo and from nothing, for whole pages."""

from collections.abc import Callable
from datetime import date
from typing import Any

from caldarium.catalogue import load_catalogue
from caldarium.core.plan.changes import pitch, plan_night, with_days
from caldarium.core.plan.course import Cache, Course, Person, Place
from caldarium.core.plan.kit import Bedding, GroupKit, Helper, Item, LegEnd, OtherBed
from caldarium.core.plan.provisions import Dish, Provisions
from caldarium.core.plan.route import Camp, Day, Leg
from caldarium.core.plan.weather_sources import Conditions
from caldarium.demo import demo_course

SHRINKS = {"overrules": (), "items": (), "garments": (), "pads": (), "bag": None, "shelter": None}


def from_nothing(
    *,
    days: int = 1,
    people: int = 1,
    kit: str | None = "three-season",
    high: float = 12.0,
    low: float = 2.0,
    wind: float = 4.0,
    rain: float = 0.0,
    latitude: float = 61.0,
    start: date = date(2031, 9, 14),
    altitude: float = 600.0,
    legs: bool = True,
    camp: bool = True,
) -> Course:
    """A course as the page for a new one makes it: no group kit, no shelters, nothing typed."""
    way = (
        Leg(id="up", kind="ascent", distance_km=5, to_altitude_m=altitude + 300, start_h=8.5),
        Leg(id="down", kind="descent", distance_km=5, to_altitude_m=altitude),
    )
    conditions = Conditions(high_c=high, low_c=low, wind_ms=wind, precipitation_mm=rain)
    day = Day(conditions=conditions, legs=way if legs else (), camp=Camp())
    last = day if camp else day.altered(camp=None)
    pieces = load_catalogue().kit(kit) if kit else {}
    return Course(
        name="Made from nothing",
        place=Place(name="Somewhere", latitude=latitude, longitude=15, utc_offset_h=1),
        start=start,
        start_altitude_m=altitude,
        conditions_altitude_m=altitude,
        days=(*(day,) * (days - 1), last),
        people=tuple(
            Person(
                id=f"person-{at}", name=f"Person {at}", body_mass_kg=55 + at, height_m=1.7, **pieces
            )
            for at in range(1, people + 1)
        ),
    )


def _bare(course: Course, **parts: object) -> Course:
    """The course with everybody stripped of some things."""
    people = tuple(each.altered(**parts, bedding=Bedding()) for each in course.people)
    used = {each.shelter for each in people}
    shelters = tuple(each for each in course.shelters if each.id in used)
    return course.altered(people=people, shelters=shelters, sleep_rules=(), group=(), caches=())


def _weathered(course: Course, high: float, low: float, wind: float) -> Course:
    days = tuple(
        day.altered(
            conditions=day.conditions.altered(
                high_c=high, low_c=low, wind_ms=wind, precipitation_mm=0
            )
        )
        for day in course.days
    )
    return course.altered(days=days, sources=())


def _no_way(course: Course) -> Course:
    """Rest days at one camp, however long."""
    days = tuple(day.altered(legs=(), camp=day.camp or Camp()) for day in course.days)
    return _bare(course).altered(
        days=days, as_typed={}, people=tuple(each.altered(overrules=()) for each in course.people)
    )


def nights_apart() -> Course:
    """The demo with a hut, a lent bed, a bivouac in which beds of their own wait, a shared bed, a
    hammock, and a camp in a hollow."""
    shelves, course = load_catalogue(), demo_course()
    hut = shelves.shelters["plain-hut"]
    lent = OtherBed(bag=shelves.bags["quilt-0"], lent=True)
    light = OtherBed(bag=shelves.bags["quilt-plus-8"], own_waits=True)
    for person in course.people[:4]:
        course = pitch(course, person.id, hut if person is course.people[0] else "plain-hut", 1)
    course = plan_night(course, course.people[0].id, 1, "plain-hut", lent)
    for person in course.people[:2]:
        course = plan_night(course, person.id, 2, None, light)
        course = plan_night(course, person.id, 3, course.people[4].shelter, None)
    pair = OtherBed(
        bag=None, bedding=Bedding(beside=course.people[6].id, cover=shelves.covers["foil-bag"])
    )
    course = plan_night(course, course.people[5].id, 2, course.people[6].shelter, pair)
    hung = OtherBed(bedding=Bedding(hammock=shelves.hammocks["hammock-three-quarter"]))
    course = plan_night(course, course.people[7].id, 0, None, hung)
    days = [
        day.altered(camp=day.camp.altered(hollow_k=4, slope_deg=6, bivouac=at == 2))
        if day.camp
        else day
        for at, day in enumerate(course.days)
    ]
    return with_days(course, days)


def glacier_peak() -> Course:
    """Four people, eight days, from +28 °C to -24 °C, with all that a big trip has: caches, a mule,
    snow camps, boots that wait on the way, a rope left and fetched again, a menu, a flight."""
    weather = (
        (28, 14),
        (22, 8),
        (12, 0),
        (4, -8),
        (-6, -18),
        (-10, -24),
        (-4, -16),
        (20, 6),
    )
    heights = (1400, 2200, 3000, 3800, 4600, 5200, 3800, 1400)
    days: list[Day] = []
    before = 800.0
    for at, ((high, low), to) in enumerate(zip(weather, heights, strict=True)):
        snow = to > 3500
        leg = Leg(
            id=f"way-{at}",
            kind="ascent" if to > before else "descent",
            distance_km=6 if to > before else 9,
            to_altitude_m=to,
            start_h=7,
            terrain="snow" if snow else "track",
            water=not snow,
        )
        camp = Camp(ground="snow" if snow else "dry", water=not snow, exposure="open")
        conditions = Conditions(high_c=high, low_c=low, wind_ms=5 if snow else 2)
        last = at + 1 == len(weather)
        days.append(Day(conditions=conditions, legs=(leg,), camp=None if last else camp))
        before = to
    shelves = load_catalogue()
    low_down, high_up = LegEnd(day=1, leg="way-1"), LegEnd(day=3, leg="way-3")
    people = tuple(
        Person(
            id=name,
            name=name.capitalize(),
            body_mass_kg=60 + 6 * at,
            height_m=1.66 + 0.05 * at,
            water_l=1.5,
            containers_l=2,
            fuel_g_a_day=60,
            **_hired(shelves.kit("expedition"), low_down),
        )
        for at, name in enumerate(("ana", "boro", "cilka", "drago"))
    )
    rope = Item(
        id="rope",
        name="rope",
        kind="snow and technical",
        mass_g=3200,
        purpose="safety",
        left_at=high_up,
        waits_at=LegEnd(day=6, leg="way-6"),
    )
    tent = Item(id="base-tent", name="table and chairs", mass_g=9000, purpose="comfort", on="mule")
    people = (people[0].altered(items=(*people[0].items, rope, tent)), *people[1:])
    return Course(
        name="An invented glacier peak",
        place=Place(name="Somewhere high", latitude=42.6, longitude=77.1, utc_offset_h=6),
        start=date(2031, 7, 3),
        start_altitude_m=800,
        conditions_altitude_m=2200,
        days=tuple(day.altered(conditions=day.conditions.altered(cloud_pct=20)) for day in days),
        people=people,
        shelters=(shelves.shelters["tunnel-3"].altered(id="one"),),
        group=(
            GroupKit(
                id="can",
                name="large can",
                kind="fuel",
                mass_g=600,
                net_g=450,
                number=2,
                purpose="food and water",
                fly="never",
                carriers=("mule", "boro"),
                by_hand=(True, True),
            ),
            GroupKit(id="probe", name="probe", mass_g=290, number=2, apart=True, purpose="safety"),
        ),
        helpers=(Helper(id="mule", name="the mule", kind="animal", limit_kg=60),),
        caches=(Cache(day=3, leg="way-3", rations=2), Cache(day=6, leg="way-6", rations=0.5)),
        provisions=Provisions(
            stove="liquid",
            pot_l=3,
            menu=(
                Dish(id="soup", name="soup", meal="dinner", mass_g=180, kcal=650, cooked=True),
                Dish(id="bars", name="bars", meal="on the way", mass_g=250, kcal=1150),
                Dish(id="oats", name="oats", meal="breakfast", mass_g=140, kcal=540, cooked=True),
            ),
        ),
        hold_kg=23,
        cabin_kg=8,
    )


def _hired(kit: dict[str, Any], there: LegEnd) -> dict[str, Any]:
    """A set whose double boots and warmest jacket wait on the way, with light shoes until then."""
    waiting = ("double-boots", "expedition-down-jacket")
    garments = tuple(
        each.altered(waits_at=there) if each.id in waiting else each for each in kit["garments"]
    )
    shoes = load_catalogue().garments["trail-shoes"]
    return kit | {"garments": (*garments, shoes)}


KINDS: dict[str, Callable[[], Course]] = {
    "glacier peak": glacier_peak,
    "the demo": demo_course,
    "demo, deep winter": lambda: demo_course("deep-winter"),
    "demo, high plateau": lambda: demo_course("high-plateau"),
    "demo, hot canyon": lambda: demo_course("hot-canyon"),
    "one person from nothing": from_nothing,
    "six people, three days": lambda: from_nothing(days=3, people=6, rain=9),
    "one day and home": lambda: from_nothing(camp=False),
    "no kit at all": lambda: from_nothing(kit=None, days=2),
    "a rest day only": lambda: from_nothing(legs=False, days=2),
    "hot canyon": lambda: from_nothing(high=38, low=24, wind=1, days=2, kit="three-season"),
    "deep winter": lambda: from_nothing(high=-22, low=-36, wind=9, days=3, people=2),
    "at the edge of cold": lambda: from_nothing(high=-55, low=-60, wind=30),
    "high equals low": lambda: from_nothing(high=5, low=5),
    "polar night": lambda: from_nothing(latitude=78, start=date(2031, 12, 21), low=-20, high=-12),
    "midnight sun": lambda: from_nothing(latitude=78, start=date(2031, 6, 21)),
    "at the pole": lambda: from_nothing(latitude=90, start=date(2031, 3, 20), low=-30, high=-25),
    "very high": lambda: from_nothing(altitude=7000, high=-15, low=-30, kit="three-season"),
    "still warm air, nobody in trouble": lambda: _weathered(demo_course(), 19, 17, 0.5),
    "everybody in trouble": lambda: _weathered(demo_course(), -20, -35, 25),
    "the demo without group kit": lambda: demo_course().altered(group=()),
    "the demo without beds": lambda: _bare(demo_course(), bag=None, pads=()),
    "the demo without shelters": lambda: _bare(demo_course(), shelter=None),
    "the demo stripped": lambda: _bare(demo_course(), **SHRINKS),
    "the demo alone": lambda: _bare(
        demo_course().altered(
            people=demo_course().people[:1],
            sleep_rules=(),
            group=(),
            shelters=tuple(
                each
                for each in demo_course().shelters
                if each.id == demo_course().people[0].shelter
            ),
        )
    ),
    "nights apart": nights_apart,
    "nobody walks": lambda: _no_way(demo_course()),
    "longest and largest": lambda: from_nothing(days=21, people=40),
}
