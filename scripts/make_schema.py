"""Writes the schemas in docs/ from the models."""

import json
from pathlib import Path

from caldarium.formats.course_json import course_schema
from caldarium.formats.forecast_json import forecast_schema

DOCS = Path(__file__).parent.parent / "docs"
for name, schema in (("course", course_schema()), ("forecast", forecast_schema())):
    text = json.dumps(schema, indent=1, ensure_ascii=False) + "\n"
    (DOCS / f"{name}.schema.json").write_text(text, "utf-8")
