"""The course value: everything a plan says, in SI units, immutable, and validated by Pydantic.

This is also the open document format: `docs/course.schema.json` is generated from these models.
"""

from datetime import date
from typing import Annotated, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator

from caldarium.core.bed import GROUNDS
from caldarium.core.clothing import REGION_SHARE, REGIONS
from caldarium.core.effort import TERRAIN
from caldarium.core.walks import walking_fault
from caldarium.core.wetness import DRY_SHARE
from caldarium.core.wind import EXPOSURES

FORMAT = "caldarium-course"
VERSION = 1

Caution = Literal["as forecast", "cautious", "expedition"]
Layer = Literal["base", "mid", "insulation", "shell"]
Purpose = Literal["warmth", "sleep", "shelter", "safety", "food and water", "group", "comfort"]
ShelterKind = Literal["double skin", "single skin", "tarp", "bivouac bag", "snow shelter", "hut"]
Label = Literal["comfort", "limit", "maker's number"]

Identifier = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]*$", max_length=80)]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Altitude = Annotated[float, Field(ge=-400, le=8000, description="above sea level [m]")]
Celsius = Annotated[float, Field(ge=-60, le=50, description="temperature [°C]")]
Grams = Annotated[float, Field(ge=0, le=60000, description="mass [g]")]


class Value(BaseModel):
    """An immutable part of a course; unknown keys are refused rather than lost."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    def altered(self, **parts: object) -> Self:
        """This value with parts replaced and validated; parts left alone stay the same objects.

        Raises:
            pydantic.ValidationError: where the result is not valid.
        """
        return type(self).model_validate({**dict(self), **parts})


class Place(Value):
    """Where the course is; the offset fixes what its clock times mean."""

    name: Name
    latitude: float = Field(ge=-90, le=90, description="degrees north")
    longitude: float = Field(ge=-180, le=180, description="degrees east")
    utc_offset_h: float = Field(ge=-12, le=14, description="hours ahead of UTC on these dates")


class Shift(Value):
    """How much worse than the conditions a caution plans for."""

    high_k: float = Field(ge=-40, le=20, description="added to the day's high [K]")
    low_k: float = Field(ge=-40, le=20, description="added to the day's low [K]")
    wind_ms: float = Field(ge=0, le=40, description="added to the wind [m/s]")
    precipitation_factor: float = Field(default=1, ge=1, le=10)
    precipitation_mm: float = Field(default=0, ge=0, le=300, description="added a day [mm]")


class Spread(Value):
    """What *cautious* and *expedition* stand for on this course, and where that comes from."""

    cautious: Shift
    expedition: Shift
    source: str = Field(max_length=400)

    @model_validator(mode="after")
    def _ordered(self) -> Self:
        if self.expedition.low_k > self.cautious.low_k:
            raise ValueError("expedition must not plan a warmer low than cautious")
        return self


TYPED_SPREAD = Spread(
    cautious=Shift(high_k=-2.5, low_k=-2.5, wind_ms=2, precipitation_factor=1.3),
    expedition=Shift(high_k=-5, low_k=-5, wind_ms=4, precipitation_factor=1.6),
    source="judgement: one and two standard deviations of 2.5 K and 2 m/s",
)


class Conditions(Value):
    """A day's conditions at the course's conditions altitude."""

    high_c: Celsius
    low_c: Celsius
    wind_ms: float = Field(ge=0, le=60, description="mean wind at 10 m [m/s]")
    precipitation_mm: float = Field(default=0, ge=0, le=500, description="a day [mm water]")
    rain_from_h: float = Field(default=10, ge=0, le=23, description="clock time it starts [h]")
    rain_hours: float = Field(default=8, ge=1, le=24, description="how long it lasts [h]")
    humidity_pct: float = Field(default=70, ge=1, le=100, description="daily mean [%]")

    @model_validator(mode="after")
    def _high_above_low(self) -> Self:
        if self.high_c < self.low_c:
            raise ValueError("the high must not be below the low")
        return self


class Route(Value):
    """How a day's walking goes: up to the high point, a halt there, down to the night's place."""

    set_out_h: float = Field(default=8.5, ge=0, le=20, description="clock time [h]")
    distance_km: float = Field(default=12, ge=0, le=80)
    walking_h: float = Field(default=6, ge=0, le=16, description="without the halt [h]")
    high_point_m: Altitude
    terrain: str = Field(default="track", description="one of the terrain factors")
    exposure: str = Field(default="open", description="of the high point and the way there")
    halt_min: float = Field(default=20, ge=1, le=180, description="at the high point [min]")

    @model_validator(mode="after")
    def _known(self) -> Self:
        if self.terrain not in TERRAIN:
            raise ValueError(f"terrain is one of {', '.join(TERRAIN)}")
        if self.exposure not in EXPOSURES:
            raise ValueError(f"exposure is one of {', '.join(EXPOSURES)}")
        if (self.distance_km == 0) != (self.walking_h == 0):
            raise ValueError("a rest day has neither distance nor walking time, else both")
        if self.set_out_h + self.walking_h + self.halt_min / 60 > 23:
            raise ValueError("the day's walking must end before 23:00")
        return self


class Camp(Value):
    """Where a night is spent; its altitude is the day's end altitude."""

    exposure: str = Field(default="heath")
    ground: str = Field(default="dry")

    @model_validator(mode="after")
    def _known(self) -> Self:
        if self.exposure not in EXPOSURES:
            raise ValueError(f"exposure is one of {', '.join(EXPOSURES)}")
        if self.ground not in GROUNDS:
            raise ValueError(f"ground is one of {', '.join(GROUNDS)}")
        return self


