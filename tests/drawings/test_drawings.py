"""Drawings are well-formed, true to the figures, and never speak by colour alone."""

from xml.etree import ElementTree

import pytest

from caldarium.core.assess import assess
from caldarium.core.day.day_heat import day_story
from caldarium.core.plan.changes import set_pads, with_person
from caldarium.drawings.bed import bed_cut
from caldarium.drawings.heat_strip import heat_strip
from caldarium.drawings.load import load_days
from caldarium.drawings.outfit import outfit_cut
from caldarium.drawings.strip import states_by_cell, strip
from caldarium.drawings.svg import element, state_marks, text
from caldarium.drawings.time_axis import time_axis
from caldarium.words.course import moment_name
from caldarium.words.units import Display

DISPLAY = Display()


def parsed(drawing: str) -> ElementTree.Element:
    return ElementTree.fromstring(drawing)


def of_class(drawing: ElementTree.Element, name: str) -> list[ElementTree.Element]:
    return [each for each in drawing.iter() if name in each.get("class", "").split()]


def test_markup_is_escaped() -> None:
    drawn = element("g", text(0, 0, "<b> & co", "x"), data_person='a"b')
    assert parsed(drawn).get("data-person") == 'a"b'
    assert "<b>" not in drawn


def test_every_state_has_its_hatch() -> None:
    names = {each.get("id") for each in parsed(state_marks()).iter() if each.get("id")}
    assert {"hatch-gap", "hatch-slack", "hatch-hot", "hatch-snow"} <= names


@pytest.mark.parametrize("only_day", [None, 0, 2, 4])
def test_strip_has_a_cell_for_every_person_and_moment(demo, demo_result, only_day) -> None:
    drawn = parsed(
        strip(demo, demo_result, "mirel", "3.north-top.halt", DISPLAY, only_day=only_day)
    )
    moments = [m for m in demo_result.timeline.moments if only_day in (None, m.day)]
    cells = [each for each in of_class(drawn, "pick")]
    assert len(cells) == len(moments) * len(demo.people)
    states = states_by_cell(demo_result, Display())
    for cell in cells:
        state, _, at_risk = states[cell.get("data-person"), cell.get("data-moment")]
        assert bool(of_class(cell, "risk")) is at_risk
        assert of_class(cell, "cell")[0].get("class") == f"cell {state}"
        title = next(each.text for each in cell if each.tag == "title")
        assert f": {state}," in title


def test_gap_and_hot_are_marked_by_shape_or_word_too(demo, demo_result) -> None:
    drawn = parsed(strip(demo, demo_result, "mirel", "3.north-top.halt", DISPLAY))
    for cell in of_class(drawn, "pick"):
        state = of_class(cell, "cell")[0].get("class").split()[1]
        if state == "gap":
            assert of_class(cell, "notch")
        if state == "hot":
            assert of_class(cell, "word") or of_class(cell, "flame")
        if state == "snug":
            assert not of_class(cell, "notch")


def test_cursor_stands_on_one_cell(demo, demo_result) -> None:
    drawn = parsed(strip(demo, demo_result, "dag", "4.camp", DISPLAY))
    marked = [each for each in of_class(drawn, "pick") if of_class(each, "here")]
    assert [(m.get("data-person"), m.get("data-moment")) for m in marked] == [("dag", "4.camp")]
    assert len(of_class(drawn, "cursor")) == 1


def test_axis_is_ordered_and_no_moment_is_too_thin(demo_result) -> None:
    axis = time_axis(demo_result.timeline.moments, 90, 1230)
    assert min(slot.width for slot in axis.slots) >= 14
    assert list(axis.times) == sorted(axis.times)
    assert list(axis.places) == sorted(axis.places)
    ends = axis.slots[-1].x + axis.slots[-1].width
    assert ends == pytest.approx(1230)
    halt = next(slot for slot in axis.slots if slot.moment.id == "3.north-top.halt")
    assert axis.x(halt.moment.start) == pytest.approx(halt.x)


def test_moment_name_is_as_people_say_it(demo, demo_result) -> None:
    halt = next(m for m in demo_result.timeline.moments if m.id == "3.north-top.halt")
    assert moment_name(demo, halt) == "Wed 10:21, halt"


def test_outfit_layers_end_where_the_figure_says(demo, demo_result) -> None:
    state = next(m for m in demo_result.people[2].moments if m.moment == "3.north-top.halt")
    drawn = parsed(outfit_cut(demo.people[2], state, DISPLAY))
    need = of_class(drawn, "need")[0]
    scale = float(need.get("x")) - 74
    whole = of_class(drawn, "sum")[0]
    shown = float(whole.get("width")) / (scale / state.need_min)
    assert shown == pytest.approx(state.provided, abs=0.02)
    assert len(of_class(drawn, "missing")) >= 5
    worn = {piece.name for piece in demo.people[2].garments if piece.id in state.worn}
    titles = [each.text for each in drawn.iter() if each.tag == "title"]
    for name in worn:
        assert any(name in (title or "") for title in titles), name


