"""The what-if dial: the same course colder, windier, wetter, higher, slower, held longer."""

from pydantic import Field

from caldarium.core.plan.course import Course
from caldarium.core.plan.legs import stages, walking_hours
from caldarium.core.plan.route import STILL
from caldarium.core.plan.value import Value
from caldarium.core.plan.weather_sources import Conditions, Hourly

LOWEST, HIGHEST = -400.0, 8000.0


class Dial(Value):
    """How much worse than the plan to look at; all zero is the plan itself."""

    colder: float = Field(default=0, ge=-20, le=30, description="[K]")
    windier: float = Field(default=0, ge=-10, le=25, description="[m/s at 10 m]")
    wetter: float = Field(default=0, ge=0, le=100, description="[mm a day]")
    higher: float = Field(default=0, ge=-1000, le=3000, description="[m]")
    slower: float = Field(default=0, ge=-30, le=100, description="[% more time]")
    held: float = Field(default=0, ge=-3, le=20, description="[h longer]")

    @property
    def turned(self) -> bool:
        """Whether anything differs from the plan. Source: none, bookkeeping."""
        return any(value for _, value in self)


def turned(course: Course, dial: Dial) -> Course:
    """The course as the dial makes it; the course itself is not changed.

    Args:
        course: the plan.
        dial: how much worse.

    Returns:
        Another course.

    Raises:
        ValueError: where the turned course cannot be walked.

    Source: none, arithmetic.
    """
    if not dial.turned:
        return course
    days = tuple(
        day.altered(
            conditions=_conditions(day.conditions, dial),
            legs=tuple(
                stage.leg.altered(
                    to_altitude_m=_height(stage.leg.to_altitude_m, dial),
                    points=() if dial.higher else stage.leg.points,
                    hours=stage.leg.hours
                    if stage.leg.kind in STILL or not dial.slower
                    else walking_hours(stage.leg, stage.from_altitude) * (1 + dial.slower / 100),
                )
                for stage in stages(day, start)
            ),
        )
        for day, start in zip(course.days, course.starts, strict=True)
    )
    return course.altered(
        days=days,
        start_altitude_m=_height(course.start_altitude_m, dial),
        hold_h=min(max(course.hold_h + dial.held, 0.5), 24.0),
        sources=tuple(_source(source, dial) for source in course.sources),
    )


def _height(metres: float, dial: Dial) -> float:
    return min(max(metres + dial.higher, LOWEST), HIGHEST)


def _conditions(here: Conditions, dial: Dial) -> Conditions:
    return here.altered(
        high_c=min(max(here.high_c - dial.colder, -60.0), 50.0),
        low_c=min(max(here.low_c - dial.colder, -60.0), 50.0),
        wind_ms=min(max(here.wind_ms + dial.windier, 0.0), 60.0),
        precipitation_mm=here.precipitation_mm + dial.wetter,
    )


def _source(source: Hourly, dial: Dial) -> Hourly:
    def moved(
        values: tuple[float | None, ...], by: float, low: float, high: float
    ) -> tuple[float | None, ...]:
        return tuple(None if v is None else min(max(v + by, low), high) for v in values)

    rain = dial.wetter / 24
    members = tuple(
        member.altered(
            air_c=moved(member.air_c, -dial.colder, -80, 60),
            wind_ms=moved(member.wind_ms, dial.windier, 0, 90),
            precipitation_mm=moved(member.precipitation_mm, rain, 0, 200),
        )
        for member in source.members
    )
    return source.altered(
        air_c=moved(source.air_c, -dial.colder, -80, 60),
        wind_ms=moved(source.wind_ms, dial.windier, 0, 90),
        gust_ms=moved(source.gust_ms, dial.windier * 1.5, 0, 90),
        precipitation_mm=moved(source.precipitation_mm, rain, 0, 200),
        members=members,
    )
