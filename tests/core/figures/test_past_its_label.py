"""A conversion that goes on when its counter has passed the label (handbook section 18: 5 to 13% more is usual)."""

from __future__ import annotations

import pytest

from limpet.evidence.model import Ending, Entry, VehicleSpec
from limpet.pack import PackSpec
from limpet.tell import analyse
from tests.strategies import range_test

PACK = PackSpec(chemistry="lfp", series=40, rated_ah=100.0, full_v=144.0, cutoff_v=112.0)


def counted(amp_hours, *, reason, start_v=133.6, end_v=None):
    """Eighty kilometres in two hours, amp-hours noted on the way."""
    rows = [
        Entry(
            time_s=1800.0 * k,
            kind="start" if k == 0 else "end" if k == 4 else "checkpoint",
            trip_m=20_000.0 * k,
            charge_ah=amp_hours * k / 4,
            voltage_rest_v={0: start_v, 4: end_v}.get(k),
        )
        for k in range(5)
    ]
    vehicle = VehicleSpec(kind="conversion", name="Gannet", mass_kg=900.0)
    return analyse(range_test(*rows, vehicle=vehicle, pack=PACK, ending=Ending(reason=reason)))


@pytest.mark.parametrize("reason", ["cutoff", "home"])
@pytest.mark.parametrize("end_v", [None, 124.0])
def test_eight_percent_past_its_label_is_told_within_what_the_meter_states(reason, end_v):
    """108 Ah at 3.2 V a cell less a sag of some 3%: 13.4 kWh, and no ten times less or more of it."""
    result = counted(108.0, reason=reason, end_v=end_v)
    truly = 108.0 * 40 * 3.2 * 0.97
    assert result.energy.low < truly < result.energy.high
    assert result.energy.high - result.energy.low < 0.20 * truly
    used = result.consumption.wh_per_mi
    assert used.high < 1.5 * used.low
    usable = result.pack.usable_energy_wh
    assert 0.85 * truly < usable.low < usable.high < 1.5 * truly
    # What is told lies within a method that is shown.
    for method in result.energy_methods:
        if method.used:
            assert method.quantity.low < result.energy.value < method.quantity.high
    assert 80_000 <= result.range_to_cutoff.high < 110_000


def test_more_than_such_a_pack_can_hold_is_no_range_and_says_why():
    result = counted(130.0, reason="home", start_v=None)
    assert result.range_to_cutoff is None
    codes = [notice.code for notice in result.warnings]
    assert "past_what_it_holds" in codes
    assert "end_contradicts" not in codes
