"""The list's page over HTTP: lines changed in place and in bulk, CSV, swaps, nonsense."""

import csv
import html
import io

import pytest

from caldarium.core.assess import assess
from caldarium.demo import demo_store

ADDRESS = "/courses/1/lists"
JACKET = "?person=mirel&out=light-synthetic-jacket"


def test_swaps_are_tried_taken_and_taken_back(client, courses) -> None:
    shown = client.get(ADDRESS + JACKET).text
    assert 'id="swaps"' in shown
    assert "for light synthetic jacket" in shown
    assert 'value="+big-down-jacket"' in shown
    form = {"person": "mirel", "out": "light-synthetic-jacket", "take": "+big-down-jacket"}
    shown = client.post(ADDRESS, data=form).text
    assert "Mirel: big down jacket for light synthetic jacket" in shown
    mirel = next(each for each in courses.get(1).course.people if each.id == "mirel")
    ids = {each.id for each in mirel.garments}
    assert "big-down-jacket" in ids
    assert "light-synthetic-jacket" not in ids
    client.post("/courses/1/undo")
    mirel = next(each for each in courses.get(1).course.people if each.id == "mirel")
    assert "light-synthetic-jacket" in {each.id for each in mirel.garments}


def test_pieces_of_the_store_can_take_a_place(client, courses) -> None:
    client.app.state.pieces.put(demo_store(), "filled")
    mirel = next(each for each in courses.get(1).course.people if each.id == "mirel")
    shown = client.get(f"{ADDRESS}?person=mirel&out={mirel.bag.id}").text
    assert 'value="store:B-05"' in shown
    client.post(ADDRESS, data={"person": "mirel", "out": mirel.bag.id, "take": "store:B-05"})
    mirel = next(each for each in courses.get(1).course.people if each.id == "mirel")
    assert mirel.bag.name == "winter bag -14"
    assert mirel.bag.mass_g == 1750


def test_a_list_lies_beside_another_person_or_another_course(client, courses, demo) -> None:
    shown = client.get(f"{ADDRESS}?person=mirel&beside=1.wren").text
    assert 'id="compared"' in shown
    assert "Wren Tarn, here" in shown
    other = demo.altered(name="Last year", people=demo.people[:2])
    number = courses.add(other, "made")
    shown = client.get(f"{ADDRESS}?person=runa&beside={number}.runa").text
    assert "Runa Bell, Last year" in shown
    assert "all for sleep" in shown
    assert client.get(f"{ADDRESS}?person=runa&out=nothing&beside=99.zz").status_code == 200
    assert client.get(f"{ADDRESS}?person=nobody").status_code == 404


@pytest.mark.parametrize(
    "form",
    [
        {"person": "mirel", "out": "light-synthetic-jacket", "take": "+palace"},
        {"person": "nobody", "out": "light-synthetic-jacket", "take": "+big-down-jacket"},
        {"person": "mirel", "out": "nothing", "take": "+big-down-jacket"},
    ],
)
def test_what_is_not_there_is_not_swapped(client, courses, form) -> None:
    shown = client.post(ADDRESS, data=form)
    assert shown.status_code == 404
    assert "There is no p" in shown.text
    assert courses.get(1).revision == 1


def runa(courses):
    return courses.get(1).course.person("runa")


def test_the_list_is_whole_and_adds_up_to_the_load(client, courses) -> None:
    shown = " ".join(client.get(f"{ADDRESS}?person=runa").text.split())
    load = assess(courses.get(1).course).of("runa").load
    for words in (
        "next to skin",
        "share of gas can, large",
        "water in the bottles",
        "nobody said",
        "catalogue",
        f"{load.by_day[0]:.1f} kg skin out",
        f"{load.by_day[0] - load.worn:.1f} kg with them setting out on Monday",
    ):
        assert words in shown
    bench = " ".join(client.get("/courses/1/day?person=runa").text.split())
    for page in (shown, bench):
        assert "on the back without food, water and fuel" in page


@pytest.mark.parametrize(
    ("query", "there", "not_there"),
    [
        ("show=worn", "briefs", "cold bag"),
        ("show=consumed", "water in the bottles", "briefs"),
        ("show=not+weighed", "briefs", "water in the bottles"),
        ("q=sock", "thick socks", "briefs"),
        ("sort=by+mass", "by mass", "next to skin"),
        ("sort=by+verdict&show=idle", "wool sweater", "briefs"),
    ],
)
def test_the_list_is_sorted_and_filtered(client, query, there, not_there) -> None:
    who = "wren" if "idle" in query else "runa"
    table = client.get(f"{ADDRESS}?person={who}&{query}").text.split('id="whole-list"')[1]
    table = table.split("</table>")[0]
    assert there in table
    assert not_there not in table


def test_a_line_is_changed_in_place(client, courses) -> None:
    shown = client.get(f"{ADDRESS}?person=runa&edit=bottles").text
    assert 'id="keep-row"' in shown
    form = {
        "person": "runa",
        "act": "row",
        "edit": "bottles",
        "row_name": "soft bottle",
        "row_mass": "1.5 oz",
        "row_from": "scale",
        "row_count": "2",
        "row_kind": "water",
        "row_purpose": "food and water",
        "row_inside": "pack-60",
        "row_holds": "32 fl oz",
    }
    client.post(ADDRESS, data=form)
    kept = next(each for each in runa(courses).items if each.id == "bottles")
    assert (kept.name, kept.count, kept.mass_from, kept.inside) == (
        "soft bottle",
        2,
        "scale",
        "pack-60",
    )
    assert kept.mass_g == pytest.approx(42.52, abs=0.01)
    assert kept.capacity_l == pytest.approx(0.946, abs=0.001)
    # Kit in kit: the pack is told with what is in it.
    assert "with what is in it 1,785 g" in client.get(f"{ADDRESS}?person=runa").text
    for wrong, words in (
        ({"row_mass": "heavy"}, "is not a number"),
        ({"row_name": ""}, "is needed"),
        ({"row_count": "0"}, "whole number from 1"),
        ({"row_inside": "bottles"}, "cannot be inside itself"),
        ({"row_net": "2 kg"}, "more fuel than it weighs"),
    ):
        before = courses.get(1).revision
        shown = client.post(ADDRESS, data=form | wrong).text
        assert words in shown
        assert courses.get(1).revision == before
        typed = next(iter(wrong.values()))
        assert not typed or typed == "bottles" or f'value="{typed}"' in shown


