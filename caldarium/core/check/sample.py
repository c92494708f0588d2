"""A random sample of lines to look at on the way."""

import random
from collections.abc import Sequence

from caldarium.core.check.record import key_of
from caldarium.core.lists.judge import Judged


def sample(judged: Sequence[Judged], count: int, seed: int) -> list[Judged]:
    """So many lines of a check drawn at random, the same ones for the same seed.

    Args:
        judged: lines to draw from.
        count: how many, all of them where there are fewer.
        seed: of the draw.

    Source: random sampling without replacement; spot checks are common practice, no published
        source.
    """
    ordered = sorted(judged, key=key_of)
    drawn = random.Random(seed).sample(range(len(ordered)), min(max(count, 0), len(ordered)))
    return [ordered[at] for at in sorted(drawn)]
