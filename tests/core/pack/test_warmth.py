"""A pack's own heat against an integration of the same lump by SciPy."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis.strategies import floats
from scipy.integrate import solve_ivp

from limpet.pack import capacity_factors, mean_pack_temp_c, resistance_factor
from limpet.pack.warmth import COOLING_S, ENERGY_WH_PER_KG, HOTTEST_C, SPECIFIC_HEAT_JPKGK


def mean_temp(air: float, amps: float, *, ohm=0.05, wh=500.0, volts=48.0, warming=1.0) -> float:
    return float(
        mean_pack_temp_c(
            np.array([air]),
            chemistry="nmc",
            current_a=np.array([amps]),
            warm_ohm=np.array([ohm]),
            full_wh=np.array([wh]),
            mean_v=volts,
            warming=np.array([warming]),
        )[0]
    )


def test_resistance_doubles_from_25_to_0_degrees():
    # Handbook section 5.
    factors = resistance_factor(np.array([40.0, 25.0, 0.0, -25.0]))
    assert factors.tolist() == [1.0, 1.0, 2.0, 4.0]


@pytest.mark.parametrize(("air", "amps"), [(25.0, 10.0), (25.0, 25.0), (30.0, 5.0)])
def test_in_the_warm_the_mean_is_that_of_the_integrated_lump(air, amps):
    # Above 25 °C neither resistance nor capacity changes, so the closed form is exact.
    capacity = 500.0 / ENERGY_WH_PER_KG["nmc"] * SPECIFIC_HEAT_JPKGK
    seconds = 500.0 / (amps * 48.0) * 3600
    lump = solve_ivp(
        lambda t, y: [amps**2 * 0.05 / capacity - (y[0] - air) / COOLING_S, y[0]],
        (0, seconds),
        [air, 0.0],
        rtol=1e-9,
        atol=1e-9,
    )
    assert mean_temp(air, amps) == pytest.approx(lump.y[1, -1] / seconds, abs=0.1)


def test_in_the_cold_the_mean_is_near_that_of_the_integrated_lump():
    air, amps = 0.0, 20.0
    capacity = 500.0 / ENERGY_WH_PER_KG["nmc"] * SPECIFIC_HEAT_JPKGK
    end = 500.0 * float(capacity_factors("nmc", np.array([10.0]))[0]) / (amps * 48.0) * 3600

    def heat(t, y):
        ohm = 0.05 * float(resistance_factor(np.array([y[0]]))[0])
        return [amps**2 * ohm / capacity - (y[0] - air) / COOLING_S, y[0]]

    lump = solve_ivp(heat, (0, end), [air, 0.0], rtol=1e-8, atol=1e-8)
    # The mean is taken at the mean resistance, not along the way: a degree and a half.
    assert mean_temp(air, amps) == pytest.approx(lump.y[1, -1] / end, abs=1.5)


@given(floats(-20, 35), floats(0.5, 40))
def test_a_pack_is_never_colder_than_the_air_and_warmer_with_more_current(air, amps):
    found = mean_temp(air, amps)
    assert found >= air - 1e-9
    assert found <= max(HOTTEST_C, air) + 1e-9
    assert mean_temp(air, amps * 1.2) >= found - 0.05


def test_no_heat_kept_leaves_the_air_temperature():
    assert mean_temp(3.0, 20.0, warming=0.0) == pytest.approx(3.0)
