"""Steps behind loads, food, fuel and shared kit: every figure with its formula and source."""

from collections import Counter
from collections.abc import Mapping

from caldarium.core.load import drinking, load_hours, supplies
from caldarium.core.load.loads import Load
from caldarium.core.load.share import CLOSE_ENOUGH_G, Split
from caldarium.core.load.travel import STEP_G, Travel, kilograms, litres_of
from caldarium.core.plan.course import Course, Person
from caldarium.core.timeline.moments import Moment
from caldarium.core.what_if.idle import Idle, pieces_of
from caldarium.words.course import moment_name, weekday
from caldarium.words.lists import MASS_FROM
from caldarium.words.load import HARM_WORDS, RULE_WORDS
from caldarium.words.steps import Step
from caldarium.words.units import Display

_MEALS = ", ".join(f"{share:.0%} at {meal}" for meal, share in supplies.MEAL_SHARES.items())


def mass_sources(person: Person) -> str:
    """Where the masses of somebody's pieces come from, most of them first.

    Source: what was said of each piece.
    """
    things = (*person.garments, *person.bed_parts, *person.items)
    told = Counter(MASS_FROM[each.mass_from] for each in things)
    return "; ".join(f"{number} {words}" for words, number in told.most_common()) or "none"


def explain_load(course: Course, person: Person, load: Load, display: Display) -> list[Step]:
    """Steps behind a load.

    Source: weighed masses; core.load.load_hours.
    """
    drunk = drinking.DRINKS
    own = "typed for this person" if person.budget_kg else f"{course.budget_share:.0%} of body mass"
    return [
        Step("worn", display.load(load.worn), "clothes of the first walk", "a sum"),
        Step(
            "carried", display.load(load.carried), "all else on the first morning", "sums of masses"
        ),
        *(
            Step(f"of it for {purpose}", display.load(mass), "sum of pieces", mass_sources(person))
            for purpose, mass in load.kept.items()
            if mass
        ),
        Step(
            "eaten and burnt a day",
            display.load(load.consumed_a_day),
            f"food: {_MEALS}, or as the menu says; fuel as the camps burn it, "
            "out of everybody's cans alike",
            "as typed, or labels of the menu; when: judgement",
        ),
        Step(
            "water",
            display.volume(person.filled_l),
            "filled at camps, melted where there is only snow, and at marked legs, no more than "
            "bottles hold; drunk "
            f"{display.volume(drunk['moving'])} an hour moving, "
            f"{display.volume(drunk['halt'])} at halts, or {drinking.REPLACED:.0%} of the sweat on "
            "the warm side of the forecast where that is more",
            "ISO 7933 for sweat; judgement; common practice, no published source",
        ),
        Step(
            "wet shelter",
            display.load(max(load.wet)),
            f"{load_hours.WET_AFTER_RAIN:.0%} of its mass after a night of rain, "
            f"{load_hours.WET_AFTER_DAMP:.0%} after a damp one",
            "judgement",
        ),
        *(
            Step(
                f"{weekday(course, day, whole=True)}, setting out",
                display.load(mass),
                "everything before breakfast, bottles full",
                "sums",
            )
            for day, mass in enumerate(load.by_day)
        ),
        Step("budget", display.load(load.budget), own, "judgement, or the user's own"),
        Step(
            "limit",
            display.load(load.limit),
            f"{course.limit_share:.0%} of body mass",
            "30 %: fighting load of FM 21-18 (1990), from memory; or the user's own",
        ),
    ]


def explain_idle(
    course: Course,
    person: Person,
    idle: Idle,
    moments: Mapping[str, Moment],
    display: Display,
) -> list[Step]:
    """Steps behind the ledger: what was tried, and the rules. Source: core.what_if.idle."""
    names = {each.id: each.name for each in pieces_of(person)}
    told = [
        Step(
            "idle",
            display.mass(idle.grams(person)),
            "the whole assessment without each piece in doubt, then without all that harmed "
            "nothing, heaviest first: no verdict is worse at this caution",
            "what counts as worse: gaps, cool halts and camps, heat, fingers, toes, face, beds",
        ),
        Step(
            "school of spare clothes",
            course.spare_set,
            "stays whatever the figures say",
            "common practice, no published source",
        ),
    ]
    told += [
        Step(
            names[piece],
            "kept",
            RULE_WORDS[rule],
            "a list of this course" if rule == "listed" else "common practice, no published source",
        )
        for piece, rule in idle.kept.items()
    ]
    told += [
        Step(
            names[piece],
            HARM_WORDS[harm.kind],
            f"without it, at {moment_name(course, moments[harm.moment])}",
            "the assessment without this piece and those that are idle",
        )
        for piece, harm in idle.harm.items()
    ]
    return told


def explain_travel(course: Course, found: Travel, display: Display) -> list[Step]:
    """Steps behind somebody's bags by air. Source: core.load.travel and packing."""
    caps = [
        ("hold bag", found.hold, course.hold_kg, course.hold_l, found.hold_kg),
        ("cabin bag", found.cabin, course.cabin_kg, course.cabin_l, kilograms(found.cabin)),
    ]
    told: list[Step] = []
    for name, lines, mass_cap, room_cap, mass in caps:
        allowed = "no cap" if mass_cap is None else f"of {display.load(mass_cap)}"
        room = "no cap" if room_cap is None else f"of {display.volume(room_cap)}"
        told.append(Step(name, display.load(mass), f"{len(lines)} lines, {allowed}", "sums"))
        told.append(
            Step(
                f"{name}, room",
                display.volume(litres_of(lines)),
                f"measured, else litres a kilogram by material or purpose; {room}",
                "as typed; judgement where estimated",
            )
        )
    return [
        *told,
        Step(
            "which goes where",
            "as little as will do",
            "into the cabin, so that the hold keeps its mass; then the bulkiest that the cabin "
            "takes, so that the hold keeps its room",
            f"subset sums to {display.mass(STEP_G)}; what may fly is each piece's own word",
        ),
    ]


def explain_split(course: Course, split: Split, display: Display) -> list[Step]:
    """Steps behind a split of the group's kit.

    Source: core.load.share.
    """
    names = {person.id: person.name for person in course.people}
    near = display.mass(CLOSE_ENOUGH_G)
    return [
        Step(
            "level",
            f"{split.level:.1%}",
            "to which the kit, shared to the gram, would fill the emptiest backs",
            f"arithmetic; measure: {split.fairness}, judgement",
        ),
        Step(
            "proof",
            "proven" if split.proven else "not proven",
            f"nobody is more than {near} above the level, or HiGHS found that nobody could be",
            "integer programme; pieces that must be with somebody, and hand changes, are fixed",
        ),
        *(
            Step(names[who], f"{share:.1%}", "heaviest hour with this kit over the measure", "sums")
            for who, share in sorted(split.fullness.items(), key=lambda each: -each[1])
        ),
    ]
