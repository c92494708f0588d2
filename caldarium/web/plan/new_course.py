"""A new course, step by step: place and dates, days as a table, people as a roster."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, timedelta
from functools import partial

import numpy as np
from pydantic import TypeAdapter, ValidationError

from caldarium.catalogue.zones import offset_on, zone_of
from caldarium.core.plan.course import EARLIEST, LATEST, Course, Place
from caldarium.core.plan.outline import DayOutline, Filled, filled, outlined, slips
from caldarium.core.plan.track import Track
from caldarium.core.plan.value import Altitude
from caldarium.core.plan.way_legs import proposed_cuts, with_way
from caldarium.web.forms import read, whole
from caldarium.web.plan import outline_form, roster_form
from caldarium.words.faults import error_text, fault_text
from caldarium.words.outline import far_sentence, outline_sentence, slip_sentence
from caldarium.words.typed import parse_position, position_text
from caldarium.words.units import Display, written

FIRST_DAYS, FIRST_PEOPLE, MOST_DAYS, MOST_ROWS = 2, 3, 21, 40
SURE = "sure"
"""The field that says what was asked and is meant so."""
_ALTITUDE = TypeAdapter(Altitude)
_IN_DAY = {
    "high_c": "high_c",
    "low_c": "low_c",
    "wind_ms": "wind_ms",
    "precipitation_mm": "rain_mm",
    "cloud_pct": "cloud_pct",
    "distance_km": "distance_km",
    "to_altitude_m": "top_m",
    "start_h": "start_h",
    "title": "title",
}


@dataclass
class Draft:
    """A new course as its page shows it: what was typed, what is wrong with it, what is asked, what
    stands for what nobody said, and the course, where it can be made."""

    form: dict[str, str]
    errors: dict[str, str] = field(default_factory=dict)
    questions: list[str] = field(default_factory=list)
    defaults: dict[str, str] = field(default_factory=dict)
    told: str = ""
    message: str = ""
    course: Course | None = None

    @property
    def days(self) -> int:
        """How many rows the table of days has."""
        return whole(self.form.get("days", "").strip(), 1, MOST_DAYS) or 1

    @property
    def people(self) -> int:
        """How many rows the roster has."""
        return whole(self.form.get("rows"), 1, MOST_ROWS) or FIRST_PEOPLE


def empty_form() -> dict[str, str]:
    """The form as it opens."""
    start = date.today() + timedelta(days=7)
    return {"start": start.isoformat(), "days": str(FIRST_DAYS), "rows": str(FIRST_PEOPLE)}


def rearranged(form: dict[str, str]) -> tuple[dict[str, str], str]:
    """The form after one of its buttons: a row more or fewer, a pasted table put into its fields.

    Returns:
        The form, nothing typed lost, and a message.
    """
    action = form.get("action", "")
    rows = whole(form.get("rows"), 1, MOST_ROWS) or FIRST_PEOPLE
    if action == "add" and rows < MOST_ROWS:
        return form | {"rows": str(rows + 1)}, ""
    if action == "remove" and rows > 1:
        return form | {"rows": str(rows - 1)}, ""
    if action == "paste_days":
        fields, count, unknown = outline_form.pasted_days(form.get("pasted_days", ""))
        days = min(max(count, 1), MOST_DAYS)
        kept = form | fields | {"days": str(days), "pasted_days": ""}
        over = f" A course has at most {MOST_DAYS}." if count > MOST_DAYS else ""
        return (kept if count else form), _pasted(min(count, MOST_DAYS), "day", unknown) + over
    if action == "paste_people":
        fields, count, unknown = roster_form.pasted_people(form.get("pasted_people", ""))
        kept = form | fields | {"rows": str(max(count, 1)), "pasted_people": ""}
        return (kept if count else form), _pasted(count, "person", unknown)
    return form, ""


def _pasted(count: int, what: str, unknown: list[str]) -> str:
    if not count:
        return "Nothing was pasted: put rows of a spreadsheet into the field first."
    several = {"day": "days", "person": "people"}
    more = f" Not known, so left out: {', '.join(unknown)}." if unknown else ""
    return f"{count} {what if count == 1 else several[what]} put into the table.{more}"


def drafted(
    form: dict[str, str],
    display: Display,
    remembered: Mapping[str, Place],
    way: Track | None = None,
) -> Draft:
    """What a form says, what is missing, and the course it makes.

    Args:
        form: as it was sent.
        display: units of what was typed.
        remembered: places of other courses by name.
        way: recorded or planned, that gives the legs, and place and height where nobody said.

    Returns:
        The draft; without a course where something is wrong, or is asked and not yet meant so.
    """
    draft = Draft(form)
    errors = draft.errors
    start = read_date(form, errors)
    if whole(form.get("days", "").strip(), 1, MOST_DAYS) is None:
        errors["days"] = f"a whole number of days from 1 to {MOST_DAYS}"
    place = _place(form, errors, remembered, start, way)
    begins = _altitude(form, display, errors, way)
    rows: list[DayOutline] = []
    texts: list[dict[str, str]] = []
    for day in range(draft.days):
        row, typed, wrong = outline_form.read_day(form, day, display)
        errors |= {outline_form.key(day, column): told for column, told in wrong.items()}
        rows.append(row)
        texts.append(typed)
    if rows[0].high_c is None and rows[0].low_c is None:
        errors.setdefault(outline_form.key(0, "high_c"), "the forecast's high, or low")
    people, typed_people, wrong = roster_form.read_people(form, draft.people, display)
    errors |= wrong
    ready = _filled_rows(draft, rows, place, start, begins, display)
    if errors or place is None or start is None or begins is None:
        return draft
    draft.told = outline_sentence(place, ready, display)
    if way is not None:
        first = float(way.latitude[0]), float(way.longitude[0])
        far = far_sentence(place, *first, "way", display)
        draft.questions += [far[0].upper() + far[1:]] if far else []
    if draft.questions and form.get(SURE) != _answer(draft.questions):
        return draft
    course = partial(
        Course,
        name=form.get("name", "").strip() or f"{place.name}, {start:%B %Y}",
        place=place,
        start=start,
        start_altitude_m=begins,
        conditions_altitude_m=ready[0].said.for_m or 0.0,
        people=tuple(people),
        as_typed=outline_form.as_typed(texts) | typed_people,
    )
    _make(draft, course, ready, way, display)
    return draft


def _make(draft: Draft, course, ready: tuple[Filled, ...], way: Track | None, display: Display):
    try:
        made = course(days=outlined(ready))
        if way is not None:
            made = with_way(made, way, proposed_cuts(way, len(ready)))
        draft.course = made
    except ValidationError as fault:
        for error in fault.errors():
            at = next((_IN_DAY[str(p)] for p in reversed(error["loc"]) if str(p) in _IN_DAY), "")
            facts = error.get("ctx") or {}
            day = facts.get("day") or facts.get("number") or 1
            day = int(day) - 1 if isinstance(day, int) else 0
            where = outline_form.key(min(day, draft.days - 1), at or "distance_km")
            draft.errors[where] = error_text(error, display)
    except ValueError as fault:
        draft.errors["file" if way else outline_form.key(0, "distance_km")] = fault_text(
            fault, display
        )


def _answer(questions: list[str]) -> str:
    """What a form sends that means everything asked just so."""
    return f"{len(questions)}:{sum(map(len, questions))}"


def answer_to(draft: Draft) -> str:
    """The value of the field SURE with which the questions of a draft are answered."""
    return _answer(draft.questions) if draft.questions else ""


def _filled_rows(
    draft: Draft,
    rows: list[DayOutline],
    place: Place | None,
    start: date | None,
    begins: float | None,
    display: Display,
) -> tuple[Filled, ...]:
    """The days with their defaults, and the questions that they raise; somewhere and some day stand
    for those that are not said yet."""
    here = begins or 0.0
    turned: list[DayOutline] = []
    for day, row in enumerate(rows):
        for slip in slips(row, here) if begins is not None else []:
            draft.questions.append(slip_sentence(slip, day, display))
        turned.append(_upright(row))
        here = row.camp_m if row.camp_m is not None else here
    somewhere = Place(name="somewhere", latitude=45, longitude=0, utc_offset_h=0)
    when = start or date.today()
    ready = filled(turned, place or somewhere, when, begins or 0.0)
    unknown = {"start_h"} if place is None else set[str]()
    if begins is None:
        unknown |= {"camp_m", "top_m", "for_m"}
    if rows[0].high_c is None and rows[0].low_c is None:
        unknown |= {"high_c", "low_c", "ground", "exposure"}
    told = outline_form.defaults_told(ready, display)
    draft.defaults = {
        name: text for name, text in told.items() if name.partition(".")[2] not in unknown
    }
    return ready


def _upright(row: DayOutline) -> DayOutline:
    """A day with its high above its low, which is asked where it was said the other way round."""
    if row.high_c is None or row.low_c is None or row.high_c >= row.low_c:
        return row
    return row.altered(high_c=row.low_c, low_c=row.high_c)


def read_date(form: Mapping[str, str], errors: dict[str, str], name: str = "start") -> date | None:
    """The first day that a form says, None with a message where it says none."""
    try:
        start = date.fromisoformat(form.get(name, "").strip())
    except ValueError:
        errors[name] = "a date as 2026-09-21"
        return None
    if not EARLIEST <= start.year <= LATEST:
        errors[name] = f"a year from {EARLIEST} to {LATEST}"
        return None
    return start


def _place(
    form: dict[str, str],
    errors: dict[str, str],
    remembered: Mapping[str, Place],
    start: date | None,
    way: Track | None,
) -> Place | None:
    """Where the course is: as typed, else as the place is remembered, else where the way begins."""
    name, where = (form.get(each, "").strip() for each in ("place", "where"))
    known = remembered.get(name.lower())
    if not where and known is not None:
        where = position_text(known.latitude, known.longitude)
    if not where and way is not None:
        where = position_text(float(way.latitude[0]), float(way.longitude[0]))
    try:
        latitude, longitude = parse_position(where)
    except ValueError as fault:
        errors["where"] = str(fault) if where else "latitude and longitude, as 54.47, -3.21"
        return None
    form["where"] = where
    if not name:
        name = form.get("name", "").strip() or "Unnamed place"
    zone = zone_of(latitude, longitude)
    try:
        offset = offset_on(zone, start or date.today())
        return Place(
            name=name, latitude=latitude, longitude=longitude, utc_offset_h=offset, zone=zone
        )
    except ValidationError as fault:
        errors["place"] = error_text(fault.errors()[0], Display())
        return None


def _altitude(
    form: dict[str, str], display: Display, errors: dict[str, str], way: Track | None
) -> float | None:
    text = form.get("start_altitude", "").strip()
    if not text and way is not None and way.has_heights:
        first = float(way.height[np.isfinite(way.height)][0])
        text = form["start_altitude"] = written(round(first), "altitude", display)
    if not text:
        errors["start_altitude"] = "the height where the way begins"
        return None
    try:
        value, _ = read(text, "altitude", display)
        return _ALTITUDE.validate_python(value)
    except ValidationError as fault:
        errors["start_altitude"] = fault_text(fault, display)
    except ValueError as fault:
        errors["start_altitude"] = str(fault)
    return None
