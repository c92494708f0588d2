"""The store over HTTP and in the database: found, edited, retired, imported, weighed, killed."""

import os
import random
import re
import sqlite3
import subprocess
import sys
import time

import pytest

from caldarium.core.assess import assess
from caldarium.core.stock.inventory import Stored
from caldarium.demo import demo_store
from caldarium.store.database import open_database
from caldarium.store.pieces import NoSuchPieceError, Pieces
from tests.pace import at_most
from tests.web.test_fuzz import WEIRD, damaged

FUZZED = int(os.environ.get("ODD_REQUESTS", "2000")) // 5
KILLS = int(os.environ.get("KILLS", "15"))


@pytest.fixture
def pieces(client) -> Pieces:
    found = client.app.state.pieces
    found.put(demo_store(), "the demo store")
    return found


def some(count: int, **more) -> list[Stored]:
    return [
        Stored(tag=f"T-{at}", name=f"piece {at}", kind="comfort", mass_g=100 + at, **more)
        for at in range(count)
    ]


def test_a_few_letters_find_anything(client, pieces) -> None:
    for words, tag in (("winter bag", "B-05"), ("b-05", "B-05"), ("wren", "E-01")):
        assert tag in [each.tag for each in pieces.find(words).pieces]
    assert pieces.find("100%").total == 0
    assert pieces.find("_").total == 0
    shown = client.get("/store?q=winter").text
    assert "winter bag -14" in shown
    part = client.get("/store?q=winter", headers={"HX-Request": "true"}).text
    assert part.lstrip().startswith('<form id="found"')
    assert "Nothing with “zzz”" in client.get("/store?q=zzz").text
    assert client.get("/store?first=-5").status_code == 200


def test_a_new_piece_is_asked_for_what_matters(client, pieces) -> None:
    assert "label temperature" in client.get("/store/piece?kind=bag").text
    assert "label temperature" not in client.get("/store/piece?kind=cook").text
    form = {
        "name": "spare bag",
        "kind": "bag",
        "mass": "2 lb",
        "label temperature": "20F",
        "count": "1",
    }
    shown = client.post("/store/piece", data=form)
    assert "spare bag" in shown.text
    stored = pieces.find("spare bag").pieces[0]
    assert stored.label_c == pytest.approx(-6.67, abs=0.01)
    assert stored.mass_g == pytest.approx(907.18, abs=0.01)
    assert stored.label == "maker's number"


@pytest.mark.parametrize(
    ("field", "text", "words"),
    [
        ("mass", "heavy", "is not a number"),
        ("mass", "", "is needed"),
        ("name", " ", "is needed"),
        ("count", "2.5", "whole number"),
        ("checked", "autumn", "is no date"),
        ("tag", "B-01", "already"),
        ("cost", "-3", "at least"),
    ],
)
def test_what_is_wrong_is_told_at_its_field_and_kept(client, pieces, field, text, words) -> None:
    form = {"name": "thing", "kind": "comfort", "mass": "100 g", "count": "1"} | {field: text}
    before = pieces.count()
    shown = client.post("/store/piece", data=form).text
    assert words in shown
    assert 'aria-invalid="true"' in shown
    if text.strip():
        assert f'value="{text}"' in shown
    assert pieces.count() == before


def test_edited_duplicated_retired_and_taken_back(client, pieces) -> None:
    client.post(
        "/store/piece",
        data={
            "was": "B-05",
            "tag": "B-05",
            "name": "winter bag -14",
            "kind": "bag",
            "mass": "1800",
            "washes": "3",
        },
    )
    assert (pieces.get("B-05").mass_g, pieces.get("B-05").washes) == (1800, 3)
    assert pieces.get("B-05").label_c == -14
    client.post("/store/undo")
    assert pieces.get("B-05").mass_g == 1750
    history = client.get("/store/piece?tag=B-05").text
    assert "winter bag -14 changed, taken back" in history
    client.post("/store/duplicate", data={"tag": "B-05"})
    assert pieces.find("winter bag -14").total == 2
    client.post("/store/bulk", data={"tag": ["B-05", "B-04"], "action": "retire"})
    assert pieces.get("B-05").retired
    assert pieces.find("", retired=True).total == 2
    client.post("/store/bulk", data={"tag": ["B-05"], "action": "bring back"})
    assert not pieces.get("B-05").retired
    client.post("/store/bulk", data={"tag": ["B-05"], "action": "condition", "value": "to mend"})
    assert pieces.get("B-05").condition == "to mend"


@pytest.mark.parametrize(
    "form",
    [
        {"action": "retire"},
        {"tag": "B-05", "action": "condition", "value": "school"},
        {"tag": "B-05", "action": "explode"},
        {},
    ],
)
def test_nonsense_in_bulk_changes_nothing(client, pieces, form) -> None:
    before = pieces.all(retired=True)
    assert client.post("/store/bulk", data=form).status_code == 200
    assert pieces.all(retired=True) == before


