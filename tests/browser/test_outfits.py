"""Two outfits side by side and an outfit copied, with the mouse and with the keys."""

from playwright.sync_api import Page, expect

HALT = "/courses/1/day?person=mirel&moment=3.north-top.halt"


def test_compare_by_key_and_keep_by_keyboard(page: Page) -> None:
    page.goto(HALT)
    page.keyboard.press("v")
    expect(page.get_by_role("heading", name="Two outfits side by side")).to_be_visible()
    row = page.locator("#differences tr", has_text="provides")
    expect(row).to_contain_text("0.00 clo")
    box = page.locator("#b-title ~ .ticks").get_by_label("wool hat")
    box.focus()
    page.keyboard.press("Space")
    expect(row).to_contain_text("−")
    expect(page.locator("#keep-button-b")).to_be_visible()
    expect(page.locator("#keep-button-a")).to_have_count(0)
    page.locator("#keep-button-b").focus()
    page.keyboard.press("Enter")
    expect(page.locator("#piece-wool-hat")).to_have_attribute("aria-pressed", "false")
    page.locator("#undo").click()
    expect(page.locator("#piece-wool-hat")).to_have_attribute("aria-pressed", "true")


def test_compare_two_people_with_the_mouse(page: Page) -> None:
    page.goto(HALT)
    page.locator("#compare").click()
    page.locator("#b_person").select_option("wren")
    expect(page.locator("#b-title")).to_contain_text("Wren Tarn")
    expect(page.locator("#differences tr", has_text="verdict")).to_contain_text("gap")
    assert page.evaluate("document.documentElement.scrollWidth") <= page.viewport_size["width"]


def test_an_outfit_is_copied_and_the_copy_undone(page: Page) -> None:
    page.goto(HALT)
    page.locator("#piece-rain-jacket").click()
    expect(page.locator("#piece-rain-jacket")).to_have_attribute("aria-pressed", "false")
    page.locator("#copy_to").select_option("kind")
    page.locator("#copy").click()
    expect(page.locator(".told")).to_contain_text("every halt of mine")
    page.locator("#copy_to").select_option("free-all")
    page.locator("#copy").click()
    expect(page.locator("#piece-rain-jacket")).to_have_attribute("aria-pressed", "true")
    page.locator("#undo").click()
    expect(page.locator("#piece-rain-jacket")).to_have_attribute("aria-pressed", "false")
    page.locator("#undo").click()
    expect(page.locator(".told")).not_to_contain_text("every halt of mine")
    page.locator("#undo").click()
    expect(page.locator("#piece-rain-jacket")).to_have_attribute("aria-pressed", "true")


def test_wet_and_wind_are_drawn_and_the_days_heat_stands_below(page: Page) -> None:
    page.goto("/courses/1/day?person=runa&moment=4.camp")
    assert page.locator(".cut .wet-layer").count() > 0
    assert page.locator(".cut .gust").count() == 7
    expect(page.locator(".cut.heat .body-heat")).to_have_count(1)
    expect(page.locator(".outfit")).to_contain_text("of its warmth is left")
    expect(page.locator(".outfit")).to_contain_text("Body heat, segment by segment")
