"""What is laid out, in words: for the morning, on the way, and at camp."""

from collections.abc import Sequence
from dataclasses import dataclass

from caldarium.core.check.laid_out import AtHand, CampLaid, LaidOut
from caldarium.core.night.freeze import Guarded
from caldarium.core.pack.plan import PackPlan
from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import Garment
from caldarium.words.night import shelter_label
from caldarium.words.pack import ZONE_NAMES, explain_pack, need_words, piece_name
from caldarium.words.steps import Step
from caldarium.words.units import Display


@dataclass(frozen=True)
class LaidWords:
    """One card: what goes on in order, what is worn beside it, what is at hand by zone, what goes
    in last and what waits; in the evening what changes, what lies in the bed and what must not
    freeze; and how its figures were found."""

    sentence: str
    puts_on: list[str]
    pockets: list[str]
    at_hand: list[tuple[str, list[str]]]
    last_in: list[str]
    waits: list[str]
    camp: list[tuple[str, list[str]]]
    steps: list[Step]


def laid_words(
    course: Course, found: LaidOut, plan: PackPlan | None, display: Display
) -> LaidWords:
    """A day laid out, in words. Source: core.check.laid_out."""
    zones: dict[str, list[str]] = {}
    for each in found.at_hand:
        zones.setdefault(ZONE_NAMES[each.zone], []).append(_at_hand_words(each))
    sentence = "No walk on this day."
    if plan is not None:
        sentence = f"Sets out with {display.load(plan.grams / 1000)} on the back."
    return LaidWords(
        sentence,
        _names(found.puts_on),
        [each.name for each in found.pockets],
        list(zones.items()),
        _names(found.last_in),
        list(found.waits),
        _camp_words(course, found.camp, display) if found.camp is not None else [],
        _steps(found, plan, display),
    )


def _steps(found: LaidOut, plan: PackPlan | None, display: Display) -> list[Step]:
    """Where the figures of a card are from."""
    told = [] if plan is None else explain_pack(plan, display)
    cold = found.camp.guard.things if found.camp is not None else ()
    return told + [
        Step(
            each.name or _THINGS[each.kind],
            display.temperature(each.lowest),
            f"must stay above {display.temperature(each.limit)}"
            + ("; a shelter's lift is counted" if each.sheltered else ""),
            "the night's lowest air; limits by thing, see Night",
        )
        for each in cold
    ]


def _names(pieces: Sequence[Garment]) -> list[str]:
    return [each.name for each in pieces]


def _at_hand_words(found: AtHand) -> str:
    return f"{piece_name(found.piece)}: {need_words(found.need)}"


def _camp_words(course: Course, camp: CampLaid, display: Display) -> list[tuple[str, list[str]]]:
    shelter = next((each for each in course.shelters if each.id == camp.shelter), None)
    bed = [each.name for each in camp.bed]
    cold = [_guarded(each, display) for each in camp.guard.things if each.at_risk]
    where = shelter_label(course, shelter) if shelter is not None else "under the open sky"
    found = [
        ("goes on", _names(camp.put_on)),
        ("comes off, to dry", _names(camp.take_off)),
        ("stays on", [", ".join(_names(camp.stays))] if camp.stays else []),
        ("only for the bed", _names(camp.asleep)),
        (f"the bed, {where}", bed),
        ("must not freeze", cold),
    ]
    return [(head, rows) for head, rows in found if rows]


_THINGS = {
    "water": "water in bottles",
    "boots": "wet boots",
    "gloves": "wet gloves",
    "hose": "drinking hose",
    "thing": "",
}


def _guarded(found: Guarded, display: Display) -> str:
    name = found.name or _THINGS[found.kind]
    where = "into the bag" if found.in_bag else "under everything, off the ground"
    return f"{name}: {where}, it gets to {display.temperature(found.lowest)}"
