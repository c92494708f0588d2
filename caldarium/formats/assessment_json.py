"""The assessment as one JSON object, numbers unrounded; what does not exist is null."""

import math
from dataclasses import asdict
from typing import Any

from caldarium.core.assess import Assessment
from caldarium.core.day.states import MomentState
from caldarium.core.night.camp import ShelterNight
from caldarium.core.plan.course import Course
from caldarium.core.what_if.idle import idle_pieces
from caldarium.words.night import fault_words, note_sentence
from caldarium.words.steps_day import BASES
from caldarium.words.units import Display


def assessment_document(course: Course, result: Assessment) -> dict[str, Any]:
    """Per person the states of every moment, the beds and the load; per shelter its nights."""
    idle = idle_pieces(course, result)
    people = [
        {
            "person": each.person,
            "name": person.name,
            "moments": [_moment(moment) for moment in each.moments],
            "nights": [_clean(asdict(night)) for night in each.nights],
            "load": _clean(asdict(each.load)),
            "idle": list(idle[person.id].pieces),
            "idle_grams": idle[person.id].grams(person),
        }
        for person, each in zip(course.people, result.people, strict=True)
    ]
    return {
        "course": course.name,
        "caution": course.caution,
        "moments": [_clean(asdict(moment)) for moment in result.timeline.moments],
        "people": people,
        "shelters": [_shelter(night) for night in result.shelters],
        "fuel": _clean(asdict(result.fuel)),
        "reasons": {
            "endurance": "null: no heat debt grows",
            "works_for": "null: fingers or toes go on working",
            "safe_for": "null: no cold injury of fingers or toes threatens",
            "bare_fingers": "null: fingers work without gloves",
            "wind_chill": "null: above 10 °C or wind below 4.8 km/h",
            "frostbite": "null: outside -15 °C, 20 km/h or 2 to 30 min",
            "margin": "null: no balance for this bed between -60 and 45 °C",
        },
    }


def _shelter(night: ShelterNight) -> dict[str, Any]:
    told = {
        "faults": [fault_words(each) for each in night.faults],
        "notes": [note_sentence(each, Display()) for each in night.notes],
    }
    return _clean(asdict(night) | told)


def _moment(state: MomentState) -> dict[str, Any]:
    plain = state._asdict() | {
        "fingers": state.fingers._asdict(),
        "toes": state.toes._asdict(),
        "holds": state.state != "gap",
        "sure": state.sure,
        "at_risk": list(state.at_risk),
        "basis": BASES[state.basis],
    }
    return _clean(plain)


def _clean(value: Any) -> Any:
    if isinstance(value, dict):
        return {key: _clean(part) for key, part in value.items()}
    if isinstance(value, list | tuple):
        return [_clean(part) for part in value]
    if isinstance(value, float) and not math.isfinite(value):
        return None
    return value
