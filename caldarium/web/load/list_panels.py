"""The parts of the list page, each a small value of what it shows."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fastapi import Request

from caldarium.core.assess import Assessment
from caldarium.core.load.packing import ListsCompared, compare_lists, packing_list
from caldarium.core.load.sheet import CATEGORIES, Row, Sheet, first_worn, sheet
from caldarium.core.plan.course import Course, Person
from caldarium.core.what_if.idle import Line, ledger
from caldarium.store.courses import Courses, Held
from caldarium.web.page import idle_of
from caldarium.words.lists import SPLIT, lists_sentence
from caldarium.words.load import why_words
from caldarium.words.units import Display

SORTS = ("by category", "by mass", "by name", "by verdict")
WHERE = ("worn", "packed", "shared", "consumed", "helped")
SHOWS = ("everything", *WHERE, "idle", "not weighed", "spare")
VERDICTS = ("idle", "choice", "closes", "needed", "kept", "")


@dataclass(frozen=True)
class Told:
    """One line as it is shown: the row, and the ledger's verdict and reason, empty where there is
    none."""

    row: Row
    verdict: str
    why: str


@dataclass(frozen=True)
class Shown:
    """A stretch of the list: its heading, what all of it weighs [g], and its lines."""

    title: str
    grams: float
    rows: tuple[Told, ...]


@dataclass(frozen=True)
class BesidePanel:
    """Another list beside this one: those there are to choose from, the chosen one, how they
    differ."""

    others: list[tuple[str, str]]
    beside: str
    compared: ListsCompared | None
    compared_words: str


def sheet_of(
    request: Request, held: Held, result: Assessment, member: Person
) -> tuple[Sheet, dict[str, Line]]:
    """Somebody's whole list, and the ledger's lines by id."""
    whole = sheet(held.course, member, first_worn(result.of(member.id).moments))
    idle = idle_of(request, held, result, member.id)
    return whole, {each.piece: each for each in ledger(held.course, member, result, idle)}


def line_of(row: Row, lines: Mapping[str, Line]) -> Line | None:
    """The ledger's line of a row: by its id, or for shared kit the first of that kit."""
    if row.id in lines or row.where != "shared":
        return lines.get(row.id)
    name = row.id.partition(".")[2]
    shared = (line for key, line in lines.items() if name in key.split("."))
    return next(shared, None)


def told_rows(
    course: Course,
    result: Assessment,
    whole: Sheet,
    lines: Mapping[str, Line],
    display: Display,
) -> list[Told]:
    """Every line with its verdict."""
    moments = {each.id: each for each in result.timeline.moments}
    found: list[Told] = []
    for row in whole.rows:
        line = line_of(row, lines)
        why = "" if line is None else why_words(course, line, moments, display)
        if line is None and row.kind == "share":
            why = SPLIT
        found.append(Told(row, "" if line is None else line.verdict, why))
    return found


def shown_rows(told: Sequence[Told], sort: str, show: str, letters: str) -> list[Shown]:
    """The lines that are looked at: by category with subtotals, what is in a thing under it; or in
    one stretch where sorted otherwise."""
    words = letters.lower().split()
    kept = [
        each
        for each in told
        if _fits(each, show) and all(word in each.row.name.lower() for word in words)
    ]
    if sort == "by category":
        found = [
            (category, _nested([each for each in kept if each.row.category == category]))
            for category in CATEGORIES
        ]
        return [_stretch(title, rows) for title, rows in found if rows]
    if sort == "by mass":
        kept.sort(key=lambda each: -each.row.grams)
    elif sort == "by name":
        kept.sort(key=lambda each: each.row.name.lower())
    else:
        kept.sort(key=lambda each: (VERDICTS.index(each.verdict), -each.row.grams))
    return [_stretch(sort, kept)] if kept else []


def _stretch(title: str, rows: Sequence[Told]) -> Shown:
    return Shown(title, sum(each.row.grams for each in rows), tuple(rows))


def _fits(each: Told, show: str) -> bool:
    row = each.row
    if show == "idle":
        return each.verdict == "idle"
    if show == "not weighed":
        return row.own and row.mass_from not in ("scale", "label")
    if show == "spare":
        return row.spare or (each.verdict == "kept" and "dry set" in each.why)
    return show not in WHERE or row.where == show


def _nested(rows: Sequence[Told]) -> list[Told]:
    """Rows with what is inside each right under it."""
    known = {each.row.id for each in rows}
    inside: dict[str | None, list[Told]] = {}
    for each in rows:
        around = each.row.inside if each.row.inside in known else None
        inside.setdefault(around, []).append(each)

    def under(around: str | None) -> list[Told]:
        found: list[Told] = []
        for each in inside.get(around, []):
            found += [each, *under(each.row.id)]
        return found

    return under(None)


def beside_panel(
    courses: Courses, number: int, course: Course, member: Person, wanted: str, display: Display
) -> BesidePanel:
    """Another list beside somebody's: the chosen one, or the first that there is."""
    others = _others(courses, number, course)
    others.pop(f"{number}.{member.id}")
    beside = wanted if wanted in others else next(iter(others), "")
    compared, words = None, ""
    if beside:
        label, other_course, other = others[beside]
        compared = compare_lists(packing_list(other_course, other), packing_list(course, member))
        words = lists_sentence(compared, label, member.name, display)
    listed = [(key, label) for key, (label, _, _) in others.items()]
    return BesidePanel(listed, beside, compared, words)


def _others(courses: Courses, number: int, course: Course) -> dict[str, tuple[str, Course, Person]]:
    """Lists that one can be laid beside: everybody's here, and in the other courses."""
    found = {f"{number}.{each.id}": (f"{each.name}, here", course, each) for each in course.people}
    for row in courses.list():
        if row.id != number:
            other = courses.get(row.id).course
            for each in other.people:
                found[f"{row.id}.{each.id}"] = (f"{each.name}, {other.name}", other, each)
    return found
