"""What packs lose before anybody tested one twice, against sums by hand."""

from __future__ import annotations

import numpy as np
import pytest

from limpet.assumptions import as_assumed
from limpet.pack.wearing import (
    LOST_WHEN_WORN,
    PACKS_DIFFER,
    POWERS,
    lost_within,
    usual_cycles,
    usual_months,
)


def lost(months, cycles, count=40_000):
    return lost_within(months, cycles, count, np.random.default_rng(3))


def test_nothing_is_lost_at_once():
    assert (lost(0.0, None) == 0).all()
    assert (lost(0.0, 200.0) == 0).all()


def test_a_fresh_pack_loses_on_the_mean_what_the_mean_of_the_courses_loses():
    """E[lost·t^p] of independent factors, p by weight: the mean of a lognormal is as it is given."""
    t = 6.0 / usual_months()
    total = sum(weight for _, weight in POWERS)
    expected = LOST_WHEN_WORN * sum(weight * t**power for power, weight in POWERS) / total
    assert lost(6.0, 0.0).mean() == pytest.approx(expected, rel=0.02)


def test_in_the_time_that_is_usual_for_80_percent_a_fifth_is_lost_whatever_the_course():
    draws = lost(usual_months(), 0.0)
    assert draws.mean() == pytest.approx(0.2, rel=0.02)
    # The middle of a lognormal lies below its mean by e^(−σ²/2).
    assert np.median(draws) == pytest.approx(0.2 * np.exp(-(PACKS_DIFFER**2) / 2), rel=0.02)


def test_a_pack_loses_fastest_when_it_is_new_and_more_the_longer():
    fresh, used = lost(6.0, 0.0).mean(), lost(6.0, 0.4 * usual_cycles()).mean()
    assert fresh > 1.15 * used
    assert lost(12.0, None).mean() > 1.7 * lost(6.0, None).mean()


def test_what_is_assumed_of_a_month_is_what_it_goes_by():
    usual = lost(6.0, 0.0).mean()
    with as_assumed(lambda: {"lost_per_month": (0.0084, 0.0)}):
        assert lost(6.0, 0.0).mean() > 1.5 * usual


def test_no_pack_loses_more_than_it_has():
    draws = lost(240.0, 5000.0)
    assert ((draws >= 0) & (draws <= 0.9)).all()
