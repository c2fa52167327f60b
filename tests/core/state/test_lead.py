"""Lead-acid: less the faster it is drawn from, and volts that tell by Bode's curve."""

from __future__ import annotations

import numpy as np
import pytest

from limpet.evidence.model import Entry
from limpet.figures.findings import find
from limpet.pack import PackSpec, ocv_curve
from limpet.tell import analyse
from tests.strategies import range_test

PACK = PackSpec(chemistry="lead_acid_agm", series=18, rated_ah=20.0, full_v=38.5, cutoff_v=31.5)


def ride(hours: float, amp_hours: float, last_v: float):
    return range_test(
        Entry(time_s=0, kind="start", trip_m=0.0, charge_ah=0.0, voltage_rest_v=38.5),
        Entry(time_s=3600 * hours, kind="end", trip_m=10_000.0, charge_ah=amp_hours),
        Entry(time_s=3600 * hours + 1800, kind="settle", voltage_rest_v=last_v),
        pack=PACK,
    )


def test_a_fast_ride_finds_less_in_the_pack_than_a_slow_one():
    slow, fast = (find(ride(h, 6.0, 36.9)).remaining for h in (6.0, 0.5))
    # The prior of the best values: 1 A is the 20-hour rate, 12 A are twelve times it: 12^−0.15.
    before = [
        left.model.state(left.posterior.before[:, :1]).capacity_ah[0] for left in (slow, fast)
    ]
    assert before[1] / before[0] == pytest.approx(12**-0.15, rel=0.01)
    assert "peukert" in {item.name for item in slow.model.inputs}
    lithium = find(range_test(Entry(time_s=0, kind="start"))).remaining
    assert "peukert" not in {item.name for item in lithium.model.inputs}


def test_resting_volts_of_lead_tell_the_share_by_its_curve():
    curve = ocv_curve("lead_acid_agm")
    z = float(curve.charge_left(np.array([36.9 / 18]))[0])
    found = analyse(ride(3.0, 7.8, 36.9))
    charge = next(m for m in found.energy_methods if m.method == "rest_voltage")
    # What the two volts say of a pack as the label has it, less what goes as heat and with the current.
    at_rate = (20 / (2.6 * 20)) ** 0.15
    energy = 20 * at_rate * 18 * curve.mean_v * (1 - float(curve.energy_left(np.array([z]))[0]))
    assert charge.quantity.value == pytest.approx(energy, rel=0.2)
    assert charge.quantity.low < energy < charge.quantity.high
    # The last of it is under the cut-off of 1.75 V a cell at this load only as its curve falls to 1.93 V at rest.
    assert found.range_to_cutoff.low < 10_000 / (1 - z) < found.range_to_cutoff.high
