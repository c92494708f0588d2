"""A small writer of SVG: elements by name, attributes escaped, looks left to the stylesheet."""

from functools import lru_cache
from html import escape


class Svg(str):
    """SVG text that templates may insert as it is."""

    __slots__ = ()

    def __html__(self) -> str:
        return self


def element(name: str, *children: str, **attributes: str | float | None) -> Svg:
    """An element; `class_` is class, underscores become hyphens, None leaves out."""
    written = [
        f' {_attribute(key)}="{_quoted(value) if isinstance(value, str) else _number(value)}"'
        for key, value in attributes.items()
        if value is not None
    ]
    return Svg(f"<{name}{''.join(written)}>{''.join(children)}</{name}>")


@lru_cache(maxsize=256)
def _attribute(key: str) -> str:
    name = key.rstrip("_")
    return (
        name
        if name in ("viewBox", "preserveAspectRatio", "patternUnits")
        else name.replace("_", "-")
    )


@lru_cache(maxsize=4096)
def _quoted(value: str) -> str:
    return escape(value, quote=True)


def _number(value: float) -> str:
    return f"{value:.1f}".removesuffix(".0")


def text(x: float, y: float, words: str, class_: str, anchor: str | None = None) -> Svg:
    """A line of text."""
    end = f' text-anchor="{anchor}"' if anchor else ""
    place = f'x="{_number(x)}" y="{_number(y)}" class="{_quoted(class_)}"{end}'
    return Svg(f"<text {place}>{escape(words)}</text>")


def rect(
    x: float,
    y: float,
    width: float,
    height: float,
    class_: str,
    *inside: str,
    rx: float | None = None,
) -> Svg:
    """A rectangle; negative sizes become zero."""
    round_off = "" if rx is None else f' rx="{_number(rx)}"'
    size = f'width="{_number(max(width, 0.0))}" height="{_number(max(height, 0.0))}"{round_off}'
    place = f'x="{_number(x)}" y="{_number(y)}" {size} class="{_quoted(class_)}"'
    return Svg(f"<rect {place}>{''.join(inside)}</rect>" if inside else f"<rect {place}/>")


def line(x1: float, y1: float, x2: float, y2: float, class_: str) -> Svg:
    """A straight line."""
    ends = f'x1="{_number(x1)}" y1="{_number(y1)}" x2="{_number(x2)}" y2="{_number(y2)}"'
    return Svg(f'<line {ends} class="{_quoted(class_)}"/>')


def path(points: list[tuple[float, float]], class_: str, *, closed: bool = False) -> Svg:
    """Straight pieces through points."""
    steps = " ".join(f"{'L' if i else 'M'}{x:.1f} {y:.1f}" for i, (x, y) in enumerate(points))
    return element("path", d=steps + ("Z" if closed else ""), class_=class_)


def title(words: str) -> Svg:
    """A name for what the pointer rests on."""
    return Svg(f"<title>{escape(words)}</title>")


def drawing(
    width: float, height: float, label: str, *children: str, class_: str, role: str = "img"
) -> Svg:
    """A whole drawing with its name for a reader that cannot see it; a group where it has links."""
    return element(
        "svg",
        *children,
        viewBox=f"0 0 {width:.0f} {height:.0f}",
        role=role,
        aria_label=label,
        class_=class_,
        preserveAspectRatio="xMinYMin meet",
    )


def part(name: str, *children: str, class_: str | None = None) -> Svg:
    """A group that a page need not send again while it stays as it is; none within another."""
    return element("g", *children, f"<!--{name}-->", class_=class_, data_part=name)


def state_marks() -> Svg:
    """Hatches of the states, defined once a page; the stylesheet colours them."""
    return element(
        "svg",
        element(
            "defs",
            _pattern("hatch-gap", 6, "M-1 7L7 -1M-1 1L1 -1M5 7L7 5"),
            _pattern("hatch-hot", 6, "M0 0L6 6M6 0L0 6"),
            element(
                "pattern",
                rect(0, 0, 6, 6, "ground"),
                element("circle", cx=1.5, cy=1.5, r=0.9, class_="ink"),
                element("circle", cx=4.5, cy=4.5, r=0.9, class_="ink"),
                id="hatch-slack",
                width=6.0,
                height=6.0,
                patternUnits="userSpaceOnUse",
            ),
            _pattern("hatch-snow", 5, "M0 2.5L5 2.5"),
            element(
                "pattern",
                element("path", d="M1.5 0L1.5 3M4.5 3L4.5 6", class_="ink"),
                id="hatch-wet",
                width=6.0,
                height=6.0,
                patternUnits="userSpaceOnUse",
            ),
        ),
        class_="marks",
        aria_hidden="true",
        width=0.0,
        height=0.0,
    )


def _pattern(name: str, size: float, way: str) -> Svg:
    return element(
        "pattern",
        rect(0, 0, size, size, "ground"),
        element("path", d=way, class_="ink"),
        id=name,
        width=size,
        height=size,
        patternUnits="userSpaceOnUse",
    )
