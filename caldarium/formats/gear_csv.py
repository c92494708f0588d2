"""The store as CSV: any delimiter, units in the header or the cell, unknown columns kept as notes.

UTF-8, UTF-16 and Windows-1252 are read; what a file calls its columns can be told (see SYNONYMS for
what is guessed).

Columns, in any order; `name`, `kind` and `mass` are needed, and a `tag` to change a piece later:

    tag, name, kind, owner, owner name, count, size, condition, checked (2026-09-21)
    mass             [g, kg, oz, lb], also as 1 lb 3 oz
    mass from        scale, label, catalogue, estimate, guess; weighed on (2026-09-21)
    cost             a number in the school's own money; place where it is hired or bought
    fly              anywhere, hold only, cabin only, never
    like             id of the catalogue's piece it is like
    label            comfort, limit, maker's number; label temperature [°C, °F]
    r-value          [°F ft² h/BTU]; clo; thickness [mm, in]; width [cm, in]; fits to [m, ft]
    capacity         [L, ml, fl oz]; packed [L, ml]; net [g, oz]; kcal; nights used; washes
    light            [h] of one; water column [mm]; taped, yes or no
    spoils below     [°C, °F]
    retired          yes or no

A unit stands in the header, as `mass (oz)` or `width [in]`, or in the cell. An empty cell is no
figure; a piece that is there already keeps what an absent column would say. Cells that a
spreadsheet would take for a formula are written with an apostrophe before them, which is taken off
again on the way in.
"""

import csv
import io
from collections.abc import Container, Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from pydantic import ValidationError

from caldarium.catalogue import usual_masses
from caldarium.core.stock.inventory import Query, Stored, queries, told, with_defaults
from caldarium.core.what_if.progress import Heard, unheard
from caldarium.formats.cells import (
    Column,
    columns_of,
    figure,
    plain,
    rows_of,
    safe,
    unquoted,
)
from caldarium.words.faults import error_text
from caldarium.words.units import Display

COLUMNS: dict[str, tuple[str, str]] = {
    "tag": ("tag", "text"),
    "name": ("name", "text"),
    "kind": ("kind", "word"),
    "owner": ("owner", "word"),
    "owner name": ("owner_name", "text"),
    "count": ("count", "whole"),
    "size": ("size", "text"),
    "condition": ("condition", "word"),
    "checked": ("checked", "date"),
    "mass": ("mass_g", "mass"),
    "mass from": ("mass_from", "word"),
    "weighed on": ("mass_on", "date"),
    "cost": ("cost", "number"),
    "place": ("place", "text"),
    "fly": ("fly", "word"),
    "like": ("like", "text"),
    "label": ("label", "word"),
    "label temperature": ("label_c", "temperature"),
    "limit temperature": ("limit_c", "temperature"),
    "r-value": ("r_value", "number"),
    "clo": ("clo", "number"),
    "thickness": ("thickness_mm", "length"),
    "width": ("width_cm", "depth"),
    "length": ("length_cm", "depth"),
    "fits to": ("fits_to_m", "height"),
    "capacity": ("capacity_l", "volume"),
    "packed": ("packed_l", "volume"),
    "net": ("net_g", "mass"),
    "kcal": ("kcal", "number"),
    "light": ("light_h", "hours"),
    "water column": ("water_mm", "column"),
    "taped": ("taped", "yes"),
    "nights used": ("nights_used", "whole"),
    "washes": ("washes", "whole"),
    "spoils below": ("spoils_below_c", "temperature"),
    "retired": ("retired", "yes"),
}
"""Columns by header: the field, and how a cell is read."""
_UNITS = {
    "mass_g": "g",
    "label_c": "°C",
    "limit_c": "°C",
    "thickness_mm": "mm",
    "width_cm": "cm",
    "length_cm": "cm",
    "fits_to_m": "m",
    "capacity_l": "L",
    "packed_l": "L",
    "net_g": "g",
    "light_h": "h",
    "water_mm": "mm",
    "spoils_below_c": "°C",
}
HEARD_EVERY = 50
"""Rows after which it is told how far the reading is."""
SYNONYMS: dict[str, str] = {
    "item": "name",
    "what": "name",
    "description": "name",
    "weight": "mass",
    "grams": "mass",
    "g": "mass",
    "qty": "count",
    "quantity": "count",
    "number": "count",
    "pieces": "count",
    "category": "kind",
    "type": "kind",
    "price": "cost",
    "code": "tag",
    "label no": "tag",
    "state": "condition",
    "belongs to": "owner name",
    "bought at": "place",
    "shop": "place",
    "temperature": "label temperature",
    "volume": "capacity",
}
"""What people call the columns in their own spreadsheets, by what they are here: judgement."""