def test_a_bag_and_a_garment_are_changed_in_place(client, courses) -> None:
    bag = runa(courses).bag
    form = {"person": "runa", "act": "row", "row_name": bag.name, "row_from": "label"}
    client.post(ADDRESS, data=form | {"edit": bag.id, "row_mass": "1,120 g"})
    assert (runa(courses).bag.mass_g, runa(courses).bag.mass_from) == (1120, "label")
    client.post(
        ADDRESS, data=form | {"edit": "briefs", "row_name": "old briefs", "row_mass": "66 g"}
    )
    assert next(e for e in runa(courses).garments if e.id == "briefs").name == "old briefs"


def test_several_lines_are_changed_at_once(client, courses) -> None:
    ticked = ["bottles", "mug-spoon", "briefs"]
    form = {"person": "runa", "act": "several", "tick": ticked}
    client.post(ADDRESS, data=form | {"several": "from scale"})
    known = {each.id: each for each in (*runa(courses).items, *runa(courses).garments)}
    assert {known[name].mass_from for name in ticked} == {"scale"}
    client.post(ADDRESS, data=form | {"several": "in pack-60"})
    assert {e.inside for e in runa(courses).items if e.id in ticked} == {"pack-60"}
    client.post(ADDRESS, data=form | {"several": "loose"})
    client.post(ADDRESS, data=form | {"several": "listed"})
    assert all(e.listed and e.inside is None for e in runa(courses).items if e.id in ticked)
    client.post(ADDRESS, data=form | {"several": "leave"})
    left = {each.id for each in (*runa(courses).items, *runa(courses).garments)}
    assert not left.intersection(ticked)
    client.post("/courses/1/undo")
    assert "bottles" in {each.id for each in runa(courses).items}
    before = courses.get(1).revision
    for nonsense in (
        form | {"several": "explode"},
        form | {"several": "leave", "tick": []},
        form | {"several": "in ghost"},
        form | {"several": "leave", "tick": ["ghost"]},
    ):
        assert client.post(ADDRESS, data=nonsense).status_code == 200
    assert courses.get(1).revision == before


def test_one_more_thing_is_added(client, courses) -> None:
    form = {"person": "runa", "act": "add", "new_name": "Whistle", "new_mass": "0.4 oz"}
    client.post(ADDRESS, data=form | {"new_kind": "communication"})
    thing = runa(courses).items[-1]
    assert (thing.name, thing.purpose, thing.mass_from) == ("Whistle", "safety", "estimate")
    before = courses.get(1).revision
    assert "is needed" in client.post(ADDRESS, data=form | {"new_name": " "}).text
    assert "type a mass" in client.post(ADDRESS, data=form | {"new_mass": ""}).text
    assert courses.get(1).revision == before


def sent(client, data: bytes):
    form, files = {"person": "runa"}, {"file": ("list.csv", data)}
    return client.post(f"{ADDRESS}/file", data=form, files=files)


def look_at(client, data: bytes) -> str:
    return sent(client, data).text


def test_the_list_goes_out_as_csv_and_comes_in_again(client, courses) -> None:
    out = client.get(f"{ADDRESS}.csv?person=runa")
    assert out.headers["content-type"].startswith("text/csv")
    rows = list(csv.DictReader(io.StringIO(out.text)))
    load = assess(courses.get(1).course).of("runa").load
    assert sum(float(row["all (g)"]) for row in rows) / 1000 == pytest.approx(load.by_day[0])
    assert "no lines changed or new" in look_at(client, out.content)
    theirs = (
        b"name;mass (oz);count;mass from;inside\nbottles;5;3;scale;pack 60 L\ncamp slippers;7;;;\n"
    )
    shown = look_at(client, theirs)
    assert "2 lines changed or new" in shown
    assert courses.get(1).revision == 1
    whole = sent(client, theirs).content.decode()
    text = html.unescape(whole.split('name="text" value="')[1].split('">')[0])
    client.post(ADDRESS, data={"person": "runa", "act": "file", "text": text})
    items = {each.name: each for each in runa(courses).items}
    assert (items["bottles"].count, items["bottles"].inside) == (3, "pack-60")
    assert items["camp slippers"].mass_g == pytest.approx(198.4, abs=0.1)
    for bad, words in (
        (b"name,mass\nbottles,heavy\n", "1 problem"),
        (b"name,mass,inside\nbottles,10,nowhere\n", "nowhere is not on the list"),
        (b"name,colour\nx,red\n", "no column for mass"),
        (b"", "empty"),
    ):
        assert words in look_at(client, bad)


def test_the_page_offers_ten_swaps_at_most_each_with_its_reason(client) -> None:
    shown = client.get(ADDRESS + JACKET).text
    table = shown.split('id="swaps"')[1].split("</table>")[0]
    assert 1 <= table.count("<button") <= 10
    assert "closes what is short" in table
