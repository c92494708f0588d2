"""Forms: what stands in a field, what was typed into it, and what is wrong with that."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Annotated

from fastapi import Depends, Request
from pydantic import ValidationError
from starlette.datastructures import FormData, UploadFile

from caldarium.words.faults import error_text
from caldarium.words.typed import parse_quantity, typed
from caldarium.words.units import Display, written

MOST_FIELDS = 5000
"""Fields that a form may send: the largest of ours has some two thousand."""
MOST_TEXT = 1_000_000
"""Bytes that one text of a form may have."""


@dataclass(frozen=True)
class Answer:
    """What came of a form: faults by field, what was typed, a message."""

    errors: Mapping[str, str] = field(default_factory=dict)
    form: Mapping[str, str] = field(default_factory=dict)
    message: str = ""


@dataclass(frozen=True)
class Field:
    """A field of a form: name in the request, label, kind of quantity, hint, and whether it may be
    left empty."""

    name: str
    label: str
    kind: str
    hint: str = ""
    may_be_empty: bool = False


@dataclass(frozen=True)
class Entry:
    """A field with the text that stands in it and the message under it."""

    field: Field
    text: str
    error: str = ""


@dataclass
class Reading:
    """What a form says of some fields that were changed in it.

    values are in the core's units, None for a field left empty; texts are as they were typed, with
    their unit; errors are messages for what cannot be taken. All by the field's name.
    """

    values: dict[str, float | None] = field(default_factory=dict)
    texts: dict[str, str] = field(default_factory=dict)
    errors: dict[str, str] = field(default_factory=dict)

    def refuse(
        self,
        fault: ValidationError,
        display: Display,
        at: Mapping[str, str] | None = None,
        else_at: str = "",
    ) -> None:
        """Put what the validator says at the fields it was typed in; see faults_at."""
        at = {name: name for name in self.values} if at is None else at
        self.errors |= faults_at(fault, display, at, else_at or next(iter(self.values), ""))


async def _sent(request: Request) -> FormData:
    form = await request.form(max_files=1, max_fields=MOST_FIELDS, max_part_size=MOST_TEXT)
    request.state.sent = form
    return form


def _texts(form: Annotated[FormData, Depends(_sent)]) -> dict[str, str]:
    return {
        key: value.replace("\0", "") for key, value in form.multi_items() if isinstance(value, str)
    }


Texts = Annotated[dict[str, str], Depends(_texts)]
"""The texts of a form as it was sent, the last of each name; reads nothing in the event loop but
the bytes themselves."""
Sent = Annotated[FormData, Depends(_sent)]
"""A form as it was sent, with every value of a name and its files."""


def file_of(form: FormData, name: str = "file") -> tuple[str, bytes]:
    """Name and content of a file that was sent; empty where none was."""
    found = form.get(name)
    if not isinstance(found, UploadFile):
        return "", b""
    return (found.filename or "")[:120], found.file.read()


MOST = 10**9
"""Largest whole number that a form or an address may send."""


def whole(text: str | None, least: int = 0, most: int = MOST) -> int | None:
    """A whole number as a form sends it, None for anything else or one out of range."""
    if not text or not text.isascii() or not text.isdigit() or len(text) > 10:
        return None
    number = int(text)
    return number if least <= number <= most else None


def read(text: str, kind: str, display: Display) -> tuple[float, str]:
    """The value of a typed text in the core's unit, and the text with its unit.

    Raises:
        ValueError: with a sentence for the person who typed it.
    """
    found = typed(text, kind, display)
    return found.value, found.text


def shown_text(value: float | None, field: Field, typed: str | None, display: Display) -> str:
    """What a field shows: the text as it was typed while it still says this value."""
    if value is None:
        return ""
    if typed is not None:
        try:
            if abs(parse_quantity(typed, field.kind) - value) < 1e-9:
                return typed
        except ValueError:
            pass
    return written(value, field.kind, display)


def read_form(
    fields: Iterable[Field], shown: Mapping[str, str], form: Mapping[str, str], display: Display
) -> Reading:
    """What of some fields was changed in a form, and what that says.

    Args:
        fields: to read.
        shown: what stood in them, by name; a field that is not sent or says the same is left out.
        form: what was sent.
        display: units of a bare number.
    """
    found = Reading()
    for each in fields:
        text = form.get(each.name, shown.get(each.name, "")).strip()
        if text == shown.get(each.name, ""):
            continue
        if not text and each.may_be_empty:
            found.values[each.name] = None
            continue
        try:
            found.values[each.name], found.texts[each.name] = read(text, each.kind, display)
        except ValueError as fault:
            found.errors[each.name] = str(fault)
    return found


def as_entries(
    fields: Sequence[Field], shown: Mapping[str, str], form: Mapping[str, str], reading: Reading
) -> dict[str, Entry]:
    """The fields with what was typed and what is wrong, where anything is; else nothing."""
    if not reading.errors:
        return {}
    return {
        each.name: Entry(
            each, form.get(each.name, shown.get(each.name, "")), reading.errors.get(each.name, "")
        )
        for each in fields
    }


def faults_at(
    fault: ValidationError, display: Display, at: Mapping[str, str], else_at: str
) -> dict[str, str]:
    """What the validator refuses, by the field it was typed in.

    Args:
        fault: the validator's.
        display: units for the words.
        at: fields of the form by fields of the value.
        else_at: the field that gets what belongs to none of them.
    """
    found: dict[str, str] = {}
    for error in fault.errors():
        place = next((at[str(part)] for part in error["loc"] if str(part) in at), else_at)
        found.setdefault(place, error_text(error, display))
    return found
