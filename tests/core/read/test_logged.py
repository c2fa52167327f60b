"""Energy from samples: SciPy, PyBaMM and closed forms as judges."""

import os

import numpy as np
import polars as pl
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import simpson, trapezoid
from uncertainties import ufloat

os.environ["PYBAMM_DISABLE_TELEMETRY"] = "true"
import pybamm

from limpet.pack import PackSpec
from limpet.read.logged import BLIND_FILL_STD, integrate, logged_energy
from limpet.read.window import ride_window
from limpet.tell import analyse
from tests.strategies import accuracies, range_test


@st.composite
def uneven(draw):
    n = draw(st.integers(3, 60))
    steps = np.array(draw(st.lists(st.floats(0.05, 9.0), min_size=n, max_size=n)))
    volts = np.array(draw(st.lists(st.floats(20, 80), min_size=n, max_size=n)))
    amps = np.array(draw(st.lists(st.floats(-30, 60), min_size=n, max_size=n)))
    return np.cumsum(steps), volts, amps


@given(uneven())
def test_energy_and_charge_on_uneven_samples_are_scipys(log):
    # scipy 1.17, integrate.trapezoid. No step is over 10 s, so none is a gap.
    time, volts, amps = log
    found = integrate(time, volts, amps)
    assert found.energy_wh[-1] == pytest.approx(trapezoid(volts * amps, time) / 3600, abs=1e-9)
    assert found.charge_ah[-1] == pytest.approx(trapezoid(amps, time) / 3600, abs=1e-12)
    back = trapezoid(np.minimum(volts * amps, 0), time) / 3600
    assert found.returned_wh == pytest.approx(-back, abs=1e-9)
    assert found.volt_hours == pytest.approx(trapezoid(volts, time) / 3600, abs=1e-9)


def test_a_smooth_signal_is_integrated_within_its_stated_error():
    # scipy 1.17, integrate.simpson on a grid a hundred times finer stands for the truth.
    fine = np.linspace(0, 600, 60_001)
    power = 300 + 200 * np.sin(fine / 20)
    truth = simpson(power, x=fine) / 3600
    found = integrate(fine[::100], np.full(601, 50.0), power[::100] / 50)
    assert abs(found.energy_wh[-1] - truth) <= found.step_error_wh + 1e-9
    assert found.step_error_wh < 1e-3 * truth


def test_charge_and_energy_of_a_constant_power_discharge_are_pybambs():
    # PyBaMM 26.10, single-particle model, Chen2020, 8 W out of one cell for 40 minutes.
    model = pybamm.lithium_ion.SPM({"operating mode": "power"})
    values = pybamm.ParameterValues("Chen2020")
    values["Power function [W]"] = 8.0
    solution = pybamm.Simulation(model, parameter_values=values).solve(np.arange(0, 2401, 2.0))
    volts, amps = solution["Voltage [V]"].entries, solution["Current [A]"].entries
    found = integrate(solution.t, volts, amps)
    assert found.energy_wh[-1] == pytest.approx(8.0 * 2400 / 3600, rel=1e-4)
    expected_ah = solution["Discharge capacity [A.h]"].entries[-1]
    assert found.charge_ah[-1] == pytest.approx(expected_ah, rel=1e-4)


def ride(n=1800, gap=None, amps=8.0, **columns):
    """Half an hour at one sample a second, 50 V and 8 A: 200 Wh and 9 km."""
    time = np.arange(float(n + 1))
    data = {"time_s": time, "voltage_v": np.full(n + 1, 50.0), "current_a": np.full(n + 1, amps)}
    data["distance_m"] = time * 5.0
    data |= columns
    frame = pl.DataFrame(data)
    if gap is not None:
        inside = (pl.col("time_s") > gap[0]) & (pl.col("time_s") < gap[1])
        frame = frame.filter(~inside)
    return frame


def energy_of(frame, **changes):
    result = analyse(range_test(samples=frame, **changes))
    return result, next(m for m in result.energy_methods if m.method == "sampled")


def test_uncertainty_is_the_gum_budget_of_two_common_gains():
    # GUM 5.1.6 with rectangular accuracies (4.3.7): the uncertainties package does the sum.
    _, method = energy_of(ride(), instruments=accuracies(voltage=0.5, current=1.0))
    gain_v, gain_i = ufloat(1, 0.005 / 3**0.5), ufloat(1, 0.01 / 3**0.5)
    expected = gain_v * gain_i * 50 * 8 * 0.5
    assert method.quantity.value == pytest.approx(expected.nominal_value, rel=1e-9)
    assert method.quantity.standard_uncertainty == pytest.approx(expected.std_dev, rel=1e-6)


def test_an_unstated_current_sensor_may_have_an_offset():
    # u² = (E·√(u_gV² + u_gI²))² + (u(I₀)·∫V dt)², handbook section 4; 0.02 A is assumed.
    _, method = energy_of(ride(), instruments=accuracies(voltage=0.5))
    gain = np.hypot(0.005, 0.02) / 3**0.5 * 200
    assert method.quantity.standard_uncertainty == pytest.approx(np.hypot(gain, 0.02 * 50 * 0.5))


def test_more_samples_do_not_average_a_gain_away():
    coarse, fine = (energy_of(ride().gather_every(k))[1].quantity.relative for k in (2, 1))
    assert fine == pytest.approx(coarse, rel=1e-3)


def test_a_gap_is_filled_from_the_meters_own_watt_hours():
    counter = np.linspace(0, 210, 1801)
    result, method = energy_of(ride(gap=(600, 900), energy_wh=counter))
    read = 200 * 1500 / 1800
    assert method.quantity.value == pytest.approx(read + 210 * 300 / 1800, rel=1e-6)
    assert any(
        "gap of 300 s at 600 s" in w.message and "watt-hours" in w.message for w in result.warnings
    )


