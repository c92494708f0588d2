"""The store as CSV: units anywhere, problems by line and column, formulas kept from computing."""

import csv
import io

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from caldarium.core.stock.inventory import Stored
from caldarium.core.stock.kinds import KINDS
from caldarium.demo import demo_store
from caldarium.formats.fault import FileError
from caldarium.formats.gear_csv import COLUMNS, read_gear, write_gear


def only(text: str) -> Stored:
    preview = read_gear(text.encode())
    assert preview.problems == (), preview.problems
    return preview.rows[0].piece


@pytest.mark.parametrize(
    ("text", "field", "value"),
    [
        # By hand: an ounce is 28.349523125 g, a pound 453.59237 g (NIST SP 811).
        ("name;kind;mass (oz)\nfleece;garment;12", "mass_g", 340.1942775),
        ("name,kind,mass\nbag,bag,1 lb 3 oz", "mass_g", 538.640939375),
        ("name\tkind\tmass [kg]\ntent\tshelter\t2.7", "mass_g", 2700),
        ('name,kind,mass\nbag,bag,"1,200 g"', "mass_g", 1200),
        ("name;kind;mass\nbag;bag;1,2 kg", "mass_g", 1200),
        ("name|kind|mass|capacity\nbottle|water|120|32 fl oz", "capacity_l", 0.946352946),
        ("name,kind,mass,label temperature (F)\nbag,bag,900,23", "label_c", -5),
        ("name,kind,mass,width [in]\npad,pad,400,20", "width_cm", 50.8),
        ("name,kind,mass,fits to\nbag,bag,900,6 ft", "fits_to_m", 1.8288),
        ("name,kind,mass,retired\nbag,bag,900,yes", "retired", True),
    ],
)
def test_units_stand_in_the_header_or_the_cell(text: str, field: str, value: float) -> None:
    assert getattr(only(text), field) == pytest.approx(value)


def test_unknown_columns_are_kept_as_notes_and_come_out_again() -> None:
    text = "tag,name,kind,mass,Shelf,Bought from\nA,fleece,garment,300,top left,a friend\n"
    piece = only(text)
    assert piece.notes == {"Shelf": "top left", "Bought from": "a friend"}
    again = read_gear(write_gear((piece,)).encode())
    assert again.rows[0].piece == piece


def test_problems_name_line_column_and_header() -> None:
    text = (
        "tag,name,kind,mass,count,checked\n"
        "A,fleece,garment,heavy,1,2026-09-21\n"
        "B,,garment,300,1,\n"
        "A,hat,hat,70,1.5,autumn\n"
        "C,jacket,garment,300,-2,\n"
    )
    found = read_gear(text.encode())
    told = {(each.line, each.column, each.header) for each in found.problems}
    assert (2, 4, "mass") in told
    assert (3, 2, "name") in told
    assert {(4, 1, "tag"), (4, 5, "count"), (4, 6, "checked")} <= told
    assert (5, 5, "count") in told
    assert found.rows == ()
    assert all(each.words for each in found.problems)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "empty"),
        ("   \n\n", "empty"),
        ("name\nfleece", "one column"),
        ("name,kind,mass,Mass (oz)\na,bag,1,2", "twice"),
    ],
)
def test_what_is_no_table_is_refused_whole(text: str, words: str) -> None:
    with pytest.raises(FileError, match=words):
        read_gear(text.encode())


def test_importing_again_updates_by_tag_and_keeps_what_is_not_said() -> None:
    known = {each.tag.lower(): each for each in demo_store()}
    found = read_gear(b"tag,name,kind,mass\nb-05,winter bag -14,bag,1802 g\n", known)
    row = found.rows[0]
    assert not row.new
    assert row.piece.mass_g == 1802
    assert (row.piece.label_c, row.piece.count) == (-14, 3)


@pytest.mark.parametrize("nasty", ["=1+1", "+cmd", "-2+3", "@SUM(A1)", "\t=x", "'quoted", "=HYP"])
def test_no_cell_comes_out_as_a_formula(nasty: str) -> None:
    piece = Stored(
        tag="A",
        name=nasty.strip() or "x",
        kind="comfort",
        mass_g=10,
        notes={nasty.strip(): nasty.strip()},
    )
    rows = list(csv.reader(io.StringIO(write_gear((piece,)))))
    for row in rows:
        for cell in row:
            assert not cell.startswith(("=", "+", "-", "@", "\t", "\r")), cell
    assert read_gear(write_gear((piece,)).encode()).rows[0].piece.name == piece.name


