"""A filled pack, to scale: cut along the spine, and from behind with its sides in the balance."""

import math
from collections.abc import Callable, Mapping

from caldarium.core.pack.layout import BELOW_CM, Box, pocket
from caldarium.core.pack.pack_checks import BACK_BAND_CM, good_heights
from caldarium.core.pack.plan import PackPlan
from caldarium.core.pack.zones import DEPTH_CM, PLACES, WIDTH_CM, WORN_WITH
from caldarium.core.plan.rucksack import LASHED, ZONES, Zone
from caldarium.drawings.svg import Svg, drawing, element, line, path, rect, text, title
from caldarium.words.pack import ZONE_NAMES, full_words, piece_figures, piece_name, place_words
from caldarium.words.units import Display

TALL, WIDE, MARGIN, FOOT = 620.0, 480.0, 64.0, 34.0
HEAD_CM, BEHIND_CM = 5.0, 25.0
"""Room over the main compartment beside the lid, and behind it for pockets and what is lashed."""
ON_BODY = 70.0
"""More margin where something is worn on chest, strap or waist."""
LASHED_SHOWN_L: Mapping[Zone, float] = {"lashed": 6.0, "under": 3.0, "on lid": 3.0}
"""Room of the frames for what is lashed outside, so that something can be moved there [L]."""
LETTER, LINE = 6.4, 15.0
IN_CUT: tuple[Zone, ...] = tuple(zone for zone in ZONES if not PLACES[zone].side)

SIDES: tuple[Zone, ...] = ("left", "right", "strap left", "strap right")


def pack_cut(plan: PackPlan, display: Display) -> Svg:
    """The pack cut along the spine, every piece to scale by its litres, numbered in the order of
    going in, with the centre of mass in the band where it is good.

    Args:
        plan: the filled pack.
        display: units.
    """
    sack, laid = plan.asked.sack, plan.laid
    full = max(laid.filled_cm, sack.height_cm)

    def held(zone: Zone) -> float:
        return sum(plan.pieces[n].litres for n in laid.order if plan.placing.zones[n] == zone)

    def frame(zone: Zone) -> Box:
        room = LASHED_SHOWN_L.get(zone, sack.room[zone])
        return pocket(zone, max(held(zone), room), sack, full)

    wide = DEPTH_CM + BEHIND_CM
    straps: list[Zone] = [zone for zone in LASHED_SHOWN_L if sack.room[zone] > 0 or held(zone) > 0]
    head = HEAD_CM + frame("lid").height
    below = 0.0
    if "under" in straps:
        below = frame("under").height + BELOW_CM
    if "on lid" in straps:
        head = frame("on lid").y + frame("on lid").height - full + 1.0
    on_body: list[Zone] = [zone for zone in WORN_WITH if sack.room[zone] > 0]
    margin = MARGIN + (ON_BODY if on_body else 0.0)
    scale = min((TALL - FOOT - 8) / (full + head + below), (WIDE - margin - 8) / wide)
    floor = 8 + (full + head) * scale

    def x(cm: float) -> float:
        return margin + cm * scale

    def y(cm: float) -> float:
        return floor - cm * scale

    def at(box: Box) -> tuple[float, float, float, float]:
        return x(box.x), y(box.y + box.height), box.width * scale, box.height * scale

    parts: list[Svg] = [
        rect(margin - 26, y(full), 9, full * scale, "spine", rx=4),
        text(margin - 34, y(full / 2), "spine", "axis", "end"),
        _outline(x(0), y(sack.height_cm), DEPTH_CM * scale, sack.height_cm * scale),
    ]
    pockets: tuple[Zone, ...] = ("lid", "front", "hip", *on_body, *straps)
    parts += [_pocket(*at(frame(zone)), zone, loose=zone in straps) for zone in pockets]
    over = (x(0), y(full), DEPTH_CM * scale, (full - laid.filled_cm) * scale)
    parts.append(element("g", rect(*over, "onto"), data_zone="over"))
    numbers = {name: place + 1 for place, name in enumerate(laid.order)}
    for name in laid.order:
        zone = plan.placing.zones[name]
        if zone in IN_CUT:
            parts.append(_piece(plan, name, numbers[name], at(laid.boxes[name]), display))
    if plan.asked.said.liner:
        inside = [
            laid.boxes[n].y + laid.boxes[n].height
            for n in laid.order
            if plan.placing.zones[n] in ZONES[:6]
        ]
        edge = max(inside, default=0.0)
        left, top, width, height = x(0) - 3, y(edge) - 3, DEPTH_CM * scale + 6, edge * scale + 6
        parts.append(rect(left, top, width, height, "liner", rx=6))
    parts += _mass(plan, x, y)
    parts.append(text(WIDE / 2, TALL - 10, full_words(plan, display), "axis", "middle"))
    return drawing(WIDE, TALL, "The pack cut along the spine", *parts, class_="cut pack")


