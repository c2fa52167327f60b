"""Shares from resting volts: where cut-off lies, and whether the intervals hold what they say."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from limpet.pack import PackSpec, ocv_curve, voltage_limits
from limpet.result.promise import cold_factor, promised_energy
from limpet.result.rest import Resistance, RestReading
from limpet.result.share import energy_share, usable_floor
from tests.strategies import PACK, accuracies, range_test

OHM = Resistance(ohm=0.12, std_ohm=0.024, measured=True)
LFP = PackSpec(chemistry="lfp", series=16, rated_ah=20.0, full_v=57.6, cutoff_v=44.8)


def reading(volts, settled=True):
    return RestReading(time_s=0.0, voltage_v=volts, settled=settled)


def share_of(first, last, pack=PACK, settled=True, current_a=6.0, **changes):
    test = range_test(pack=pack, **changes)
    return energy_share(test, reading(first), reading(last, settled), current_a, OHM)


@given(st.floats(0, 30), st.sampled_from([PACK, LFP]))
def test_usable_energy_ends_where_the_loaded_voltage_meets_cutoff(current_a, pack):
    # OCV(z) − I·R = V_cut, handbook section 5, put back into the curve.
    z, _ = usable_floor(ocv_curve(pack.chemistry), pack, current_a, OHM)
    loaded = ocv_curve(pack.chemistry).voltage(np.array([z]))[0] * pack.series - current_a * OHM.ohm
    _, cutoff_v, _ = voltage_limits(pack)
    if 0 < z < 1:
        assert loaded == pytest.approx(cutoff_v, abs=1e-6)


def test_a_gentle_ride_gets_more_out_of_a_pack():
    curve = ocv_curve("nmc")
    floors = [usable_floor(curve, PACK, amps, OHM)[0] for amps in (2.0, 10.0, 25.0)]
    assert floors == sorted(floors)
    assert floors[0] < floors[-1]


@pytest.mark.parametrize("settled", [True, False])
def test_the_interval_of_a_share_holds_the_truth_as_often_as_it_says(settled):
    # 400 rides with true charge, a meter's gain, an unsettled reading and a curve that is off by
    # the assumed 0.03 in z: at least 93 % of the intervals must hold the true share of charge.
    rng = np.random.default_rng(11)
    curve = ocv_curve("nca")
    pack = PackSpec(chemistry="nca", series=13, rated_ah=14.0, full_v=54.6, cutoff_v=39.0)
    z_cut = usable_floor(curve, pack, 6.0, OHM)[0]
    held = 0
    for _ in range(400):
        true = rng.uniform(0.3, 0.85)
        gain = 1 + rng.uniform(-0.005, 0.005)
        off = 0.0 if settled else rng.normal(0, 0.010)
        cell = curve.voltage(np.array([np.clip(true + rng.normal(0, 0.03), 0, 1)]))[0] + off
        found = share_of(
            54.6 * gain, cell * 13 * gain, pack, settled, instruments=accuracies(voltage=0.5)
        )
        share = (1 - true) / (1 - z_cut)
        held += found.charge_used.low <= share <= found.charge_used.high
    assert held / 400 >= 0.93


def test_a_worse_meter_gives_a_wider_share():
    fine, coarse = (
        share_of(54.4, 48.0, instruments=accuracies(voltage=x)).used for x in (0.2, 2.0)
    )
    assert coarse.standard_uncertainty > 1.3 * fine.standard_uncertainty


def test_the_whole_usable_pack_is_a_share_of_one():
    # Down to the resting voltage at which a 6 A ride is cut off: all of the usable energy.
    last = 39.0 + 6.0 * OHM.ohm
    found = share_of(54.6, last)
    assert found.used.value == pytest.approx(1.0, abs=1e-6)
    assert found.charge_used.value == pytest.approx(1.0, abs=1e-6)


def test_shares_of_two_stretches_add_up():
    whole, upper, lower = share_of(54.6, 46.0), share_of(54.6, 50.0), share_of(50.0, 46.0)
    assert upper.stored_fraction + lower.stored_fraction == pytest.approx(whole.stored_fraction)


@pytest.mark.parametrize("cutoff_v", [54.0, 54.55])
def test_a_cutoff_just_under_full_leaves_nothing_to_read(cutoff_v):
    pack = PackSpec(chemistry="nmc", series=13, rated_ah=14.0, full_v=54.6, cutoff_v=cutoff_v)
    assert share_of(54.6, 54.2, pack, current_a=20.0) is None


def test_the_promise_falls_with_the_current_and_the_cold():
    from limpet.evidence.model import Conditions

    gentle, hard = (promised_energy(range_test(), OHM, amps).value for amps in (2.0, 20.0))
    assert hard < 0.95 * gentle
    frost = range_test(conditions=Conditions(temp_start_c=-10.0, temp_end_c=10.0))
    assert cold_factor(frost) == pytest.approx(0.90)  # the mean of the two, 0 °C
    assert promised_energy(frost, OHM, 2.0).value == pytest.approx(0.90 * gentle)


def test_two_packs_promise_twice():
    one, two = (promised_energy(range_test(packs_used=n), OHM, 4.0).value for n in (1, 2))
    assert two == pytest.approx(2 * one)
