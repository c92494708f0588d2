"""How long work tells how far it is; whoever hears it may stop the work by raising."""

from collections.abc import Callable

Heard = Callable[[float], None]
"""Hears the share that is done, 0 to 1; what it raises ends the work."""


def unheard(share: float) -> None:
    """Nobody listens. Source: none, bookkeeping."""
