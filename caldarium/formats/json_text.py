"""Text to a JSON object of a named format, or a fault with line and column."""

import json
from typing import Any

from caldarium.formats.fault import FileError, decode
from caldarium.formats.size import refuse_json


def read_object(data: bytes, format_name: str, what: str) -> tuple[str, dict[str, Any]]:
    """The text of a file and the JSON object in it.

    Args:
        data: the file.
        format_name: what its "format" must be.
        what: the document in words, for the message.

    Raises:
        FileError: for what is not JSON, or not of that format.
    """
    refuse_json(data)
    text = decode(data)
    try:
        document = json.loads(text)
    except RecursionError:
        raise FileError(f"nested too deeply for a {what}", 1, 1) from None
    except json.JSONDecodeError as fault:
        raise FileError(f"not JSON: {fault.msg}", fault.lineno, fault.colno) from None
    except ValueError:
        raise FileError("a number in it has more digits than any figure", 1, 1) from None
    if not isinstance(document, dict) or document.get("format") != format_name:
        raise FileError(f'not a {what}: "format" must be "{format_name}"', 1, 1)
    return text, document
