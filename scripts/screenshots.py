"""Takes the pictures of docs/screenshots from a running demo: python scripts/screenshots.py URL."""

import sys
from pathlib import Path

from playwright.sync_api import sync_playwright

TARGET = Path(__file__).parent.parent / "docs" / "screenshots"
VIEWS = {
    "courses": ("/", (1280, 800), False),
    "overview": ("/courses/1", (1280, 960), False),
    "overview-phone": ("/courses/1", (390, 844), False),
    "bench": ("/courses/1/day?person=mirel&moment=3.north-top.halt", (1280, 800), True),
    "bench-phone": ("/courses/1/day?person=mirel&moment=3.north-top.halt", (390, 844), False),
    "new-course": ("/courses/new", (1280, 1000), False),
    "person": ("/courses/1/people/mirel", (1280, 800), False),
    "route": ("/courses/1/route?person=mirel&moment=3.north-top.halt", (1280, 800), True),
    "story": ("/courses/1/story?person=ossi&moment=3.north-top.halt", (1280, 800), False),
    "night": ("/courses/1/night?person=mirel&night=2", (1280, 800), True),
    "shelter": ("/courses/1/shelter?night=2", (1280, 800), True),
    "load": ("/courses/1/load?person=mirel", (1280, 800), True),
    "food": ("/courses/1/food?person=runa", (1280, 800), True),
    "store": ("/store?course=1&person=mirel&q=bag", (1280, 800), False),
    "pack": ("/courses/1/pack?person=runa&day=1", (1280, 800), True),
    "check": ("/courses/1/check", (1280, 800), True),
    "log": ("/courses/1/log", (1280, 800), True),
    "debrief": ("/courses/1/debrief", (1280, 800), True),
    "lighten": ("/courses/1/lighten/caution?person=tavi&sources=own%2Cstore", (1280, 800), True),
}

TYPED = {
    "place": "Veldra lake",
    "where": "63°24'N 14°36'E",
    "start_altitude": "500 m",
    "d0.high_c": "minus 17",
    "d0.low_c": "-26",
    "d0.top_m": "540",
    "d1.top_m": "840",
    "d1.camp_m": "790",
    "p0.name": "Aune Brask",
    "p0.kit": "expedition",
    "p1.name": "Tor Valde",
}
"""What the picture of a new course shows typed."""

with sync_playwright() as playwright:
    browser = playwright.chromium.launch(
        executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"]
    )
    base = sys.argv[1].rstrip("/")
    context = browser.new_context()
    for course in ("deep-winter", "high-plateau", "hot-canyon"):
        context.request.post(f"{base}/courses/demo", form={"name": course})
    context.close()
    for name, (path, (width, height), full) in VIEWS.items():
        page = browser.new_page(viewport={"width": width, "height": height})
        page.goto(base + path)
        if path == "/courses/1":
            page.wait_for_selector(".next-card")
        if name == "new-course":
            for field, text in TYPED.items():
                page.locator(f'[id="{field}"]').fill(text)
        if name == "lighten":
            page.get_by_role("button", name="Look at every step").click()
            page.wait_for_selector("svg.stair", timeout=240_000)
        page.wait_for_timeout(900)
        page.screenshot(path=TARGET / f"{name}.png", full_page=full)
    browser.close()
