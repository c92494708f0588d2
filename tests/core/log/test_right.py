"""Chances against what came: synthetic forecasts of known bias, scores by hand."""

import random
from datetime import datetime
from statistics import NormalDist

import pytest

from caldarium.core.assess import assess
from caldarium.core.log.as_it_was import lived
from caldarium.core.log.bands import band_factor, band_source, may_change, with_bands
from caldarium.core.log.chances import biases, reliability
from caldarium.core.log.diary import Diary
from caldarium.core.log.learned import teach
from caldarium.core.log.right import BAND_SDS, Low, lows, on_scale, outcomes
from caldarium.core.plan.course import Course
from caldarium.core.plan.log import Lay, Log, OthersRight, Scaled, Slept, Was
from caldarium.core.plan.weather_sources import Hourly
from caldarium.demo import demo_course
from tests.core.log.test_learned import logger, told


@pytest.fixture(scope="module")
def plan() -> Course:
    return demo_course().altered(log=Log())


def test_the_brier_score_by_hand() -> None:
    """Brier (1950): the mean of (chance - outcome)²; here (0.1² + 0.8² + 0.3² + 0.6²) / 4."""
    found = reliability([(0.1, False), (0.2, True), (0.7, True), (0.6, False)])
    assert found.brier == pytest.approx((0.01 + 0.64 + 0.09 + 0.36) / 4)
    assert found.happened == 0.5
    assert found.bias == pytest.approx(0.4 - 0.5)
    assert found.uncertain == 0.25


def test_its_parts_add_up_where_chances_within_a_bin_are_the_same() -> None:
    """Murphy (1973): score = reliability - resolution + uncertainty."""
    dice = random.Random(3)
    said = [(chance, dice.random() < 0.3 + chance / 3) for chance in (0.05, 0.2, 0.6, 0.8) * 50]
    found = reliability(said)
    assert found.brier == pytest.approx(found.off - found.resolved + found.uncertain)


@pytest.mark.parametrize("bias", [-0.15, 0.0, 0.15])
def test_forecasts_of_a_known_bias_are_found_to_have_it(bias: float) -> None:
    dice = random.Random(11)
    said = []
    for _ in range(4000):
        truth = dice.uniform(0.2, 0.8)
        said.append((truth + bias, dice.random() < truth))
    found = reliability(said)
    assert found.bias == pytest.approx(bias, abs=0.03)
    for each in found.bins:
        if each.count > 100:
            assert each.said - each.happened == pytest.approx(bias, abs=0.06)


def test_honest_chances_are_on_the_slope_and_over_confident_ones_are_not() -> None:
    dice = random.Random(5)
    margins = [dice.gauss(1, 2) for _ in range(5000)]
    normal = NormalDist()
    came = [each + dice.gauss(0, 2) < 0 for each in margins]
    honest = reliability([(normal.cdf(-m / 2), c) for m, c in zip(margins, came, strict=True)])
    bold = reliability([(normal.cdf(-m / 0.5), c) for m, c in zip(margins, came, strict=True)])
    assert honest.off < 0.002
    assert bold.off > 10 * honest.off
    assert honest.skill is not None
    assert bold.skill is not None
    assert honest.skill > bold.skill


def test_no_outcomes_are_no_picture() -> None:
    found = reliability([])
    assert found.count == 0
    assert found.skill is None


def test_bands_are_widened_by_the_closed_form_of_a_variance() -> None:
    """Gelman et al. (2013), 2.6: scaled inverse chi-square, (n0 s0² + Σ z²) / (n0 + n), s0 = 1."""
    found = [Low(0, 0.0, 2.0, error) for error in (4.0, -2.0, 6.0)]
    assert band_factor(found) == pytest.approx(((10 + 4 + 1 + 9) / 13) ** 0.5)
    assert band_factor([]) == 1.0
    narrow = [Low(0, 0.0, 2.0, 0.0)] * 10
    assert band_factor(narrow) == pytest.approx(0.5**0.5)


def test_wider_bands_plan_for_a_colder_night(plan: Course) -> None:
    wider = with_bands(plan, 1.5, "by the log")
    before, after = (
        next(m.air for m in assess(each).timeline.moments if m.kind == "night")
        for each in (plan, wider)
    )
    assert before - after == pytest.approx(1.25, abs=0.05)
    assert wider.spread.cautious.wind_ms == plan.spread.cautious.wind_ms


