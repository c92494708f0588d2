"""What there is beyond what people have, by where it comes from."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, get_args

from caldarium.core.stock.inventory import Kit, Stored, as_kit
from caldarium.core.stock.issue import kit_id

Source = Literal["own", "store", "hire", "buy"]
SOURCES: tuple[Source, ...] = get_args(Source)
_OWNERS: dict[str, Source] = {"school": "store", "hire": "hire", "buy on arrival": "buy"}


@dataclass(frozen=True)
class Supply:
    """What there is beyond what people have: stored pieces, how many of each are left by tag in
    lower case, and the catalogue's pieces by id, of which some are for sale."""

    stored: Sequence[Stored] = ()
    left: Mapping[str, int] | None = None
    everything: Mapping[str, Kit] | None = None

    def left_of(self, piece: Stored) -> int:
        """How many of a piece are there to give. Source: none, bookkeeping."""
        if self.left is None:
            return piece.count
        return self.left.get(piece.tag.lower(), piece.count)


def stored_kit(supply: Supply, source: Source) -> Iterator[tuple[Stored, Kit]]:
    """Stored pieces of one source that can be given, and what each is.

    Source: the store's own figures.
    """
    catalogue = supply.everything or {}
    for piece in supply.stored:
        usable = not piece.retired and piece.condition != "unfit" and supply.left_of(piece) > 0
        if _OWNERS.get(piece.owner) == source and usable:
            yield piece, as_kit(piece, catalogue, kit_id(piece))
