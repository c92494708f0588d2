"""Weigh-in: things on a scale one after another, and the whole pack against its sum."""

import time
from collections import deque
from dataclasses import dataclass, field
from datetime import date
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.catalogue import usual_masses
from caldarium.core.load.weighing import PackCheck, check_pack, steady
from caldarium.core.plan.changes import with_person
from caldarium.core.plan.course import Course, PackWeighed
from caldarium.core.stock.inventory import Stored, queries
from caldarium.core.stock.issue import kit_id, reweighed
from caldarium.core.stock.lending import Loan, loans_for
from caldarium.standins.scale import Reading, ScaleError, SimulatedScale
from caldarium.store.courses import NoSuchCourseError, Seen
from caldarium.web.editing import editing
from caldarium.web.forms import MOST, Texts, read, whole
from caldarium.web.load.list_edit import listed_pieces
from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.web.stock.lending import lending_of
from caldarium.web.stock.store import pieces_of
from caldarium.words.load import pack_sentence
from caldarium.words.stock import query_words
from caldarium.words.units import Display

router = APIRouter()
KEPT_PACKS = 40
"""Weighings of one pack that are kept."""
KEPT = 12


@dataclass
class Bench:
    """The scales that are plugged in, and the last readings of each."""

    bench: SimulatedScale = field(default_factory=lambda: SimulatedScale(5000, 1, 7))
    hanging: SimulatedScale = field(default_factory=lambda: SimulatedScale(50000, 10, 8))
    readings: dict[str, deque[float]] = field(
        default_factory=lambda: {"bench": deque(maxlen=KEPT), "hanging": deque(maxlen=KEPT)}
    )

    def scale(self, name: str) -> SimulatedScale:
        """One of the two."""
        return self.hanging if name == "hanging" else self.bench

    def read(self, name: str) -> tuple[Reading | None, float | None, str]:
        """The reading, the settled mass where it is one, and a message where there is none."""
        kept = self.readings["hanging" if name == "hanging" else "bench"]
        try:
            reading = self.scale(name).read(time.monotonic())
        except ScaleError as fault:
            kept.clear()
            return None, None, f"{fault}"
        if reading.state != "settled":
            kept.clear()
            words = "too heavy for this scale" if reading.state == "overload" else ""
            return reading, None, words
        kept.append(reading.net_g)
        return reading, steady(tuple(kept), self.scale(name).division_g), ""


def _bench(request: Request) -> Bench:
    return request.app.state.scales


@router.get("/weigh")
def show(
    request: Request,
    q: Annotated[str, Query()] = "",
    tag: Annotated[str, Query()] = "",
    course: Annotated[int, Query(le=MOST)] = 0,
    person: Annotated[str, Query()] = "",
) -> HTMLResponse:
    """What to weigh next, and the scale."""
    return _weigh_page(request, q, tag, course, person)


def _weigh_page(
    request: Request,
    q: str = "",
    tag: str = "",
    course: int = 0,
    person: str = "",
    message: str = "",
    check: PackCheck | None = None,
    check_words: str = "",
    grams: str = "",
    error: str = "",
    weighed: Stored | None = None,
) -> HTMLResponse:
    pieces = pieces_of(request)
    found = pieces.find(q, most=8).pieces if q.strip() else ()
    known = pieces.known([tag]) if tag else {}
    exact = next((each for each in found if each.tag.lower() == q.strip().lower()), None)
    chosen = known.get(tag.lower()) or exact or (found[0] if len(found) == 1 else None)
    listed = courses_of(request).list()
    people: tuple[tuple[str, str], ...] = ()
    computed = 0.0
    if course:
        try:
            held = courses_of(request).get(course)
            result = assessed(request, course, held.course)
            people = tuple((each.id, each.name) for each in held.course.people)
            computed = next(
                (each.load.carried for each in result.people if each.person == person), 0.0
            )
        except NoSuchCourseError:
            course = 0
    asked = queries(chosen, usual_masses()) if chosen else []
    return page(
        request,
        "stock/weigh.html",
        q=q,
        found=found,
        chosen=chosen,
        message=message,
        asked=asked,
        undo=pieces.last_change(),
        course=course,
        person=person,
        listed=listed,
        people=people,
        computed=computed,
        check=check,
        check_words=check_words,
        weighed=weighed,
        stale=_stale(request, weighed) if weighed else [],
        grams=grams,
        error=error,
    )


@router.get("/weigh/reading")
def reading(request: Request, scale: Annotated[str, Query()] = "bench") -> HTMLResponse:
    """What the scale shows now; the page asks again and again."""
    now, settled, words = _bench(request).read(scale)
    return page(
        request,
        "stock/weigh_reading.html",
        reading=now,
        settled=settled,
        words=words,
        scale="hanging" if scale == "hanging" else "bench",
    )


