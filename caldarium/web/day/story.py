"""One person's day as the body lives it: a page of its own, and a part of the bench.

The bench fetches its part after the verdict, so that no edit waits for the body. What has been
lived is kept, and shown at once where it is still so.
"""

from collections import OrderedDict
from dataclasses import dataclass

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse

from caldarium.core.assess import Assessment
from caldarium.core.day.day_heat import DayStory, day_story
from caldarium.core.day.dry_chances import dry_chances
from caldarium.core.plan.course import Person
from caldarium.core.timeline.moments import Moment
from caldarium.core.what_if.heat_day import heat_day
from caldarium.drawings.heat_strip import heat_strip
from caldarium.drawings.story import story_curve
from caldarium.drawings.svg import Svg
from caldarium.web.cursor import LookedAt
from caldarium.web.page import display_of, page
from caldarium.words.course import moment_name
from caldarium.words.day import story_here_sentence, story_sentence, told_by_story
from caldarium.words.drying import dried_words, explain_drying
from caldarium.words.heat import explain_heat_day, heat_day_sentence
from caldarium.words.steps_day import explain_story

router = APIRouter()
KEPT_STORIES = 64
_Key = tuple[int, int, int, int]


@dataclass(frozen=True)
class BodyPart:
    """What the body does in one moment, in the strip of its day."""

    story_words: str
    heat_drawing: Svg


class Stories:
    """Stories that have been lived, by what they were lived from."""

    def __init__(self) -> None:
        self._kept: OrderedDict[_Key, tuple[tuple[object, ...], DayStory]] = OrderedDict()

    def known(self, result: Assessment, person: Person, day: int) -> DayStory | None:
        """A day's story if it has been lived and still is so."""
        # What a story was lived from is held with it, so that no other object can have its id.
        kept = self._kept.get(_key(result, person, day)[0])
        return kept[1] if kept else None

    def of(self, result: Assessment, person: Person, day: int) -> DayStory:
        """A day's story."""
        story = self.known(result, person, day)
        if story is None:
            story = day_story(result.timeline, person, result.of(person.id).moments, day)
            key, held = _key(result, person, day)
            self._kept[key] = (held, story)
            while len(self._kept) > KEPT_STORIES:
                self._kept.popitem(last=False)
        return story


def _key(result: Assessment, person: Person, day: int) -> tuple[_Key, tuple[object, ...]]:
    """What a story is lived from, by identity: assessments keep what a change does not reach."""
    held = (result.timeline, result.of(person.id).moments, person)
    return (id(held[0]), id(held[1]), id(held[2]), day), held


def stories_of(request: Request) -> Stories:
    """The stories of this application."""
    return request.app.state.stories


def body_part(story: DayStory, result: Assessment, moment: Moment) -> BodyPart:
    """The bench's part of a story."""
    awake = [
        each
        for each in result.timeline.moments
        if each.day == moment.day and not each.fold and each.kind != "night"
    ]
    return BodyPart(story_here_sentence(story, moment.id), heat_strip(story, awake, moment.id))


@router.get("/courses/{number}/body")
def show_part(request: Request, seen: LookedAt) -> HTMLResponse:
    """The bench's part, asked for once the verdict is there; none of a night."""
    parts: list[BodyPart] = []
    if seen.moment.kind != "night":
        story = stories_of(request).of(seen.result, seen.person, seen.moment.day)
        parts.append(body_part(story, seen.result, seen.moment))
    return page(
        request,
        "day/body_here.html",
        *parts,
        held=seen.held,
        person=seen.person,
        moment=seen.moment,
    )


@router.get("/courses/{number}/story")
def show(request: Request, seen: LookedAt) -> HTMLResponse:
    """Heat and moisture through the day of the moment looked at."""
    course, result, day = seen.held.course, seen.result, seen.moment.day
    display = display_of(request)
    moments = {each.id: each for each in result.timeline.moments}
    story = stories_of(request).of(result, seen.person, day)
    names = {name: moment_name(course, each) for name, each in moments.items()}
    states = result.of(seen.person.id).moments
    strain = heat_day(course, result.timeline, seen.person, day)
    return page(
        request,
        "day/story.html",
        held=seen.held,
        course=course,
        person=seen.person,
        cursor=seen.cursor,
        day=day,
        story=story,
        words=story_sentence(story, display),
        told={each.moment: told_by_story(each) for each in story.moments},
        drawing=story_curve(story, [moments[each.moment] for each in story.planned], display),
        steps=explain_story(story, display) + explain_drying() + explain_heat_day(strain, display),
        heat_words=heat_day_sentence(strain, display),
        heat={each.moment: display.temperature(each.highest, 1) for each in strain.moments},
        dries=[
            (names[each.moment], *dried_words(seen.person, each))
            for each in dry_chances(course, result.timeline, seen.person, states, day)
        ],
        names=names,
        days=list({m.day: m.id for m in reversed(result.timeline.moments)}.items())[::-1],
    )
