"""What somebody carries their things in, and where they want them."""

from collections.abc import Mapping
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
    "shoulder",
    "chest",
    "waist",
    "lashed",
    "under",
    "strap left",
    "strap right",
    "on lid",
]
"""Where in a pack: its main compartment from the foot up, near the spine and away from it; over the
liner under the lid; lid, front, side and hip pockets, a pocket on the shoulder strap; a pouch on
the chest and a bag round the waist, worn with it; lashed outside: at the back, under the foot, by
the straps of a side, on the lid."""
ZONES: tuple[Zone, ...] = get_args(Zone)
Straps = Literal["back", "under", "sides", "lid"]
STRAPS: tuple[Straps, ...] = get_args(Straps)
LASHED: Mapping[Zone, Straps] = {
    "lashed": "back",
    "under": "under",
    "strap left": "sides",
    "strap right": "sides",
    "on lid": "lid",
}
"""Zones outside, by the straps that hold what is in them."""
Mark = Literal[
    "keep dry", "leaks", "sharp", "crushable", "freezes", "outside", "hard", "long", "flat", "round"
]
MARKS: tuple[Mark, ...] = get_args(Mark)


Packed = Literal["loose", "sack", "compressed", "dry sack"]
PACKED: tuple[Packed, ...] = get_args(Packed)


class Placed(Value):
    """What the user says of one piece: where it goes, what it is like where the defaults err, and
    how it is packed where it is soft; None where they say nothing."""

    piece: Identifier
    zone: Zone | None = None
    marks: tuple[Mark, ...] | None = Field(default=None, max_length=10)
    packed: Packed | None = Field(
        default=None, description="loose, in its sack, compressed, or in a dry sack of its own"
    )


class Rucksack(Value):
    """A pack as it is filled; litres that nobody measured are taken from its whole."""

    main_l: Litres | None = Field(default=None, description="main compartment [L]")
    lid_l: Litres | None = Field(default=None, description="lid [L]")
    front_l: Litres | None = Field(default=None, description="front pocket [L]")
    side_l: Litres | None = Field(default=None, description="each side pocket [L]")
    hip_l: Litres | None = Field(default=None, description="hip pockets together [L]")
    shoulder_l: Litres | None = Field(default=None, description="pocket on the strap [L]")
    chest_l: Litres | None = Field(default=None, description="pouch on the chest [L]")
    waist_l: Litres | None = Field(default=None, description="bag round the waist [L]")
    lashed_l: Litres | None = Field(default=None, description="what can be lashed outside [L]")
    straps: tuple[Straps, ...] | None = Field(
        default=None, max_length=4, description="where it can be lashed; everywhere if not said"
    )
    frame: Literal["frame", "no frame"] | None = Field(
        default=None, description="whether a frame carries it, where somebody says"
    )
    back_cm: float | None = Field(default=None, ge=20, le=90, description="length of its back")
    rated_kg: float | None = Field(default=None, gt=0, le=80, description="load it is made for")
    liner: bool = Field(default=True, description="a dry liner goes in first")
    placed: tuple[Placed, ...] = Field(default=(), max_length=120)

    @property
    def of_another(self) -> "Rucksack":
        """What is said of pieces, for a pack that is not the one whose figures these are.

        Source: none, bookkeeping.
        """
        return Rucksack(liner=self.liner, placed=self.placed)

    def has_straps(self, zone: Zone) -> bool:
        """Whether a thing can be lashed in a zone; of one that is not outside, yes.

        Source: the pack's own straps.
        """
        return self.straps is None or zone not in LASHED or LASHED[zone] in self.straps

    def said_of(self, piece: str) -> Placed | None:
        """What the user says of a piece. Source: none, bookkeeping."""
        return next((each for each in self.placed if each.piece == piece), None)

    def with_said(self, said: Placed) -> "Rucksack":
        """With one more word of the user; one that says nothing is dropped.

        Source: none, bookkeeping.
        """
        others = tuple(each for each in self.placed if each.piece != said.piece)
        nothing = said.zone is None and said.marks is None and said.packed is None
        return self.altered(placed=others if nothing else (*others, said))
