"""Writes the schemas in docs/ from the models."""

import json
from pathlib import Path

from caldarium.formats.course_json import course_schema
from caldarium.formats.forecast_json import forecast_schema
from caldarium.formats.gear_list_json import gear_list_schema

DOCS = Path(__file__).parent.parent / "docs"
SCHEMAS = {
    "course": course_schema(),
    "forecast": forecast_schema(),
    "list": gear_list_schema(),
}
for name, schema in SCHEMAS.items():
    text = json.dumps(schema, indent=1, ensure_ascii=False) + "\n"
    (DOCS / f"{name}.schema.json").write_text(text, "utf-8")
