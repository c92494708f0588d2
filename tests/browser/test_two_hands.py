"""Two browsers on one course, and a server that is briefly away."""

import pytest
from playwright.sync_api import Page, expect

HALT = "/courses/1/day?person=mirel&moment=3.north-top.halt"


@pytest.fixture
def size() -> tuple[int, int]:
    return (1280, 800)


def put(page: Page, name: str, text: str) -> None:
    page.locator(f"#f-{name}").fill(text)
    page.keyboard.press("Tab")


def test_two_browsers_lose_nothing_and_choose_where_they_clash(page: Page, browser, server) -> None:
    other = browser.new_context(base_url=server).new_page()
    page.goto(HALT)
    other.goto(HALT)
    put(page, "wind_ms", "9 m/s")
    expect(page.locator(".told")).to_contain_text("9 m/s")
    put(other, "humidity_pct", "55 %")
    expect(other.locator(".told")).to_contain_text("55 %")
    expect(other.locator("#f-wind_ms")).to_have_value("9 m/s")
    put(page, "low_c", "1 °C")
    expect(page.locator(".told")).to_contain_text("1 °C")
    put(other, "low_c", "2 °C")
    expect(other.locator("#meanwhile")).to_contain_text("changed the same thing")
    expect(other.locator("#meanwhile")).to_contain_text("2 °C")
    expect(other.locator("header")).to_have_count(1)
    expect(other.locator("#meanwhile tbody tr")).to_have_count(1)
    other.get_by_role("button", name="Take mine").click()
    expect(other.locator("#f-low_c")).to_have_value("2 °C")
    expect(other.locator("#f-humidity_pct")).to_have_value("55 %")
    page.locator("#undo").click()
    expect(page.locator("#meanwhile")).to_contain_text("would be taken back now")
    page.get_by_role("link", name="Leave it as it stands").click()
    expect(page.locator("#f-low_c")).to_have_value("2 °C")
    page.faults_allowed = True
    other.context.close()


def test_keys_undo_and_redo_on_other_pages(page: Page) -> None:
    page.goto("/courses/1/people/mirel")
    page.locator("#food_g_a_day").fill("812 g")
    page.locator("#food_g_a_day").press("Enter")
    expect(page.locator(".told")).to_contain_text("figures")
    page.locator("h1").click()
    page.keyboard.press("u")
    expect(page.locator("#food_g_a_day")).to_have_value("700 g")
    page.keyboard.press("r")
    expect(page.locator("#food_g_a_day")).to_have_value("812 g")
    page.keyboard.press("u")
    expect(page.locator("#food_g_a_day")).to_have_value("700 g")


def test_a_server_that_is_away_keeps_what_was_typed_and_is_asked_again(page: Page) -> None:
    page.goto(HALT)
    page.route("**/edit", lambda route: route.abort())
    put(page, "wind_ms", "12 m/s")
    told = page.locator(".not-kept")
    expect(told).to_contain_text("Not kept")
    expect(page.locator("#f-wind_ms")).to_have_value("12 m/s")
    page.unroute("**/edit")
    told.get_by_role("button", name="Try again").click()
    expect(page.locator(".told")).to_contain_text("12 m/s")
    expect(told).to_have_count(0)
    page.goto("/courses/1/people/mirel")
    page.route("**/body", lambda route: route.abort())
    page.locator("#food_g_a_day").fill("650 g")
    page.locator("#food_g_a_day").press("Enter")
    expect(page.locator(".not-kept")).to_contain_text("Not kept")
    expect(page.locator("#food_g_a_day")).to_have_value("650 g")
    page.unroute("**/body")
    page.get_by_role("button", name="Try again").click()
    expect(page.locator(".told")).to_contain_text("figures")
    page.faults_allowed = True
