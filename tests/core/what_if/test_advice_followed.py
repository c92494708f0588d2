"""Whoever does what the pages advise, step by step, ends with a course that holds."""

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import Assessment, assess, wet_beds
from caldarium.core.plan.changes import add_piece, pitch, with_person
from caldarium.core.plan.course import Course
from caldarium.core.what_if.cures import additions, cures
from caldarium.core.what_if.loans import loan_beds, uncovered
from caldarium.core.what_if.more_cures import lightest_set, otherwise
from caldarium.demo import demo_store

SHELVES = load_catalogue()
MOST_STEPS = 25


def largest_gap(result: Assessment):
    gaps = [(m.gap, p.person, m) for p in result.people for m in p.moments if m.state == "gap"]
    return max(gaps, key=lambda each: each[0], default=None)


def advised(course: Course, result: Assessment) -> Course | None:
    """The course after one step of advice, None where there is none left to give."""
    cold = uncovered({each.person: each.nights for each in result.people})
    shelf = [each for each in demo_store() if each.kind in ("bag", "quilt", "pad")]
    loans = loan_beds(course, result.timeline, cold, shelf, SHELVES.everything, wet_beds(result))
    if loans:
        return loans[-1].course
    unfit = next((each for each in result.shelters if not each.fit), None)
    if unfit is not None:
        sleepers = [each.id for each in course.people if each.shelter == unfit.shelter]
        course = pitch(course, sleepers[0], SHELVES.shelters["tunnel-3"])
        for other in sleepers[1:]:
            course = pitch(course, other, course.person(sleepers[0]).shelter)
        return course
    found = largest_gap(result)
    if found is None:
        return None
    _, who, state = found
    person, moment = course.person(who), result.timeline.moment(state.moment)
    helping = cures(additions(course, person, moment, state, SHELVES.garments.values()), state)
    whole = [each.piece for each in helping if each.whole][:1]
    together = lightest_set(course, person, moment, state, helping)
    for piece in whole or (together.pieces if together else ()):
        person = add_piece(person, piece)
    if person is not course.person(who):
        return with_person(course, person)
    assert otherwise(course, person, moment, state).roof
    return course.altered(hold_in_shelter=True)


def test_the_demo_is_in_order_after_the_advised_steps(demo, demo_result) -> None:
    course, result = demo, demo_result
    steps = 0
    while (after := advised(course, result)) is not None:
        course, result, steps = after, assess(after), steps + 1
        assert steps <= MOST_STEPS
    assert steps >= 5
    assert largest_gap(result) is None
    assert not any(night.state == "gap" for each in result.people for night in each.nights)
    assert all(each.fit for each in (*result.shelters, *result.open_nights))
