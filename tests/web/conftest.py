"""A client on a fresh database with the demo course as number 1."""

from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from caldarium.demo import demo_course
from caldarium.web.app import create_app


@pytest.fixture
def client(tmp_path: Path) -> TestClient:
    app = create_app(tmp_path / "test.sqlite")
    app.state.courses.add(demo_course(), "the demo course")
    return TestClient(app, base_url="http://127.0.0.1")


@pytest.fixture
def courses(client: TestClient):
    return client.app.state.courses
