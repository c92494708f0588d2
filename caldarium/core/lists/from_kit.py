"""A list made from what somebody carries: each thing ticked becomes a line."""

from collections.abc import Sequence

from caldarium.core.lists.holdings import PROVISIONS, Holding, words_in
from caldarium.core.plan.changes import fresh_id
from caldarium.core.plan.gear_list import SORTS, Entry, GearList, Least, Sort, Wanted, Way

BY_SORT: tuple[Sort, ...] = SORTS[1 : SORTS.index("pack") + 1]
"""Clothes, beds and packs are asked by what they are; everything else by its name."""
_QUALITY = ("comfort_c", "r_value", "litres")
"""Figures that a line asks of whatever takes a thing's place, where that is wanted."""


def list_of(
    name: str,
    ticked: Sequence[Holding],
    *,
    quality: bool,
    must: bool,
    taken: Sequence[str] = (),
) -> GearList:
    """A list that asks everybody for what one person has.

    Alike sorts of clothes are one line that asks for so many; shared kit is asked of the party.

    Args:
        name: of the list.
        ticked: things that it asks for.
        quality: whether bags, pads and packs must be as good as these.
        must: whether its lines must be met.
        taken: ids of lists that are there.

    Raises:
        pydantic.ValidationError: for no thing at all, or no name.

    Source: none, bookkeeping.
    """
    entries: list[Entry] = []
    together: dict[Sort, list[Holding]] = {}
    for each in ticked:
        kinds: list[Sort] = [sort for sort in BY_SORT if sort in each.sorts]
        if not kinds or each.shared:
            entries.append(_by_name(each, entries, must=must))
        else:
            together.setdefault(kinds[0], []).append(each)
    for sort, pieces in together.items():
        least = _least(pieces) if quality else Least()
        count = sum(each.count for each in pieces)
        count = 1 if sort == "pad" else count
        wanted = Wanted(sort=sort, count=count, least=least)
        which = fresh_id(sort, [each.id for each in entries])
        text = ", ".join(dict.fromkeys(each.name for each in pieces))[:120]
        entries.append(Entry(id=which, text=text, must=must, ways=(Way(parts=(wanted,)),)))
    return GearList.model_validate(
        {"id": fresh_id(name, taken), "name": name, "entries": tuple(entries)}
    )


def _by_name(each: Holding, before: Sequence[Entry], *, must: bool) -> Entry:
    known: list[Sort] = [sort for sort in SORTS if sort in each.sorts]
    sort: Sort = known[0] if known else "anything"
    food = each.id == PROVISIONS
    word = " ".join(words_in(each.name))[:60].strip() or "thing"
    kcal = each.facts.get("kcal") if food else None
    wanted = Wanted(
        sort=sort,
        names=() if food else (word,),
        count=each.count,
        least=Least(kcal=float(kcal) if kcal else None),
    )
    return Entry(
        id=fresh_id(each.name, [one.id for one in before]),
        text="food" if food else each.name,
        must=must,
        of="party" if each.shared else "head",
        ways=(Way(parts=(wanted,)),),
    )


def _least(pieces: Sequence[Holding]) -> Least:
    """The figures that those pieces have: the weakest, or what they reach together."""
    told: dict[str, float] = {}
    for name in _QUALITY:
        known = [float(f) for each in pieces if (f := each.facts.get(name)) is not None]
        if known:
            told[name] = max(known) if name == "comfort_c" else sum(known)
    return Least.model_validate(told)
