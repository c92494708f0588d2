"""What people carry, wear and sleep in: part of the course document."""

from datetime import date
from typing import Annotated, Literal, Self

from pydantic import AfterValidator, Field, model_validator

from caldarium.core.physics.clothing import REGIONS
from caldarium.core.physics.materials import MATERIALS
from caldarium.core.plan.belief import Belief
from caldarium.core.plan.findings import Finding
from caldarium.core.plan.refusal import refused
from caldarium.core.plan.value import Grams, Identifier, Name, Value, refuse_twice

Layer = Literal["base", "mid", "insulation", "shell"]
Purpose = Literal["warmth", "sleep", "shelter", "safety", "food and water", "group", "comfort"]
ShelterKind = Literal[
    "double skin",
    "single skin",
    "tarp",
    "hammock tarp",
    "bivouac bag",
    "group shelter",
    "snow shelter",
    "igloo",
    "bothy",
    "hut",
]
Vents = Literal["none", "some", "wide"]
Anchor = Literal["pegs", "long pegs", "stones and lines", "broad or buried", "trees"]
Fill = Literal["down", "treated down", "synthetic fill"]
Cost = Annotated[
    float, Field(ge=0, le=100000, description="what it costs to buy, in the school's own money")
]
Label = Literal["comfort", "limit", "maker's number"]


def _a_share(cover: float) -> float:
    if not 0 <= cover <= 1:
        raise refused("cover share", share=cover)
    return cover


def _a_thickness(millimetres: float) -> float:
    if not 0 < millimetres <= LOFTIEST:
        raise refused("no such loft", thickness_mm=millimetres)
    return millimetres


LOFTIEST = 100.0
"""Loft beyond any garment [mm], and the end of the garment formula's line here."""


Fly = Literal["anywhere", "hold only", "cabin only", "never"]
Litres = Annotated[float, Field(ge=0, le=200, description="room it takes packed [L]")]


MassFrom = Literal["not said", "scale", "label", "catalogue", "estimate", "guess"]
ThingKind = Literal[
    "pack",
    "cook",
    "fuel",
    "food",
    "water",
    "light",
    "navigation",
    "communication",
    "first aid",
    "repair",
    "hygiene",
    "snow and technical",
    "electronics",
    "teaching",
    "comfort",
]
ItemKind = Literal["", "shelter part", ThingKind]


class LegEnd(Value):
    """A place on the course: the end of a leg."""

    day: int = Field(ge=0, le=20, description="of the leg, from 0")
    leg: Identifier


class Weighed(Value):
    """Something of which it is known, or not, where its mass comes from."""

    mass_from: MassFrom = Field(default="not said", description="where the mass comes from")
    mass_on: date | None = Field(default=None, description="when that was")
    tag: str = Field(default="", max_length=40, description="of the store, where it is from there")


