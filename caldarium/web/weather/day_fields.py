"""The figures of one day as people type them: weather, camp and high point; for every page that has
some of them."""

from collections.abc import Mapping
from functools import partial, reduce

from pydantic import ValidationError

from caldarium.core.plan.changes import with_altitude, with_day
from caldarium.core.plan.course import Course
from caldarium.web.editing import Change, Editing
from caldarium.web.forms import Entry, Field, read_form, shown_text
from caldarium.web.plan.outline_form import pasted_days
from caldarium.words.faults import fault_text
from caldarium.words.typed import parse_span, span_text
from caldarium.words.units import Display

CONDITIONS = {
    "high_c": Field("high_c", "High", "temperature"),
    "low_c": Field("low_c", "Low", "temperature"),
    "wind_ms": Field("wind_ms", "Wind, as forecast", "wind"),
    "precipitation_mm": Field("precipitation_mm", "Rain, snow", "rain"),
    "humidity_pct": Field("humidity_pct", "Humidity", "percent"),
    "cloud_pct": Field("cloud_pct", "Cloud", "percent", "not known", may_be_empty=True),
}
ALTITUDES = {
    "end_altitude_m": Field("end_altitude_m", "Camp", "altitude"),
    "high_point_m": Field("high_point_m", "High point", "altitude"),
}


FALLS = Field("falls", "It falls", "span", "all day, morning, afternoon, night or 10–18")
"""When rain or snow falls: two figures of the day, typed as one."""


class _Gathered:
    """Changes that are tried one after another and kept in one step."""

    def __init__(self, course: Course) -> None:
        self.course = self._now = course
        self.words: list[str] = []
        self.changes: list[Change] = []

    def keep(self, words: str, alter: Change) -> bool:
        """Try a change on what there is so far; what cannot be raises."""
        self._now = alter(self._now)
        self.words.append(words)
        self.changes.append(alter)
        return True


def day_entries(course: Course, day: int, display: Display) -> list[Entry]:
    """Fields of one day as they stand."""
    here = course.days[day]
    values = {name: getattr(here.conditions, name) for name in CONDITIONS}
    if here.legs:
        values |= _altitudes(course, day)
    entries: list[Entry] = []
    for name in values:
        field = (CONDITIONS | ALTITUDES)[name]
        typed = course.as_typed.get(_key(day, name))
        entries.append(Entry(field, shown_text(values[name], field, typed, display)))
        if name == "precipitation_mm":
            span = span_text(here.conditions.rain_from_h, here.conditions.rain_hours)
            entries.append(Entry(FALLS, span))
    return entries


def _altitudes(course: Course, day: int) -> dict[str, float]:
    """The day's end and its highest leg's end [m]."""
    legs = course.days[day].legs
    top = max(leg.to_altitude_m for leg in legs)
    return {"end_altitude_m": course.ends[day], "high_point_m": top}


def _key(day: int, name: str) -> str:
    room = "conditions." if name in CONDITIONS else ""
    return f"days.{day}.{room}{name}"


def edit_day(
    edit: Editing | _Gathered, day: int, form: Mapping[str, str], display: Display
) -> dict[str, Entry]:
    """Take every figure of a day that a form changes.

    Args:
        edit: what is changed.
        day: from 0.
        form: texts by the fields' names.
        display: units of what was typed.

    Returns:
        Entries that were not taken, by field name.
    """
    entries = day_entries(edit.course, day, display)
    rejected = _edit_falls(edit, day, form, entries)
    fields = {entry.field.name: entry.field for entry in entries if entry.field != FALLS}
    shown = {entry.field.name: entry.text for entry in entries}
    reading = read_form(fields.values(), shown, form, display)
    rejected |= {
        name: Entry(fields[name], form[name], message) for name, message in reading.errors.items()
    }
    values = {name: (value, reading.texts.get(name, "")) for name, value in reading.values.items()}
    while values:
        try:
            edit.keep(_name(values), partial(_set_day, day=day, values=values))
            break
        except ValidationError as fault:
            bad = {str(part) for error in fault.errors() for part in error["loc"]} & values.keys()
            message = fault_text(fault, display)
            for name in bad or set(values):
                field = (CONDITIONS | ALTITUDES)[name]
                rejected[name] = Entry(field, form[name], message)
                del values[name]
    return rejected


