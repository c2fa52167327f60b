"""Quantities against the `uncertainties` package and the GUM's own example."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from uncertainties import ufloat

from limpet.errors import OutOfRangeError
from limpet.quantity import Quantity, agree, ratio, rectangular

POSITIVE = st.floats(0.1, 1e4)
SHARE = st.floats(0, 0.3)


@given(POSITIVE, SHARE, POSITIVE, SHARE)
def test_a_ratio_has_the_uncertainty_that_the_uncertainties_package_gives(a, ra, b, rb):
    # uncertainties 3.2.3, linear propagation, as JCGM 100:2008 (GUM) 5.1.2.
    expected = ufloat(a, ra * a) / ufloat(b, rb * b)
    found = ratio(Quantity.of(a, "Wh", ra * a), Quantity.of(b, "m", rb * b), "Wh/m")
    assert found.value == pytest.approx(expected.nominal_value, rel=1e-12)
    assert found.standard_uncertainty == pytest.approx(expected.std_dev, rel=1e-9, abs=1e-15)


def test_a_rectangular_half_width_follows_the_gum():
    # GUM 4.3.7: ± a without more knowledge has u = a/√3.
    assert rectangular(0.5) == pytest.approx(0.5 / 3**0.5)


def test_the_interval_is_twice_the_standard_uncertainty():
    found = Quantity.of(100.0, "Wh", 3.0)
    assert (found.low, found.high) == (94.0, 106.0)


def test_draws_of_a_normal_give_its_quantiles():
    # JCGM 101:2008, 7.7; normal quantiles ±1.95996.
    draws = np.random.default_rng(1).normal(50.0, 2.0, 200_000)
    found = Quantity.from_draws(draws, "m", 50.0)
    assert found.low == pytest.approx(50 - 1.95996 * 2, abs=0.05)
    assert found.high == pytest.approx(50 + 1.95996 * 2, abs=0.05)
    assert found.standard_uncertainty == pytest.approx(2.0, rel=0.01)


@pytest.mark.parametrize(
    ("apart", "verdict"), [(7.9, True), (8.1, False)]
)  # ISO 13528: |x₁ − x₂| ≤ √(U₁² + U₂²), with U = 2u and u = 2.828… → 8.0
def test_agreement_is_the_e_n_score(apart, verdict):
    u = 8 / 2 / 2**0.5
    assert agree(Quantity.of(100, "Wh", u), Quantity.of(100 + apart, "Wh", u)) is verdict


@given(POSITIVE, SHARE, st.floats(0.001, 1000))
def test_scaling_scales_everything(value, share, factor):
    found = Quantity.of(value, "m", share * value).scaled(factor, "x")
    assert found.relative == pytest.approx(share, abs=1e-9)
    assert found.low <= found.value <= found.high


@pytest.mark.parametrize(
    ("changes", "message"),
    [
        ({"value": float("nan")}, "must be finite"),
        ({"standard_uncertainty": -1.0}, "standard uncertainty is -1 Wh, expected 0 or more"),
        ({"low": 11.0}, "does not hold the value 10"),
    ],
)
def test_an_impossible_quantity_is_refused(changes, message):
    values = {"value": 10.0, "unit": "Wh", "standard_uncertainty": 1.0, "low": 8.0, "high": 12.0}
    with pytest.raises(OutOfRangeError, match=message):
        Quantity(**{**values, **changes})


def test_nothing_is_divided_by_zero():
    with pytest.raises(OutOfRangeError, match="the denominator is 0"):
        ratio(Quantity.of(1, "Wh"), Quantity.of(0, "m"), "Wh/m")
