"""Weigh-in: things on a scale one after another, and the whole pack against its sum."""

import time
from collections import deque
from dataclasses import dataclass, field
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.changes import find_person
from caldarium.core.inventory import Query as Slip
from caldarium.core.inventory import Stored, queries
from caldarium.core.units import parse_quantity
from caldarium.core.weighing import Candidate, explained, steady
from caldarium.standins.scale import Reading, ScaleError, SimulatedScale
from caldarium.store.courses import NoSuchCourseError
from caldarium.web.page import assessed, courses_of, display_of, page
from caldarium.web.store import pieces_of

router = APIRouter()
KEPT = 12
POCKET_G = 15.0
"""Difference of a whole pack that is not worth a word, and as a share of it: judgement."""
POCKET_SHARE = 0.005


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
    request: Request, q: Annotated[str, Query()] = "", tag: Annotated[str, Query()] = "",
    course: Annotated[int, Query()] = 0, person: Annotated[str, Query()] = "",
) -> HTMLResponse:  # fmt: skip
    """What to weigh next, and the scale."""
    return _weigh_page(request, q, tag, course, person)


def _weigh_page(
    request: Request, q: str = "", tag: str = "", course: int = 0, person: str = "",
    message: str = "", candidates: list[Candidate] | None = None, difference: str = "",
) -> HTMLResponse:  # fmt: skip
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
            computed = next((each.load.carried for each in result.people
                             if each.person == person), 0.0)  # fmt: skip
        except NoSuchCourseError:
            course = 0
    asked: list[Slip] = queries(chosen) if chosen else []
    return page(
        request, "weigh.html", q=q, found=found, chosen=chosen, message=message, asked=asked,
        undo=pieces.last_change(), course=course, person=person, listed=listed, people=people,
        computed=computed, candidates=candidates, difference=difference,
    )  # fmt: skip


@router.get("/weigh/reading")
def reading(request: Request, scale: Annotated[str, Query()] = "bench") -> HTMLResponse:
    """What the scale shows now; the page asks again and again."""
    now, settled, words = _bench(request).read(scale)
    return page(request, "weigh_reading.html", reading=now, settled=settled, words=words,
                scale="hanging" if scale == "hanging" else "bench")  # fmt: skip


@router.post("/weigh/scale")
def handle(
    request: Request, act: Annotated[str, Form()] = "", scale: Annotated[str, Form()] = "bench",
    grams: Annotated[str, Form()] = "", q: Annotated[str, Form()] = "",
    tag: Annotated[str, Form()] = "", course: Annotated[int, Form()] = 0,
    person: Annotated[str, Form()] = "",
) -> HTMLResponse:  # fmt: skip
    """What hands do to a scale; putting things on it is simulated."""
    device, now = _bench(request).scale(scale), time.monotonic()
    message = ""
    try:
        if act == "tare":
            device.tare(now)
        elif act == "unplug":
            device.unplug()
        elif act == "plug":
            device.plug(now)
        elif act == "put":
            device.put(_typed_grams(grams), now)
        elif act == "off":
            device.put(0.0, now)
    except (ScaleError, ValueError) as fault:
        message = f"{fault}"
    _bench(request).readings["hanging" if scale == "hanging" else "bench"].clear()
    return _weigh_page(request, q, tag, course, person, message)


def _typed_grams(text: str) -> float:
    value = parse_quantity(text, "mass")
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
        estimated=tuple(each for each in stored.estimated if each != "mass_g"),
    )
    display = display_of(request)
    words = f"{stored.name} ({stored.tag}) weighed: {display.mass(settled)}"
    if not pieces.put([after], words):
        words = f"{stored.name} ({stored.tag}) weighs {display.mass(settled)}, as it says"
    slips = queries(after)
    asks = f" {slips[0].words}." if slips else ""
    return _weigh_page(request, message=f"{words}. Next one.{asks}")


@router.post("/weigh/pack")
def pack(
    request: Request, course: Annotated[int, Form()] = 0, person: Annotated[str, Form()] = ""
) -> Response:
    """A whole pack on the hanging scale against the computed sum."""
    if not course or not person:
        return RedirectResponse("/weigh", status_code=303)
    held = courses_of(request).get(course)
    try:
        member = find_person(held.course, person)
    except KeyError:
        return _weigh_page(request, message="That person is no longer in the course.")
    _, settled, words = _bench(request).read("hanging")
    if settled is None:
        return _weigh_page(request, course=course, person=person,
                           message=words or "Wait until the reading has settled.")  # fmt: skip
    result = assessed(request, course, held.course)
    found = next(each for each in result.people if each.person == person)
    computed = 1000 * found.load.carried
    worn = next((state.worn for state in found.moments if state.kind == "moving"), ())
    estimated = {piece.tag.lower(): bool(piece.estimated) for piece in pieces_of(request).all()}
    carried = [
        (piece.name, piece.mass_g, estimated.get(piece.id.removeprefix("s-"), False))
        for piece in (*member.garments, *member.pads, *member.items,
                      *((member.bag,) if member.bag else ()))
        if piece.id not in worn and piece.mass_g > 0
    ]  # fmt: skip
    display = display_of(request)
    tolerance = max(POCKET_G, POCKET_SHARE * computed)
    candidates = explained(settled, computed, carried, tolerance)
    off = settled - computed
    difference = (
        f"{member.name}'s pack weighs {display.load(settled / 1000)}, computed "
        f"{display.load(computed / 1000)}: "
        + ("as it should." if abs(off) <= tolerance
           else f"{display.mass(abs(off))} {'more' if off > 0 else 'less'}.")
    )  # fmt: skip
    return _weigh_page(request, course=course, person=person, candidates=candidates,
                       difference=difference)  # fmt: skip