def _edit_falls(
    edit: Editing | _Gathered, day: int, form: Mapping[str, str], entries: list[Entry]
) -> dict[str, Entry]:
    """Take when rain or snow falls; what cannot be read comes back as it was typed."""
    shown = next(entry.text for entry in entries if entry.field == FALLS)
    text = form.get(FALLS.name, shown).strip()
    if text == shown:
        return {}
    try:
        begin, lasts = parse_span(text)
    except ValueError as fault:
        return {FALLS.name: Entry(FALLS, text, str(fault))}

    def falls(course: Course) -> Course:
        here = course.days[day]
        conditions = here.conditions.altered(rain_from_h=begin, rain_hours=lasts)
        return with_day(course, day, here.altered(conditions=conditions))

    edit.keep(f"rain or snow {span_text(begin, lasts)}", falls)
    return {}


_Values = dict[str, tuple[float | None, str]]
"""Figures of a day with the text that they were typed as; None for one taken out."""


def _name(values: _Values) -> str:
    fields = CONDITIONS | ALTITUDES
    return ", ".join(
        f"{fields[name].label.lower()} {text or fields[name].hint}"
        for name, (_, text) in values.items()
    )


def _set_day(course: Course, day: int, values: _Values) -> Course:
    here = course.days[day]
    conditions = {name: value for name, (value, _) in values.items() if name in CONDITIONS}
    altered = here.altered(conditions=here.conditions.altered(**conditions))
    before = _altitudes(course, day) if here.legs else {}
    for name in ("high_point_m", "end_altitude_m"):
        to = values[name][0] if name in values else None
        if to is not None and before:
            altered = with_altitude(altered, before[name], to)
    typed = course.as_typed | {_key(day, name): text for name, (_, text) in values.items()}
    typed = {key: text for key, text in typed.items() if text}
    return with_day(course.altered(as_typed=typed), day, altered)


def cell_name(day: int, field: str) -> str:
    """Name of a cell of the table of days."""
    return f"day.{day}.{field}"


def day_table(course: Course, display: Display, rejected: Mapping[str, Entry]) -> list[list[Entry]]:
    """The table of days: every day's fields as they stand, or as they were typed and not taken."""
    return [
        [
            rejected.get(cell_name(day, each.field.name), each)
            for each in day_entries(course, day, display)
        ]
        for day in range(len(course.days))
    ]


def edit_days(edit: Editing, form: Mapping[str, str], display: Display) -> dict[str, Entry]:
    """Take every cell of the table of days that a form changes, in one step; what is not taken by
    its name."""
    rejected: dict[str, Entry] = {}
    gathered = _Gathered(edit.course)
    days: list[str] = []
    for day in range(len(edit.course.days)):
        start = cell_name(day, "")
        own = {
            name.removeprefix(start): text for name, text in form.items() if name.startswith(start)
        }
        before = len(gathered.words)
        found = edit_day(gathered, day, own, display) if own else {}
        rejected |= {cell_name(day, name): entry for name, entry in found.items()}
        days += [str(day + 1)] * (len(gathered.words) > before)
    if gathered.changes:
        words = gathered.words[0] if len(gathered.words) == 1 else f"days {', '.join(days)}"
        edit.keep(words, lambda now: reduce(lambda last, alter: alter(last), gathered.changes, now))
    return rejected


_PASTED = {"rain_mm": "precipitation_mm", "camp_m": "end_altitude_m", "top_m": "high_point_m"}
"""Columns of a pasted table that the fields of a day call otherwise."""


def with_pasted(course: Course, form: dict[str, str]) -> tuple[dict[str, str], str]:
    """The form with a pasted table in its cells, and what was put there, or why nothing was."""
    fields, count, unknown = pasted_days(form.get("pasted_days", ""))
    if not count:
        return form, "Nothing was pasted: put rows of a spreadsheet into the field first"
    known = {*CONDITIONS, *ALTITUDES, FALLS.name}
    cells: dict[str, str] = {}
    for name, text in fields.items():
        day, _, column = name.removeprefix("d").partition(".")
        field = _PASTED.get(column, column)
        if field in known and int(day) < len(course.days):
            cells[cell_name(int(day), field)] = text
    over = (
        f"; {count - len(course.days)} more than the course has" if count > len(course.days) else ""
    )
    left = f"; not known: {', '.join(unknown)}" if unknown else ""
    return form | cells, f"{count} rows pasted{over}{left}" if over or left else ""
