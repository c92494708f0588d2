"""Every page of every kind of course answers, in both systems of units."""

import re
from datetime import date

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.courses import KINDS, from_nothing
from tests.pace import at_most
from tests.web.pages import APART, pages_of

SLOWEST = 50
"""Units of work within which any page of the largest course is there, its first assessment with
it: two to three times what it takes. How fast it is, the benchmarks tell."""


@pytest.mark.parametrize("kind", KINDS)
def test_every_page_of_every_kind_of_course_answers(client, courses, kind) -> None:
    course = KINDS[kind]()
    number = courses.add(course, "made")
    pages = pages_of(number, course)
    assert len(pages) >= 25
    for address in pages:
        with at_most(SLOWEST, address):
            reply = client.get(address)
        assert reply.status_code == 200, address
        assert ">nan" not in reply.text, address
        assert re.search(r">\s*None\s*<", reply.text) is None, address


def test_every_page_of_no_course_answers(client) -> None:
    for address in APART:
        assert client.get(address).status_code == 200, address


@settings(
    max_examples=12, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture]
)
@given(
    days=st.integers(1, 4),
    people=st.integers(1, 3),
    kit=st.sampled_from(["three-season", None]),
    temperatures=st.tuples(st.floats(-60, 50), st.floats(-60, 50)).map(sorted),
    wind=st.floats(0, 60),
    rain=st.floats(0, 500),
    latitude=st.floats(-90, 90),
    start=st.dates(date(1901, 1, 1), date(2199, 12, 1)),
    altitude=st.floats(-400, 7600),
    legs=st.booleans(),
    camp=st.booleans(),
)
def test_every_page_of_any_course_answers(client, courses, temperatures, **parts) -> None:
    low, high = temperatures
    course = from_nothing(high=high, low=low, **parts)
    number = courses.add(course, "made")
    for address in pages_of(number, course):
        assert client.get(address).status_code == 200, address


@pytest.mark.parametrize("year", ["1", "9999", "0001", "1899", "2201"])
def test_years_without_a_calendar_are_refused_where_they_are_typed(client, courses, year) -> None:
    form = {"start": f"{int(year):04d}-06-01", "name": "x"}
    shown = client.post("/courses/new", data=form).text
    assert "a year from 1900 to 2200" in shown
    assert f'value="{int(year):04d}-06-01"' in shown
    with pytest.raises(ValueError, match="start"):
        from_nothing(start=date(int(year), 6, 1))


@pytest.mark.parametrize(
    "address",
    [
        "/courses/99",
        "/courses/9223372036854775808",
        "/courses/x",
        "/courses/1/people/ghost",
        "/courses/1/day?person=ghost",
        "/courses/1/day?moment=9.never",
        "/courses/1/route?moment=9.never",
        "/courses/1/story?person=ghost",
        "/courses/1/load?person=ghost",
        "/courses/1/nowhere",
        "/courses/1/night?person=ghost",
        "/courses/1/group?moment=9.never",
        "/store/piece?tag=none",
        "/store?course=99&person=x",
        "/store?course=1&person=ghost",
    ],
)
def test_what_is_not_there_is_a_page_that_says_so(client, address) -> None:
    reply = client.get(address)
    assert reply.status_code in (404, 422)
    assert 'role="alert"' in reply.text
    assert "<h1>" in reply.text