@router.post("/weigh/scale")
def handle(
    request: Request,
    act: Annotated[str, Form()] = "",
    scale: Annotated[str, Form()] = "bench",
    grams: Annotated[str, Form()] = "",
    q: Annotated[str, Form()] = "",
    tag: Annotated[str, Form()] = "",
    course: Annotated[int, Form()] = 0,
    person: Annotated[str, Form()] = "",
) -> HTMLResponse:
    """What hands do to a scale; putting things on it is simulated."""
    device, now = _bench(request).scale(scale), time.monotonic()
    error = ""
    try:
        if act == "tare":
            device.tare(now)
        elif act == "unplug":
            device.unplug()
        elif act == "plug":
            device.plug(now)
        elif act == "put":
            device.put(_typed_grams(grams, display_of(request)), now)
        elif act == "off":
            device.put(0.0, now)
    except (ScaleError, ValueError) as fault:
        error = f"{fault}"
    _bench(request).readings["hanging" if scale == "hanging" else "bench"].clear()
    return _weigh_page(request, q, tag, course, person, grams=grams if error else "", error=error)


def _typed_grams(text: str, display: Display) -> float:
    value, _ = read(text, "mass", display)
    if value < 0:
        raise ValueError("nothing weighs less than nothing")
    return value


@router.post("/weigh/take")
def take(
    request: Request, tag: Annotated[str, Form()] = "", q: Annotated[str, Form()] = ""
) -> Response:
    """Take the settled reading as a piece's mass."""
    pieces = pieces_of(request)
    stored: Stored = pieces.get(tag)
    _, settled, words = _bench(request).read("bench")
    if settled is None:
        return _weigh_page(request, q, tag, message=words or "Wait until the reading has settled.")
    if settled <= 0:
        return _weigh_page(request, q, tag, message="The scale shows nothing: is it on it?")
    after = stored.altered(
        mass_g=round(settled, 1),
        mass_from="scale",
        mass_on=date.today(),
        estimated=tuple(each for each in stored.estimated if each != "mass_g"),
    )
    display = display_of(request)
    words = f"{stored.name} ({stored.tag}) weighed: {display.mass(settled)}"
    if not pieces.put([after], words):
        words = f"{stored.name} ({stored.tag}) weighs {display.mass(settled)}, as it says"
    slips = queries(after, usual_masses())
    asks = f" {query_words(slips[0], display)}." if slips else ""
    return _weigh_page(request, message=f"{words}. Next one.{asks}", weighed=after)


@router.post("/weigh/reach")
def reach(request: Request, tag: Annotated[str, Form()] = "") -> HTMLResponse:
    """Let a piece's mass reach the courses that have it already, a step in each."""
    stored = pieces_of(request).get(tag)
    courses = courses_of(request)
    reached: list[str] = []
    for loan in _stale(request, stored):
        held = courses.get(loan.course)
        words = f"{stored.name} ({stored.tag}) as it was weighed"
        if courses.change(loan.course, words, lambda now: reweighed(now, stored), Seen(held.mark)):
            reached.append(loan.name)
    told = ", ".join(reached) or "no course"
    mass = display_of(request).mass(stored.mass_g)
    return _weigh_page(request, message=f"{stored.name} weighs {mass} in {told} too. Next one.")


def _stale(request: Request, stored: Stored) -> list[Loan]:
    """Courses in which a piece was given with another mass than it has now."""
    found: list[Loan] = []
    for loan in loans_for(stored, lending_of(request).all()):
        course = courses_of(request).get(loan.course).course
        if reweighed(course, stored) != course:
            found.append(loan)
    return found


@router.post("/weigh/pack")
def pack(
    request: Request, course: Annotated[int, Form()] = 0, person: Annotated[str, Form()] = ""
) -> Response:
    """A whole pack on the hanging scale against the computed sum."""
    if not course or not person:
        return RedirectResponse("/weigh", status_code=303)
    held = courses_of(request).get(course)
    try:
        member = held.course.person(person)
    except KeyError:
        return _weigh_page(request, message="That person is no longer in the course.")
    _, settled, words = _bench(request).read("hanging")
    if settled is None:
        return _weigh_page(
            request,
            course=course,
            person=person,
            message=words or "Wait until the reading has settled.",
        )
    result = assessed(request, course, held.course)
    found = next(each for each in result.people if each.person == person)
    estimated = {kit_id(piece) for piece in pieces_of(request).all() if piece.estimated}
    estimated |= {
        piece.id
        for piece in listed_pieces(member)
        if piece.mass_from in ("not said", "estimate", "guess", "catalogue")
    }
    check = check_pack(held.course, member, found.moments, found.load.carried, settled, estimated)
    return _weigh_page(
        request,
        course=course,
        person=person,
        check=check,
        check_words=pack_sentence(member, check, display_of(request)),
    )


@router.post("/weigh/pack/keep")
def keep_pack(request: Request, form: Texts) -> HTMLResponse:
    """Keep what a whole pack weighed beside its sum, with the person."""
    number, who = whole(form.get("course")) or 0, form.get("person", "")
    edit = editing(request, number, form)
    try:
        person = edit.course.person(who)
        reading = PackWeighed(
            on=date.today(),
            measured_g=float(form.get("measured", "")),
            computed_g=float(form.get("computed", "")),
        )
    except (KeyError, ValueError):
        return _weigh_page(request, course=number, message="That reading cannot be kept.")

    def alter(now: Course) -> Course:
        member = now.person(who)
        return with_person(now, member.altered(packs=(*member.packs, reading)[-KEPT_PACKS:]))

    edit.keep(f"{person.name.split()[0]}'s pack weighed", alter)
    words = f"{person.name}'s pack is kept beside its sum; it stands on the list. Next one."
    return _weigh_page(request, course=number, person=who, message=words)
