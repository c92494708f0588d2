"""The course value: everything a plan says, in SI units, immutable, and validated by Pydantic.

This is also the open document format: `docs/course.schema.json` is generated from these models.
"""

from datetime import date
from itertools import chain
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from caldarium.core.physics.allowances import Allowance
from caldarium.core.physics.capacity import ORDINARY_UPTAKE
from caldarium.core.plan.belief import Belief
from caldarium.core.plan.gear_list import Counted, GearList
from caldarium.core.plan.kit import (
    Bag,
    Bed,
    Bedding,
    BedPart,
    Garment,
    GroupKit,
    Helper,
    Item,
    NightPlan,
    OtherBed,
    Pad,
    Ready,
    Shelter,
)
from caldarium.core.plan.legs import refuse_day
from caldarium.core.plan.log import Log
from caldarium.core.plan.provisions import Provisions
from caldarium.core.plan.refusal import refused
from caldarium.core.plan.route import Day
from caldarium.core.plan.rucksack import Rucksack
from caldarium.core.plan.value import Altitude, Identifier, Name, NotThereError, Value, refuse_twice
from caldarium.core.plan.weather_sources import TYPED_SPREAD, Hourly, Spread

SLEEPER_SD = 0.5
"""Spread of sleepers between and beyond the two that labels are tested for: judgement; about 3 K of
a bag."""
FORMAT = "caldarium-course"
VERSION = 2
MOST_PEOPLE = 40
MOST_GROUP = 80
MOST_WATER_L, MOST_FUEL_G = 15.0, 1000.0
"""Water filled at once [L] and fuel a day [g] beyond which a figure is a slip."""
EARLIEST, LATEST = 1900, 2200
"""Years in which sunrise is computed and time zones mean something."""

Caution = Literal["as forecast", "cautious", "expedition"]
SpareSet = Literal["none", "one dry set", "full rotation"]


class Place(Value):
    """Where the course is; the offset fixes what its clock times mean."""

    name: Name
    latitude: float = Field(ge=-90, le=90, description="degrees north")
    longitude: float = Field(ge=-180, le=180, description="degrees east")
    utc_offset_h: float = Field(ge=-12, le=14, description="hours ahead of UTC on these dates")
    zone: str = Field(default="", max_length=60, description="name of its time zone, if known")


class Overrule(Value):
    """The user's own word on one piece at one moment."""

    moment: str = Field(max_length=40)
    garment: Identifier
    worn: bool


class SleepRule(Value):
    """The user's word on who sleeps with whom."""

    kind: Literal["together", "apart"]
    people: tuple[Identifier, ...] = Field(min_length=2, max_length=40)


class Cache(Value):
    """Food and fuel that wait at the end of a leg, for everybody."""

    day: int = Field(ge=0, le=20, description="of the leg, from 0")
    leg: Identifier
    rations: float = Field(ge=0, le=21, description="days of food and fuel waiting there")
    water_l: float = Field(default=0, ge=0, le=15, description="for each head [L]")

    @model_validator(mode="after")
    def _holds_something(self) -> Self:
        if not self.rations and not self.water_l:
            raise refused("empty cache")
        return self


class PackWeighed(Value):
    """A whole pack once on the hanging scale, beside what it should have weighed then."""

    on: date
    measured_g: float = Field(ge=0, le=100000)
    computed_g: float = Field(ge=0, le=100000)


