"""Addresses, made in one place."""

from urllib.parse import quote, urlencode


def with_query(path: str, **query: object) -> str:
    """A path with what of the query is not empty."""
    told = {name: value for name, value in query.items() if value not in ("", None)}
    return f"{path}?{urlencode(told, doseq=True)}" if told else path


def open_query(address: str) -> str:
    """An address to which one more part of a query can be put."""
    return address + ("&" if "?" in address else "?")


def course_url(number: int, step: str = "", **query: object) -> str:
    """A page of a course: its overview, or the step named, such as "night" or "people/ossi"."""
    path = f"/courses/{number}" + (f"/{quote(step)}" if step else "")
    return with_query(path, **query)


def store_url(page: str = "", **query: object) -> str:
    """The store, or a page of it, such as "piece" or "import"."""
    return with_query("/store" + (f"/{page}" if page else ""), **query)


def back_to(address: str, otherwise: str) -> str:
    """An address of this application that a form names as the page it stands on.

    Only paths of our own are taken; anything else leads to the page given.
    """
    ours = address.startswith("/") and not address.startswith(("//", "/\\"))
    plain = all(32 < ord(letter) < 127 and letter != "\\" for letter in address)
    return address if ours and plain and len(address) < 2000 else otherwise
