"""Nights whose figures are recorded, see tests.recording: `python -m tests.core.night.recorded`."""

from pathlib import Path
from typing import Any

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.plan.changes import plan_night, with_days
from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import OtherBed
from caldarium.demo import demo_course
from tests.recording import Figures, record, rounded

HERE = Path(__file__).with_name("recorded_nights.json")
BED = (
    *("low", "margin", "comfort", "limit", "sleeper", "survives", "watts_up", "watts_down"),
    *("watts_made", "lift", "sky", "wind_share", "ground_temperature", "bag_resistance"),
    *("clothes_resistance", "wet_resistance", "pads_resistance", "watts_drying", "endurance"),
    *("comfortable_until", "wakes", "debt", "damp"),
)
SHELTER = (
    *("gust", "at_walls", "stands", "pressure", "deposit", "settled", "drip_hours", "skin"),
    *("inside_dew", "snow", "clear_after", "rain", "floor"),
)


def nights() -> dict[str, Course]:
    """The courses by name: one as the demo has it, one of every kind of bed and shelter in a worse
    autumn, and one of deep winter."""
    shelves, demo = load_catalogue(), demo_course()
    kinds = list(shelves.shelters.values())
    shelters = tuple(each.altered(id=f"s{at}") for at, each in enumerate(kinds))
    covers, hammocks = shelves.covers, shelves.hammocks
    bedding = (
        {"over": shelves.bags["quilt-plus-8"], "warmers": 2},
        {"liner": shelves.liners["fleece-liner"], "hot_bottle_l": 1.0},
        {"cover": covers["bag-cover"], "feet_on": "sit pad"},
        {"hammock": hammocks["hammock-three-quarter"], "feet_on": "sit pad"},
        {"hammock": hammocks["hammock-full"], "turns": "much"},
        {"cover": covers["foil-bag"]},
        {"raised": "cot", "cot_g": 2200, "wet_out": True},
        {"raised": "hut bunk"},
        {},
        {"beside": demo.people[8].id},
    )
    pads = ("torso-foam", "thin-foam", "winter-pad-7", "foam-pad", "air-pad-3")
    people = tuple(
        person.altered(
            bedding=person.bedding.altered(**parts),
            pads=(shelves.pads[pads[at % len(pads)]],),
            shelter=f"s{at}" if at not in (2, 5, 8) else None,
            bag=None if at in (5, 9) else person.bag,
        )
        for at, (person, parts) in enumerate(zip(demo.people, bedding, strict=True))
    )
    wild = demo.altered(people=people, shelters=shelters)
    light = OtherBed(bag=shelves.bags["quilt-0"], pads=(shelves.pads["foam-pad"],))
    wild = plan_night(wild, demo.people[0].id, 2, "s6", light)
    return {
        "demo": demo,
        "wild": _changed(wild, low_c=1.0, wind_ms=6.0, rain_from_h=20.0, rain_hours=6.0),
        "winter": _changed(
            wild, high_c=-12.0, low_c=-22.0, cloud_pct=20.0, wind_ms=2.0, precipitation_mm=3.0
        ),
    }


def _changed(course: Course, **weather: float) -> Course:
    """Other weather, and a camp in a hollow on a slope."""
    return with_days(
        course,
        [
            day.altered(
                conditions=day.conditions.altered(**weather),
                camp=day.camp.altered(hollow_k=3.0, cooking="porch") if day.camp else None,
            )
            for day in course.days
        ],
    )


def figures(course: Course) -> Figures:
    """What is recorded of a course, by person and night, and by shelter and night."""
    result = assess(course)
    found: Figures = {}
    for person in result.people:
        for night in person.nights:
            row: dict[str, Any] = {name: rounded(getattr(night, name)) for name in BED}
            found[f"{person.person} {night.day}"] = row | {"state": night.state}
    for each in result.shelters:
        row = {name: rounded(getattr(each, name)) for name in SHELTER}
        told = " ".join(found.reason for found in (*each.faults, *each.notes))
        found[f"{each.shelter} {each.day}"] = row | {"told": told}
    for each in result.open_nights:
        told = " ".join(reason.reason for reason in each.reasons)
        found[f"open {each.day}"] = {"told": told, "people": " ".join(each.people)}
    return found


if __name__ == "__main__":
    record(HERE, nights(), figures)
