"""What is carried for a list is kept, told, and not idle; lists made from somebody's kit hold."""

import pytest

from caldarium.catalogue import shipped_lists
from caldarium.core.assess import assess
from caldarium.core.lists.again import judge_again
from caldarium.core.lists.from_kit import list_of
from caldarium.core.lists.holdings import BOTTLES, holdings
from caldarium.core.lists.judge import judge
from caldarium.core.lists.kept import must_lines, not_there
from caldarium.core.plan.changes import with_person
from caldarium.core.plan.gear_list import GearList
from caldarium.core.timeline.moments import build_timeline
from caldarium.core.what_if.idle import idle_pieces, ledger, without
from caldarium.demo import DEMOS, demo_course


def unmet(course) -> set[tuple[str, str, str]]:
    judged = judge(course, build_timeline(course))
    must = must_lines(course)
    bad = (each for each in judged if not each.good and (each.list, each.entry) in must)
    return {(each.list, each.entry, each.subject.id) for each in bad}


@pytest.mark.parametrize("name", list(DEMOS))
def test_what_is_idle_can_stay_at_home_and_every_list_holds_as_before(name: str) -> None:
    course = demo_course(name).altered(lists=shipped_lists())
    idle = idle_pieces(course, assess(course))
    people = tuple(without(person, idle[person.id].pieces) for person in course.people)
    assert unmet(course.altered(people=people)) <= unmet(course)


def test_a_second_fleece_that_only_a_list_asks_for_is_kept_and_told() -> None:
    course = demo_course().altered(lists=())
    result = assess(course)
    idle = idle_pieces(course, result)
    who = next(each for each in course.people if idle[each.id].pieces)
    piece = next(e for e in who.garments if e.id in idle[who.id].pieces)
    asked = {"sort": "anything", "names": [piece.name]}
    entry = {"id": "it", "text": piece.name, "ways": [{"parts": [asked]}]}
    told = GearList.model_validate({"id": "l", "name": "l", "entries": [entry]})
    with_list = course.altered(lists=(told,))
    after = idle_pieces(with_list, result)[who.id]
    assert piece.id not in after.pieces
    assert after.kept[piece.id] == "listed"
    lines = {e.piece: e for e in ledger(with_list, who, result, after)}
    assert (lines[piece.id].verdict, lines[piece.id].why.reason) == ("kept", "listed")
    recommended = told.altered(entries=(told.entries[0].altered(must=False),))
    free = idle_pieces(course.altered(lists=(recommended,)), result)[who.id]
    assert piece.id in free.pieces


def test_no_list_is_no_question() -> None:
    course = demo_course().altered(lists=())
    assert not_there(course, judge(course, build_timeline(course))) is None


@pytest.mark.parametrize("name", list(DEMOS))
@pytest.mark.parametrize("quality", [False, True])
def test_a_list_made_of_somebodys_kit_holds_for_them(name: str, quality: bool) -> None:
    course = demo_course(name)
    who = course.people[0].id
    mine = [
        each
        for each in holdings(course)
        if (each.who == who or (each.shared and not each.of)) and each.id != BOTTLES
    ]
    once = list({each.piece or each.id: each for each in mine}.values())
    made = list_of("our own", once, quality=quality, must=True)
    asked = course.altered(lists=(made,))
    judged = judge(asked, build_timeline(asked))
    bad = [each for each in judged if not each.good and each.subject.id in (who, "party")]
    assert len([each for each in judged if each.subject.id == who]) > 10
    assert not bad, [(each.entry, each.state) for each in bad]


def test_judging_again_gives_what_judging_whole_gives() -> None:
    """Through a chain of changes: weather that asks for other lines, a piece less, what is worn, an
    age, somebody else's shelter, fewer people, another list; what is as it was is not judged."""
    course = demo_course()
    first, second = course.people[:2]
    day = course.days[0]
    colder = course.altered(
        days=(day.altered(conditions=day.conditions.altered(low_c=-30)), *course.days[1:])
    )
    changes = [
        course,
        colder,
        with_person(course, first.altered(garments=first.garments[2:])),
        with_person(course, first.altered(overrules=())),
        with_person(course, first.altered(age=11)),
        with_person(course, second.altered(shelter=None)),
        course.altered(people=course.people[1:]),
        course.altered(counted=()),
        course.altered(rope_of=2),
        course.altered(lists=course.lists[:1]),
        course.altered(lists=()),
        course,
    ]
    known = None
    for each in changes:
        timeline = build_timeline(each)
        known = judge_again(each, timeline, known)
        assert known.judged == judge(each, timeline)
    again = judge_again(course.altered(name="another"), build_timeline(course), known)
    assert again.judged is known.judged
