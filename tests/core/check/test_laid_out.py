"""What is laid out is what the day, the pack and the bed say."""

import pytest

from caldarium.core.assess import assess
from caldarium.core.check.laid_out import AT_HAND, laid_out
from caldarium.core.pack.contents import first_walk
from caldarium.core.pack.plan import plan_pack
from caldarium.core.plan.figures import rank
from caldarium.demo import DEMOS, demo_course


def ids(pieces) -> set[str]:
    return {each.id for each in pieces}


@pytest.mark.parametrize("name", list(DEMOS))
def test_a_day_laid_out_is_the_days_outfit_the_packs_places_and_the_nights_bed(name: str) -> None:
    course = demo_course(name)
    result = assess(course)
    for person in course.people[:3]:
        worn = {state.moment: set(state.worn) for state in result.of(person.id).moments}
        for day in range(len(course.days)):
            walk = first_walk(result.timeline, day)
            plan = None if walk is None else plan_pack(course, person, result, day)
            found = laid_out(course, person, result, day, plan)
            if walk is not None:
                assert ids(found.puts_on) == worn[walk.id]
            ranks = [rank(each) for each in found.puts_on]
            assert ranks == sorted(ranks)
            for each in found.at_hand:
                assert plan.placing.zones[each.piece.id] == each.zone
                assert each.zone in AT_HAND
            assert not ids(found.last_in) & ids(found.puts_on)
            night = course.days[day].camp is not None
            assert (found.camp is not None) is night
            if night:
                assert found.camp.bed == person.bed_on(day).parts
                assert not ids(found.camp.put_on) & ids(found.camp.stays)


def test_in_deep_cold_water_sleeps_in_the_bag() -> None:
    course = demo_course("deep-winter")
    result = assess(course)
    camp = laid_out(course, course.people[0], result, 0, None).camp
    kinds = {each.kind for each in camp.guard.things if each.at_risk}
    assert "water" in kinds