def test_bands_are_changed_once_by_a_course_and_never_where_a_forecast_rules(plan: Course) -> None:
    timeline = assess(plan).timeline
    assert may_change(plan, timeline)
    after = with_bands(plan, 1.5, band_source(plan))
    assert not may_change(after, timeline)
    assert may_change(after.altered(name="The next"), timeline)
    hours = 24 * (len(plan.days) + 1)
    source = Hourly(
        id="h", name="H", kind="hourly file", altitude_m=310, issued=None,
        first=datetime.combine(plan.start, datetime.min.time()),
        air_c=(1.0,) * hours, wind_ms=(2.0,) * hours,
    )  # fmt: skip
    ruled = plan.altered(sources=(source,))
    assert not may_change(ruled, assess(ruled).timeline)


def test_the_band_of_a_night_is_that_of_whatever_rules_it(plan: Course) -> None:
    """Typed days by the course's own spread; hourly sources by the days since they were issued:
    1.2 K and 0.4 K a day, so that a later night is less sure."""
    typed = lived(plan, (), Diary()).spreads
    assert list(typed.values()) == pytest.approx([2.5] * 4)
    hours = 24 * (len(plan.days) + 1)
    midnight = datetime.combine(plan.start, datetime.min.time())
    source = Hourly(
        id="h", name="H", kind="hourly file", altitude_m=310, issued=midnight, first=midnight,
        air_c=(1.0,) * hours, wind_ms=(2.0,) * hours,
    )  # fmt: skip
    ruled = lived(plan.altered(sources=(source,)), (), Diary()).spreads
    steps = [ruled[day + 1] - ruled[day] for day in range(3)]
    assert all(0.2 < step < 0.6 for step in steps)
    assert 1.2 < ruled[0] < 2.0


def test_a_pack_on_the_scale_is_held_against_its_sum(plan: Course) -> None:
    load = assess(plan.altered(caution="as forecast")).of("runa").load
    (found,) = on_scale(teach(plan, Log(entries=told(Scaled(person="runa", day=0, grams=9000)))))
    assert found.measured_g == 9000
    assert found.computed_g == pytest.approx(1000 * load.carried, rel=0.02)
    gone = told(Scaled(person="ghost", day=0, grams=9000), Scaled(person="runa", day=18, grams=1))
    assert on_scale(teach(plan, Log(entries=gone))) == []


def test_four_lows_of_five_lie_in_the_band() -> None:
    dice = random.Random(9)
    found = [Low(0, 0.0, 2.5, dice.gauss(0, 2.5)) for _ in range(4000)]
    assert sum(each.inside for each in found) / len(found) == pytest.approx(0.8, abs=0.02)
    assert pytest.approx(1.2816, abs=1e-4) == BAND_SDS


def test_a_night_colder_than_forecast_is_the_weathers_doing(plan: Course) -> None:
    thermometer = logger(plan, [-16.0] * 96, 2, "outside")
    entries = told(Slept(person="runa", day=2, felt="cold"))
    taught = teach(plan, Log(thermometers=(thermometer,), entries=entries))
    (found,) = outcomes(taught)
    assert found.short
    assert found.why == "weather"
    (low,) = lows(taught)
    assert low.measured == pytest.approx(-16.0)
    assert not low.inside


def test_a_bed_lain_in_otherwise_is_told_as_that(plan: Course) -> None:
    entries = told(
        Slept(person="runa", day=2, felt="cold"),
        Lay(person="runa", day=2, worn=(), pads=(), moved=True),
    )
    (found,) = outcomes(teach(plan, Log(entries=entries)))
    assert found.why == "otherwise"


def test_what_nothing_explains_is_the_models(plan: Course) -> None:
    (found,) = outcomes(teach(plan, Log(entries=told(Slept(person="dag", day=0, felt="cold")))))
    assert found.chance < 0.1
    assert found.why == "model"


def test_all_right_is_as_many_outcomes_as_people_and_moments(plan: Course) -> None:
    entries = told(OthersRight(day=0, part="morning"), OthersRight(day=0, part="evening"))
    found = outcomes(teach(plan, Log(entries=entries)))
    assert sum(each.kind == "night" for each in found) == len(plan.people)
    assert all(not each.short for each in found)
    by = {(each.by, each.name): each.count for each in biases(found)}
    assert by["month", "9"] == len(found)
    assert by["moment", "night"] == len(plan.people)


def test_a_moment_worn_otherwise_is_judged_as_it_was_worn(plan: Course) -> None:
    halt = "1.lookout.halt"
    entries = told(Was(person="runa", moment=halt, felt="cold", worn=("light-base-top",)))
    (found,) = outcomes(teach(plan, Log(entries=entries)))
    assert found.why == "otherwise"
