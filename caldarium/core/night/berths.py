"""Where and in what everybody lies on every night, and what reaches it, whatever they wear."""

from collections.abc import Sequence
from dataclasses import dataclass, fields
from typing import Any

import numpy as np
from numpy.typing import NDArray

from caldarium.core.night.bedding import (
    bag_by_region,
    bag_top,
    bottle_watts,
    claimed,
    rained_in,
    room_for_clothes,
    under_one_cover,
    under_resistance,
    warmer_watts,
)
from caldarium.core.night.camp import inside_shelter
from caldarium.core.night.site import Site, site_of
from caldarium.core.physics import bed as bed_room
from caldarium.core.physics.allowances import quiet_heat
from caldarium.core.physics.effort import body_area
from caldarium.core.physics.materials import MATERIALS
from caldarium.core.physics.quantities import Array, Flags
from caldarium.core.physics.shelter import OPEN, SHELTER_CLASSES, sky_drop, thermal_lift
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import Timeline

LYING_WIND = 0.6
"""Wind over somebody who lies over that at the height of a body that stands: judgement on the
logarithmic profile."""
SHELL_BAG, SHELL_COVER, SHELL_NONE = 10.0, 3.0, 150.0
"""Air permeability of what lies outermost: a bag, a cover, nothing [l/(m² s)]: judgement."""
COVER_SKY, FOIL_SKY = 0.6, 0.1
"""Of the sky that a bare bed sees, what one in a cover does, and one in foil: judgement, the latter
on the emissivity of foil."""
RAISED = {"cot": "cot", "hut bunk": "bunk"}


@dataclass(frozen=True)
class Berths:
    """What P people lie in and on on N nights, looked at T times a night: the planning low, then by
    the hour.

    By person and night: what holds the bed off the ground or that ground; bags by name, "" for
    none; bare beds, without bag or cover over; covered ones, and those that clothes too wet stay
    out of; tops of bags and upper by region without clothes [m² K/W, P x N and x 7], room for
    clothes [m, P x N x 1], bottom [m² K/W], degrees a liner is believed to bring [K], heat made
    [W/m²], water that a bag's fill can hold [g/m²], and the share of its insulation that it keeps
    wet. By time: share of the insulation that wind leaves, lift and sky [K], rain that has come in
    [g], heat of bottle and warmers [W/m²]. index of the sleeper [P x 1].
    """

    site: Site
    grounds: NDArray[np.str_]
    bags: NDArray[np.str_]
    bare: Flags
    covered: Flags
    wet_out: Flags
    tops: Array
    upper: Array
    room: Array
    bottom: Array
    claimed: Array
    made: Array
    holds: Array
    wet_share: Array
    kept: Array
    lift: Array
    sky: Array
    rain: Array
    heated: Array
    index: Array

    def take(self, rows: Sequence[int]) -> "Berths":
        """Some of them, in that order. Source: none, bookkeeping."""
        return Berths(self.site, *(part[list(rows)] for part in self._parts()))

    def beside(self, others: "Berths") -> "Berths":
        """These and others on the same nights. Source: none, bookkeeping."""
        pairs = zip(self._parts(), others._parts(), strict=True)
        return Berths(self.site, *(np.concatenate(pair) for pair in pairs))

    def _parts(self) -> list[NDArray[Any]]:
        """All but the site, by person."""
        return [getattr(self, each.name) for each in fields(self)[1:]]


@dataclass(frozen=True)
class _OnNight:
    """What P people lie in on one night, or on several alike; shapes as in Berths without
    N."""

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
    wet_out: Flags


def _on_night(then: Course, people: list[Person]) -> _OnNight:
    """What people lie in on one night of a course that is as on that night."""
    kinds = {shelter.id: shelter.kind for shelter in then.shelters}
    slept = [kinds[each.shelter] if each.shelter else "" for each in people]
    shelters = [SHELTER_CLASSES[kind] if kind else OPEN for kind in slept]
    bags = [under_one_cover(then, person).bag for person in people]
    covered = np.array([each.bedding.cover is not None for each in people], dtype=bool)
    fills = [MATERIALS[bag.fill if bag else "down"] for bag in bags]
    shell = np.where([bag is None for bag in bags], SHELL_NONE, SHELL_BAG)
    return _OnNight(
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
        wet_out=np.array([person.bedding.wet_out for person in people], dtype=bool),
    )


