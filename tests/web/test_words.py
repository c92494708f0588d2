"""Every sentence of every page is plain, whole English: counts, plurals, no names of the program's
own, no doubled words."""

import re
from html import unescape

import pytest

from caldarium.demo import DEMOS, demo_course, demo_store
from tests.courses import from_nothing
from tests.web.pages import APART, pages_of

COURSES = {
    **{name: (lambda name=name: demo_course(name)) for name in DEMOS},
    "one person, one day": from_nothing,
    "nothing to wear": lambda: from_nothing(kit=None, days=2, people=2),
}
ONE_OF_MANY = re.compile(
    r"(?<![\d.,:/–-])1 (people|persons|days|nights|gaps|beds|pieces|problems|moments|rows|hours|"
    r"legs|halts|members|verdicts|fields|grams|minutes|steps|shelters|bed-nights|shelter-nights|things|"
    r"times|others|are|have|were)\b"
)
MANY_OF_ONE = re.compile(
    r"(?<![\d.,:/–-])(?:[2-9]|[1-9]\d+) (person|day|night|gap|bed|piece|problem|moment|row|leg|"
    r"halt|member|verdict|field|step|shelter|bed-night|shelter-night|time)\b(?!-| of)"
)
DOUBLED = re.compile(r"\b([a-z]{2,}) \1\b")
MENDED = ("from before", "a water weighs", "clothes: not", " nan", "undefined", "{{", "}}")
SPACED = re.compile(r" [,;:](?= )|[a-z]\.\.(?!\.)|,,|\( | \)")
TOGETHER = {"that that", "had had", "more more"}


INLINE = r"</?(?:span|a|strong|small|b|em|i|sub|sup|code)\b[^>]*>"


def seen(page: str) -> str:
    """What a reader meets: text, titles and labels."""
    apart = r"<(script|style|datalist|select|textarea|title|kbd)\b.*?</\1>"
    page = re.sub(apart, " ", page, flags=re.DOTALL)
    told = re.findall(r'(?:title|aria-label)="([^"]*)"', page)
    page = re.sub(r"</(a|button)>\s+<", r"</\1><p><", page)
    text = re.sub(r"<[^>]*>", " \x00 ", re.sub(INLINE, "", page))
    return unescape(" \x00 ".join([" ".join(text.split()), *told]))


def own_names(course) -> set[str]:
    """Identifiers of the program's own that are no words: those of two parts or more."""
    pieces = [p.id for one in course.people for p in (*one.garments, *one.items, *one.pads)]
    legs = [leg.id for day in course.days for leg in day.legs]
    people = [each.id for each in course.people]
    words = {
        word
        for one in course.people
        for p in (*one.garments, *one.items, *one.pads)
        for word in re.findall(r"[a-z0-9-]+", p.name.lower())
    }
    found = {*pieces, *legs, *people, *(each.id for each in course.shelters)}
    return {each for each in found - words if "-" in each}


@pytest.mark.parametrize("kind", COURSES)
def test_sentences_are_whole_and_plain(client, courses, kind) -> None:
    client.app.state.pieces.put(demo_store(), "the store")
    course = COURSES[kind]()
    number = courses.add(course, "made")
    names, looked, wrong = own_names(course), 0, set()
    for caution in ("as forecast", "expedition"):
        courses.change(number, caution, lambda now, to=caution: now.altered(caution=to))
        for address in (*pages_of(number, course), *APART):
            reply = client.get(address)
            if not reply.headers["content-type"].startswith("text/html"):
                continue
            looked += 1
            text = seen(reply.text)
            where = address.replace(f"/courses/{number}", "")
            for pattern in (ONE_OF_MANY, MANY_OF_ONE, SPACED):
                for found in pattern.finditer(text):
                    around = text[max(found.start() - 30, 0) : found.end() + 20]
                    wrong.add((where, found[0], around))
            for found in DOUBLED.finditer(text):
                if found[0] not in TOGETHER:
                    wrong.add(
                        (where, found[0], text[max(found.start() - 30, 0) : found.end() + 20])
                    )
            wrong |= {(where, each, "") for each in MENDED if each in text}
            words = set(re.findall(r"[a-z0-9]+(?:-[a-z0-9]+)+", text))
            wrong |= {(where, each, "identifier") for each in words & names}
    assert looked > 50
    assert not wrong, "\n".join(map(str, sorted(wrong)))
