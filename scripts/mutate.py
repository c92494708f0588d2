"""Changes one constant or one sign at a time in a copy, and asks whether a test turns red.

`make mutate` runs all of tests/mutations.toml: first the checks against the outside and the
properties, then, for what they let pass, recorded days and nights. With names only those are run.
"""

import shutil
import subprocess
import sys
import tempfile
import tomllib
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from queue import SimpleQueue

ROOT = Path(__file__).resolve().parent.parent
LIST = ROOT / "tests" / "mutations.toml"
OUTSIDE = (
    "tests/oracles",
    "tests/core/physics",
    "tests/core/test_common_practice.py",
    "tests/core/test_properties.py",
    "tests/core/day/test_keeping_up.py",
    "tests/core/day/test_wetness.py",
    "tests/core/day/test_halt_events.py",
    "tests/core/day/test_dry_chances.py",
    "tests/core/timeline/test_held.py",
)
RECORDED = ("tests/core/day/test_recorded_days.py",)
BY_NIGHT = ("core/night/", "core/physics/bed.py", "core/physics/shelter.py", "core/physics/sky.py")
"""Where what is changed is of the night."""
OUTSIDE_BY_NIGHT = (
    "tests/oracles/test_bed_pairs.py",
    "tests/oracles/test_night_heat.py",
    "tests/oracles/test_sky_and_heat.py",
    "tests/oracles/test_wind_charts.py",
    "tests/core/night/test_common_nights.py",
    "tests/core/night/test_by_night.py",
    "tests/core/night/test_clothes_in_bed.py",
    "tests/core/night/test_nights.py",
    "tests/core/night/test_camp.py",
)
RECORDED_BY_NIGHT = ("tests/core/night/test_recorded_nights.py",)
LONGEST = 600
HANDS = 2


@dataclass(frozen=True)
class Mutation:
    """One text of one module exchanged for another."""

    name: str
    file: str
    find: str
    replace: str

    @property
    def night(self) -> bool:
        """Whether what it changes is of the night."""
        return self.file.startswith(BY_NIGHT)

    @property
    def outside(self) -> tuple[str, ...]:
        """Checks against the outside, and properties."""
        return OUTSIDE_BY_NIGHT if self.night else OUTSIDE

    @property
    def recorded(self) -> tuple[str, ...]:
        """Recorded figures."""
        return RECORDED_BY_NIGHT if self.night else RECORDED


def mutations() -> list[Mutation]:
    """All of the list."""
    rows = tomllib.loads(LIST.read_text())["mutation"]
    return [
        Mutation(name, *(row[key] for key in ("file", "find", "replace")))
        for name, row in rows.items()
    ]


def copy_of_all(folder: Path) -> Path:
    """The package, its tests and its settings in another folder."""
    for name in ("caldarium", "tests", "docs"):
        shutil.copytree(ROOT / name, folder / name, ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copy(ROOT / "pyproject.toml", folder)
    return folder


def turns_red(folder: Path, mutation: Mutation, tests: tuple[str, ...]) -> bool:
    """Whether one of the tests fails where the text is exchanged."""
    path = folder / "caldarium" / mutation.file
    before = path.read_text()
    if before.count(mutation.find) != 1:
        raise ValueError(f"{mutation.name}: stands {before.count(mutation.find)} times")
    path.write_text(before.replace(mutation.find, mutation.replace))
    try:
        run = subprocess.run(
            [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", *tests],
            cwd=folder,
            capture_output=True,
            timeout=LONGEST,
            check=False,
        )
    except subprocess.TimeoutExpired:
        return True
    finally:
        path.write_text(before)
    return run.returncode != 0


def main(names: list[str]) -> int:
    """Run the list, or some of it, and tell what was noticed and by what."""
    asked = [each for each in mutations() if not names or each.name in names]
    folders: SimpleQueue[Path] = SimpleQueue()
    found: dict[str, str] = {}
    with tempfile.TemporaryDirectory() as temporary:
        for hand in range(HANDS):
            folders.put(copy_of_all(Path(temporary) / str(hand)))

        def judged(mutation: Mutation) -> None:
            folder = folders.get()
            try:
                word = "lives"
                if turns_red(folder, mutation, mutation.outside):
                    word = "outside"
                elif turns_red(folder, mutation, mutation.recorded):
                    word = "recorded"
                found[mutation.name] = word
                print(f"{word:9} {mutation.name}", flush=True)
            finally:
                folders.put(folder)

        with ThreadPoolExecutor(HANDS) as hands:
            list(hands.map(judged, asked))
    noticed = sum(word != "lives" for word in found.values())
    outside = sum(word == "outside" for word in found.values())
    print(
        f"{noticed} of {len(found)} noticed ({noticed / len(found):.0%}), "
        f"{outside} of them without recorded figures"
    )
    return 0 if noticed >= 0.95 * len(found) else 1


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
