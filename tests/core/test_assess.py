"""The assessment of the demo course and of small changes to it."""

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
from pydantic import ValidationError

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess, wet_beds
from caldarium.core.day.states import STATES, TOLERANCE
from caldarium.core.plan.changes import (
    overrule,
    pitch,
    remove_piece,
    set_pads,
    swap_garment,
    with_altitude,
    with_day,
    with_person,
)
from caldarium.core.plan.course import Course
from caldarium.core.plan.weather_sources import Shift, Spread
from caldarium.core.timeline.moments import KINDS, build_timeline
from caldarium.core.what_if.dial import Dial, turned
from caldarium.demo import demo_course
from caldarium.words.day import outfit_sentence
from caldarium.words.night import bed_sentence
from caldarium.words.units import Display


def test_the_demo_has_something_to_say(demo_result) -> None:
    states = [m for person in demo_result.people for m in person.moments]
    assert any(m.state == "gap" and m.kind == "halt" for m in states)
    assert any(n.state == "gap" for person in demo_result.people for n in person.nights)
    assert any(not night.fit for night in demo_result.shelters)
    snug = sum(m.state == "snug" for m in states)
    assert snug > len(states) / 2
    assert any(m.state == "hot" and m.kind == "moving" for m in states)


def test_nobody_walks_in_insulation_who_has_a_shell_that_holds(demo, demo_result) -> None:
    """Common practice, no published source: insulation is for when moving stops."""
    for person in demo_result.people:
        member = demo.person(person.person)
        warm = {g.id for g in member.garments if g.layer == "insulation" and "trunk" in g.cover}
        walking = [m for m in person.moments if m.kind in ("moving", "setting out")]
        wears = [m for m in walking if warm & set(m.worn)]
        assert len(wears) <= 1
        halts = [m for m in person.moments if m.kind == "halt" and m.day == 2]
        assert not warm or any(warm & set(m.worn) for m in halts)


def test_every_kind_of_moment_and_no_other_state(demo_result) -> None:
    assert {m.kind for m in demo_result.timeline.moments} == set(KINDS)
    assert {m.state for p in demo_result.people for m in p.moments} <= set(STATES)


def test_moments_tile_the_course(demo_result) -> None:
    plan = [m for m in demo_result.timeline.moments if not m.fold]
    for before, after in pairwise(plan):
        assert after.start == pytest.approx(before.end)


def test_state_follows_the_figures(demo_result) -> None:
    for person in demo_result.people:
        for m in person.moments:
            if m.state == "gap":
                assert m.provided < m.need_min
                assert m.endurance < m.must_hold
            else:
                assert m.endurance > 0.8 * m.must_hold
            if m.state == "cool":
                assert m.provided < m.need_steady
            if m.state == "slack":
                assert m.provided > m.need_neutral
            assert m.need_min <= m.need_steady + 1e-9
            assert m.need_min <= m.need_neutral
            assert sum(m.heat_share) == pytest.approx(1)


@pytest.mark.parametrize(
    ("change", "direction"),
    [({"low_c": -1, "high_c": 3}, 1), ({"wind_ms": 14}, 1), ({"high_c": 20, "low_c": 12}, -1)],
)
def test_worse_conditions_raise_the_need(demo, demo_result, change, direction) -> None:
    day = demo.days[2]
    conditions = day.conditions.model_copy(update=change)
    after = assess(with_day(demo, 2, day.model_copy(update={"conditions": conditions})))

    def halt(result) -> float:
        return next(m.need_min for m in result.people[0].moments if m.moment == "3.north-top.halt")

    assert (halt(after) - halt(demo_result)) * direction > 0


def test_rain_puts_shells_on_and_wets_what_they_do_not_cover(demo) -> None:
    day = demo.days[0]
    wet = day.conditions.model_copy(
        update={"precipitation_mm": 30, "rain_from_h": 8, "rain_hours": 12}
    )
    ossi = demo.person("ossi")
    before = assess(demo).people[5]
    after = assess(with_day(demo, 0, day.model_copy(update={"conditions": wet}))).people[5]
    old, new = (next(m for m in r.moments if m.moment == "1.lookout.halt") for r in (before, after))
    assert "rain-jacket" in new.worn
    assert ossi.name == "Ossi Vane"
    assert "rain-trousers" not in {piece.id for piece in ossi.garments}
    legs = slice(4, 6)
    assert sum(new.regions[legs]) < sum(old.regions[legs])


