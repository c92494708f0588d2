"""From the new-course form to a course value, with a message at every field that is wrong."""

from datetime import date, timedelta
from itertools import pairwise

from pydantic import TypeAdapter, ValidationError

from caldarium.catalogue import load_catalogue
from caldarium.core.plan.changes import fresh_id
from caldarium.core.plan.course import EARLIEST, LATEST, Course, Person, Place
from caldarium.core.plan.route import Camp, Day, Leg
from caldarium.core.plan.value import Altitude
from caldarium.core.plan.versions import route_legs
from caldarium.core.plan.weather_sources import Conditions
from caldarium.web.forms import Field, read, whole, written
from caldarium.words.faults import error_text, fault_text
from caldarium.words.units import Display

QUANTITIES = {
    field.name: field
    for field in (
        Field("start_altitude", "Start altitude", "altitude"),
        Field("camp_altitude", "Camp altitude", "altitude"),
        Field("high_point", "High point altitude", "altitude"),
        Field("conditions_altitude", "Conditions are given for", "altitude"),
        Field("high", "High", "temperature"),
        Field("low", "Low", "temperature"),
        Field("wind", "Wind, as forecast", "wind"),
        Field("rain", "Rain or snow a day", "rain"),
        Field("humidity", "Humidity", "percent"),
        Field("distance", "Walking a day", "distance"),
        Field("walking", "Walking time a day", "hours"),
    )
}
_AT = {
    "start_altitude_m": "start_altitude",
    "hours": "walking",
    "conditions_altitude_m": "conditions_altitude",
    "high_c": "high",
    "low_c": "low",
    "wind_ms": "wind",
    "precipitation_mm": "rain",
    "humidity_pct": "humidity",
    "distance_km": "distance",
    "walking_h": "walking",
    "latitude": "latitude",
    "longitude": "longitude",
    "utc_offset_h": "utc_offset",
    "name": "name",
    "days": "days",
}
FIRST_ROWS, MOST_ROWS = 2, 40
_ALTITUDE = TypeAdapter(Altitude)
Errors = dict[str, str]


def empty_form(display: Display) -> dict[str, str]:
    """The form as it opens: ordinary figures where a blank would only cost typing."""
    start = date.today() + timedelta(days=7)
    form = {
        "start": start.isoformat(),
        "days": "3",
        "rows": str(FIRST_ROWS),
        "rain": written(0, "rain", display),
        "humidity": "70 %",
        "distance": written(12, "distance", display),
        "walking": "5 h",
        "utc_offset": "0",
        "ground": "dry",
        "exposure": "heath",
    }
    for row in range(FIRST_ROWS):
        form |= _empty_row(row)
    return form


def _empty_row(row: int) -> dict[str, str]:
    return {f"person_{row}_kit": "three-season", f"person_{row}_sleeper": "1"}


def with_rows(form: dict[str, str]) -> dict[str, str]:
    """The form with a person's row more, or fewer, as its button says; nothing typed is lost."""
    rows = _rows(form)
    form = form | {"rows": str(rows)}
    action = form.get("action", "")
    if action == "add" and rows < MOST_ROWS:
        form = form | _empty_row(rows) | {"rows": str(rows + 1)}
    elif action == "remove" and rows > 1:
        form = form | {"rows": str(rows - 1)}
    return form


def _rows(form: dict[str, str]) -> int:
    rows = whole(form.get("rows"))
    return FIRST_ROWS if rows is None else min(max(rows, 1), MOST_ROWS)


def build_course(form: dict[str, str], display: Display) -> tuple[Course | None, Errors]:
    """A course from the form.

    Returns:
        The course and no errors, or no course and a message by field name.
    """
    errors: Errors = {}
    values, typed = _quantities(form, display, errors)
    for name, low, high in (
        ("latitude", -90, 90),
        ("longitude", -180, 180),
        ("utc_offset", -12, 14),
    ):
        try:
            values[name], _ = read(form.get(name, ""), "percent", Display())
            if not low <= values[name] <= high:
                errors[name] = f"between {low} and {high}"
        except ValueError:
            errors[name] = f"type a number between {low} and {high}"
    if (values.get("distance", 1) == 0) != (values.get("walking", 1) == 0):
        errors["distance"] = "a rest day has neither distance nor walking time, else both"
    start, days = _dates(form, errors)
    for name, word in (("name", "the course"), ("place", "the place")):
        if not form.get(name, "").strip():
            errors[name] = f"give {word} a name"
    people = _people(form, display, errors)
    if errors or start is None:
        return None, errors
    values.setdefault("conditions_altitude", values["camp_altitude"])
    try:
        return _course(form, values, typed, start, days, people), {}
    except ValidationError as fault:
        for error in fault.errors():
            place = next((_AT[str(p)] for p in reversed(error["loc"]) if str(p) in _AT), "")
            place = place or ("high" if error["type"] == "high below low" else "walking")
            errors[place] = error_text(error, display)
        return None, errors
    except ValueError as fault:
        return None, {"walking": fault_text(fault, display)}


