"""The bed: a cut from sky to ground, as thick as it insulates, with the watts that cross it."""

from caldarium.core.night.nights import Night
from caldarium.core.physics.bed import CRUSHED_BAG
from caldarium.core.physics.quantities import R_US
from caldarium.core.plan.course import Person
from caldarium.drawings.svg import Svg, drawing, element, line, path, rect, text
from caldarium.words.units import Display

WIDTH, HEIGHT, LEFT, COLUMN = 360.0, 220.0, 8.0, 120.0


def bed_cut(person: Person, night: Night, display: Display) -> Svg:
    """Cut of one person's bed at the night's planning low."""
    bag = max(night.bag_resistance, 0.05)
    clothes = max(night.clothes_resistance, 0.0)
    layers = [
        ("bag" if person.bag else "no bag", bag, "bag"),
        ("clothes inside", clothes, "clothes"),
        ("sleeper", None, "sleeper"),
        ("bag, crushed", CRUSHED_BAG, "bag"),
        *_under(person, night),
    ]
    thickness = sum(value for _, value, _ in layers if value)
    room = HEIGHT - 24 - 22 - 22 - 20
    scale = room / max(thickness, 0.4)
    inside = display.temperature(night.low + night.lift)
    parts: list[Svg] = [
        rect(LEFT, 4, COLUMN, 20, "sky"),
        text(LEFT + COLUMN + 8, 17, f"outside {display.temperature(night.low)}", "bed-name"),
        rect(LEFT, 24, COLUMN, 20, "inner-air"),
        text(LEFT + COLUMN + 8, 37, f"air inside {inside}", "bed-name"),
    ]
    y = 44.0
    last_label = 37.0
    middle = y
    for name, value, kind in layers:
        height = 22.0 if value is None else value * scale
        if height < 0.5:
            continue
        parts.append(rect(LEFT, y, COLUMN, height, f"bed {kind}"))
        words = name if value is None else f"{name} {value:.2f}"
        place = max(y + height / 2 + 4, last_label + 12)
        parts.append(text(LEFT + COLUMN + 8, place, words, "bed-name"))
        last_label = place
        if value is None:
            middle = y + 11
        y += height
    ground = display.temperature(night.ground_temperature)
    parts += [
        rect(LEFT, y, COLUMN, HEIGHT - y, "ground-earth"),
        text(
            LEFT + COLUMN + 8,
            max(HEIGHT - 3, last_label + 12),
            f"{_ground(night.ground)} {ground}",
            "bed-name",
        ),
        *_arrow(LEFT + 34, middle - 4, 16, night.watts_up),
        *_arrow(LEFT + 84, middle + 4, HEIGHT - 6, night.watts_down),
        text(WIDTH - 4, 92, f"{night.watts_up:.0f} W up", "watts", "end"),
        text(WIDTH - 4, 128, f"{night.watts_made:.0f} W made", "watts made", "end"),
        text(WIDTH - 4, 164, f"{night.watts_down:.0f} W down", "watts", "end"),
        line(LEFT, 44, LEFT + COLUMN, 44, "axis-line"),
    ]
    label = (
        f"Bed of {person.name}: {night.watts_up:.0f} watts leave upward and "
        f"{night.watts_down:.0f} downward, {night.watts_made:.0f} are made."
    )
    return drawing(WIDTH, HEIGHT, label, *parts, class_="cut")


def _under(person: Person, night: Night) -> list[tuple[str, float, str]]:
    """What lies or hangs under the sleeper, as thick as it counts together."""
    listed = [(pad.name, pad.r_value * R_US) for pad in reversed(person.pads)]
    hammock = person.bedding.hammock
    if hammock is not None and hammock.underquilt is not None:
        rest = night.pads_resistance - sum(value for _, value in listed)
        return [(name, value, "pad") for name, value in listed] + [
            (hammock.underquilt.name, max(rest, 0.0), "pad")
        ]
    whole = sum(value for _, value in listed)
    share = night.pads_resistance / whole if whole else 0.0
    return [(name, value * share, "pad") for name, value in listed]


def _ground(name: str) -> str:
    return {"air": "ground as air", "off": "open air below"}.get(name, f"{name} ground")


def _arrow(x: float, start: float, end: float, watts: float) -> list[Svg]:
    thick = min(max(watts / 5, 1.5), 14)
    tip = -8 if end < start else 8
    head = [(x - thick / 2 - 4, end - tip), (x + thick / 2 + 4, end - tip), (x, end)]
    shaft = element("line", x1=x, y1=start, x2=x, y2=end - tip, class_="heat", stroke_width=thick)
    return [shaft, path(head, "heat-head", closed=True)]
