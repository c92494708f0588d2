"""The camp's page by keyboard and mouse."""

from playwright.sync_api import Page, expect


def test_a_person_moves_to_another_tent_by_keys_and_back(page: Page) -> None:
    page.goto("/courses/1/day")
    page.locator("#work-bar a", has_text="Shelter").click()
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


def test_a_sleeper_is_dragged_to_another_shelter(page: Page, size) -> None:
    # Both shelters have to be in view, however long a card is.
    page.set_viewport_size({"width": size[0], "height": 2600})
    page.goto("/courses/1/shelter?night=2")
    page.locator('.tent-card[data-shelter="dome"] h2').scroll_into_view_if_needed()
    start = page.locator('.tent-card .sleeper[data-person="mirel"]').bounding_box()
    end = page.locator('.tent-card[data-shelter="dome"] h2').bounding_box()
    page.mouse.move(start["x"] + 20, start["y"] + start["height"] / 2)
    page.mouse.down()
    page.mouse.move(end["x"] + 40, end["y"] + 60, steps=4)
    page.mouse.up()
    expect(page.locator(".told")).to_contain_text("Mirel in dome")


def test_the_camp_is_one_picture_that_says_its_windbreak(page: Page) -> None:
    page.goto("/courses/1/shelter?night=2")
    expect(page.locator("svg.camp .camp-tent")).to_have_count(4)
    page.locator("#camp-windbreak").focus()
    page.keyboard.type("both")
    page.locator("#keep-camp").focus()
    page.keyboard.press("Enter")
    expect(page.locator(".camp .snow-wall")).to_have_count(4)
    expect(page.locator(".tent-card .verdict").first).to_contain_text("at its walls")
    page.locator("#undo").click()
    expect(page.locator(".camp .snow-wall")).to_have_count(0)


def test_sleepers_are_dragged_in_the_picture_of_the_camp(page: Page) -> None:
    page.set_viewport_size({"width": 1280, "height": 800})
    page.goto("/courses/1/shelter?night=2")
    start = page.locator('svg.camp .sleeper[data-person="ossi"]').bounding_box()
    end = page.locator('svg.camp [data-shelter="dome"] .floor').bounding_box()
    page.mouse.move(start["x"] + 20, start["y"] + start["height"] / 2)
    page.mouse.down()
    page.mouse.move(end["x"] + end["width"] / 2, end["y"] + end["height"] - 4, steps=4)
    page.mouse.up()
    expect(page.locator(".told")).to_contain_text("Ossi in dome")
    page.locator("#undo").click()
    expect(page.locator("#in-ossi")).to_have_value("tunnel-west")


def test_a_wrong_gust_is_told_on_its_card(page: Page) -> None:
    page.goto("/courses/1/shelter?night=2")
    card = page.locator('.tent-card[data-shelter="dome"]')
    card.locator("summary", has_text="What is known of it").press("Enter")
    card.locator("#dome-gust_ms").fill("breezy")
    page.keyboard.press("Enter")
    expect(card.locator(".error")).to_contain_text("breezy")
    expect(card.locator("#dome-gust_ms")).to_have_value("breezy")


def test_a_shelter_of_ones_own_is_entered_by_keys_and_drawn_while_typed(page: Page) -> None:
    page.goto("/courses/1/shelter?night=2")
    page.locator("#new-name").focus()
    page.keyboard.type("Blue dome")
    page.locator("#new-places").fill("none")
    page.keyboard.press("Enter")
    expect(page.locator("#new-places-note")).to_contain_text("is not a number")
    expect(page.locator("#new-name")).to_have_value("Blue dome")
    page.locator("#new-places").fill("3")
    page.locator("#new-width_m").fill("1.6 m")
    page.locator("#new-length_m").fill("2.2 m")
    page.keyboard.press("Enter")
    card = page.locator('.tent-card[data-shelter="blue-dome"]')
    expect(card).to_contain_text("2.2 m by 1.6 m")
    card.locator("summary", has_text="What is known of it").press("Enter")
    card.locator("#blue-dome-width_m").press_sequentially("0")
    card.locator("#blue-dome-width_m").fill("2.4 m")
    expect(card.locator("#draft-blue-dome")).to_contain_text("2.2 m by 2.4 m")
    page.reload()
    expect(card).to_contain_text("2.2 m by 1.6 m")
    assert page.evaluate("document.documentElement.scrollWidth") <= page.viewport_size["width"]


def test_a_night_under_the_sky_is_said_and_may_be_planned(page: Page) -> None:
    page.goto("/courses/1/shelter?night=2")
    page.locator("#in-wren").select_option("")
    page.locator("#from_night").check()
    page.locator("#assign").press("Enter")
    expect(page.locator("#under-the-sky")).to_contain_text("Wren Tarn has no shelter:")
    page.locator("#bivouac").check()
    page.locator("#keep-camp").press("Enter")
    expect(page.locator("#under-the-sky")).to_contain_text("as planned")
    page.goto("/courses/1/shelter?night=1")
    expect(page.locator("#under-the-sky")).to_have_count(0)