def test_higher_camp_is_colder_by_the_lapse(demo, demo_result) -> None:
    day = with_altitude(demo.days[3], 760, 1160)
    night = next(n for n in assess(with_day(demo, 3, day)).people[0].nights if n.day == 3)
    before = next(n for n in demo_result.people[0].nights if n.day == 3)
    assert before.low - night.low == pytest.approx(2.6, abs=0.01)


def test_caution_orders_the_lows(demo) -> None:
    lows = [
        assess(demo.altered(caution=level)).people[0].nights[1].low
        for level in ("as forecast", "cautious", "expedition")
    ]
    assert lows[0] - lows[1] == pytest.approx(2.5)
    assert lows[1] - lows[2] == pytest.approx(2.5)


def test_overrule_wins_and_is_taken_back(demo, demo_result) -> None:
    person = demo.people[0]
    off = overrule(person, "3.north-top.halt", "light-synthetic-jacket", False)
    result = assess(with_person(demo, off)).people[0]
    halt = next(m for m in result.moments if m.moment == "3.north-top.halt")
    other = next(m for m in result.moments if m.moment == "4.col.halt")
    assert "light-synthetic-jacket" not in halt.worn
    assert "light-synthetic-jacket" in other.worn
    assert overrule(off, "3.north-top.halt", "light-synthetic-jacket", True) == person


def test_doubted_pieces_can_go_without_any_new_gap(demo, demo_result) -> None:
    for row, found in enumerate(demo_result.people):
        for piece in found.doubted:
            lighter = with_person(demo, remove_piece(demo.people[row], piece))
            after = assess(lighter).people[row]
            old = [m.state == "gap" for m in found.moments]
            new = [m.state == "gap" for m in after.moments]
            assert not any(now and not then for now, then in zip(new, old, strict=True)), piece


def test_load_falls_by_what_is_eaten(demo, demo_result) -> None:
    load = demo_result.people[0].load
    steps = -np.diff(load.by_day)
    assert (steps > 0.7).all()
    assert steps.sum() < load.consumed_a_day * 5
    assert load.worn + load.carried == pytest.approx(load.by_day[0])
    assert sum(load.by_purpose[0].values()) == pytest.approx(load.by_day[0])


def test_a_better_pad_warms_the_bed_and_a_hut_more_so(demo) -> None:
    catalogue = load_catalogue()
    person = demo.person("mirel")
    thin = set_pads(person, [catalogue.pads["thin-foam"]])
    thin_night = assess(with_person(demo, thin)).people[2].nights[1]
    now = assess(demo).people[2].nights[1]
    padded = set_pads(person, [catalogue.pads["winter-pad-7"], catalogue.pads["foam-pad"]])
    thick = assess(with_person(demo, padded)).people[2].nights[1]
    hut = assess(pitch(demo, "mirel", catalogue.shelters["plain-hut"])).people[2].nights[1]
    assert thin_night.margin < now.margin < thick.margin
    # Frozen ground cannot be in air that thaws it: a reason instead of a figure.
    assert np.isnan(thin_night.sleeper)
    assert hut.lift >= 0
    assert hut.watts_up != now.watts_up


def test_no_kit_at_all_is_assessed_too(demo) -> None:
    bare = demo.people[0].model_copy(update={"garments": (), "bag": None, "pads": (), "items": ()})
    found = assess(with_person(demo, bare)).people[0]
    assert any(m.state == "gap" for m in found.moments)
    assert all(m.provided >= 0 for m in found.moments)
    assert found.nights[1].state == "gap"


def test_a_bed_that_nothing_balances_says_so(demo) -> None:
    # Frozen ground under a sleeper without a pad: what air would warm the bed would thaw it.
    bare = set_pads(demo.person("mirel"), [])
    night = assess(with_person(demo, bare)).people[2].nights[2]
    assert night.ground == "frozen"
    assert not night.margin >= 0
    assert np.isnan(night.sleeper)
    assert night.state == "gap"
    assert "No air temperature" in bed_sentence(night, Display())


