"""A course as a whole, in words: each step's state, the next best steps, what is not said yet."""

import math
from collections.abc import Mapping, Sequence

from caldarium.core.assess import Assessment
from caldarium.core.lists.judge import Judged
from caldarium.core.lists.kept import must_lines
from caldarium.core.load.packing import clothes_and_beds_g
from caldarium.core.plan.course import Course
from caldarium.core.plan.legs import SET_OUT
from caldarium.core.plan.log import Log
from caldarium.core.plan.unsaid import ORDINARY, Matter, Unsaid
from caldarium.core.stock.inventory import Kit, Stored
from caldarium.core.tally import StepState, Tally, tally
from caldarium.core.what_if.next_steps import Aim, Step, Weighed
from caldarium.core.worst import coldest_bed, heaviest_laden
from caldarium.words.check import lists_sentence
from caldarium.words.course import PROBLEMS, counted, moment_name, weekday
from caldarium.words.typed import span_text
from caldarium.words.units import Display, clock_text

UNSAID: Mapping[Matter, tuple[str, str]] = {
    "sleeper": ("how warm each sleeps", "like a bag's comfort figure"),
    "fitness": ("how fit each is", "ordinarily fit"),
    "breadth": ("how broad shoulders are", "by height"),
    "bottles": ("what bottles hold", "enough"),
    "pack": ("which pack each has", "the least usual one that holds all"),
    "cloud": ("cloud", "from rain and the day's range"),
    "humidity": ("humidity", f"{ORDINARY.humidity_pct:.0f} % on the day's mean"),
    "hours of rain": (
        "when it rains or snows",
        span_text(ORDINARY.rain_from_h, ORDINARY.rain_hours),
    ),
    "start": ("when people set out", clock_text(SET_OUT)),
    "water": ("where water is on the way", "at camps only"),
    "group kit": ("what the group carries together", "nothing"),
}
"""What a matter is called, and the default that is in force."""
AIMS: Mapping[Aim, str] = {
    "day": "against cold by day",
    "holds": "if held there",
    "fingers": "against cold fingers",
    "toes": "against cold toes",
    "face": "against frost in the face",
    "beds": "against cold nights",
    "heat": "against heat",
    "shelter": "for the night's weather",
    "idle grams": "closes no gap at this caution",
}


def course_facts(course: Course) -> str:
    """Who, how long, when and where. Source: none, wording."""
    people = counted(len(course.people), "person", "people")
    days = counted(len(course.days), "day")
    return f"{people}, {days} from {course.start:%A %-d %B %Y}, {course.place.name}"


def standing_words(state: StepState) -> str:
    """A step's state as a word and a count. Source: core.tally."""
    if state.problems:
        return counted(state.problems, "problem")
    return f"{state.unsaid} not said" if state.unsaid else state.standing


def step_sentences(
    course: Course, result: Assessment, judged: Sequence[Judged], log: Log, display: Display
) -> dict[str, str]:
    """What is found at each step, in one sentence each. Source: figures of the assessment, of the
    lists and of the log."""
    found = tally(result)
    return {
        "course": course_facts(course) + ".",
        "weather": _weather_sentence(course, display),
        "day": _day_sentence(course, result, found),
        "night": _night_sentence(course, result, found, display),
        "shelter": _shelter_sentence(course, result),
        "load": _load_sentence(course, result, found, display),
        "lighten": _lighten_sentence(course, display),
        "pack": _pack_sentence(course, display),
        "check": _check_sentence(course, judged),
        "log": _log_sentence(log),
        "debrief": _debrief_sentence(log),
    }


def _log_sentence(log: Log) -> str:
    if log.empty:
        return "Nothing was logged. Thermometers and a minute a morning better the next plan."
    read = counted(len(log.thermometers), "thermometer")
    return f"{counted(len(log.entries), 'answer')} and {read} so far.".capitalize()


def _debrief_sentence(log: Log) -> str:
    if log.empty:
        return "After the course: what was for nothing, what was missing, and the next one."
    return "What was for nothing, what was missing, and the next course, by its log."


