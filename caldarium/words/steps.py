"""How a figure came about: inputs, formula, source and limit, line by line."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Step:
    """One figure: its name, its value with unit, how it is found, and from where."""

    name: str
    value: str
    formula: str
    source: str
