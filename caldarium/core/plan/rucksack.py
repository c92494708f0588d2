"""What somebody carries their things in, and where they want them."""

from typing import Literal, get_args

from pydantic import Field

from caldarium.core.plan.kit import Litres
from caldarium.core.plan.value import Identifier, Value

Zone = Literal[
    "foot",
    "low spine",
    "low outer",
    "high spine",
    "high outer",
    "top",
    "over",
    "lid",
    "front",
    "left",
    "right",
    "hip",
    "lashed",
]
"""Where in a pack: its main compartment from the foot up, near the spine and away from it; over the
liner under the lid; lid, front, side and hip pockets; lashed outside."""
ZONES: tuple[Zone, ...] = get_args(Zone)
Mark = Literal["keep dry", "leaks", "sharp", "crushable", "freezes", "outside"]
MARKS: tuple[Mark, ...] = get_args(Mark)


class Placed(Value):
    """What the user says of one piece: where it goes, and what it is like where the defaults err;
    None where they say nothing."""

    piece: Identifier
    zone: Zone | None = None
    marks: tuple[Mark, ...] | None = Field(default=None, max_length=6)


class Rucksack(Value):
    """A pack as it is filled; litres that nobody measured are taken from its whole."""

    main_l: Litres | None = Field(default=None, description="main compartment [L]")
    lid_l: Litres | None = Field(default=None, description="lid [L]")
    front_l: Litres | None = Field(default=None, description="front pocket [L]")
    side_l: Litres | None = Field(default=None, description="each side pocket [L]")
    hip_l: Litres | None = Field(default=None, description="hip pockets together [L]")
    back_cm: float | None = Field(default=None, ge=20, le=90, description="length of its back")
    rated_kg: float | None = Field(default=None, gt=0, le=80, description="load it is made for")
    liner: bool = Field(default=True, description="a dry liner goes in first")
    placed: tuple[Placed, ...] = Field(default=(), max_length=120)

    def said_of(self, piece: str) -> Placed | None:
        """What the user says of a piece. Source: none, bookkeeping."""
        return next((each for each in self.placed if each.piece == piece), None)

    def with_said(self, said: Placed) -> "Rucksack":
        """With one more word of the user; one that says nothing is dropped.

        Source: none, bookkeeping.
        """
        others = tuple(each for each in self.placed if each.piece != said.piece)
        nothing = said.zone is None and said.marks is None
        return self.altered(placed=others if nothing else (*others, said))
