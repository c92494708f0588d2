"""Parts of a page that are sent again only where they differ from what the browser shows."""

import re
from collections.abc import Mapping
from hashlib import blake2s

SHOWN = "x-parts"
"""Header in which a page's script says what is shown: names and sums, as `name:sum`, by spaces."""
MOST_SHOWN = 400
_PART = re.compile(r'<(g|div)([^<>]*) data-part="([\w.-]+)">(.*?)<!--\3--></\1>', re.DOTALL)


def shown_parts(header: str) -> dict[str, str]:
    """Sums of the parts that a browser shows, by name; what is no such thing is left out."""
    pairs = (each.partition(":") for each in header.split()[:MOST_SHOWN])
    return {name: digest for name, _, digest in pairs if name and digest}


def only_changed(html: str, shown: Mapping[str, str]) -> str:
    """A page with its parts summed, and those that are shown as they are left empty.

    Args:
        html: with parts as `drawings.svg.part` and the macro `part` write them.
        shown: sums by name; none for a whole page.

    Returns:
        The page; the script leaves alone what is marked `data-same`.
    """

    def written(found: re.Match[str]) -> str:
        tag, others, name, inside = found.groups()
        digest = blake2s(inside.encode(), digest_size=6).hexdigest()
        start = f'<{tag}{others} id="part-{name}" data-part="{name}" data-sum="{digest}"'
        if shown.get(name) == digest:
            return f"{start} data-same></{tag}>"
        return f"{start}>{inside}</{tag}>"

    return _PART.sub(written, html)
