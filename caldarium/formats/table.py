"""Tables in text files: what parts their cells."""

from caldarium.formats.fault import FileError
from caldarium.formats.size import MOST_COLUMNS


def delimiter_of(head: str, line: int) -> str:
    """The delimiter of a table, from its header's line.

    Raises:
        FileError: where there is only one column.
    """
    delimiter = max(";\t|,", key=head.count)
    if head.count(delimiter) > MOST_COLUMNS:
        raise FileError(f"more than {MOST_COLUMNS} columns", line, 1)
    if delimiter not in head:
        raise FileError("one column only: separate them by comma, semicolon or tab", line, 1)
    return delimiter
