"""The lightest set in a browser: looked for by the keyboard alone, read, taken, undone."""

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

WCAG = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]


def no_axe_findings(page: Page) -> None:
    rules = {"runOnly": {"type": "tag", "values": WCAG}, "resultTypes": ["violations"]}
    found = Axe().run(page, options=rules).response["violations"]
    assert [(each["id"], each["nodes"][0]["html"][:140]) for each in found] == []


def test_a_set_is_looked_for_read_taken_and_undone_by_keyboard(page: Page) -> None:
    page.goto("/courses/1/lighten?person=hale&sources=own&without=dry+set")
    button = page.get_by_role("button", name="Look for the lightest set")
    button.focus()
    page.keyboard.press("Enter")
    expect(page.locator("#asked-title")).to_contain_text("in place of", timeout=120_000)
    expect(page.locator(".kept-pieces")).to_contain_text("footwear no lower")
    no_axe_findings(page)
    page.get_by_text("How this is computed").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("outer approximation").first).to_be_visible()
    take = page.get_by_role("button", name="Take what is ticked")
    take.focus()
    page.keyboard.press("Enter")
    expect(page.locator("#undo")).to_be_enabled(timeout=20_000)
    page.locator("#undo").click()
    expect(page.locator("#undo")).to_be_disabled(timeout=20_000)


def test_group_kit_is_taken_piece_by_piece_by_keyboard_on_a_phone(page: Page) -> None:
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto("/courses/1/lighten/group-kit?sources=own%2Cbuy")
    page.get_by_role("button", name="Look for lighter group kit").focus()
    page.keyboard.press("Enter")
    expect(page.locator("#asked-title")).to_contain_text("proven", timeout=60_000)
    assert page.evaluate("document.documentElement.scrollWidth - innerWidth") <= 0
    no_axe_findings(page)
    page.get_by_role("checkbox", name="Take stove and pot").focus()
    page.keyboard.press("Space")
    page.get_by_role("button", name="Take what is ticked").focus()
    page.keyboard.press("Enter")
    expect(page.locator("#undo")).to_be_enabled(timeout=20_000)
    page.goto("/courses/1/load")
    expect(page.get_by_role("link", name="Change small repair kit")).to_be_visible()
    expect(page.get_by_role("link", name="Change stove, burner and pot")).to_be_visible()
    page.locator("#undo").click()
    expect(page.locator("#undo")).to_be_disabled(timeout=20_000)


def test_what_caution_costs_is_drawn_and_fits_the_page(page: Page) -> None:
    page.goto("/courses/1/lighten/caution?person=pell&sources=own")
    page.get_by_role("button", name="Look at every step").click()
    expect(page.locator("svg.stair")).to_be_visible(timeout=300_000)
    wide = page.evaluate("document.documentElement.scrollWidth - innerWidth")
    assert wide <= 0
    no_axe_findings(page)
