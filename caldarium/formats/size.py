"""What of a file is counted before any of it is parsed: sizes that no file of its kind has."""

from caldarium.formats.fault import FileError

MOST_LINES, LONGEST_LINE = 60_000, 20_000
"""Lines of a table and bytes of each: a store of 50,000 pieces has fewer, a year of hours 8,760."""
LONGEST_HEADER, MOST_COLUMNS = 80, 300
LARGEST_JSON, MOST_OPENED, MOST_PARTED = 24_000_000, 200_000, 2_500_000
"""Bytes, brackets and commas of a document: 40 people with 12 ensembles of 60 runs have fewer."""
DEEPEST = 60
"""How deeply anything may be nested."""


def refuse_table(data: bytes, most: int = MOST_LINES) -> None:
    """Refuse a table with too many or too long lines.

    Raises:
        FileError: naming the line.
    """
    if data.count(b"\n") > most:
        raise FileError(f"more than {most:,} lines", most, 1)
    begin, line = 0, 1
    while begin < len(data):
        end = data.find(b"\n", begin)
        end = len(data) if end < 0 else end
        if end - begin > LONGEST_LINE:
            raise FileError(f"a line of more than {LONGEST_LINE:,} bytes", line, 1)
        begin, line = end + 1, line + 1


def refuse_json(data: bytes) -> None:
    """Refuse a document larger, or with more parts, than any of ours can be.

    Raises:
        FileError: in words.
    """
    if len(data) > LARGEST_JSON:
        raise FileError(f"larger than {LARGEST_JSON // 1_000_000} MB", 1, 1)
    opened = data.count(b"{") + data.count(b"[")
    if opened > MOST_OPENED or data.count(b",") > MOST_PARTED:
        raise FileError("more parts than such a document can have", 1, 1)


def header_text(cell: str, line: int, column: int) -> str:
    """A header's text with single spaces, as an expression can read it.

    Raises:
        FileError: where it is too long to be one.
    """
    if len(cell) > LONGEST_HEADER:
        told = f"“{cell.strip()[:30]}…” is too long for a header"
        raise FileError(told, line, column)
    return " ".join(cell.split())
