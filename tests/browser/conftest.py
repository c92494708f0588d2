"""The real application on a free loopback port, driven by Debian's Chromium without a network."""

import socket
import time
from collections.abc import Iterator
from pathlib import Path
from shutil import copy
from threading import Thread

import pytest
import uvicorn
from fastapi import FastAPI
from playwright.sync_api import Browser, Page, expect, sync_playwright

from caldarium.demo.furnish import furnish
from caldarium.store.database import open_database
from caldarium.web.app import create_app

# A machine that stalls for seconds fails nobody; what never comes still fails.
expect.set_options(timeout=20_000)
ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=ARGUMENTS)
        yield browser
        browser.close()


class Stage:
    """What answers at the address: for every test an application on a database of its own."""

    def __init__(self) -> None:
        self.app: FastAPI | None = None

    async def __call__(self, scope, receive, send) -> None:
        assert self.app is not None, "a test without a page asks for one"
        await self.app(scope, receive, send)


@pytest.fixture(scope="session")
def furnished(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A database as the demo command makes it, to copy."""
    database = tmp_path_factory.mktemp("browser") / "demo.sqlite"
    engine = open_database(database)
    furnish(engine)
    engine.dispose()
    return database


@pytest.fixture(scope="session")
def stage() -> Iterator[tuple[Stage, str]]:
    stage = Stage()
    with socket.socket() as held:
        held.bind(("127.0.0.1", 0))
        config = uvicorn.Config(stage, lifespan="off", log_level="warning")
        server = uvicorn.Server(config)
        thread = Thread(target=server.run, kwargs={"sockets": [held]}, daemon=True)
        thread.start()
        while not server.started:
            time.sleep(0.02)
        yield stage, f"http://127.0.0.1:{held.getsockname()[1]}"
        server.should_exit = True
        thread.join(10)


@pytest.fixture
def server(stage: tuple[Stage, str], furnished: Path, tmp_path: Path) -> Iterator[str]:
    """The address of an application on a fresh demo course and store."""
    database = tmp_path / "demo.sqlite"
    copy(furnished, database)
    app = create_app(database)
    stage[0].app = app
    yield stage[1]
    app.state.engine.dispose()


class Watched:
    """A page, and whatever went wrong on it."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.faults: list[str] = []
        page.on("console", lambda m: self.faults.append(m.text) if m.type == "error" else None)
        page.on("pageerror", lambda fault: self.faults.append(str(fault)))
        page.on("request", self._local_only)

    def _local_only(self, request) -> None:
        if not request.url.startswith(("http://127.0.0.1:", "data:", "blob:")):
            self.faults.append(f"left the machine: {request.url}")


def _expected(fault: str) -> bool:
    """What a test brings about on purpose: a clash, or a server that is away."""
    told = ("409", "ERR_FAILED", "ERR_INTERNET_DISCONNECTED", "sendError", "afterRequest")
    return any(each in fault for each in told)


@pytest.fixture(params=[(1280, 800), (390, 844)], ids=["laptop", "phone"])
def size(request: pytest.FixtureRequest) -> tuple[int, int]:
    return request.param


@pytest.fixture
def page(browser: Browser, server: str, size: tuple[int, int]) -> Iterator[Page]:
    context = browser.new_context(
        viewport={"width": size[0], "height": size[1]}, base_url=server, accept_downloads=True
    )
    watched = Watched(context.new_page())
    yield watched.page
    expected = getattr(watched.page, "faults_allowed", 0)
    told = [each for each in watched.faults if not (expected and _expected(each))]
    assert told == []
    context.close()
