"""Drawings are well-formed, true to the figures, and never speak by colour alone."""

from xml.etree import ElementTree

import pytest

from caldarium.core.assess import assess
from caldarium.core.changes import set_pads, with_person
from caldarium.core.units import Display
from caldarium.drawings.bed import bed_cut
from caldarium.drawings.load import load_days
from caldarium.drawings.outfit import outfit_cut
from caldarium.drawings.strip import moment_name, states_by_cell, strip
from caldarium.drawings.svg import element, state_marks, text
from caldarium.drawings.time_axis import time_axis

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
    states = states_by_cell(demo_result)
    for cell in cells:
        state, _ = states[cell.get("data-person"), cell.get("data-moment")]
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
    drawn = parsed(outfit_cut(demo.people[2], state))
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


def test_every_outfit_and_load_draws(demo, demo_result) -> None:
    for person, found in zip(demo.people, demo_result.people, strict=True):
        for state in found.moments:
            parsed(outfit_cut(person, state))
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
