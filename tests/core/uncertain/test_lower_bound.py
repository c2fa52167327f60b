"""Bounds of what comes next, against worked examples and SciPy."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import stats

from limpet.uncertain.lower_bound import tolerance_factor
from limpet.uncertain.student import student_of, student_quantile


def test_the_handbooks_three_runs():
    """Handbook section 12: 30.1, 28.4, 31.0 have a floor of 25.38."""
    runs = np.array([30.1, 28.4, 31.0])
    factor = student_quantile(0.95, 2) * (1 + 1 / 3) ** 0.5
    floor = runs.mean() - factor * runs.std(ddof=1)
    assert floor == pytest.approx(25.38, abs=0.005)


def test_the_wafers_of_the_nist_handbook():
    """NIST/SEMATECH e-Handbook 7.2.6.3, 43 wafers, 90% with 99 % certainty: 1.8740 (from memory)."""
    assert tolerance_factor(43, 42, 0.90, 0.99) == pytest.approx(1.8740, abs=5e-5)


@pytest.mark.parametrize(("runs", "freedom"), [(2, 9.0), (4, 11.0), (12, 19.0)])
def test_a_tolerance_bound_holds_as_often_as_it_says(runs, freedom):
    """By what is drawn: a mean of n normal runs and a standard deviation of its own freedom."""
    rng = np.random.default_rng(12)
    mean = rng.standard_normal(200_000) / runs**0.5
    std = np.sqrt(rng.chisquare(freedom, 200_000) / freedom)
    bound = mean - tolerance_factor(runs, freedom, 0.95, 0.95) * std
    assert (stats.norm.sf(bound) >= 0.95).mean() == pytest.approx(0.95, abs=0.003)


def test_normal_numbers_become_students():
    scores = stats.norm.ppf((np.arange(999) + 0.5) / 999)
    assert student_of(scores, 5.0) == pytest.approx(stats.t.ppf(stats.norm.cdf(scores), 5.0))
