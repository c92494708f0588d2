"""A recorded way: its heights by distance, raw and smoothed, and where it is cut."""

import numpy as np

from caldarium.core.plan.track import Track, smoothed
from caldarium.core.plan.way_legs import Cut
from caldarium.drawings.svg import Svg, drawing, element, line, path, text
from caldarium.words.units import Display

WIDTH, HEIGHT, LEFT, TOP, BOTTOM = 1200.0, 220.0, 60.0, 22.0, 190.0
POINTS = 600


def way_profile(track: Track, cuts: list[Cut], display: Display) -> Svg:
    """The profile as a drawing; data-km on it says how many kilometres its width is."""
    whole = float(track.distance[-1])
    even, flat = smoothed(track.distance, track.height)
    keep = np.unique(np.linspace(0, len(even) - 1, min(POINTS, len(even))).astype(int))
    low, high = float(flat.min()), float(flat.max())
    reach = max(high - low, 50.0)

    def x(kilometres: float) -> float:
        return LEFT + (WIDTH - LEFT - 10) * kilometres / whole

    def y(metres: float) -> float:
        return BOTTOM - (BOTTOM - TOP) * (metres - low) / reach

    points = [(x(float(even[at])), y(float(flat[at]))) for at in keep]
    parts: list[Svg] = [
        path([(points[0][0], BOTTOM), *points, (points[-1][0], BOTTOM)], "profile", closed=True),
        path(points, "air"),
        text(LEFT - 6, y(high) + 4, display.altitude(high), "axis", "end"),
        text(LEFT - 6, y(low) + 4, display.altitude(low), "axis", "end"),
        line(LEFT, BOTTOM, WIDTH - 10, BOTTOM, "axis-line"),
    ]
    step = next((s for s in (1, 2, 5, 10, 20, 50, 100, 200) if whole / s <= 14), 500)
    for mark in range(0, int(whole) + 1, step):
        parts.append(text(x(mark), BOTTOM + 14, f"{mark}", "axis", "middle"))
    parts.append(text(WIDTH - 10, BOTTOM + 28, "km", "axis", "end"))
    for number, cut in enumerate(cuts, 1):
        parts.append(
            line(x(cut.at), TOP - 8, x(cut.at), BOTTOM, "cut-night" if cut.night else "cut-line")
        )
        words = f"night {cut.at:g}" if cut.night else f"{cut.at:g}"
        parts.append(text(x(cut.at) + 3, TOP - 10 + 12 * (number % 2), words, "cut-name"))
    label = (
        f"Heights of the way over {display.distance(whole)}, from {display.altitude(low)} to "
        f"{display.altitude(high)}."
    )
    drawn = drawing(WIDTH, HEIGHT, label, element("g", *parts), class_="strip way")
    marks = f'data-km="{whole:.3f}" data-left="{LEFT:.0f}" data-right="{WIDTH - 10:.0f}" '
    return Svg(drawn.replace("<svg ", f"<svg {marks}", 1))
