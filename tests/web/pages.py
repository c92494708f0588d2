"""Every page of a course, and the forms that stand on a page."""

from dataclasses import dataclass, field
from html.parser import HTMLParser

from caldarium.core.plan.course import Course

STEPS = (
    "",
    "/day",
    "/thumb",
    "/route",
    "/night",
    "/shelter",
    "/load",
    "/lists",
    "/group",
    "/climate",
    "/sources",
    "/gpx",
    "/story",
    "/table",
    "/body",
    "/hours",
    "/outfits",
    "/compare",
    "/chances",
    "/load/matters",
    "/food",
    "/air",
    "/lighten",
    "/lighten/party",
    "/lighten/shelters",
    "/lighten/group-kit",
    "/lighten/helps-most",
    "/lighten/caution",
    "/lighten/part-way",
    "/pack",
    "/pack/cards",
    "/pack/cards?bags=air",
    "/pack/cards?bags=drop",
    "/check",
    "/check?only=yes",
    "/check/table",
    "/check/table?draw=5&seed=1",
    "/check/handed",
    "/check/record",
    "/check/laid-out",
    "/check/laid-out?all=yes&day=1",
    "/check/own",
    "/log",
    "/log/diary",
    "/log/diary?day=0&part=morning",
    "/log/thermometers",
    "/log/learned",
    "/log/right",
    "/log/sheet",
    "/log/diary.csv",
    "/log/thermometers.csv",
    "/debrief",
    "/export",
    "/export.gpx",
)
APART = (
    "/",
    "/courses/new",
    "/store",
    "/store/import",
    "/store/missing",
    "/season",
    "/store/piece",
    "/weigh",
    "/weigh/reading",
)
"""Pages that belong to no course."""


def pages_of(number: int, course: Course) -> list[str]:
    """Addresses of every page of a course."""
    who = course.people[-1].id
    found = [f"/courses/{number}{step}" for step in STEPS]
    found += [f"/courses/{number}/people/{each.id}" for each in course.people[:2]]
    asked = f"person={who}"
    found += [
        f"/courses/{number}{step}?{asked}"
        for step in ("/day", "/night", "/load", "/lists", "/story", "/pack", "/lighten")
    ]
    return [*found, f"/store?course={number}&{asked}", f"/weigh?course={number}&{asked}"]


@dataclass
class SentForm:
    """A form: where it goes, and what it would send as it stands, with what selects offer."""

    action: str
    multipart: bool = False
    values: list[tuple[str, str]] = field(default_factory=list)
    offered: dict[str, list[str]] = field(default_factory=dict)


class FormReader(HTMLParser):
    """Collects the forms of a page that change something."""

    def __init__(self) -> None:
        super().__init__()
        self.forms: list[SentForm] = []
        self._now: SentForm | None = None
        self._select = ""

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        told = {name: value or "" for name, value in attrs}
        if tag == "form" and told.get("method") == "post":
            self._now = SentForm(told["action"], "enctype" in told)
            self.forms.append(self._now)
        if self._now is None:
            return
        name = told.get("name", "")
        if tag == "input" and name and (told.get("type") != "checkbox" or "checked" in told):
            self._now.values.append((name, told.get("value", "on")))
        elif tag == "button" and name:
            self._now.offered.setdefault(name, []).append(told.get("value", ""))
        elif tag == "select":
            self._select = name
        elif tag == "option" and self._select:
            self._now.offered.setdefault(self._select, []).append(told.get("value", ""))
        if "formaction" in told:
            other = SentForm(told["formaction"], values=self._now.values)
            self.forms.append(other)

    def handle_endtag(self, tag: str) -> None:
        if tag == "form":
            self._now = None
        elif tag == "select":
            self._select = ""


def forms_on(text: str) -> list[SentForm]:
    """The forms of a page that change something."""
    reader = FormReader()
    reader.feed(text)
    return reader.forms
