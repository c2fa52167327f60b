"""Shapes of inputs against SciPy, and the one-sided and rectangular ones at their ends."""

import numpy as np
import pytest
from scipy import stats

from limpet.uncertain.input import Input
from limpet.uncertain.normal import normal_probability

SCORES = stats.norm.ppf((np.arange(20_000) + 0.5) / 20_000)


def drawn(shape, value=10.0, std=1.0):
    item = Input(name="x", value=value, standard_uncertainty=std, source="test", shape=shape)
    return item.drawn(SCORES)


def test_probabilities_are_scipys():
    z = np.linspace(-6, 6, 1201)
    assert normal_probability(z) == pytest.approx(stats.norm.cdf(z), abs=1e-7)


@pytest.mark.parametrize(
    ("shape", "expected"),
    [
        ("normal", stats.norm(10, 1)),
        ("rectangular", stats.uniform(10 - 3**0.5, 2 * 3**0.5)),
        ("lognormal", stats.lognorm(np.sqrt(np.log1p(0.01)), scale=10)),
    ],
)
def test_draws_have_the_distribution_that_their_shape_names(shape, expected):
    assert stats.kstest(drawn(shape), expected.cdf).statistic < 1e-3


def test_a_shortfall_is_none_in_half_of_all_cases_and_never_an_excess():
    values = drawn("shortfall", 1.0, 0.02)
    assert (values == 1.0).mean() == pytest.approx(0.5, abs=1e-3)
    assert values.max() == 1.0
    assert np.quantile(values, 0.025) == pytest.approx(1 - 1.96 * 0.02, abs=1e-3)


def test_a_rectangular_input_stays_rectangular():
    # GUM 4.3.7: half-width a, u = a/√3; 95% of it lies within 0.95·a, not within 2u = 1.155·a.
    low, high = np.quantile(drawn("rectangular", 0.0, 1 / 3**0.5), [0.025, 0.975])
    assert (low, high) == pytest.approx((-0.95, 0.95), abs=1e-3)


def test_what_is_certain_stays_so():
    assert set(drawn("rectangular", 4.0, 0.0)) == {4.0}


def test_any_direction_is_every_direction():
    assert np.histogram(drawn("any_direction"), 36, (0, 360))[0] == pytest.approx(
        20_000 / 36, rel=0.02
    )
