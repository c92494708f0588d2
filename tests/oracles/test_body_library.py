"""The segment body against the published one, in pythermalcomfort, and against its own books."""

from collections import deque
from collections.abc import Iterable

import numpy as np
import pytest
from pythermalcomfort.jos3_functions import thermoregulation
from pythermalcomfort.models import JOS3

from caldarium.core.day.day_heat import steps_of
from caldarium.core.physics.air import saturation_pressure
from caldarium.core.physics.body import Around, Bodies, Body
from caldarium.core.physics.segments import CHEST, FEET, HANDS, HEAD, SEGMENTS

MASS, HEIGHT = 74.43, 1.72
"""The library's standard body."""
ONE_SIDE = [0, 1, 2, 3, 4, 5, 6, 7, 11, 12, 13]
"""Its segments that are ours, of pairs the left ones."""
PARTS = len(SEGMENTS)


def theirs(air: float, wind: float, clo: float, ratio: float, minutes: int) -> JOS3:
    body = JOS3(height=HEIGHT, weight=MASS, age=30)
    # Ours has no brown fat.
    body.options["nonshivering_thermogenesis"] = False
    body.tdb = body.tr = air
    body.v, body.clo, body.par, body.rh = wind, clo, ratio, 50
    body.simulate(minutes)
    return body


def around(air: float, wind: float, clo: float, rate: float) -> Around:
    """The same surroundings, by the library's own films and clothing."""
    air_speed, air_around = np.full(17, wind), np.full(17, air)
    bare = np.full(17, 33.0)
    film = thermoregulation.fixed_hc(
        thermoregulation.conv_coef("standing", air_speed, air_around, bare), air_speed
    )
    radiant = thermoregulation.fixed_hr(thermoregulation.rad_coef("standing"))
    worn = np.full(17, clo)
    dry = thermoregulation.dry_r(film, radiant, worn)[ONE_SIDE]
    wet = thermoregulation.wet_r(film, worn, 0.45, 16.5)[ONE_SIDE]
    vapour = 0.5 * saturation_pressure(np.array([air]))
    return Around(
        operative=np.full((1, PARTS), air),
        air=np.array([air]),
        vapour=vapour,
        sensible=dry[None],
        evaporative=wet[None],
        metabolic_rate=np.array([rate]),
        work=np.zeros(1),
        given=np.zeros(1),
    )


def last(bodies: Iterable[Body]) -> Body:
    return deque(bodies, maxlen=1).pop()


def lived(bodies: Bodies, where: Around, spans: list[float]):
    return last(bodies.through(bodies.rested(), where, np.array([spans])))


@pytest.mark.parametrize(
    ("air", "wind", "clo", "ratio", "minutes"),
    [
        (28.9, 0.1, 0.0, 1.25, 120),
        (24, 0.1, 0.6, 1.25, 120),
        (35, 0.3, 0.5, 1.25, 120),
        (34, 1.0, 0.6, 4.0, 90),
        (10, 0.5, 1.0, 2.5, 120),
        (0, 1.0, 1.5, 4.0, 120),
        (-10, 2.0, 2.5, 4.0, 120),
        (-20, 2.0, 3.0, 5.0, 90),
        (18, 0.2, 1.5, 1.25, 180),
        (15, 2.0, 0.5, 4.0, 60),
        (5, 0.3, 2.0, 3.0, 90),
    ],
)
def test_a_body_ends_where_the_published_one_ends(air, wind, clo, ratio, minutes) -> None:
    body = theirs(air, wind, clo, ratio, minutes)
    where = around(air, wind, clo, body.bmr * ratio)
    ours = lived(Bodies(np.array([MASS]), np.array([HEIGHT])), where, [1 / 60] * minutes)
    assert ours.shivering[0] < 3
    skin = ours.skin[0] @ (bodies_area() / bodies_area().sum())
    assert skin == pytest.approx(body.t_skin_mean, abs=0.35)
    assert ours.pool[0] == pytest.approx(float(body.t_cb), abs=0.15)
    assert ours.core[0, CHEST] == pytest.approx(body.t_core[2], abs=0.15)
    assert ours.core[0, HEAD] == pytest.approx(body.t_core[0], abs=0.2)
    assert ours.skin[0, HANDS] == pytest.approx(body.t_skin[7], abs=1.0)
    assert ours.skin[0, FEET] == pytest.approx(body.t_skin[13], abs=1.0)


