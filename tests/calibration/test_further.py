"""Rides of odd kinds hold their truth, and true readings are not taken to contradict each other.

`./limpet bench further` asks all rides; here it is every twelfth, seeded.
"""

from __future__ import annotations

import pytest

from tests.calibration.further import ODD, fits, odd_table


@pytest.fixture(scope="module")
def odd():
    return odd_table(every=12)


@pytest.mark.parametrize("kind", ODD[:3])
def test_a_charge_a_long_day_and_a_second_pack_are_reckoned_in(odd, kind):
    cell = odd[kind]
    assert len(cell.errors) >= 2
    assert cell.coverage == 1
    assert abs(cell.bias) < 0.15
    assert cell.half_width < 0.35


def test_laps_that_nobody_measured_tell_no_range(odd):
    cell = odd["laps of unknown length"]
    assert (len(cell.errors), cell.silent) == (0, len(odd["ten hours"].errors))


def test_readings_that_are_all_true_contradict_each_other_nowhere():
    rows = fits(every=12)
    assert len(rows) >= 20
    assert max(birge for _, birge, _ in rows) < 3
    assert min(share for _, _, share in rows) > 0.1
