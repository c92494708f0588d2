"""The store's tests ask pages too: they share the client."""

from tests.web.conftest import client, courses

__all__ = ["client", "courses"]
