"""Reference gear as data files, each row with its source; generic names only."""

import tomllib
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from typing import Any, TypeVar

from caldarium.core.plan.gear_list import GearList
from caldarium.core.plan.kit import Bag, Cover, Garment, Hammock, Item, Liner, Pad, Shelter
from caldarium.core.plan.value import Value
from caldarium.core.stock.inventory import Kit

Piece = TypeVar("Piece", bound=Value)


@dataclass(frozen=True)
class Catalogue:
    """Everything that can be issued by default, by id."""

    garments: dict[str, Garment]
    bags: dict[str, Bag]
    pads: dict[str, Pad]
    liners: dict[str, Liner]
    covers: dict[str, Cover]
    hammocks: dict[str, Hammock]
    shelters: dict[str, Shelter]
    items: dict[str, Item]
    sets: dict[str, tuple[str, ...]]

    @property
    def everything(self) -> dict[str, Kit]:
        """Pieces of every kind by id, for stored pieces that are like one of them."""
        return {
            **self.garments,
            **self.bags,
            **self.pads,
            **self.liners,
            **self.covers,
            **self.hammocks,
            **self.shelters,
            **self.items,
        }

    def kit(self, name: str) -> dict[str, Any]:
        """Fields of a Person for one of the ready sets."""
        wanted = self.sets[name]
        bags = [self.bags[each] for each in wanted if each in self.bags]
        return {
            "garments": tuple(self.garments[each] for each in wanted if each in self.garments),
            "bag": bags[0] if bags else None,
            "pads": tuple(self.pads[each] for each in wanted if each in self.pads),
            "items": tuple(self.items[each] for each in wanted if each in self.items),
        }


_KNOWN = {"mass_from": "catalogue"}


def _rows(name: str) -> dict[str, dict[str, Any]]:
    return tomllib.loads(files(__name__).joinpath(name).read_text(encoding="utf-8"))


def _garment(identifier: str, row: dict[str, Any], cuts: dict[str, Any]) -> Garment:
    fields = {name: value for name, value in row.items() if name != "cut"}
    return Garment.model_validate(_KNOWN | fields | {"id": identifier, "cover": cuts[row["cut"]]})


def _read(kind: type[Piece], rows: dict[str, Any]) -> dict[str, Piece]:
    return {key: kind.model_validate(_KNOWN | {"id": key} | row) for key, row in rows.items()}


@lru_cache(maxsize=1)
def usual_masses() -> dict[str, float]:
    """What the catalogue's pieces weigh, by id [g]."""
    return {name: piece.mass_g for name, piece in load_catalogue().everything.items()}


@lru_cache(maxsize=1)
def load_catalogue() -> Catalogue:
    """The catalogue that ships with the application."""
    clothing = _rows("garments.toml")
    gear = _rows("gear.toml")
    garments = clothing["garment"].items()
    return Catalogue(
        garments={key: _garment(key, row, clothing["cut"]) for key, row in garments},
        bags=_read(Bag, gear["bag"]),
        pads=_read(Pad, gear["pad"]),
        liners=_read(Liner, gear["liner"]),
        covers=_read(Cover, gear["cover"]),
        hammocks=_read(Hammock, gear["hammock"]),
        shelters=_read(Shelter, gear["shelter"]),
        items=_read(Item, gear["item"]),
        sets={key: tuple(row["pieces"]) for key, row in gear["set"].items()},
    )


@lru_cache(maxsize=1)
def shipped_lists() -> tuple[GearList, ...]:
    """Lists of gear that ship with the application, all of them invented but for what is common
    practice."""
    found = sorted(files(__name__).joinpath("lists").iterdir(), key=lambda each: each.name)
    return tuple(GearList.model_validate_json(each.read_text(encoding="utf-8")) for each in found)
