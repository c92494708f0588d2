"""The store's pieces: slips asked again, defaults, as kit, and beds lent to cold sleepers."""

import pytest

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess, wet_beds
from caldarium.core.plan.kit import Bag, Cover, Garment, Item, Pad, Shelter
from caldarium.core.stock.inventory import Stored, as_kit, queries, told, with_defaults
from caldarium.core.stock.issue import give, given_out, kit_id, lent
from caldarium.core.stock.kinds import KINDS, WARM
from caldarium.core.what_if.loans import fits, loan_beds, uncovered
from caldarium.demo import demo_store
from caldarium.words.stock import query_words
from caldarium.words.units import Display

EVERYTHING = load_catalogue().everything


def piece(kind: str, mass: float, **more) -> Stored:
    return Stored(tag="X-1", name="a piece", kind=kind, mass_g=mass, **more)


@pytest.mark.parametrize(
    ("stored", "words"),
    [
        (piece("garment", 14), "14 ounces"),
        (piece("bag", 2.5), "2.5 pounds"),
        (piece("shelter", 3.2), "pounds"),
        (piece("garment", 28000), "ten times off"),
        (piece("garment", 0), "weigh it"),
        (piece("pad", 400, r_value=0.85), "m² K/W"),
        (piece("liner", 130, clo=0.02), "m² K/W"),
        (piece("fuel", 230, net_g=230), "is the can counted"),
        (piece("water", 1120, capacity_l=1.0), "weighed full"),
        (piece("food", 100, kcal=2000), "pure fat"),
        (piece("garment", 300, thickness_mm=95), "lying flat"),
    ],
)
def test_slips_are_asked_again_in_the_fields_words(stored: Stored, words: str) -> None:
    assert any(words in query_words(each, Display()) for each in queries(stored)), queries(stored)


def test_the_demo_store_asks_only_what_it_should() -> None:
    asked = {each.tag for each in demo_store() if queries(each)}
    assert "W-01" in asked
    assert "G-01" not in asked


def test_kinds_are_whole() -> None:
    assert set(WARM) <= set(KINDS)
    for name, kind in KINDS.items():
        assert 0 < kind.usual_g[0] < kind.usual_g[1], name
        assert not kind.like or kind.like in EVERYTHING, name
    with pytest.raises(ValueError, match="not one of"):
        piece("sofa", 300)


def test_defaults_are_named_and_go_when_figures_come() -> None:
    bare = with_defaults(piece("bag", 1000))
    assert set(bare.estimated) == {"like", "label_c"}
    measured = with_defaults(told(bare, {"label_c": -3, "like": "bag-minus-6"}))
    assert measured.label == "maker's number"
    assert set(measured.estimated) == {"label"}


def test_stored_pieces_become_kit_with_their_own_figures() -> None:
    bag = as_kit(with_defaults(piece("bag", 999, label="limit", label_c=-9)), EVERYTHING, "s-x-1")
    assert isinstance(bag, Bag)
    assert (bag.label, bag.label_c, bag.mass_g, bag.id) == ("limit", -9, 999, "s-x-1")
    pad = as_kit(with_defaults(piece("pad", 500, r_value=3.3)), EVERYTHING, "p")
    assert isinstance(pad, Pad)
    assert pad.r_value == 3.3
    coat = as_kit(piece("garment", 700, like="big-down-jacket", clo=0.9), EVERYTHING, "g")
    assert isinstance(coat, Garment)
    assert (coat.clo, coat.thickness_mm) == (0.9, None)
    loft = as_kit(piece("garment", 700, like="wool-hat", thickness_mm=9), EVERYTHING, "h")
    assert loft.thickness_mm == 9
    assert isinstance(as_kit(with_defaults(piece("cover", 300)), EVERYTHING, "c"), Cover)
    assert isinstance(as_kit(with_defaults(piece("shelter", 3000)), EVERYTHING, "t"), Shelter)
    camera = as_kit(piece("electronics", 600), EVERYTHING, "e")
    assert isinstance(camera, Item)
    assert camera.apart
    assert isinstance(as_kit(piece("garment", 1, like="nothing"), EVERYTHING, "n"), Item)


def test_giving_puts_a_piece_where_it_belongs(demo) -> None:
    bag = with_defaults(piece("bag", 999))
    assert give(demo, "runa", bag, EVERYTHING).person("runa").bag.name == "a piece"
    tent = with_defaults(piece("shelter", 3000))
    moved = give(demo, "runa", tent, EVERYTHING)
    assert moved.person("runa").shelter == kit_id(tent)
    liner = with_defaults(piece("liner", 130))
    assert give(demo, "runa", liner, EVERYTHING).person("runa").bedding.liner is not None
    with pytest.raises(KeyError):
        give(demo, "nobody", bag, EVERYTHING)


def test_cold_sleepers_get_the_lightest_bed_that_holds(demo, demo_result) -> None:
    worst = uncovered({each.person: each.nights for each in demo_result.people})
    assert set(worst) == {"mirel", "ossi"}
    shelf = [each for each in demo_store() if each.kind in ("bag", "quilt", "pad")]
    wet = wet_beds(demo_result)
    loans = loan_beds(demo, demo_result.timeline, worst, shelf, EVERYTHING, wet)
    assert [each.person for each in loans] == ["mirel", "ossi"]
    after = assess(loans[-1].course)
    nights = next(each for each in after.people if each.person == "mirel").nights
    assert min(night.margin for night in nights) >= 0
    # No lighter one of the shelf would do: all of them tried one by one.
    member = demo.person("mirel")
    chosen = next(each for each in shelf if each.tag == loans[0].tag)
    for other in shelf:
        kit = as_kit(other, EVERYTHING, kit_id(other))
        if other.mass_g < chosen.mass_g and fits(member, kit):
            tried = give(demo, "mirel", other, EVERYTHING)
            found = next(e for e in assess(tried).people if e.person == "mirel").nights
            assert min(night.margin for night in found) < 0, other.tag
    assert given_out(lent(loans[-1].course), chosen) == 1
    none_left = [each.altered(count=1) for each in shelf if each.tag == chosen.tag]
    assert not loan_beds(loans[-1].course, after.timeline, worst, none_left, EVERYTHING)


def test_what_does_not_fit_is_not_lent(demo, demo_result) -> None:
    short = with_defaults(piece("bag", 900, label="comfort", label_c=-20, fits_to_m=1.5))
    unfit = with_defaults(piece("bag", 900, label="comfort", label_c=-20, condition="unfit"))
    worst = uncovered({each.person: each.nights for each in demo_result.people})
    assert not loan_beds(demo, demo_result.timeline, worst, [short, unfit], EVERYTHING)
