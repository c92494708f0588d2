"""The lightest set meets what lists ask: clothes, bag and pads, and no more where it is off."""

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.lighten.problem import Wish
from caldarium.core.lighten.proposal import Question, lighten
from caldarium.core.lists.judge import judge
from caldarium.core.plan.changes import with_person
from caldarium.core.plan.gear_list import GearList
from caldarium.core.stock.supply import Supply
from caldarium.core.timeline.moments import build_timeline
from caldarium.demo import demo_course

CATALOGUE = load_catalogue()


def line(name: str, **wanted: object) -> dict:
    return {"id": name, "text": name, "ways": [{"parts": [wanted]}]}


ASKED = GearList.model_validate(
    {
        "id": "l",
        "name": "l",
        "entries": [
            line("hats", sort="hat", count=2),
            line("warm", sort="warm layer above", least={"clo": 0.25}),
            line("bag", sort="bag", least={"comfort_c": -1}),
            line("pad", sort="pad", least={"r_value": 4}),
        ],
    }
)


def to_the_end(search) -> bool:
    return True


@pytest.mark.parametrize("on", [True, False])
def test_the_lightest_set_meets_the_lists_and_is_heavier_for_it(on: bool) -> None:
    course = demo_course("hot-canyon").altered(lists=(ASKED,))
    person = course.people[0]
    more = [CATALOGUE.garments[name] for name in ("wool-hat", "thin-hat", "mid-fleece-200")]
    bag, pad = CATALOGUE.bags["bag-minus-1"], CATALOGUE.pads["air-pad-5"]
    person = person.altered(garments=(*person.garments, *more), bag=bag, pads=(pad, *person.pads))
    course = with_person(course, person)
    timeline = build_timeline(course)
    wish = Wish() if on else Wish(without=frozenset({"listed"}))
    question = Question(course, person, timeline, Supply(), ("own",), wish)
    found = lighten(question, to_the_end)
    after = found.after
    assert after is not None
    lines = {each.rule.line.text for each in found.reasons if getattr(each.rule, "line", None)}
    assert lines == ({"hats", "warm"} if on else set())
    judged = judge(with_person(course, after), timeline, person.id)
    mine = {each.entry: each.good for each in judged}
    assert len(mine) == 4
    assert all(mine.values()) is on
    assert mine["bag"] is on or not on
