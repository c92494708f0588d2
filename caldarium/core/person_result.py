"""Everything that an assessment finds for one person, as one value."""

from dataclasses import dataclass

from caldarium.core.day.keeping_up import Effort
from caldarium.core.day.states import MomentState
from caldarium.core.load.loads import Load
from caldarium.core.night.nights import Night


@dataclass(frozen=True)
class PersonResult:
    """Everything found for one person.

    efforts are those of the walks, in order; doubted are pieces that close no gap by themselves,
    which may be idle; closes says of the others at which moment each closes most of a gap, and how
    much [clo].
    """

    person: str
    moments: tuple[MomentState, ...]
    nights: tuple[Night, ...]
    load: Load
    doubted: tuple[str, ...]
    efforts: tuple[Effort, ...]
    closes: dict[str, tuple[str, float]]
