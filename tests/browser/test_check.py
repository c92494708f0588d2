"""The check in a browser: by tap and by key, while the server is away, nothing lost or doubled."""

import re

from playwright.sync_api import Page, expect

from tests.browser.test_lighten import no_axe_findings

THERE = re.compile("^There:")


def fits(page: Page) -> bool:
    return page.evaluate("document.documentElement.scrollWidth - innerWidth") <= 0


def test_lists_are_asked_and_what_is_missing_is_given_by_mouse_and_by_keys(page: Page) -> None:
    page.goto("/courses/1/check")
    no_axe_findings(page)
    assert fits(page)
    row = page.locator(".open-lines tr", has_text="Two pairs of socks")
    row.get_by_role("button", name="Give it").click()
    expect(page.locator(".told")).to_contain_text("15 open lines became 5", timeout=20_000)
    page.get_by_label("One more list").focus()
    page.keyboard.type("Two of what")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Two of what must not fail, line by line")).to_be_visible(
        timeout=20_000
    )
    whistle = page.locator("details.list-line", has_text="A whistle").last
    whistle.locator("> summary").focus()
    page.keyboard.press("Enter")
    expect(whistle.get_by_text("How this is computed")).to_be_visible()
    no_axe_findings(page)


def test_taps_while_the_server_is_away_are_kept_and_sent_once(page: Page) -> None:
    page.goto("/courses/1/check/table?person=runa")
    no_axe_findings(page)
    assert fits(page)
    page.get_by_label("Checked by").first.fill("Hale Moor")
    lines = page.locator("#to-runa form.tick")
    first, second, third = lines.nth(0), lines.nth(1), lines.nth(2)
    box = first.get_by_role("button", name=THERE).bounding_box()
    assert box["height"] >= 44
    first.get_by_role("button", name=THERE).click()
    expect(page.locator("#sending")).to_contain_text("Everything is with the server")
    page.faults_allowed = 9
    page.context.set_offline(True)
    second.get_by_role("button", name="Not there:").click()
    third.locator("summary").click()
    third.get_by_label("Tag").fill("L-7")
    third.get_by_role("button", name="It was lent").click()
    expect(page.locator("#sending")).to_contain_text("2 taps kept in this browser")
    expect(second.locator(".said")).to_have_text("not there")
    expect(page.locator("#to-runa summary [data-seen]")).to_have_text("3")
    page.context.set_offline(False)
    expect(page.locator("#sending")).to_contain_text(
        "Everything is with the server", timeout=15_000
    )
    page.reload()
    expect(lines.nth(1).locator(".said")).to_contain_text("not there")
    expect(lines.nth(2).locator(".said")).to_contain_text("lent L-7")
    expect(lines.nth(0).locator(".said")).to_contain_text("by Hale Moor")
    page.goto("/courses/1/check/record")
    expect(page.locator(".record-sheet", has_text="Runa Bell").locator("tbody tr")).to_have_count(3)
    no_axe_findings(page)


def test_a_tap_outlives_a_page_that_was_left_before_it_was_sent(page: Page) -> None:
    page.goto("/courses/1/check/table?person=tavi")
    page.faults_allowed = 9
    page.route("**/check/tell", lambda route: route.abort())
    page.locator("#to-tavi form.tick").first.get_by_role("button", name=THERE).click()
    expect(page.locator("#sending")).to_contain_text("1 tap kept in this browser")
    page.unroute("**/check/tell")
    page.goto("/courses/1/check/table?person=tavi")
    expect(page.locator("#sending")).to_contain_text("Everything is with the server")
    page.reload()
    said = page.locator("#to-tavi form.tick .said").first
    expect(said).to_contain_text("there, ")


def test_a_line_is_found_by_word_and_ticked_by_keys_alone(page: Page) -> None:
    page.goto("/courses/1/check/table?person=runa")
    find = page.get_by_label("Find a line, or scan a tag")
    find.focus()
    page.keyboard.type("bottles")
    shown = page.locator("#to-runa form.tick:visible")
    expect(shown).to_have_count(1)
    shown.get_by_role("button", name=THERE).focus()
    page.keyboard.press("Enter")
    expect(shown.locator(".said")).to_contain_text("there")
    find.fill("no-such-tag")
    find.press("Enter")
    expect(page.locator("#sending")).to_contain_text("No open line is met by")


def test_things_are_handed_out_laid_out_and_listed(page: Page) -> None:
    page.goto("/courses/1/check/handed")
    no_axe_findings(page)
    page.get_by_label("Tag or name").fill("spare rope")
    page.get_by_role("button", name="Hand it out").click()
    expect(page.get_by_role("heading", name="Receipt: Runa Bell")).to_be_visible(timeout=20_000)
    assert fits(page)
    page.get_by_role("button", name="Take it back").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("Nothing is still out.")).to_be_visible(timeout=20_000)
    no_axe_findings(page)
    page.goto("/courses/1/check/laid-out?day=1")
    no_axe_findings(page)
    assert fits(page)
    expect(page.get_by_text("On, in this order")).to_be_visible()
    page.goto("/courses/1/check/own")
    no_axe_findings(page)
    assert fits(page)
