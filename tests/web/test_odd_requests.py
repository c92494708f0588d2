"""Whatever a form can send is answered, quickly and below 500; `make fuzz` sends ten times more."""

import os
import random

import pytest

from caldarium.demo import demo_store
from tests.courses import KINDS
from tests.pace import at_most
from tests.web.pages import APART, SentForm, forms_on, pages_of

REQUESTS = int(os.environ.get("ODD_REQUESTS", "1000"))
SLOWEST = 25
"""Units of work within which anything is answered."""
ODD = (
    "",
    " ",
    "0",
    "-1",
    "²",
    "٣",
    "1e999",
    "nan",
    "inf",
    "-inf",
    "9" * 40,
    str(2**63),
    "9" * 400,
    "\x00",
    "a\x00b",
    "x" * 10_000,
    "1" * 10_000,
    "<script>",
    "../../etc",
    "%00",
    "🜂",
    "\ud7ff",
    "1.234.567,89",
    "--5",
    "+",
    ".",
    "1 2 3",
    "12 °C °C",
    "0x10",
    "None",
    "null",
    "[]",
    "{}",
    "on",
    "2031-13-45",
    "0001-01-01",
    "9999-12-31",
    "24:00",
    "12:60",
    "nobody",
    "1.2.3",
    "=1+1",
    "5 furlongs",
    "1.night",
    "act=",
    "start=x@1e9",
    "remove=",
    "drop=",
    "in.",
    "store:",
    "+",
    "\r\n",
    "ﬁ",
    "½",
)
KINDS_TRIED = (
    "the demo",
    "one person from nothing",
    "no kit at all",
    "the demo stripped",
    "nobody walks",
)


def _forms(client, number, course) -> list[SentForm]:
    found: list[SentForm] = []
    for address in (*pages_of(number, course), *APART):
        reply = client.get(address)
        if reply.headers["content-type"].startswith("text/html"):
            found += forms_on(reply.text)
    return [form for form in found if "{" not in form.action]


def _odd_values(form: SentForm, chance: random.Random) -> dict[str, list[str]]:
    """What a form sends, with some of it missing, repeated, odd, or of another field."""
    sent: dict[str, list[str]] = {}
    for name, value in form.values:
        sent.setdefault(name, []).append(value)
    for name, offered in form.offered.items():
        sent[name] = [chance.choice(offered)]
    for name in list(sent):
        roll = chance.random()
        if roll < 0.12:
            del sent[name]
        elif roll < 0.2:
            sent[name] = [*sent[name], chance.choice(ODD)]
        elif roll < 0.45 and name != "mark":
            sent[name] = [chance.choice(ODD)]
        elif roll < 0.5:
            sent[name + chance.choice(ODD[:12])] = [chance.choice(ODD)]
    for name in chance.sample(("act", "take", "toggle", "swap", "person", "mark", "day", "tag"), 2):
        if chance.random() < 0.25:
            sent[name] = [chance.choice(ODD)]
    return sent


@pytest.mark.slow
@pytest.mark.parametrize("kind", KINDS_TRIED)
def test_odd_requests_are_answered(client, courses, kind) -> None:
    client.app.state.pieces.put(demo_store()[:40], "the store")
    course = KINDS[kind]()
    number = courses.add(course, "made")
    # What runs beside the requests would be counted as theirs.
    client.app.state.works.begin = lambda *_given: None
    forms = _forms(client, number, course)
    assert len(forms) > 20
    chance = random.Random(kind)
    quick = client.__class__(client.app, base_url="http://127.0.0.1", raise_server_exceptions=False)
    for _ in range(REQUESTS // len(KINDS_TRIED)):
        form = chance.choice(forms)
        data = _odd_values(form, chance)
        files = {"file": ("odd.bin", chance.randbytes(200))} if form.multipart else None
        with at_most(SLOWEST, (form.action, data)):
            reply = quick.post(form.action, data=data, files=files, follow_redirects=False)
        assert reply.status_code < 500, (form.action, data)
    assert quick.get(f"/courses/{number}").status_code in (200, 404)
