"""The what-if dial of the bench: read from a request, shown as fields, never kept."""

from collections.abc import Mapping

from caldarium.core.what_if.dial import Dial
from caldarium.web.forms import Entry, Field, read
from caldarium.words.faults import fault_text
from caldarium.words.units import Display

DIAL = {
    field.name: field
    for field in (
        Field("colder", "Colder", "warmth"),
        Field("windier", "Windier", "wind"),
        Field("wetter", "Wetter a day", "rain"),
        Field("higher", "Higher", "altitude"),
        Field("slower", "Slower", "percent"),
        Field("held", "Held longer", "hours"),
    )
}


def read_dial(form: Mapping[str, str], display: Display) -> tuple[Dial, list[Entry]]:
    """The dial as it was typed, and its fields with what stands in them and what is wrong.

    Fields that cannot be read count as not turned.
    """
    dial = Dial()
    entries: list[Entry] = []
    for name, field in DIAL.items():
        text, error = form.get(f"dial_{name}", "").strip(), ""
        if text and text != "0":
            try:
                value, text = read(text, field.kind, display)
                dial = dial.altered(**{name: value})
            except ValueError as fault:
                error = fault_text(fault, display)
        entries.append(Entry(field, text, error))
    return dial, entries