@dataclass(frozen=True)
class Problem:
    """What is wrong in a file: its line and column from 1, the column's header, the message."""

    line: int
    column: int
    header: str
    words: str


@dataclass(frozen=True)
class ReadRow:
    """A row: its line, the piece where it could be read, whether it is new, what to ask again."""

    line: int
    piece: Stored
    new: bool
    asked: tuple[Query, ...]


@dataclass(frozen=True)
class Preview:
    """What a file would do: rows, problems (any stops all of it), columns kept as notes; its
    encoding, all its headers, what is needed and none of them is taken for, and what each of the
    others is taken for."""

    rows: tuple[ReadRow, ...]
    problems: tuple[Problem, ...]
    kept: tuple[str, ...]
    encoding: str = "UTF-8"
    headers: tuple[str, ...] = ()
    wanted: tuple[str, ...] = ()
    mapped: Mapping[str, str] = field(default_factory=dict)

    @property
    def fresh(self) -> int:
        """How many rows are for new pieces."""
        return sum(row.new for row in self.rows)

    @property
    def asked_first(self) -> tuple[ReadRow, ...]:
        """Rows with something to ask before the others."""
        return tuple(sorted(self.rows, key=lambda row: not row.asked))


def read_gear(
    data: bytes,
    known: Mapping[str, Stored] | None = None,
    *,
    mapped: Mapping[str, str] | None = None,
    kind: str = "",
    heard: Heard = unheard,
) -> Preview:
    """What a CSV of the store says, without writing anything.

    Args:
        data: the file, in UTF-8, UTF-16 or Windows-1252.
        known: pieces that are there, by tag in lower case.
        mapped: columns by what this file calls them, in lower case; "" for one that stays a note.
        kind: of rows that say none.
        heard: hears the share of rows that are read; what it raises ends the reading.

    Raises:
        FileError: where it is no table at all.
    """
    rows, encoding = rows_of(data)
    told = SYNONYMS | dict(mapped or {})
    own = {name.strip().lower().partition("(")[0].partition("[")[0].strip() for name in rows[0][1]}
    told = {
        theirs: ours for theirs, ours in told.items() if theirs in (mapped or {}) or ours not in own
    }
    columns, kept = columns_of(rows[0], COLUMNS, told)
    missing = {"name", "mass_g"} - {each.field for each in columns}
    if not kind and all(each.field != "kind" for each in columns):
        missing.add("kind")
    if missing:
        headers = tuple(cell.strip() for cell in rows[0][1] if cell.strip())
        needed = ("name", "mass_g", "kind")
        wanted = tuple(each.removesuffix("_g") for each in needed if each in missing)
        return Preview((), (), tuple(kept.values()), encoding, headers, wanted)
    headers = tuple(cell.strip() for cell in rows[0][1] if cell.strip())
    found = _read_rows(rows[1:], columns, kept, known or {}, kind, heard)
    return replace(found, encoding=encoding, headers=headers, mapped=_named(columns))


def _named(columns: list[Column]) -> dict[str, str]:
    """What each header of the file is taken for, by header in lower case."""
    by_field = {field: name for name, (field, _) in COLUMNS.items()}
    return {each.header.lower(): by_field[each.field] for each in columns}


def _read_rows(
    rows: list[tuple[int, list[str]]],
    columns: list[Column],
    kept: dict[int, str],
    known: Mapping[str, Stored],
    kind: str,
    heard: Heard,
) -> Preview:
    found: list[ReadRow] = []
    problems: list[Problem] = []
    taken: dict[str, int] = {}
    used = set(known)
    numbers: dict[str, int] = {}
    for at, (line, cells) in enumerate(rows):
        if at % HEARD_EVERY == 0:
            heard(at / len(rows))
        figures, faults = _figures(line, cells, columns, kind)
        if kind:
            figures.setdefault("kind", kind)
        notes = {
            header: unquoted(cells[place])
            for place, header in kept.items()
            if place < len(cells) and cells[place].strip()
        }
        tag = str(figures.get("tag", ""))
        if not tag:
            tag = figures["tag"] = fresh_tag(str(figures.get("kind", "")), used, numbers)
        used.add(tag.lower())
        if tag.lower() in taken:
            where = next((each for each in columns if each.field == "tag"), columns[0])
            words = f"the tag {tag} stands in line {taken[tag.lower()]} too"
            faults.append(Problem(line, where.place + 1, where.header, words))
        taken[tag.lower()] = line
        if not faults:
            faults += _take(line, figures, notes, columns, known, found)
        problems += faults
    return Preview(tuple(found), tuple(problems), tuple(kept.values()))