def _quantities(
    form: dict[str, str], display: Display, errors: Errors
) -> tuple[dict[str, float], dict[str, str]]:
    """Values and texts of the figures; what is wrong goes into errors."""
    values: dict[str, float] = {}
    typed: dict[str, str] = {}
    for name, field in QUANTITIES.items():
        text = form.get(name, "")
        if name == "conditions_altitude" and not text.strip():
            continue
        try:
            values[name], typed[name] = read(text, field.kind, display)
            if field.kind == "altitude":
                _ALTITUDE.validate_python(values[name])
        except ValidationError as fault:
            errors[name] = fault_text(fault, display)
        except ValueError as fault:
            errors[name] = str(fault)
    return values, typed


def _dates(form: dict[str, str], errors: Errors) -> tuple[date | None, int]:
    start = None
    try:
        start = date.fromisoformat(form.get("start", ""))
    except ValueError:
        errors["start"] = "a date as 2026-09-21"
    days = whole(form.get("days", "").strip(), 1, 21)
    if days is None:
        errors["days"] = "a whole number of days from 1 to 21"
    if start is not None and not EARLIEST <= start.year <= LATEST:
        errors["start"] = f"a year from {EARLIEST} to {LATEST}"
    return start, days or 0


def _people(form: dict[str, str], display: Display, errors: Errors) -> list[Person]:
    catalogue = load_catalogue()
    people: list[Person] = []
    for row in range(_rows(form)):
        name = form.get(f"person_{row}_name", "").strip()
        figures: dict[str, float] = {}
        for part, kind in (("mass", "body"), ("height", "height"), ("sleeper", "number")):
            field = f"person_{row}_{part}"
            if not name and not form.get(f"person_{row}_mass", "").strip():
                break
            try:
                figures[part], _ = read(form.get(field, ""), kind, display)
            except ValueError as fault:
                errors[field] = str(fault)
        if not figures and not name:
            continue
        if not name:
            errors[f"person_{row}_name"] = "a name"
            continue
        if len(figures) < 3:
            continue
        kit = form.get(f"person_{row}_kit", "")
        try:
            people.append(
                Person(
                    id=fresh_id(name, [each.id for each in people]),
                    name=name,
                    instructor=form.get(f"person_{row}_instructor") == "on",
                    body_mass_kg=figures["mass"],
                    height_m=figures["height"],
                    sleeper_index=figures["sleeper"],
                    **(catalogue.kit(kit) if kit in catalogue.sets else {}),
                )
            )
        except ValidationError as fault:
            parts = {"body_mass_kg": "mass", "height_m": "height", "sleeper_index": "sleeper"}
            for error in fault.errors():
                part = parts.get(str(error["loc"][0]) if error["loc"] else "", "name")
                errors[f"person_{row}_{part}"] = error_text(error, display)
    if not people and not any(name.startswith("person_") for name in errors):
        errors["person_0_name"] = "a course needs at least one person"
    return people


def _course(
    form: dict[str, str],
    values: dict[str, float],
    typed: dict[str, str],
    start: date,
    days: int,
    people: list[Person],
) -> Course:
    conditions = Conditions(
        high_c=values["high"],
        low_c=values["low"],
        wind_ms=values["wind"],
        precipitation_mm=values["rain"],
        humidity_pct=values["humidity"],
    )
    camp = Camp(exposure=form.get("exposure", "heath"), ground=form.get("ground", "dry"))
    last = days - 1
    home = values["start_altitude"]
    ends = [home if day == last and days > 1 else values["camp_altitude"] for day in range(days)]
    route = {
        "distance_km": values["distance"],
        "walking_h": values["walking"],
        "high_point_m": values["high_point"],
        "exposure": form.get("exposure", "heath"),
    }
    plan = tuple(
        Day(
            conditions=conditions,
            legs=tuple(Leg(**leg) for leg in route_legs(route, begin, end)),
            camp=None if day == last and days > 1 else camp,
        )
        for day, (begin, end) in enumerate(pairwise([home, *ends]))
    )
    by_path = {
        "high": "conditions.high_c",
        "low": "conditions.low_c",
        "wind": "conditions.wind_ms",
        "rain": "conditions.precipitation_mm",
        "humidity": "conditions.humidity_pct",
        "high_point": "high_point_m",
        "camp_altitude": "end_altitude_m",
    }
    return Course(
        name=form["name"].strip(),
        place=Place(
            name=form["place"].strip(),
            latitude=values["latitude"],
            longitude=values["longitude"],
            utc_offset_h=values["utc_offset"],
        ),
        start=start,
        start_altitude_m=values["start_altitude"],
        conditions_altitude_m=values["conditions_altitude"],
        days=plan,
        people=tuple(people),
        as_typed={
            f"days.{day}.{path}": typed[name]
            for day in range(days)
            for name, path in by_path.items()
        },
    )
