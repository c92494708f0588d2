"""Store, weigh-in and load by keyboard and mouse, on both sizes."""

import re

from playwright.sync_api import Page, expect


def fits(page: Page) -> bool:
    wide = page.evaluate("document.documentElement.scrollWidth")
    return wide <= page.viewport_size["width"]


def test_letters_find_a_piece_and_keys_change_it(page: Page) -> None:
    page.goto("/")
    page.get_by_role("link", name="Store", exact=True).click()
    page.locator("#q").focus()
    page.keyboard.type("winter b")
    expect(page).to_have_url(re.compile("winter%20b"))
    expect(page.locator("#found tbody tr")).to_have_count(1)
    expect(page.locator("#q")).to_be_focused()
    page.get_by_role("link", name="winter bag -14").focus()
    page.keyboard.press("Enter")
    mass = page.get_by_label("mass", exact=True)
    mass.fill("heavy")
    mass.press("Enter")
    expect(page.locator(".entry.wrong")).to_contain_text("is not a number")
    expect(mass).to_have_value("heavy")
    mass.fill("3 lb 14 oz")
    mass.press("Enter")
    expect(mass).to_have_value("1757.67 g")
    assert fits(page)
    page.goto("/store?q=winter+b")
    last = page.locator(".told").inner_text()
    page.locator("#undo").click()
    expect(page.locator(".told")).not_to_have_text(last)
    page.goto("/store/piece?tag=B-05")
    expect(page.get_by_label("mass", exact=True)).to_have_value("1750 g")


def test_ticked_pieces_retire_together(page: Page) -> None:
    page.goto("/store?q=stove")
    box = page.locator("#found tbody input").first
    box.focus()
    page.keyboard.press("Space")
    page.locator("#action").select_option("retire")
    page.locator("#bulk").click()
    expect(page.locator(".told")).to_contain_text("1 piece: retire")
    assert fits(page)
    page.locator("#undo").click()
    expect(page.locator(".told")).not_to_contain_text("1 piece: retire")


def test_a_file_is_previewed_before_it_is_written(page: Page) -> None:
    page.goto("/store/import")
    bad = {"name": "bad.csv", "mimeType": "text/csv", "buffer": b"name,kind,mass\na,sofa,3\n"}
    page.locator("#file").set_input_files(bad)
    page.get_by_role("button", name="Look at it").click()
    expect(page.get_by_role("alert")).to_contain_text("1 problem")
    good = {"name": "good.csv", "mimeType": "text/csv", "buffer": b"name,kind,mass\nmug,cook,90\n"}
    page.locator("#file").set_input_files(good)
    page.get_by_role("button", name="Look at it").click()
    page.locator("#take").click()
    expect(page.locator(".told")).to_contain_text("1 of 1 rows")
    assert fits(page)
    page.locator("#undo").click()


def test_a_piece_is_weighed_by_keys(page: Page) -> None:
    page.goto("/weigh")
    page.locator("#q").fill("B-90")
    page.keyboard.press("Enter")
    page.locator("#grams").fill("1.4 kg")
    with page.expect_response("**/weigh/scale"):
        page.locator("#put").click()
    expect(page.locator("#reading.steady")).to_contain_text("1,40", timeout=8000)
    expect(page.locator("#reading")).to_be_visible()
    expect(page.locator("#take-reading")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator(".told")).to_contain_text("Next one")
    expect(page.locator("#q")).to_be_focused()
    assert fits(page)
    page.locator("#undo").click()


def test_shared_kit_is_split_and_given_by_hand(page: Page) -> None:
    page.goto("/courses/1/load?person=mirel")
    page.locator("#split").focus()
    page.keyboard.press("Enter")
    expect(page.locator(".told")).to_contain_text("By share of body mass")
    hand = page.locator("[name='carry.stove.0']")
    hand.select_option("lumi")
    page.locator("#carry").click()
    expect(page.locator(".told")).to_contain_text("Lumi")
    expect(page.locator("#share")).to_contain_text("pinned")
    expect(page.locator(".htmx-request, .htmx-swapping, .htmx-settling")).to_have_count(0)
    page.locator("#strength").fill("9")
    page.locator("#plan").click()
    expect(page.locator(".entry.wrong")).to_contain_text("must be at most 2")
    expect(page.locator("#strength")).to_have_value("9")
    page.get_by_role("button", name="From which caution would idle").click()
    found = page.locator("#matters li").first
    expect(found).to_contain_text("standard deviations", timeout=60_000)
    assert fits(page)


