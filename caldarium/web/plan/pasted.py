"""Rows pasted from a spreadsheet: which column is which, by its heading or by its place."""

import csv
import re
from collections.abc import Mapping, Sequence

from caldarium.web.forms import Field

MOST_ROWS = 40


def table_of(text: str) -> list[list[str]]:
    """Cells of a pasted table, parted by tabs, else semicolons, else commas; empty lines left out.

    A comma parts cells only where neither of the others does, and quotes hold one together.
    """
    lines = [line for line in text.splitlines() if line.strip()]
    for mark in ("\t", ";", ","):
        if any(mark in line for line in lines):
            break
    else:
        mark = "\t"
    rows = csv.reader(lines, delimiter=mark, skipinitialspace=True)
    return [[cell.strip() for cell in row] for row in rows][: MOST_ROWS + 1]


def by_column(
    text: str, columns: Sequence[str], headings: Mapping[str, Sequence[str]]
) -> tuple[list[dict[str, str]], list[str]]:
    """Rows of a pasted table by column.

    Args:
        text: as it was pasted.
        columns: in their order, for a table without headings.
        headings: words that a heading of a column can begin with, small, by column.

    Returns:
        Cells by column of each row, and headings that belong to none.
    """
    table = table_of(text)
    if not table:
        return [], []
    named = [_column(cell, headings) for cell in table[0]]
    if sum(name is not None for name in named) >= max(1, len(named) // 2) and not any(
        re.search(r"\d", cell) for cell in table[0]
    ):
        unknown = [
            cell for cell, name in zip(table[0], named, strict=True) if cell and name is None
        ]
        rows, places = table[1:], named
    else:
        rows, places, unknown = table, list(columns), []
    found = [
        {name: cell for name, cell in zip(places, row, strict=False) if name and cell}
        for row in rows
    ]
    return found[:MOST_ROWS], unknown


def pasted_fields(
    prefix: str, text: str, columns: Sequence[Field], headings: Mapping[str, Sequence[str]]
) -> tuple[dict[str, str], int, list[str]]:
    """Fields of a table of a form as a pasted one says them, its rows, and unknown headings."""
    rows, unknown = by_column(text, [each.name for each in columns], headings)
    fields = {
        f"{prefix}{row}.{column}": cell
        for row, cells in enumerate(rows)
        for column, cell in cells.items()
    }
    return fields, len(rows), unknown


def _column(heading: str, headings: Mapping[str, Sequence[str]]) -> str | None:
    """The column that a heading names: the one with the longest word that it begins with."""
    plain = re.sub(r"[^a-z ]", " ", heading.lower()).strip()
    matching = [
        (len(word), name)
        for name, words in headings.items()
        for word in words
        if re.match(rf"{word}\b", plain)
    ]
    return max(matching)[1] if matching else None
