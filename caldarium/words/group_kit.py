"""The lightest kit of the group in words: what is exchanged, what comes in, why the rest stays."""

from caldarium.core.lighten.group_choice import GroupChoice, LineKey, Place
from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import GroupKit
from caldarium.words.course import counted
from caldarium.words.steps import Step
from caldarium.words.stock import SOURCE_NAMES
from caldarium.words.units import Display


def group_sentence(found: GroupChoice, display: Display) -> str:
    """What is found of the group's kit, and how sure. Source: core.lighten.group_choice."""
    saved = sum(each.saved for each in found.places if each.before is not None)
    new = [each for each in found.places if each.before is None]
    parts: list[str] = []
    if not found.places:
        return "There is no kit of the group, and no list asks for any."
    others = [each for each in found.places if each.before is not None and each.changed]
    if others:
        kinds = counted(len(others), "piece")
        more = f"{display.mass(saved)} lighter with other models of {kinds}"
        parts.append(more if saved > 0 else f"another model of {kinds} does what else lists ask")
    if new:
        grams = display.mass(sum(each.grams for each in new))
        kinds = counted(len(new), "piece")
        there = "is" if len(new) == 1 else "are"
        parts.append(f"{grams} more of {kinds} that {there} not there and that lists ask for")
    if found.unmet:
        parts.append(f"{counted(len(found.unmet), 'line')} that nothing on offer meets")
    if not parts:
        return "The group's kit is the lightest on offer that does the same: proven."
    told = "; ".join(parts)
    sure = "Nothing on offer is lighter: proven." if found.proven else "Not proven in the time."
    return f"{told[0].upper()}{told[1:]}. {sure}"


def rule_words(kit: GroupKit, count: int) -> str:
    """How many of a piece there are by its rule. Source: none, wording."""
    if kit.of == "party":
        return f"{count} for the party"
    every = f"every {kit.per} {kit.of}s" if kit.per > 1 else f"every {kit.of}"
    return f"{count}, {kit.number} for {every}"


def line_words(course: Course, line: LineKey) -> str:
    """A line of a list by its own text and its list's name. Source: the list."""
    listed = next(each for each in course.lists if each.id == line[0])
    entry = listed.entry(line[1])
    return f"{entry.text if entry else line[1]} ({listed.name})"


def place_words(course: Course, place: Place) -> str:
    """What a piece is for, or why it stays. Source: core.lighten.group_choice."""
    lines = "; ".join(line_words(course, each) for each in place.lines)
    if place.changed:
        return lines or "the same by its name"
    if place.after.net_g is not None or place.after.kind == "fuel":
        return "stays: fuel goes by what is cooked"
    if place.after.spoils_below_c is not None:
        return "stays: must not freeze, which no list tells"
    if not lines:
        return "stays: no list names it, and nothing lighter on offer has its name"
    return f"stays: nothing lighter on offer does the same for {lines}"


def too_few_words(name: str, there: int, needed: int) -> str:
    """A lighter piece of which there are too few. Source: the store's counts."""
    return f"{name} would be lighter, but {there} of {needed} are there"


def explain_group(course: Course, found: GroupChoice, display: Display) -> list[Step]:
    """How the group's kit is chosen. Source: core.lighten.group_choice."""
    return [
        Step(
            "what a piece must do",
            "",
            "as many of it as its own rule asks; another may take its place where it is of the "
            "same kind and answers every line of every list that it answers, or, where there is "
            "none, has its name; fuel and what must not freeze stay",
            "the lists' own words and the school's own rules",
        ),
        Step(
            "what is not there",
            counted(sum(each.before is None for each in found.places), "piece"),
            "lines that the party, each rope or each tent must meet and does not: the least mass "
            "that meets them by any of their ways, a thing counted once where the list says so",
            "a program of whole numbers, solved to the end",
        ),
        *(
            Step(
                each.after.name,
                display.mass(each.grams),
                f"{rule_words(each.after, each.count)}, each {display.mass(each.after.mass_g)}, "
                f"from {SOURCE_NAMES[each.source]}",
                place_words(course, each),
            )
            for each in found.places
            if each.changed
        ),
        Step(
            "all of it",
            display.mass(found.grams),
            f"now {display.mass(found.grams_before)}",
            "sums of weighed masses",
        ),
    ]
