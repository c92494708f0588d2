"""How a course's times, weather and hourly figures came about, line by line."""

import math

from caldarium.core.physics.air import PSYCHROMETER, RAIN_ABOVE, SNOW_BELOW
from caldarium.core.physics.sky import CLOUD_BASE, UV_RISE
from caldarium.core.plan.course import Course
from caldarium.core.plan.legs import Stage, climb_and_fall
from caldarium.core.plan.track import STEP, THRESHOLD, WINDOW
from caldarium.core.timeline.hour_table import HourFigures
from caldarium.core.timeline.weather import ERROR_GROWTH, deviations, planned_shift
from caldarium.words.steps import Step
from caldarium.words.units import Display, hours_text
from caldarium.words.weather import hint_words, spread_source


def explain_legs(stages: tuple[Stage, ...], display: Display) -> list[Step]:
    """Steps behind the times of a day's legs.

    Source: core.plan.legs.
    """
    steps: list[Step] = []
    for stage in stages:
        leg, walk = stage.leg, stage.walk
        name = leg.title or leg.kind
        if walk is None:
            steps.append(Step(name, hours_text(stage.end - stage.start), "as typed", "the plan"))
            continue
        climb, fall = climb_and_fall(leg, stage.from_altitude)
        halts = walk.halts * leg.halt_min / 60
        up, down = display.altitude(climb), display.altitude(fall)
        formula = (
            "as typed"
            if leg.hours is not None
            else (
                f"{display.distance(leg.distance_km)} at {display.pace(leg.pace_kmh / 3.6)}, "
                f"{up} up at {display.altitude(600)} an hour, {down} down"
            )
        )
        source = "the plan" if leg.hours is not None else "Naismith 1892; Langmuir 1984"
        walking = stage.end - stage.start - halts
        steps.append(Step(f"{name}, walking", hours_text(walking), formula, source))
        steps.append(
            Step(
                f"{name}, slope",
                f"{walk.slope:.0f} %",
                f"({up} up + {down} down) / {display.distance(leg.distance_km)}, "
                f"{walk.climbing:.0%} of it up",
                "its power: Looney 2019, Pandolf 1977",
            )
        )
    return steps


def explain_caution(course: Course, display: Display) -> list[Step]:
    """Steps behind what the course's caution adds.

    Source: core.timeline.weather.
    """
    shift, sd = planned_shift(course), deviations(course)
    air, wind, rain = ERROR_GROWTH
    return [
        Step(
            "typed days, low",
            display.difference(shift.low_k, 1),
            "added to the low",
            spread_source(course, display),
        ),
        Step(
            "typed days, wind",
            display.wind_change(shift.wind_ms),
            "added to the wind",
            spread_source(course, display),
        ),
        Step(
            "forecasts",
            f"k = {sd:g}",
            "standard deviations of the spreads below, by days since issue",
            "judgement",
        ),
        Step(
            "spread of air",
            display.difference(air.first, 1),
            f"and {display.difference(air.a_day, 1)} a day, at most "
            f"{display.difference(air.most, 1)}",
            "judgement",
        ),
        Step(
            "spread of wind",
            display.wind(wind.first, 1),
            f"and {display.wind(wind.a_day, 2)} a day, at most {display.wind(wind.most, 1)}",
            "judgement",
        ),
        Step(
            "spread of rain",
            f"{rain.first:.0%}",
            f"and {rain.a_day:.0%} a day, at most {rain.most:.0%}",
            "judgement",
        ),
        Step(
            "ensembles",
            f"k = {sd:g}",
            "as a percentile of the runs at each hour: Φ(−k) of air, Φ(k) of wind and rain",
            "the normal distribution",
        ),
    ]