def test_rest_day_has_no_walking(demo) -> None:
    day = demo.days[1]
    course = with_day(demo, 1, day.altered(legs=()))
    kinds = [m.kind for m in build_timeline(course).moments if m.day == 1]
    assert course.ends[1] == course.ends[0]
    assert kinds == ["dawn", "camp", "night"]


@pytest.mark.parametrize("latitude", [-78.0, 0.0, 67.9, 85.0])
@pytest.mark.parametrize("start", ["2026-06-21", "2026-12-21", "2026-09-21"])
def test_every_latitude_and_season_has_a_curve(demo, latitude, start) -> None:
    place = demo.place.model_copy(update={"latitude": latitude})
    hours = build_timeline(
        Course.model_validate(demo.model_dump() | {"place": place.model_dump(), "start": start})
    ).hours
    assert np.isfinite(hours.air).all()
    highs = max(day.conditions.high_c for day in demo.days)
    assert hours.forecast.max() < highs + 1


def test_swapping_keeps_the_order_and_drops_the_overrule(demo) -> None:
    person = overrule(demo.people[0], "3.north-top.halt", "mid-fleece-200", False)
    swapped = swap_garment(person, "mid-fleece-200", load_catalogue().garments["heavy-fleece"])
    assert [p.id for p in person.garments].index("mid-fleece-200") == [
        p.id for p in swapped.garments
    ].index("heavy-fleece")
    assert swapped.overrules == ()


def test_two_of_a_kind_get_two_ids(demo) -> None:
    pad = load_catalogue().pads["foam-pad"]
    assert [p.id for p in set_pads(demo.people[0], [pad, pad]).pads] == ["foam-pad", "foam-pad-2"]


@pytest.mark.parametrize(
    "spoil",
    [
        {"days": ()},
        {"people": ()},
        {"lapse_k_per_km": 12},
        {"caution": "bold"},
        {"format": "other"},
        {"surprise": 1},
    ],
)
def test_nonsense_courses_are_refused(demo, spoil) -> None:
    with pytest.raises(ValidationError):
        Course.model_validate(demo.model_dump() | spoil)


def test_spread_must_be_ordered() -> None:
    mild, hard = (Shift(high_k=-k, low_k=-k, wind_ms=1) for k in (1, 5))
    with pytest.raises(ValidationError, match="spread order"):
        Spread(cautious=hard, expedition=mild, source="test")


def test_vents_are_told_where_they_make_an_outfit_snug(demo, demo_result) -> None:
    """A snug outfit over neutral is snug only with its vents open, and the sentence says so."""
    mild = assess(turned(demo, Dial(colder=-9)))
    moments = {moment.id: moment for moment in mild.timeline.moments}
    vented = [
        state
        for person in mild.people
        for state in person.moments
        if state.state == "snug" and state.provided > state.need_neutral + TOLERANCE
    ]
    assert vented
    for state in vented:
        assert state.opened <= state.need_neutral + TOLERANCE
        assert "open up" in outfit_sentence(moments[state.moment], state, Display())
    closed = next(s for s in demo_result.people[0].moments if s.state == "snug" and not s.gap)
    assert "vent" not in outfit_sentence(moments[closed.moment], closed, Display())


def test_what_has_dried_by_the_last_hour_in_camp_goes_to_bed_dry() -> None:
    """Wet while digging, dry before bed: only the last moment in camp counts, if all is dry too."""
    result = assess(demo_course("deep-winter"))
    evenings = [
        [state for state in person.moments if state.kind == "camp" and state.day == 1]
        for person in result.people
    ]
    assert all(len(each) > 1 for each in evenings)
    wet = wet_beds(result)
    for person, states in zip(result.people, evenings, strict=True):
        assert wet.get((person.person, 1), {}) == states[-1].wet
    first, *rest = result.people
    dried = tuple(
        state._replace(wet={}) if state is evenings[0][-1] else state for state in first.moments
    )
    told = replace(result, people=(replace(first, moments=dried), *rest))
    assert evenings[0][0].wet
    assert not wet_beds(told)[first.person, 1]
