"""Lists and checks as their user meets them: asked, given, looked at, signed, handed out."""

import json
import re

import pytest

from caldarium.catalogue import shipped_lists
from caldarium.core.check.record import PARTY
from caldarium.demo import DEMOS, demo_course, demo_store
from caldarium.formats.gear_list_json import write_gear_list
from tests.courses import from_nothing


def mark_of(text: str) -> str:
    return re.search(r'name="mark" value="([^"]+)"', text).group(1)


def send(client, page: str, **form):
    text = client.get("/courses/1/check").text
    sent = {"mark": mark_of(text)} | form
    return client.post(f"/courses/1/{page}", data=sent, follow_redirects=True)


def lists_of(client) -> list[str]:
    return [each["id"] for each in client.get("/courses/1/export").json()["lists"]]


def stock(client) -> None:
    client.app.state.pieces.put(demo_store(), "the demo store")


def told(at: int, **event: str) -> dict:
    plain = {"kind": "tick", "subject": "runa", "list": "school-autumn", "entry": "bag"}
    event = plain | {"said": "yes"} | event
    return {"token": f"token-{at:04d}", "at": "2026-09-20T10:00:00Z", "by": "Hale", "event": event}


def tell(client, *things: dict):
    return client.post("/courses/1/check/tell", json={"told": list(things)})


def test_a_list_is_asked_brought_in_taken_away_and_undone(client) -> None:
    assert lists_of(client) == ["school-autumn"]
    assert "Whistle" not in client.get("/courses/1/check").text
    text = send(client, "check", act="add", list="redundancy").text
    assert lists_of(client) == ["school-autumn", "redundancy"]
    assert "A whistle" in text
    send(client, "check", act="drop=redundancy")
    assert lists_of(client) == ["school-autumn"]
    again = client.get("/courses/1/check").text
    client.post("/courses/1/undo", data={"mark": mark_of(again), "back": "/courses/1/check"})
    assert lists_of(client) == ["school-autumn", "redundancy"]
    assert "Choose a list first." in send(client, "check", act="add", list="no-such").text


def test_a_list_goes_out_and_in_by_file_and_a_broken_file_changes_nothing(client) -> None:
    for kind in ("json", "csv"):
        data = client.get(f"/courses/1/check/list.{kind}?name=school-autumn").content
        mark = mark_of(client.get("/courses/1/check").text)
        sent = {"file": (f"back.{kind}", data)}
        before = client.get("/courses/1/export").json()
        client.post("/courses/1/check/file", data={"mark": mark}, files=sent)
        assert client.get("/courses/1/export").json() == before
    race = next(each for each in shipped_lists() if each.id == "fell-race")
    mine = write_gear_list(race.altered(id="mine", name="Mine")).encode()
    client.post("/courses/1/check/file", data={"mark": mark}, files={"file": ("m.json", mine)})
    assert lists_of(client) == ["school-autumn", "mine"]
    other = client.app.state.courses.add(demo_course("hot-canyon"), "another")
    assert "Mine</option>" in client.get(f"/courses/{other}/check").text
    for data, words in ((b"", "Choose a file"), (b"{", "not JSON"), (b"line,text\n", "m.csv was")):
        name = "m.csv" if data else ""
        sent = {"file": (name, data)} if name else {}
        answer = client.post("/courses/1/check/file", data={"mark": mark}, files=sent or None)
        assert words in answer.text
    assert lists_of(client) == ["school-autumn", "mine"]
    assert client.get("/courses/1/check/list.json?name=gone").status_code == 404
    assert client.get("/courses/1/check/list.exe?name=mine").status_code == 404


def test_what_is_missing_is_given_to_all_or_one_and_told(client) -> None:
    stock(client)
    text = client.get("/courses/1/check").text
    assert "Runa Bell and 9 more" in text
    key = "school-autumn socks runa"
    form = {f"cure {key}": "store G-32", f"to {key}": "dag"}
    text = send(client, "check", act=f"give={key}", **form).text
    assert "thick socks to Dag Holm" in text
    assert "15 open lines became 14" in text
    form = {f"cure {key}": "store G-31", f"to {key}": "all"}
    text = send(client, "check", act=f"give={key}", **form).text
    assert "liner socks to 9 people" in text
    assert "2 from the store, 7 bought" in text
    assert "14 open lines became 5" in text
    people = client.get("/courses/1/export").json()["people"]
    assert sum(any(g["tag"] == "G-31" for g in p["garments"]) for p in people) == 2
    party = "school-autumn rope party"
    form = {f"cure {party}": "store S-12", f"to {party}": "wren"}
    assert "throw line to Wren Tarn" in send(client, "check", act=f"give={party}", **form).text