def _weather_sentence(course: Course, display: Display) -> str:
    low = min(day.conditions.low_c for day in course.days)
    high = max(day.conditions.high_c for day in course.days)
    used = [source.name for source in course.sources if source.used]
    whence = f"hourly from {used[0]}, then as typed" if used else "as typed day by day"
    span = f"{display.temperature(low)} to {display.temperature(high)}"
    return f"{span} at {display.altitude(course.conditions_altitude_m)}, {whence}."


def _day_sentence(course: Course, result: Assessment, found: Tally) -> str:
    gaps = [(m.gap, p.person, m.moment) for p in result.people for m in p.moments if m.gap > 0]
    parts: list[str] = []
    if found.gaps and gaps:
        size, who, moment = max(gaps)
        name = moment_name(course, result.timeline.moment(moment))
        worst = f"the worst {size:.1f} clo, {course.person(who).name}, {name}"
        parts.append(f"{counted(found.gaps, 'gap')}, {worst}")
    if found.hot:
        parts.append(counted(found.hot, "moment") + " too hot")
    if found.at_risk:
        parts.append(f"fingers, toes or face at risk {times(found.at_risk)}")
    return _capital("; ".join(parts) or "everybody is warm enough at every moment") + "."


def times(number: int) -> str:
    """How often, in words. Source: none, wording."""
    return {1: "once", 2: "twice"}.get(number, f"{number} times")


def _night_sentence(course: Course, result: Assessment, found: Tally, display: Display) -> str:
    if not any(person.nights for person in result.people):
        return "No night out."
    who, day = coldest_bed(result)
    night = next(each for each in result.of(who).nights if each.day == day)
    name, when = course.person(who).name, weekday(course, day, whole=True)
    if not math.isfinite(night.margin):
        return f"{name}'s bed on {when} holds no warmth: nothing lies under or over it."
    left = display.difference(abs(night.margin))
    if found.cold_beds:
        beds = counted(found.cold_beds, "bed is", "beds are")
        return f"{beds} too cold, the worst {name}'s on {when}, {left} short."
    side = "to spare" if night.margin >= 0 else "short, but sleep is not broken"
    return f"Every bed holds; {name} has least on {when}, {left} {side}."


def _shelter_sentence(course: Course, result: Assessment) -> str:
    nights = [*result.shelters, *result.open_nights]
    if not nights:
        return "No night out."
    if all(each.fit for each in nights):
        return "Every shelter serves on every night."
    tents = dict.fromkeys(each.shelter for each in result.shelters if not each.fit)
    parts: list[str] = []
    for tent in tents:
        days = [each.day for each in result.shelters if each.shelter == tent and not each.fit]
        when = listed([weekday(course, day) for day in days], "nights")
        parts.append(f"the {course.shelter(tent).name} is unfit on {when}")
    bare = [each for each in result.open_nights if not each.fit]
    if bare:
        people = counted(max(len(each.people) for each in bare), "person has", "people have")
        when = listed([weekday(course, each.day) for each in bare], "nights")
        parts.append(f"{people} no shelter on {when}")
    more = [f"{len(parts) - 3} more"] if len(parts) > 3 else []
    return _capital("; ".join(parts[:3] + more)) + "."


def _lighten_sentence(course: Course, display: Display) -> str:
    told = f"{display.load(clothes_and_beds_g(course) / 1000)} of clothes and beds"
    if course.ready:
        told += f"; {counted(len(course.ready), 'thing')} ready at the road"
    return f"{told}."


def _check_sentence(course: Course, judged: Sequence[Judged]) -> str:
    if not course.lists:
        return "No list is asked: what school, race or land manager want carried."
    return lists_sentence(judged, must_lines(course))


def _pack_sentence(course: Course, display: Display) -> str:
    sizes = [
        item.capacity_l
        for person in course.people
        for item in person.on_back
        if item.kind == "pack" and item.capacity_l
    ]
    if not sizes:
        return "Nobody said which pack they have."
    least, most = display.volume(min(sizes)), display.volume(max(sizes))
    span = least if least == most else f"{least} to {most}"
    return f"Packs of {span}: what goes where, morning by morning."