def test_a_piece_that_is_not_there(client, pieces) -> None:
    assert client.get("/store/piece?tag=nothing").status_code == 404
    assert client.post("/store/duplicate", data={"tag": "nothing"}).status_code == 404
    with pytest.raises(NoSuchPieceError):
        pieces.get("nothing")
    with pytest.raises(ValueError, match="twice"):
        pieces.put([*some(1), *some(1)], "twice")


def test_given_to_a_person_and_lent_to_the_cold(client, pieces, courses) -> None:
    form = {"tag": "B-05", "course": "1", "person": "mirel"}
    shown = client.post("/store/give", data=form).text
    assert courses.get(1).course.people[2].bag.id == "s-b-05"
    assert "Mirel" in shown
    courses.undo(1)
    assert client.post("/store/give", data=form | {"person": "x"}).status_code == 404
    assert (
        "From the store, by fit and warmth: Mirel Kost gets" in client.get("/courses/1/night").text
    )
    client.post("/courses/1/night/loans", data={"night": "2"})
    assert "From the store, by fit" not in client.get("/courses/1/night").text
    assert "lent from the store" in courses.get(1).undo


def take(client, data: bytes):
    shown = client.post("/store/import", files={"file": ("gear.csv", data)})
    key = re.search(r'name="key" value="([^"]+)">\s*<button[^>]* id="take"', shown.text)
    return shown, client.post("/store/import/take", data={"key": key[1]}) if key else None


def test_a_file_is_looked_at_then_written_whole_or_not_at_all(client, pieces) -> None:
    good = b"tag,name,kind,mass\nN-1,new thing,comfort,120 g\nB-05,winter bag -14,bag,62 oz\n"
    shown, done = take(client, good)
    assert "1 new, 1 for pieces that are there" in shown.text
    assert "2 of 2 rows were new or changed" in done.text
    assert pieces.get("B-05").mass_g == pytest.approx(1757.67, abs=0.01)
    before = pieces.all(retired=True)
    shown, done = take(client, good + b"N-2,bad thing,sofa,12\n")
    assert "kind is one of" in shown.text
    assert done is None
    assert pieces.all(retired=True) == before
    gone = client.post("/store/import/take", data={"key": "gone"}).text
    assert "choose it again" in gone
    client.post("/store/undo")
    assert pieces.get("N-1").retired
    assert pieces.get("B-05").mass_g == 1750


def test_the_store_goes_out_and_comes_in_unchanged(client, pieces) -> None:
    out = client.get("/store/export")
    assert out.headers["content-type"].startswith("text/csv")
    _, done = take(client, out.content)
    assert f"0 of {len(demo_store())} rows were new or changed" in done.text


@pytest.mark.slow
def test_damaged_files_never_break_the_server_or_the_store(client, pieces) -> None:
    rng = random.Random(11)
    seed = client.get("/store/export").content[:2600]
    seed = seed[: seed.rindex(b"\r\n") + 2]
    before = pieces.all(retired=True)
    taken = 0
    for number in range(FUZZED):
        data = damaged(seed, rng)
        if number % 7 == 0:
            at = rng.randrange(len(data) + 1)
            data = data[:at] + rng.choice(WEIRD) + data[at:]
        with at_most(40, number):
            reply = client.post("/store/import", files={"file": ("fuzz.csv", data)})
        assert reply.status_code == 200, number
        if number % 3 == 0 and 'name="key"' in reply.text:
            key = re.search(r'name="key" value="([^"]+)"', reply.text)
            held = pieces.all(retired=True)
            done = client.post("/store/import/take", data={"key": key[1]})
            assert done.status_code == 200
            if pieces.all(retired=True) != held:
                taken += 1
                pieces.undo()
                kept = {each.tag: each for each in pieces.all(retired=True)}
                for each in before:
                    assert kept[each.tag] == each, number
    assert taken
    assert client.get("/store").status_code == 200


WRITES_FOR_EVER = """
import sys
from pathlib import Path
from caldarium.core.stock.inventory import Stored
from caldarium.store.database import open_database
from caldarium.store.pieces import Pieces
store, number = Pieces(open_database(Path(sys.argv[1]))), 0
while True:
    number += 1
    store.put([Stored(tag=f"T-{at}", name="piece", kind="comfort", mass_g=100, count=number)
               for at in range(60)], f"count {number}")
    print(number, flush=True)
"""


@pytest.mark.slow
def test_killed_many_times_nothing_is_lost_or_half_done(tmp_path) -> None:
    """Bulk edits of all pieces at once, killed at any moment; the first is an import."""
    path = tmp_path / "a.sqlite"
    open_database(path).dispose()
    rng = random.Random(5)
    for _ in range(KILLS):
        command = [sys.executable, "-c", WRITES_FOR_EVER, str(path)]
        with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as run:
            assert run.stdout is not None
            last = int(run.stdout.readline())
            time.sleep(rng.uniform(0, 0.12))
            run.kill()
            for line in run.stdout:
                last = int(line)
        counts = {each.count for each in Pieces(open_database(path)).all()}
        assert len(counts) == 1, "half a bulk edit"
        assert counts.pop() in (last, last + 1), "a committed edit is lost"
    database = sqlite3.connect(path)
    assert database.execute("PRAGMA integrity_check").fetchone() == ("ok",)
    database.close()


