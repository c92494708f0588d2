"""The night's page with the mouse and with the keys, on both sizes."""

from playwright.sync_api import Page, expect


def test_a_bed_is_looked_at_changed_by_keys_and_undone(page: Page) -> None:
    page.goto("/courses/1")
    page.get_by_role("link", name="Night", exact=True).first.click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("night")
    page.goto("/courses/1/night")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Mirel Kost, Wednesday night")
    verdict = page.locator("[aria-labelledby=bed-title] .verdict").first
    expect(verdict).to_contain_text("gap")
    take = page.locator("#changes button").nth(1)
    take.focus()
    page.keyboard.press("Enter")
    expect(page.locator(".told")).to_contain_text("Last change: Mirel")
    expect(verdict).not_to_contain_text("gap")
    page.locator("#undo").click()
    expect(verdict).to_contain_text("gap")
    assert page.evaluate("document.documentElement.scrollWidth") <= page.viewport_size["width"]


def test_the_shelf_leads_to_another_bed(page: Page) -> None:
    page.goto("/courses/1/night?person=mirel&night=2")
    page.locator(".shelf-bed").nth(9).click()
    expect(page.get_by_role("heading", level=1)).not_to_contain_text("Mirel")
    expect(page.locator("[aria-labelledby=bed-title] .verdict").first).to_contain_text("slack")


def test_a_wrong_bottle_is_told_where_it_was_typed(page: Page) -> None:
    page.goto("/courses/1/night?person=mirel&night=2")
    page.locator("#hot_bottle_l").fill("much")
    page.locator("#hot_bottle_l").press("Enter")
    expect(page.locator("#bottle-error")).to_contain_text("is not a number")
    expect(page.locator("#hot_bottle_l")).to_have_value("much")
