"""What of pieces is asked again, where they are, and why they are not given, in words."""

from collections.abc import Mapping, Sequence
from typing import assert_never

from caldarium.core.plan.findings import Finding
from caldarium.core.plan.kit import SlipReason
from caldarium.core.stock.inventory import Query, Stored
from caldarium.core.stock.lending import Loan, RefusalReason, ToGet
from caldarium.core.stock.supply import Source
from caldarium.words.course import counted
from caldarium.words.units import Display

SOURCE_NAMES: Mapping[Source, str] = {
    "own": "their own",
    "store": "the store",
    "hire": "hired",
    "buy": "bought",
}
"""Where a piece is from."""


def query_words(query: Query, display: Display) -> str:
    """A question about one figure of a piece. Source: core.stock.inventory."""
    why, figures = query.why, query.why.figures
    match why.reason:
        case "next to nothing":
            meant = f"{figures[1]:.2f} clo"
            return f"{figures[0]:g} clo is next to nothing; as m² K/W it would be {meant}: which?"
        case "clo or SI":
            return f"{figures[0]:g} clo: is that m² K/W? It would be {figures[1]:.2f} clo"
        case "R or SI":
            mass = display.mass(figures[1])
            return f"R {figures[0]:g} on {mass}: is that m² K/W? It would be R {figures[2]:.1f}"
        case "can not counted":
            full, net = (display.mass(each) for each in figures)
            return f"{full} holds {net} of fuel: is the can counted? Weigh both together"
        case "weighed full":
            mass, holds = display.mass(figures[0]), display.volume(figures[1])
            return f"{mass} for {holds}: was it weighed full? Water is counted by itself"
        case "beyond fat":
            mass = display.mass(figures[1])
            return f"{figures[0]:.0f} kcal in {mass} is more than pure fat holds"
        case "measure flat":
            return f"{display.thickness(figures[0])}: measure it lying flat, once, in mm"
        case "weigh it":
            return "no mass yet: weigh it"
        case "ounces" | "pounds" | "kilograms":
            return f"{_unusual(query, display)}: is that {figures[0]:g} {why.reason}?"
        case "ten times off":
            return f"{_unusual(query, display)}: ten times off"
        case "weigh again":
            return f"{_unusual(query, display)}: weigh it again"
    assert_never(why.reason)


def _unusual(query: Query, display: Display) -> str:
    mass, low, high = (display.mass(each) for each in query.why.figures)
    kind = query.why.names[0]
    a = "an" if kind[0] in "aeiou" else "a"
    return f"{mass}, {a} {kind} weighs {low} to {high}"


def slip_words(found: Finding[SlipReason], display: Display) -> str:
    """A question about a garment's ruler or scale. Source: core.plan.kit."""
    match found.reason:
        case "too thick":
            thick, most = (display.thickness(each) for each in found.figures)
            return (
                f"{thick} over the loft is no {found.names[0]} layer; those end near {most}. "
                "Measure the piece lying flat, once"
            )
        case "too light":
            return f"{display.mass(found.figures[0])} is less than a liner glove: weigh it again"
        case "ounces or pounds":
            mass = display.mass(found.figures[0])
            return f"{mass} for one garment: is that ounces or pounds?"
    assert_never(found.reason)


def refusal_words(piece: Stored, why: Finding[RefusalReason]) -> str:
    """Why a piece of the store is not given. Source: core.stock.lending."""
    named = f"{piece.name} ({piece.tag})"
    match why.reason:
        case "retired":
            return f"{named} is retired"
        case "unfit":
            return f"{named} is unfit: mend it, or say that it is good"
        case "none left":
            where = ", ".join(dict.fromkeys(why.names))
            return f"{named}: none is left on these days" + (f"; with {where}" if where else "")
    assert_never(why.reason)


def loan_words(loan: Loan) -> str:
    """Where some of a piece are, and until when. Source: core.stock.lending."""
    many = f"{loan.count} with " if loan.count > 1 else "with "
    who = ", ".join(dict.fromkeys(loan.people))
    told = f"{many}{loan.name}"
    if who:
        told += f" ({who})"
    return f"{told}, {loan.first:%-d %b} to {loan.last:%-d %b %Y}, {counted(loan.nights, 'night')}"


def to_get_sentence(listed: Sequence[ToGet]) -> str:
    """What is hired and bought in all. Source: core.stock.lending."""
    pieces = counted(sum(each.count for each in listed), "piece")
    known = sum(each.cost for each in listed if each.cost is not None)
    unknown = sum(each.cost is None for each in listed)
    asked = f"; of {unknown} nobody knows the price" if unknown else ""
    return f"{pieces}, {known:.0f} in the school's own money{asked}."
