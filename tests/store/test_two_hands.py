"""Two hands on one course: everything that was answered as kept is there, or was said not to be."""

import random
import subprocess
import sys
import threading
from datetime import date

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from caldarium.core.plan.changes import add_piece, with_day, with_person
from caldarium.core.plan.course import Course, PackWeighed
from caldarium.core.plan.kit import Helper
from caldarium.core.plan.merge import ClashError, merged
from caldarium.core.plan.provisions import Dish
from caldarium.store.courses import Courses, MeanwhileError, MovedOnError, Seen
from caldarium.store.database import open_database
from tests.courses import from_nothing


def windy(course: Course, wind: float, day: int = 0) -> Course:
    here = course.days[day]
    conditions = here.conditions.altered(wind_ms=wind)
    return with_day(course, day, here.altered(conditions=conditions))


def humid(course: Course, humidity: float) -> Course:
    here = course.days[0]
    return with_day(
        course, 0, here.altered(conditions=here.conditions.altered(humidity_pct=humidity))
    )


def heavier(course: Course, person: str, mass: float) -> Course:
    return with_person(course, course.person(person).altered(body_mass_kg=mass))


@pytest.fixture
def courses(tmp_path, demo) -> Courses:
    found = Courses(open_database(tmp_path / "a.sqlite"))
    found.add(demo, "made")
    return found


def test_changes_of_different_things_are_both_kept(courses, demo) -> None:
    seen = Seen(courses.get(1).mark)
    assert courses.change(1, "wind", lambda now: windy(now, 17), seen)
    assert courses.change(1, "humidity", lambda now: humid(now, 33), seen)
    assert courses.change(1, "mass", lambda now: heavier(now, "runa", 71), seen)
    now = courses.get(1).course
    assert (now.days[0].conditions.wind_ms, now.days[0].conditions.humidity_pct) == (17, 33)
    assert now.person("runa").body_mass_kg == 71


def test_changes_of_one_thing_are_told_and_chosen(courses) -> None:
    seen = Seen(courses.get(1).mark)
    courses.change(1, "theirs", lambda now: windy(now, 17), seen)
    with pytest.raises(MeanwhileError) as told:
        courses.change(1, "mine", lambda now: windy(now, 5), seen)
    assert told.value.theirs == "theirs"
    clash = told.value.clashes[0]
    assert (clash.path[-1], clash.mine, clash.theirs) == ("wind_ms", 5, 17)
    assert courses.get(1).course.days[0].conditions.wind_ms == 17
    over = Seen(seen.mark, told.value.stands)
    courses.change(1, "humidity meanwhile", lambda now: humid(now, 44))
    with pytest.raises(MeanwhileError):
        courses.change(1, "mine", lambda now: windy(now, 5), over)
    over = Seen(seen.mark, courses.get(1).mark)
    courses.change(1, "mine", lambda now: windy(now, 5), over)
    now = courses.get(1).course.days[0].conditions
    assert (now.wind_ms, now.humidity_pct) == (5, 44)


def test_a_state_that_was_taken_back_is_known_to_be_gone(courses) -> None:
    courses.change(1, "wind", lambda now: windy(now, 17))
    seen = Seen(courses.get(1).mark)
    courses.undo(1)
    courses.change(1, "other wind", lambda now: windy(now, 9))
    assert courses.get(1).revision == 2
    with pytest.raises(MovedOnError):
        courses.change(1, "mine", lambda now: humid(now, 50), seen)
    with pytest.raises(MovedOnError):
        courses.seen(1, "²².x")


def test_undo_takes_back_what_was_seen_or_says_what_it_would(courses) -> None:
    mark = courses.get(1).mark
    courses.change(1, "mine", lambda now: windy(now, 17))
    mine = courses.get(1).mark
    courses.change(1, "theirs", lambda now: humid(now, 33))
    with pytest.raises(MeanwhileError, match="theirs"):
        courses.undo(1, mine)
    assert courses.undo(1, courses.get(1).mark) == "theirs"
    assert courses.undo(1, mine) == "mine"
    assert courses.get(1).mark == mark


def test_both_may_add_under_one_id(demo) -> None:
    piece = next(each for each in demo.people[0].garments)
    mine = with_person(demo, add_piece(demo.people[0], piece))
    theirs = with_person(demo, add_piece(demo.people[0], piece.altered(mass_g=999)))
    both = merged(demo, mine, theirs).people[0]
    assert len(both.garments) == len(demo.people[0].garments) + 2
    assert len({each.id for each in both.garments}) == len(both.garments)


def test_what_was_taken_away_and_changed_is_a_clash(demo) -> None:
    gone = demo.altered(people=demo.people[1:], sleep_rules=(), shelters=demo.shelters)
    with pytest.raises(ClashError):
        merged(demo, heavier(demo, demo.people[0].id, 80), gone)


CHANGES = (
    lambda now, x: windy(now, 20 + x),
    lambda now, x: humid(now, 20 + x),
    lambda now, x: heavier(now, "person-1", 60 + x),
    lambda now, x: heavier(now, "person-2", 60 + x),
    lambda now, _: now.altered(caution="expedition"),
    lambda now, x: now.altered(hold_h=5 + x),
)


