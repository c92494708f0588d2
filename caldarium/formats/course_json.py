"""The open course document: one JSON file, validated whole or refused whole."""

import json
from typing import Any

from pydantic import ValidationError

from caldarium.core.plan.course import FORMAT, VERSION, Course
from caldarium.core.plan.versions import upgraded
from caldarium.formats.fault import FileError
from caldarium.formats.json_text import read_object
from caldarium.words.faults import error_text, fault_text
from caldarium.words.units import Display

METRIC = Display()


def write_course(course: Course) -> str:
    """The course as a JSON document; floats are written so that they read back exactly."""
    return json.dumps(course.model_dump(mode="json"), ensure_ascii=False, indent=1) + "\n"


def read_course(data: bytes) -> Course:
    """A course from a JSON document.

    Raises:
        FileError: naming line and column for text that is not JSON, and the path of the value
            for JSON that is not a course.
    """
    text, document = read_object(data, FORMAT, "Caldarium course")
    if document.get("version") not in range(1, VERSION + 1):
        raise FileError(f"this application reads versions 1 to {VERSION} of the format", 1, 1)
    try:
        if document["version"] == VERSION:
            return Course.model_validate_json(text)
        return Course.model_validate_json(json.dumps(upgraded(document)))
    except ValidationError as fault:
        raise FileError(describe(fault)) from None
    except (KeyError, TypeError, ValueError, AttributeError, OverflowError) as fault:
        version = document["version"]
        told = fault_text(fault, METRIC) if isinstance(fault, ValueError) else str(fault)
        raise FileError(f"not a whole course of version {version}: {told}", 1, 1) from None


def describe(fault: ValidationError, display: Display = METRIC) -> str:
    """The first few faults of a document, each with the path of its value; a document's figures
    are metric, so that its faults are told in metric units where no others are asked for."""
    told: list[str] = []
    for error in fault.errors()[:3]:
        path = "".join(
            f"[{part}]" if isinstance(part, int) else f".{part}" for part in error["loc"]
        ).lstrip(".")
        told.append(f"{path or 'course'}: {error_text(error, display)}")
    return "; ".join(told)


def course_schema() -> dict[str, Any]:
    """JSON Schema of the course document."""
    schema = Course.model_json_schema()
    return {"$schema": "https://json-schema.org/draft/2020-12/schema"} | schema
