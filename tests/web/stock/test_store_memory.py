"""The store's memory over HTTP: counts over courses, history, labels, columns remembered."""

from datetime import date
from urllib.parse import unquote

import pytest

from caldarium.core.stock.inventory import Stored, with_defaults
from caldarium.drawings.label import label_code, label_text
from caldarium.web.stock.store_import import Kept, _write

QUILT = with_defaults(
    Stored(tag="Q-1", name="the one quilt", kind="quilt", mass_g=700, label_c=0.0)
)


@pytest.fixture
def pieces(client):
    found = client.app.state.pieces
    found.put([QUILT], "bought")
    return found


def give(client, person: str, tag: str = "Q-1", course: str = "1"):
    return client.post("/store/give", data={"tag": tag, "course": course, "person": person})


def test_the_one_quilt_goes_to_one_and_not_to_a_second(client, courses, pieces, demo) -> None:
    give(client, "runa")
    assert courses.get(1).course.person("runa").bag.tag == "Q-1"
    shown = give(client, "tavi").text
    assert "none is left on these days" in shown
    assert courses.get(1).course.person("tavi").bag.tag == ""
    # Nor to another course on the same days; on others it may go.
    number = courses.add(demo.altered(name="Same week"), "made")
    assert "with Skarn fell" in give(client, "runa", course=str(number)).text
    later = courses.add(demo.altered(name="Later", start=date(2026, 10, 5)), "made")
    give(client, "runa", course=str(later))
    assert courses.get(later).course.person("runa").bag.tag == "Q-1"
    page = client.get("/store/piece?tag=Q-1").text
    assert "Skarn fell, autumn course (Runa Bell), 21 Sep to 25 Sep 2026, 4 nights" in page
    assert "Later (Runa Bell)" in page
    found = client.get("/store?q=quilt&course=1&person=tavi").text
    assert "none left" in found


def test_ticked_on_the_shelf_it_is_refused_too(client, courses, pieces) -> None:
    give(client, "runa")
    shown = client.post("/courses/1/people/tavi/give", data={"piece": ["s:Q-1"]}).text
    assert "none is left on these days" in shown
    assert courses.get(1).course.person("tavi").bag.tag == ""


def test_what_happens_to_a_piece_is_kept(client, pieces) -> None:
    client.post("/store/bulk", data={"tag": ["Q-1"], "action": "found today"})
    client.post("/store/happened", data={"tag": "Q-1", "what": "washed"})
    now = pieces.get("Q-1")
    assert (now.washes, now.checked) == (1, date.today())
    pieces.put([now.altered(condition="to mend")], "torn")
    client.post("/store/happened", data={"tag": "Q-1", "what": "mended"})
    assert pieces.get("Q-1").condition == "good"
    page = client.get("/store/piece?tag=Q-1").text
    for words in ("the one quilt washed", "1 piece: found today", "the one quilt mended"):
        assert words in page
    client.post("/store/happened", data={"tag": "Q-1", "what": "eaten"})
    assert client.post("/store/happened", data={"tag": "ghost"}).status_code == 404


def test_guess_and_scale_stand_beside_each_other(client, pieces) -> None:
    pieces.put([QUILT.altered(mass_from="guess")], "guessed")
    pieces.put([QUILT.altered(mass_g=742, mass_from="scale")], "weighed")
    assert [(g, w) for _, g, w in pieces.masses("Q-1")] == [
        (742, "scale"),
        (700, "guess"),
        (700, "not said"),
    ]
    page = client.get("/store/piece?tag=Q-1").text.split('id="masses"')[1]
    assert "742 g, scale" in page
    assert "700 g, guess" in page


def test_a_weigh_in_reaches_what_was_given_when_asked(client, courses, pieces) -> None:
    give(client, "runa")
    pieces.put([QUILT.altered(mass_g=742, mass_from="scale")], "weighed")
    client.post("/weigh/reach", data={"tag": "Q-1"})
    bag = courses.get(1).course.person("runa").bag
    assert (bag.mass_g, bag.mass_from) == (742, "scale")
    revision = courses.get(1).revision
    client.post("/weigh/reach", data={"tag": "Q-1"})
    assert courses.get(1).revision == revision


def test_labels_say_tag_and_name(client, pieces) -> None:
    assert label_text(QUILT) == "Q-1 the one quilt"
    assert str(label_code(QUILT)).count("<rect") > 200
    page = client.get("/store/labels?tag=Q-1").text
    assert 'aria-label="code that says Q-1 the one quilt"' in page
    answer = client.post(
        "/store/bulk", data={"tag": ["Q-1"], "action": "labels"}, follow_redirects=False
    )
    assert unquote(answer.headers["location"]) == "/store/labels?tag=Q-1"
    assert "Nothing to label" in client.get("/store/labels?q=ghost").text


def test_columns_are_told_once_and_remembered(client, pieces) -> None:
    theirs = b"Gegenstand,Masse (g)\nStirnlampe,95\n"

    def look():
        return client.post("/store/import", files={"file": ("x.csv", theirs)}).text

    shown = look()
    assert "No column says the name, the mass, the kind: tell" in shown
    key = shown.split('name="key" value="')[1].split('"')[0]
    told = {
        "key": key,
        "column.Gegenstand": "name",
        "column.Masse (g)": "mass",
        "kind": "light",
    }
    twice = client.post("/store/import/columns", data=told | {"column.Gegenstand": "mass"}).text
    assert "both told to be mass" in twice
    again = client.post("/store/import/columns", data=told).text
    assert "1 rows could be read: 1 new" in " ".join(again.split())
    client.post("/store/import/take", data={"key": key})
    assert any(each.name == "Stirnlampe" for each in pieces.all())
    assert client.app.state.csv_columns.all() == {"gegenstand": "name", "masse (g)": "mass"}
    # The next file needs only its kind.
    assert "No column says the kind:" in look()
    assert "choose it again" in client.post("/store/import/columns", data={"key": "gone"}).text


def test_a_large_file_is_counted_while_it_is_written_and_can_be_stopped(client, pieces) -> None:
    rows = "".join(f"L-{at},large {at},comfort,{100 + at % 50}\n" for at in range(1200))
    data = f"tag,name,kind,mass\n{rows}".encode()
    shown = client.post("/store/import", files={"file": ("large.csv", data)}).text
    key = shown.split('name="key" value="')[1].split('"')[0]
    client.post("/store/import/take", data={"key": key})
    client.app.state.works.settle(60)
    done = client.get("/store/import/writing", params={"key": key}).text
    assert "1,200 of 1,200 rows were new or changed" in done
    assert pieces.get("L-1199").mass_g == 149
    assert "choose it again" in client.get("/store/import/writing?key=gone").text
    client.post("/store/import/writing", data={"key": key})


def test_stopped_before_it_is_read_a_file_writes_nothing(client, pieces) -> None:
    before = pieces.count()

    class StopError(Exception):
        pass

    def heard(share: float) -> None:
        if share > 0.4:
            raise StopError

    rows = "".join(f"L-{at},large {at},comfort,100\n" for at in range(600))
    kept = Kept(f"tag,name,kind,mass\n{rows}".encode())
    with pytest.raises(StopError):
        _write(pieces, client.app.state.csv_columns, kept, heard)
    assert pieces.count() == before
