"""A day each in cold, wet and heat whose figures are recorded, see tests.recording:
`python -m tests.core.day.recorded`."""

from pathlib import Path
from typing import Any

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.day.day_heat import day_stories
from caldarium.core.plan.changes import set_leg
from caldarium.core.plan.course import Course
from tests.courses import from_nothing
from tests.recording import Figures, record, rounded

HERE = Path(__file__).with_name("recorded_days.json")
FIGURES = (
    *("need_min", "need_steady", "need_neutral", "need_soak", "provided", "dry", "opened"),
    *("spread", "endurance", "rate", "work", "drying", "strain", "sweat", "air_speed"),
    *("whole_sum", "least", "water", "bare_fingers", "bare_face", "frostbite"),
)
STORY = ["core", "skin", "hands", "feet", "fingers", "toes", "stored", "shivering", "sweat"]


def days() -> dict[str, Course]:
    """The courses by name: in each two people differ in size, kit and fitness."""
    cold = from_nothing(days=2, people=2, high=-6, low=-15, wind=7, rain=6, altitude=3200)
    wet = from_nothing(days=2, people=2, high=7, low=2, wind=6, rain=14)
    hot = from_nothing(days=1, people=2, high=35, low=21, wind=1.5)
    warm = from_nothing(days=1, people=2, high=27, low=18, wind=2)
    found = {"cold": cold, "wet": wet, "warm": warm, "hot": hot}
    goggles = load_catalogue().garments["goggles"]
    for name, course in found.items():
        first, second = course.people
        light = second.altered(
            body_mass_kg=88, height_m=1.9, uptake_ml=55, garments=(*second.garments[:-3], goggles)
        )
        way = set_leg(course, 0, "up", halt_every_h=1.0, halt_min=25, scrub=name == "wet")
        if name == "cold":
            way = set_leg(way, 0, "up", hours=4.2)
        found[name] = way.altered(
            people=(first, light), allowances=("altitude", "fatigue", "low food")
        )
    return found


def figures(course: Course) -> Figures:
    """What is recorded of a course, by person and moment."""
    result = assess(course)
    found: Figures = {}
    for person in result.people:
        for state in person.moments:
            row: dict[str, Any] = {name: getattr(state, name) for name in FIGURES}
            row |= {f"regions {at}": value for at, value in enumerate(state.regions)}
            for digit in ("fingers", "toes"):
                row |= {f"{digit} {k}": v for k, v in getattr(state, digit)._asdict().items()}
            found[f"{person.person} {state.moment}"] = {"state": state.state} | {
                name: rounded(value) for name, value in row.items()
            }
        for effort in person.efforts:
            here = found[f"{person.person} {effort.moment}"]
            here |= {
                name: rounded(getattr(effort, name)) for name in ("takes", "keeps", "own_pace")
            }
    states = [person.moments for person in result.people]
    for day in range(len(course.days)):
        stories = day_stories(result.timeline, course.people, states, day)
        for person, story in zip(course.people, stories, strict=True):
            for told in story.moments:
                found[f"{person.id} {told.moment}"] |= {
                    f"story {name}": rounded(getattr(told, name)) for name in STORY
                }
    return found


if __name__ == "__main__":
    record(HERE, days(), figures)
