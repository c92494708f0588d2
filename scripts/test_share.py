"""Prints the share of test lines among all lines of Python."""

from pathlib import Path

ROOT = Path(__file__).parent.parent


def lines(*rooms: str) -> int:
    """Lines of Python below these directories."""
    files = (file for room in rooms for file in (ROOT / room).rglob("*.py"))
    return sum(len(file.read_text(encoding="utf-8").splitlines()) for file in files)


tests = lines("tests")
everything = tests + lines("caldarium", "scripts", "benchmarks")
print(f"Tests are {tests} of {everything} lines of Python: {tests / everything:.0%}.")
