"""Lists of gear as CSV, out and in again without loss.

A row is one part of one way to meet a line. Rows of one `line` belong together, those of one number
in `way` must all be met; what is said of the whole line may stand in any of its rows, what is said
of the list in any row, each in one way only. Words in `names` and `but not` are parted by
semicolons, months by blanks. `line` and `text` are needed; a figure may have its unit in the header
or in the cell. A column that is none of a list's is refused, so that no rule is lost by a slip.
"""

import csv
import io
from collections.abc import Mapping
from typing import Any

from pydantic import ValidationError

from caldarium.core.plan.changes import fresh_id
from caldarium.core.plan.gear_list import Entry, GearList, Least, Wanted, When
from caldarium.formats.cells import Column, figure, plain, safe, table
from caldarium.formats.fault import FileError
from caldarium.words.faults import error_text
from caldarium.words.units import Display

_LIST = {
    "list id": ("id", "text"),
    "list": ("name", "text"),
    "issuer": ("issuer", "text"),
    "source": ("source", "text"),
    "dated": ("dated", "date"),
    "once": ("once", "yes"),
}
_ENTRY = {
    "line": ("id", "text"),
    "text": ("text", "text"),
    "must": ("must", "yes"),
    "of": ("of", "word"),
    "per": ("per", "whole"),
    "note": ("note", "text"),
}
_WANTED = {
    "sort": ("sort", "word"),
    "names": ("names", "text"),
    "but not": ("but_not", "text"),
    "count": ("count", "whole"),
}
_LEAST = {
    "comfort at most": ("comfort_c", "temperature"),
    "limit at most": ("limit_c", "temperature"),
    "r-value": ("r_value", "number"),
    "clo": ("clo", "number"),
    "litres": ("litres", "volume"),
    "kcal": ("kcal", "number"),
    "light": ("light_h", "hours"),
    "water column": ("water_mm", "column"),
    "mass at most": ("mass_g", "mass"),
    "taped": ("taped", "yes"),
    "waterproof": ("waterproof", "yes"),
    "insulated": ("insulated", "yes"),
}
_WHEN = {
    "on snow": ("snow", "yes"),
    "on a glacier": ("glacier", "yes"),
    "over a river": ("river", "yes"),
    "above": ("above_m", "altitude"),
    "below": ("below_c", "temperature"),
    "months": ("months", "text"),
    "from nights": ("nights", "whole"),
    "from people": ("people", "whole"),
    "younger than": ("younger_than", "whole"),
}
_UNITS = {
    "temperature": "°C",
    "volume": "L",
    "hours": "h",
    "column": "mm",
    "mass": "g",
    "altitude": "m",
}
_ALWAYS = ("must", "of", "sort", "count")
"""Fields that are told though they are as by default."""
_GROUPS: dict[str, Mapping[str, tuple[str, str]]] = {
    "list": _LIST,
    "entry": _ENTRY,
    "way": {"way": ("way", "whole")},
    "wanted": _WANTED,
    "least": _LEAST,
    "when": _WHEN,
}
_KNOWN = {
    header: (f"{group}.{field}", reads)
    for group, columns in _GROUPS.items()
    for header, (field, reads) in columns.items()
}