class Day(Value):
    """One day: its conditions, its walking, and the night at its end (none on the last day)."""

    title: str = Field(default="", max_length=80)
    conditions: Conditions
    route: Route
    end_altitude_m: Altitude
    camp: Camp | None = None


class Garment(Value):
    """A piece of clothing: its warmth tabulated or from a ruler, by region of the body."""

    id: Identifier
    name: Name
    layer: Layer
    cover: dict[str, Annotated[float, Field(ge=0, le=1)]] = Field(
        description="share of each region covered: " + ", ".join(REGIONS)
    )
    thickness_mm: float | None = Field(default=None, gt=0, le=100)
    clo: float | None = Field(default=None, ge=0, le=8, description="tabulated I_clu [clo]")
    air_permeability: float = Field(gt=0, le=5000, description="l/(m² s) at 100 Pa")
    waterproof: bool = False
    material: str = Field(description="one of the materials of the wetness table")
    mass_g: Grams
    always: bool = Field(default=False, description="worn at every waking moment")
    only_at_camp: bool = Field(default=False, description="goes on or off with the boots off")
    only_asleep: bool = Field(default=False, description="kept dry for the bag")
    source: str = Field(default="", max_length=200, description="where the warmth comes from")

    @model_validator(mode="after")
    def _consistent(self) -> Self:
        unknown = set(self.cover) - set(REGIONS)
        if unknown:
            raise ValueError(f"unknown region {', '.join(sorted(unknown))}")
        if not any(self.cover.values()):
            raise ValueError("a garment covers at least part of one region")
        if (self.thickness_mm is None) == (self.clo is None):
            raise ValueError("give either a thickness or a tabulated clo")
        if self.material not in DRY_SHARE:
            raise ValueError(f"material is one of {', '.join(DRY_SHARE)}")
        return self

    @property
    def body_cover(self) -> float:
        """Share of the whole skin covered."""
        shares = zip(REGIONS, REGION_SHARE, strict=True)
        return float(sum(share * self.cover.get(region, 0) for region, share in shares))


class Bag(Value):
    """A sleeping bag or quilt with its one label."""

    id: Identifier
    name: Name
    label: Label
    label_c: float = Field(ge=-45, le=25, description="printed temperature [°C]")
    mass_g: Grams


class Pad(Value):
    """A sleeping pad with its R-value."""

    id: Identifier
    name: Name
    r_value: float = Field(ge=0, le=15, description="°F ft² h/BTU")
    mass_g: Grams


