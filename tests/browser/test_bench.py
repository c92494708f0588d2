"""The bench as its user works on it, with the mouse and with the keys alone."""

import json
import re
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from tests.formats.test_climate_files import ISLAND

HALT = "/courses/1/day?person=mirel&moment=3.north-top.halt"


def strip(page: Page):
    return page.locator("svg.strip:visible")


def test_one_screen_draws_the_course(page: Page) -> None:
    page.goto("/")
    page.get_by_role("link", name="Skarn fell, autumn course", exact=True).click()
    page.locator("#work-bar a", has_text="Day").click()
    drawn = strip(page)
    expect(drawn).to_be_visible()
    expect(drawn.locator(".row")).to_have_count(10)
    page.wait_for_load_state()
    for part in ("path.air", "path.forecast", "line.wind", ".profile"):
        assert drawn.locator(part).count() >= 1, part
    assert drawn.locator(".cell.gap").count() >= 1
    assert drawn.locator(".notch").count() == drawn.locator(".cell.gap").count()
    expect(page.locator(".outfit svg .need")).to_be_visible()
    expect(page.get_by_text(re.compile(r"\d+ W up"))).to_be_visible()
    expect(page.get_by_text(re.compile(r"kg with them setting out"))).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= page.viewport_size["width"]


def test_pointer_picks_a_person_and_moment(page: Page) -> None:
    page.goto(HALT)
    cell = strip(page).locator('.pick[data-person="dag"][data-moment="3.camp"]')
    cell.scroll_into_view_if_needed()
    cell.click()
    expect(page.locator("#outfit-title")).to_contain_text("Dag Holm")
    expect(page.locator("#outfit-title")).to_contain_text("camp")
    assert "moment=3.camp" in page.url


@pytest.mark.parametrize(
    ("field", "text"),
    [
        ("high_c", "60F"),
        ("low_c", "-6"),
        ("wind_ms", "40 km/h"),
        ("precipitation_mm", "30"),
        ("end_altitude_m", "1600"),
    ],
)
def test_a_condition_answers_at_once_and_is_undone(page: Page, field: str, text: str) -> None:
    page.goto(HALT)
    page.evaluate("window.sameDocument = true")
    before = strip(page).inner_html()
    summary = page.locator(".summary").inner_text()
    page.locator(f"#f-{field}").fill(text)
    page.keyboard.press("Tab")
    expect(page.locator(".summary")).not_to_have_text(summary)
    assert strip(page).inner_html() != before
    expect(page.locator(f"#f-{field}")).to_have_value(re.compile(re.escape(text)))
    page.locator("#undo").click()
    expect(page.locator(".summary")).not_to_contain_text(text)
    expect(page.locator(f"#f-{field}")).not_to_have_value(re.compile(re.escape(text)))
    assert strip(page).inner_html() == before
    assert page.evaluate("window.sameDocument") is True


def test_swaps_answer_at_once(page: Page) -> None:
    page.goto(HALT)
    page.evaluate("window.sameDocument = true")
    bed = page.locator(".bed-panel .verdict").first
    load = page.locator(".load-panel .verdict").first
    outfit = page.locator(".outfit .verdict").first
    for choose, changed in (
        (lambda: page.select_option("#bag", "bag-minus-14"), bed),
        (lambda: page.select_option("#pad_2", "foam-pad"), bed),
        (lambda: page.select_option("#shelter", "dome"), load),
    ):
        old = changed.inner_text()
        choose()
        expect(changed).not_to_have_text(old)
    old = outfit.inner_text()
    page.select_option("#swap_out", "light-synthetic-jacket")
    page.select_option("#swap_in", "big-down-jacket")
    page.locator("#swap").click()
    expect(outfit).not_to_have_text(old)
    expect(page.locator("#piece-big-down-jacket")).to_be_visible()
    for _ in range(4):
        revision = page.locator("#undo").get_attribute("title")
        page.locator("#undo").click()
        expect(page.locator("#undo")).not_to_have_attribute("title", revision or "")
    expect(outfit).to_have_text(old)
    assert page.evaluate("window.sameDocument") is True


