"""The store as CSV: any delimiter, units in the header or the cell, unknown columns kept as notes.

Columns, in any order; `name`, `kind` and `mass` are needed, and a `tag` to change a piece later:

    tag, name, kind, owner, owner name, count, size, condition, checked (2026-09-21)
    mass             [g, kg, oz, lb], also as 1 lb 3 oz
    cost             a number in the school's own money
    fly              anywhere, hold only, cabin only, never
    like             id of the catalogue's piece it is like
    label            comfort, limit, maker's number; label temperature [°C, °F]
    r-value          [°F ft² h/BTU]; clo; thickness [mm, in]; width [cm, in]; fits to [m, ft]
    capacity         [L, ml, fl oz]; packed [L, ml]; net [g, oz]; kcal; nights used; washes
    spoils below     [°C, °F]
    retired          yes or no

A unit stands in the header, as `mass (oz)` or `width [in]`, or in the cell. An empty cell is no
figure; a piece that is there already keeps what an absent column would say. Cells that a
spreadsheet would take for a formula are written with an apostrophe before them, which is taken off
again on the way in.
"""

import csv
import io
import re
from collections.abc import Container, Mapping
from dataclasses import dataclass
from datetime import date
from typing import Any

from pydantic import ValidationError

from caldarium.core.stock.inventory import Query, Stored, queries, told, with_defaults
from caldarium.formats.fault import FileError, decode
from caldarium.formats.size import header_text, refuse_table
from caldarium.formats.table import delimiter_of
from caldarium.words.faults import error_text
from caldarium.words.typed import parse_quantity
from caldarium.words.units import Display

MOST_ROWS = 20_000
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
    "cost": ("cost", "number"),
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
    "spoils_below_c": "°C",
}
_HEADER = re.compile(r"^(?P<name>[^\[(]*)(?:[\[(](?P<unit>[^\])]*)[\])])?$")
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


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
    """What a file would do: rows, problems (any stops all of it), columns kept as notes."""

    rows: tuple[ReadRow, ...]
    problems: tuple[Problem, ...]
    kept: tuple[str, ...]

    @property
    def fresh(self) -> int:
        """How many rows are for new pieces."""
        return sum(row.new for row in self.rows)

    @property
    def asked_first(self) -> tuple[ReadRow, ...]:
        """Rows with something to ask before the others."""
        return tuple(sorted(self.rows, key=lambda row: not row.asked))


@dataclass(frozen=True)
class _Column:
    place: int
    header: str
    field: str
    reads: str
    unit: str


def read_gear(data: bytes, known: Mapping[str, Stored] | None = None) -> Preview:
    """What a CSV of the store says, without writing anything.

    Args:
        data: the file.
        known: pieces that are there, by tag in lower case.

    Raises:
        FileError: where it is no table at all.
    """
    refuse_table(data)
    text = decode(data)
    if not text.strip():
        raise FileError("the file is empty", 1, 1)
    at, head = next(each for each in enumerate(text.splitlines(), 1) if each[1].strip())
    reader = csv.reader(io.StringIO(text), delimiter=delimiter_of(head, at))
    rows: list[tuple[int, list[str]]] = []
    try:
        for row in reader:
            rows.append((reader.line_num, row))
            if len(rows) > MOST_ROWS:
                raise FileError(f"more than {MOST_ROWS:,} rows", reader.line_num, 1)
    except csv.Error as fault:
        raise FileError(f"no table: {fault}", reader.line_num, 1) from None
    rows = [(line, row) for line, row in rows if any(cell.strip() for cell in row)]
    columns, kept = _columns(rows[0])
    return _read_rows(rows[1:], columns, kept, known or {})


def _columns(head: tuple[int, list[str]]) -> tuple[list[_Column], dict[int, str]]:
    """The columns that are known, and the headers of the others by place."""
    line, cells = head
    found: list[_Column] = []
    others: dict[int, str] = {}
    for place, whole in enumerate(cells):
        cell = header_text(whole, line, place + 1)
        match = _HEADER.match(cell)
        name = (match["name"] if match else cell).strip().lower().replace("_", " ")
        if name in COLUMNS:
            field, reads = COLUMNS[name]
            if any(each.field == field for each in found):
                raise FileError(f"the column “{name}” comes twice", line, place + 1)
            unit = (match["unit"] or "").strip() if match else ""
            found.append(_Column(place, cell.strip(), field, reads, unit))
        elif cell.strip():
            others[place] = cell.strip()[:60]
    missing = {"name", "kind", "mass_g"} - {each.field for each in found}
    if missing:
        wanted = ", ".join(sorted(each.removesuffix("_g") for each in missing))
        raise FileError(f"no column for {wanted}; it has {', '.join(cells)[:200]}", line, 1)
    return found, others


