"""Somebody's list, whole: changed in place, several lines at once, out and in as CSV, swapped piece
by piece, and beside another list."""

from dataclasses import dataclass, replace
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Depends, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.catalogue import load_catalogue, usual_masses
from caldarium.core.assess import Assessment
from caldarium.core.load.packing import counted_twice, packing_list
from caldarium.core.load.sheet import first_worn, sheet, totals
from caldarium.core.plan.changes import add_piece, fresh_id, with_person
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.kit import Item
from caldarium.core.plan.value import NotThereError
from caldarium.core.stock.inventory import as_kit, queries
from caldarium.core.what_if.swaps import Swap, Swapped, alternatives, swappable, swapped, swaps
from caldarium.formats.cells import text_of
from caldarium.formats.fault import FileError
from caldarium.formats.list_csv import ListPreview, read_list, write_list
from caldarium.web import forms
from caldarium.web.editing import Editing, editing
from caldarium.web.forms import Sent, file_of
from caldarium.web.load.list_edit import (
    ACTS,
    FROM,
    KINDS,
    NEW_MASS,
    PURPOSES,
    add_thing,
    fields_of,
    keep_row,
    keep_several,
    listed_pieces,
    replaced,
    row_texts,
)
from caldarium.web.load.list_panels import (
    SHOWS,
    SORTS,
    beside_panel,
    line_of,
    sheet_of,
    shown_rows,
    told_rows,
)
from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.web.stock.lending import available
from caldarium.web.urls import course_url
from caldarium.words.course import course_sentence, weekday
from caldarium.words.lists import (
    MASS_FROM,
    SWAP_WHERE,
    SWAP_WHY,
    sheet_sentence,
    swap_sentence,
    totals_sentence,
)
from caldarium.words.units import Display

router = APIRouter()
MOST_FROM_STORE = 40
"""Pieces of the store that are tried in the place of one."""


@dataclass(frozen=True)
class Looking:
    """Whose list is looked at and how: sorted, filtered, searched; the line that is changed, the
    piece that is to be swapped, and the list that lies beside it."""

    person: str = ""
    sort: str = SORTS[0]
    show: str = SHOWS[0]
    q: str = ""
    edit: str = ""
    out: str = ""
    beside: str = ""


@dataclass(frozen=True)
class Answer(forms.Answer):
    """What came of a form: faults by field, what was typed, a message, lines ticked, and what a
    file would do, with its text."""

    ticked: frozenset[str] = frozenset()
    preview: ListPreview | None = None
    text: str = ""


@router.get("/courses/{number}/lists")
def show(request: Request, number: int, looking: Annotated[Looking, Depends()]) -> HTMLResponse:
    """One person's list."""
    return _lists_page(request, number, looking, Answer())


def _lists_page(request: Request, number: int, looking: Looking, answer: Answer) -> HTMLResponse:
    held = courses_of(request).get(number)
    course, display = held.course, display_of(request)
    result = assessed(request, number, course)
    member = course.person(looking.person or course.people[0].id)
    whole, lines = sheet_of(request, held, result, member)
    told = told_rows(course, result, whole, lines, display)
    mine = swappable(member)
    going = next((each for each in mine if each.id == looking.out), None)
    changing = next((e for e in listed_pieces(member) if e.id == looking.edit), None)
    load = result.of(member.id).load
    return page(
        request,
        "load/lists.html",
        beside_panel(courses_of(request), number, course, member, looking.beside, display),
        held=held,
        course=course,
        person=member,
        looking=looking,
        sorts=SORTS,
        shows=SHOWS,
        summary=course_sentence(course, result),
        message=answer.message,
        errors=answer.errors,
        form=answer.form,
        ticked=answer.ticked,
        totals_words=totals_sentence(totals(load), weekday(course, 0, whole=True), display),
        mornings=list(zip(totals(load).mornings, load.by_day, strict=True)),
        sheet_words=sheet_sentence(whole, display),
        parts=shown_rows(told, looking.sort, looking.show, looking.q),
        mass_from=MASS_FROM,
        changing=changing,
        row_fields=fields_of(changing) if changing else [],
        row_values=(row_texts(changing, display) if changing else {}) | dict(answer.form),
        kinds=KINDS,
        froms=FROM,
        purposes=PURPOSES,
        acts=ACTS,
        new_mass=NEW_MASS,
        things=member.items,
        preview=answer.preview,
        preview_text=answer.text,
        mine=mine,
        swaps_of={each.id for each in mine},
        going=going,
        swaps=_swap_rows(request, number, course, result, member, going, display),
        swap_where=SWAP_WHERE,
        swap_why=SWAP_WHY,
        twice=counted_twice(packing_list(course, member)),
    )


def _swap_rows(
    request: Request,
    number: int,
    course: Course,
    result: Assessment,
    member: Person,
    going: Swapped | None,
    display: Display,
) -> list[tuple[str, Swap, str]]:
    """What could take a piece's place: the key to take it by, the swap, and its sentence."""
    if going is None:
        return []
    shelf = _shelf(request, number, course, going)
    keys = {id(piece): key for key, piece in shelf.items()}
    found = swaps(course, result, member, going, list(shelf.values()))
    moments = result.timeline.moments
    return [
        (keys[id(each.piece)], each, swap_sentence(course, each, moments, display))
        for each in found
    ]


