"""Answers of the diary as forms send them, read as what is kept; the same with a script and
without."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from caldarium.core.log.diary import ASKED
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import (
    PARTY,
    Event,
    Found,
    Halted,
    Lay,
    Led,
    OthersRight,
    Scaled,
    Slept,
    Was,
    Went,
)
from caldarium.core.plan.value import NotThereError
from caldarium.web.forms import read
from caldarium.words.typed import parse_clock
from caldarium.words.units import Display

Fields = Mapping[str, str | Sequence[str]]
AT_OWN_PLACE, IN_THE_OPEN = "planned", "open"


@dataclass(frozen=True)
class _Form:
    """What was sent, the course it is of, and the units of bare figures."""

    fields: Fields
    course: Course
    display: Display

    def one(self, name: str) -> str:
        """The last text of a name, empty where none was sent."""
        found = self.fields.get(name, "")
        return (found if isinstance(found, str) else found[-1] if found else "").strip()

    def many(self, name: str) -> tuple[str, ...] | None:
        """What is ticked of pieces; None where they were not asked or are as planned."""
        planned = self.fields.get(f"{name}-planned")
        if planned is None:
            return None
        found = self.fields.get(name, ())
        told = tuple(dict.fromkeys([found] if isinstance(found, str) else found))
        return None if set(told) == set(str(planned).split()) else told

    @property
    def day(self) -> int:
        """A day of the course, from 0."""
        text = self.one("day")
        plain = text.isascii() and text.isdigit() and len(text) < 3
        if not plain or int(text) >= len(self.course.days):
            raise NotThereError("day", text)
        return int(text)

    @property
    def person(self) -> str:
        """Somebody of the course."""
        return self.course.person(self.one("person")).id

    @property
    def moment(self) -> str:
        """A moment that a diary asks of, of a day of the course."""
        name = self.one("moment")
        day, _, rest = name.partition(".")
        kinds = tuple(kind.replace(" ", "-") for kind in ASKED)
        if not rest.endswith(kinds) or day not in map(str, range(1, len(self.course.days) + 1)):
            raise NotThereError("moment", name)
        return name

    def figure(self, name: str, kind: str) -> float:
        """A quantity as people type it."""
        if not self.one(name):
            raise ValueError("nothing was typed")
        return read(self.one(name), kind, self.display)[0]


def event_of(fields: Fields, course: Course, display: Display) -> Event:
    """What a form says.

    Args:
        fields: by name; of a name that was sent more than once, all.
        course: whose people, moments and legs are meant.
        display: units of bare figures.

    Raises:
        ValueError: with a sentence for whoever typed it.
        NotThereError: for what is not there.
    """
    form = _Form(fields, course, display)
    kind = form.one("kind")
    if kind not in _READ:
        raise ValueError(f"“{kind[:30]}” is not asked here")
    return _READ[kind](form)


def _slept(form: _Form) -> Event:
    woke = form.one("woke")
    return Slept.model_validate(
        {
            "person": form.person,
            "day": form.day,
            "felt": form.one("felt"),
            "woke_h": parse_clock(woke) % 24 if woke else None,
        }
    )


def _lay(form: _Form) -> Event:
    planned = form.course.person(form.person).on_night(form.day).shelter or IN_THE_OPEN
    where = form.one("shelter") or AT_OWN_PLACE
    moved = where not in (AT_OWN_PLACE, planned)
    shelter = form.course.shelter(where).id if moved and where != IN_THE_OPEN else None
    return Lay.model_validate(
        {
            "person": form.person,
            "day": form.day,
            "worn": form.many("worn"),
            "pads": form.many("pads"),
            "moved": moved,
            "shelter": shelter,
            "vents": form.one("vents") or "as planned",
        }
    )


def _was(form: _Form) -> Event:
    return Was.model_validate(
        {
            "person": form.person,
            "moment": form.moment,
            "felt": form.one("felt"),
            "fingers": form.one("fingers") or "fine",
            "sweat": bool(form.one("sweat")),
            "wet": bool(form.one("wet")),
            "worn": form.many("worn"),
        }
    )


def _others(form: _Form) -> Event:
    return OthersRight.model_validate({"day": form.day, "part": form.one("part")})


def _halted(form: _Form) -> Event:
    return Halted(moment=form.moment, minutes=form.figure("minutes", "minutes"))


def _went(form: _Form) -> Event:
    leg = form.one("leg")
    if all(each.id != leg for each in form.course.days[form.day].legs):
        raise NotThereError("leg", leg)
    return Went(day=form.day, leg=leg, hours=form.figure("hours", "hours"))


def _led(form: _Form) -> Event:
    return Led(day=form.day, person=form.person)


def _scaled(form: _Form) -> Event:
    return Scaled(person=form.person, day=form.day, grams=form.figure("grams", "mass"))


def _found(form: _Form) -> Event:
    subject, name = form.one("subject"), form.one("name")
    if not name:
        raise ValueError("say what it was")
    told = {each: form.one(each) for each in ("subject", "what", "name", "piece", "tag", "note")}
    if subject != PARTY and not told["piece"]:
        person = form.course.person(subject)
        pieces = (*person.garments, *person.items, *person.bed_parts)
        theirs = next((each for each in pieces if each.name.casefold() == name.casefold()), None)
        if theirs is not None:
            told |= {"piece": theirs.id, "name": theirs.name, "tag": told["tag"] or theirs.tag}
        elif told["what"] == "unused":
            raise ValueError(f"{person.name} has nothing called “{name[:60]}”")
    return Found.model_validate(told | {"so": form.one("so") != "no"})


_READ: Mapping[str, Callable[[_Form], Event]] = {
    "slept": _slept,
    "lay": _lay,
    "was": _was,
    "others right": _others,
    "halted": _halted,
    "went": _went,
    "led": _led,
    "scaled": _scaled,
    "found": _found,
}