@pytest.mark.parametrize(
    ("air", "wind", "clo", "minutes"),
    [(0, 1.0, 1.5, 90), (-10, 1.0, 3.0, 60), (-20, 3.0, 3.0, 60), (5, 0.5, 1.5, 60)],
)
def test_shivering_bodies_differ_by_how_they_shiver_only(air, wind, clo, minutes) -> None:
    body = theirs(air, wind, clo, 1.25, minutes)
    where = around(air, wind, clo, body.bmr * 1.25)
    ours = lived(Bodies(np.array([MASS]), np.array([HEIGHT])), where, [1 / 60] * minutes)
    assert ours.shivering[0] > 20
    skin = ours.skin[0] @ (bodies_area() / bodies_area().sum())
    assert skin == pytest.approx(body.t_skin_mean, abs=0.7)
    assert ours.skin[0, HANDS] == pytest.approx(body.t_skin[7], abs=2.5)
    assert ours.skin[0, FEET] == pytest.approx(body.t_skin[13], abs=2.0)
    assert ours.pool[0] == pytest.approx(float(body.t_cb), abs=0.6)


def bodies_area() -> np.ndarray:
    return Bodies(np.array([MASS]), np.array([HEIGHT])).anatomy.area[0]


@pytest.mark.parametrize(("air", "rate"), [(-20, 60), (0, 120), (20, 300), (36, 200)])
def test_the_books_close(air, rate) -> None:
    # What is stored is what was made less what went: all four found on their own.
    bodies = Bodies(np.array([60.0]), np.array([1.65]))
    where = around(air, 0.5, 1.2, rate)
    area = bodies.anatomy.area
    before, balance = bodies.rested(), 0.0
    span = 1 / 240
    for body in bodies.through(before, where, np.full((1, 240), span)):
        skin = (before.skin + body.skin) / 2
        dry = (area * (skin - where.operative) / where.sensible).sum() / area.sum()
        made = rate + body.shivering[0]
        breath = made * (0.0173 * (5.87 - where.vapour[0]) + 0.0014 * (34 - air))
        balance += (made - dry - body.evaporation[0] - breath) * span
        before = body
    assert before.stored[0] == pytest.approx(balance, abs=max(0.01 * abs(balance), 0.05))


def test_graded_steps_are_as_good_as_short_ones() -> None:
    bodies = Bodies(np.array([MASS]), np.array([HEIGHT]))
    visits = [(-12, 2.2, 110, 0.33), (5, 1.2, 260, 2.0), (0, 1.8, 75, 1.0), (-5, 2.5, 200, 3.0)]
    ends = []
    for steps in (steps_of, lambda hours: [hours / round(hours * 120)] * round(hours * 120)):
        body = bodies.rested()
        for air, clo, rate, hours in visits:
            where = around(air, 0.6, clo, rate)
            body = last(bodies.through(body, where, np.array([steps(hours)])))
            ends.append((body.skin[0] @ bodies_area() / bodies_area().sum(), body.pool[0]))
    coarse, fine = np.array(ends[:4]), np.array(ends[4:])
    assert np.abs(coarse - fine)[:, 0].max() < 0.1
    assert np.abs(coarse - fine)[:, 1].max() < 0.05


def test_many_bodies_at_once_are_the_same_as_one_by_one() -> None:
    mass, height = np.array([50.0, 74.0, 100.0]), np.array([1.6, 1.72, 1.9])
    where = [around(air, 1.0, 1.5, 100.0) for air in (-20.0, 5.0, 25.0)]
    together = Around(*(np.concatenate(parts) for parts in zip(*where, strict=True)))
    # One of them stays a shorter time: it waits while the others go on.
    spans = np.array([[0.2, 0.2, 0.0], [0.2, 0.2, 0.3], [0.1, 0.3, 0.3]])
    bodies = Bodies(mass, height)
    found = last(bodies.through(bodies.rested(), together, spans))
    for row in range(3):
        alone = Bodies(mass[row : row + 1], height[row : row + 1])
        body = last(alone.through(alone.rested(), where[row], spans[row : row + 1]))
        for one, other in zip(found, body, strict=True):
            assert one[row] == pytest.approx(other[0], abs=1e-9)


def test_a_body_that_is_left_alone_stays_rested() -> None:
    bodies = Bodies(np.array([70.0]), np.array([1.75]))
    body = lived(bodies, around(28.95, 0.1, 0.0, 57.0), [0.25] * 8)
    assert abs(body.stored[0]) < 4
    assert body.shivering[0] < 1


def test_shivering_tires() -> None:
    bodies = Bodies(np.array([70.0]), np.array([1.75]))
    where = around(-15, 1.0, 0.8, 58.0)
    shivers = [
        body.shivering[0] for body in bodies.through(bodies.rested(), where, np.full((1, 40), 0.25))
    ]
    assert 120 < max(shivers) <= 175
    assert shivers[-1] < 0.6 * max(shivers)