class Shelter(Value):
    """A shelter and the gust it is known to stand."""

    id: Identifier
    name: Name
    kind: ShelterKind
    places: int = Field(ge=1, le=30)
    gust_ms: float = Field(gt=0, le=80, description="gust it stands [m/s]")
    mass_g: Grams


class Item(Value):
    """Anything else that weighs."""

    id: Identifier
    name: Name
    mass_g: Grams
    purpose: Purpose
    worn: bool = False


class Overrule(Value):
    """The user's own word on one piece at one moment."""

    moment: str = Field(max_length=40)
    garment: Identifier
    worn: bool


class Person(Value):
    """A member of the course, with everything worn and carried."""

    id: Identifier
    name: Name
    instructor: bool = False
    body_mass_kg: float = Field(ge=25, le=200)
    height_m: float = Field(ge=1.2, le=2.3)
    sleeper_index: float = Field(
        default=1, ge=-1, le=2, description="0 sleeps like the limit figure, 1 like the comfort one"
    )
    garments: tuple[Garment, ...] = Field(default=(), max_length=50)
    bag: Bag | None = None
    pads: tuple[Pad, ...] = ()
    shelter: Identifier | None = None
    items: tuple[Item, ...] = ()
    food_g_a_day: float = Field(default=700, ge=0, le=3000)
    fuel_g_a_day: float = Field(default=40, ge=0, le=1000)
    water_l: float = Field(default=1.0, ge=0, le=15, description="carried while walking [L]")
    overrules: tuple[Overrule, ...] = ()

    @model_validator(mode="after")
    def _unique_pieces(self) -> Self:
        pieces = [piece.id for piece in (*self.garments, *self.pads, *self.items)]
        _refuse_twice(pieces, f"{self.name} has two pieces with the id")
        return self


class Course(Value):
    """A whole plan. One of these goes into assess, and everything shown comes out of it."""

    format: Literal["caldarium-course"] = FORMAT
    version: Literal[1] = VERSION
    name: Name
    place: Place
    start: date
    start_altitude_m: Altitude
    conditions_altitude_m: Altitude = Field(description="height the conditions are given for [m]")
    conditions_source: str = Field(default="typed by hand", max_length=300)
    lapse_k_per_km: float = Field(default=6.5, ge=5, le=9.8)
    caution: Caution = "cautious"
    spread: Spread = TYPED_SPREAD
    hold_h: float = Field(default=4, ge=0.5, le=24, description="unplanned wait to survive [h]")
    hold_in_bag: bool = Field(default=True, description="the sleeping bag goes round in a hold")
    hold_wind_share: float = Field(
        default=0.3, ge=0, le=1, description="share of the wind that reaches a held group in a lee"
    )
    clothes_in_bed: bool = Field(default=True, description="warm clothes count as part of the bed")
    days: tuple[Day, ...] = Field(min_length=1, max_length=21)
    people: tuple[Person, ...] = Field(min_length=1, max_length=40)
    shelters: tuple[Shelter, ...] = ()
    as_typed: dict[str, str] = Field(
        default_factory=dict, description="figures with units as the user typed them, by field"
    )

    @model_validator(mode="after")
    def _consistent(self) -> Self:
        _refuse_twice([person.id for person in self.people], "two people with the id")
        _refuse_twice([shelter.id for shelter in self.shelters], "two shelters with the id")
        known = {shelter.id for shelter in self.shelters}
        for person in self.people:
            if person.shelter is not None and person.shelter not in known:
                raise ValueError(f"{person.name} sleeps in an unknown shelter {person.shelter}")
        for number, day in enumerate(self.days, 1):
            if day.camp is None and number < len(self.days):
                raise ValueError(f"day {number} needs a camp: only the last day may end at home")
            begin = self.days[number - 2].end_altitude_m if number > 1 else self.start_altitude_m
            fault = walking_fault(day.route, begin, day.end_altitude_m)
            if fault:
                raise ValueError(f"day {number}: {fault}")
        return self


def _refuse_twice(identifiers: list[str], message: str) -> None:
    for identifier in identifiers:
        if identifiers.count(identifier) > 1:
            raise ValueError(f"{message} {identifier}")