def test_the_demo_store_goes_round_unchanged() -> None:
    pieces = demo_store()
    again = read_gear(write_gear(pieces).encode())
    assert again.problems == ()
    assert tuple(row.piece for row in again.rows) == pieces
    assert len(COLUMNS) >= 25


words = (
    st.text(
        st.characters(codec="utf-8", exclude_categories=["Cc", "Cs", "Zl", "Zp"]),
        min_size=1,
        max_size=20,
    )
    .map(str.strip)
    .filter(bool)
)


@settings(max_examples=60, deadline=None)
@given(words, words, st.sampled_from(sorted(KINDS)), st.floats(0, 60000), st.integers(1, 10000))
def test_any_piece_goes_round(tag, name, kind, mass, count) -> None:
    piece = Stored(tag=tag, name=name, kind=kind, mass_g=round(mass, 1), count=count)
    found = read_gear(write_gear((piece,)).encode())
    assert found.problems == ()
    back = found.rows[0].piece
    assert (back.tag, back.name, back.kind, back.count) == (tag, name, kind, count)
    assert back.mass_g == pytest.approx(piece.mass_g, rel=1e-9)


TABLE = "name;kind;mass\nFäustlinge;garment;1.234,5 g\n"


@pytest.mark.parametrize(
    ("data", "encoding"),
    [
        (TABLE.encode(), "UTF-8"),
        (TABLE.encode("utf-8-sig"), "UTF-8"),
        (TABLE.encode("utf-16"), "UTF-16"),
        (TABLE.encode("utf-16-le"), "UTF-16"),
        (TABLE.encode("utf-16-be"), "UTF-16"),
        (TABLE.encode("cp1252"), "Windows-1252"),
    ],
)
def test_every_encoding_of_a_spreadsheet_is_read(data: bytes, encoding: str) -> None:
    found = read_gear(data)
    assert found.encoding == encoding
    assert (found.rows[0].piece.name, found.rows[0].piece.mass_g) == ("Fäustlinge", 1234.5)


def test_a_figure_with_two_meanings_is_asked() -> None:
    found = read_gear(b"name;kind;mass\nbag;bag;1.234\n")
    assert "can mean 1234 or 1.234" in found.problems[0].words


def test_peoples_own_headers_are_guessed_or_told() -> None:
    theirs = b"Item,Weight (oz),Qty,What for\nwool hat,2.5,3,cold days\n"
    unknown = read_gear(theirs)
    assert unknown.wanted == ("kind",)
    assert unknown.rows == ()
    found = read_gear(theirs, kind="garment")
    (row,) = found.rows
    assert (row.piece.name, row.piece.count) == ("wool hat", 3)
    assert row.piece.mass_g == pytest.approx(2.5 * 28.349523125)
    assert row.piece.notes == {"What for": "cold days"}
    assert found.mapped["weight (oz)"] == "mass"
    told = read_gear(theirs, kind="garment", mapped={"what for": "place", "qty": ""})
    assert told.rows[0].piece.place == "cold days"
    assert told.rows[0].piece.count == 1
    assert told.rows[0].piece.notes == {"Qty": "3"}


def test_notes_go_round_unchanged() -> None:
    odd = ["  two blanks before", "=1+1", "'quoted", "trailing  ", "-dash", "a,b;c"]
    piece = demo_store()[0].altered(notes={f"n{at}": text for at, text in enumerate(odd)})
    text = write_gear((piece,))
    again = read_gear(text.encode()).rows[0].piece
    assert list(again.notes.values()) == odd


def test_ounces_typed_for_grams_are_caught_by_what_a_piece_is_like() -> None:
    # 19 oz is 539 g: within what garments weigh, but a seventh of the jacket it is like.
    found = read_gear(b"name,kind,mass,like\njacket,garment,19,light-synthetic-jacket\n")
    (query,) = [each for each in found.rows[0].asked if each.field == "mass_g"]
    assert query.why.reason == "ounces"
    assert query.why.names == ("piece like it",)
    fine = read_gear(b"name,kind,mass,like\njacket,garment,390,light-synthetic-jacket\n")
    assert fine.rows[0].asked == ()
