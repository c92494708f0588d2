"""Some of the changes of `make mutate`, so that a run of the tests knows that they can turn red."""

import importlib.util
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parent.parent
NAMES = (
    "looney-slope",
    "debt",
    "conductivity",
    "finger",
    "countercurrent",
    "skin-takes",
    "roughness",
    "held",
    "drives",
    "capacity",
    "pressed",
    "sky-walls",
    "lying-wind",
    "waking",
)


def _script():
    spec = importlib.util.spec_from_file_location("mutate", ROOT / "scripts" / "mutate.py")
    assert spec is not None
    assert spec.loader is not None
    script = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(script)
    return script


@pytest.fixture(scope="module")
def script():
    return _script()


@pytest.fixture(scope="module")
def folder(script, tmp_path_factory):
    return script.copy_of_all(tmp_path_factory.mktemp("mutated"))


def test_the_list_is_long_and_every_text_stands_once(script) -> None:
    listed = script.mutations()
    assert len(listed) >= 100
    assert sum(each.night for each in listed) >= 40
    assert {each.name for each in listed} >= set(NAMES)
    for each in listed:
        assert (ROOT / "caldarium" / each.file).read_text().count(each.find) == 1, each.name
        assert each.find != each.replace


@pytest.mark.parametrize("name", NAMES)
def test_a_changed_constant_turns_a_test_red(script, folder, name) -> None:
    mutation = next(each for each in script.mutations() if each.name == name)
    assert script.turns_red(folder, mutation, mutation.recorded)