class Garment(Weighed):
    """A piece of clothing: its warmth tabulated or from a ruler, by region of the body."""

    id: Identifier
    name: Name
    layer: Layer
    cover: dict[str, Annotated[float, AfterValidator(_a_share)]] = Field(
        description="share of each region covered: " + ", ".join(REGIONS)
    )
    thickness_mm: Annotated[float, AfterValidator(_a_thickness)] | None = None
    clo: float | None = Field(default=None, ge=0, le=8, description="tabulated I_clu [clo]")
    air_permeability: float = Field(gt=0, le=5000, description="l/(m² s) at 100 Pa")
    waterproof: bool = False
    repels_mm: float = Field(default=0, ge=0, le=100, description="rain shed before it wets [mm]")
    water_mm: float | None = Field(default=None, ge=0, le=50000, description="water column [mm]")
    taped: bool | None = Field(default=None, description="taped seams, where somebody looked")
    vapour_resistance: float | None = Field(
        default=None, ge=0, le=1000, description="beyond ordinary cloth [m² Pa/W]; by material"
    )
    vents: Vents = Field(default="none", description="zips and openings, and how wide they open")
    fingers: Literal["apart", "together"] = Field(default="apart", description="gloves or mitts")
    face: float = Field(default=0, ge=0, le=1, description="share of the face covered when up")
    material: str = Field(description="one of the materials of the wetness table")
    mass_g: Grams
    always: bool = Field(default=False, description="worn at every waking moment")
    shades: bool = Field(default=False, description="against the sun, so never called idle")
    spare: bool = Field(default=False, description="a second of its kind, kept dry on purpose")
    only_at_camp: bool = Field(default=False, description="goes on or off with the boots off")
    only_asleep: bool = Field(default=False, description="kept dry for the bag")
    packed_l: Litres | None = None
    cost: Cost | None = None
    waits_at: LegEnd | None = Field(default=None, description="carried only from there on")
    left_at: LegEnd | None = Field(default=None, description="carried no further than there")
    source: str = Field(default="", max_length=200, description="where the warmth comes from")

    @model_validator(mode="after")
    def _consistent(self) -> Self:
        unknown = set(self.cover) - set(REGIONS)
        if unknown:
            raise refused("unknown region", regions=sorted(unknown))
        if not any(self.cover.values()):
            raise refused("covers nothing")
        if (self.thickness_mm is None) == (self.clo is None):
            raise refused("thickness or clo")
        if self.material not in MATERIALS:
            raise refused("not one of", field="material", known=list(MATERIALS))
        return self


THICKEST = {"base": 8.0, "mid": 20.0, "insulation": 80.0, "shell": 6.0}
"""Thickness beyond which a layer of that kind is a slip of the ruler [mm]: judgement."""
LIGHTEST, HEAVIEST = 8.0, 4000.0
"""Mass of a single garment beyond which the scale is asked again [g]: judgement."""


SlipReason = Literal["too thick", "too light", "ounces or pounds"]
"""Figures: thickness and where such layers end [mm]; mass [g]. Names: the layer."""


def slips(piece: Garment) -> dict[str, Finding[SlipReason]]:
    """What of a garment is most likely a slip, by field.

    Source: judgement, see THICKEST and LIGHTEST.
    """
    found: dict[str, Finding[SlipReason]] = {}
    most = THICKEST[piece.layer]
    if piece.thickness_mm is not None and piece.thickness_mm > most:
        figures = (piece.thickness_mm, most)
        found["thickness_mm"] = Finding("too thick", (piece.layer,), figures)
    if piece.mass_g < LIGHTEST:
        found["mass_g"] = Finding("too light", figures=(piece.mass_g,))
    elif piece.mass_g > HEAVIEST:
        found["mass_g"] = Finding("ounces or pounds", figures=(piece.mass_g,))
    return found


class Bag(Weighed):
    """A sleeping bag or quilt with its one label."""

    id: Identifier
    name: Name
    label: Label
    label_c: float = Field(ge=-45, le=25, description="printed temperature [°C]")
    limit_c: float | None = Field(
        default=None, ge=-45, le=25, description="limit figure, where comfort is the label [°C]"
    )
    mass_g: Grams
    shape: Literal["bag", "quilt"] = "bag"
    hood: bool = True
    straps: bool = Field(default=True, description="a quilt's straps to the pad")
    width_cm: float | None = Field(
        default=None, ge=40, le=300, description="a quilt's width, a bag's girth at the shoulders"
    )
    fits_to_m: float | None = Field(default=None, ge=1.2, le=2.4, description="tallest sleeper [m]")
    nights_used: int = Field(default=0, ge=0, le=5000)
    washes: int = Field(default=0, ge=0, le=200)
    fill: Fill = Field(default="down", description="what damp does to it")
    packed_l: Litres | None = None
    cost: Cost | None = None
    as_found: Belief | None = Field(
        default=None, description="how much warmer than its label nights found its figure [K]"
    )

    @model_validator(mode="after")
    def _figures_in_order(self) -> Self:
        if self.limit_c is not None and self.label == "comfort" and self.limit_c > self.label_c:
            raise refused("limit over comfort", limit_c=self.limit_c)
        return self


