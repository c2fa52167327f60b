"""A trend against numpy's own least squares, SciPy's linregress, and draws of its crossing."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.stats import linregress
from scipy.stats import t as student

from limpet.history.trend import trend_of

X = [0.0, 6.0, 12.0, 18.0, 24.0]
Y = [1.0, 0.962, 0.925, 0.894, 0.85]


def test_equal_weights_are_the_line_and_the_slopes_error_of_linregress():
    # Points that scatter more than their u: the Birge ratio makes the error that of the scatter.
    found = trend_of(X, Y, [0.0001] * 5)
    ours = linregress(X, Y)
    assert found.slope == pytest.approx(ours.slope)
    assert found.at_zero == pytest.approx(ours.intercept)
    assert found.covariance[1][1] ** 0.5 == pytest.approx(ours.stderr, rel=1e-6)
    assert found.covariance[0][0] ** 0.5 == pytest.approx(ours.intercept_stderr, rel=1e-6)
    assert found.factor == pytest.approx(student.ppf(0.975, 3))


def test_points_that_agree_too_well_are_as_sure_as_they_say_themselves():
    std = 0.02
    found = trend_of(X, Y, [std] * 5)
    spread = float(np.sum((np.array(X) - np.mean(X)) ** 2))
    # Textbook: var(slope) = u² / Σ(x − x̄)².
    assert found.covariance[1][1] == pytest.approx(std**2 / spread)


def test_a_sure_point_counts_more_than_a_vague_one():
    bent = [*Y[:-1], 0.5]
    sure = trend_of(X, bent, [0.01] * 5)
    vague = trend_of(X, bent, [0.01] * 4 + [10.0])
    assert sure.slope < 1.5 * vague.slope
    assert vague.slope == pytest.approx(trend_of(X[:4], Y[:4], [0.01] * 4).slope, rel=1e-3)


def test_the_band_is_narrowest_at_the_weighted_middle():
    found = trend_of(X, Y, [0.02] * 5)
    assert found.std(12.0) < found.std(0.0)
    value, low, high = found.at(30.0)
    assert low < value < high
    assert high - value == pytest.approx(found.factor * found.std(30.0))


def test_a_crossing_holds_as_often_as_it_says():
    # The truth falls by 0.6% a month from 1 and reaches 0.8 after 33.3 months.
    rng, std, hits, runs = np.random.default_rng(3), 0.008, 0, 400
    for _ in range(runs):
        drawn = 1.0 - 0.006 * np.array(X) + rng.normal(0, std, 5)
        found = trend_of(X, drawn, [std] * 5)
        crossing = found.crosses(0.8)
        assert crossing is not None
        at, low, high = crossing
        assert low < at < high
        hits += low <= 100 / 3 <= high
    # 95% asked for; where the points agree too well their own u stands, which is wider.
    assert hits / runs > 0.95


def test_where_the_crossing_begins_and_ends_the_line_holds_the_level():
    found = trend_of(X, Y, [0.008] * 5)
    _, low, high = found.crosses(0.8)
    # Fieller's bounds are where the line's own interval touches the level.
    assert found.at(low)[1] == pytest.approx(0.8, abs=1e-9)
    assert found.at(high)[2] == pytest.approx(0.8, abs=1e-9)


def test_a_line_that_may_not_fall_crosses_nothing():
    found = trend_of(X, [1.0, 1.02, 0.99, 1.01, 1.0], [0.02] * 5)
    assert not found.falls
    assert found.crosses(0.8) is None


@pytest.mark.parametrize(
    ("x", "y"), [([], []), ([0.0, 5.0], [1.0, 0.9]), ([3.0, 3.0, 3.0], [1.0, 0.9, 0.8])]
)
def test_too_little_makes_no_trend(x, y):
    assert trend_of(x, y, [0.01] * len(x)) is None


def test_lengths_that_differ_are_refused():
    with pytest.raises(ValueError, match="equally long"):
        trend_of([1.0, 2.0], [1.0], [0.1, 0.1])
