"""Writes docs/course.schema.json from the models."""

import json
from pathlib import Path

from caldarium.formats.course_json import course_schema

TARGET = Path(__file__).parent.parent / "docs" / "course.schema.json"
TARGET.write_text(json.dumps(course_schema(), indent=1, ensure_ascii=False) + "\n", "utf-8")
