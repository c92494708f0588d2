"""`caldarium lighten` prints one JSON document with its fixed keys."""

import json
import subprocess
import sys
from pathlib import Path

DEMO = Path(__file__).parents[2] / "caldarium" / "demo" / "hot-canyon.json"


def run(*arguments: str) -> subprocess.CompletedProcess:
    main = "from caldarium.cli import main; main()"
    command = [sys.executable, "-c", main, "lighten", *arguments]
    return subprocess.run(command, capture_output=True, text=True, check=False, timeout=120)


def test_one_persons_set_is_printed_proven_with_reasons() -> None:
    found = run(str(DEMO), "--person", "boden", "--sources", "own,buy", "--steps", "2")
    assert found.returncode == 0, found.stderr
    (person,) = json.loads(found.stdout)["people"]
    assert person["proven"]
    assert person["bound"] <= person["grams"] < person["grams_before"]
    assert {each["id"] for each in person["why"]} == set(person["chosen"])
    assert len(person["frontier"]) >= 2
    assert [each["grams"] for each in person["frontier"]] == sorted(
        each["grams"] for each in person["frontier"]
    )


def test_one_persons_steps_of_caution_are_printed_unless_none_are_asked_for() -> None:
    arguments = (str(DEMO), "--person", "boden", "--objective", "changes", "--seconds", "7")
    documents = [json.loads(run(*arguments, *more).stdout) for more in ((), ("--steps", "0"))]
    with_steps, without = (each["people"][0] for each in documents)
    assert with_steps["chosen"] == without["chosen"]
    grams = [each["grams"] for each in with_steps["frontier"]]
    assert len(grams) > 2
    assert grams == sorted(grams)
    assert without["frontier"] == []
    assert without["milder"] == []


def test_the_groups_kit_is_printed_with_everybody() -> None:
    found = run(str(DEMO), "--sources", "own,buy", "--seconds", "0.1")
    assert found.returncode == 0, found.stderr
    document = json.loads(found.stdout)
    assert len(document["people"]) == 4
    group = document["group"]
    assert group["proven"]
    assert {each["id"] for each in group["pieces"] if not each["new"]} == {
        each["id"] for each in json.loads(DEMO.read_text())["group"]
    }
    assert group["grams"] == sum(each["grams"] for each in group["pieces"])


def test_what_is_not_there_is_said_in_one_line() -> None:
    for arguments in (
        ("--person", "nobody"),
        ("--sources", "shop"),
        ("--objective", "beauty"),
        ("--caution", "reckless"),
        ("--database", "nowhere.sqlite"),
    ):
        found = run(str(DEMO), *arguments)
        assert found.returncode == 2
        assert found.stderr.count("\n") == 1