class Pad(Weighed):
    """A sleeping pad with its R-value."""

    id: Identifier
    name: Name
    r_value: float = Field(ge=0, le=15, description="°F ft² h/BTU")
    mass_g: Grams
    length: Literal["full", "torso"] = "full"
    length_cm: float | None = Field(
        default=None, ge=40, le=230, description="of a torso pad, where measured"
    )
    width_cm: float | None = Field(default=None, ge=30, le=200)
    packed_l: Litres | None = None
    cost: Cost | None = None
    as_found: Belief | None = Field(
        default=None, description="what nights found of it, over its R-value"
    )


class Liner(Weighed):
    """A liner inside the bag: what it is, and what its maker claims for it."""

    id: Identifier
    name: Name
    clo: float = Field(ge=0, le=3, description="over the skin it covers [clo]")
    claims_k: float = Field(default=0, ge=0, le=15, description="degrees its maker claims [K]")
    mass_g: Grams
    cost: Cost | None = None


class Cover(Weighed):
    """A cover or bivouac bag over the bed, which keeps wind and drips off."""

    id: Identifier
    name: Name
    clo: float = Field(ge=0, le=2, description="what it adds with its air [clo]")
    reflects: bool = Field(default=False, description="foil, that radiates little to the sky")
    mass_g: Grams
    cost: Cost | None = None


class Hammock(Weighed):
    """A hammock, and what hangs under it."""

    id: Identifier
    name: Name
    underquilt: Bag | None = None
    reach: Literal["full", "three-quarter"] = Field(
        default="full", description="how much of the sleeper the underquilt covers"
    )
    mass_g: Grams


FeetOn = Literal["nothing", "spare clothes", "sit pad"]
Raised = Literal["no", "cot", "hut bunk"]


class Bedding(Value):
    """What a bed has beside its bag and pads."""

    over: Bag | None = Field(default=None, description="a second bag or quilt over the first")
    liner: Liner | None = None
    cover: Cover | None = None
    hammock: Hammock | None = None
    hot_bottle_l: float = Field(default=0, ge=0, le=3, description="filled boiling at bedtime [L]")
    warmers: int = Field(default=0, ge=0, le=8, description="opened at bedtime each night")
    wet_out: bool = Field(default=False, description="wet clothes stay out of the bed")
    feet_on: FeetOn = Field(default="spare clothes", description="where a torso pad ends")
    raised: Raised = Field(default="no", description="what lifts the bed off the ground")
    cot_g: Annotated[float, Field(ge=0, le=20000)] = 0
    turns: Literal["little", "much"] = Field(default="little", description="the sleeper, at night")
    beside: Identifier | None = Field(
        default=None, description="whoever shares this bed, under one cover where they have none"
    )

    @property
    def parts(self) -> tuple["BedPart", ...]:
        """Its pieces, what hangs under a hammock too. Source: none, bookkeeping."""
        under = self.hammock.underquilt if self.hammock else None
        all_of_it = (self.over, self.liner, self.cover, self.hammock, under)
        return tuple(each for each in all_of_it if each is not None)

    @property
    def mass_g(self) -> float:
        """What all of it weighs, without water for the bottle and without warmers [g]."""
        return sum(each.mass_g for each in self.parts) + self.cot_g


BedPart = Bag | Pad | Liner | Cover | Hammock


class Bed(Value):
    """What somebody lies in: bag, pads, and what lies over, in and under them."""

    bag: Bag | None = None
    pads: tuple[Pad, ...] = Field(default=(), max_length=6)
    bedding: Bedding = Bedding()

    @property
    def parts(self) -> tuple[BedPart, ...]:
        """Its pieces, from the ground up. Source: none, bookkeeping."""
        return (*self.pads, *((self.bag,) if self.bag else ()), *self.bedding.parts)


class OtherBed(Bed):
    """A bed that somebody sleeps in on some nights instead of their own."""

    lent: bool = Field(default=False, description="it is there already: nobody carries it")
    own_waits: bool = Field(
        default=False, description="their own bed waits where it is slept in next"
    )


class NightPlan(Value):
    """Where somebody sleeps from one night on, and in which bed, until a later plan."""

    day: int = Field(ge=0, le=20, description="at the end of which the night is, from 0")
    shelter: Identifier | None = Field(default=None, description="none under the open sky")
    bed: OtherBed | None = Field(default=None, description="instead of their own")


