"""What happened, in words: readings, nights against the forecast, the diary."""

from collections.abc import Sequence
from datetime import timedelta

from caldarium.core.log.odd import JUMP_K, STUCK_H, SUN_K, OddReason
from caldarium.core.log.readings import LONG_GAP_H
from caldarium.core.log.right import BAND, BAND_SDS, Low
from caldarium.core.plan.course import Course
from caldarium.core.plan.findings import Finding
from caldarium.core.plan.log import STEP_MIN, Felt, Fingers, Thermometer, Vented, What, Where
from caldarium.words.course import counted, weekday
from caldarium.words.night import shelter_label
from caldarium.words.steps import Step
from caldarium.words.units import Display, clock_text, hours_text

FELT_NAMES: dict[Felt, str] = {
    "cold": "cold",
    "cool": "cool",
    "right": "right",
    "warm": "warm",
    "hot": "hot",
}
SLEPT_NAMES: dict[Felt, str] = {
    "cold": "cold",
    "cool": "cool",
    "right": "right",
    "warm": "too warm",
}
"""Answers of a night; hot is of the day alone."""
FINGERS_NAMES: dict[Fingers, str] = {"fine": "fine", "cold": "cold", "numb": "numb"}
VENT_NAMES: dict[Vented, str] = {
    "as planned": "as planned",
    "open": "open all night",
    "closed": "closed all night",
}
WHAT_NAMES: dict[What, str] = {
    "unused": "never used",
    "missed": "missed",
    "failed": "failed",
    "borrowed": "borrowed",
    "wished": "wished for",
}
WHERE_NAMES: dict[Where, str] = {
    "nowhere": "not said yet",
    "outside": "outside at camp",
    "shelter": "in a shelter",
    "bed": "in a bed",
    "store": "in the store",
    "pocket": "in a pocket",
}


def night_name(course: Course, day: int) -> str:
    """A night by its two days, as Monday to Tuesday. Source: none, wording."""
    return f"{weekday(course, day, whole=True)} to {weekday(course, day + 1, whole=True)}"


def short_names(course: Course, day: int) -> tuple[str, str]:
    """A day and the night after it, short enough for a row of them. Source: none, wording."""
    date = course.start + timedelta(days=day)
    return f"{date:%a %-d}", f"night {date:%a}"


def day_name(course: Course, day: int) -> str:
    """A day with its date. Source: none, wording."""
    return f"{course.start + timedelta(days=day):%A %-d %B}"


def where_words(course: Course, thermometer: Thermometer) -> str:
    """Where a thermometer was. Source: the log."""
    if thermometer.where == "shelter":
        there = next((each for each in course.shelters if each.id == thermometer.of), None)
        return f"in {shelter_label(course, there)}" if there else "in a shelter that is gone"
    if thermometer.where in ("bed", "pocket"):
        name = next((e.name for e in course.people if e.id == thermometer.of), "")
        whose = f"{name}’s" if name else "the"
        gone = "" if name else " of somebody who is gone"
        return f"in {whose} {thermometer.where}{gone}"
    return WHERE_NAMES[thermometer.where]


def line_name(course: Course, thermometer: Thermometer) -> str:
    """Where a thermometer was, as short as the end of a line has room. Source: the log."""
    if thermometer.where == "bed":
        name = next((e.name for e in course.people if e.id == thermometer.of), "somebody")
        return f"{name.partition(' ')[0]}’s bed"
    if thermometer.where == "shelter":
        return next((e.name for e in course.shelters if e.id == thermometer.of), "a shelter")
    return thermometer.where


def odd_words(finding: Finding[OddReason], display: Display) -> str:
    """What of a thermometer's readings looks odd, and what to do. Source: core.log.readings."""
    figures = finding.figures
    match finding.reason:
        case "not of the course":
            return (
                "None of it lies within the course: say when its first reading really was, or by "
                "which clock it ran."
            )
        case "holes":
            return (
                f"{counted(round(figures[0]), 'hole')}, the longest "
                f"{hours_text(figures[1])}; nights read to less than four fifths do not count."
            )
        case "jumps":
            return (
                f"{counted(round(figures[0]), 'jump')} of up to {display.difference(figures[1])} "
                "within ten minutes: no air does that. It was moved, or it failed."
            )
        case "stuck":
            return (
                f"The same {display.temperature(figures[1], 1)} for {hours_text(figures[0])}: "
                "it may have failed, or hung in a snow wall."
            )
        case "in the sun":
            return (
                f"{hours_text(figures[0])} by day over the air by up to "
                f"{display.difference(figures[1])}: it most likely lay in the sun. Nights count."
            )
        case "ends early":
            return f"It ends {hours_text(figures[0])} before the course: its battery may have died."