def test_what_is_not_said_is_let_count_and_not(client) -> None:
    text = client.get("/courses/1/check").text
    key = re.search(r'value="counts=([^"]+rain-jacket)"', text).group(1)
    assert "nobody said whether its seams are taped" in text
    text = send(client, "check", act=f"counts={key}").text
    assert "nobody said whether its seams are taped" not in text
    assert "rain jacket of Pell Ander counts, by your word" in text
    text = send(client, "check", act=f"unsaid={key}").text
    assert "nobody said whether its seams are taped" in text
    key = re.search(r'value="counts-not=(school-autumn hat runa/[^"]+)"', text).group(1)
    text = send(client, "check", act=f"counts-not={key}").text
    assert "wool hat of Runa Bell does not count, by your word" in text
    assert "113 of 128" not in text
    assert send(client, "check", act="counts=no such thing").status_code == 404


def test_taps_are_kept_once_and_faults_are_named(client) -> None:
    answer = tell(client, told(1), told(2, said="no"), told(1), told(3, said="maybe"), {"token": 4})
    found = answer.json()
    assert found["kept"] == ["token-0001", "token-0002", "token-0001"]
    assert [each["token"] for each in found["refused"]] == ["token-0003", "4"]
    assert len(client.app.state.checks.of(1)) == 2
    sign = {**told(5), "event": {"kind": "sign", "subject": "runa"}}
    assert tell(client, sign).json()["refused"][0]["why"] == "is not told from here"
    for body in (b"", b"[]", b"{}", b'{"told": 3}', b"\xff", b"[" * 5000):
        assert client.post("/courses/1/check/tell", content=body).status_code == 400
    assert client.post("/courses/9/check/tell", json={"told": []}).status_code == 404
    text = client.get("/courses/1/check/table").text
    assert "not there, 20 Sep" in text


def checked(client, who: str) -> None:
    text = client.get(f"/courses/1/check/table?person={who}").text
    forms = re.findall(
        r'name="line_of" value="([^"]+)"> <input type="hidden" name="list" value="([^"]+)"> '
        r'<input type="hidden" name="entry" value="([^"]+)"',
        text,
    )
    mine = [each for each in forms if each[0] == who]
    assert len(mine) > 8
    things = [
        told(at + 100 * len(who), subject=a, list=b, entry=c) for at, (a, b, c) in enumerate(mine)
    ]
    for at, each in enumerate(things):
        each["token"] = f"{who}-token-{at:03d}"
    assert not tell(client, *things).json()["refused"]


def act(client, **form: str) -> str:
    return client.post("/courses/1/check/table", data=form, follow_redirects=True).text


def test_a_person_is_signed_off_once_all_is_there_and_only_taken_back_with_a_reason(client) -> None:
    assert "cannot be signed off yet" in act(client, act="sign", subject="runa", by="Hale")
    checked(client, "runa")
    assert "Say who checks" in act(client, act="sign", subject="runa", by=" ")
    text = act(client, act="sign", subject="runa", by="Hale Moor")
    assert re.search(r"signed off \d+ \w+ \d\d:\d\d by Hale Moor", text)
    assert "signed off after everybody" in act(client, act="sign", subject=PARTY, by="Hale")
    assert "say why" in act(client, act="unsign", subject="runa", reason=" ")
    # What the plan loses after the signature is said, here and on the overview of the check.
    page = client.get("/courses/1/people/runa").text
    sent = {"mark": mark_of(page), "piece": "rain-jacket"}
    client.post("/courses/1/people/runa/remove", data=sent)
    for where in ("/check", "/check/table", "/check/record", ""):
        text = client.get(f"/courses/1{where}").text
        assert "Runa Bell was signed off, and since then the plan has changed" in text
        assert "Waterproof jacket with taped seams" in text
    text = act(client, act="unsign", subject="runa", reason="jacket left at home")
    assert "was signed off, and since" not in text
    record = client.get("/courses/1/check/record").text
    assert "jacket left at home" in record
    nobody = {"act": "sign", "subject": "x"}
    assert client.post("/courses/1/check/table", data=nobody).status_code == 404


def test_without_a_script_every_button_is_a_form_of_its_own(client) -> None:
    stock(client)
    form = {"subject": "runa", "line_of": "runa", "list": "school-autumn", "entry": "socks"}
    assert "not there, " in act(client, act="said=no", **form)
    text = act(client, act="said=lent", tag="G-31", note="too small", **form)
    assert "lent G-31" in text
    record = client.get("/courses/1/check/record").text
    assert "lent G-31: too small" in record
    assert "What was not there, and what became of it" in record
    # What is lent by a tag of the store is handed out with it, and due.
    assert "liner socks" in client.get("/courses/1/check/handed").text
    assert "Not kept" in act(client, act="said=perhaps", **form)


