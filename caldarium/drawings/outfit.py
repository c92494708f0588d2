"""The outfit: a cut from skin to air by region, with the band of need over the same axis."""

from dataclasses import dataclass
from math import log

from caldarium.core.day.dressing import BAG_PERMEABILITY, BAG_REGIONS
from caldarium.core.day.states import BARE, MomentState
from caldarium.core.physics.clothing import REGION_SHARE, REGIONS
from caldarium.core.physics.extremities import WORKS
from caldarium.core.plan.course import Person
from caldarium.core.plan.kit import Garment
from caldarium.core.plan.wardrobe import layer_cut
from caldarium.drawings.svg import Svg, drawing, element, line, path, rect, text, title
from caldarium.words.units import Display

WET_SHOWN = 0.05
LEFT, TOP, ROW, WIDTH = 74.0, 18.0, 25.0, 470.0


BAND = ROW - 8
OPEN_CLOTH, SHUT_CLOTH = 1000.0, 2.0
"""Air permeability at which the wind's arrow goes through all layers, and stops at the first
[l/(m² s)]."""
DEEPEST = 26.0


def outfit_cut(
    person: Person, state: MomentState, display: Display, *, reach: float | None = None
) -> Svg:
    """Cut of what one person wears at one moment.

    Layer widths are their insulation by region, scaled so that each region ends at what wind,
    movement and wet leave of it, hatched as high as they are wet; arrows are the wind, stopped by
    the outermost layer or let in; the first row is the whole outfit against the need. With reach
    [clo] the axis ends a little beyond it, for outfits that stand beside one another.
    """
    if reach is None:
        longest = max(state.need_neutral * 1.1, *state.regions, state.provided, 0.5)
        longest = min(longest, max(state.need_neutral * 2.2, 3.0))
    else:
        longest = max(reach * 1.15, 0.5)
    scale = (WIDTH - LEFT - 8) / longest
    axis = _Axis(scale, WIDTH - 8)
    low, high = axis.x(state.need_min), min(axis.x(state.need_neutral), axis.right)
    bottom = TOP + ROW * (len(REGIONS) + 1)
    parts: list[Svg] = [
        rect(low, TOP - 4, high - low, bottom - TOP + 4, "need"),
        line(low, TOP - 4, low, bottom, "need-edge"),
        text(
            min(max((low + high) / 2, LEFT + 70), axis.right - 70),
            TOP - 7,
            f"need {state.need_min:.1f} to {state.need_neutral:.1f} clo",
            "axis",
            "middle",
        ),
    ]
    whole = min(axis.x(state.provided), axis.right) - LEFT
    parts += [
        text(LEFT - 6, TOP + 15, "whole", "region whole", "end"),
        rect(LEFT, TOP + 3, whole, BAND, "layer sum", title(f"whole {state.provided:.2f} clo")),
        text(LEFT + 5, TOP + 15.5, f"{state.provided:.1f} clo", "layer-name sum"),
    ]
    if state.provided < state.need_min:
        parts.append(rect(LEFT + whole, TOP + 3, low - LEFT - whole, BAND, "missing"))
    cut = layer_cut(person, frozenset(state.worn))
    pieces = {piece.id: piece for piece in person.garments}
    for index, region in enumerate(REGIONS):
        row = _Row(state, index, TOP + ROW * (index + 1), axis, display)
        worn = [_Layer.of(pieces[name], state, clo) for name, clo in cut[region]]
        if _round(state, index):
            worn.append(_Layer("sleeping bag", "bag", BAG_PERMEABILITY, 0.0, _round(state, index)))
        parts += row.parts(worn, low)
    parts += [
        line(LEFT, bottom, axis.right, bottom, "axis-line"),
        text(LEFT, bottom + 12, "skin", "axis"),
        text(axis.right, bottom + 12, "air", "axis", "end"),
    ]
    step = 1.0 if longest * scale > 120 and axis.right / scale < 12 else 2.0
    mark = step
    while axis.x(mark) < axis.right - 24:
        x = axis.x(mark)
        parts += [
            line(x, bottom, x, bottom + 3, "axis-line"),
            text(x, bottom + 12, f"{mark:.0f}", "axis", "middle"),
        ]
        mark += step
    label = (
        f"Cut through what {person.name} wears: {state.provided:.1f} clo of "
        f"{state.need_min:.1f} to {state.need_neutral:.1f} needed; weakest {state.weakest}."
    )
    return drawing(WIDTH, bottom + 16, label, *parts, class_="cut")


@dataclass(frozen=True)
class _Layer:
    """What lies over a region: its name and kind, air permeability [l/(m² s)], how wet it is, and
    what it is worth there [clo]."""

    name: str
    kind: str
    permeability: float
    wet: float
    clo: float

    @classmethod
    def of(cls, piece: Garment, state: MomentState, clo: float) -> "_Layer":
        wet = state.wet.get(piece.id, 0.0)
        return cls(piece.name, piece.layer, piece.air_permeability, wet, clo)


