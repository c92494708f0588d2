"""The outfit: a cut from skin to air by region, with the band of need over the same axis."""

from caldarium.core.clothing import REGION_SHARE, REGIONS
from caldarium.core.course import Person
from caldarium.core.states import MomentState
from caldarium.core.wardrobe import layer_cut
from caldarium.drawings.svg import Svg, drawing, line, rect, text, title

LEFT, TOP, ROW, WIDTH = 74.0, 18.0, 25.0, 470.0


def outfit_cut(person: Person, state: MomentState) -> Svg:
    """Cut of what one person wears at one moment.

    Layer widths are their insulation by region, scaled so that each region ends at what wind,
    movement and wet leave of it; the first row is the whole outfit against the need.
    """
    worn = frozenset(state.worn)
    cut = layer_cut(person, worn)
    names = {piece.id: piece.name for piece in person.garments}
    layers = {piece.id: piece.layer for piece in person.garments}
    longest = max(state.need_neutral * 1.1, *state.regions, state.provided, 0.5)
    scale = (WIDTH - LEFT - 8) / min(longest, max(state.need_neutral * 2.2, 3.0))
    right = WIDTH - 8
    low, high = LEFT + state.need_min * scale, min(LEFT + state.need_neutral * scale, right)
    bottom = TOP + ROW * (len(REGIONS) + 1)
    parts: list[Svg] = [
        rect(low, TOP - 4, high - low, bottom - TOP + 4, "need"),
        line(low, TOP - 4, low, bottom, "need-edge"),
        text(min(max((low + high) / 2, LEFT + 70), right - 70), TOP - 7,
             f"need {state.need_min:.1f} to {state.need_neutral:.1f} clo", "axis", "middle"),
    ]  # fmt: skip
    whole = min(state.provided * scale, right - LEFT)
    parts += [
        text(LEFT - 6, TOP + 15, "whole", "region whole", "end"),
        rect(LEFT, TOP + 3, whole, ROW - 8, "layer sum", title(f"whole {state.provided:.2f} clo")),
        text(LEFT + 5, TOP + 15.5, f"{state.provided:.1f} clo", "layer-name sum"),
    ]
    if state.provided < state.need_min:
        parts.append(rect(LEFT + whole, TOP + 3, low - LEFT - whole, ROW - 8, "missing"))
    for index, region in enumerate(REGIONS):
        y = TOP + ROW * (index + 1)
        pieces = cut[region]
        total = sum(clo for _, clo in pieces)
        kept = state.regions[index]
        weak = " weakest" if region == state.weakest else ""
        parts.append(text(LEFT - 6, y + 15, region, "region" + weak, "end"))
        x = LEFT
        end = min(LEFT + kept * scale, right)
        if not pieces:
            parts.append(text(LEFT + 4, y + 15, "bare", "bare"))
        for identifier, clo in pieces:
            width = (end - LEFT) * clo / total if total else 0.0
            words = f"{names[identifier]} on {region}: {kept * clo / total:.2f} clo"
            parts.append(
                rect(x, y + 3, width - 0.6, ROW - 8, f"layer {layers[identifier]}", title(words))
            )
            fits = int((width - 8) / 5.4)
            if fits >= 3:
                parts.append(text(x + 4, y + 15, _short(names[identifier], fits),
                                  f"layer-name {layers[identifier]}"))  # fmt: skip
            x += width
        if kept < state.need_min:
            parts.append(rect(end, y + 3, low - end, ROW - 8, "missing"))
        if kept * scale > right - LEFT:
            parts.append(text(right + 1, y + 15, "›", "axis"))
        share = state.heat_share[index]
        words = f"{region}: {share:.0%} of the heat from {REGION_SHARE[index]:.0%} of the skin"
        parts.append(rect(LEFT - 4, y + 3, 3, ROW - 8, "loss" + weak, title(words)))
    parts += [
        line(LEFT, bottom, right, bottom, "axis-line"),
        text(LEFT, bottom + 12, "skin", "axis"),
        text(right, bottom + 12, "air", "axis", "end"),
    ]
    step = 1.0 if longest * scale > 120 and right / scale < 12 else 2.0
    mark = step
    while LEFT + mark * scale < right - 24:
        x = LEFT + mark * scale
        parts += [line(x, bottom, x, bottom + 3, "axis-line"),
                  text(x, bottom + 12, f"{mark:.0f}", "axis", "middle")]  # fmt: skip
        mark += step
    label = (
        f"Cut through what {person.name} wears: {state.provided:.1f} clo of "
        f"{state.need_min:.1f} to {state.need_neutral:.1f} needed; weakest {state.weakest}."
    )
    return drawing(WIDTH, bottom + 16, label, *parts, class_="cut")


def _short(name: str, letters: int) -> str:
    if len(name) <= letters:
        return name
    words = [word for word in name.split() if not word.isdigit()]
    return words[-1] if len(words[-1]) <= letters else words[0][: letters - 1] + "."
