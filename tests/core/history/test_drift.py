"""How a gauge and the instruments changed over the years."""

from __future__ import annotations

import pytest
import statsmodels.api as sm

from limpet.history.drift import drifts_of
from tests.core.history.test_life import dated

STEPS = (1.0, 0.8, 0.6, 0.4, 0.2)


def with_gauge(month, off=0.0, **more):
    return dated(month, gauge=tuple((step, step - 0.03 + off, 0.01) for step in STEPS), **more)


def test_a_gauge_that_leaves_less_each_year_at_the_same_step_drifts():
    tests = [with_gauge(month, off=-0.08 * month / 12) for month in (0, 6, 12, 24, 36)]
    (gauge,) = drifts_of(tests)
    assert (gauge.name, gauge.shown, gauge.tests) == ("gauge", True, 5)
    assert gauge.per_year.value == pytest.approx(-0.08, abs=0.001)
    assert gauge.said.code == "drift_gauge"
    assert "less" in gauge.said.message


def test_a_gauge_that_stays_shows_none_and_says_how_much_would_have_been_seen():
    (gauge,) = drifts_of([with_gauge(month) for month in (0, 12, 24)])
    assert not gauge.shown
    assert gauge.per_year.value == pytest.approx(0, abs=1e-9)
    assert gauge.said.code == "drift_gauge_none"
    assert gauge.said.values["seen"] == pytest.approx(gauge.per_year.high)


def test_a_wheels_factor_is_the_weighted_line_of_statsmodels_with_its_history():
    months, factors = (0, 8, 15, 24), (1.01, 1.03, 1.05, 1.08)
    tests = [
        dated(month, factors={"trip": (factor, 0.004)}, names={"trip": "wheel"})
        for month, factor in zip(months, factors, strict=True)
    ]
    (wheel,) = drifts_of(tests)
    years = [month / 12 for month in months]
    line = sm.WLS(factors, sm.add_constant(years)).fit()
    assert wheel.per_year.value == pytest.approx(line.params[1], rel=0.01)
    assert (wheel.name, wheel.of, wheel.shown) == ("trip", "wheel", True)
    assert [point.factor.value for point in wheel.points] == list(factors)
    assert wheel.points[-1].years == pytest.approx(2, rel=0.01)


def test_two_wheels_are_told_apart_and_two_tests_or_one_month_tell_nothing():
    tests = [
        dated(month, factors={"trip": (1.0 + 0.05 * (month > 12), 0.01)}, names={"trip": "new" if month > 12 else "old"})
        for month in (0, 10, 20, 30)
    ]  # fmt: skip
    assert drifts_of(tests) == ()
    soon = [dated(month / 30, factors={"trip": (1.0, 0.01)}) for month in (0, 1, 2)]
    assert drifts_of(soon) == ()
    assert drifts_of([]) == ()


def test_percent_that_were_read_a_little_apart_are_one_step():
    tests = [
        dated(month, gauge=((shown, 0.5 - 0.1 * month / 12, 0.01),), gauge_percent=True)
        for month, shown in ((0, 0.51), (12, 0.49), (24, 0.5))
    ]
    (gauge,) = drifts_of(tests)
    assert gauge.per_year.value == pytest.approx(-0.1, abs=0.001)
