"""Where wet things dry, in words, and how fast that is taken to be."""

from caldarium.core.day.dry_chances import COUNTS_FROM, Chance, How
from caldarium.core.day.wetness import DRYING, DRYING_ASIDE, DRYING_IN_HUT, LAID_OUT_FROM
from caldarium.core.physics.drying import FREE, MOVING_FILM, STILL_FILM
from caldarium.core.physics.materials import DRYING_IN_BED
from caldarium.core.plan.course import Person
from caldarium.words.steps import Step
from caldarium.words.units import hours_text

_HOW_DRIED: dict[How, str] = {
    "on the body": "on the body",
    "laid out": "laid out in wind and sun",
    "in a hut": "hung up in the hut",
    "in a shelter": "lying in the shelter",
    "overnight": "overnight, in bed or beside it",
    "hut overnight": "overnight, hung up in the hut or in bed",
}


def dried_words(person: Person, found: Chance) -> tuple[str, str]:
    """How things dry, and which of them by how much of soaked. Source: core.day.dry_chances."""
    names = {piece.id: piece.name for piece in person.garments}
    told = [
        f"{names[each.piece]} {each.before:.0%} to {each.after:.0%}"
        for each in sorted(found.pieces, key=lambda each: each.after - each.before)
    ]
    rate = f", {found.rate:.0f} g/(h m²) where not worn" if found.rate else ""
    return f"{_HOW_DRIED[found.how]}, {hours_text(found.hours)}{rate}", ", ".join(told)


def explain_drying() -> list[Step]:
    """How fast things dry. Source: core.day.wetness, core.physics.drying."""
    return [
        Step(
            "laid out",
            "by the weather",
            f"at stops of {hours_text(LAID_OUT_FROM)} and in camp, for the share of the time in "
            f"which nothing falls: {FREE:.0%} of both sides spend what Penman's balance gives for "
            f"air, wind, dampness and sun; film {MOVING_FILM:g} v^0.6, at least {STILL_FILM:g} "
            "W/(m² K)",
            "Penman 1948; the share that lies free: judgement",
        ),
        Step(
            "worn, aside, in a hut, in bed",
            f"{DRYING:g}, {DRYING_ASIDE:g}, {DRYING_IN_HUT:g}, {DRYING_IN_BED:g} g/(h m²)",
            "worn in dry air, less under other layers and in damp; told where a piece loses "
            f"{COUNTS_FROM:.0%} of soaked or more",
            "judgement",
        ),
    ]
