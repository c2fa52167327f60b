"""Rides of odd kinds hold their truth, and true readings are not taken to contradict each other.

`./limpet bench further` asks all rides; here it is every twelfth, seeded.
"""

from __future__ import annotations

import pytest

from tests.calibration.further import ODD, fits, odd_table, steep_table


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


def test_a_meter_on_the_way_reckons_with_the_pulls_of_steep_hills():
    """Half of the time such a drive rolls or gives back: its pulls are three times its mean current."""
    found = steep_table(every=2)
    part, whole = (
        found[f"strong regeneration, {kind}"] for kind in ("metered in part", "metered to the end")
    )
    assert len(part.errors) >= 3
    assert len(whole.errors) >= 6
    assert abs(part.bias) < 0.06
    assert (part.coverage, whole.coverage) == (1, 1)
    assert whole.half_width < 0.06


def test_readings_that_are_all_true_contradict_each_other_nowhere():
    rows = fits(every=12)
    assert len(rows) >= 20
    assert max(birge for _, birge, _ in rows) < 3
    assert min(share for _, _, share in rows) > 0.1
