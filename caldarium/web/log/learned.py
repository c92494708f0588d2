"""What a log teaches: before and after, taken or refused; and what another course's log says."""

from dataclasses import dataclass

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from caldarium.core.assess import assess
from caldarium.core.log.beliefs import believed, with_belief
from caldarium.core.log.carried import carried_to, night_changes, with_taught
from caldarium.core.log.learned import Taught
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import Decided
from caldarium.core.plan.value import NotThereError
from caldarium.store.courses import NoSuchCourseError
from caldarium.web.editing import editing
from caldarium.web.forms import Texts, whole
from caldarium.web.log.logged import Logged, logged, now_entry
from caldarium.web.page import assessed, courses_of, display_of, logs_of, page
from caldarium.web.urls import course_url
from caldarium.words import learned as words
from caldarium.words.log import night_name
from caldarium.words.steps import Step
from caldarium.words.units import Display

router = APIRouter()


@dataclass(frozen=True)
class Lesson:
    """Something learned, as its row shows it."""

    about: str
    name: str
    kind: str
    sentence: str
    before: str
    after: str
    times: int
    stand: str
    decided: bool
    telling: bool
    later: bool
    steps: list[Step]


@dataclass(frozen=True)
class Elsewhere:
    """Another course to which this log has something to say."""

    id: int
    name: str
    count: int


@dataclass(frozen=True)
class Changes:
    """What another course's nights would become: rows of who, which night, before and after, how
    many figures would change, and how that was found."""

    id: int
    name: str
    rows: list[tuple[str, str, str, str]]
    count: int
    steps: list[Step]


@router.get("/courses/{number}/log/learned")
def show(request: Request, number: int, to: str = "") -> HTMLResponse:
    """Everything learned of this course; what it says for another where that is asked."""
    return _page(request, number, to)


def _page(request: Request, number: int, to: str) -> HTMLResponse:
    found = logged(request, number)
    display = display_of(request)
    taught = sorted(found.teaching.taught, key=lambda each: -each.shift)
    lessons = [_lesson(found, each, display) for each in taught]
    return page(
        request,
        "log/learned.html",
        held=found.held,
        course=found.course,
        telling=[each for each in lessons if each.telling or each.decided],
        quiet=[each for each in lessons if not each.telling and not each.decided],
        others=_others(request, found) if to else None,
        changes=_changes(request, found, to, display),
    )


def _lesson(found: Logged, each: Taught, display: Display) -> Lesson:
    course = found.teaching.lived.course
    return Lesson(
        each.about,
        words.about_name(course, each.about),
        each.kind,
        words.taught_sentence(course, each, display),
        words.belief_words(each.kind, each.before, display),
        words.belief_words(each.kind, each.after, display),
        each.times,
        words.stand_words(each),
        each.stand in ("in force", "refused"),
        each.telling,
        each.of_ways,
        words.explain_taught(course, found.teaching, each, display),
    )


def _others(request: Request, found: Logged) -> list[Elsewhere]:
    told = [each for each in found.teaching.taught if each.telling]
    others: list[Elsewhere] = []
    for listed in courses_of(request).list():
        if listed.id == found.held.id:
            continue
        course = courses_of(request).get(listed.id).course
        count = len(carried_to(course, told))
        if count:
            others.append(Elsewhere(listed.id, listed.name, count))
    return others


def _changes(request: Request, found: Logged, to: str, display: Display) -> Changes | None:
    which = whole(to, least=1)
    if which is None or which == found.held.id:
        return None
    try:
        other = courses_of(request).get(which).course
    except NoSuchCourseError:
        return None
    told = carried_to(other, [each for each in found.teaching.taught if each.telling])
    before = assessed(request, which, other)
    after = assess(with_taught(other, told))
    changes = night_changes(before, after)
    rows = [
        (
            other.person(each.person).name,
            night_name(other, each.day),
            f"{each.was}, {display.difference(each.before, 1)}",
            f"{each.becomes}, {display.difference(each.after, 1)}",
        )
        for each in changes
    ]
    steps = words.explain_carried(other, changes, told, display)
    return Changes(which, other.name, rows, len(told), steps)


@router.post("/courses/{number}/log/learned")
def change(request: Request, number: int, form: Texts) -> Response:
    """Take something learned into this plan or another, or refuse it."""
    found = logged(request, number)
    act, _, value = form.get("act", "").partition("=")
    by = form.get("by", "")
    if act in ("take", "refuse"):
        taught = found.teaching.of(value)
        if taught is None or (act == "take" and taught.of_ways):
            raise NotThereError("thing learned", value)
        _decide(request, found, [taught], by, taken=act == "take", form=form)
    elif act == "take-all":
        here = [each for each in found.teaching.taught if each.telling and not each.of_ways]
        _decide(request, found, here, by, taken=True, form=form)
    elif act == "carry":
        which = whole(value, least=1)
        if which is None:
            raise NoSuchCourseError(value)
        told = carried_to(
            courses_of(request).get(which).course,
            [each for each in found.teaching.taught if each.telling],
        )
        courses_of(request).change(
            which,
            f"learned on {found.course.name}",
            lambda now: with_taught(now, carried_to(now, told)),
        )
        return RedirectResponse(course_url(which, "night"), 303)
    return RedirectResponse(course_url(number, "log/learned"), 303)


def _decide(
    request: Request,
    found: Logged,
    taught: list[Taught],
    by: str,
    *,
    taken: bool,
    form: dict[str, str],
) -> None:
    """Keep what was decided, and change the plan by it: taken puts it in force, refused puts back
    what was believed before where it was in force."""
    number = found.held.id
    names = ", ".join(words.about_name(found.course, each.about) for each in taught[:2])
    more = f" and {len(taught) - 2} more" if len(taught) > 2 else ""
    edit = editing(request, number, form)
    wanted = {each.about: each.after if taken else each.before for each in taught}
    entries = [
        now_entry(by, Decided(about=each.about, taken=taken, before=each.before, after=each.after))
        for each in taught
    ]
    logs_of(request).tell(number, entries)

    def alter(now: Course) -> Course:
        for about, belief in wanted.items():
            if believed(now, about) != belief:
                now = with_belief(now, about, belief)
        return now

    edit.keep(f"{'learned' if taken else 'not learned'}: {names}{more}", alter)