class Person(Value):
    """A member of the course, with everything worn and carried."""

    id: Identifier
    name: Name
    instructor: bool = False
    body_mass_kg: float = Field(ge=25, le=200)
    height_m: float = Field(ge=1.2, le=2.3)
    age: int | None = Field(default=None, ge=5, le=99, description="in years")
    uptake_ml: float = Field(
        default=ORDINARY_UPTAKE,
        ge=10,
        le=95,
        description="oxygen uptake at most, low down [ml/(min kg)]",
    )
    sleeper_index: float = Field(
        default=1, ge=-1, le=2, description="0 sleeps like the limit figure, 1 like the comfort one"
    )
    sleeper_sd: float = Field(
        default=SLEEPER_SD, gt=0, le=2, description="what is not known of the sleeper index"
    )
    sleeper_nights: int = Field(default=0, ge=0, le=5000, description="nights that it rests on")
    walks: Belief | None = Field(
        default=None, description="heat made in walking, over what is usual, as days found it"
    )
    halts: Belief | None = Field(
        default=None, description="length of halts that they lead, over what was planned"
    )
    pace: Belief | None = Field(
        default=None, description="time of ways that they lead, over what was planned"
    )
    garments: tuple[Garment, ...] = Field(default=(), max_length=50)
    bag: Bag | None = None
    pads: tuple[Pad, ...] = ()
    bedding: Bedding = Bedding()
    shoulder_cm: float | None = Field(
        default=None, ge=30, le=70, description="breadth over the shoulders; by height if not given"
    )
    torso_cm: float | None = Field(
        default=None, ge=25, le=70, description="from the bone at the neck to the hips"
    )
    shelter: Identifier | None = None
    nights: tuple[NightPlan, ...] = Field(
        default=(), max_length=20, description="where they sleep otherwise, from which night on"
    )
    items: tuple[Item, ...] = ()
    food_g_a_day: float = Field(default=700, ge=0, le=3000)
    fuel_g_a_day: float = Field(default=40, ge=0, le=MOST_FUEL_G)
    water_l: float = Field(
        default=1.0, ge=0, le=MOST_WATER_L, description="carried while walking [L]"
    )
    containers_l: float | None = Field(
        default=None, ge=0, le=30, description="what their bottles hold; enough if not given [L]"
    )
    budget_kg: float | None = Field(default=None, gt=0, le=60, description="of their own [kg]")
    strength: float = Field(
        default=1, ge=0.3, le=2, description="what they can carry beside others of their mass"
    )
    overrules: tuple[Overrule, ...] = ()
    packs: tuple[PackWeighed, ...] = Field(default=(), max_length=40, description="weighed whole")
    rucksack: Rucksack = Rucksack()
    on_plane: tuple[Identifier, ...] | None = Field(
        default=None, max_length=100, description="worn on the plane; the first walk's if not said"
    )

    @model_validator(mode="after")
    def _unique_pieces(self) -> Self:
        pieces = [piece.id for piece in (*self.garments, *self.pads, *self.items)]
        refuse_twice(pieces, "pieces", self.name)
        self._things_inside_things()
        days = [plan.day for plan in self.nights]
        if days != sorted(set(days)):
            raise refused("nights out of order", who=self.name)
        return self

    def _things_inside_things(self) -> None:
        """Refuse things in what is not there, and in themselves."""
        inside = {item.id: item.inside for item in self.items}
        for item in self.items:
            around, seen = item.inside, {item.id}
            while around is not None:
                if around not in inside:
                    raise refused("inside nothing", item=item.name, inside=around)
                if around in seen:
                    raise refused("inside itself", item=item.name)
                seen.add(around)
                around = inside[around]

    def around(self, item: Item) -> Item:
        """The outermost thing that a thing of theirs is in, itself where in none; that is what
        waits, is left and flies. Source: none, bookkeeping."""
        if item.inside is None:
            return item
        return self.around(next(each for each in self.items if each.id == item.inside))

    @property
    def on_back(self) -> tuple[Item, ...]:
        """Their things that no helper carries; what is in a thing that one does goes with it.

        Source: none, bookkeeping.
        """
        if all(item.on is None for item in self.items):
            return self.items
        return tuple(item for item in self.items if self.around(item).on is None)

    @property
    def filled_l(self) -> float:
        """Water they set out with: what is planned, as far as the bottles hold it [L]."""
        return self.water_l if self.containers_l is None else min(self.water_l, self.containers_l)

    @property
    def shelters(self) -> tuple[str, ...]:
        """Every shelter that they sleep in on some night, once. Source: none, bookkeeping."""
        places = (self.shelter, *(plan.shelter for plan in self.nights))
        return tuple(dict.fromkeys(place for place in places if place is not None))

    def plan_of(self, day: int) -> NightPlan | None:
        """The plan in force on the night at the end of a day, None for their own place and bed.

        Source: none, bookkeeping.
        """
        return next((plan for plan in reversed(self.nights) if plan.day <= day), None)

    def bed_without_own(self, day: int) -> OtherBed | None:
        """The bed that somebody walks with on a day on which their own waits elsewhere; None on
        days on which they carry their own.

        Source: the plan's own word on the night before or at the end of the day.
        """
        for night in (day, day - 1):
            plan = self.plan_of(night)
            if plan is not None and plan.bed is not None and plan.bed.own_waits:
                return plan.bed
        return None

    @property
    def own_bed(self) -> Bed:
        """Their own bed. Source: none, bookkeeping."""
        return Bed.model_construct(bag=self.bag, pads=self.pads, bedding=self.bedding)

    @property
    def beds(self) -> tuple[Bed, ...]:
        """Their own bed and every other that they sleep in. Source: none, bookkeeping."""
        return (self.own_bed, *(plan.bed for plan in self.nights if plan.bed is not None))

    def bed_on(self, day: int) -> Bed:
        """The bed they sleep in on the night at the end of a day. Source: none, bookkeeping."""
        plan = self.plan_of(day)
        return plan.bed if plan is not None and plan.bed is not None else self.own_bed

    @property
    def beds_carried(self) -> tuple[Bed, ...]:
        """Their own bed and the others that are not lent where they are slept in.

        Source: none, bookkeeping.
        """
        return tuple(bed for bed in self.beds if not isinstance(bed, OtherBed) or not bed.lent)

    @property
    def bed_parts(self) -> tuple[BedPart, ...]:
        """Pieces of every bed that they carry; what another bed shares with one before it once.

        Source: none, bookkeeping.
        """
        found: list[BedPart] = []
        for bed in self.beds_carried:
            known = {each.id for each in found}
            found += [each for each in bed.parts if each.id not in known]
        return tuple(found)

    @property
    def cot_g(self) -> float:
        """What the cot weighs that they carry [g], 0 for none. Source: none, bookkeeping."""
        return max(bed.bedding.cot_g for bed in self.beds_carried)

    def on_night(self, day: int) -> Self:
        """This person with the bed and shelter of one night; the same where that is their own.

        Source: none, bookkeeping.
        """
        plan = self.plan_of(day)
        if plan is None:
            return self
        bed = self.bed_on(day)
        parts = {"bag": bed.bag, "pads": bed.pads, "bedding": bed.bedding}
        return self.model_copy(update=parts | {"shelter": plan.shelter})