def test_a_shared_piece_is_dragged_to_another_back(page: Page) -> None:
    page.set_viewport_size({"width": 1280, "height": 800})
    page.goto("/courses/1/load?person=wren")
    page.locator("#split").click()
    expect(page.locator(".told")).not_to_be_empty()
    page.locator('[data-back="wren"]').scroll_into_view_if_needed()
    chip = page.locator('[data-back="wren"] .chip').first.bounding_box()
    onto = page.locator('[data-back="runa"] .onto').bounding_box()
    page.mouse.move(chip["x"] + 4, chip["y"] + 5)
    page.mouse.down()
    page.mouse.move(onto["x"] + 60, onto["y"] + 10, steps=4)
    page.mouse.up()
    expect(page.locator("#beside-title")).to_contain_text("Wren Tarn")
    expect(page.locator("h1")).to_contain_text("Runa Bell")
    page.locator("#undo").click()
    expect(page.locator(".told")).to_contain_text("the group's kit split")


def test_lists_swap_compare_and_fly_by_keys(page: Page) -> None:
    page.goto("/courses/1/day")
    page.locator("#work-bar a", has_text="Load").click()
    page.get_by_role("link", name="Lists", exact=True).click()
    page.locator("#out").focus()
    page.locator("#out").select_option("rain-jacket")
    page.locator("#try").press("Enter")
    expect(page.locator("#swaps tbody tr").first).to_be_visible()
    page.locator("#beside").select_option("1.wren")
    page.locator("#lay").press("Enter")
    expect(page.locator("#compared")).to_be_visible()
    page.get_by_role("link", name="By air", exact=True).click()
    page.locator("#hold_kg").fill("a lot")
    page.keyboard.press("Enter")
    expect(page.locator("#hold_kg-note")).to_contain_text("no unit here")
    expect(page.locator("#hold_kg")).to_have_value("a lot")
    page.locator("#hold_kg").fill("12")
    page.keyboard.press("Enter")
    expect(page.locator("#hold_kg")).to_have_value("12 kg")
    assert fits(page)
    page.locator("#undo").click()
    expect(page.locator("#hold_kg")).to_have_value("")


def test_a_dry_climb_is_found_and_cured_by_keys(page: Page) -> None:
    page.goto("/courses/1")
    page.locator("#work-bar a", has_text="Load").press("Enter")
    page.locator(".step-pages").get_by_role("link", name="Food").press("Enter")
    expect(page.locator(".supply-words")).to_contain_text("Water runs out: Tue")
    page.locator("#cure-water").press("Enter")
    expect(page.locator(".supply-words")).to_contain_text("water reaches from filling to filling")
    page.get_by_role("link", name="Tavi", exact=True).press("Enter")
    page.locator("#cure-all-water").press("Enter")
    expect(page.locator(".summary")).not_to_contain_text("without water")
    page.locator("#pot_l").fill("an ocean")
    page.keyboard.press("Enter")
    expect(page.locator("#pot_l-note")).to_be_visible()
    expect(page.locator("#pot_l")).to_have_value("an ocean")
    assert fits(page)
    for _ in range(2):
        page.locator("#undo").click()
        expect(page.locator(".htmx-request, .htmx-swapping, .htmx-settling")).to_have_count(0)
    expect(page.locator(".summary")).to_contain_text("without water")


def test_a_line_of_a_list_is_changed_and_several_at_once(page: Page) -> None:
    page.goto("/courses/1/lists?person=tavi")
    page.get_by_role("link", name="Change bottles").click()
    page.locator("#row_mass").fill("170 g")
    page.locator("#row_from").select_option("scale")
    page.locator("#row_inside").select_option("pack-60")
    page.locator("#keep-row").click()
    line = page.locator("#line-bottles")
    expect(line).to_contain_text("scale")
    expect(line.locator("th")).to_have_class("depth-1")
    page.get_by_label("Tick wash kit").check()
    page.get_by_label("Tick book").check()
    page.locator("#several").select_option("leave")
    page.locator("#do-several").press("Enter")
    expect(page.locator("#whole-list")).not_to_contain_text("wash kit")
    page.locator("#show").select_option("worn")
    page.locator("#look button").click()
    expect(page.locator("#whole-list")).not_to_contain_text("packed")
    assert fits(page)
    for _ in range(2):
        page.locator("#undo").click()
        expect(page.locator(".htmx-request, .htmx-swapping, .htmx-settling")).to_have_count(0)
