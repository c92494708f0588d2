"""A course's days as legs and camps: part of the course document."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from caldarium.core.physics.bed import GROUNDS
from caldarium.core.physics.effort import TERRAIN
from caldarium.core.physics.wind import EXPOSURES
from caldarium.core.plan.kit import Anchor
from caldarium.core.plan.refusal import refused
from caldarium.core.plan.value import Altitude, Identifier, Value, refuse_twice
from caldarium.core.plan.weather_sources import Conditions

LegKind = Literal[
    "approach", "ascent", "traverse", "ridge", "descent", "snow", "summit day", "rest", "camp"
]
TrackPoint = Annotated[
    tuple[float, float, float, float],
    Field(description="km from the leg's start, altitude [m], degrees north, degrees east"),
]


class Leg(Value):
    """A stretch of one day with one way of moving; it begins where the one before it ends."""

    id: Identifier
    kind: LegKind
    title: str = Field(default="", max_length=80)
    start_h: float | None = Field(
        default=None, ge=0, le=23, description="clock time [h]; follows at once where not given"
    )
    distance_km: float = Field(default=0, ge=0, le=80)
    to_altitude_m: Altitude = Field(description="where it ends [m]")
    climb_m: float | None = Field(default=None, ge=0, le=6000, description="total up [m]")
    fall_m: float | None = Field(default=None, ge=0, le=6000, description="total down [m]")
    hours: float | None = Field(
        default=None, ge=0, le=20, description="without halts [h]; Naismith where not given"
    )
    pace_kmh: float = Field(default=5, ge=1, le=8, description="on the level, for Naismith")
    terrain: str = Field(default="track", description="a terrain factor, or snow")
    sinkage_cm: float = Field(default=0, ge=0, le=35, description="footprint in snow [cm]")
    exposure: str = Field(default="open", description="to the wind")
    halt_every_h: float = Field(default=1, ge=0, le=8, description="0 for no halts within it")
    halt_min: float = Field(default=10, ge=1, le=180, description="length of each halt [min]")
    hot_drink_l: float = Field(
        default=0.0, ge=0, le=2, description="hot drink a head at each halt [L]"
    )
    eaten_kcal: float = Field(default=0.0, ge=0, le=2000, description="a head at each halt [kcal]")
    river: bool = Field(default=False, description="the user marks a river crossing")
    glacier: bool = Field(default=False, description="the user marks a glacier")
    scrub: bool = Field(default=False, description="brushing wet vegetation all along it")
    water: bool = Field(default=False, description="water can be filled where it ends")
    lightning: bool = Field(default=False, description="the user marks exposure to lightning")
    points: tuple[TrackPoint, ...] = Field(default=(), max_length=400)

    @model_validator(mode="after")
    def _known(self) -> Self:
        if self.terrain not in (*TERRAIN, "snow"):
            raise refused("not one of", field="terrain", known=[*TERRAIN, "snow"])
        if self.exposure not in EXPOSURES:
            raise refused("not one of", field="exposure", known=list(EXPOSURES))
        if self.kind in STILL:
            if self.hours is None or self.hours <= 0:
                raise refused("needs duration", kind=self.kind)
            if self.distance_km:
                raise refused("has no distance", kind=self.kind)
        elif not self.distance_km:
            raise refused("needs distance", kind=self.kind)
        return self

    @property
    def on_snow(self) -> bool:
        """Whether it goes over snow. Source: the user's own word."""
        return "snow" in (self.kind, self.terrain)


Windbreak = Literal["nothing", "narrow end into it", "a wall", "both"]
Cooking = Literal["outside", "porch", "inside"]


class Camp(Value):
    """Where a night is spent: at the end of the day's last leg."""

    exposure: str = Field(default="heath")
    ground: str = Field(default="dry")
    anchors: tuple[Anchor, ...] = Field(default=("pegs",), description="what the ground takes")
    water: bool = Field(default=True, description="water can be filled here")
    insects: bool = Field(default=False, description="biting insects are about in the evening")
    windbreak: Windbreak = Field(default="nothing", description="between tents and wind")
    cooking: Cooking = Field(default="outside", description="where stoves stand")
    hollow_k: float = Field(
        default=0, ge=0, le=15, description="colder than about it on a clear calm night [K]"
    )
    slope_deg: float = Field(default=0, ge=0, le=45, description="of the ground lain on [degrees]")
    bivouac: bool = Field(default=False, description="nights without a shelter are planned here")

    @model_validator(mode="after")
    def _known(self) -> Self:
        if self.exposure not in EXPOSURES:
            raise refused("not one of", field="exposure", known=list(EXPOSURES))
        if self.ground not in GROUNDS:
            raise refused("not one of", field="ground", known=list(GROUNDS))
        return self

    @property
    def melts(self) -> bool:
        """Whether there is nothing to drink here but snow. Source: none, bookkeeping."""
        return not self.water and self.ground == "snow"


class Day(Value):
    """One day: its conditions, its legs, and the night at its end (none on the last day).

    A day without legs is a rest day at the camp of the day before.
    """

    title: str = Field(default="", max_length=80)
    conditions: Conditions
    legs: tuple[Leg, ...] = Field(default=(), max_length=12)
    camp: Camp | None = None

    @model_validator(mode="after")
    def _unique_legs(self) -> Self:
        refuse_twice([leg.id for leg in self.legs], "legs of one day")
        return self

    @property
    def high_leg(self) -> int | None:
        """Index of the first leg that ends at the day's highest point."""
        if not self.legs:
            return None
        return max(range(len(self.legs)), key=lambda at: (self.legs[at].to_altitude_m, -at))


WALKING = ("approach", "ascent", "traverse", "ridge", "descent", "snow", "summit day")


STILL = ("rest", "camp")