def _round(state: MomentState, region: int) -> float:
    """What the bag drawn round is worth over a region [clo]."""
    return state.bag * float(BAG_REGIONS[region])


@dataclass(frozen=True)
class _Axis:
    """Insulation from skin to air along the drawing."""

    scale: float
    right: float

    def x(self, clo: float) -> float:
        return LEFT + clo * self.scale


@dataclass(frozen=True)
class _Row:
    """One region of the cut, at its height in the drawing."""

    state: MomentState
    index: int
    y: float
    axis: _Axis
    display: Display

    def parts(self, pieces: list[_Layer], low: float) -> list[Svg]:
        """Layers from skin to air, what is missing to the need, the wind, and the loss."""
        state, region, y = self.state, REGIONS[self.index], self.y
        kept = state.regions[self.index]
        end = min(self.axis.x(kept), self.axis.right)
        weak = " weakest" if region == state.weakest else ""
        found = [text(LEFT - 6, y + 15, region, "region" + weak, "end")]
        if not pieces:
            found.append(text(LEFT + 4, y + 15, "bare", "bare"))
        found += self._layers(pieces, end - LEFT, kept)
        if kept < state.need_min:
            found.append(rect(end, y + 3, low - end, BAND, "missing"))
        if self.axis.x(kept) > self.axis.right:
            found.append(text(self.axis.right + 1, y + 15, "›", "axis"))
        found += self._wind(pieces, end)
        share = state.heat_share[self.index]
        words = f"{region}: {share:.0%} of the heat from {REGION_SHARE[self.index]:.0%} of the skin"
        found.append(rect(LEFT - 4, y + 3, 3, BAND, "loss" + weak, title(words)))
        if region == "head" and state.bare_face > BARE:
            cold = " cold" if "face" in state.at_risk else ""
            told = f"{state.bare_face:.0%} of the face bare"
            found.append(text(self.axis.right - 2, y + 15, told, "digits" + cold, "end"))
        for name, digits, where in (
            ("fingers", state.fingers, "hands"),
            ("toes", state.toes, "feet"),
        ):
            if where == region:
                told = f"{name} {self.display.temperature(digits.at_end)}"
                cold = " cold" if digits.at_end < WORKS else ""
                found.append(text(self.axis.right - 2, y + 15, told, "digits" + cold, "end"))
        return found

    def _layers(self, pieces: list[_Layer], width: float, kept: float) -> list[Svg]:
        total = sum(piece.clo for piece in pieces)
        x, found = LEFT, list[Svg]()
        for piece in pieces:
            share = piece.clo / total if total else 0.0
            wide = width * share - 0.6
            soaked = f", {piece.wet:.0%} of soaked" if piece.wet > WET_SHOWN else ""
            words = f"{piece.name} on {REGIONS[self.index]}: {kept * share:.2f} clo{soaked}"
            found.append(rect(x, self.y + 3, wide, BAND, f"layer {piece.kind}", title(words)))
            if soaked:
                high = BAND * piece.wet
                found.append(rect(x, self.y + 3 + BAND - high, wide, high, "wet-layer"))
            fits = int((wide - 7) / 5.4)
            if fits >= 3:
                found.append(
                    text(x + 4, self.y + 15, _short(piece.name, fits), f"layer-name {piece.kind}")
                )
            x += width * share
        return found

    def _wind(self, pieces: list[_Layer], end: float) -> list[Svg]:
        """The wind at this region's outermost layer: as long as it blows, as deep as it goes in."""
        speed = self.state.air_speed
        outer = pieces[-1].permeability if pieces else OPEN_CLOTH
        into = min(max(log(outer / SHUT_CLOTH) / log(OPEN_CLOTH / SHUT_CLOTH), 0.0), 1.0)
        tip = end - min(DEEPEST * into, max(end - LEFT, 0.0))
        tail = max(min(end + 8 + 4 * speed, self.axis.right), tip + 8)
        y = self.y + 3 + BAND / 2
        through = pieces[-1].name if pieces else "nothing"
        words = f"wind of {self.display.wind(speed)} on {through}, {outer:.0f} l/(m² s) go through"
        head = [(tip, y), (tip + 5, y - 3), (tip + 5, y + 3)]
        return [
            element(
                "g",
                title(words),
                line(tip + 4, y, tail, y, "gust"),
                path(head, "gust-head", closed=True),
            )
        ]


def _short(name: str, letters: int) -> str:
    if len(name) <= letters:
        return name
    words = [word for word in name.split() if not word.isdigit()]
    return words[-1] if len(words[-1]) <= letters else words[0][: letters - 1] + "."
