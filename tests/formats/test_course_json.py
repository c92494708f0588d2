"""The course document: out and in to the last digit, its schema, and files that are refused."""

import json
from pathlib import Path

import jsonschema
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from caldarium.core.assess import assess
from caldarium.formats.assessment_json import assessment_document
from caldarium.formats.course_json import course_schema, read_course, write_course
from caldarium.formats.fault import FileError

DOCS = Path(__file__).parents[2] / "docs"


def test_there_and_back_gives_the_same_assessment_to_the_last_digit(demo) -> None:
    odd = demo.model_copy(update={"start_altitude_m": 280.1 + 0.2})
    again = read_course(write_course(odd).encode())
    assert again == odd
    one, two = (json.dumps(assessment_document(c, assess(c))) for c in (odd, again))
    assert one == two


def test_schema_in_docs_is_the_models_own() -> None:
    shipped = json.loads((DOCS / "course.schema.json").read_text("utf-8"))
    assert shipped == course_schema()


def test_demo_document_fits_the_schema(demo) -> None:
    validator = jsonschema.Draft202012Validator(course_schema())
    document = json.loads(write_course(demo))
    assert list(validator.iter_errors(document)) == []
    document["lapse_k_per_km"] = "steep"
    assert list(validator.iter_errors(document))


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"{", "line 1, column 2"),
        (b"\xff{}", "not UTF-8"),
        (b"[]", "not a Caldarium course"),
        (b'{"format": "caldarium-course", "version": 7}', "versions 1 to 2"),
        (b'{"format": "caldarium-course", "version": 1}', "start_altitude_m"),
        (b"[" * 100_000, "line 1"),
    ],
)
def test_refused(data: bytes, words: str) -> None:
    with pytest.raises(FileError, match=words):
        read_course(data)


def test_fault_names_the_path_of_the_value(demo) -> None:
    document = json.loads(write_course(demo))
    document["people"][3]["garments"][2]["mass_g"] = -4
    with pytest.raises(FileError, match=r"people\[3\]\.garments\[2\]\.mass_g"):
        read_course(json.dumps(document).encode())


@settings(max_examples=80, deadline=None)
@given(st.binary(max_size=400))
def test_noise_is_refused_with_a_message(data: bytes) -> None:
    with pytest.raises(FileError):
        read_course(data)
