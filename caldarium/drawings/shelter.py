"""A shelter to scale: the plan with its sleepers, and a section with wind, snow and damp."""

from caldarium.core.camp import LOFT_M, ShelterNight, floor_area, width_m
from caldarium.core.course import Person
from caldarium.core.kit import Shelter
from caldarium.core.units import Display
from caldarium.drawings.svg import Svg, drawing, element, line, path, rect, text, title

WIDTH, HEIGHT, METRE = 560.0, 190.0, 82.0
PLAN_LEFT, PLAN_TOP, SECTION_LEFT, GROUND = 12.0, 22.0, 330.0, 160.0
USUAL_LENGTH, USUAL_HEIGHT = 2.1, 1.0
"""Where a shelter was not measured [m]."""


def shelter_plan(
    shelter: Shelter, night: ShelterNight, sleepers: list[Person], display: Display
) -> Svg:
    """Plan and section of one shelter on one night."""
    length = shelter.length_m or USUAL_LENGTH
    width = shelter.width_m or floor_area(shelter) / length
    metre = min(METRE, 290 / length, 150 / width)
    parts: list[Svg] = [
        text(PLAN_LEFT, 14, f"plan, {length:g} by {width:.1f} m"
             + ("" if shelter.length_m and shelter.width_m else ", not measured"), "axis"),
        rect(PLAN_LEFT, PLAN_TOP, length * metre, width * metre, "floor", rx=3.0),
    ]  # fmt: skip
    y = PLAN_TOP
    edge = PLAN_TOP + width * metre
    for person in sleepers:
        wide, long = width_m(person) * metre, (person.height_m + LOFT_M) * metre
        over = y + wide > edge + 0.5 or long > length * metre + 0.5
        words = f"{person.name}: {person.height_m:g} m tall, {width_m(person):.2f} m wide with room"
        parts.append(rect(PLAN_LEFT, y + 1, long, wide - 2, f"lying{' over' if over else ''}",
                          title(words), rx=8.0))  # fmt: skip
        parts.append(text(PLAN_LEFT + 8, y + wide / 2 + 4, person.name.split()[0], "bed-name who"))
        y += wide
    for number in range(shelter.entrances):
        x = PLAN_LEFT if number % 2 else PLAN_LEFT + length * metre
        parts.append(line(x, PLAN_TOP + 8, x, PLAN_TOP + 8 + 0.6 * metre, "door"))
    parts += _section(shelter, night, width, display)
    label = (
        f"{shelter.name} with {len(sleepers)} sleepers in plan, and its section with gusts of "
        f"{display.wind(night.gust)} and {night.snow:.0f} kg/m² of snow."
    )
    return drawing(WIDTH, HEIGHT, label, *parts, class_="cut tent")


def _section(shelter: Shelter, night: ShelterNight, width: float, display: Display) -> list[Svg]:
    height = shelter.height_m or USUAL_HEIGHT
    metre = min(METRE, 110 / height, 130 / width)
    left, wide, high = SECTION_LEFT + 70, width * metre, height * metre
    top = GROUND - high
    arch = [
        (left, GROUND), (left + wide * 0.12, top + high * 0.35), (left + wide * 0.32, top + 2),
        (left + wide * 0.5, top), (left + wide * 0.68, top + 2),
        (left + wide * 0.88, top + high * 0.35), (left + wide, GROUND),
    ]  # fmt: skip
    parts: list[Svg] = [text(SECTION_LEFT, 14, "section", "axis")]
    if night.snow >= 0.5:
        deep = min(4 + night.snow / 2, 22)
        roof = [arch[1], arch[2], arch[3], arch[4], arch[5]]
        raised = [(x, y - deep) for x, y in reversed(roof)]
        parts.append(path([*roof, *raised], "roof-snow", closed=True))
    parts += [
        path(arch, "tent-skin", closed=True),
        line(SECTION_LEFT, GROUND, WIDTH - 4, GROUND, "axis-line"),
        text(left + wide / 2, GROUND - 8, f"dew {display.temperature(night.inside_dew)}", "axis",
             "middle"),
        text(left + wide / 2, GROUND + 14, f"skin {display.temperature(night.skin)}", "axis",
             "middle"),
    ]  # fmt: skip
    if night.settled >= 1:
        for number in range(5):
            x, y = arch[2][0] + number * wide * 0.09, top + 10 + (number % 2) * 7
            parts.append(element("circle", cx=round(x, 1), cy=round(y, 1), r=2.0, class_="drop"))
    reach = min(12 + 2.2 * night.gust, 62)
    y = top + high * 0.45
    strong = " strong" if night.gust > night.stands else ""
    parts += [
        element("line", x1=left - 8 - reach, y1=y, x2=left - 12, y2=y, class_=f"gust{strong}",
                stroke_width=min(1.5 + night.gust / 8, 6)),
        path([(left - 4, y), (left - 13, y - 6), (left - 13, y + 6)], f"gust-head{strong}",
             closed=True),
        text(SECTION_LEFT, y - 10, f"gust {display.wind(night.gust)}", "axis"),
    ]  # fmt: skip
    return parts