def test_wet_is_hatched_as_high_as_it_is_and_wind_stops_at_the_shell(demo, demo_result) -> None:
    person = demo.people[0]
    state = next(m for m in demo_result.people[0].moments if m.moment == "4.camp")
    drawn = parsed(outfit_cut(person, state, DISPLAY))
    shown = [each for each in state.worn if state.wet.get(each, 0) > 0.05]
    hatched = of_class(drawn, "wet-layer")
    assert len(hatched) >= len(shown) > 0
    layer = float(of_class(drawn, "layer")[1].get("height"))
    tallest = max(state.wet[each] for each in shown)
    assert max(float(each.get("height")) for each in hatched) == pytest.approx(
        layer * tallest, abs=0.1
    )
    assert len(of_class(drawn, "gust")) == 7
    tips = [float(line.get("x1")) for line in of_class(drawn, "gust")]
    ends = [float(line.get("x2")) for line in of_class(drawn, "gust")]
    assert all(tip < end for tip, end in zip(tips, ends, strict=True))
    digits = [each.text for each in of_class(drawn, "digits")]
    assert digits == [
        f"{state.bare_face:.0%} of the face bare",
        f"fingers {DISPLAY.temperature(state.fingers.at_end)}",
        f"toes {DISPLAY.temperature(state.toes.at_end)}",
    ]


def test_a_bare_face_stands_in_the_cut_beside_fingers_and_toes(demo, demo_result) -> None:
    states = [state for found in demo_result.people[:1] for state in found.moments]
    bare = next(state for state in states if state.bare_face > 0.5)
    told = f"{bare.bare_face:.0%} of the face bare"
    assert told in outfit_cut(demo.people[0], bare, Display())
    covered = bare._replace(bare_face=0.0)
    assert "of the face bare" not in outfit_cut(demo.people[0], covered, Display())


def test_two_cuts_with_one_reach_have_one_scale(demo, demo_result) -> None:
    found = []
    for row in (0, 9):
        state = next(m for m in demo_result.people[row].moments if m.moment == "3.north-top.halt")
        drawn = parsed(outfit_cut(demo.people[row], state, DISPLAY, reach=4.0))
        width = float(of_class(drawn, "sum")[0].get("width"))
        found.append(width / state.provided)
    assert found[0] == pytest.approx(found[1], rel=0.01)


def test_the_day_under_the_outfit_has_its_states_and_heat(demo, demo_result) -> None:
    story = day_story(demo_result.timeline, demo.people[5], demo_result.people[5].moments, 2)
    moments = [
        m for m in demo_result.timeline.moments if m.day == 2 and not m.fold and m.kind != "night"
    ]
    drawn = parsed(heat_strip(story, moments, "3.north-top.halt"))
    cells = of_class(drawn, "cell")
    assert [each.get("class").split()[1] for each in cells] == [
        each.state for each in story.planned
    ]
    assert len(of_class(drawn, "here")) == 1
    assert f"{story.stored.min():.0f}" in drawn.get("aria-label")


def test_every_outfit_and_load_draws(demo, demo_result) -> None:
    for person, found in zip(demo.people, demo_result.people, strict=True):
        for state in found.moments:
            parsed(outfit_cut(person, state, DISPLAY))
        drawn = parsed(load_days(demo, found.load, DISPLAY))
        columns = len(of_class(drawn, "purpose")) - 7
        assert columns == 7 * len(demo.days)


def test_bed_shows_its_watts_and_layers_to_scale(demo, demo_result) -> None:
    person, night = demo.people[0], demo_result.people[0].nights[1]
    drawn = parsed(bed_cut(person, night, DISPLAY))
    words = [each.text for each in of_class(drawn, "watts")]
    assert f"{night.watts_up:.0f} W up" in words
    assert f"{night.watts_down:.0f} W down" in words
    bag = float(of_class(drawn, "bag")[0].get("height"))
    pad = float(of_class(drawn, "pad")[0].get("height"))
    assert bag / pad == pytest.approx(night.bag_resistance / night.pads_resistance, rel=0.02)


def test_a_bed_without_pads_or_balance_draws(demo) -> None:
    bare = with_person(demo, set_pads(demo.people[2], []))
    night = assess(bare).people[2].nights[1]
    drawn = parsed(bed_cut(bare.people[2], night, Display(customary=True)))
    assert not of_class(drawn, "pad")
    assert "°F" in "".join(drawn.itertext())
