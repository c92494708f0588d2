"""What is said of a file or a figure that cannot be taken."""


class FileError(ValueError):
    """A file that is not taken, with the place of the fault; nothing has been changed.

    Args:
        message: what is wrong and what would be right.
        line, column: from 1, where they are known.
    """

    def __init__(self, message: str, line: int | None = None, column: int | None = None) -> None:
        self.line, self.column = line, column
        place = ""
        if line is not None:
            place = f"line {line}, column {column or 1}: "
        super().__init__(place + message)


def decode(data: bytes, encoding: str = "utf-8") -> str:
    """Text of a file, without a byte-order mark.

    Raises:
        FileError: naming line and column of the first byte that is not in the encoding.
    """
    try:
        return data.decode(encoding).removeprefix("\ufeff")
    except UnicodeDecodeError as fault:
        before = data[: fault.start]
        line = before.count(b"\n") + 1
        column = fault.start - (before.rfind(b"\n") + 1) + 1
        name = encoding.upper()
        raise FileError(f"not {name} text; save the file as {name}", line, column) from None