WARMER_G = 45.0
"""Mass of a warmer that burns iron, fresh or spent [g]: judgement."""


class Part(Value):
    """A part of a shelter that is carried by itself; by nobody named, it is split evenly."""

    id: Identifier
    name: Name
    mass_g: Grams
    carried_by: Identifier | None = None
    by_hand: bool = Field(default=True, description="whether its carrier was the user's choice")


class Shelter(Weighed):
    """A shelter and the gust it is known to stand."""

    id: Identifier
    name: Name
    kind: ShelterKind
    places: int = Field(ge=1, le=30)
    gust_ms: float = Field(gt=0, le=80, description="gust it stands [m/s]")
    mass_g: Grams
    gust_known: Literal["judged", "by its maker", "by use"] = Field(
        default="judged", description="how the gust it stands is known"
    )
    gust_at_m: float = Field(
        default=10, ge=1, le=20, description="height that gust was measured at [m]"
    )
    roof_deg: float | None = Field(
        default=None, ge=0, le=90, description="slope of the roof where snow lies [degrees]"
    )
    length_m: float | None = Field(default=None, ge=0.5, le=12, description="floor inside [m]")
    width_m: float | None = Field(default=None, ge=0.4, le=12, description="floor inside [m]")
    height_m: float | None = Field(default=None, ge=0.3, le=4, description="highest inside [m]")
    entrances: int = Field(default=1, ge=0, le=6)
    wall_mm: float | None = Field(default=None, ge=0, le=20000, description="water column [mm]")
    floor_mm: float | None = Field(default=None, ge=0, le=20000, description="water column [mm]")
    stands_free: bool = Field(default=False, description="stands without anchors in calm air")
    anchors: tuple[Anchor, ...] = Field(default=("pegs",), description="what came with it")
    inner_first: bool = Field(default=False, description="the inner is pitched before the fly")
    poles: int = Field(default=0, ge=0, le=8, description="walking poles that it needs")
    poles_from: tuple[Identifier, ...] = Field(
        default=(), description="people whose walking poles hold it up"
    )
    parts: tuple[Part, ...] = Field(
        default=(), max_length=12, description="parts of its mass that are carried by themselves"
    )
    net: bool = Field(default=True, description="insects stay out")
    porch_m2: float | None = Field(default=None, ge=0, le=20, description="under cover outside")
    condition: Literal["sound", "worn", "mended"] = "sound"
    as_found: Belief | None = Field(
        default=None, description="how much of its computed warmth thermometers found inside"
    )

    @model_validator(mode="after")
    def _parts_fit(self) -> Self:
        refuse_twice([part.id for part in self.parts], "parts", self.name)
        parts = sum(part.mass_g for part in self.parts)
        if parts > self.mass_g + 0.5:
            raise refused("parts too heavy", of=self.name, parts_g=parts, whole_g=self.mass_g)
        return self


def _refuse_fuel(name: str, net_g: float | None, mass_g: float) -> None:
    if net_g is not None and net_g > mass_g + 0.5:
        raise refused("fuel over mass", of=name, net_g=net_g, mass_g=mass_g)


class GroupKit(Weighed):
    """Kit of the whole group, by head, rope, tent or party, and who carries each of it.

    number of pieces for every `per` heads, ropes or tents, or for the party; pieces of one bundle
    go together; carriers by piece in order, None for those that nobody was given yet.
    """

    id: Identifier
    name: Name
    mass_g: Grams
    purpose: Purpose = "group"
    fly: Fly = Field(default="anywhere", description="how it may travel by air")
    number: int = Field(default=1, ge=1, le=40)
    per: int = Field(default=1, ge=1, le=40)
    of: Literal["party", "head", "rope", "tent"] = "party"
    kind: ItemKind = ""
    net_g: float | None = Field(default=None, ge=0, le=20000, description="fuel in it [g]")
    packed_l: Litres | None = None
    bundle: str = Field(default="", max_length=40)
    spoils_below_c: float | None = Field(
        default=None, ge=-60, le=20, description="must not get colder than this [°C]"
    )
    with_whom: Identifier | None = Field(default=None, description="must be with this person")
    apart: bool = Field(default=False, description="no two of it on one back")
    carriers: tuple[Identifier | None, ...] = Field(default=(), max_length=1600)
    by_hand: tuple[bool, ...] = Field(
        default=(), max_length=1600, description="which carriers the user chose"
    )

    @model_validator(mode="after")
    def _fuel_weighs(self) -> Self:
        _refuse_fuel(self.name, self.net_g, self.mass_g)
        return self


