"""The camp's page by keyboard and mouse."""

from playwright.sync_api import Page, expect


def test_a_person_moves_to_another_tent_by_keys_and_back(page: Page) -> None:
    page.goto("/courses/1")
    page.get_by_role("link", name="Shelter", exact=True).first.click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("The camp")
    expect(page.locator(".tag-state", has_text="unfit")).to_have_count(1)
    page.locator("#in-mirel").focus()
    page.locator("#in-mirel").select_option("dome")
    page.locator("#assign").focus()
    page.keyboard.press("Enter")
    expect(page.locator(".told")).to_contain_text("Mirel in dome")
    expect(page.locator(".verdict.unfit")).to_have_count(2)
    page.locator("#undo").click()
    expect(page.locator(".verdict.unfit")).to_have_count(1)
    assert page.evaluate("document.documentElement.scrollWidth") <= page.viewport_size["width"]


def test_a_sleeper_is_dragged_to_another_shelter(page: Page) -> None:
    page.goto("/courses/1/shelter?night=2")
    page.locator('.sleeper[data-person="mirel"]').scroll_into_view_if_needed()
    start = page.locator('.sleeper[data-person="mirel"]').bounding_box()
    end = page.locator('.tent-card[data-shelter="dome"] h2').bounding_box()
    page.mouse.move(start["x"] + 20, start["y"] + start["height"] / 2)
    page.mouse.down()
    page.mouse.move(end["x"] + 40, end["y"] + 60, steps=4)
    page.mouse.up()
    expect(page.locator(".told")).to_contain_text("Mirel in dome")
