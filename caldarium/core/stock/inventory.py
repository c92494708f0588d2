"""The store: everything that can be issued, what of it is likely a slip, and as pieces of kit."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from typing import Annotated, Literal, Self, get_args

from pydantic import Field, model_validator

from caldarium.core.physics.quantities import CLO, R_US
from caldarium.core.plan.findings import Finding
from caldarium.core.plan.kit import (
    Bag,
    Cost,
    Cover,
    Fly,
    Garment,
    Hammock,
    Item,
    ItemKind,
    Label,
    Liner,
    Litres,
    MassFrom,
    Pad,
    Shelter,
)
from caldarium.core.plan.refusal import refused
from caldarium.core.plan.value import Grams, Name, Value
from caldarium.core.stock.kinds import KINDS, WARM

Owner = Literal["school", "member", "hire", "buy on arrival", "borrowed"]
Condition = Literal["new", "good", "worn", "to mend", "unfit"]
Tag = Annotated[str, Field(min_length=1, max_length=40, pattern=r"^\S(.*\S)?$")]
Kit = Garment | Bag | Pad | Liner | Cover | Hammock | Shelter | Item
OUNCE, POUND = 28.349523125, 453.59237
TEN_TIMES = 10.0


class Stored(Value):
    """One line of the store: a piece, or several alike under one tag."""

    tag: Tag
    name: Name
    kind: str
    owner: Owner = "school"
    owner_name: str = Field(default="", max_length=120)
    count: int = Field(default=1, ge=1, le=10000)
    size: str = Field(default="", max_length=40)
    condition: Condition = "good"
    checked: date | None = None
    mass_g: Grams
    mass_from: MassFrom = Field(default="not said", description="where the mass comes from")
    mass_on: date | None = Field(default=None, description="when that was")
    cost: Cost | None = Field(default=None, description="to buy, or to hire for a course")
    place: str = Field(default="", max_length=120, description="where it is hired or bought")
    fly: Fly = "anywhere"
    like: str = Field(default="", max_length=80, description="catalogue piece it is like")
    label: Label | None = None
    label_c: float | None = Field(default=None, ge=-45, le=25)
    limit_c: float | None = Field(default=None, ge=-45, le=25, description="beside comfort")
    r_value: float | None = Field(default=None, ge=0, le=15)
    clo: float | None = Field(default=None, ge=0, le=8)
    thickness_mm: float | None = Field(default=None, gt=0, le=100)
    width_cm: float | None = Field(default=None, ge=30, le=300)
    length_cm: float | None = Field(default=None, ge=40, le=230, description="of a pad")
    fits_to_m: float | None = Field(default=None, ge=1.2, le=2.4)
    capacity_l: float | None = Field(default=None, ge=0, le=200)
    packed_l: Litres | None = None
    net_g: float | None = Field(default=None, ge=0, le=20000, description="content, without can")
    kcal: float | None = Field(default=None, ge=0, le=50000)
    light_h: float | None = Field(default=None, ge=0, le=1000, description="light of one [h]")
    water_mm: float | None = Field(default=None, ge=0, le=50000, description="water column [mm]")
    taped: bool | None = Field(default=None, description="taped seams, where somebody looked")
    nights_used: int = Field(default=0, ge=0, le=5000)
    washes: int = Field(default=0, ge=0, le=200)
    spoils_below_c: float | None = Field(default=None, ge=-60, le=20)
    estimated: tuple[str, ...] = Field(default=(), description="fields filled by default")
    notes: dict[str, str] = Field(default_factory=dict, description="columns of a file, kept")
    retired: bool = False

    @model_validator(mode="after")
    def _known(self) -> Self:
        if self.kind not in KINDS:
            raise refused("not one of", field="kind", known=list(KINDS))
        return self

    @property
    def searched(self) -> str:
        """What a search looks through. Source: none, bookkeeping."""
        parts = (
            self.tag,
            self.name,
            self.kind,
            self.owner,
            self.owner_name,
            self.size,
            self.condition,
            *self.notes.values(),
        )
        return " ".join(parts).lower()


QueryReason = Literal[
    "next to nothing",
    "clo or SI",
    "R or SI",
    "can not counted",
    "weighed full",
    "beyond fat",
    "measure flat",
    "weigh it",
    "ounces",
    "pounds",
    "kilograms",
    "ten times off",
    "weigh again",
]
"""What is likely a slip. Figures: the value, then what it would be (next to nothing, R or SI), the
mass or content beside it, or the usual masses from and to [g]. Names: what usually weighs that,
its kind or a piece like it."""


@dataclass(frozen=True)
class Query:
    """Something that is likely a slip: the field it stands in, and why it is asked."""

    field: str
    why: Finding[QueryReason]


LIKE_LOW, LIKE_HIGH = 0.4, 2.5
"""A piece weighs between these shares of the catalogue's piece that it is said to be like, or is
asked again: judgement."""


def queries(piece: Stored, usual_g: Mapping[str, float] | None = None) -> list[Query]:
    """What of one piece should be asked again; nothing is refused.

    Args:
        piece: of the store.
        usual_g: masses of the catalogue's pieces by id, for what it is like.

    Source: judgement, the usual masses of KINDS and LIKE_LOW; slips of units are common practice,
        no published source.
    """
    like = (usual_g or {}).get(piece.like)
    found = _mass_queries(piece, KINDS[piece.kind].usual_g, piece.kind)
    if like and not found:
        found = _mass_queries(piece, (LIKE_LOW * like, LIKE_HIGH * like), "piece like it")

    def ask(field: str, reason: QueryReason, *figures: float) -> None:
        found.append(Query(field, Finding(reason, figures=figures)))

    if piece.clo is not None and 0 < piece.clo < 0.03 and piece.kind in ("liner", "cover"):
        ask("clo", "next to nothing", piece.clo, piece.clo / CLO)
    if piece.kind == "garment" and piece.clo is not None and 0 < piece.clo < 0.02:
        ask("clo", "clo or SI", piece.clo, piece.clo / CLO)
    if piece.r_value is not None and 0 < piece.r_value < 1.4 and piece.mass_g > 350:
        ask("r_value", "R or SI", piece.r_value, piece.mass_g, piece.r_value / R_US)
    if piece.kind == "fuel" and piece.net_g is not None and piece.mass_g <= piece.net_g:
        ask("mass_g", "can not counted", piece.mass_g, piece.net_g)
    if piece.kind == "water" and piece.capacity_l and piece.mass_g > 700 * piece.capacity_l:
        ask("mass_g", "weighed full", piece.mass_g, piece.capacity_l)
    if piece.kind == "food" and piece.kcal and piece.kcal > 9.2 * max(piece.mass_g, 1):
        ask("kcal", "beyond fat", piece.kcal, piece.mass_g)
    if piece.thickness_mm is not None and piece.thickness_mm > 80:
        ask("thickness_mm", "measure flat", piece.thickness_mm)
    return found


def _mass_queries(piece: Stored, usual: tuple[float, float], what: str) -> list[Query]:
    low, high = usual
    mass = piece.mass_g
    if mass == 0 and piece.kind != "shelter":
        return [Query("mass_g", Finding("weigh it"))]
    if low <= mass <= high or mass == 0:
        return []
    reason: QueryReason = "weigh again"
    if mass > high * TEN_TIMES or mass < low / TEN_TIMES:
        reason = "ten times off"
    units: dict[QueryReason, float] = {"kilograms": 1000.0, "pounds": POUND, "ounces": OUNCE}
    for unit, factor in units.items():
        if mass < low <= mass * factor <= high:
            reason = unit
    return [Query("mass_g", Finding(reason, (what,), (mass, low, high)))]


def told(piece: Stored, figures: Mapping[str, object]) -> Stored:
    """The piece with what somebody now says of it; that is no longer estimated.

    Raises:
        pydantic.ValidationError: where the result is not valid.

    Source: none, bookkeeping.
    """
    still = tuple(name for name in piece.estimated if name not in figures)
    return piece.altered(**{**figures, "estimated": still})


def with_defaults(piece: Stored) -> Stored:
    """The piece with plausible figures by kind where none is given, and the list of those.

    Source: judgement, the catalogue's ordinary pieces.
    """
    kind = KINDS[piece.kind]
    estimated = set(piece.estimated)
    parts: dict[str, object] = {}
    needs_like = piece.kind in WARM and not piece.like
    if needs_like and kind.like:
        parts["like"] = kind.like
        estimated.add("like")
    for name in ("label_c", "r_value"):
        if name in kind.asks:
            estimated.discard(name) if getattr(piece, name) is not None else estimated.add(name)
    if piece.kind in ("bag", "quilt") and piece.label_c is not None and piece.label is None:
        parts["label"] = "maker's number"
        estimated.add("label")
    return piece.altered(**parts, estimated=tuple(sorted(estimated)))


def as_kit(piece: Stored, catalogue: Mapping[str, Kit], identifier: str) -> Kit:
    """A stored piece as a piece of kit for a person or course.

    Args:
        piece: of the store.
        catalogue: pieces by id that stored ones can be like.
        identifier: the id it gets.

    Returns:
        The catalogue's piece with this one's own figures; a plain item where the kind has no
        warmth, or where what it is like is not known.

    Source: the store's figures; the rest as the catalogue's piece.
    """
    base = catalogue.get(piece.like)
    own: dict[str, object] = {
        "id": identifier,
        "name": piece.name,
        "mass_g": piece.mass_g,
        "mass_from": "estimate" if "mass_g" in piece.estimated else piece.mass_from,
        "mass_on": piece.mass_on,
        "tag": piece.tag,
    }
    if isinstance(base, Bag) and piece.kind in ("bag", "quilt"):
        own |= {"nights_used": piece.nights_used, "washes": piece.washes, "cost": piece.cost}
        own |= _given(piece, "label", "label_c", "limit_c", "width_cm", "fits_to_m")
    elif isinstance(base, Pad) and piece.kind == "pad":
        own |= {"cost": piece.cost} | _given(piece, "r_value", "width_cm", "length_cm")
    elif isinstance(base, Garment) and piece.kind == "garment":
        own |= {"cost": piece.cost} | _given(piece, "water_mm", "taped")
        if piece.thickness_mm is not None:
            own |= {"thickness_mm": piece.thickness_mm, "clo": None}
        elif piece.clo is not None:
            own |= {"clo": piece.clo, "thickness_mm": None}
    elif isinstance(base, Liner | Cover) and piece.kind in ("liner", "cover"):
        own |= {"cost": piece.cost} | _given(piece, "clo")
    elif isinstance(base, Shelter) and piece.kind == "shelter":
        own |= {"parts": ()}
    elif not (isinstance(base, Hammock) and piece.kind == "hammock"):
        return Item.model_validate(
            own
            | {
                "kind": piece.kind if piece.kind in get_args(ItemKind) else "",
                "purpose": KINDS[piece.kind].purpose,
                "spoils_below_c": piece.spoils_below_c,
                "apart": piece.kind in ("teaching", "electronics"),
                "fly": piece.fly,
                "packed_l": piece.packed_l,
                "net_g": _fuel_in(piece),
                "capacity_l": piece.capacity_l,
                "kcal": piece.kcal,
                "light_h": piece.light_h,
                "cost": piece.cost,
            }
        )
    if piece.packed_l is not None and isinstance(base, Garment | Bag | Pad):
        own["packed_l"] = piece.packed_l
    return base.altered(**own)


def _fuel_in(piece: Stored) -> float | None:
    """Fuel in a can that was weighed with it; a can weighed without its content has none here."""
    if piece.kind != "fuel" or piece.net_g is None or piece.net_g > piece.mass_g:
        return None
    return piece.net_g


def _given(piece: Stored, *names: str) -> dict[str, object]:
    return {name: getattr(piece, name) for name in names if getattr(piece, name) is not None}
