"""Tables in text files: what parts their cells."""

from caldarium.formats.fault import FileError


def delimiter_of(head: str, line: int) -> str:
    """The delimiter of a table, from its header's line.

    Raises:
        FileError: where there is only one column.
    """
    delimiter = max(";\t|,", key=head.count)
    if delimiter not in head:
        raise FileError("one column only: separate them by comma, semicolon or tab", line, 1)
    return delimiter
