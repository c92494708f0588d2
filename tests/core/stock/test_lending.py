"""Where the store's pieces are: counted over courses of the same days, and refused when gone."""

from datetime import date, timedelta

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.stock.inventory import Stored, with_defaults
from caldarium.core.stock.issue import give, lent, reweighed, store_key
from caldarium.core.stock.lending import days_of, left_of, loans_for, loans_of, refusal, to_get

EVERYTHING = load_catalogue().everything
QUILT = with_defaults(
    Stored(tag="Q-1", name="the one quilt", kind="quilt", mass_g=700, label_c=0, owner="school")
)


@pytest.fixture
def quilted(demo):
    return give(demo, "runa", QUILT, EVERYTHING)


def test_a_quilt_of_which_there_is_one_is_not_given_to_two(demo, quilted) -> None:
    loans = loans_for(QUILT, [loans_of(1, quilted)])
    assert [(loan.count, loan.people, loan.nights) for loan in loans] == [(1, ("Runa Bell",), 4)]
    first, last = days_of(demo)
    assert (first, last) == (date(2026, 9, 21), date(2026, 9, 25))
    why = refusal(QUILT, loans, first, last)
    assert why is not None
    assert (why.reason, why.names) == ("none left", (demo.name,))
    assert left_of(QUILT.altered(count=3), loans, first, last) == 2


def test_a_course_on_other_days_may_have_it(quilted) -> None:
    loans = loans_for(QUILT, [loans_of(1, quilted)])
    for shift, free in ((-5, True), (-4, False), (4, False), (5, True)):
        first = date(2026, 9, 21) + timedelta(days=shift)
        assert (refusal(QUILT, loans, first, first + timedelta(days=4)) is None) == free, shift


def test_unfit_and_retired_pieces_are_not_given() -> None:
    day = date(2026, 9, 21)
    assert refusal(QUILT.altered(condition="unfit"), [], day, day).reason == "unfit"
    assert refusal(QUILT.altered(retired=True), [], day, day).reason == "retired"


def test_two_of_one_tag_are_two_whatever_their_ids(demo) -> None:
    pot = Stored(tag="C-7", name="pot", kind="cook", mass_g=300, count=2)
    twice = give(give(demo, "runa", pot, EVERYTHING), "runa", pot, EVERYTHING)
    assert lent(twice)["c-7"] == 2
    again = give(twice, "tavi", pot, EVERYTHING)
    (loan,) = loans_for(pot, [loans_of(1, again)])
    assert loan.count == 3
    assert loan.people == ("Runa Bell", "Runa Bell", "Tavi Orrin")


def test_a_later_weigh_in_reaches_what_was_given(demo) -> None:
    pot = Stored(tag="C-7", name="pot", kind="cook", mass_g=300)
    course = give(give(demo, "runa", pot, EVERYTHING), "runa", QUILT, EVERYTHING)
    heavier = pot.altered(mass_g=322, mass_from="scale", mass_on=date(2026, 9, 1))
    after = reweighed(course, heavier)
    (item,) = [e for e in after.person("runa").items if store_key(e) == "c-7"]
    assert (item.mass_g, item.mass_from, item.mass_on) == (322, "scale", date(2026, 9, 1))
    bag = reweighed(after, QUILT.altered(mass_g=750)).person("runa").bag
    assert (bag.tag, bag.mass_g) == ("Q-1", 750)
    assert reweighed(after, heavier) == after


def test_what_is_hired_and_bought_is_listed(demo) -> None:
    boots = with_defaults(
        Stored(
            tag="H-1",
            name="boots",
            kind="garment",
            like="double-boots",
            mass_g=2400,
            owner="hire",
            cost=40,
            place="village",
        )
    )
    course = give(give(demo, "runa", boots, EVERYTHING), "tavi", QUILT, EVERYTHING)
    stored = {each.tag.lower(): each for each in (boots, QUILT)}
    assert [(e.person, e.piece.tag, e.count) for e in to_get(course, stored)] == [
        ("Runa Bell", "H-1", 1)
    ]


def test_a_can_given_from_the_store_brings_its_fuel(demo) -> None:
    can = Stored(tag="F-1", name="can", kind="fuel", mass_g=380, net_g=230)
    item = give(demo, "runa", can, EVERYTHING).person("runa").items[-1]
    assert (item.kind, item.fuel_g, item.kept_g) == ("fuel", 230, 150)
    empty = can.altered(mass_g=150)
    assert give(demo, "runa", empty, EVERYTHING).person("runa").items[-1].fuel_g == 0
