"""Courses of every kind that people plan, from the demo and from nothing, for whole pages."""

from collections.abc import Callable
from datetime import date

from caldarium.catalogue import load_catalogue
from caldarium.core.plan.changes import pitch, plan_night, with_days
from caldarium.core.plan.course import Course, Person, Place
from caldarium.core.plan.kit import Bedding, OtherBed
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


KINDS: dict[str, Callable[[], Course]] = {
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