def _shelf(request: Request, number: int, course: Course, out: Swapped) -> dict[str, Swapped]:
    """What could take a piece's place: the store's own but for those with something to ask or not
    to be given, and what only the catalogue has."""
    catalogue = load_catalogue().everything
    usual = usual_masses()
    stored = [each for each in available(request, number, course) if not queries(each, usual)]
    kits = [as_kit(each, catalogue, fresh_id(each.tag, ())) for each in stored]
    tags = {id(kit): each.tag for kit, each in zip(kits, stored, strict=True)}
    own = alternatives(out, kits)[:MOST_FROM_STORE]
    there = {(kit.name, kit.mass_g) for kit in own}
    shelf = {f"store:{tags[id(kit)]}": kit for kit in own}
    for each in alternatives(out, catalogue.values()):
        if (each.name, each.mass_g) not in there:
            shelf[f"+{each.id}"] = each
    return shelf


@router.get("/courses/{number}/lists.csv")
def export(request: Request, number: int, looking: Annotated[Looking, Depends()]) -> Response:
    """One person's list as CSV."""
    held = courses_of(request).get(number)
    result = assessed(request, number, held.course)
    member = held.course.person(looking.person or held.course.people[0].id)
    whole, lines = sheet_of(request, held, result, member)
    told = {row.id: line.verdict for row in whole.rows if (line := line_of(row, lines))}
    return Response(
        write_list(whole, told),
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="list-{member.id}.csv"'},
    )


@router.post("/courses/{number}/lists/file")
def look_at_file(request: Request, number: int, sent: Sent) -> HTMLResponse:
    """What a CSV would do to somebody's list, before anything of it is done."""
    looking = Looking(person=str(sent.get("person", "")))
    name, data = file_of(sent)
    if not name:
        return _lists_page(request, number, looking, Answer(message="Choose a file first."))
    try:
        preview = _preview(request, number, looking.person, data)
    except FileError as fault:
        words = f"{name} was not taken. {fault}"
        return _lists_page(request, number, looking, Answer(message=words))
    text = text_of(data)[0]
    return _lists_page(request, number, looking, Answer(preview=preview, text=text))


def _preview(request: Request, number: int, who: str, data: bytes) -> ListPreview:
    held = courses_of(request).get(number)
    member = held.course.person(who)
    result = assessed(request, number, held.course)
    rows = sheet(held.course, member, first_worn(result.of(who).moments)).rows
    others = [row for row in rows if not row.own]
    told = tuple(each for row in others for each in (row.id, row.name))
    return read_list(data, tuple(listed_pieces(member)), told)


@router.post("/courses/{number}/lists")
def change(request: Request, number: int, sent: Sent) -> Response:
    """One line, several at once, a new thing, a file that was looked at, or a swap."""
    form = {name: str(value) for name, value in sent.items()}
    ticked = [str(each) for each in sent.getlist("tick")]
    edit, display = editing(request, number, form), display_of(request)
    looking = Looking(**{name: form.get(name, "") for name in Looking.__dataclass_fields__})
    looking = replace(looking, sort=looking.sort or SORTS[0], show=looking.show or SHOWS[0])
    act = form.get("act", "")
    errors, message = {}, ""
    if form.get("take"):
        _take(request, edit, looking.person, looking.out, form["take"])
        looking = replace(looking, out="")
    elif act == "row":
        errors = keep_row(edit, form, display)
    elif act == "several":
        message = keep_several(edit, form, ticked)
    elif act == "add":
        errors = add_thing(edit, form, display)
    elif act == "file":
        message = _take_file(request, edit, looking.person, form.get("text", ""))
    if errors or message:
        answer = Answer(errors, form if errors else {}, message, frozenset(ticked))
        return _lists_page(request, number, looking, answer)
    after = replace(looking, edit="") if act == "row" else looking
    return RedirectResponse(course_url(number, "lists", **vars(after)), 303)


def _take_file(request: Request, edit: Editing, who: str, text: str) -> str:
    """Do what a file that was looked at says; a message where nothing of it was done."""
    try:
        preview = _preview(request, edit.number, who, text.encode())
    except FileError as fault:
        return f"That was not taken. {fault}"
    if preview.problems:
        return "That has a problem now; look at the file again."

    def alter(now: Course) -> Course:
        person = now.person(who)
        for each in preview.changes:
            piece = each.piece
            person = (
                add_piece(person, piece)
                if each.new and isinstance(piece, Item)
                else replaced(person, piece)
            )
        return with_person(now, person)

    if preview.changes:
        edit.keep(f"{len(preview.changes)} lines of a file", alter)
    return ""


def _take(request: Request, edit: Editing, who: str, out: str, taken: str) -> None:
    """Swap one piece for another.

    Raises:
        NotThereError: where either is not there.
    """
    member = edit.course.person(who)
    going = next((each for each in swappable(member) if each.id == out), None)
    if going is None:
        raise NotThereError("piece", out)
    piece = _shelf(request, edit.number, edit.course, going).get(taken)
    if piece is None:
        raise NotThereError("piece", taken.lstrip("+"))
    words = f"{member.name.split()[0]}: {piece.name} for {going.name}"
    edit.keep(words, partial(_swapped, who=who, out=out, piece=piece))


def _swapped(course: Course, who: str, out: str, piece: Swapped) -> Course:
    member = course.person(who)
    going = next((each for each in swappable(member) if each.id == out), None)
    return course if going is None else with_person(course, swapped(member, going, piece))
