"""Every person's bed on every night: what they lie in, where, and what reaches it there."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from caldarium.core.night.bedding import NO_BAG, condensed, gathered, soaked
from caldarium.core.night.berths import Berths, berths_of
from caldarium.core.night.site import Site
from caldarium.core.physics import bed as bed_room
from caldarium.core.physics.clothing import REGIONS
from caldarium.core.physics.materials import DRYING_IN_BED, HEAT_OF_DRYING
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.figures import OUTSIDE, SKIN
from caldarium.core.plan.wardrobe import Wardrobes
from caldarium.core.timeline.moments import Timeline

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
    pieces worn [P x N x G], shells too where there is nothing to lie in, bare such beds, and
    wet_out those that clothes too wet stay out of. By time: share of the insulation that wind
    leaves, what wet takes off it [m² K/W], lift and sky [K], heat of bottle and warmers [W/m²].
    index of the sleeper [P x 1]; clothes the flags of pieces that go to bed beyond the base layer
    [P x G].
    """

    site: Site
    grounds: NDArray[np.str_]
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
    wet_out: Flags

    def ground(self) -> bed_room.Ground:
        """What each bed lies on, [P x N]. Source: core.physics.bed."""
        flat = bed_room.grounds(self.grounds.ravel().tolist())
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


def lay_beds(
    course: Course,
    people: Sequence[Person],
    timeline: Timeline,
    dress: Wardrobes,
    wet: Wet | None = None,
) -> Beds:
    """What people lie in, where, and with what on.

    Args:
        course: the plan, for who else is in their shelters.
        people: of the course.
        timeline: its nights and hours.
        dress: the people's clothing.
        wet: of their pieces at bedtime; all dry where not given.

    Source: core.night.berths and core.night.bedding.
    """
    laid_dry = in_clothes(course, berths_of(course, people, timeline), dress)
    return wetted(laid_dry, people, dress, wet) if wet else laid_dry


def in_clothes(course: Course, berths: Berths, dress: Wardrobes) -> Beds:
    """Beds with people in them, their clothes dry.

    Args:
        course: whose school says what is worn in bed.
        berths: of P people.
        dress: their clothing.

    Source: core.night.bedding.
    """
    site, bare = berths.site, berths.bare
    clothes = bed_clothes(course, dress)
    dressed = (clothes | base_in_bed(dress))[:, None]
    worn = dressed | (bare[..., None] & (dress.layer >= 0)[:, None] & ~dress.only_at_camp[:, None])
    inside = worth_in_bed(worn.astype(float), dress, bare)
    clothed = bed_room.top_with_clothes(berths.upper, inside, berths.room)
    hours = np.array([night.hours for night in site.nights])
    warmer = site.planned + berths.lift[..., 0]
    breath = condensed(clothed, berths.bags != "", warmer, hours, berths.covered)
    water = gathered(breath + berths.rain[..., -1], berths.bags)
    share = soaked(water[..., None] + berths.rain, berths.holds[..., None])
    return Beds(
        site=site,
        grounds=berths.grounds,
        upper=berths.upper,
        room=berths.room,
        inside=inside,
        clothed=clothed,
        bottom=berths.bottom,
        made=berths.made,
        drying=np.zeros(bare.shape),
        claimed=berths.claimed,
        damp=water,
        kept=berths.kept,
        wet=share * ((1 - berths.wet_share) * (berths.tops - NO_BAG))[..., None],
        lift=berths.lift,
        sky=berths.sky,
        heated=berths.heated,
        index=berths.index,
        clothes=clothes,
        worn=worn,
        bare=bare,
        wet_out=berths.wet_out,
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
    return with_wet(beds, dress, share)


def with_wet(beds: Beds, dress: Wardrobes, share: Array) -> Beds:
    """Beds with clothes in them as wet as they are.

    Args:
        beds: laid dry.
        dress: the pieces of those whose they are.
        share: how wet each piece is at bedtime, 0 to 1 [P x N x G].

    Source: as wetted.
    """
    worn = np.where(beds.wet_out[..., None] & (share > WET_IN_BED), 0.0, beds.worn)
    share = share * (worn > 0)
    inside = worth_in_bed(worn * (1 - share * (1 - dress.wet_share[:, None])), dress, beds.bare)
    water = np.matmul(share, (dress.holds * dress.body_cover)[..., None])[..., 0]
    hours = np.array([night.hours for night in beds.site.nights])
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