def test_a_gap_is_filled_from_amp_hours_times_the_voltage_either_side():
    charge = np.linspace(0, 4.2, 1801)
    _, method = energy_of(ride(gap=(600, 900), charge_ah=charge))
    assert method.quantity.value == pytest.approx(200 * 1500 / 1800 + 4.2 / 6 * 50, rel=1e-6)


def test_a_counter_that_stood_still_does_not_fill_a_gap():
    charge = np.minimum(np.linspace(0, 4.2, 1801), 1.4)
    charge[900:] -= 0.0
    result, method = energy_of(ride(gap=(600, 900), charge_ah=charge))
    assert method.quantity.value == pytest.approx(200, rel=1e-6)
    told = [w.values["source"] for w in result.warnings if w.code == "sample_gap"]
    assert told == ["distance"]


def test_a_gap_without_counters_is_filled_from_the_distance_and_widens_the_result():
    whole = energy_of(ride())[1].quantity
    _, method = energy_of(ride(gap=(600, 900)))
    piece = 200 * 300 / 1800
    assert method.quantity.value == pytest.approx(200, rel=1e-6)
    assert method.quantity.standard_uncertainty > max(0.3 * piece, whole.standard_uncertainty)


def test_a_gap_without_anything_is_filled_from_the_power_around_it_and_more_doubtful():
    frame = ride(gap=(600, 900)).drop("distance_m")
    _, method = energy_of(frame)
    assert method.quantity.standard_uncertainty > 0.55 * 200 * 300 / 1800


@pytest.mark.parametrize(("step", "is_gap"), [(10.0, False), (11.0, True)])
def test_a_pause_over_ten_seconds_and_five_steps_is_a_gap(step, is_gap):
    time = np.concatenate([np.arange(100.0), 99 + step + np.arange(100.0)])
    found = integrate(time, np.full(200, 50.0), np.full(200, 8.0))
    assert found.gap.any() == is_gap
    slow = integrate(np.arange(0, 2000, 4.0), np.full(500, 50.0), np.full(500, 8.0))
    assert not slow.gap.any()


def test_empty_cells_count_as_not_sampled():
    frame = ride().with_columns(
        pl.when(pl.col("time_s").is_between(600, 900))
        .then(None)
        .otherwise(pl.col("current_a"))
        .alias("current_a")
    )
    result, method = energy_of(frame)
    assert method.quantity.value == pytest.approx(200, rel=1e-6)
    assert any(w.code == "sample_gap" for w in result.warnings)


def test_regeneration_is_apart_and_the_energy_net():
    amps = np.where(np.arange(1801) < 1200, 8.0, -2.0)
    result, method = energy_of(ride(amps=amps))
    assert result.regeneration.energy_wh == pytest.approx(2 * 50 * 600 / 3600, rel=2e-3)
    gross = result.regeneration.energy_wh / result.regeneration.fraction_of_drawn
    assert method.quantity.value == pytest.approx(gross - result.regeneration.energy_wh, rel=1e-6)


def test_many_gaps_are_told_in_one_sentence():
    frame = ride(n=3600)
    for begin in range(300, 3300, 300):
        frame = frame.filter(~pl.col("time_s").is_between(begin + 1, begin + 29))
    result, method = energy_of(frame)
    assert [w.code for w in result.warnings].count("sample_gaps") == 1
    assert method.quantity.value == pytest.approx(400, rel=1e-6)


def test_a_logger_that_stopped_early_is_completed_from_the_trip_meter():
    from limpet.evidence.model import Entry

    entries = [Entry(time_s=t, kind="checkpoint", trip_m=t * 5.0) for t in (0, 900, 1800, 2400)]
    result = analyse(range_test(*entries, samples=ride()))
    method = next(m for m in result.energy_methods if m.method == "sampled")
    assert method.quantity.value == pytest.approx(200 * 2400 / 1800, rel=2e-3)
    incomplete = next(w for w in result.warnings if w.code == "samples_incomplete")
    # 1800 s of 2400 s were logged; the rest is what the trip meter says at the same consumption.
    assert incomplete.values["share"] == pytest.approx(0.75, rel=2e-3)
    assert incomplete.values["filled_wh"] == pytest.approx(method.quantity.value / 4, rel=5e-3)


@given(st.floats(0.5, 2.0))
@settings(max_examples=10)
def test_energy_scales_with_the_current(factor):
    one = energy_of(ride(amps=8.0), pack=PackSpec(chemistry="nmc", series=13, rated_ah=40.0))[1]
    other = energy_of(
        ride(amps=8.0 * factor), pack=PackSpec(chemistry="nmc", series=13, rated_ah=40.0)
    )[1]
    assert other.quantity.value == pytest.approx(factor * one.quantity.value)


def test_gaps_that_the_same_neighbours_fill_are_wrong_together():
    # GUM 5.2.2: fully correlated errors add up as they are, not by their squares.
    in_gap = (pl.col("time_s") % 900 > 100) & (pl.col("time_s") % 900 < 160)
    test = range_test(
        samples=ride().drop("distance_m").filter(~in_gap),
        instruments=accuracies(voltage=0.0, current=0.0),
    )
    found = logged_energy(test, ride_window(test), None)
    filled_wh = 2 * 60 * 400 / 3600
    assert found.energy.filled == pytest.approx(filled_wh, rel=0.02)
    assert found.energy.other_std == pytest.approx(BLIND_FILL_STD * filled_wh, rel=0.02)