class Course(Value):
    """A whole plan. One of these goes into assess, and everything shown comes out of it."""

    format: Literal["caldarium-course"] = FORMAT
    version: Literal[2] = VERSION
    name: Name
    place: Place
    start: Annotated[date, Field(ge=date(EARLIEST, 1, 1), le=date(LATEST, 12, 31))]
    start_altitude_m: Altitude
    conditions_altitude_m: Altitude = Field(description="height the conditions are given for [m]")
    conditions_source: str = Field(default="typed by hand", max_length=300)
    lapse_k_per_km: float = Field(default=6.5, ge=5, le=9.8)
    caution: Caution = "cautious"
    cautious_sd: float = Field(default=1, ge=0, le=4, description="standard deviations")
    expedition_sd: float = Field(default=2, ge=0, le=4, description="standard deviations")
    spread: Spread = TYPED_SPREAD
    hold_h: float = Field(default=4, ge=0.5, le=24, description="unplanned wait to survive [h]")
    halt_factor: float = Field(
        default=2, ge=1, le=4, description="a halt must be held for so many times its length"
    )
    halt_least_h: float = Field(
        default=0.5, ge=0.1, le=4, description="and at least for so long [h]"
    )
    jacket_after_min: float = Field(
        default=3.0, ge=0, le=30, description="of a halt, until what is worn there is on [min]"
    )
    camp_sit_h: float = Field(
        default=1, ge=0.25, le=8, description="time sat still at camp in a lee [h]"
    )
    kept_share: float = Field(
        default=0.5, ge=0.2, le=1, description="of the aerobic capacity, what is kept up for hours"
    )
    hold_in_bag: bool = Field(default=True, description="the sleeping bag goes round in a hold")
    hold_in_shelter: bool = Field(
        default=False, description="everybody sits in a group shelter in a hold"
    )
    hold_wind_share: float = Field(
        default=0.3, ge=0, le=1, description="share of the wind that reaches a held group in a lee"
    )
    allowances: tuple[Allowance, ...] = Field(
        default=(), max_length=3, description="allowed for beyond a rested, fed person low down"
    )
    clothes_in_bed: bool = Field(default=True, description="warm clothes count as part of the bed")
    spare_set: SpareSet = Field(default="one dry set", description="spare clothes, never idle")
    liner_claims: bool = Field(default=False, description="liners as claimed, not as modelled")
    group: tuple[GroupKit, ...] = Field(default=(), max_length=MOST_GROUP)
    helpers: tuple[Helper, ...] = Field(
        default=(), max_length=20, description="porters, animals and sleds"
    )
    caches: tuple[Cache, ...] = Field(default=(), max_length=20)
    ready: tuple[Ready, ...] = Field(
        default=(), max_length=200, description="left at the road, for another forecast"
    )
    boiled_l_a_day: float = Field(default=2.0, ge=0, le=10, description="for each head [L]")
    provisions: Provisions = Provisions()
    heavy_things: Literal["by the way", "high", "low"] = Field(
        default="by the way", description="how high heavy things ride in a pack"
    )
    sides_g: float = Field(
        default=300, ge=50, le=3000, description="left and right of a pack differ by no more [g]"
    )
    rope_of: int = Field(default=3, ge=2, le=8, description="people on one rope")
    budget_share: float = Field(default=0.25, gt=0, le=0.8, description="of body mass, skin out")
    limit_share: float = Field(default=0.3, gt=0, le=1.0, description="of body mass, skin out")
    group_budget_kg: float | None = Field(
        default=None, gt=0, le=600, description="of the group's kit together [kg]"
    )
    hold_kg: float | None = Field(default=None, ge=0, le=100, description="hold bag by air [kg]")
    cabin_kg: float | None = Field(default=None, ge=0, le=40, description="cabin bag by air [kg]")
    hold_l: float | None = Field(default=None, ge=0, le=500, description="hold bag by air [L]")
    cabin_l: float | None = Field(default=None, ge=0, le=200, description="cabin bag by air [L]")
    bag_g: float | None = Field(default=None, ge=0, le=20000, description="hold bag, empty [g]")
    lists: tuple[GearList, ...] = Field(
        default=(), max_length=12, description="what is asked of everybody's kit"
    )
    counted: tuple[Counted, ...] = Field(
        default=(), max_length=2000, description="what counts for a line of a list by hand"
    )
    sleep_rules: tuple[SleepRule, ...] = Field(default=(), max_length=40)
    wear_counts: bool = Field(default=False, description="bags lose by nights used and washes")
    sources: tuple[Hourly, ...] = Field(
        default=(),
        max_length=12,
        description="hourly weather; the first that knows an hour rules it, else the day's typed",
    )
    days: tuple[Day, ...] = Field(min_length=1, max_length=21)
    people: tuple[Person, ...] = Field(min_length=1, max_length=MOST_PEOPLE)
    shelters: tuple[Shelter, ...] = ()
    log: Log = Field(default=Log(), description="what happened: thermometers and the diary")
    as_typed: dict[str, str] = Field(
        default_factory=dict, description="figures with units as the user typed them, by field"
    )

    @model_validator(mode="after")
    def _consistent(self) -> Self:
        refuse_twice([person.id for person in self.people], "people")
        refuse_twice([shelter.id for shelter in self.shelters], "shelters")
        refuse_twice([kit.id for kit in self.group], "pieces of group kit")
        self._helpers_are_there()
        ends = {(place, leg.id) for place, day in enumerate(self.days) for leg in day.legs}
        for cache in self.caches:
            if (cache.day, cache.leg) not in ends:
                raise refused("cache without leg", leg=cache.leg, day=cache.day + 1)
        things = ((*person.items, *person.garments) for person in self.people)
        for item in chain.from_iterable(things):
            for end in (item.waits_at, item.left_at):
                if end is not None and (end.day, end.leg) not in ends:
                    raise refused("item without leg", item=item.name, leg=end.leg, day=end.day + 1)
        refuse_twice([source.id for source in self.sources], "weather sources")
        if self.expedition_sd < self.cautious_sd:
            raise refused("caution order")
        self._people_lie_somewhere()
        for number, (day, start) in enumerate(zip(self.days, self.starts, strict=True), 1):
            if day.camp is None and number < len(self.days):
                raise refused("no camp", day=number)
            refuse_day(day, start, number)
        return self

    def _helpers_are_there(self) -> None:
        """Refuse helpers that bear a person's id, things on none, and sleds that nobody draws."""
        names = {person.id for person in self.people}
        helpers = [helper.id for helper in self.helpers]
        refuse_twice([*names, *helpers], "people and helpers")
        for helper in self.helpers:
            if helper.drawn_by is not None and helper.drawn_by not in names:
                raise refused("nobody draws", helper=helper.name, who=helper.drawn_by)
        for item in (item for person in self.people for item in person.items):
            if item.on is not None and item.on not in helpers:
                raise refused("unknown helper", item=item.name, on=item.on)

    def _people_lie_somewhere(self) -> None:
        """Refuse shelters and bed partners that are not there."""
        known = {shelter.id for shelter in self.shelters}
        names = {person.id for person in self.people}
        for person in self.people:
            for shelter in person.shelters:
                if shelter not in known:
                    raise refused("unknown shelter", who=person.name, shelter=shelter)
            for beside in (b.bedding.beside for b in person.beds if b.bedding.beside is not None):
                if beside == person.id or beside not in names:
                    raise refused("unknown bed partner", who=person.name, partner=beside)

    def person(self, identifier: str) -> Person:
        """A member by id.

        Raises:
            NotThereError: where nobody has it.
        """
        for person in self.people:
            if person.id == identifier:
                return person
        raise NotThereError("person", identifier)

    def shelter(self, identifier: str) -> Shelter:
        """A shelter by id.

        Raises:
            NotThereError: where none has it.
        """
        for shelter in self.shelters:
            if shelter.id == identifier:
                return shelter
        raise NotThereError("shelter", identifier)

    def on_night(self, day: int) -> Self:
        """This course with everybody in the bed and shelter of one night; the same where all are
        their own.

        Source: none, bookkeeping.
        """
        people = tuple(person.on_night(day) for person in self.people)
        if all(a is b for a, b in zip(people, self.people, strict=True)):
            return self
        return self.model_copy(update={"people": people})

    @property
    def starts(self) -> tuple[float, ...]:
        """Altitude at which each day begins [m]."""
        found = [self.start_altitude_m]
        for day in self.days[:-1]:
            found.append(day.legs[-1].to_altitude_m if day.legs else found[-1])
        return tuple(found)

    @property
    def ends(self) -> tuple[float, ...]:
        """Altitude at which each day ends, and its night is spent [m]."""
        pairs = zip(self.days, self.starts, strict=True)
        return tuple(day.legs[-1].to_altitude_m if day.legs else start for day, start in pairs)

    @property
    def tops(self) -> tuple[float, ...]:
        """Highest altitude of each day [m]."""
        return tuple(
            max(
                [
                    start,
                    *(leg.to_altitude_m for leg in day.legs),
                    *(point[1] for leg in day.legs for point in leg.points),
                ]
            )
            for day, start in zip(self.days, self.starts, strict=True)
        )
