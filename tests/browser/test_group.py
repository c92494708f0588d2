"""The dial, cures and the group's page, with the mouse and the keys."""

import re

from playwright.sync_api import Page, expect

HALT = "/courses/1/day?person=mirel&moment=3.north-top.halt"


def test_the_dial_by_keys_stays_while_moving_and_goes_back(page: Page) -> None:
    page.goto(HALT)
    plain = page.locator(".summary").inner_text()
    page.keyboard.press("w")
    expect(page.locator("#dial_colder")).to_be_focused()
    page.keyboard.type("5")
    page.keyboard.press("Enter")
    expect(page.locator(".message[role=status]")).to_contain_text("5 K colder")
    expect(page.locator(".summary")).not_to_have_text(plain)
    page.locator("#next-person").click()
    expect(page.locator("#outfit-title")).to_contain_text("Jonna Reed")
    expect(page.locator(".message[role=status]")).to_contain_text("5 K colder")
    page.locator("#dial_higher").fill("up")
    page.keyboard.press("Tab")
    expect(page.locator("#dial-higher-error")).to_contain_text("is not a number")
    expect(page.locator("#dial_higher")).to_have_value("up")
    page.locator("#dial-back").click()
    expect(page.locator(".message[role=status]")).to_have_count(0)
    expect(page.locator("#undo")).to_have_attribute("aria-disabled", "true")


def test_a_cure_is_taken_and_undone(page: Page) -> None:
    page.goto(HALT)
    panel = page.locator(".outfit .verdict").first
    expect(panel).to_contain_text("gap")
    expect(page.get_by_text(re.compile("Cheapest cure: .* closes it whole"))).to_be_visible()
    page.locator("#cures summary").click()
    page.locator("#cures button").first.click()
    expect(panel).not_to_contain_text("gap")
    page.locator("#undo").click()
    expect(panel).to_contain_text("gap")


def test_the_group_finds_one_cure_for_several(page: Page) -> None:
    page.goto("/courses/1/day")
    page.get_by_role("link", name="Group").click()
    expect(page.locator(".gap-list li").first).to_contain_text(re.compile(r"\d of 10 are short"))
    other = page.locator(".gap-list a").nth(2)
    name = other.inner_text()
    other.click()
    expect(page.locator("#cure-title")).to_contain_text(name)
    before = page.locator(".summary").inner_text()
    page.get_by_role("button", name=re.compile("^Give ")).first.press("Enter")
    expect(page.locator(".told")).to_contain_text("Last change")
    expect(page.locator(".summary")).not_to_have_text(before)
    page.locator("#undo").click()
    expect(page.locator(".told")).not_to_contain_text(" for ")
    assert page.evaluate("document.documentElement.scrollWidth") <= page.viewport_size["width"]