def _read_rows(
    rows: list[tuple[int, list[str]]],
    columns: list[_Column],
    kept: dict[int, str],
    known: Mapping[str, Stored],
) -> Preview:
    found: list[ReadRow] = []
    problems: list[Problem] = []
    taken: dict[str, int] = {}
    used = set(known)
    numbers: dict[str, int] = {}
    for line, cells in rows:
        figures, faults = _figures(line, cells, columns)
        notes = {
            header: _plain(cells[place])
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
    columns: list[_Column],
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
    found.append(ReadRow(line, piece, before is None, tuple(queries(piece))))
    return []


def _problem(line: int, columns: list[_Column], error: Any) -> Problem:
    field = str(error["loc"][0]) if error["loc"] else "kind"
    where = next((each for each in columns if each.field == field), columns[0])
    return Problem(line, where.place + 1, where.header, error_text(error, Display()))


def _figures(
    line: int, cells: list[str], columns: list[_Column]
) -> tuple[dict[str, Any], list[Problem]]:
    """The cells of a row that are not empty, read; and those that could not be."""
    figures: dict[str, Any] = {}
    faults: list[Problem] = []
    for column in columns:
        cell = cells[column.place] if column.place < len(cells) else ""
        text = _plain(cell)
        if not text:
            if column.field in ("name", "kind", "mass_g"):
                faults.append(Problem(line, column.place + 1, column.header, "is needed"))
            continue
        try:
            figures[column.field] = _read(text, column)
        except ValueError as fault:
            faults.append(Problem(line, column.place + 1, column.header, str(fault)))
    return figures, faults


def read_cell(header: str, text: str) -> Any:
    """What a typed figure or word without a quantity says, as a cell of that column would.

    Raises:
        ValueError: with a sentence for whoever typed it.
    """
    field, reads = COLUMNS[header]
    return _read(text.strip(), _Column(0, header, field, reads, ""))


def written_cell(piece: Stored, header: str) -> str:
    """A figure of a piece as its column's cell shows it; nothing where it is only estimated."""
    field, reads = COLUMNS[header]
    value = getattr(piece, field)
    if value is None or field in piece.estimated:
        return ""
    return str(value) if reads in ("text", "word") else _cell(value, reads)


def _plain(cell: str) -> str:
    """A cell's text, without the apostrophe that kept a spreadsheet from computing it."""
    text = cell.strip()
    return text[1:].strip() if text.startswith("'") and text[1:2] in ("'", *_FORMULA) else text


def _read(text: str, column: _Column) -> Any:
    reads = column.reads
    if reads == "text":
        return text
    if reads == "word":
        return text.lower()
    if reads == "yes":
        if text.lower() not in ("yes", "no", "true", "false", "1", "0", "x"):
            raise ValueError(f"“{text}”: write yes or no")
        return text.lower() in ("yes", "true", "1", "x")
    if reads == "date":
        try:
            return date.fromisoformat(text)
        except ValueError:
            raise ValueError(f"“{text}” is no date; write it as 2026-09-21") from None
    if reads in ("number", "whole"):
        value = parse_quantity(text, "number")
        if reads == "whole" and value != int(value):
            raise ValueError(f"“{text}” is no whole number")
        return int(value) if reads == "whole" else value
    bare = text[-1].isdigit() or text[-1] == "."
    full = f"{text} {column.unit}" if bare and column.unit else text
    return parse_quantity(full, reads)


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
    writer.writerow([_safe(each) for each in (*heads, *notes)])
    for piece in pieces:
        cells = [
            "" if field in piece.estimated else _cell(getattr(piece, field), reads)
            for field, reads in COLUMNS.values()
        ]
        writer.writerow([*cells, *(_safe(piece.notes.get(name, "")) for name in notes)])
    return out.getvalue()


def _cell(value: Any, reads: str) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if reads in ("text", "word"):
        return _safe(str(value))
    return f"{value:.10g}" if isinstance(value, float) else str(value)


def _safe(text: str) -> str:
    """Text that no spreadsheet takes for a formula."""
    return f"'{text}" if text.startswith(_FORMULA) or text.startswith("'") else text
