"""Takes the pictures of docs/screenshots from a running demo: python scripts/screenshots.py URL."""

import sys
from pathlib import Path

from playwright.sync_api import sync_playwright

TARGET = Path(__file__).parent.parent / "docs" / "screenshots"
VIEWS = {
    "bench": ("/courses/1?person=mirel&moment=3.north-top.halt", (1280, 800), True),
    "bench-phone": ("/courses/1?person=mirel&moment=3.north-top.halt", (390, 844), False),
    "new-course": ("/courses/new", (1280, 800), False),
    "person": ("/courses/1/people/mirel", (1280, 800), False),
    "route": ("/courses/1/route?person=mirel&moment=3.north-top.halt", (1280, 800), True),
    "route-day": (
        "/courses/1/route?person=mirel&moment=3.north-top.halt&zoom=day",
        (1280, 800),
        False,
    ),
    "route-phone": ("/courses/1/route?person=mirel&moment=3.north-top.halt", (390, 844), False),
    "story": ("/courses/1/story?person=ossi&moment=3.north-top.halt", (1280, 800), False),
    "night": ("/courses/1/night?person=mirel&night=2", (1280, 800), True),
    "shelter": ("/courses/1/shelter?night=2", (1280, 800), True),
    "outfits": (
        "/courses/1/outfits?a_person=runa&a_moment=3.north-top.halt"
        "&b_person=wren&b_moment=3.north-top.halt",
        (1280, 800),
        True,
    ),
    "load": ("/courses/1/load?person=mirel", (1280, 800), True),
    "lists": (
        "/courses/1/lists?person=mirel&out=light-synthetic-jacket&beside=1.wren",
        (1280, 800),
        True,
    ),
    "store": ("/store?course=1&person=mirel&q=bag", (1280, 800), False),
    "weigh": ("/weigh?tag=B-90", (1280, 800), False),
    "group": ("/courses/1/group", (1280, 800), True),
    "climate": ("/courses/1/climate", (1280, 800), False),
    "backup": ("/backup", (1280, 400), False),
}

with sync_playwright() as playwright:
    browser = playwright.chromium.launch(
        executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"]
    )
    for name, (path, (width, height), full) in VIEWS.items():
        page = browser.new_page(viewport={"width": width, "height": height})
        page.goto(sys.argv[1].rstrip("/") + path)
        page.wait_for_timeout(600)
        page.screenshot(path=TARGET / f"{name}.png", full_page=full)
    browser.close()