def test_what_is_handed_out_comes_back_into_the_store(client) -> None:
    stock(client)
    pieces = client.app.state.pieces
    bag = pieces.get("B-90")
    sent = {"act": "out", "person": "runa", "what": "b-90", "count": "1", "by": "Hale"}

    def hand(**form: str) -> str:
        address = "/courses/1/check/handed"
        return client.post(address, data=form, follow_redirects=True).text

    text = hand(**sent)
    assert "1 piece is still out, overdue since Friday 25 September 2026." in text
    assert "Receipt: Runa Bell" in text
    token = re.search(r'value="back=([^"]+)"', text).group(1)
    wet = {f"state {token}": "wet", f"condition {token}": "to mend", f"note {token}": "wet foot"}
    text = hand(act=f"back={token}", **wet)
    assert "returned wet, to mend: wet foot" in text
    after = pieces.get("B-90")
    assert (after.condition, after.nights_used) == ("to mend", bag.nights_used + 4)
    assert pieces.history("B-90")[0].words == "back from Skarn fell, autumn course: returned wet"
    assert "That is not out any more." in hand(act=f"back={token}")
    assert "Say what is handed out" in hand(**(sent | {"what": " "}))
    text = hand(**(sent | {"what": "a long rope", "count": "some"}))
    assert "Write a whole number from 1 to 200." in text
    assert 'value="some"' in text
    assert 'value="a long rope"' in text
    assert "a rope of mine" in hand(**(sent | {"what": "a rope of mine"}))
    assert "Tick what is handed out first." in hand(act="plan")
    assert "Nothing is still out." in hand(act="all-back")
    assert "Nothing is out." in hand(act="all-back")


def test_what_was_written_of_a_return_stays_where_it_was_wrong(client) -> None:
    address = "/courses/1/check/handed"
    form = {"act": "out", "person": "runa", "what": "cup", "count": "3"}
    text = client.post(address, data=form, follow_redirects=True).text
    token = re.search(r'value="back=([^"]+)"', text).group(1)
    form = {f"count {token}": "4", f"state {token}": "damaged", f"note {token}": "all bent"}
    text = client.post(address, data=form | {"act": f"back={token}"}).text
    assert "3 are out: write how many of them come back." in text
    assert 'value="4"' in text
    assert 'value="all bent"' in text
    assert '<option value="damaged" selected>' in text


def test_the_plans_pieces_of_the_store_are_handed_out_together(client) -> None:
    stock(client)
    key = "school-autumn socks runa"
    send(client, "check", act=f"give={key}", **{f"cure {key}": "store G-31", f"to {key}": "runa"})
    text = client.get("/courses/1/check/handed").text
    (out,) = re.findall(r'name="out" value="([^"]+)"', text)
    form = {"act": "plan", "out": [out], "by": "Hale"}
    text = client.post("/courses/1/check/handed", data=form, follow_redirects=True).text
    assert 'name="out"' not in text
    assert "liner socks" in text


def test_a_sample_is_drawn_and_can_be_looked_at_again(client) -> None:
    answer = client.get("/courses/1/check/sample?count=7", follow_redirects=False)
    where = answer.headers["location"]
    text = client.get(where).text
    assert "7 lines drawn at random." in text
    assert client.get(where).text.count('class="tick"') == 7
    assert client.get("/courses/1/check/table?draw=x&seed=-1").status_code == 200


def test_a_list_of_ones_own_is_made_by_ticking(client) -> None:
    text = client.get("/courses/1/check/own?person=tavi").text
    ticks = re.findall(r'name="tick" value="([^"]+)"', text)
    assert len(ticks) > 20
    sent = {"mark": mark_of(text), "person": "tavi", "must": "on", "name": "", "tick": ticks[:3]}
    text = client.post("/courses/1/check/own", data=sent).text
    assert "Give the list a name." in text
    assert text.count("checked") >= 3
    sent |= {"name": "Our list", "tick": []}
    assert "Tick what the list asks for." in client.post("/courses/1/check/own", data=sent).text
    client.post("/courses/1/check/own", data=sent | {"tick": ticks[:5]})
    assert lists_of(client) == ["school-autumn", "our-list"]


@pytest.mark.parametrize("name", list(DEMOS))
def test_every_day_is_laid_out_on_every_demo_course(client, name: str) -> None:
    course = demo_course(name)
    number = client.app.state.courses.add(course, "another")
    for day in range(len(course.days)):
        text = client.get(f"/courses/{number}/check/laid-out?day={day}&all=yes").text
        assert text.count("On, in this order") == min(len(course.people), 12)
    assert "At hand on the way" in text


def test_a_course_from_nothing_is_asked_and_looked_at(client) -> None:
    number = client.app.state.courses.add(from_nothing(kit=None), "nothing")
    assert "No list is asked" in client.get(f"/courses/{number}/check").text
    assert "no list is asked of this course" in client.get(f"/courses/{number}/check/table").text
    mark = mark_of(client.get(f"/courses/{number}/check").text)
    form = {"mark": mark, "act": "add", "list": "school-winter"}
    text = client.post(f"/courses/{number}/check", data=form, follow_redirects=True).text
    assert "missing" in text
    assert "Choose a list" not in client.get(f"/courses/{number}/check/table").text
    body = json.dumps({"told": [told(1, subject="person-1", list="school-winter")]})
    address = f"/courses/{number}/check/tell"
    assert client.post(address, content=body).json()["kept"] == ["token-0001"]
