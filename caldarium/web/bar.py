"""The bar of a course: the steps of the work in their order, how far each has got, its pages."""

from dataclasses import dataclass

from caldarium.core.assess import Assessment
from caldarium.core.plan.course import Course
from caldarium.core.plan.unsaid import Step, unsaid
from caldarium.core.tally import StepState, step_states, tally
from caldarium.web.urls import course_url

LABELS: dict[Step, str] = {
    "course": "Course",
    "weather": "Weather and route",
    "day": "Day",
    "night": "Night",
    "shelter": "Shelter",
    "load": "Load",
    "lighten": "Lighten",
    "pack": "Pack",
    "check": "Check",
    "log": "Log",
    "debrief": "Debrief",
}
PAGES: dict[Step, tuple[tuple[str, str], ...]] = {
    "course": (("", "Overview"), ("people", "People")),
    "weather": (
        ("route", "Strip and legs"),
        ("sources", "Sources"),
        ("climate", "Climate file"),
        ("gpx", "Way from a GPX file"),
        ("compare", "Compare"),
    ),
    "day": (
        ("day", "Bench"),
        ("group", "Group"),
        ("outfits", "Outfits"),
        ("story", "Story"),
        ("table", "Table"),
    ),
    "night": (("night", "Beds"),),
    "shelter": (("shelter", "Camp"),),
    "load": (
        ("load", "Load"),
        ("food", "Food, water, fuel"),
        ("lists", "Lists"),
        ("air", "By air"),
        ("load/matters", "What matters"),
    ),
    "lighten": (
        ("lighten", "Lightest set"),
        ("lighten/party", "Whole party"),
        ("lighten/shelters", "Shelters"),
        ("lighten/group-kit", "Group kit"),
        ("lighten/helps-most", "What helps most"),
        ("lighten/caution", "What caution costs"),
        ("lighten/part-way", "Part of the way"),
    ),
    "pack": (("pack", "One pack"), ("pack/cards", "Cards to print")),
    "check": (
        ("check", "Lists"),
        ("check/table", "At the table"),
        ("check/handed", "Handed out"),
        ("check/laid-out", "Laid out"),
        ("check/record", "Record"),
        ("check/own", "Own list"),
    ),
    "log": (
        ("log", "Nights"),
        ("log/diary", "Diary"),
        ("log/thermometers", "Thermometers"),
        ("log/learned", "What it teaches"),
        ("log/right", "Was the plan right?"),
        ("log/sheet", "To print"),
    ),
    "debrief": (("debrief", "Debrief"),),
}
"""Pages of each step by the end of their address, the step's own first."""
ALSO: dict[str, Step] = {"hours": "weather", "chances": "weather", "body": "day"}
"""Pages that are reached from others of their step alone."""


@dataclass(frozen=True)
class Door:
    """A page of a step: its name, address, and whether it is the one shown."""

    label: str
    address: str
    here: bool


@dataclass(frozen=True)
class Bar:
    """The bar: every step with its state and whether it is the one shown, and the pages of that
    one."""

    steps: tuple[tuple[Door, StepState], ...]
    pages: tuple[Door, ...]


def bar_of(
    number: int, course: Course, result: Assessment, path: str, not_there: int | None = None
) -> Bar:
    """The bar of a course as it stands on one of its pages.

    Args:
        number: of the course.
        course, result: as it stands.
        path: of the page that is shown.
        not_there: lines of its lists that must be met and are not, None without lists.
    """
    shown = path.removeprefix(course_url(number)).strip("/")
    step, page = _place_of(shown)
    states = step_states(tally(result), unsaid(course), not_there)
    people = f"people/{course.people[0].id}"

    def address(name: str) -> str:
        return course_url(number, people if name == "people" else name)

    return Bar(
        tuple(
            (Door(LABELS[each.step], address(PAGES[each.step][0][0]), each.step == step), each)
            for each in states
        ),
        tuple(Door(label, address(name), name == page) for name, label in PAGES[step]),
    )


def _place_of(shown: str) -> tuple[Step, str]:
    """The step and the page that the end of an address belongs to."""
    head = shown.partition("/")[0]
    by_name: dict[str, Step] = {name: step for step, pages in PAGES.items() for name, _ in pages}
    for name in (shown, head):
        if name in by_name:
            return by_name[name], name
    return ALSO.get(head, "course"), head
