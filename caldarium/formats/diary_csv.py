"""The diary as a CSV file, a row each thing told."""

import csv
import io
from collections.abc import Sequence

from caldarium.core.plan.course import Course
from caldarium.core.plan.log import Entry, person_of
from caldarium.formats.cells import safe

HEADER = ("told at (UTC)", "by", "kind", "person", "day", "what")
_APART = {"kind", "person", "day"}


def write_diary(course: Course, entries: Sequence[Entry]) -> str:
    """Everything told of a course, in the order in which it was.

    Args:
        course: for names.
        entries: of its log.

    Source: none, a format.
    """
    names = {each.id: each.name for each in course.people}
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(HEADER)
    for each in sorted(entries, key=lambda one: one.at):
        told = each.event.model_dump(mode="json", exclude_defaults=True)
        facts = [f"{name}={_value(value)}" for name, value in told.items() if name not in _APART]
        who = person_of(each)
        day = getattr(each.event, "day", None)
        writer.writerow(
            [
                each.at.strftime("%Y-%m-%d %H:%M:%S"),
                safe(each.by),
                each.event.kind,
                safe(names.get(who, who)),
                "" if day is None else day + 1,
                safe("; ".join(facts)),
            ]
        )
    return out.getvalue()


def _value(value: object) -> str:
    if isinstance(value, list | tuple):
        return " ".join(str(each) for each in value)
    if isinstance(value, dict):
        return " ".join(f"{name} {part}" for name, part in value.items())
    return str(value)
