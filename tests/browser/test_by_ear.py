"""Somebody who cannot see the page finds who is short where, of what, and cures it, by names and
roles alone."""

import re

from playwright.sync_api import Page, expect


def test_a_gap_is_found_and_cured_by_names_and_roles_alone(page: Page) -> None:
    page.goto("/")
    page.get_by_role("link", name="Skarn fell, autumn course", exact=True).click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Skarn fell, autumn course")
    page.get_by_text("The same as a table").click()
    table = page.get_by_role("region", name="The worst of everybody at every moment")
    row = table.get_by_role("row", name=re.compile("Wed 10:21, halt.*gap.*Ossi Vane"))
    row.get_by_role("link").click()
    expect(page.get_by_role("heading", name="Ossi Vane, Wed 10:21, halt")).to_be_visible()
    steps = page.get_by_role("navigation", name="Steps of the work")
    before = steps.get_by_role("link", name=re.compile(r"^Day")).inner_text()
    offered = page.get_by_role("button", name=re.compile("^Give Ossi Vane ")).first
    offered.press("Enter")
    expect(page.get_by_role("status").filter(has_text="Last change")).to_contain_text("Ossi")
    expect(steps.get_by_role("link", name=re.compile(r"^Day"))).not_to_have_text(before)
    page.keyboard.press("Escape")
    page.locator("body").press("n")
    expect(page.locator("#moved")).to_have_text(re.compile(r"^\w+ \w+, \w{3} .*: (gap|hot)$"))


def test_the_steps_of_the_work_are_walked_by_keys_and_the_keys_told(page: Page) -> None:
    page.goto("/courses/1")
    for title in ("Weather and route", "Skarn fell", "Night", "Shelter", "Load"):
        page.locator("body").press(".")
        expect(page).to_have_title(re.compile(title))
        expect(page.locator("#work-bar [aria-current]")).to_have_count(1)
    page.locator("body").press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
    page.keyboard.press("Escape")
    page.locator("body").press(",")
    expect(page).to_have_title(re.compile("Shelter"))
