"""Who guesses best: a proper score, by its closed form and by the integral that defines it."""

from __future__ import annotations

from math import log

import numpy as np
import pytest
from scipy import integrate, stats

from limpet.planning.wagers import FORECAST, MOST_RIDES, Wager, crps_normal, standings


@pytest.mark.parametrize(
    ("fact", "mean", "std"), [(0.0, 0.0, 1.0), (2.0, 0.5, 0.7), (-3.0, 1.0, 2.0)]
)
def test_the_score_of_a_normal_forecast_is_the_integral_of_its_definition(fact, mean, std):
    def gap(x):
        return (stats.norm.cdf(x, mean, std) - (x >= fact)) ** 2

    below, _ = integrate.quad(gap, mean - 12 * std - 5, fact, limit=200)
    above, _ = integrate.quad(gap, fact, mean + 12 * std + 5, limit=200)
    assert crps_normal(fact, mean, std) == pytest.approx(below + above, rel=1e-6)


def test_without_a_spread_it_is_the_distance():
    assert crps_normal(3.0, 1.0, 0.0) == 2.0
    assert crps_normal(3.0, 1.0, 1e-9) == pytest.approx(2.0)


def test_who_says_what_they_think_has_the_least_in_the_mean():
    """Proper: over many facts of one distribution its own median and spread score best."""
    facts = stats.norm.ppf((np.arange(2000) + 0.5) / 2000, 1.0, 0.5)
    honest = np.mean([crps_normal(fact, 1.0, 0.5) for fact in facts])
    for mean, std in ((1.2, 0.5), (1.0, 0.25), (1.0, 1.0), (0.8, 0.7)):
        assert np.mean([crps_normal(fact, mean, std) for fact in facts]) > honest
    # The closed form of the mean: σ/√π.
    assert honest == pytest.approx(0.5 / np.sqrt(np.pi), rel=1e-3)


def test_the_nearest_in_proportion_over_all_rides_stands_first():
    table = standings(
        [
            Wager(title="a", fact_m=20_000, guesses={"Ines": 22_000, "Tobias": 19_000}),
            Wager(
                title="b",
                fact_m=40_000,
                guesses={"Ines": 44_000, "Tobias": 39_000, "Maren": 41_000},
            ),
        ]
    )
    assert [one.name for one in table] == ["Maren", "Tobias", "Ines"]
    maren, tobias, ines = table
    assert (maren.rides, tobias.rides) == (1, 2)
    assert ines.score == pytest.approx(log(1.1))
    assert tobias.score == pytest.approx((log(20 / 19) + log(40 / 39)) / 2)
    assert (ines.high_of_ten, tobias.high_of_ten) == (10, 0)


def test_the_forecast_stands_among_them_and_what_says_nothing_is_passed_over():
    table = standings(
        [
            Wager(title="a", fact_m=20_000, guesses={"Ines": 26_000, "Nobody": 0.0}, forecast_m=(21_000, 2_000)),
            Wager(title="b", fact_m=0.0, guesses={"Ines": 5_000}),
        ]
    )  # fmt: skip
    assert [(one.name, one.is_forecast) for one in table] == [(FORECAST, True), ("Ines", False)]
    expected = crps_normal(log(20_000), log(21_000), 2 / 21)
    assert table[0].score == pytest.approx(expected)
    assert table[1].rides == 1


def test_the_latest_rides_count():
    old = [Wager(title="o", fact_m=10_000, guesses={"Ines": 30_000})] * 3
    new = [Wager(title="n", fact_m=10_000, guesses={"Ines": 10_000})] * MOST_RIDES
    (ines,) = standings([*old, *new])
    assert (ines.score, ines.rides) == (0, MOST_RIDES)
