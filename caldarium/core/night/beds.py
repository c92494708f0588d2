"""Every person's bed on every night: what they lie in, where, and what reaches it there."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from caldarium.core.night.bedding import (
    NO_BAG,
    bag_by_region,
    bag_top,
    bottle_watts,
    claimed,
    condensed,
    gathered,
    rained_in,
    room_for_clothes,
    soaked,
    under_one_cover,
    under_resistance,
    warmer_watts,
)
from caldarium.core.night.camp import inside_shelter
from caldarium.core.night.site import Site, site_of
from caldarium.core.physics import bed as bed_room
from caldarium.core.physics.allowances import quiet_heat
from caldarium.core.physics.clothing import REGIONS
from caldarium.core.physics.effort import body_area
from caldarium.core.physics.materials import DRYING_IN_BED, HEAT_OF_DRYING, MATERIALS
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.physics.shelter import OPEN, SHELTER_CLASSES, sky_drop, thermal_lift
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.figures import OUTSIDE, SKIN
from caldarium.core.plan.wardrobe import Wardrobes
from caldarium.core.timeline.moments import Timeline

LYING_WIND = 0.6
"""Wind over somebody who lies over that at the height of a body that stands: judgement on the
logarithmic profile."""
SHELL_BAG, SHELL_COVER, SHELL_NONE = 10.0, 3.0, 150.0
"""Air permeability of what lies outermost: a bag, a cover, nothing [l/(m² s)]: judgement."""
COVER_SKY, FOIL_SKY = 0.6, 0.1
"""Of the sky that a bare bed sees, what one in a cover does, and one in foil: judgement, the latter
on the emissivity of foil."""
WET_IN_BED = 0.05
"""Wetness from which a piece counts as wet where wet clothes stay out: judgement."""

HEAD = REGIONS.index("head")
Wet = Mapping[tuple[str, int], Mapping[str, float]]
"""How wet pieces are when somebody goes to bed, 0 to 1, by person and day of the night."""


@dataclass(frozen=True)
class Beds:
    """Beds of P people on N nights, looked at T times a night: the planning low, then by the hour.

    By person and night: upper by region without clothes [m² K/W, P x N x 7], room for clothes
    [m, P x N x 1], inside what clothes are worth there as they are [clo, P x N x 7], clothed with
    everything in and over, bottom, heat made [W/m²], what drying clothes take of it [W/m²], degrees
    a liner is believed to bring [K] and damp that bags have gathered before [g]; worn the flags of
    pieces worn [P x N x G], shells too where there is nothing to lie in, and bare such beds. By
    time: share of the insulation that wind leaves, what wet takes off it [m² K/W], lift and sky
    [K], heat of bottle and warmers [W/m²]. index of the sleeper [P x 1]; clothes the flags of
    pieces that go to bed beyond the base layer [P x G].
    """

    site: Site
    grounds: tuple[tuple[str, ...], ...]
    upper: Array
    room: Array
    inside: Array
    clothed: Array
    bottom: Array
    made: Array
    drying: Array
    claimed: Array
    damp: Array
    kept: Array
    wet: Array
    lift: Array
    sky: Array
    heated: Array
    index: Array
    clothes: Flags
    worn: Flags
    bare: Flags

    def ground(self) -> bed_room.Ground:
        """What each bed lies on, [P x N]. Source: core.physics.bed."""
        flat = bed_room.grounds([name for row in self.grounds for name in row])
        return bed_room.shaped(flat, self.bottom.shape)

    def by_time(self, *, heated: bool) -> bed_room.Bed:
        """The beds at every time [P x N x T], with bottle and warmers or without.

        Source: none, bookkeeping.
        """
        made = (self.made - self.drying)[..., None]
        return bed_room.Bed(
            top=np.maximum(self.clothed[..., None] * self.kept - self.wet, NO_BAG / 2),
            bottom=self.bottom[..., None],
            ground=bed_room.shaped(self.ground(), (*self.bottom.shape, 1)),
            lift=self.lift,
            sky=self.sky,
            rate=made + self.heated if heated else np.broadcast_to(made, self.kept.shape),
        )

    def at(self, times: NDArray[np.intp], top: Array) -> bed_room.Bed:
        """The beds for a resistance above the sleeper [m² K/W], each at one time of its nights.

        Source: none, bookkeeping.
        """

        def then(values: Array) -> Array:
            return np.take_along_axis(values, times[..., None], axis=-1)[..., 0]

        return bed_room.Bed(
            top=np.maximum(top * then(self.kept) - then(self.wet), NO_BAG / 2),
            bottom=self.bottom,
            ground=self.ground(),
            lift=then(self.lift),
            sky=then(self.sky),
            rate=self.made - self.drying,
        )

    def hardest(self) -> NDArray[np.intp]:
        """The time at which each bed loses most over what is made in it [P x N].

        Source: the balance of core.physics.bed, ground at the air's own hour.
        """
        outside = self.site.air + self.claimed[..., None]
        sleeper = bed_room.Sleeper(self.index[..., None])
        flow = bed_room.heat_flow(self.by_time(heated=False), sleeper, outside)
        return np.argmin(flow.made - flow.up - flow.down, axis=-1)


def bed_clothes(course: Course, dress: Wardrobes) -> Flags:
    """Pieces that go into the bed beyond the base layer, [P x G].

    Source: school "clothes in bed" of the course; shells stay out: common practice, no published
        source.
    """
    if not course.clothes_in_bed:
        return dress.only_asleep
    warm = (dress.layer > SKIN) & (dress.layer < OUTSIDE)
    base_for_camp = (dress.layer == SKIN) & dress.only_at_camp
    return dress.only_asleep | warm | base_for_camp


def base_in_bed(dress: Wardrobes) -> Flags:
    """Base pieces of the day that stay on in bed, [P x G]: all where nothing is kept for sleeping.

    Source: common practice, no published source.
    """
    skin = dress.layer == SKIN
    kept = (skin & dress.only_asleep).any(axis=1, keepdims=True)
    return skin & ~dress.only_asleep & ~dress.only_at_camp & ~kept


def worth_in_bed(worn: Array, dress: Wardrobes, bare: Flags) -> Array:
    """Insulation of what is worn in bed over each region [clo, P x N x 7].

    Args:
        worn: share of each piece that counts, 0 where it is not worn [P x N x G].
        dress: the pieces.
        bare: beds of nothing to lie in [P x N], whose label has no base layer in it.

    Source: on the head the best of hats and hoods counts, not their sum: who lies in bed wears one,
        common practice, no published source.
    """
    found = np.matmul(worn, dress.local)
    found[..., HEAD] = (worn * dress.local[:, None, :, HEAD]).max(axis=-1, initial=0.0)
    return found + bare[..., None] * bed_room.LABEL_CLOTHES


@dataclass(frozen=True)
class _Laid:
    """What P people lie in on one night, or on several alike; shapes as in Beds without N."""

    people: list[Person]
    grounds: list[str | None]
    bag_name: list[str]
    bare: Flags
    tops: Array
    upper: Array
    room: Array
    bottom: Array
    claimed: Array
    shell: Array
    view: Array
    covered: Flags
    wind: Array
    rain: Array
    holds: Array
    wet_share: Array
    bottle: Array
    warmers: Array


def _laid(then: Course, people: list[Person]) -> _Laid:
    """What people lie in on one night of a course that is as on that night."""
    kinds = {shelter.id: shelter.kind for shelter in then.shelters}
    slept = [kinds[each.shelter] if each.shelter else "" for each in people]
    shelters = [SHELTER_CLASSES[kind] if kind else OPEN for kind in slept]
    bags = [under_one_cover(then, person).bag for person in people]
    covered = np.array([each.bedding.cover is not None for each in people], dtype=bool)
    fills = [MATERIALS[bag.fill if bag else "down"] for bag in bags]
    shell = np.where([bag is None for bag in bags], SHELL_NONE, SHELL_BAG)
    return _Laid(
        people=people,
        grounds=[_lifted(person, kind) for person, kind in zip(people, slept, strict=True)],
        bag_name=[bag.id if bag else "" for bag in bags],
        bare=np.array(
            [bag is None and p.bedding.over is None for bag, p in zip(bags, people, strict=True)]
        ),
        tops=np.array([bag_top(bag) for bag in bags]),
        upper=np.array([bag_by_region(then, person) for person in people]),
        room=np.array([[room_for_clothes(person)] for person in people]),
        bottom=np.array([under_resistance(person) for person in people]),
        claimed=np.array([claimed(then, person) for person in people]),
        shell=np.where(covered, SHELL_COVER, shell),
        view=np.array([kind.bed_sky for kind in shelters]) * np.array([_seen(p) for p in people]),
        covered=covered,
        wind=np.array([kind.wind_share for kind in shelters]) * LYING_WIND,
        rain=np.array([kind.rain for kind in shelters]),
        holds=np.array([fill.holds for fill in fills]),
        wet_share=np.array([fill.wet_share for fill in fills]),
        bottle=np.array([person.bedding.hot_bottle_l for person in people]),
        warmers=np.array([float(person.bedding.warmers) for person in people]),
    )


def lay_beds(
    course: Course,
    people: Sequence[Person],
    timeline: Timeline,
    dress: Wardrobes,
    wet: Wet | None = None,
) -> Beds:
    """What people lie in, and where.

    Args:
        course: the plan, for who else is in their shelters.
        people: of the course.
        timeline: its nights and hours.
        dress: the people's clothing.
        wet: of their pieces at bedtime; all dry where not given.

    Returns:
        The beds.

    Source: core.night.bedding, core.physics.bed and core.physics.shelter.
    """
    site = site_of(course, timeline)
    days = [night.day for night in site.nights]
    alike: dict[tuple[int, ...], tuple[Course, _Laid]] = {}
    nights: list[tuple[Course, _Laid]] = []
    planned = [each for each in (*course.people, *people) if each.nights]
    for day in days:
        key = tuple(id(each.plan_of(day)) for each in planned)
        if key not in alike:
            then = course.on_night(day)
            alike[key] = then, _laid(then, [person.on_night(day) for person in people])
        nights.append(alike[key])
    laid = [each for _, each in nights]
    areas = body_area(
        np.array([person.body_mass_kg for person in people]),
        np.array([person.height_m for person in people]),
    )
    clothes = bed_clothes(course, dress)
    shape = (len(people), len(days))

    def column(name: str, more: tuple[int, ...] = ()) -> Array:
        """One figure of everybody on every night [P x N]."""
        empty = np.zeros((*shape, *more))
        return np.stack([getattr(each, name) for each in laid], axis=1) if laid else empty

    upper, room = column("upper", (7,)), column("room", (1,))
    bare = column("bare") > 0
    dressed = (clothes | base_in_bed(dress))[:, None]
    worn = dressed | (bare[..., None] & (dress.layer >= 0)[:, None] & ~dress.only_at_camp[:, None])
    inside = worth_in_bed(worn.astype(float), dress, bare)
    clothed = bed_room.top_with_clothes(upper, inside, room)
    # What weather does to a bed is found once for all that meet it alike.
    meets = np.concatenate([column("wind"), column("shell"), column("view")], axis=1)
    _, first, same = np.unique(meets, axis=0, return_index=True, return_inverse=True)
    blown, shell, view = (column(name)[first, :, None] for name in ("wind", "shell", "view"))
    speed = site.wind * blown
    kept = bed_room.wind_on_bed(speed, shell)[same]
    sky = sky_drop(site.air, site.sky, speed, view)[same]
    lift = np.zeros((*shape, site.air.shape[1]))
    for place, (then, each) in enumerate(nights):
        _lift(lift[:, place], then, each.people, site, place)
    hours = np.array([night.hours for night in site.nights])
    tops, holds = column("tops"), column("holds")
    bags = np.array([each.bag_name for each in laid]).T.reshape(shape)
    covered = column("covered") > 0
    breath = condensed(clothed, bags != "", site.planned + lift[..., 0], hours, covered)
    rain = rained_in(site.fallen, column("rain")[..., None], covered[..., None], bags != "")
    water = gathered(breath + rain[..., -1], bags)
    share = soaked(water[..., None] + rain, holds[..., None])
    walked = np.array([_walked(timeline, night.day) for night in site.nights])
    made = bed_room.METABOLIC_RATE * quiet_heat(course.allowances, walked)
    since = site.hour - site.hour[:, 1:2]
    heat = bottle_watts(column("bottle")[..., None], since)
    heat = heat + warmer_watts(column("warmers")[..., None], since)
    laid_dry = Beds(
        site=site,
        grounds=_grounds(course, site, laid, len(people)),
        upper=upper,
        room=room,
        inside=inside,
        clothed=clothed,
        bottom=column("bottom"),
        made=np.broadcast_to(made, shape),
        drying=np.zeros(shape),
        claimed=column("claimed"),
        damp=water,
        kept=kept,
        wet=share * ((1 - column("wet_share")) * (tops - NO_BAG))[..., None],
        lift=lift,
        sky=sky,
        heated=heat / areas[:, None, None],
        index=np.array([[person.sleeper_index] for person in people]),
        clothes=clothes,
        worn=worn,
        bare=bare,
    )
    return wetted(laid_dry, people, dress, wet) if wet else laid_dry


def _lift(lift: Array, then: Course, people: Sequence[Person], site: Site, place: int) -> None:
    """Fills in how much warmer it is where each of these lies on one night [K, P x T]."""
    for shelter in then.shelters:
        rows = [row for row, each in enumerate(people) if each.shelter == shelter.id]
        if rows:
            camp = then.days[site.nights[place].day].camp
            ground = bed_room.GROUNDS[camp.ground if camp else "dry"]
            lift[rows] = thermal_lift(
                inside_shelter(shelter, sum(e.shelter == shelter.id for e in then.people)),
                site.air[place],
                site.wind[place],
                site.sky[place],
                bed_room.ground_temperature(site.lagging[place], ground),
            )


def wetted(beds: Beds, people: Sequence[Person], dress: Wardrobes, wet: Wet) -> Beds:
    """Beds with clothes in them as wet as they are.

    Args:
        beds: laid dry.
        people, dress: whose they are, and their pieces.
        wet: of the pieces at bedtime.

    Returns:
        The beds; what is wet dries evenly through the night, and its heat is the sleeper's.

    Source: core.day.wetness; that it dries evenly is judgement.
    """
    share = np.zeros(beds.worn.shape)
    for row, person in enumerate(people):
        places = {name: place for place, name in enumerate(dress.ids(row))}
        for column, night in enumerate(beds.site.nights):
            there = wet.get((person.id, night.day), {})
            for name in there.keys() & places.keys():
                share[row, column, places[name]] = there[name]
    return with_wet(beds, people, dress, share)


def with_wet(beds: Beds, people: Sequence[Person], dress: Wardrobes, share: Array) -> Beds:
    """Beds with clothes in them as wet as they are.

    Args:
        beds: laid dry.
        people, dress: whose they are, and their pieces.
        share: how wet each piece is at bedtime, 0 to 1 [P x N x G].

    Source: as wetted.
    """
    nights = beds.site.nights
    out: Flags = np.array(
        [[each.on_night(night.day).bedding.wet_out for night in nights] for each in people],
        dtype=bool,
    )
    worn = np.where(out[..., None] & (share > WET_IN_BED), 0.0, beds.worn)
    share = share * (worn > 0)
    inside = worth_in_bed(worn * (1 - share * (1 - dress.wet_share[:, None])), dress, beds.bare)
    water = np.matmul(share, (dress.holds * dress.body_cover)[..., None])[..., 0]
    hours = np.array([night.hours for night in nights])
    rate = np.minimum(water / np.maximum(hours, 1.0), DRYING_IN_BED)
    return replace(
        beds,
        inside=inside,
        clothed=bed_room.top_with_clothes(beds.upper, inside, beds.room),
        drying=rate * HEAT_OF_DRYING,
    )


def to_spare(beds: Beds) -> Array:
    """What each bed makes over what it loses at its hardest time [W/m², P x N].

    Source: the balance of core.physics.bed.
    """
    times = beds.hardest()
    whole = np.broadcast_to(beds.site.air, (*times.shape, beds.site.air.shape[-1]))
    outside = np.take_along_axis(whole, times[..., None], axis=-1)[..., 0] + beds.claimed
    flow = bed_room.heat_flow(beds.at(times, beds.clothed), bed_room.Sleeper(beds.index), outside)
    return flow.made - flow.up - flow.down


def _seen(person: Person) -> float:
    """Share of the sky's pull that what lies outermost lets in."""
    cover = person.bedding.cover
    if cover is None:
        return 1.0
    return FOIL_SKY if cover.reflects else COVER_SKY


RAISED = {"cot": "cot", "hut bunk": "bunk"}


def _lifted(person: Person, kind: str) -> str | None:
    """What holds a bed off the camp's ground, None where it lies on it; huts have bunks."""
    if person.bedding.hammock is not None:
        return "off"
    return RAISED.get(person.bedding.raised) or ("bunk" if kind == "hut" else None)


def _grounds(
    course: Course, site: Site, laid: Sequence[_Laid], people: int
) -> tuple[tuple[str, ...], ...]:
    """What everybody lies on, by person and night."""
    camps = [course.days[night.day].camp for night in site.nights]
    under = [camp.ground if camp else "dry" for camp in camps]
    return tuple(
        tuple(each.grounds[row] or below for each, below in zip(laid, under, strict=True))
        for row in range(people)
    )


def _walked(timeline: Timeline, day: int) -> float:
    """Hours walked on a day [h]."""
    return sum(m.hours for m in timeline.moments if m.day == day and m.walk and not m.fold)
