"""Parts of a page are sent again only where they changed, and nothing is lost by that."""

import re

import pytest

from caldarium.web.parts import MOST_SHOWN, only_changed, shown_parts

PART = re.compile(r'<(g|div)([^<>]*) data-part="([^"]+)" data-sum="([^"]+)"( data-same)?>')
HERE = {"person": "mirel", "moment": "3.north-top.halt", "day": "2"}


def parts_of(text: str) -> dict[str, tuple[str, str]]:
    """Sum and inside of every part of a page, by its name."""
    found = {}
    for each in PART.finditer(text):
        tag, name = each[1], each[3]
        depth, at = 1, each.end()
        while depth:
            step = re.compile(rf"<(/?){tag}\b").search(text, at)
            depth += -1 if step[1] else 1
            at = step.end()
        found[name] = (each[4], text[each.end() : step.start()])
    return found


def test_a_part_that_is_shown_is_left_empty_and_any_other_is_whole() -> None:
    page = '<g class="row" data-part="a"><g>one</g><!--a--></g><div data-part="b">two<!--b--></div>'
    whole = only_changed(page, {})
    assert "<!--" not in whole
    parts = parts_of(whole)
    assert {name: inside for name, (_, inside) in parts.items()} == {"a": "<g>one</g>", "b": "two"}
    again = only_changed(page, {"a": parts["a"][0], "b": "000000000000"})
    assert 'data-part="a" data-sum="' in again
    assert "data-same></g>" in again
    assert "one" not in again
    assert ">two</div>" in again


@pytest.mark.parametrize(
    "header", ["", "nonsense", ":", "a:", ":b", "  a  ", "x:y:z", "a:b " * 5000]
)
def test_what_is_no_sum_is_left_out(header: str) -> None:
    found = shown_parts(header)
    assert len(found) <= MOST_SHOWN
    assert all(name and digest for name, digest in found.items())


def test_a_page_put_together_from_its_answers_is_the_page_itself(client) -> None:
    """Through weather, pieces, undo, caution and the cursor: what the browser then shows is what a
    page drawn whole shows."""
    client.cookies.set("window", "wide")
    address = "/courses/1/day?person=mirel&moment=3.north-top.halt"
    shown = parts_of(client.get(address).text)
    assert len(shown) > 50
    changes = [
        ("/courses/1/edit", {"toggle": "wool-hat=off"}),
        ("/courses/1/edit", {"toggle": "wool-hat=on"}),
        ("/courses/1/edit", {"wind_ms": "14 m/s"}),
        ("/courses/1/edit", {"caution": "expedition"}),
        ("/courses/1/edit", {"low_c": "nonsense"}),
        ("/courses/1/edit", {"add_piece": "big-down-jacket"}),
        ("/courses/1/edit", {"person": "ossi", "moment": "2.dawn", "day": "1"}),
    ]
    spared = 0
    for action, form in changes:
        sums = " ".join(f"{name}:{digest}" for name, (digest, _) in shown.items())
        answer = client.post(
            action, data=HERE | form, headers={"HX-Request": "true", "X-Parts": sums}
        )
        assert answer.status_code == 200
        same = set(re.findall(r'data-part="([^"]+)" data-sum="[^"]+" data-same', answer.text))
        fresh = parts_of(answer.text)
        shown = {n: shown[n] if n in same else each for n, each in fresh.items()}
        asked = HERE | {name: form[name] for name in HERE.keys() & form.keys()}
        whole = client.get("/courses/1/day", params={k: asked[k] for k in ("person", "moment")})
        if "nonsense" not in form.values():
            assert shown == parts_of(whole.text)
        spared += len(same)
    assert spared > 200


def test_a_page_that_is_opened_is_whole_whatever_is_said_to_be_shown(client) -> None:
    text = client.get("/courses/1/day").text
    sums = " ".join(f"{name}:{digest}" for name, (digest, _) in parts_of(text).items())
    assert "data-same" not in client.get("/courses/1/day", headers={"X-Parts": sums}).text
