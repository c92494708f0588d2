"""Cells of tables that people keep: their encoding, columns, figures, and what a spreadsheet would
take for a formula."""

import csv
import io
import re
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from typing import Any

from caldarium.formats.fault import FileError, decode
from caldarium.formats.size import header_text, refuse_table
from caldarium.formats.table import delimiter_of
from caldarium.words.typed import parse_quantity

MOST_ROWS = 20_000
WINDOWS = "cp1252"
_HEADER = re.compile(r"^(?P<name>[^\[(]*)(?:[\[(](?P<unit>[^\])]*)[\])])?$")
_FORMULA = ("=", "+", "-", "@", "\t", "\r")
_MARKS = ((b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16"), (b"\xef\xbb\xbf", "utf-8-sig"))


@dataclass(frozen=True)
class Column:
    """A column of a file that is known: its place, header, field, how its cells are read, and the
    unit in its header."""

    place: int
    header: str
    field: str
    reads: str
    unit: str


def text_of(data: bytes) -> tuple[str, str]:
    """Text of a table in whatever encoding a spreadsheet wrote it, and the name of that.

    Raises:
        FileError: naming line and column, where it is in none of them.

    Source: byte-order marks; UTF-16 without one by its zero bytes; Windows-1252 where it is no
        UTF-8.
    """
    for mark, encoding in _MARKS:
        if data.startswith(mark):
            return decode(data, encoding), encoding.removesuffix("-sig").upper()
    head = data[:400]
    if head[1::2].count(0) > len(head) // 4:
        return decode(data, "utf-16-le"), "UTF-16"
    if head[0::2].count(0) > len(head) // 4:
        return decode(data, "utf-16-be"), "UTF-16"
    try:
        return data.decode("utf-8"), "UTF-8"
    except UnicodeDecodeError:
        try:
            return data.decode(WINDOWS), "Windows-1252"
        except UnicodeDecodeError:
            return decode(data), "UTF-8"


def rows_of(data: bytes) -> tuple[list[tuple[int, list[str]]], str]:
    """Rows of a table with their lines from 1, empty ones left out, and the file's encoding.

    Raises:
        FileError: where it is no table at all.
    """
    text, encoding = text_of(data)
    refuse_table(text.encode())
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
    return [(line, row) for line, row in rows if any(cell.strip() for cell in row)], encoding


def header_name(cell: str) -> str:
    """A header without its unit, in lower case with single blanks."""
    match = _HEADER.match(" ".join(cell.split()))
    return (match["name"] if match else cell).strip().lower().replace("_", " ")


def columns_of(
    head: tuple[int, list[str]],
    known: Mapping[str, tuple[str, str]],
    mapped: Mapping[str, str] | None = None,
) -> tuple[list[Column], dict[int, str]]:
    """The columns that are known, and the headers of the others by place.

    Args:
        head: line and cells of the header.
        known: field and how it is read, by header in lower case.
        mapped: headers of known columns by what people call them, in lower case; "" for a column
            that is kept as it is.

    Raises:
        FileError: where a column comes twice.
    """
    line, cells = head
    found: list[Column] = []
    others: dict[int, str] = {}
    for place, whole in enumerate(cells):
        cell = header_text(whole, line, place + 1)
        match, name = _HEADER.match(cell), header_name(cell)
        told = mapped or {}
        name = told.get(cell.strip().lower(), told.get(name, name))
        if name in known:
            field, reads = known[name]
            if any(each.field == field for each in found):
                raise FileError(f"the column “{name}” comes twice", line, place + 1)
            unit = (match["unit"] or "").strip() if match else ""
            found.append(Column(place, cell.strip(), field, reads, unit))
        elif cell.strip():
            others[place] = cell.strip()[:60]
    return found, others


def table(
    data: bytes, known: Mapping[str, tuple[str, str]]
) -> tuple[list[Column], list[tuple[int, list[str]]], list[str]]:
    """A table's known columns, its rows, and the headers of what is not known.

    Raises:
        FileError: where it is no table.
    """
    rows, _ = rows_of(data)
    columns, others = columns_of(rows[0], known)
    return columns, rows[1:], list(others.values())


def plain(cell: str) -> str:
    """A cell's text, without the apostrophe that kept a spreadsheet from computing it."""
    text = cell.strip()
    return text[1:].strip() if text.startswith("'") and text[1:2] in ("'", *_FORMULA) else text


def unquoted(cell: str) -> str:
    """A cell as it is, blanks and all, without the apostrophe that safe puts before it."""
    return cell[1:] if cell.startswith("'") and cell[1:2] in ("'", *_FORMULA) else cell


def safe(text: str) -> str:
    """Text that no spreadsheet takes for a formula."""
    return f"'{text}" if text.startswith(_FORMULA) or text.startswith("'") else text


def figure(text: str, column: Column) -> Any:
    """What a cell that is not empty says.

    Raises:
        ValueError: with a sentence for whoever typed it.
    """
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
