"""What keeps people warm in a hold besides what they wear: the bag, a lee, a group shelter."""

import numpy as np
import pytest

from caldarium.core.assess import assess
from caldarium.core.timeline.moments import GROUP_SHELTER_WIND
from caldarium.core.what_if.more_cures import otherwise
from caldarium.drawings.outfit import outfit_cut
from caldarium.words.day import beside_sentence, otherwise_sentence
from caldarium.words.steps_day import explain_moment
from caldarium.words.units import Display

DISPLAY = Display()


@pytest.fixture(scope="module")
def wet_and_windy(demo):
    worse = {"precipitation_mm": 12.0, "wind_ms": 9.0}
    days = tuple(day.altered(conditions=day.conditions.altered(**worse)) for day in demo.days)
    return demo.altered(days=days)


def holds_of(course):
    result = assess(course)
    moments = {each.id: each for each in result.timeline.moments if each.kind == "hold"}
    states = [s for p in result.people for s in p.moments if s.moment in moments]
    return result, moments, states


def test_a_group_shelter_keeps_rain_out_and_most_of_the_wind(wet_and_windy) -> None:
    _, lee, states = holds_of(wet_and_windy)
    _, roof, under = holds_of(wet_and_windy.altered(hold_in_shelter=True))
    assert any(each.precipitation > 0 for each in lee.values())
    assert not any(each.precipitation or each.wet_hours for each in roof.values())
    assert {each.lee for each in roof.values()} == {GROUP_SHELTER_WIND}
    gaps = np.array([[each.gap for each in found] for found in (states, under)])
    assert (gaps[1] <= gaps[0] + 1e-9).all()
    assert gaps[0].max() - gaps[1].max() > 0.2


def test_a_lee_that_keeps_more_out_than_the_shelter_stays(demo) -> None:
    _, held, _ = holds_of(demo.altered(hold_in_shelter=True, hold_wind_share=0.05))
    assert {each.lee for each in held.values()} == {0.05}


def test_what_is_offered_as_a_cure_is_one(wet_and_windy) -> None:
    result, moments, states = holds_of(wet_and_windy)
    _, _, under = holds_of(wet_and_windy.altered(hold_in_shelter=True))
    tried = 0
    members = [p for p in wet_and_windy.people for _ in moments]
    assert len(members) == len(states) == len(moments) * len(result.people)
    for member, state, better in zip(members, states, under, strict=True):
        if state.state == "gap":
            found = otherwise(wet_and_windy, member, moments[state.moment], state)
            if found.roof:
                tried += 1
                assert better.state != "gap"
                assert "a group shelter closes it" in otherwise_sentence(found, DISPLAY)
    assert tried


def test_a_hold_lists_and_draws_what_holds_people(demo, demo_result) -> None:
    member, found = demo.people[0], demo_result.people[0]
    state = next(each for each in found.moments if each.kind == "hold")
    moment = demo_result.timeline.moment(state.moment)
    told = beside_sentence(moment, state, Display())
    assert f"{state.bag:.1f} clo" in told
    assert f"{moment.lee:.0%}" in told
    assert "sleeping bag on trunk" in outfit_cut(member, state, DISPLAY)
    names = {step.name for step in explain_moment(moment, state, DISPLAY)}
    assert {"in a lee", "bag drawn round"} <= names
    walking = next(each for each in found.moments if each.kind == "moving")
    assert "sleeping bag" not in outfit_cut(member, walking, DISPLAY)
    assert not beside_sentence(demo_result.timeline.moment(walking.moment), walking, Display())


def test_without_the_bag_nothing_is_drawn_round(demo) -> None:
    _, moments, states = holds_of(demo.altered(hold_in_bag=False))
    assert {each.bag for each in states} == {0.0}
    assert "no bag" in beside_sentence(moments[states[0].moment], states[0], Display())
