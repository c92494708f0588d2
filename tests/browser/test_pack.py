"""Packs in a browser: a piece is dragged to another zone, another moved by keys, and let go."""

from playwright.sync_api import Page, expect

from tests.browser.test_lighten import no_axe_findings


def zone_of(page: Page, piece: str) -> str:
    return page.locator(f'select[name="zone.{piece}"]').input_value()


def test_a_piece_is_dragged_into_the_lid_and_let_go(page: Page) -> None:
    page.goto("/courses/1/pack?person=runa&day=0")
    no_axe_findings(page)
    assert page.evaluate("document.documentElement.scrollWidth - innerWidth") <= 0
    if page.viewport_size["width"] < 800:
        return
    page.locator("svg.pack").scroll_into_view_if_needed()
    held = page.locator('[data-piece="spare-layers"]').bounding_box()
    lid = page.locator('svg.pack [data-zone="lid"]').first.bounding_box()
    page.mouse.move(held["x"] + held["width"] / 2, held["y"] + held["height"] / 2)
    page.mouse.down()
    page.mouse.move(lid["x"] + lid["width"] / 2, lid["y"] + 6, steps=8)
    page.mouse.up()
    expect(page.locator('select[name="zone.spare-layers"]')).to_have_value("lid", timeout=20_000)
    expect(page.get_by_text("by hand", exact=True)).to_be_visible()
    page.get_by_role("button", name="Let the plan place all").click()
    expect(page.get_by_text("by hand", exact=True)).to_have_count(0, timeout=20_000)


def test_a_piece_is_moved_by_keys_alone_and_answers(page: Page) -> None:
    page.goto("/courses/1/pack?person=runa&day=1")
    select = page.get_by_label("Where first aid kit goes")
    select.focus()
    page.keyboard.type("at the foot")
    page.keyboard.press("Tab")
    keep = page.get_by_role("button", name="Keep where I put them")
    keep.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("first aid kit is wanted in a hurry and lies deep.")).to_be_visible(
        timeout=20_000
    )
    free = page.get_by_role("button", name="Let the plan place first aid kit")
    free.focus()
    page.keyboard.press("Enter")
    expect(free).to_have_count(0, timeout=20_000)
    page.get_by_role("link", name="three-season bag -1").focus()
    page.keyboard.press("Enter")
    expect(page.locator("#piece")).to_contain_text("First comes out:")
    no_axe_findings(page)
