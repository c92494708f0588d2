"""Weather and route as its user works on it, with the mouse and with the keys alone."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.formats.test_ways_and_forecasts import CSV, hills

WEDNESDAY = "/courses/1/route?person=mirel&moment=3.north-top.halt"


def strip(page: Page):
    return page.locator("svg.strip:visible")


def test_one_strip_holds_way_weather_and_moments(page: Page) -> None:
    page.goto("/courses/1/day")
    page.get_by_role("link", name="Weather and route").click()
    drawn = strip(page)
    for part in (
        ".profile",
        ".air",
        ".forecast",
        ".doubt",
        ".gust",
        ".dark",
        ".twilight",
        ".leg",
        ".source",
        ".cell",
    ):
        assert drawn.locator(part).count() >= 1, part
    expect(page.locator("#hours-table tbody tr")).to_have_count(24)
    assert page.evaluate("document.documentElement.scrollWidth") <= page.viewport_size["width"]


def test_a_leg_is_typed_stepped_and_undone_in_place(page: Page) -> None:
    page.goto(WEDNESDAY)
    page.evaluate("window.sameDocument = true")
    back = page.locator("#leg-back legend")
    before = back.inner_text()
    page.locator("#f-stone-field-start_h").fill("9:30")
    page.keyboard.press("Tab")
    expect(back).not_to_have_text(before)
    expect(back).to_contain_text("11:41 to")
    page.locator("#later-stone-field").click()
    expect(page.locator("#f-stone-field-start_h")).to_have_value("09:45")
    page.locator("#f-stone-field-hours").fill("soon")
    page.keyboard.press("Enter")
    expect(page.locator("#e-stone-field-hours")).to_contain_text("is not a number")
    expect(page.locator("#f-stone-field-hours")).to_have_value("soon")
    for _ in range(2):
        page.locator("#undo").click()
        expect(page.locator("#redo")).not_to_have_attribute("aria-disabled", "true")
    expect(page.locator("#f-stone-field-start_h")).to_have_value("08:30")
    assert page.evaluate("window.sameDocument") is True


def test_a_leg_is_dragged_on_the_strip(page: Page, size) -> None:
    if size[0] < 500:
        pytest.skip("dragging is the wide screen's way; the phone has the fields and buttons")
    page.goto(WEDNESDAY + "&zoom=day")
    grip = strip(page).locator('.hold-leg[data-leg="stone-field"] .grip')
    box = grip.bounding_box()
    page.mouse.move(box["x"] + 3, box["y"] + 10)
    page.mouse.down()
    page.mouse.move(box["x"] + 60, box["y"] + 10, steps=4)
    page.mouse.up()
    expect(page.locator("#f-stone-field-start_h")).not_to_have_value("08:30")
    expect(page.locator(".told")).to_contain_text("starts elsewhere")
    page.locator("#undo").click()
    expect(page.locator("#f-stone-field-start_h")).to_have_value("08:30")


def test_keys_alone_reach_everything(page: Page, size) -> None:
    page.goto(WEDNESDAY)
    for key, name in (("h", "halt"), ("o", "hold"), ("a", "camp"), ("d", "dawn"), ("m", "moving")):
        page.keyboard.press(key)
        expect(page.locator(".where")).to_contain_text(f", {name}:")
    page.keyboard.press("z")
    expect(page.locator("#zoom")).to_have_text("whole course")
    assert "zoom=day" in page.url
    page.keyboard.press("z")
    expect(page.locator("#zoom")).to_have_text("this day")
    for wanted in ("expedition", "as forecast", "cautious"):
        page.keyboard.press("k")
        expect(page.locator("#caution")).to_have_value(wanted)
    page.keyboard.press("h")
    expect(page.locator(".where")).to_contain_text(", halt:")
    page.keyboard.press("]")
    expect(page.locator(".told")).to_contain_text("starts later")
    page.keyboard.press("u")
    expect(page.locator("#redo")).not_to_have_attribute("aria-disabled", "true")
    page.keyboard.press("?")
    expect(page.locator("#keys")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.locator("#keys")).not_to_be_visible()


def test_an_hourly_file_rules_and_is_set_aside(page: Page) -> None:
    page.goto("/courses/1/sources")
    file = {"name": "station.csv", "mimeType": "text/csv", "buffer": CSV.encode()}
    page.set_input_files("#file", file)
    page.locator("#altitude").fill("high up")
    page.get_by_role("button", name="Take this source").click()
    expect(page.locator("#altitude-note")).to_contain_text("is not a number")
    expect(page.locator("#altitude")).to_have_value("high up")
    page.set_input_files("#file", file)
    page.locator("#altitude").fill("1,000 ft")
    page.get_by_role("button", name="Take this source").click()
    listed = page.locator(".sources li").first
    expect(listed).to_contain_text("rules 2 of 120 h")
    listed.get_by_role("checkbox").uncheck()
    expect(listed).to_contain_text("set aside")
    listed.get_by_role("button", name="Remove station.csv").click()
    expect(page.locator(".sources li")).to_have_count(1)


def test_the_service_is_asked_until_it_answers(page: Page) -> None:
    page.goto("/courses/1/sources")
    page.locator("#issued").fill("2026-09-18")
    for _ in range(6):
        with page.expect_response(re.compile("/sources/service$"), timeout=20_000):
            page.locator("#ask").click()
        answered = page.locator(".sources li").first.or_(page.get_by_role("alert"))
        expect(answered).to_be_visible()
        if page.get_by_role("alert").count() == 0:
            break
        expect(page.get_by_role("alert")).to_contain_text("ask again")
    expect(page.locator(".sources li").first).to_contain_text("20 runs")
    page.get_by_role("link", name="Chance of each gap").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Chance of each gap")
    page.get_by_role("button", name="Judge every run").click()
    expect(page.get_by_role("button", name="Stop")).to_be_visible()
    expect(page.locator("td a").first).to_contain_text("%", timeout=60_000)
    page.locator("td a").first.scroll_into_view_if_needed()
    page.goto("/courses/1/route")
    page.get_by_role("link", name="Compare two").click()
    page.get_by_role("button", name="Judge the course under both").press("Enter")
    expect(page.get_by_text(re.compile(r"\d+ gaps before, \d+ after"))).to_be_visible()
    page.goto("/courses/1/route")
    page.get_by_role("button", name=re.compile("^Remove simulated")).click()
    expect(page.locator(".sources li")).to_have_count(1)


def test_a_way_is_looked_at_cut_with_a_click_and_taken(page: Page, size) -> None:
    page.goto("/courses/1/gpx")
    way = {"name": "hills.gpx", "mimeType": "application/gpx+xml", "buffer": hills()[0]}
    page.set_input_files("#file", way)
    page.get_by_role("button", name="Look", exact=True).click()
    expect(page.get_by_text("after smoothing")).to_be_visible()
    before = page.locator("#cuts").input_value()
    profile = page.locator("svg.way")
    box = profile.bounding_box()
    profile.click(position={"x": box["width"] * 0.3, "y": box["height"] * 0.6})
    expect(page.locator("#cuts")).not_to_have_value(before)
    page.get_by_role("button", name="Take as legs").click()
    expect(page.locator(".told")).to_contain_text("way of hills.gpx")
    with page.expect_download() as out:
        page.get_by_role("link", name="GPX out").click()
    assert out.value.path().read_text("utf-8").count("<wpt") >= 1
    page.locator("#undo").click()
    expect(page.locator(".told")).not_to_contain_text("way of")
    page.goto("/courses/1/gpx")
    page.set_input_files(
        "#file", {"name": "bad.gpx", "mimeType": "text/xml", "buffer": b"<gpx><trk>"}
    )
    page.get_by_role("button", name="Look", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("bad.gpx: line 1, column 11")