def _outline(left: float, top: float, width: float, height: float) -> Svg:
    """The main compartment, a little narrower at its foot."""
    right, bottom = left + width, top + height
    points = [
        (left - 5, top),
        (right + 2, top),
        (right + 7, top + 0.3 * height),
        (right + 5, bottom - 10),
        (right - 6, bottom + 6),
        (left + 4, bottom + 6),
        (left - 5, bottom - 6),
    ]
    return path(points, "sack", closed=True)


def _pocket(
    left: float, top: float, width: float, height: float, zone: Zone, *, loose: bool
) -> Svg:
    frame = rect(left - 3, top - 3, width + 6, height + 6, "sack loose" if loose else "sack", rx=6)
    return element("g", title(ZONE_NAMES[zone]), frame, data_zone=zone)


def _piece(
    plan: PackPlan,
    name: str,
    number: int,
    box: tuple[float, float, float, float],
    display: Display,
) -> Svg:
    """One piece: its number, its name where there is room for it, and all of it when pointed at."""
    left, top, width, height = box
    content = plan.pieces[name]
    words = f"{number} {piece_name(content)}: {piece_figures(content, display)}; "
    inside: list[Svg] = [
        title(words + place_words(plan, content)),
        rect(left, top, max(width - 1, 0.6), max(height - 1, 0.6), f"thing {content.role}", rx=2),
    ]
    if width >= 14 and height >= 12:
        room = int((width - 8) / LETTER) - len(str(number)) - 1
        label = piece_name(content)
        label = label if len(label) <= room else label[: max(room - 1, 0)].rstrip() + "…"
        line_at = top + min(LINE, height / 2 + 5)
        shown = f"{number} {label}" if room >= 4 else str(number)
        inside.append(text(left + 4, line_at, shown, "thing-name"))
    zone = plan.placing.zones[name]
    return element(
        "g", *inside, class_="chip-thing", data_piece=name, data_zone=zone, tabindex=None
    )


def _mass(plan: PackPlan, x: Callable[[float], float], y: Callable[[float], float]) -> list[Svg]:
    """The centre of mass in the band where it is good."""
    least, most = good_heights(plan.asked, plan.laid)
    left, right = x(0), x(BACK_BAND_CM)
    low, high = y(max(least, 0.0)), y(most)
    spot = element(
        "circle", cx=x(plan.laid.depth_cm), cy=y(plan.laid.height_cm), r=8.0, class_="mass"
    )
    return [
        rect(left, high, right - left, low - high, "mass-band", rx=4),
        element("g", title("centre of mass"), spot),
    ]


def pack_behind(plan: PackPlan, display: Display) -> Svg:
    """The pack from behind: side pockets by what they hold, and a beam that tells which side is
    heavier."""
    laid, sack = plan.laid, plan.asked.sack
    width, height = 360.0, 190.0
    tall = 108.0
    scale = tall / sack.height_cm
    middle, floor = width / 2, 128.0
    body = WIDTH_CM * scale
    parts: list[Svg] = [rect(middle - body / 2, floor - tall, body, tall, "sack", rx=8)]
    masses: Mapping[str, float] = {"left": laid.left_g, "right": laid.right_g}
    wide, high = 9.0 * scale * 2, 0.45 * tall
    for zone in SIDES:
        sign = math.copysign(1.0, PLACES[zone].side)
        strap = zone in LASHED
        names = [n for n in laid.order if plan.placing.zones[n] == zone]
        if strap and not names and not sack.room[zone]:
            continue
        left = middle + sign * (body / 2 + 4) - (wide if sign < 0 else 0.0)
        lower = floor - (tall - high if strap else 0.0)
        told = ", ".join(piece_name(plan.pieces[n]) for n in names) or "nothing"
        parts.append(
            element(
                "g",
                title(f"{ZONE_NAMES[zone]}: {told}"),
                rect(left, lower - high, wide, high, "sack loose" if strap else "sack", rx=4),
                data_zone=zone,
            )
        )
        numbers = ", ".join(str(laid.order.index(n) + 1) for n in names)
        parts.append(text(left + wide / 2, lower - high / 2 + 4, numbers, "thing-name", "middle"))
        if not strap:
            side = "start" if sign > 0 else "end"
            place = middle + sign * (body / 2 + wide + 12)
            words = f"{zone} {display.mass(masses[zone])}"
            parts.append(text(place, floor - high / 2 + 4, words, "axis strong", side))
    tilt = max(min((laid.right_g - laid.left_g) / max(plan.asked.sides_g, 1.0), 2.0), -2.0) * 5
    parts += [
        line(middle - 120, 150 - tilt, middle + 120, 150 + tilt, "beam"),
        path([(middle - 9, 168), (middle + 9, 168), (middle, 151)], "beam-foot", closed=True),
    ]
    return drawing(width, height, "The pack from behind", *parts, class_="cut pack-behind")