def low_words(low: Low, display: Display) -> str:
    """A night's low against the forecast in a sentence. Source: readings."""
    by = display.difference(abs(low.error), 1)
    side = "warmer" if low.error > 0 else "colder"
    against = f"{by} {side} than forecast" if abs(low.error) >= 0.05 else "as forecast"
    inside = "inside the band" if low.inside else "outside the band"
    return f"{display.temperature(low.measured, 1)} measured, {against}: {inside}."


def lows_sentence(found: Sequence[Low], display: Display) -> str:
    """All measured nights in a sentence. Source: readings."""
    if not found:
        return "No night was measured yet."
    inside = sum(each.inside for each in found)
    mean = sum(each.error for each in found) / len(found)
    side = "warmer" if mean > 0 else "colder"
    return (
        f"{counted(len(found), 'night')} measured, {inside} inside the band; in the mean "
        f"{display.difference(abs(mean), 1)} {side} than forecast."
    )


def explain_lows(course: Course, found: Sequence[Low], display: Display) -> list[Step]:
    """How measured nights are held against the forecast. Source: core.log.right."""
    steps = [
        Step(
            night_name(course, each.day),
            display.temperature(each.measured, 1),
            f"forecast {display.temperature(each.forecast, 1)}, band ± "
            f"{display.difference(BAND_SDS * each.sd, 1)}; lowest mean over an hour, of "
            "thermometers outside",
            "readings; the spread of the course",
        )
        for each in found
    ]
    return [
        Step(
            "the band",
            f"{BAND:.0%}",
            "of nights should lie in it: the forecast ± "
            f"{BAND_SDS:.2f} deviations of the course’s own spread",
            "quantiles of the normal distribution; the spread is the course’s own word",
        ),
        *steps,
    ]


def thermometer_words(thermometer: Thermometer) -> str:
    """What a thermometer read, in short. Source: its readings."""
    known = [each for each in thermometer.celsius if each is not None]
    hours = len(known) * STEP_MIN / 60
    return f"{counted(round(hours), 'hour')} of readings from {thermometer.first:%-d %b %H:%M}"


def span_words(thermometer: Thermometer, display: Display) -> str:
    """The coldest and warmest reading. Source: its readings."""
    known = [each for each in thermometer.celsius if each is not None]
    if not known:
        return "nothing read"
    return f"{display.temperature(min(known), 1)} to {display.temperature(max(known), 1)}"


def explain_thermometer(
    thermometer: Thermometer, found: Sequence[Finding[OddReason]], display: Display
) -> list[Step]:
    """How readings are kept, and why some look odd. Source: core.log.readings, core.log.odd."""
    bounds: dict[OddReason, str] = {
        "not of the course": "no reading between the first midnight and the end of the last day",
        "holes": f"nothing read for more than {hours_text(LONG_GAP_H)}",
        "jumps": f"over {display.difference(JUMP_K)} between means beside each other",
        "stuck": f"the same figure for {hours_text(STUCK_H)} or more",
        "in the sun": f"by day over {display.difference(SUN_K)} more over the forecast than by "
        "night, for an hour or more",
        "ends early": f"over {hours_text(2 * LONG_GAP_H)} before the end, and in the last night",
    }
    return [
        Step(
            "readings",
            span_words(thermometer, display),
            f"means over {STEP_MIN} min, coldest and warmest; its clock as said here, what it was "
            "ahead taken off evenly from first to last",
            "a quartz clock drifts evenly at one temperature",
        ),
        *(
            Step("odd", odd_words(each, display), bounds[each.reason], "judgement")
            for each in found
        ),
    ]


def woke_words(hour: float | None) -> str:
    """When somebody woke of cold, empty for not said. Source: the diary."""
    return f"woke {clock_text(hour)}" if hour is not None else ""