def test_bad_value_is_told_at_the_field_and_kept(page: Page) -> None:
    page.goto(HALT)
    page.locator("#f-low_c").fill("warm")
    page.keyboard.press("Tab")
    expect(page.locator("#e-low_c")).to_contain_text("is not a number")
    expect(page.locator("#f-low_c")).to_have_value("warm")
    expect(page.locator("#f-wind_ms")).to_be_focused()
    page.locator("#f-wind_ms").fill("9")
    page.keyboard.press("Tab")
    expect(page.locator(".summary")).to_contain_text("wind, as forecast 9")
    expect(page.locator("#f-low_c")).to_have_value("warm")
    page.locator("#undo").click()
    expect(page.locator("#f-wind_ms")).to_have_value("7 m/s")


def test_keys_alone(page: Page) -> None:
    page.goto(HALT)
    heading = page.locator("#outfit-title")
    page.keyboard.press("ArrowDown")
    expect(heading).to_contain_text("Jonna Reed")
    page.keyboard.press("ArrowRight")
    expect(heading).to_contain_text("moving")
    page.keyboard.press("ArrowUp")
    expect(heading).to_contain_text("Mirel Kost")
    page.keyboard.press("ArrowLeft")
    expect(heading).to_contain_text("halt")
    page.keyboard.press("n")
    expect(heading).not_to_contain_text("10:21")
    page.keyboard.press("p")
    expect(heading).to_contain_text("Mirel Kost, Wed 10:21, halt")
    piece = page.locator(".piece").nth(1)
    was = piece.get_attribute("aria-pressed")
    page.keyboard.press("2")
    expect(piece).not_to_have_attribute("aria-pressed", was or "")
    page.keyboard.press("u")
    expect(piece).to_have_attribute("aria-pressed", was or "")
    page.keyboard.press("c")
    expect(page.locator("#f-high_c")).to_be_focused()
    page.keyboard.press("Control+a")
    page.keyboard.type("13")
    page.keyboard.press("Enter")
    expect(page.locator(".summary")).to_contain_text("high 13")
    expect(page.locator("#f-high_c")).to_be_focused()
    page.locator("h1").click()
    page.keyboard.press("u")
    expect(page.locator("#f-high_c")).to_have_value("8 °C")
    page.keyboard.press("?")
    expect(page.locator("#keys")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.locator("#keys")).to_be_hidden()


def test_opened_panels_and_scroll_stay_through_an_edit(page: Page) -> None:
    page.goto(HALT)
    page.locator(".outfit .how[id^='how'] summary").click()
    expect(page.get_by_text("heat balance at 33.34").first).to_be_visible()
    page.locator("#f-humidity_pct").scroll_into_view_if_needed()
    # What is looked at stays where it is, also where a line above it gets longer.
    seen = page.locator("#f-humidity_pct").bounding_box()
    assert seen is not None
    page.locator("#f-humidity_pct").fill("60")
    page.keyboard.press("Tab")
    expect(page.locator(".summary")).to_contain_text("humidity 60")
    expect(page.get_by_text("heat balance at 33.34").first).to_be_visible()
    after = page.locator("#f-humidity_pct").bounding_box()
    assert after is not None
    assert abs(after["y"] - seen["y"]) < 5
    page.locator("#undo").click()
    expect(page.locator("#f-humidity_pct")).to_have_value("92 %")
    # What was put together from answers is what the page is when it is opened.
    parts = "() => [...document.querySelectorAll('g[data-part]')].map((e) => e.outerHTML)"
    together = page.evaluate(parts)
    assert len(together) > 10
    page.reload()
    assert page.evaluate(parts) == together


