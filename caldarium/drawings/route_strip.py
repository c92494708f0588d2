"""The way and its weather over the same hours: legs to take hold of, sources, the group's worst."""

import json

from caldarium.core.assess import Assessment
from caldarium.core.plan.course import Course
from caldarium.core.plan.legs import Stage
from caldarium.core.timeline.weather import TYPED
from caldarium.core.worst import worst_by_moment
from caldarium.drawings.strip import QUIET, SHORT_WORDS
from caldarium.drawings.svg import Svg, drawing, element, line, path, rect, text, title
from caldarium.drawings.time_axis import Slot, TimeAxis, time_axis
from caldarium.drawings.weather_band import LARGE, WeatherBand
from caldarium.words.course import moment_name
from caldarium.words.units import Display, clock_text

LEGS_TOP, LEG = 232.0, 22.0
SOURCES_TOP, SOURCE = 259.0, 13.0
WORST_TOP, WORST = 277.0, 18.0
BOTTOM = 300.0


def route_strip(
    course: Course,
    result: Assessment,
    moment: str,
    display: Display,
    *,
    width: float = 1232,
    only_day: int | None = None,
) -> Svg:
    """The strip as a drawing.

    Args:
        course: for names, dates and legs.
        result: its assessment.
        moment: what the cursor stands on.
        display: units.
        width: of the drawing.
        only_day: draw one day only (from 0).
    """
    moments = tuple(
        each for each in result.timeline.moments if only_day is None or each.day == only_day
    )
    left = 92.0 if width > 600 else 62.0
    axis = time_axis(moments, left, width - 2)
    band = WeatherBand(course, result, axis, display, width, LARGE)
    parts = [
        *band.parts(),
        *_legs(course, result, axis, left),
        *_sources(course, band, left),
        *_worst(course, result, axis, moment, left),
    ]
    slot = next((each for each in axis.slots if each.moment.id == moment), None)
    if slot is not None:
        parts.append(line(slot.middle, LARGE.wind_top, slot.middle, BOTTOM - 4, "cursor"))
    label = (
        f"Way and weather of {course.name} hour by hour: wind, temperature, what falls, height "
        "and legs. The tables below hold the same."
    )
    drawn = drawing(width, BOTTOM, label, *parts, class_="strip route")
    steps = json.dumps(
        [[round(t, 3), round(x, 1)] for t, x in zip(axis.times, axis.places, strict=True)]
    )
    return Svg(drawn.replace("<svg ", f'<svg data-axis="{steps}" ', 1))


def _legs(course: Course, result: Assessment, axis: TimeAxis, left: float) -> list[Svg]:
    found = [text(left - 8, LEGS_TOP + 15, "legs", "axis", "end")]
    dark = {
        (moment.day, moment.leg): moment.dark_hours
        for moment in result.timeline.moments
        if moment.kind == "moving"
    }
    for day, stages in enumerate(result.timeline.stages):
        for stage in stages:
            begin, end = 24 * day + stage.start, 24 * day + stage.end
            if end <= axis.start or begin >= axis.end:
                continue
            in_dark = dark.get((day, stage.leg.id), 0.0) > 0.25
            found.append(_leg(day, stage, axis, in_dark))
    return found


def _leg(day: int, stage: Stage, axis: TimeAxis, in_dark: bool) -> Svg:
    x, end = axis.x(24 * day + stage.start), axis.x(24 * day + stage.end)
    width = max(end - x - 1, 2)
    name = stage.leg.title or stage.leg.kind
    words = f"{name}: {stage.leg.kind}, {clock_text(stage.start)} to {clock_text(stage.end)}"
    if in_dark:
        words += ", in the dark"
    kind = "still" if stage.walk is None else "up" if stage.walk.climbing > 0.5 else "down"
    parts = [
        title(words),
        rect(x, LEGS_TOP, width, LEG, f"leg {kind}", rx=3.0),
        rect(x, LEGS_TOP, min(5, width), LEG, "grip", rx=2.0),
    ]
    if in_dark:
        parts.append(rect(x, LEGS_TOP, width, 4, "in-dark"))
    shown = name if width > 6.2 * len(name) + 14 else stage.leg.kind
    if width > 6.2 * len(shown) + 14:
        parts.append(text(x + 9, LEGS_TOP + 15, shown, "leg-name"))
    return element(
        "g",
        *parts,
        class_="hold-leg",
        data_leg=stage.leg.id,
        data_day=f"{day}",
        data_start=f"{stage.start:.3f}",
    )


def _sources(course: Course, band: WeatherBand, left: float) -> list[Svg]:
    """Which source rules which hours."""
    found = [text(left - 8, SOURCES_TOP + 11, "source", "axis", "end")]
    names = {number: source.name for number, source in enumerate(course.sources)}
    begin = 0
    for index in range(1, len(band.source)):
        last = index == len(band.source) - 1
        if band.source[index] == band.source[begin] and not last:
            continue
        number = band.source[begin]
        x, end = band.x[begin], band.x[index]
        name = names.get(number, "typed for each day")
        kind = "typed" if number == TYPED else f"from-{number % 4}"
        found.append(rect(x, SOURCES_TOP, end - x, SOURCE, f"source {kind}", title(name)))
        fits = int((end - x - 8) / 5.6)
        if fits > 5:
            shown = name if len(name) <= fits else name[: fits - 1] + "…"
            found.append(text(x + 4, SOURCES_TOP + 10.5, shown, "source-name"))
        begin = index
    return found


def _worst(
    course: Course, result: Assessment, axis: TimeAxis, moment: str, left: float
) -> list[Svg]:
    found = [
        text(left - 8, WORST_TOP + 14, "worst of all" if left > 80 else "worst", "axis", "end")
    ]
    worst = worst_by_moment(result)
    for slot in axis.slots:
        each = worst[slot.moment.id]
        words = f"{moment_name(course, slot.moment)}: {each.sharing} of {each.people} {each.state}"
        found.append(
            _cell(slot, each.state, each.sharing, words, each.person, slot.moment.id == moment)
        )
    return found


def _cell(slot: Slot, state: str, sharing: int, words: str, person: str, here: bool) -> Svg:
    x, width = slot.x + 0.6, slot.width - 1.2
    parts = [title(words), rect(x, WORST_TOP, width, WORST, f"cell {state}", rx=2.0)]
    middle = x + width / 2
    if state == "gap":
        notch = [(middle - 5, WORST_TOP), (middle + 5, WORST_TOP), (middle, WORST_TOP + 5)]
        parts.append(path(notch, "notch", closed=True))
    shown = f"{sharing} {SHORT_WORDS[state]}{'s' * (state == 'gap' and sharing > 1)}"
    if state == "cool":
        parts.append(line(middle - 4, WORST_TOP + 9, middle + 4, WORST_TOP + 9, "chill"))
    if state not in QUIET:
        if width < 6 * len(shown) + 6:
            shown = f"{sharing}"
        span = 6.0 * len(shown) + 3
        if width >= span:
            parts.append(rect(middle - span / 2, WORST_TOP + 5, span, 11, "plate", rx=2.0))
            parts.append(text(middle, WORST_TOP + 14.5, shown, f"word {state}", "middle"))
    if here:
        parts.append(rect(x, WORST_TOP - 1, width, WORST + 2, "here", rx=2.0))
    return element("g", *parts, class_="pick", data_person=person, data_moment=slot.moment.id)