def _take(
    line: int,
    figures: dict[str, Any],
    notes: dict[str, str],
    columns: list[Column],
    known: Mapping[str, Stored],
    found: list[ReadRow],
) -> list[Problem]:
    """Add the row's piece; or say what is wrong with it."""
    before = known.get(str(figures["tag"]).lower())
    try:
        if before is None:
            piece = Stored.model_validate(figures | {"notes": notes})
        else:
            piece = told(before, figures | {"notes": before.notes | notes})
        piece = with_defaults(piece)
    except ValidationError as fault:
        return [_problem(line, columns, error) for error in fault.errors()]
    found.append(ReadRow(line, piece, before is None, tuple(queries(piece, usual_masses()))))
    return []


def _problem(line: int, columns: list[Column], error: Any) -> Problem:
    field = str(error["loc"][0]) if error["loc"] else "kind"
    where = next((each for each in columns if each.field == field), columns[0])
    return Problem(line, where.place + 1, where.header, error_text(error, Display()))


def _figures(
    line: int, cells: list[str], columns: list[Column], kind: str
) -> tuple[dict[str, Any], list[Problem]]:
    """The cells of a row that are not empty, read; and those that could not be."""
    figures: dict[str, Any] = {}
    faults: list[Problem] = []
    for column in columns:
        cell = cells[column.place] if column.place < len(cells) else ""
        text = plain(cell)
        if not text:
            if column.field in ("name", "mass_g") or (column.field == "kind" and not kind):
                faults.append(Problem(line, column.place + 1, column.header, "is needed"))
            continue
        try:
            figures[column.field] = figure(text, column)
        except ValueError as fault:
            faults.append(Problem(line, column.place + 1, column.header, str(fault)))
    return figures, faults


def read_cell(header: str, text: str) -> Any:
    """What a typed figure or word without a quantity says, as a cell of that column would.

    Raises:
        ValueError: with a sentence for whoever typed it.
    """
    field, reads = COLUMNS[header]
    return figure(text.strip(), Column(0, header, field, reads, ""))


def written_cell(piece: Stored, header: str) -> str:
    """A figure of a piece as its column's cell shows it; nothing where it is only estimated."""
    field, reads = COLUMNS[header]
    value = getattr(piece, field)
    if value is None or field in piece.estimated:
        return ""
    return str(value) if reads in ("text", "word") else _cell(value, reads)


def fresh_tag(kind: str, used: Container[str], numbers: dict[str, int]) -> str:
    """A tag for a piece that came without one; numbers holds the last one by kind."""
    stem = "".join(letter for letter in kind.lower() if letter.isalnum())[:12] or "piece"
    number = numbers.get(stem, 0) + 1
    while f"{stem}-{number:04d}" in used:
        number += 1
    numbers[stem] = number
    return f"{stem}-{number:04d}"


def write_gear(pieces: tuple[Stored, ...]) -> str:
    """The store as CSV, with notes as columns; cells that would compute are neutralised.

    Figures that were only filled by default stay empty, so that they are estimated again.
    """
    notes = sorted({name for piece in pieces for name in piece.notes})
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    heads = [
        f"{name} ({_UNITS[field]})" if field in _UNITS else name
        for name, (field, _) in COLUMNS.items()
    ]
    writer.writerow([safe(each) for each in (*heads, *notes)])
    for piece in pieces:
        cells = [
            "" if field in piece.estimated else _cell(getattr(piece, field), reads)
            for field, reads in COLUMNS.values()
        ]
        writer.writerow([*cells, *(safe(piece.notes.get(name, "")) for name in notes)])
    return out.getvalue()


def _cell(value: Any, reads: str) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if reads in ("text", "word"):
        return safe(str(value))
    return f"{value:.10g}" if isinstance(value, float) else str(value)