@pytest.mark.parametrize(
    "path",
    [
        "/",
        "/courses/1",
        HALT,
        "/courses/1/day?person=pell&moment=2.night",
        "/courses/new",
        "/courses/1/copy",
        "/courses/1/people/mirel",
        "/courses/1/climate",
        "/courses/1/route",
        "/courses/1/route?moment=3.north-top.halt&zoom=day",
        "/courses/1/sources",
        "/courses/1/gpx",
        "/courses/1/compare",
        "/courses/1/chances",
        "/courses/1/load/matters",
        "/courses/1/group",
        "/courses/1/outfits",
        "/courses/1/night?person=mirel",
        "/courses/1/shelter",
        "/courses/1/story?person=ossi&moment=3.north-top.halt",
        "/store?course=1&person=mirel",
        "/store/piece?tag=B-90",
        "/store/import",
        "/weigh?tag=B-90",
        "/courses/1/load?person=mirel",
        "/courses/1/lists?person=mirel&out=light-synthetic-jacket&edit=bottles",
        "/courses/1/food?person=runa",
        "/courses/1/air?person=runa",
        "/store/labels?q=bag",
        "/courses/1/lighten?person=runa",
        "/courses/1/lighten/party",
        "/courses/1/lighten/caution",
    ],
)
def test_axe_finds_nothing(page: Page, path: str, size, server: str) -> None:
    tags = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]
    whole = {"runOnly": {"type": "tag", "values": tags}}
    # Light changes colours only, and they are the same at every width.
    contrast = {"runOnly": {"type": "rule", "values": ["color-contrast"]}}
    lights = {"day": whole, "low": contrast} if size[0] > 1000 else {"day": whole}
    for light, rules in lights.items():
        page.context.add_cookies([{"name": "light", "value": light, "url": server}])
        page.goto(path)
        page.evaluate("document.querySelectorAll('details').forEach(d => d.open = true)")
        options = rules | {"resultTypes": ["violations"]}
        found = Axe().run(page, options=options).response["violations"]
        told = [(v["id"], [n["html"][:140] for n in v["nodes"][:4]]) for v in found]
        assert told == [], light


def test_export_and_import_give_the_same_screen(page: Page, tmp_path: Path) -> None:
    page.goto(HALT)
    first = strip(page).inner_html()
    page.goto("/courses/1")
    with page.expect_download() as download:
        page.get_by_role("link", name="Export").click()
    file = tmp_path / "course.json"
    download.value.save_as(file)
    assert json.loads(file.read_text("utf-8"))["format"] == "caldarium-course"
    page.goto("/")
    page.set_input_files("#file", file)
    page.get_by_role("button", name="Import").click()
    expect(page.locator("h1")).to_have_text("Skarn fell, autumn course")
    page.goto(page.url.partition("?")[0] + "/day?person=mirel&moment=3.north-top.halt")
    assert strip(page).inner_html() == first
    page.goto("/")
    page.set_input_files("#file", {"name": "bad.json", "mimeType": "text/plain", "buffer": b"{1"})
    page.get_by_role("button", name="Import").click()
    expect(page.get_by_role("alert")).to_contain_text("bad.json was not taken. line 1, column 2")


def test_climate_file_looked_at_taken_and_undone(page: Page) -> None:
    page.goto("/courses/1/climate")
    page.set_input_files("#file", ISLAND)
    page.get_by_role("button", name="Look").click()
    expect(page.locator(".plan-table")).to_be_visible()
    expect(page.get_by_text("median, 10 m/s cautious (90th)")).to_be_visible()
    page.get_by_role("button", name="Take for this course").click()
    expect(page.locator(".sources").last).to_contain_text("TMY3, Sand Point")
    page.locator("#undo").click()
    expect(page.locator(".sources").last).to_contain_text("typed by hand")
    page.goto("/courses/1/climate")
    cut = {"name": "cut.csv", "mimeType": "text/csv", "buffer": ISLAND.read_bytes()[:100_000]}
    page.set_input_files("#file", cut)
    page.get_by_role("button", name="Look").click()
    expect(page.get_by_role("alert")).to_contain_text(re.compile(r"cut.csv: line \d+, column \d+"))


def test_units_switch_everywhere(page: Page) -> None:
    page.goto(HALT)
    page.get_by_role("button", name="°C kg m").click()
    expect(page.locator("#f-low_c")).to_have_value("39.2 °F")
    expect(page.locator(".load-panel .verdict").first).to_contain_text("lb with them setting out")
    page.get_by_role("button", name="°F lb ft").click()
    expect(page.locator("#f-low_c")).to_have_value("4 °C")