HelperKind = Literal["porter", "animal", "sled", "vehicle"]


class Ready(Value):
    """What is left ready at the road for somebody, and the forecast for which it is taken."""

    person: Identifier
    pieces: tuple[Name, ...] = Field(min_length=1, max_length=30, description="by name")
    instead_of: tuple[Name, ...] = Field(
        default=(), max_length=30, description="what it takes the place of, by name"
    )
    grams: float = Field(ge=-20000, le=50000, description="what taking it adds [g]")
    below_c: float | None = Field(
        default=None, ge=-80, le=40, description="taken if the forecast low passes this [°C]"
    )
    over_ms: float | None = Field(
        default=None, ge=0, le=120, description="or the wind of the forecast this [m/s]"
    )
    over_mm: float | None = Field(
        default=None, ge=0, le=2000, description="or the rain or snow of a day this [mm]"
    )


class Helper(Value):
    """Somebody or something else that carries, with a limit of its own."""

    id: Identifier
    name: Name
    kind: HelperKind = "porter"
    limit_kg: float = Field(gt=0, le=2000, description="what it may carry [kg]")
    drawn_by: Identifier | None = Field(default=None, description="who draws a sled")


class Item(Weighed):
    """Anything else that weighs, one or several alike, by itself or inside another thing.

    It can wait in a drop bag for its owner, or be left in one; left before the place at which it
    waits, it is fetched there again.
    """

    id: Identifier
    name: Name
    kind: ItemKind = ""
    count: int = Field(default=1, ge=1, le=200)
    mass_g: Grams = Field(description="of one, without what is inside it [g]")
    purpose: Purpose
    inside: Identifier | None = Field(default=None, description="the thing that it is in")
    on: Identifier | None = Field(default=None, description="a helper that carries it")
    net_g: float | None = Field(default=None, ge=0, le=20000, description="fuel in it [g]")
    capacity_l: float | None = Field(default=None, ge=0, le=200, description="what it holds [L]")
    kcal: float | None = Field(default=None, ge=0, le=50000, description="energy in one")
    light_h: float | None = Field(default=None, ge=0, le=1000, description="light of one [h]")
    fly: Fly = Field(default="anywhere", description="how it may travel by air")
    packed_l: Litres | None = None
    cost: Cost | None = None
    worn: bool = False
    spare: bool = Field(default=False, description="a second of its kind, on purpose")
    listed: bool = Field(default=False, description="on somebody's mandatory list")
    spoils_below_c: float | None = Field(
        default=None, ge=-60, le=20, description="must not get colder than this at night [°C]"
    )
    waits_at: LegEnd | None = Field(default=None, description="carried only from there on")
    left_at: LegEnd | None = Field(default=None, description="carried no further than there")
    apart: bool = Field(
        default=False, description="teaching or camera kit, which one school does not count"
    )

    @model_validator(mode="after")
    def _fuel_weighs(self) -> Self:
        _refuse_fuel(self.name, self.net_g, self.mass_g)
        return self

    @property
    def grams(self) -> float:
        """All of it [g]. Source: none, arithmetic."""
        return self.mass_g * self.count

    @property
    def fuel_g(self) -> float:
        """Fuel in all of it, which burns [g]. Source: none, arithmetic."""
        return (self.net_g or 0.0) * self.count

    @property
    def kept_g(self) -> float:
        """All of it without the fuel [g]. Source: none, arithmetic."""
        return self.grams - self.fuel_g
