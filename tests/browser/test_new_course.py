"""A course from nothing to its overview, with few actions, by mouse and by keys."""

import re

import pytest
from playwright.sync_api import Page, expect

WINTER_DAYS = """high\tlow\twind\tdistance\ttop\tends at\train\twhen\tname
-17\t-26\t3\t6.5\t540\t525\t0\t\tover the lake
-19\t-27\t6\t5.5\t840\t790\t2\tafternoon\tpass and snow hole
-15\t-24\t4\t9.5\t790\t500\t0\t\thome"""
WINTER_PEOPLE = """name\tmass\theight\tage\tsleeps\thas
Aune Brask\t68\t171\t44\taverage\texpedition
Ilvo Strand\t81\t183\t39\twarm\twinter
Sefa Lind\t57\t164\t27\tcold\twinter
Tor Valde\t74\t178\t31\taverage\twinter
Kari Ness\t63\t170\t29\tcold\tsame
Ruben Falk\t90\t188\t35\twarm\tsame"""


class Hands:
    """What a person does on a page, counted: a field filled, a thing clicked."""

    def __init__(self, page: Page) -> None:
        self.page, self.actions = page, 0

    def fill(self, field: str, text: str) -> None:
        self.page.locator(f'[id="{field}"]').fill(text)
        self.actions += 1

    def click(self, what) -> None:
        what.click()
        self.actions += 1


def test_the_winter_weekend_is_planned_and_judged_in_few_actions(page: Page) -> None:
    hands = Hands(page)
    page.goto("/")
    hands.click(page.locator("#new-course"))
    for field, text in {
        "place": "Veldra lake",
        "where": "63.4, 14.6",
        "start_altitude": "500",
        "start": "2027-02-05",
    }.items():
        hands.fill(field, text)
    hands.click(page.get_by_text("Days from a spreadsheet"))
    hands.fill("pasted_days", WINTER_DAYS)
    hands.click(page.get_by_role("button", name="Put into the table"))
    expect(page.locator(".row-entries.days")).to_have_count(3)
    hands.click(page.get_by_text("A roster from a spreadsheet"))
    hands.fill("pasted_people", WINTER_PEOPLE)
    hands.click(page.get_by_role("button", name="Put into the roster"))
    expect(page.locator('[id="p5.name"]')).to_have_value("Ruben Falk")
    hands.click(page.locator("#make"))
    expect(page.locator("h1")).to_have_text("Veldra lake, February 2027")
    expect(page.locator(".summary")).to_contain_text("6 people, 3 days")
    expect(page.locator("#next .next-card").first).to_be_visible(timeout=20_000)
    assert hands.actions <= 45


def test_a_day_for_one_in_a_canyon_by_typing_alone(page: Page) -> None:
    page.goto("/courses/new")
    typed = {
        "place": "Sarvan canyon",
        "where": "36°12'N 113°W",
        "start_altitude": "1250 m",
        "days": "1",
        "d0.high_c": "34",
        "d0.low_c": "17",
        "d0.top_m": "1 250",
        "d0.distance_km": "9",
        "p0.name": "Maren",
        "p0.kit": "canyon",
    }
    page.locator("#start").focus()
    page.keyboard.type("05212027")
    for field, text in typed.items():
        page.locator(f'[id="{field}"]').focus()
        page.keyboard.press("Control+a")
        page.keyboard.type(text)
        page.keyboard.press("Tab")
    expect(page.locator(".understood")).to_contain_text("America/Phoenix, UTC−7")
    expect(page.locator('[id="d0.start_h"]')).to_have_attribute(
        "placeholder", re.compile("^0[56]:")
    )
    for field, text in typed.items():
        expect(page.locator(f'[id="{field}"]')).to_have_value(text)
    page.locator("#place").focus()
    page.keyboard.press("Enter")
    expect(page.locator("h1")).to_contain_text("Sarvan canyon")
    expect(page.locator("#work-bar")).to_contain_text("Weather and route")


def test_a_slip_is_told_where_it_was_typed_and_kept(page: Page) -> None:
    page.goto("/courses/new")
    for field, text in {"place": "Fell", "where": "62, 12", "start_altitude": "400"}.items():
        page.locator(f"#{field}").fill(text)
    page.locator('[id="d0.low_c"]').fill("hot")
    page.locator("#make").click()
    expect(page.locator('[id="d0.low_c-note"]')).to_contain_text("is not a number")
    expect(page.locator('[id="d0.low_c"]')).to_have_value("hot")
    page.locator('[id="d0.low_c"]').fill("-3")
    page.locator("#make").click()
    expect(page.locator("h1")).to_contain_text("Fell")


@pytest.mark.parametrize("name", ["Deep winter", "High plateau", "Hot canyon"])
def test_a_step_is_taken_from_the_overview_and_told(page: Page, name: str) -> None:
    page.goto("/")
    page.locator(".demo-list li", has_text=name).get_by_role("button").click()
    card = page.locator("#next .next-card").first
    expect(card).to_be_visible(timeout=20_000)
    page.keyboard.press("Tab")
    card.get_by_role("button").press("Enter")
    expect(page.locator(".summary")).to_contain_text("before")
    expect(page.locator(".summary .told")).to_contain_text("Last change")
    page.locator("#undo").click()
    expect(page.locator(".summary .told")).not_to_contain_text("Last change")
