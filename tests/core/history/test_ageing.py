"""How a pack ages: against statsmodels, closed forms, and simulated lives that share no model with it."""

from __future__ import annotations

import numpy as np
import pytest
import statsmodels.api as sm

from limpet.history import ageing
from limpet.history.ageing import LONGEST, course_of
from limpet.pack.wearing import usual_months
from tests.calibration.lives import courses, held, told

MONTHS = np.arange(0.0, 40.0, 3.0)


@pytest.fixture
def one_straight_course(monkeypatch):
    """Nothing is known before the tests, and only a straight course is thinkable: weighted least squares."""
    monkeypatch.setattr(ageing, "POWERS", ((1.0, 1.0),))
    monkeypatch.setattr(ageing, "SCATTERS", ((1.0, 1.0),))
    monkeypatch.setattr(ageing, "FROM_TEST_TO_TEST", 0.0)
    for name in ("FRESH", "LOST", "STEP"):
        monkeypatch.setattr(ageing, name, (0.1, 1e4))


def noisy(step=0.0, seed=4):
    rng = np.random.default_rng(seed)
    std = rng.uniform(0.01, 0.03, len(MONTHS))
    truth = 0.99 - 0.004 * MONTHS - np.where(MONTHS > 20, step, 0.0)
    return truth + std * rng.standard_normal(len(MONTHS)), std


def test_a_straight_course_is_the_weighted_line_of_statsmodels(one_straight_course):
    values, std = noisy()
    course = course_of(MONTHS, values, std, usual=48.0, from_fresh=True)
    line = sm.WLS(values, sm.add_constant(MONTHS), weights=1 / std**2).fit(cov_type="fixed scale")
    for place in (0.0, 17.0, 39.0):
        told = line.get_prediction([[1.0, place]])
        at = course.at(place)
        assert at.value == pytest.approx(told.predicted_mean[0], abs=6e-4)
        half = 1.96 * float(np.sqrt([1, place] @ line.cov_params() @ [1, place]))
        assert (at.high - at.low) / 2 == pytest.approx(half, rel=0.06)


def test_a_step_lies_where_statsmodels_finds_the_likeliest_break(one_straight_course, monkeypatch):
    monkeypatch.setattr(ageing, "STEP", (0.1, 0.3))
    values, std = noisy(step=0.12)
    step = course_of(MONTHS, values, std, usual=48.0, from_fresh=True).known_step
    likelihood = {}
    for k in range(1, len(MONTHS) - 2):
        after = (np.arange(len(MONTHS)) > k).astype(float)
        design = sm.add_constant(np.column_stack([MONTHS, after]))
        likelihood[k] = sm.WLS(values, design, weights=1 / std**2).fit()
    best = max(likelihood, key=lambda k: likelihood[k].llf)
    assert (step.before, step.after) == (best, best + 1)
    assert step.lost.value == pytest.approx(-likelihood[best].params[2], abs=0.01)


def test_no_step_is_told_where_there_is_none():
    values, std = noisy()
    assert course_of(MONTHS, values, std, usual=48.0, from_fresh=True).known_step is None


def test_an_even_loss_crosses_where_arithmetic_says():
    # 80% of 0.96 is lost at 0.192 / 0.004 = 48 months.
    course = course_of(MONTHS, 0.96 - 0.004 * MONTHS, [0.003] * len(MONTHS), usual=48.0, from_fresh=True)  # fmt: skip
    told = course.crosses(0.8, of_fresh=True)
    assert told.value == pytest.approx(48, abs=1)
    assert told.low < 48 < told.high
    # 80% of the label: 0.16 / 0.004.
    assert course.crosses(0.8, of_fresh=False).value == pytest.approx(40, abs=1)
    assert course.per_unit.value == pytest.approx(0.004, rel=0.1)
    assert course.by_tests
    assert course.falls


def test_a_step_brings_the_end_nearer():
    even = 0.99 - 0.002 * MONTHS
    whole = course_of(MONTHS, even, [0.005] * len(MONTHS), usual=48.0, from_fresh=True)
    broken = even - np.where(MONTHS > 10, 0.12, 0.0)
    stepped = course_of(MONTHS, broken, [0.005] * len(MONTHS), usual=48.0, from_fresh=True)
    assert stepped.crosses(0.8, True).high < whole.crosses(0.8, True).low


def test_what_nobody_lives_to_see_is_told_as_the_bound():
    level = course_of([0.0, 60.0, 90.0], [1.0, 1.0, 1.0], [0.002] * 3, usual=48.0, from_fresh=True)
    assert level.crosses(0.7, True).high == pytest.approx(LONGEST * 48.0)
    assert not level.falls


def test_fewer_than_two_places_make_no_course_and_unequal_lists_are_refused():
    assert course_of([3.0], [0.9], [0.01], usual=48.0, from_fresh=True) is None
    assert course_of([3.0, 3.0], [0.9, 0.8], [0.01, 0.01], usual=48.0, from_fresh=True) is None
    with pytest.raises(ValueError, match="equally long"):
        course_of([0.0, 1.0], [0.9], [0.01], usual=48.0, from_fresh=True)


def test_the_end_of_simulated_lives_lies_within_what_was_told():
    """A seeded run in small of `./limpet bench verdicts`; of 120, chance leaves 88% of 93 to 98."""
    found = courses(120, seed=2)
    assert held(found) >= 0.88
    assert sum(course.known_step is not None for one, course in found if one.dead_at is None) <= 3
    # A tighter prior would hold as well and tell nothing: half of the lives are told to within a factor.
    told = [course.crosses(0.8, True) for _, course in found]
    assert np.median([item.high / item.low for item in told]) < 8


def test_the_published_table_is_of_such_lives():
    printed = told(12, seed=2)
    assert printed.startswith("80% of 12 lives, all: held")
    assert "steps told where there was none: 0" in printed


def test_the_usual_end_goes_by_what_is_assumed_of_a_month():
    assert usual_months() == pytest.approx(0.2 / 0.0042)