def write_gear_list_csv(listed: GearList) -> str:
    """A list as CSV, cells that would compute neutralised."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow([_header(each) for each in _KNOWN])
    first_of_all = True
    for entry in listed.entries:
        first = True
        for number, way in enumerate(entry.ways, 1):
            for part in way.parts:
                cells: dict[str, str] = {"way.way": str(number), "entry.id": entry.id}
                if first_of_all:
                    cells |= _cells("list", listed, _LIST)
                if first:
                    cells |= _cells("entry", entry, _ENTRY) | _cells("when", entry.when, _WHEN)
                cells |= _cells("wanted", part, _WANTED) | _cells("least", part.least, _LEAST)
                writer.writerow([safe(cells.get(field, "")) for field, _ in _KNOWN.values()])
                first = first_of_all = False
    return out.getvalue()


def _header(name: str) -> str:
    unit = _UNITS.get(_KNOWN[name][1])
    return f"{name} ({unit})" if unit else name


def _cells(
    group: str,
    value: GearList | Entry | Wanted | Least | When,
    columns: Mapping[str, tuple[str, str]],
) -> dict[str, str]:
    defaults = {name: each.default for name, each in type(value).model_fields.items()}
    return {
        f"{group}.{field}": _text(said)
        for field, _ in columns.values()
        if (said := getattr(value, field)) != defaults[field] or field in _ALWAYS
    }


def _text(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, tuple):
        parts: tuple[object, ...] = value
        numbers = all(isinstance(each, int) for each in parts)
        return (" " if numbers else "; ").join(str(each) for each in parts)
    return repr(value) if isinstance(value, float) else str(value)


def read_gear_list_csv(data: bytes, name: str) -> GearList:
    """A list from CSV.

    Args:
        data: the file.
        name: of the list where the file does not say one.

    Raises:
        FileError: naming line and column; nothing of a file with a fault is taken.
    """
    head, rows, others = table(data, _KNOWN)
    there = {each.field for each in head}
    missing = [each for each in ("line", "text") if _KNOWN[each][0] not in there]
    if missing:
        raise FileError("no column for " + " and ".join(missing), 1, 1)
    if others:
        raise FileError(f"no such columns in a list: {', '.join(others)}", 1, 1)
    told: dict[str, Any] = {}
    entries: dict[str, dict[str, Any]] = {}
    lines: dict[str, int] = {}
    for line, cells in rows:
        row = _row(line, cells, head)
        _say(told, row["list"], "the list", line)
        which = row["entry"].get("id", "")
        if not which:
            raise FileError("every row names its line", line, 1)
        if which not in entries:
            lines[which] = line
            entries[which] = {"when": {}, "ways": {}}
        for known, said in ((entries[which], "entry"), (entries[which]["when"], "when")):
            _say(known, row[said], which, line)
        wanted = row["wanted"] | {"least": row["least"]}
        entries[which]["ways"].setdefault(row["way"].get("way", 1), []).append(wanted)
    if not entries:
        raise FileError("there is no line in it", 1, 1)
    listed = [_entry(lines[which], each) for which, each in entries.items()]
    name = str(told.pop("name", "") or name or "list")
    identifier = fresh_id(str(told.pop("id", "") or name), ())
    try:
        return GearList.model_validate(
            told | {"id": identifier, "name": name, "entries": tuple(listed)}
        )
    except ValidationError as fault:
        raise FileError(error_text(fault.errors()[0], Display()), 2, 1) from None


def _say(known: dict[str, Any], said: Mapping[str, Any], of: str, line: int) -> None:
    """Take what a row says of something that several rows may speak of.

    Raises:
        FileError: where an earlier row says otherwise.
    """
    for field, value in said.items():
        if known.setdefault(field, value) != value:
            raise FileError(f"“{field}” of {of} is said in two ways", line, 1)


def _row(line: int, cells: list[str], head: list[Column]) -> dict[str, dict[str, Any]]:
    """What a row says, by group; empty cells say nothing."""
    found: dict[str, dict[str, Any]] = {group: {} for group in _GROUPS}
    for column in head:
        text = plain(cells[column.place]) if column.place < len(cells) else ""
        if not text:
            continue
        group, _, field = column.field.partition(".")
        try:
            value = figure(text, column)
            if field in ("names", "but_not"):
                value = tuple(each.strip() for each in text.split(";") if each.strip())
            elif field == "months":
                value = tuple(int(each) for each in text.replace(",", " ").split())
        except ValueError as fault:
            told = "write months as numbers from 1 to 12" if field == "months" else str(fault)
            raise FileError(f"{column.header}: {told}", line, column.place + 1) from None
        found[group][field] = value
    return found


def _entry(line: int, told: dict[str, Any]) -> Entry:
    ways = tuple({"parts": tuple(parts)} for _, parts in sorted(told["ways"].items()))
    which = fresh_id(str(told["id"]), ())
    try:
        return Entry.model_validate({"text": told["id"]} | told | {"id": which, "ways": ways})
    except ValidationError as fault:
        error = fault.errors()[0]
        where = " ".join(str(part) for part in error["loc"] if isinstance(part, str))
        raise FileError(f"{where}: {error_text(error, Display())}", line, 1) from None
