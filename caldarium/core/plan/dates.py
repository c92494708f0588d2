"""A course made longer or shorter by whole days."""

from caldarium.core.plan.changes import with_days
from caldarium.core.plan.course import Course, Person
from caldarium.core.plan.route import Camp, Day


def with_length(course: Course, number: int) -> Course:
    """The course with so many days.

    Args:
        course: the plan.
        number: of days, 1 to 21.

    Returns:
        Shorter, without its last days and what was said of them; longer, with rest days at the
        last height in the last day's weather. The last of several days has no night out.

    Source: none, bookkeeping.
    """
    had = len(course.days)
    if number == had:
        return course
    if number < had:
        last = course.days[number - 1]
        days = [*course.days[: number - 1], last.altered(camp=None) if number > 1 else last]
    else:
        camps = [day.camp for day in course.days if day.camp is not None]
        camp = camps[-1] if camps else Camp()
        rest = Day(conditions=course.days[-1].conditions, camp=camp)
        last = course.days[-1]
        ended = last if last.camp is not None else last.altered(camp=camp)
        days = [*course.days[:-1], ended, *(rest,) * (number - had - 1), rest.altered(camp=None)]
    gone = tuple(f"{day + 1}." for day in range(number, had))
    texts = {
        key: text
        for key, text in course.as_typed.items()
        if not any(key.startswith(f"days.{day}.") for day in range(number, had))
    }
    people = tuple(_without_rules(person, gone) for person in course.people)
    return with_days(course.altered(people=people), days, as_typed=texts)


def _without_rules(person: Person, gone: tuple[str, ...]) -> Person:
    """Somebody without what they said of moments that are gone."""
    kept = tuple(rule for rule in person.overrules if not rule.moment.startswith(gone))
    return person if not gone or kept == person.overrules else person.altered(overrules=kept)