def test_weighing_takes_a_settled_reading(client, pieces) -> None:
    def settled() -> str:
        for _ in range(60):
            shown = client.get("/weigh/reading").text
            if "steady" in shown:
                return shown
            time.sleep(0.05)
        raise AssertionError(shown)

    assert "so far 1,450 g" in client.get("/weigh?q=B-90").text
    early = client.post("/weigh/take", data={"tag": "B-90"}).text
    assert "shows nothing" in early or "settled" in early
    client.post("/weigh/scale", data={"act": "put", "grams": "1 lb"})
    assert "454 g" in settled() or "453 g" in settled()
    shown = client.post("/weigh/take", data={"tag": "B-90"}).text
    assert "old bag, no label (B-90) weighed" in shown
    assert pieces.get("B-90").mass_g == pytest.approx(454, abs=4)
    assert (
        "is no unit" in client.post("/weigh/scale", data={"act": "put", "grams": "3 stones"}).text
    )
    client.post("/weigh/scale", data={"act": "unplug"})
    assert "is it plugged in" in client.get("/weigh/reading").text
    assert "plugged in" in client.post("/weigh/take", data={"tag": "B-90"}).text
    client.post("/weigh/scale", data={"act": "plug"})
    client.post("/weigh/scale", data={"act": "put", "grams": "9 kg"})
    time.sleep(0.1)
    assert "too heavy" in client.get("/weigh/reading").text


def test_a_whole_pack_is_compared_and_explained(client, pieces) -> None:
    assert "Computed " in client.get("/weigh?course=1&person=mirel").text
    computed = assess(client.app.state.courses.get(1).course).of("mirel").load.carried
    form = {"act": "put", "grams": f"{computed - 0.4} kg", "scale": "hanging"}
    client.post("/weigh/scale", data=form)
    for _ in range(60):
        if "steady" in client.get("/weigh/reading?scale=hanging").text:
            break
        time.sleep(0.05)
    shown = client.post("/weigh/pack", data={"course": "1", "person": "mirel"}).text
    assert "pack weighs" in shown
    assert "less." in shown
    assert "closed-cell foam R 2.0 is not in it" in shown
    assert client.post("/weigh/pack", data={"course": "1", "person": "x"}).status_code == 200
    kept = {"course": "1", "person": "mirel", "measured": "12140.0", "computed": "12540.0"}
    assert "stands on the list" in client.post("/weigh/pack/keep", data=kept).text
    (pack,) = client.app.state.courses.get(1).course.person("mirel").packs
    assert (pack.measured_g, pack.computed_g) == (12140, 12540)
    assert "12.1 kg, computed 12.5 kg" in client.get("/courses/1/lists?person=mirel").text
    for wrong in ({"person": "x"}, {"measured": "much"}, {"computed": "-4"}):
        assert "cannot be kept" in client.post("/weigh/pack/keep", data=kept | wrong).text
    assert client.get("/weigh?course=77").status_code == 200


def test_a_refused_bulk_change_keeps_what_was_ticked(client, pieces) -> None:
    form = {
        "tag": ["B-05", "B-04"],
        "action": "condition",
        "value": "school",
        "q": "bag",
        "course": "1",
        "person": "mirel",
    }
    shown = client.post("/store/bulk", data=form).text
    assert "does not go with" in shown
    assert len(re.findall(r'value="B-0[45]" checked', shown)) == 2
    assert '<option value="condition" selected>' in shown
    assert "For Mirel Kost" in shown
    assert 'value="bag"' in shown


def test_a_wrong_mass_on_the_scale_stays_where_it_was_typed(client, pieces) -> None:
    form = {"act": "put", "grams": "heavy", "tag": "B-90"}
    shown = client.post("/weigh/scale", data=form).text
    assert 'id="grams-error"' in shown
    assert 'value="heavy"' in shown
    assert "old bag, no label" in shown
    assert "less than nothing" in client.post("/weigh/scale", data=form | {"grams": "-5 g"}).text


def test_undo_leads_back_to_the_scale_and_nowhere_else(client, pieces) -> None:
    for back, leads in (("/weigh", "/weigh"), ("https://elsewhere.test", "/store")):
        answer = client.post("/store/undo", data={"back": back}, follow_redirects=False)
        assert answer.headers["location"] == leads


def test_bare_figures_mean_the_units_of_this_browser(client, pieces) -> None:
    client.cookies.set("units", "customary")
    shown = client.get("/store/piece?tag=B-05").text
    assert 'value="61.73 oz"' in shown
    assert 'value="6.8 °F"' in shown
    form = {
        "was": "B-05",
        "tag": "B-05",
        "name": "winter bag -14",
        "kind": "bag",
        "mass": "61.73 oz",
        "label temperature": "5",
    }
    client.post("/store/piece", data=form)
    stored = pieces.get("B-05")
    assert stored.mass_g == 1750
    assert stored.label_c == pytest.approx(-15)
    client.post("/store/piece", data=form | {"label temperature": "5 °F", "mass": "62"})
    assert pieces.get("B-05").mass_g == pytest.approx(1757.67, abs=0.01)
