"""Where a course's weather comes from: typed by day, or hourly; part of the course document."""

from datetime import datetime
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from caldarium.core.plan.refusal import refused
from caldarium.core.plan.value import Altitude, Celsius, Identifier, Name, Value

MOST_HOURS = 24 * 40
SourceKind = Literal["hourly file", "forecast file", "forecast service"]
HourlyCelsius = Annotated[float, Field(ge=-80, le=60)]
HourlyWind = Annotated[float, Field(ge=0, le=90)]
HourlyRain = Annotated[float, Field(ge=0, le=200)]
HourlyPercent = Annotated[float, Field(ge=0, le=100)]


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
            raise refused("spread order")
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
    cloud_pct: float | None = Field(
        default=None, ge=0, le=100, description="of the sky [%]; not known if not given"
    )
    humidity_pct: float = Field(default=70, ge=1, le=100, description="daily mean [%]")

    @model_validator(mode="after")
    def _high_above_low(self) -> Self:
        if self.high_c < self.low_c:
            raise refused("high below low")
        return self


class Member(Value):
    """One run of an ensemble, hour by hour."""

    air_c: tuple[HourlyCelsius, ...]
    wind_ms: tuple[HourlyWind, ...]
    precipitation_mm: tuple[HourlyRain, ...]


class HourlyFigures(Value):
    """Figures hour by hour; a missing one is null. Precipitation is what falls in the hour."""

    air_c: tuple[HourlyCelsius | None, ...] = Field(min_length=1, max_length=MOST_HOURS)
    wind_ms: tuple[HourlyWind | None, ...] = Field(max_length=MOST_HOURS)
    gust_ms: tuple[HourlyWind | None, ...] = Field(default=(), max_length=MOST_HOURS)
    precipitation_mm: tuple[HourlyRain | None, ...] = Field(default=(), max_length=MOST_HOURS)
    humidity_pct: tuple[HourlyPercent | None, ...] = Field(default=(), max_length=MOST_HOURS)
    cloud_pct: tuple[HourlyPercent | None, ...] = Field(default=(), max_length=MOST_HOURS)
    members: tuple[Member, ...] = Field(default=(), max_length=60)


class Hourly(HourlyFigures):
    """Weather hour by hour at one height; a missing figure is null and another source is asked.

    The figure at an index holds for first + index hours; precipitation is what falls in the hour
    that begins there.
    """

    id: Identifier
    name: Name
    kind: SourceKind
    place: str = Field(default="", max_length=120)
    altitude_m: Altitude = Field(description="height the figures are for [m]")
    issued: datetime | None = Field(
        default=None, description="clock time of the place; spread grows with time since"
    )
    first: datetime = Field(description="clock time of the place of the first hour")
    used: bool = Field(default=True, description="a source set aside rules no hour")
    notes: str = Field(default="", max_length=400)

    @model_validator(mode="after")
    def _even(self) -> Self:
        hours = len(self.air_c)
        if self.first.tzinfo or (self.issued and self.issued.tzinfo):
            raise refused("clock with offset")
        if self.first.minute or self.first.second or self.first.microsecond:
            raise refused("full hours")
        for name in ("wind_ms", "gust_ms", "precipitation_mm", "humidity_pct", "cloud_pct"):
            here = len(getattr(self, name))
            if here != hours and (here or name == "wind_ms"):
                raise refused("uneven hours", name=name, has=here, hours=hours)
        for number, member in enumerate(self.members, 1):
            if {len(member.air_c), len(member.wind_ms), len(member.precipitation_mm)} != {hours}:
                raise refused("uneven member", number=number, hours=hours)
        return self
