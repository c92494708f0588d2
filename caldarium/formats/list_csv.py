"""Somebody's list as CSV, out and in again.

Columns: category, name, where, count, mass (g) of one, all (g), mass from, on, inside, spare,
mandatory, kind, for, id. Coming in, `name` and `mass` are needed and may stand in any order, with a
unit in the header or the cell; a row whose id or name is on the list changes that line, another one
is a new thing; lines that are not in the file stay as they are. What is carried for others, food,
fuel and water are told and not read.
"""

import csv
import io
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, get_args

from pydantic import ValidationError

from caldarium.core.load.sheet import Row, Sheet
from caldarium.core.plan.changes import fresh_id
from caldarium.core.plan.kit import BedPart, Garment, Item, ItemKind, MassFrom
from caldarium.core.stock.kinds import KINDS
from caldarium.formats.cells import Column, figure, plain, safe, table
from caldarium.formats.fault import FileError
from caldarium.words.faults import error_text
from caldarium.words.units import Display

COLUMNS: dict[str, tuple[str, str]] = {
    "name": ("name", "text"),
    "count": ("count", "whole"),
    "mass": ("mass_g", "mass"),
    "mass from": ("mass_from", "word"),
    "on": ("mass_on", "date"),
    "inside": ("inside", "text"),
    "spare": ("spare", "yes"),
    "mandatory": ("listed", "yes"),
    "kind": ("kind", "word"),
    "id": ("id", "text"),
}
"""Columns that are read: the field, and how a cell is read."""
_TOLD = ("category", "where", "all", "for", "verdict")
Listed = Garment | BedPart | Item


@dataclass(frozen=True)
class ListProblem:
    """What is wrong in a file: its line from 1, the column's header, the message."""

    line: int
    header: str
    words: str


@dataclass(frozen=True)
class ListChange:
    """A row that changes a line or adds one: the piece as it would be."""

    line: int
    piece: Listed
    new: bool


@dataclass(frozen=True)
class ListPreview:
    """What a file would do; any problem stops all of it. alike counts rows that change nothing."""

    changes: tuple[ListChange, ...]
    problems: tuple[ListProblem, ...]
    alike: int
    ignored: tuple[str, ...]


def write_list(found: Sheet, verdicts: Mapping[str, str]) -> str:
    """A list as CSV, cells that would compute neutralised.

    Args:
        found: the list.
        verdicts: what each line is there for, by its id.
    """
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(
        [
            "category",
            "name",
            "where",
            "count",
            "mass (g)",
            "all (g)",
            "mass from",
            "on",
            "inside",
            "spare",
            "mandatory",
            "kind",
            "for",
            "verdict",
            "id",
        ]
    )
    names = {row.id: row.name for row in found.rows}
    for part in found.parts:
        for row in part.rows:
            writer.writerow([safe(each) for each in _cells(row, names, verdicts)])
    return out.getvalue()


def _cells(row: Row, names: Mapping[str, str], verdicts: Mapping[str, str]) -> list[str]:
    return [
        row.category,
        row.name,
        row.where,
        str(row.count),
        f"{row.each_g:.10g}",
        f"{row.grams:.10g}",
        row.mass_from if row.own else "",
        row.mass_on.isoformat() if row.mass_on else "",
        names.get(row.inside or "", ""),
        "yes" if row.spare else "no",
        "yes" if row.listed else "no",
        row.kind,
        row.purpose,
        verdicts.get(row.id, ""),
        row.id,
    ]


def read_list(data: bytes, listed: tuple[Listed, ...], told: tuple[str, ...]) -> ListPreview:
    """What a CSV says of somebody's list, without changing anything.

    Args:
        data: the file.
        listed: what is on it now.
        told: ids and names of lines that are not the person's own, which are passed over.

    Raises:
        FileError: where it is no table, or has no names or masses.
    """
    head, rows, others = table(data, COLUMNS)
    missing = {"name", "mass_g"} - {each.field for each in head}
    if missing:
        words = " and ".join(sorted(each.removesuffix("_g") for each in missing))
        raise FileError(f"no column for {words}", 1, 1)
    by_id = {each.id: each for each in listed}
    by_name = {each.name.lower(): each for each in listed}
    passed = {each.lower() for each in told}
    changes: list[ListChange] = []
    problems: list[ListProblem] = []
    taken, alike = list(by_id), 0
    for line, cells in rows:
        figures, faults = _figures(line, cells, head)
        if str(figures.get("id", "")).lower() in passed:
            continue
        name = str(figures.get("name", ""))
        if not figures.get("id") and name.lower() in passed:
            continue
        before = by_id.get(str(figures.pop("id", ""))) or by_name.get(name.lower())
        if "inside" in figures:
            around = by_name.get(str(figures["inside"]).lower()) or by_id.get(figures["inside"])
            if around is None:
                words = f"{figures['inside']} is not on the list"
                faults.append(ListProblem(line, "inside", words))
            figures["inside"] = around.id if around else None
        if faults:
            problems += faults
            continue
        try:
            after = _piece(before, figures, taken)
        except ValidationError as fault:
            for error in fault.errors():
                where = str(error["loc"][0]) if error["loc"] else "name"
                problems.append(ListProblem(line, where, error_text(error, Display())))
            continue
        if after == before:
            alike += 1
            continue
        taken.append(after.id)
        changes.append(ListChange(line, after, before is None))
    ignored = tuple(each for each in others if each.strip().lower() not in _TOLD)
    return ListPreview(tuple(changes), tuple(problems), alike, ignored)


def _piece(before: Listed | None, figures: dict[str, Any], taken: list[str]) -> Listed:
    if before is not None:
        known = type(before).model_fields
        own = {name: value for name, value in figures.items() if name in known}
        return before.altered(**own)
    kind = figures.get("kind", "")
    kind = kind if kind in get_args(ItemKind) else ""
    return Item.model_validate(
        {"mass_from": "estimate"}
        | figures
        | {
            "id": fresh_id(str(figures["name"]), taken),
            "kind": kind,
            "purpose": KINDS[kind].purpose if kind in KINDS else "comfort",
        }
    )


def _figures(
    line: int, cells: list[str], head: list[Column]
) -> tuple[dict[str, Any], list[ListProblem]]:
    figures: dict[str, Any] = {}
    faults: list[ListProblem] = []
    for column in head:
        text = plain(cells[column.place]) if column.place < len(cells) else ""
        if not text:
            if column.field in ("name", "mass_g"):
                faults.append(ListProblem(line, column.header, "is needed"))
            continue
        try:
            figures[column.field] = figure(text, column)
        except ValueError as fault:
            faults.append(ListProblem(line, column.header, str(fault)))
    if figures.get("mass_from", "not said") not in get_args(MassFrom):
        words = "is one of " + ", ".join(get_args(MassFrom))
        faults.append(ListProblem(line, "mass from", words))
    return figures, faults
