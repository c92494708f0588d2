"""What legs, the caution and the weather's sources say, in a sentence each."""

from caldarium.core.plan.course import Course
from caldarium.core.plan.legs import Stage
from caldarium.core.plan.weather_sources import TYPED_SPREAD
from caldarium.core.timeline.hour_table import HourFigures
from caldarium.core.timeline.moments import Timeline
from caldarium.core.timeline.weather import TYPED, deviations
from caldarium.words.course import counted
from caldarium.words.outline import offset_text
from caldarium.words.units import Display, clock_text


def leg_sentence(stage: Stage, display: Display) -> str:
    """When a leg is walked, how fast, how steep, and with how many halts.

    Source: core.plan.legs.
    """
    told = f"{clock_text(stage.start)} to {clock_text(stage.end)}"
    walk = stage.walk
    if walk is None:
        return told
    told += f", {display.pace(walk.speed)}, {walk.slope:.0f} %"
    if walk.halts:
        told += f", {counted(walk.halts, 'halt')}"
    return told


def caution_sentence(course: Course, display: Display) -> str:
    """What the chosen caution adds to the conditions.

    Source: the course's spread.
    """
    if course.caution == "as forecast":
        return "as forecast: nothing added"
    spread = course.spread
    shift = spread.cautious if course.caution == "cautious" else spread.expedition
    rain = ""
    if shift.precipitation_factor > 1:
        rain = f", rain × {shift.precipitation_factor:g}"
    elif shift.precipitation_mm:
        rain = f", rain +{display.rain(shift.precipitation_mm)}"
    sources = ""
    if any(source.used for source in course.sources):
        sources = f"; forecasts {deviations(course):g} standard deviations"
    return (
        f"{course.caution}: low {display.difference(shift.low_k, 1)}, "
        f"high {display.difference(shift.high_k, 1)}, wind +{display.wind(shift.wind_ms)}{rain}"
        f"{sources}"
    )


def source_sentences(course: Course, timeline: Timeline, display: Display) -> list[str]:
    """Which source rules how many of the course's hours, and what is missing.

    Source: the timeline.
    """
    ruling = timeline.hours.source
    whole = len(ruling)
    found: list[str] = []
    for place, source in enumerate(course.sources):
        hours = int((ruling == place).sum())
        missing = [
            name
            for name, values in (
                ("gusts", source.gust_ms),
                ("rain", source.precipitation_mm),
                ("humidity", source.humidity_pct),
                ("cloud", source.cloud_pct),
            )
            if not values or None in values
        ]
        words = f"rules {hours} of {whole} h" if source.used else "set aside"
        if source.used and not hours:
            words = "rules no hour: another stands before it, or it knows other days"
        if source.issued is not None:
            words += f"; issued {source.issued:%a %-d %b %H:%M} {offset_text(course.place)}"
        words += f"; for {display.altitude(source.altitude_m)}"
        if source.members:
            words += f"; {len(source.members)} runs"
        if missing:
            words += f"; without {', '.join(missing)} for some hours"
        found.append(words)
    typed = int((ruling == TYPED).sum())
    found.append(f"typed conditions rule {typed} of {whole} h, {course.conditions_source}")
    return found


def hint_words(hour: HourFigures, display: Display) -> str:
    """Dew, frost or cloud at an hour; empty where the figures hint at none.

    Source: core.timeline.hour_table.
    """
    match hour.hint:
        case None:
            return ""
        case "low cloud":
            return f"cloud from {display.altitude(hour.cloud_base)}"
        case told:
            return told


def spread_source(course: Course, display: Display) -> str:
    """Where a course's cautions come from. Source: the course."""
    if course.spread.source != TYPED_SPREAD.source:
        return course.spread.source
    air, wind = (-TYPED_SPREAD.cautious.low_k, TYPED_SPREAD.cautious.wind_ms)
    return (
        f"judgement: one and two standard deviations of {display.difference(air, 1)} and "
        f"{display.wind(wind)}"
    )
