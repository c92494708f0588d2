"""A client on a fresh database with the demo course as number 1."""

import re
from pathlib import Path

import httpx
import pytest
from fastapi.testclient import TestClient

from caldarium.demo import demo_course
from caldarium.web.app import create_app


class Client(TestClient):
    """A client whose pages read as one line: how a template breaks its lines is nobody's matter."""

    def request(self, *args, **kwargs) -> httpx.Response:
        response = super().request(*args, **kwargs)
        if response.headers.get("content-type", "").startswith("text/html"):
            response._text = re.sub(r"\s+", " ", response.text).replace(" >", ">")
        return response


@pytest.fixture
def client(tmp_path: Path) -> TestClient:
    app = create_app(tmp_path / "test.sqlite")
    app.state.courses.add(demo_course(), "the demo course")
    return Client(app, base_url="http://127.0.0.1")


@pytest.fixture
def courses(client: TestClient):
    return client.app.state.courses