@settings(max_examples=60, deadline=None)
@given(
    st.sets(st.sampled_from(CHANGES), min_size=1),
    st.sets(st.sampled_from(CHANGES), min_size=1),
    st.integers(1, 9),
)
def test_a_merge_holds_both_changes_or_says_which_clash(mine, theirs, by) -> None:
    base = from_nothing(people=2)
    left, right = base, base
    for change in mine:
        left = change(left, by)
    for change in theirs:
        right = change(right, by + 10)
    shared = [each for each in mine & theirs if each(base, 1) != each(base, 2)]
    try:
        both = merged(base, left, right)
    except ClashError as fault:
        assert len(fault.clashes) == len(shared) > 0
        both = merged(base, left, right, mine_wins=True)
    else:
        assert not shared
    expected = right
    for change in mine:
        expected = change(expected, by)
    assert both == expected


def test_twenty_at_once_are_all_there_or_said_not_to_be(courses) -> None:
    mark, kept, told = courses.get(1).mark, [], []

    def work(number: int) -> None:
        name = courses.get(1).course.people[number % 10].id
        field = "food_g_a_day" if number < 10 else "fuel_g_a_day"

        def alter(now: Course) -> Course:
            person = now.person(name)
            return with_person(now, person.altered(**{field: 100 + number}))

        try:
            courses.change(1, f"{number}", alter, Seen(mark))
            kept.append((name, field, 100 + number))
        except MeanwhileError:
            told.append(number)

    threads = [threading.Thread(target=work, args=(number,)) for number in range(20)]
    for each in threads:
        each.start()
    for each in threads:
        each.join()
    assert len(kept) + len(told) == 20
    assert len(kept) == 20
    now = courses.get(1).course
    assert all(getattr(now.person(name), field) == value for name, field, value in kept)
    assert courses.get(1).revision == 21


WRITER = """
import sys
from pathlib import Path
from caldarium.core.plan.changes import with_person
from caldarium.store.courses import Courses, MeanwhileError, Seen
from caldarium.store.database import open_database
courses, who = Courses(open_database(Path(sys.argv[1]))), sys.argv[2]
for step in range(12):
    mark = courses.get(1).mark
    alter = lambda now: with_person(now, now.person(who).altered(water_l=step / 10 + 0.05))
    courses.change(1, who, alter, Seen(mark))
    print(step, flush=True)
"""


def test_two_programs_on_one_file_lose_nothing(tmp_path, demo) -> None:
    path = tmp_path / "a.sqlite"
    courses = Courses(open_database(path))
    courses.add(demo, "made")
    people = [each.id for each in demo.people[:3]]
    runs = [
        subprocess.Popen([sys.executable, "-c", WRITER, str(path), who], stdout=subprocess.PIPE)
        for who in people
    ]
    for each in runs:
        out, _ = each.communicate(timeout=120)
        assert each.returncode == 0
        assert out.split()[-1] == b"11"
    now = courses.get(1)
    assert now.revision == 1 + 12 * 3
    assert all(now.course.person(who).water_l == pytest.approx(1.15) for who in people)


def test_forced_interleavings_end_with_every_kept_change(courses) -> None:
    chance = random.Random(3)
    expected: dict[str, float] = {}
    marks = [courses.get(1).mark]
    for step in range(60):
        who = f"{chance.choice(courses.get(1).course.people).id}"
        mark = chance.choice(marks[-5:])
        value = 100.0 + step
        try:
            courses.change(
                1,
                f"{step}",
                lambda now, who=who, value=value: with_person(
                    now, now.person(who).altered(food_g_a_day=value)
                ),
                Seen(mark),
            )
            expected[who] = value
        except MeanwhileError as fault:
            assert fault.clashes[0].theirs == expected[who]
        marks.append(courses.get(1).mark)
    now = courses.get(1).course
    assert all(now.person(who).food_g_a_day == value for who, value in expected.items())
    assert len(expected) > 5


def test_what_two_people_plan_to_cook_and_who_carries_is_kept_of_both(demo) -> None:
    soup = Dish(id="soup", name="soup", meal="dinner", mass_g=100)
    mule = Helper(id="mule", name="mule", kind="animal", limit_kg=40)
    day = date(2026, 9, 20)

    def with_dish(dish: Dish, helper: Helper, grams: float, stove: str):
        pack = PackWeighed(on=day, measured_g=grams, computed_g=grams)
        runa = demo.person("runa").altered(packs=(pack,))
        plan = demo.provisions.altered(menu=(dish,), stove=stove)
        return with_person(demo.altered(provisions=plan, helpers=(helper,)), runa)

    mine = with_dish(soup, mule, 9000, "liquid")
    theirs = with_dish(soup.altered(name="stew", mass_g=200), mule.altered(name="ox"), 9100, "gas")
    both = merged(demo, mine, theirs)
    assert {dish.name for dish in both.provisions.menu} == {"soup", "stew"}
    assert {helper.name for helper in both.helpers} == {"mule", "ox"}
    assert both.provisions.stove == "liquid"
    assert {pack.measured_g for pack in both.person("runa").packs} == {9000, 9100}
