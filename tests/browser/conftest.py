"""The real application on a free loopback port, driven by Debian's Chromium without a network."""

import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect, sync_playwright

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


@pytest.fixture(scope="module")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    database: Path = tmp_path_factory.mktemp("browser") / "demo.sqlite"
    command = [
        sys.executable,
        "-c",
        "from caldarium.cli import main; main()",
        "demo",
        "--database",
        str(database),
        "--port",
        str(port),
    ]
    with subprocess.Popen(command, stdout=subprocess.DEVNULL) as process:
        address = f"http://127.0.0.1:{port}"
        for _ in range(300):
            try:
                urllib.request.urlopen(address, timeout=2)
                break
            except OSError:
                time.sleep(0.2)
        yield address
        process.terminate()


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
    return any(each in fault for each in ("409", "ERR_FAILED", "sendError", "afterRequest"))


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