def explain_hour(hour: HourFigures, display: Display) -> list[Step]:
    """Steps behind the figures of one hour of the table.

    Source: the functions of core.physics: air, wind, heat and sky.
    """
    rows = [
        (
            "air",
            hour.air,
            display.temperature(hour.air, 1),
            f"{hour.source}, at the chosen caution, carried by the lapse",
            "ISO 2533; Parton & Logan 1981 for typed days",
        ),
        (
            "wind",
            hour.wind,
            display.wind(hour.wind, 1),
            f"at {display.altitude(10)}, times the exposure's factor",
            "the source; exposure factors: judgement",
        ),
        (
            "humidity",
            hour.humidity,
            f"{hour.humidity:.0f} %",
            "constant mixing ratio from the source's height, stops at 100 %",
            "WMO-No. 8",
        ),
        (
            "dew point",
            hour.dew_point,
            display.temperature(hour.dew_point, 1),
            "Magnus form, inverted",
            "Alduchov & Eskridge 1996",
        ),
        (
            "wet bulb",
            hour.wet_bulb,
            display.temperature(hour.wet_bulb, 1),
            f"psychrometric equation with {PSYCHROMETER:g} /K",
            "WMO-No. 8",
        ),
        (
            "what falls",
            hour.precipitation,
            f"{display.rain(hour.precipitation)}/h",
            f"snow under a wet bulb of {display.temperature(SNOW_BELOW, 1)}, rain above "
            f"{display.temperature(RAIN_ABOVE, 1)}, sleet between",
            "judgement",
        ),
        (
            "wind chill",
            hour.wind_chill,
            display.temperature(hour.wind_chill, 1),
            "of exposed skin",
            "Osczevski & Bluestein 2005",
        ),
        (
            "frostbite",
            hour.frostbite,
            f"{hour.frostbite:.0f} min",
            "bare skin, most susceptible twentieth",
            "Environment Canada 2001",
        ),
        (
            "heat index",
            hour.heat_index,
            display.temperature(hour.heat_index, 1),
            "regression with two adjustments",
            "Rothfusz 1990, US NWS",
        ),
        (
            "WBGT",
            hour.wet_bulb_globe,
            display.temperature(hour.wet_bulb_globe, 1),
            "0.567 T + 0.393 e + 3.94, sun and light wind",
            "Australian Bureau of Meteorology",
        ),
        (
            "pressure",
            hour.pressure,
            f"{hour.pressure:.1f} kPa",
            "standard atmosphere",
            "ISO 2533:1975",
        ),
        (
            "water boils",
            hour.boiling,
            display.temperature(hour.boiling, 1),
            "saturation line at that pressure",
            "IAPWS SR1-86",
        ),
        (
            "night sky",
            hour.sky,
            display.temperature(hour.sky, 1),
            "0.741 + 0.0062 × dew point as emissivity, cloud closes it",
            "Berdahl & Martin 1984; cloud: judgement",
        ),
        (
            "UV over sea level",
            hour.uv,
            f"{hour.uv:.2f}",
            f"1 + {UV_RISE:g} for each {display.altitude(1000)}",
            "WHO 2002",
        ),
    ]
    steps = [
        Step(name, text if math.isfinite(value) else "no figure here", formula, source)
        for name, value, text, formula, source in rows
    ]
    hint = (
        "dew or frost by dew-point spread in calm clear dark; cloud "
        f"{display.altitude(CLOUD_BASE)} for each {display.difference(1, 1)}"
    )
    return [
        *steps,
        Step("hint", hint_words(hour, display) or "none", hint, "Espy's rule; limits: judgement"),
    ]


def explain_way(found: dict[str, float], display: Display) -> list[Step]:
    """Steps behind the totals of a recorded way.

    Source: core.plan.track.
    """
    smooth = (
        f"heights every {display.altitude(1000 * STEP)}, running median and mean of {WINDOW}, "
        f"turns of {display.altitude(THRESHOLD)} and more"
    )
    return [
        Step("up", display.altitude(found["climb"]), smooth, "widths and threshold: judgement"),
        Step("down", display.altitude(found["fall"]), smooth, "widths and threshold: judgement"),
        Step(
            "up, raw",
            display.altitude(found["raw_climb"]),
            "every rise from point to point",
            "the file",
        ),
        Step(
            "down, raw",
            display.altitude(found["raw_fall"]),
            "every fall from point to point",
            "the file",
        ),
    ]


def explain_chances(runs: int) -> list[Step]:
    """Steps behind the chance of a gap.

    Source: core.what_if.compare.
    """
    formula = "runs in which the person has a gap there, each assessed whole, no added caution"
    return [Step("chance", f"of {runs}", formula, "the ensemble; ISO 11079")]
