"""Lists of gear go out as JSON and CSV and come back the same; faults are named by their place."""

import json
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from jsonschema import Draft202012Validator

from caldarium.catalogue import shipped_lists
from caldarium.core.plan.gear_list import (
    SCOPES,
    SORTS,
    Entry,
    GearList,
    Least,
    Wanted,
    Way,
    When,
)
from caldarium.formats.fault import FileError
from caldarium.formats.gear_list_csv import read_gear_list_csv, write_gear_list_csv
from caldarium.formats.gear_list_json import read_gear_list, write_gear_list

SCHEMA = json.loads(Path("docs/list.schema.json").read_text(encoding="utf-8"))
PLAIN = st.text("abc dé=+@'\"", min_size=1, max_size=20).map(lambda t: "x" + t.strip())
WORD = st.from_regex(r"[a-zé][a-zé =']{0,10}[a-z]", fullmatch=True)
FIGURE = st.floats(0, 30, allow_nan=False).map(lambda x: round(x, 3))
LEAST = st.builds(
    Least,
    comfort_c=st.none() | st.integers(-40, 10).map(float),
    r_value=st.none() | FIGURE.filter(lambda x: x <= 20),
    litres=st.none() | FIGURE,
    mass_g=st.none() | st.integers(0, 5000).map(float),
    water_mm=st.none() | st.integers(0, 20000).map(float),
    light_h=st.none() | FIGURE,
    taped=st.booleans(),
    insulated=st.booleans(),
)
WANTED = st.builds(
    Wanted,
    sort=st.sampled_from(SORTS[1:]),
    names=st.lists(WORD, max_size=3).map(tuple),
    but_not=st.lists(WORD, max_size=2).map(tuple),
    count=st.integers(1, 5),
    least=LEAST,
)
WHEN = st.builds(
    When,
    snow=st.booleans(),
    river=st.booleans(),
    above_m=st.none() | st.integers(-100, 7000).map(float),
    below_c=st.none() | st.integers(-40, 30).map(float),
    months=st.lists(st.integers(1, 12), max_size=4, unique=True).map(tuple),
    nights=st.integers(0, 20),
    younger_than=st.none() | st.integers(1, 99),
)
ENTRY = st.builds(
    Entry,
    id=st.just("x"),
    text=PLAIN,
    must=st.booleans(),
    of=st.sampled_from(SCOPES),
    per=st.none() | st.integers(1, 40),
    ways=st.lists(
        st.lists(WANTED, min_size=1, max_size=3).map(lambda p: Way(parts=tuple(p))),
        min_size=1,
        max_size=3,
    ).map(tuple),
    when=WHEN,
    note=st.just("") | PLAIN,
)


@st.composite
def lists(draw) -> GearList:
    entries = draw(st.lists(ENTRY, min_size=1, max_size=4))
    named = tuple(each.altered(id=f"line-{at}") for at, each in enumerate(entries))
    return GearList(id="own", name=draw(PLAIN), once=draw(st.booleans()), entries=named)


@settings(max_examples=60, deadline=None)
@given(lists())
def test_a_list_goes_out_and_comes_back_the_same(listed: GearList) -> None:
    assert read_gear_list(write_gear_list(listed).encode()) == listed
    assert read_gear_list_csv(write_gear_list_csv(listed).encode(), "") == listed
    Draft202012Validator(SCHEMA).validate(json.loads(write_gear_list(listed)))


def test_the_shipped_lists_are_of_the_format_and_name_where_they_are_from() -> None:
    shipped = shipped_lists()
    assert len(shipped) == 5
    for listed in shipped:
        Draft202012Validator(SCHEMA).validate(json.loads(write_gear_list(listed)))
        assert read_gear_list_csv(write_gear_list_csv(listed).encode(), "") == listed
        assert listed.issuer
        assert listed.source in ("invented for the demo", "common practice, no published source")


@pytest.mark.parametrize(
    ("text", "place", "told"),
    [
        ("line,text\n", "line 1", "there is no line in it"),
        ("name,mass\nx,1\n", "line 1", "no column for line and text"),
        ("line,text,sort\na,bag,sleeping\n", "line 2", "sort"),
        ("line,text,sort,comfort at most\na,bag,bag,warm\n", "line 2, column 4", "comfort"),
        ("line,text,sort,months\na,bag,bag,June\n", "line 2, column 4", "months"),
        ("line,text,sort\na,bag,bag\n,other,pad\n", "line 3", "every row names its line"),
        ("line,text\na,anything goes\n", "line 2", "say a sort of thing"),
        ("line,text,sort,nigths\na,b,bag,2\n", "line 1", "no such columns in a list: nigths"),
        (
            "line,text,sort,of\na,b,bag,head\na,,pad,tent\n",
            "line 3",
            "“of” of a is said in two ways",
        ),
    ],
)
def test_a_fault_in_a_csv_is_told_by_its_place(text: str, place: str, told: str) -> None:
    with pytest.raises(FileError) as fault:
        read_gear_list_csv(text.encode(), "list")
    assert place in str(fault.value)
    assert told in str(fault.value)


def test_a_short_csv_of_ones_own_is_enough_and_may_have_its_own_units() -> None:
    text = "line;text;sort;comfort at most (°F);names\n"
    text += "bag;Warm bag;bag;23;\npipe;Whistle;;;whistle\n"
    listed = read_gear_list_csv(text.encode(), "Our list")
    assert (listed.name, len(listed.entries)) == ("Our list", 2)
    part = listed.entries[0].ways[0].parts[0]
    assert part.least.comfort_c == pytest.approx(-5)
    assert listed.entries[1].ways[0].parts[0].names == ("whistle",)


@pytest.mark.parametrize(
    "text",
    [
        "{",
        "[]",
        '{"format": "caldarium-course"}',
        '{"format": "caldarium-list", "version": 9}',
        '{"format": "caldarium-list", "version": 1, "id": "a", "name": "a", "entries": []}',
    ],
)
def test_what_is_no_list_is_refused_whole(text: str) -> None:
    with pytest.raises(FileError):
        read_gear_list(text.encode())
