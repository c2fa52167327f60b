"""Road load against closed forms (handbook section 10) and against integration by SciPy."""

from __future__ import annotations

from math import atan, log, sqrt

import numpy as np
import pytest
from hypothesis import given
from hypothesis.strategies import floats
from scipy.integrate import solve_ivp

from limpet.road import (
    headwind_mps,
    pack_power_w,
    speed_at_power_mps,
    steady_wh_per_km,
    tyre_factor,
    wheel_force_n,
)
from limpet.units import STANDARD_GRAVITY_MPS2


def force(speed, *, mass=105.0, crr=0.012, cda=0.6, density=1.2, grade=0.0, wind=0.0, accel=0.0):
    return float(
        wheel_force_n(
            speed_mps=np.array([speed]),
            mass_kg=np.array([mass]),
            crr=np.array([crr]),
            cda_m2=np.array([cda]),
            density_kgpm3=np.array([density]),
            grade=np.array([grade]),
            headwind_mps=np.array([wind]),
            accel_mps2=accel,
        )[0]
    )


def test_steady_consumption_is_the_handbooks_worked_example():
    # Handbook section 10: m = 105 kg, v = 6 m/s, … → 9.016 Wh/km = 14.51 Wh/mi.
    found = steady_wh_per_km(
        speed_mps=np.array([6.0]),
        mass_kg=np.array([105.0]),
        crr=np.array([0.012]),
        cda_m2=np.array([0.6]),
        density_kgpm3=np.array([1.2]),
        efficiency=np.array([0.78]),
        aux_w=np.array([0.0]),
    )
    assert found[0] == pytest.approx(9.016, abs=5e-4)
    assert found[0] * 1.609344 == pytest.approx(14.51, abs=5e-3)


def test_a_coast_down_takes_the_closed_forms_time_and_distance():
    # t = atan(v₀√(B/A))/√(AB), s = ln(1+B·v₀²/A)/(2B), handbook section 10; without the rotating
    # parts' share, as there.
    a, b, start = 0.012 * STANDARD_GRAVITY_MPS2, 1.2 * 0.6 / (2 * 105), 8.0
    closed_s, closed_m = (
        atan(start * sqrt(b / a)) / sqrt(a * b),
        log(1 + b * start**2 / a) / (2 * b),
    )
    assert (closed_s, closed_m) == (pytest.approx(46.73, abs=5e-3), pytest.approx(153.48, abs=5e-3))

    def stopped(t, y):
        return y[0] - 1e-4

    stopped.terminal = True
    coasted = solve_ivp(
        lambda t, y: [-force(max(y[0], 0.0)) / 105.0, y[0]],
        (0, 100),
        [start, 0.0],
        events=stopped,
        rtol=1e-9,
        atol=1e-9,
    )
    assert coasted.t[-1] == pytest.approx(closed_s, abs=2e-3)
    assert coasted.y[1, -1] == pytest.approx(closed_m, abs=1e-3)


def test_terminal_speed_on_a_grade_is_where_gravity_meets_air():
    # m·g·(sinθ − C_rr·cosθ) = ½ρCdA·v², closed form: no power is needed at that speed.
    grade = -0.05
    pull = 105 * STANDARD_GRAVITY_MPS2 * (0.05 - 0.012 * sqrt(1 - grade**2))
    terminal = sqrt(pull / (0.5 * 1.2 * 0.6))
    assert force(terminal, grade=grade) == pytest.approx(0.0, abs=1e-9)
    rolling_and_grade = np.array([-pull])
    held = speed_at_power_mps(
        np.array([1e-6]), rolling_and_grade, np.array([0.36]), np.zeros(1), np.array([60.0])
    )
    assert held[0] == pytest.approx(terminal, rel=1e-4)


def test_a_climb_costs_its_height():
    # m·g·h over a kilometre at 3%: closed form.
    flat, hill = force(5.0, crr=0.0, cda=0.0), force(5.0, crr=0.0, cda=0.0, grade=0.03)
    assert flat == 0
    assert hill * 1000 == pytest.approx(105 * STANDARD_GRAVITY_MPS2 * 30)


@given(floats(50, 3000), floats(-60, 400), floats(0.1, 0.6), floats(-8, 12), floats(2, 30))
def test_the_speed_at_a_power_gives_that_power_back(power, resisting, drag, wind, at_most):
    speed = speed_at_power_mps(
        np.array([power]), np.array([resisting]), np.array([drag]), np.array([wind]),
        np.array([at_most]),
    )  # fmt: skip
    air = speed + wind
    needed = float(((resisting + drag * air * np.abs(air)) * speed)[0])
    if speed[0] < at_most - 1e-9:
        assert needed == pytest.approx(power, abs=0.02)
    else:
        assert needed <= power + 0.02


def test_the_pack_gives_and_takes_by_the_sign_of_the_wheels_power():
    given_w = pack_power_w(
        np.array([400.0, -300.0]),
        inverse_efficiency=np.array([1.25, 1.25]),
        aux_w=np.array([10.0, 10.0]),
        returned=np.array([0.5, 0.5]),
    )
    assert given_w.tolist() == [pytest.approx(510.0), pytest.approx(-140.0)]


def test_wind_from_ahead_is_a_headwind_and_from_the_side_is_none():
    assert headwind_mps(5, 90, 90) == pytest.approx(5)
    assert headwind_mps(5, 270, 90) == pytest.approx(-5)
    assert headwind_mps(5, 180, 90) == pytest.approx(0, abs=1e-12)


def test_half_the_tyre_pressure_adds_twenty_to_forty_percent():
    # Handbook section 10, from memory: common practice, no source.
    assert 1.2 < tyre_factor(150, 300) < 1.4
    assert tyre_factor(300, 300) == 1
