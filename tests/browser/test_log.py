"""Log and debrief in a browser: the diary while the server is away, by tap and by key."""

import re

from playwright.sync_api import Page, expect

from tests.browser.test_check import fits
from tests.browser.test_lighten import no_axe_findings

PAGES = (
    "log",
    "log/diary?day=1&part=evening",
    "log/diary?day=1&part=morning",
    "log/thermometers",
    "log/learned",
    "log/right",
    "log/sheet",
    "debrief",
)


def test_every_page_of_log_and_debrief_fits_and_has_no_axe_findings(page: Page) -> None:
    for name in PAGES:
        page.goto(f"/courses/1/{name}")
        assert fits(page), name
        no_axe_findings(page)
    page.goto("/season")
    expect(page.get_by_role("heading", name="What the store’s beds do")).to_be_visible(
        timeout=60_000
    )
    assert fits(page)
    no_axe_findings(page)


def test_answers_while_the_server_is_away_are_kept_and_sent_once(page: Page) -> None:
    page.goto("/courses/1/log/diary?day=0&part=morning")
    page.get_by_label("Written by").fill("Wren Tarn")
    entries = page.context.request
    before = len(entries.get("/courses/1/log/diary.csv").text().splitlines())
    page.faults_allowed = 9
    page.context.set_offline(True)
    page.get_by_role("button", name="Runa Bell: cool").click()
    page.get_by_role("button", name="Ossi Vane: too warm").click()
    expect(page.locator("#sending")).to_contain_text("2 answers kept in this browser")
    button = page.get_by_role("button", name="Runa Bell: cool")
    expect(button).to_have_attribute("aria-pressed", "true")
    box = button.bounding_box()
    assert box["height"] >= 44
    page.context.set_offline(False)
    expect(page.locator("#sending")).to_contain_text(
        "Everything is with the server", timeout=15_000
    )
    page.reload()
    pressed = page.locator("button[name=felt][aria-pressed=true]")
    expect(page.get_by_role("button", name="Runa Bell: cool")).to_have_attribute(
        "aria-pressed", "true"
    )
    assert pressed.count() >= 2
    after = entries.get("/courses/1/log/diary.csv").text().splitlines()
    assert len(after) == before + 2
    assert "Wren Tarn" in after[-1]


def test_an_evening_as_planned_is_one_tap(page: Page) -> None:
    page.goto("/courses/1/log/diary?day=4&part=evening")
    page.get_by_role("button", name="Everybody else was right").focus()
    page.keyboard.press("Enter")
    expect(page.locator("#sending")).to_contain_text("Everything is with the server")
    expect(page.locator("form.answer [data-told]").first).to_contain_text("told")
    page.reload()
    expect(page.locator("form.answer [data-told]").first).to_contain_text("everybody else")


def test_a_moment_is_told_by_keys_with_what_was_worn(page: Page) -> None:
    page.goto("/courses/1/log/diary?day=0&part=evening")
    person = page.locator("details.diary-person", has_text="Runa Bell")
    person.locator("> summary").focus()
    page.keyboard.press("Enter")
    form = person.locator("form.answer", has_text="halt").first
    form.locator("details.worn-otherwise > summary").click()
    form.get_by_label("rain jacket").first.check()
    form.get_by_label("wet through").check()
    form.get_by_role("button", name="cold").focus()
    page.keyboard.press("Enter")
    expect(page.locator("#sending")).to_contain_text("Everything is with the server")
    page.reload()
    again = page.locator("details.diary-person", has_text="Runa Bell")
    again.locator("> summary").click()
    told = again.locator("form.answer", has_text="halt").first.locator("[data-told]")
    expect(told).to_contain_text("wet through")


def test_a_file_is_read_placed_and_drawn_and_a_lesson_taken_and_undone(page: Page) -> None:
    page.goto("/courses/1/log/thermometers")
    rows = "".join(f"2026-09-{21 + at // 24} {at % 24:02d}:00;{at % 5 - 4},5\n" for at in range(96))
    page.get_by_label("File", exact=True).set_input_files(
        {"name": "second.csv", "mimeType": "text/csv", "buffer": f"time;porch °C\n{rows}".encode()}
    )
    page.get_by_role("button", name="Read it", exact=True).click()
    expect(page.get_by_text("1 read from second.csv")).to_be_visible()
    panel = page.locator("section", has_text="second.csv").last
    panel.get_by_label("It was").select_option("outside")
    panel.get_by_role("button", name="Keep", exact=True).click()
    expect(page.locator("section", has_text="second.csv").last).to_contain_text("outside at camp")
    page.goto("/courses/1/log/learned")
    page.get_by_role("button", name="Take into the plan: Tavi Orrin: sleep").click()
    expect(page.get_by_text("taken, in force").first).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("taken, in force")).to_have_count(0)


def test_the_next_course_is_made_by_keys(page: Page) -> None:
    page.goto("/courses/1/debrief")
    page.get_by_label("First day").fill("2027-13-01")
    page.get_by_role("button", name="Make the next course").click()
    expect(page.get_by_text("a date as 2026-09-21")).to_be_visible()
    expect(page.get_by_label("First day")).to_have_value("2027-13-01")
    page.get_by_label("First day").fill("2027-09-20")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile("/courses/2$"))
    page.goto("/courses/2/people/tavi")
    expect(page.locator("main")).to_contain_text("Tavi Orrin")
