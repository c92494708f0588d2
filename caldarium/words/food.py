"""Sentences on food, water and fuel: what there is, what is needed, and when it runs out."""

from collections.abc import Sequence
from datetime import timedelta

from caldarium.core.load.provisions import DayNeed, hungriest
from caldarium.core.load.stoves import STOVES
from caldarium.core.load.supplies import CampNeed, FuelVerdict, Shortage, stoves_of
from caldarium.core.load.water import Dry
from caldarium.core.plan.course import Cache, Course, Person
from caldarium.core.plan.kit import Garment, Item
from caldarium.core.timeline.moments import Timeline
from caldarium.words.course import counted, weekday
from caldarium.words.units import Display, clock_text, hours_text

STOVE_WORDS = {
    "gas": "gas, upright can",
    "gas, warmed": "gas, preheated or can upside down",
    "liquid": "liquid fuel",
    "alcohol": "alcohol",
}
TREATED_WORDS = {
    "as it comes": "drunk as it comes",
    "filter": "filtered",
    "tablets": "with tablets",
    "boiled": "boiled",
}


def when_words(course: Course, hour: float) -> str:
    """A time of the course by weekday and clock. Source: none, wording."""
    day = course.start + timedelta(days=int(hour // 24))
    return f"{day:%a} {clock_text(hour % 24)}"


def where_words(course: Course, timeline: Timeline, hour: float) -> str:
    """The leg that is walked at a time of the course, or the camp. Source: the plan."""
    day = min(int(hour // 24), len(timeline.stages) - 1)
    for each in timeline.stages[day]:
        if 24 * day + each.start <= hour < 24 * day + each.end:
            return each.leg.title or each.leg.id.replace("-", " ")
    return "in camp"


def leg_title(course: Course, day: int, leg: str) -> str:
    """A leg, by weekday and title. Source: the plan."""
    found = next((each for each in course.days[day].legs if each.id == leg), None)
    title = found.title if found is not None and found.title else leg.replace("-", " ")
    return f"{weekday(course, day)}, {title}"


def leg_words(course: Course, day: int, leg: str) -> str:
    """The end of a leg, by weekday and title. Source: the plan."""
    return f"the end of {leg_title(course, day, leg)}"


def cache_words(course: Course, cache: Cache, display: Display) -> str:
    """What a cache holds, and where. Source: the plan."""
    held: list[str] = []
    if cache.rations:
        days = "day" if cache.rations == 1 else "days"
        held.append(f"{cache.rations:g} {days} of food and fuel")
    if cache.water_l:
        held.append(f"{display.volume(cache.water_l)} of water a head")
    return f"{' and '.join(held)} at {leg_words(course, cache.day, cache.leg)}."


def away_words(course: Course, piece: Item | Garment, display: Display) -> str:
    """Where a thing or a garment is left and waits. Source: the plan."""
    parts: list[str] = []
    if piece.left_at is not None:
        parts.append(f"is left at {leg_words(course, piece.left_at.day, piece.left_at.leg)}")
    if piece.waits_at is not None:
        how = "fetched again" if piece.left_at is not None else "waits"
        parts.append(f"{how} at {leg_words(course, piece.waits_at.day, piece.waits_at.leg)}")
    return f"{piece.name}, {display.mass(piece.mass_g)}, {' and '.join(parts)}."


def fill_words(person: Person, litres: float, display: Display) -> tuple[str, str]:
    """What filling more is, and what it weighs. Source: arithmetic, a kilogram a litre."""
    first, now = person.name.split()[0], person.filled_l
    told = f"{first} fills {display.volume(litres)} instead of {display.volume(now)}"
    return told, f"{display.load(litres - now)} more on the back"


def dry_sentence(
    course: Course, timeline: Timeline, stretches: Sequence[Dry], display: Display
) -> str:
    """Where somebody runs out of water; empty where nowhere. Source: core.load.water."""
    if not stretches:
        return ""
    told = [
        f"{when_words(course, each.start)} to {clock_text(each.end % 24)}, "
        f"{where_words(course, timeline, each.start)}, {display.volume(each.litres)} short"
        for each in stretches
    ]
    return "Water runs out: " + "; ".join(told) + "."


def hungry_sentence(
    course: Course, timeline: Timeline, stretches: Sequence[Shortage], display: Display
) -> str:
    """Where somebody runs out of food; empty where nowhere. Source: core.load.supplies."""
    if not stretches:
        return ""
    told = [
        f"{when_words(course, each.start)}, {where_words(course, timeline, each.start)}, "
        f"{display.mass(each.grams)} short"
        for each in stretches
    ]
    return "Food runs out: " + "; ".join(told) + ". A cache is not eaten from before it is reached."


def food_left_sentence(left: float, planned: float, display: Display) -> str:
    """What of the food comes out again; empty where that is little. Source: core.load.supplies."""
    if left < 0.05 * max(planned, 1.0):
        return ""
    return f"{display.mass(left)} of food comes out again, of {display.mass(planned)} taken."


def fuel_sentence(course: Course, found: FuelVerdict, display: Display) -> str:
    """How the party's fuel stands. Source: core.load.supplies."""
    if not found.camps or found.needed <= 0:
        return "Nothing is cooked on this course."
    camps = counted(len(found.camps), "camp")
    there, needed = display.mass(found.there), display.mass(found.needed)
    told = f"The party's stoves burn {needed} at {camps}; there is {there}"
    if found.out:
        when = when_words(course, found.out[0].end)
        return f"{told}: it is out on {when}, and {display.mass(found.missing)} are missing."
    spare = f"{course.provisions.spare_share:.0%} to spare by rule"
    if found.over < 0:
        return f"{told}: it reaches, but {display.mass(-found.over)} are missing of the {spare}."
    return f"{told}: {display.mass(found.over)} more than that and the {spare}."


def stove_notes(course: Course, timeline: Timeline, display: Display) -> list[str]:
    """What cold does to the stove and to how water is treated. Source: core.load.stoves."""
    plan = course.provisions
    burns = STOVES[plan.stove]
    found: list[str] = []
    cold = [
        each
        for each in timeline.moments
        if each.kind in ("camp", "dawn") and each.air < burns.fades_below
    ]
    if cold:
        days = ", ".join(dict.fromkeys(weekday(course, each.day) for each in cold))
        found.append(
            f"This stove fades below {display.temperature(burns.fades_below)}: counted on {days}."
        )
    frost = [each.day for each in timeline.moments if each.kind == "night" and each.air < 0]
    if plan.treated == "filter" and frost:
        nights = ", ".join(dict.fromkeys(weekday(course, day) for day in frost))
        found.append(
            f"It freezes on the nights of {nights}: the filter sleeps in a bed. One that froze "
            "cannot be told from a good one and is none; boil then."
        )
    if plan.treated == "boiled" and any(leg.water for day in course.days for leg in day.legs):
        found.append("Water filled on the way is not boiled there: carry tablets for it.")
    return found


def camp_row(course: Course, need: CampNeed, display: Display) -> tuple[str, ...]:
    """One camp's fuel as the cells of a row. Source: core.load.supplies."""
    return (
        weekday(course, need.day, whole=True),
        "snow melted" if need.melted else "water there",
        display.temperature(need.boils_at),
        display.volume(need.boiled_l),
        display.volume(need.bottled_l) if need.bottled_l else "–",
        display.mass(need.evening_g),
        display.mass(need.morning_g),
        str(need.pots),
        hours_text(need.minutes / 60 / stoves_of(course)),
    )


def energy_sentence(course: Course, needs: Sequence[DayNeed], display: Display) -> str:
    """What food holds against what the days take. Source: core.load.provisions."""
    worst = hungriest(needs)
    day = course.start + timedelta(days=worst.day)
    off = worst.eaten - worst.spent
    told = (
        f"{day:%A} takes about {worst.spent:,.0f} kcal; the food holds {worst.eaten:,.0f}, "
        f"{abs(off):,.0f} {'short' if off < 0 else 'to spare'}"
    )
    eaten, ready = (sum(getattr(each, name) for each in needs) for name in ("eaten", "ready"))
    if eaten <= 0:
        return told + "."
    return f"{told}. Should the stove fail, {ready / eaten:.0%} of it can be eaten without one."
