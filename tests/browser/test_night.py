"""The night's page with the mouse and with the keys, on both sizes."""

from playwright.sync_api import Page, expect


def test_a_bed_is_looked_at_changed_by_keys_and_undone(page: Page) -> None:
    page.goto("/courses/1/day")
    page.locator("#work-bar a", has_text="Night").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("night")
    page.goto("/courses/1/night")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Mirel Kost, Wednesday night")
    verdict = page.locator("[aria-labelledby=bed-title] .verdict").first
    expect(verdict).to_contain_text("gap")
    take = page.get_by_label("Take winter air pad R 7 for closed-cell foam R 2.0")
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
    expect(page.locator("[aria-labelledby=bed-title] .verdict").first).to_contain_text("snug")


def test_a_wrong_bottle_is_told_where_it_was_typed(page: Page) -> None:
    page.goto("/courses/1/night?person=mirel&night=2")
    page.locator("#hot_bottle_l").fill("much")
    page.locator("#hot_bottle_l").press("Enter")
    expect(page.locator("#hot_bottle_l-note")).to_contain_text("is not a number")
    expect(page.locator("#hot_bottle_l")).to_have_value("much")


def test_somebody_sleeps_elsewhere_from_a_night_on_by_keys(page: Page) -> None:
    page.goto("/courses/1/night?person=mirel&night=2")
    cell = page.get_by_label("Mirel Kost, Wednesday night: sleeps in")
    cell.focus()
    page.keyboard.type("dome")
    expect(cell).to_have_value("dome")
    page.locator("#keep-nights").focus()
    page.keyboard.press("Enter")
    expect(page.locator(".told")).to_contain_text("from night 3")
    expect(page.get_by_label("Mirel Kost, Thursday night: sleeps in")).to_have_value("dome")
    expect(page.get_by_label("Mirel Kost, Tuesday night: sleeps in")).to_have_value("light-two")
    page.locator("#undo").click()
    expect(cell).to_have_value("light-two")
    assert page.evaluate("document.documentElement.scrollWidth") <= page.viewport_size["width"]


def test_another_bed_waits_for_one_night_and_wrong_figures_are_told(page: Page) -> None:
    page.goto("/courses/1/night?person=runa&night=2")
    page.locator("#whose").select_option("light")
    page.locator("#bag").select_option("quilt-plus-8")
    page.locator("#keep").press("Enter")
    expect(page.locator("#nights")).to_contain_text("light bed")
    expect(page.locator("#bag")).to_have_value("quilt-plus-8")
    page.goto("/courses/1/night?person=runa&night=1")
    expect(page.locator("#whose")).to_have_value("own")
    page.locator('[id="bag.width_cm"]').fill("wide")
    page.locator('[id="bag.width_cm"]').press("Enter")
    expect(page.locator('[id="bag.width_cm-note"]')).to_contain_text("is not a number")
    expect(page.locator('[id="bag.width_cm"]')).to_have_value("wide")
    expect(page.locator("#bag")).not_to_have_value("quilt-plus-8")