def berths_of(course: Course, people: Sequence[Person], timeline: Timeline) -> Berths:
    """What people lie in, and where.

    Args:
        course: the plan, for who else is in their shelters.
        people: of the course.
        timeline: its nights and hours.

    Source: core.night.bedding, core.physics.bed and core.physics.shelter.
    """
    site = site_of(course, timeline)
    days = [night.day for night in site.nights]
    alike: dict[tuple[int, ...], tuple[Course, _OnNight]] = {}
    nights: list[tuple[Course, _OnNight]] = []
    planned = [each for each in (*course.people, *people) if each.nights]
    for day in days:
        key = tuple(id(each.plan_of(day)) for each in planned)
        if key not in alike:
            then = course.on_night(day)
            alike[key] = then, _on_night(then, [person.on_night(day) for person in people])
        nights.append(alike[key])
    laid = [each for _, each in nights]
    areas = body_area(
        np.array([person.body_mass_kg for person in people]),
        np.array([person.height_m for person in people]),
    )
    shape = (len(people), len(days))

    def column(name: str, more: tuple[int, ...] = ()) -> Array:
        """One figure of everybody on every night [P x N]."""
        empty = np.zeros((*shape, *more))
        return np.stack([getattr(each, name) for each in laid], axis=1) if laid else empty

    # What weather does to a bed is found once for all that meet it alike.
    meets = np.concatenate([column("wind"), column("shell"), column("view")], axis=1)
    _, first, same = np.unique(meets, axis=0, return_index=True, return_inverse=True)
    blown, shell, view = (column(name)[first, :, None] for name in ("wind", "shell", "view"))
    speed = site.wind * blown
    lift = np.zeros((*shape, site.air.shape[1]))
    for place, (then, each) in enumerate(nights):
        _lift(lift[:, place], then, each.people, site, place)
    bags = np.array([each.bag_name for each in laid], dtype=str).T.reshape(shape)
    covered = column("covered") > 0
    walked = np.array([_walked(timeline, night.day) for night in site.nights])
    made = bed_room.METABOLIC_RATE * quiet_heat(course.allowances, walked)
    since = site.hour - site.hour[:, 1:2]
    heat = bottle_watts(column("bottle")[..., None], since)
    heat = heat + warmer_watts(column("warmers")[..., None], since)
    return Berths(
        site=site,
        grounds=_grounds(course, site, laid, len(people)),
        bags=bags,
        bare=column("bare") > 0,
        covered=covered,
        wet_out=column("wet_out") > 0,
        tops=column("tops"),
        upper=column("upper", (7,)),
        room=column("room", (1,)),
        bottom=column("bottom"),
        claimed=column("claimed"),
        made=np.broadcast_to(made, shape),
        holds=column("holds"),
        wet_share=column("wet_share"),
        kept=bed_room.wind_on_bed(speed, shell)[same],
        lift=lift,
        sky=sky_drop(site.air, site.sky, speed, view)[same],
        rain=rained_in(site.fallen, column("rain")[..., None], covered[..., None], bags != ""),
        heated=heat / areas[:, None, None],
        index=np.array([[person.sleeper_index] for person in people]),
    )


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


def _lifted(person: Person, kind: str) -> str | None:
    """What holds a bed off the camp's ground, None where it lies on it; huts have bunks."""
    if person.bedding.hammock is not None:
        return "off"
    return RAISED.get(person.bedding.raised) or ("bunk" if kind == "hut" else None)


def _grounds(course: Course, site: Site, laid: Sequence[_OnNight], people: int) -> NDArray[np.str_]:
    """What everybody lies on [P x N]."""
    camps = [course.days[night.day].camp for night in site.nights]
    under = [camp.ground if camp else "dry" for camp in camps]
    rows = [
        [each.grounds[row] or below for each, below in zip(laid, under, strict=True)]
        for row in range(people)
    ]
    return np.array(rows, dtype=str).reshape(people, len(laid))


def _walked(timeline: Timeline, day: int) -> float:
    """Hours walked on a day [h]."""
    return sum(m.hours for m in timeline.moments if m.day == day and m.walk and not m.fold)


def _seen(person: Person) -> float:
    """Share of the sky's pull that what lies outermost lets in."""
    cover = person.bedding.cover
    if cover is None:
        return 1.0
    return FOIL_SKY if cover.reflects else COVER_SKY
