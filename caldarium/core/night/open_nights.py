"""Nights without a shelter: who spends them, what reaches them, and whether that was meant."""

from dataclasses import dataclass
from typing import Literal

from caldarium.core.night.camp import night_hours
from caldarium.core.plan.course import Course
from caldarium.core.plan.findings import Finding
from caldarium.core.timeline.moments import Timeline, planning_gust

OpenReason = Literal["rain", "snow", "wind", "cold", "insects"]
"""What reaches people without a shelter. Figures: fallen [mm]; gust [m/s]; low [°C]."""
Reached = Finding[OpenReason]
DRY, LIGHT_GUST, MILD = 0.2, 8.0, 5.0
"""Rain or snow [mm] up to which, gust [m/s] up to which and low [°C] from which a night under the
open sky needs no word: judgement."""


@dataclass(frozen=True)
class OpenNight:
    """A night that some spend without a shelter: who, whether the plan says so, and what reaches
    them."""

    day: int
    people: tuple[str, ...]
    planned: bool
    reasons: tuple[Reached, ...]

    @property
    def fit(self) -> bool:
        """Whether nothing reaches them, or the plan means it. Source: the course's own word."""
        return self.planned or not self.reasons


def open_nights(course: Course, timeline: Timeline) -> list[OpenNight]:
    """Every night that somebody spends without a shelter.

    Args:
        course: the plan.
        timeline: its hours.

    Returns:
        Nights in order; who lies in a cover is dry, and hears of wind, cold and insects only.

    Source: DRY, LIGHT_GUST, MILD, judgement.
    """
    found: list[OpenNight] = []
    places = (plan.shelter for person in course.people for plan in (person, *person.nights))
    if all(places):
        return found
    for hours in night_hours(course, timeline):
        night = hours.night
        people = [person for person in hours.course.people if person.shelter is None]
        if not people:
            continue
        camp = course.days[night.day].camp
        bare = any(person.bedding.cover is None for person in people)
        gust, rain, snow = planning_gust(night), float(hours.rain.sum()), float(hours.snow.sum())
        told: list[tuple[bool, Reached]] = [
            (bare and rain > DRY, Finding("rain", figures=(rain,))),
            (bare and snow > DRY, Finding("snow", figures=(snow,))),
            (gust > LIGHT_GUST, Finding("wind", figures=(gust,))),
            (night.air < MILD, Finding("cold", figures=(night.air,))),
            (camp is not None and camp.insects, Finding("insects")),
        ]
        found.append(
            OpenNight(
                day=night.day,
                people=tuple(person.id for person in people),
                planned=camp is not None and camp.bivouac,
                reasons=tuple(reason for so, reason in told if so),
            )
        )
    return found