def _load_sentence(course: Course, result: Assessment, found: Tally, display: Display) -> str:
    heaviest = result.of(heaviest_laden(result))
    most = max(heaviest.load.by_day)
    share = f"{100 * most / heaviest.load.body_mass:.0f} % of body mass"
    name = course.person(heaviest.person).name
    over = f"; beyond the limit {times(found.overladen)} in all" if found.overladen else ""
    parts = [f"{name} is fullest with {display.load(most)} skin out, {share}{over}"]
    if result.fuel.out:
        parts.append(f"{display.mass(result.fuel.missing)} of fuel short")
    for kind, words in (("dry", "water"), ("hungry", "food")):
        short = [each.person for each in result.people if getattr(each.load, kind)]
        if short:
            whose = "everybody" if len(short) == len(course.people) > 1 else None
            who = whose or listed([course.person(each).name.split()[0] for each in short], "people")
            parts.append(f"{words} runs out for {who}")
    return "; ".join(parts) + "."


def unsaid_words(course: Course, each: Unsaid) -> tuple[str, str]:
    """What is unsaid and of whom or when, and the default in force. Source: core.plan.unsaid."""
    matter, default = UNSAID[each.matter]
    if each.people:
        everybody = len(each.people) == len(course.people)
        names = [course.person(who).name.split()[0] for who in each.people]
        return f"{matter}: {'everybody' if everybody else listed(names, 'people')}", default
    if each.days and len(each.days) < len(course.days):
        return f"{matter}: {listed([weekday(course, day) for day in each.days], 'days')}", default
    return matter + (", all days" if len(each.days) > 1 else ""), default


def listed(names: list[str], several: str, most: int = 3) -> str:
    """Names in a sentence, or how many where they are many. Source: none, wording."""
    if len(names) > most:
        return f"{len(names)} {several}"
    return names[0] if len(names) == 1 else ", ".join(names[:-1]) + f" and {names[-1]}"


def next_title(
    course: Course, step: Step, everything: Mapping[str, Kit], stored: Sequence[Stored]
) -> str:
    """A step to take, as its card's title. Source: core.what_if.next_steps."""
    names = [course.person(who).name.split()[0] for who in step.who]
    whom = "everybody" if len(names) == len(course.people) > 1 else listed(names or [""], "people")
    pieces = [everything[each].name for each in step.what if each in everything]
    match step.kind:
        case "pieces":
            return f"{_capital(listed(pieces, 'pieces', 9))} for {whom}"
        case "lend":
            tags = {piece.tag: piece for piece in stored}
            lent = [f"{tags[each].name} ({each})" for each in step.what if each in tags]
            return f"From the store: {listed(lent, 'bags and pads')} for {whom}"
        case "roof":
            return "A group shelter round everybody in a hold"
        case "hours":
            leg = next(
                each for each in course.days[int(step.where)].legs if each.id == step.what[0]
            )
            when = weekday(course, int(step.where), whole=True)
            return f"{when}: {leg.title or leg.kind} from {clock_text(step.at)}"
        case "shelter":
            own = [each.name for each in course.shelters if each.id == step.where]
            instead = f" instead of the {own[0]}" if own else ""
            return f"{_capital(pieces[0])}{instead} for {whom}"
        case "leave out":
            return f"{counted(len(step.what), 'idle piece')} left at home"


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]


def next_effect(found: Weighed) -> str:
    """What a step would change, problem by problem. Source: core.what_if.next_steps."""
    told: list[str] = []
    for kind, names in PROBLEMS.items():
        before, after = getattr(found.before, kind), getattr(found.after, kind)
        if before != after:
            becomes = "becomes" if before == 1 else "become"
            told.append(f"{counted(before, *names)} {becomes} {after or 'none'}")
    return _capital("; ".join(told) or "no gap opens") + "."


def grams_words(grams: float, display: Display) -> str:
    """What a step weighs, with its sign. Source: none, wording."""
    if abs(grams) < 0.5:
        return "nothing more to carry"
    return f"{display.mass(abs(grams))} {'more' if grams > 0 else 'less'} for the party"
