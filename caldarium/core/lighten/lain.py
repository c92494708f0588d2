"""What somebody lies in by their choice of bed: found once, whatever is worn in it."""

from collections.abc import Callable, Sequence

from caldarium.core.night.berths import Berths

Bed = tuple[int, int]
"""A top and a bottom, by their places."""


class Lain:
    """Beds that were asked for.

    Args:
        find: finds where whoever chose some new ones lies.
    """

    def __init__(self, find: Callable[[Sequence[Bed]], Berths]) -> None:
        self._find = find
        self._found: Berths | None = None
        self._rows: dict[Bed, int] = {}

    def of(self, beds: Sequence[Bed]) -> Berths:
        """Those of some, one or more, in that order. Source: none, bookkeeping."""
        new = [each for each in dict.fromkeys(beds) if each not in self._rows]
        found = self._found
        if new or found is None:
            more = self._find(new)
            found = more if found is None else found.beside(more)
            self._rows |= {each: len(self._rows) + k for k, each in enumerate(new)}
            self._found = found
        return found.take([self._rows[each] for each in beds])
