"""What nights bring to where people lie: air, wind, sky, ground and what falls, hour by hour."""

from dataclasses import dataclass

import numpy as np

from caldarium.core.physics.air import dew_point, precipitation_kind, saturation_pressure
from caldarium.core.physics.quantities import Array
from caldarium.core.physics.sky import cloud_guessed, sky_temperature
from caldarium.core.physics.wind import EXPOSURES, wind_at_height
from caldarium.core.plan.course import Course
from caldarium.core.plan.route import Camp
from caldarium.core.timeline.moments import Moment, Timeline

TIMES_A_NIGHT = 21
GROUND_HOURS = 5.0
"""Hours by which the ground under a bed follows the air: judgement; soil physics has a few hours
for its first centimetres."""
COLDEST_DEW, WARMEST_DEW = -20.0, 30.0
"""Dew points between which the emissivity of the sky is known [°C]."""
SNOW_MELTS = 0.25
"""Share of dry snow that melts into what it lies on: judgement, as by day."""


@dataclass(frozen=True)
class Site:
    """N nights where people lie, at T times each: the planning low first, then from bedtime to
    rising.

    hour on the course's clock, air, sky as it radiates, and the air that the ground answers to,
    later than the air itself [°C]; wind where people lie in the open and humidity [m/s, %]; water
    fallen since bedtime, of snow what melts [mm].
    """

    nights: tuple[Moment, ...]
    hour: Array
    air: Array
    wind: Array
    sky: Array
    lagging: Array
    fallen: Array

    @property
    def planned(self) -> Array:
        """Planning low of each night [°C]. Source: core.timeline."""
        return self.air[:, 0]


def site_of(course: Course, timeline: Timeline) -> Site:
    """Nights of a course as its camps meet them.

    Args:
        course: for what stands round its camps.
        timeline: its hours and moments.

    Returns:
        The nights; the planning low is that of the course's coldest hour, at its own wind.

    Source: core.timeline; sky by Berdahl & Martin (1984), cloud guessed where it is not known.
    """
    nights = tuple(moment for moment in timeline.moments if moment.kind == "night")
    hours = timeline.hours
    starts = np.array([night.start for night in nights])[:, None]
    ends = np.array([night.end for night in nights])[:, None]
    at = np.array([night.at for night in nights])[:, None]
    hour = np.hstack([at, starts + (ends - starts) * np.linspace(0.0, 1.0, TIMES_A_NIGHT)])
    air = np.interp(hour, hours.hour, hours.air)
    lagging = np.interp(hour, hours.hour, followed(hours.air))
    low = np.array([night.air for night in nights])
    if nights:
        lagging[:, 0] += low - air[:, 0]
        air[:, 0] = low
    vapour = hours.humidity / 100 * saturation_pressure(hours.air)
    dew = np.clip(dew_point(np.maximum(vapour, 1e-4)), COLDEST_DEW, WARMEST_DEW)
    cloud = cloud_guessed(hours.cloud, hours.humidity, hours.precipitation)
    pull = np.interp(hour, hours.hour, hours.air - sky_temperature(hours.air, dew, cloud))
    blown = np.interp(hour, hours.hour, hours.wind)
    camps = [course.days[night.day].camp or Camp() for night in nights]
    roughness = np.array([[EXPOSURES[camp.exposure].roughness] for camp in camps])
    melts = np.where(
        (precipitation_kind(hours.wet_bulb) == "snow") & (hours.air < -2.0), SNOW_MELTS, 1.0
    )
    total = np.concatenate([[0.0], np.cumsum(hours.precipitation * melts)])
    clock = np.append(hours.hour, hours.hour[-1] + 1)
    fallen = np.interp(hour, clock, total) - np.interp(starts, clock, total)
    wind = wind_at_height(blown, roughness) if nights else blown
    return Site(nights, hour, air, wind, air - pull, lagging, np.maximum(fallen, 0.0))


def followed(air: Array) -> Array:
    """Hourly air as the ground's surface follows it, GROUND_HOURS behind [°C].

    Source: first-order lag; the hours are judgement.
    """
    found = air.copy()
    for hour in range(1, len(air)):
        found[hour] = found[hour - 1] + (air[hour] - found[hour - 1]) / GROUND_HOURS
    return found
