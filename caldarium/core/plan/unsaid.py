"""What nobody has said of a course, so that a default is in force."""

from dataclasses import dataclass
from typing import Literal

from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.legs import SET_OUT
from caldarium.core.plan.weather_sources import Conditions

Step = Literal[
    "course",
    "weather",
    "day",
    "night",
    "shelter",
    "load",
    "lighten",
    "pack",
    "check",
    "log",
    "debrief",
]
Matter = Literal[
    "sleeper",
    "fitness",
    "breadth",
    "cloud",
    "humidity",
    "hours of rain",
    "start",
    "water",
    "group kit",
    "bottles",
    "pack",
]
ORDINARY = Conditions(high_c=0, low_c=0, wind_ms=0)
"""A day's weather with everything else as it is where nobody says."""


@dataclass(frozen=True)
class Unsaid:
    """A matter nobody has spoken of: the step where it is said, and the days or the people that it
    is about, both empty where it is about the whole course."""

    matter: Matter
    step: Step
    days: tuple[int, ...] = ()
    people: tuple[str, ...] = ()


def unsaid(course: Course) -> tuple[Unsaid, ...]:
    """Everything of a course that rests on a default and that its user may know better.

    Args:
        course: the plan.

    Returns:
        What is unsaid, in the order of work. What was typed counts as said, whatever it says.

    Source: none, bookkeeping.
    """
    return (*_of_people(course), *_of_weather(course), *_of_ways(course), *_of_kit(course))


def _of_people(course: Course) -> list[Unsaid]:
    def silent(name: str) -> tuple[str, ...]:
        """People whose figure is the model's own and was typed by nobody."""
        default = Person.model_fields[name].default
        return tuple(
            person.id
            for person in course.people
            if getattr(person, name) == default
            and f"people.{person.id}.{name}" not in course.as_typed
        )

    about: list[tuple[Matter, Step, tuple[str, ...]]] = [
        ("sleeper", "night", silent("sleeper_index")),
        ("fitness", "day", silent("uptake_ml")),
        ("breadth", "night", silent("shoulder_cm")),
        ("bottles", "load", silent("containers_l")),
    ]
    return [Unsaid(matter, step, people=who) for matter, step, who in about if who]


def _of_weather(course: Course) -> list[Unsaid]:
    if any(source.used for source in course.sources):
        return []
    days = list(enumerate(day.conditions for day in course.days))

    def typed(day: int, name: str) -> bool:
        return f"days.{day}.conditions.{name}" in course.as_typed

    cloud = tuple(day for day, sky in days if sky.cloud_pct is None)
    humidity = tuple(
        day
        for day, sky in days
        if sky.humidity_pct == ORDINARY.humidity_pct and not typed(day, "humidity_pct")
    )
    hours = tuple(
        day
        for day, sky in days
        if sky.precipitation_mm > 0
        and (sky.rain_from_h, sky.rain_hours) == (ORDINARY.rain_from_h, ORDINARY.rain_hours)
        and not typed(day, "rain_hours")
    )
    about: list[tuple[Matter, tuple[int, ...]]] = [
        ("cloud", cloud),
        ("humidity", humidity),
        ("hours of rain", hours),
    ]
    return [Unsaid(matter, "weather", days=which) for matter, which in about if which]


def _of_ways(course: Course) -> list[Unsaid]:
    walked = [(at, day) for at, day in enumerate(course.days) if day.legs]
    start = tuple(at for at, day in walked if day.legs[0].start_h in (None, SET_OUT))
    start = tuple(at for at in start if f"days.{at}.start" not in course.as_typed)
    dry = tuple(at for at, day in walked if not any(leg.water for leg in day.legs))
    about: list[tuple[Matter, tuple[int, ...]]] = [("start", start), ("water", dry)]
    return [Unsaid(matter, "weather", days=which) for matter, which in about if which]


def _of_kit(course: Course) -> list[Unsaid]:
    found = [] if course.group else [Unsaid("group kit", "load")]
    without = tuple(
        person.id
        for person in course.people
        if person.rucksack.main_l is None
        and not any(item.kind == "pack" and item.capacity_l for item in person.on_back)
    )
    return [*found, Unsaid("pack", "pack", people=without)] if without else found
