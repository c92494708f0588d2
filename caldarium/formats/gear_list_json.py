"""The open format of lists of gear: one JSON file, validated whole or refused whole."""

import json
from typing import Any

from pydantic import ValidationError

from caldarium.core.plan.gear_list import LIST_FORMAT, LIST_VERSION, GearList
from caldarium.formats.course_json import describe
from caldarium.formats.fault import FileError
from caldarium.formats.json_text import read_object


def write_gear_list(listed: GearList) -> str:
    """A list as a JSON document; what is as by default is left out."""
    told = {"format": LIST_FORMAT, "version": LIST_VERSION}
    told |= listed.model_dump(mode="json", exclude_defaults=True)
    return json.dumps(told, ensure_ascii=False, indent=1) + "\n"


def read_gear_list(data: bytes) -> GearList:
    """A list from a JSON document.

    Raises:
        FileError: naming line and column for text that is not JSON, and the path of the value
            for JSON that is not a list.
    """
    text, document = read_object(data, LIST_FORMAT, "Caldarium list")
    if document.get("version") != LIST_VERSION:
        raise FileError(f"this application reads version {LIST_VERSION} of the format", 1, 1)
    try:
        return GearList.model_validate_json(text)
    except ValidationError as fault:
        raise FileError(describe(fault)) from None


def gear_list_schema() -> dict[str, Any]:
    """JSON Schema of the list document."""
    schema = GearList.model_json_schema()
    return {"$schema": "https://json-schema.org/draft/2020-12/schema"} | schema
