"""The harness that measures the core's intervals knows what is true.

The truth is PyBaMM's (SPMe with its published parameter sets), which shares no battery model with the
core. What the core makes of it stands in `./limpet bench calibration`.
"""

from __future__ import annotations

import numpy as np
import pytest

from tests.calibration.cells import cell_rides
from tests.calibration.riders import KINDS, LEARNED, Kind, told
from tests.calibration.table import printed, table

RIDES = cell_rides()


def test_there_are_rides_of_both_families_of_oxides_and_of_lfp_warm_and_cold():
    assert {ride.chemistry for ride in RIDES} == {"nmc", "nca", "lfp"}
    assert len({ride.parameters for ride in RIDES}) >= 6
    assert min(ride.temp_c for ride in RIDES) < 10
    assert max(ride.temp_c for ride in RIDES) >= 30


@pytest.mark.parametrize(
    "ride", RIDES, ids=lambda ride: f"{ride.parameters}-{ride.temp_c:g}-{ride.end_s:.0f}"
)
def test_what_is_kept_of_a_ride_agrees_with_itself(ride):
    """Energy is the integral of volts times amps; the drive stopped at its limit; then it rested."""
    end = int(np.searchsorted(ride.time_s, ride.end_s))
    hours = ride.time_s / 3600
    rough = np.trapezoid(ride.volts[:end] * ride.amps[:end], hours[:end])
    # What is kept every five seconds misses what lies between: a few per cent of a rough signal.
    assert rough == pytest.approx(ride.energy[end - 1], rel=0.04)
    assert ride.volts[: end - 1].min() > ride.cut_v - 0.06
    assert abs(ride.amps[end + 3 :]).max() < 1e-3
    assert (np.diff(ride.metres) >= -1e-3).all()
    assert ride.volts[-1] > ride.volts[end - 1]
    assert ride.full_v - 0.12 < ride.volts[0] < ride.full_v + 0.03


@pytest.mark.parametrize("kind", KINDS)
def test_a_riders_evidence_is_within_what_its_instruments_state(kind):
    for number, ride in enumerate(RIDES):
        item = told(ride, kind, np.random.default_rng([5, number]))
        if item is None:
            continue
        entries = item.test.entries
        assert entries[0].kind == "start"
        assert entries[-1].kind == "end"
        last = entries[-1]
        if last.trip_m is not None:
            assert last.trip_m == pytest.approx(item.distance_m, abs=0.04 * item.distance_m + 110)
        if last.charge_ah is not None:
            assert 0 < last.charge_ah < 1.02 * item.capacity_ah
        assert item.distance_m <= item.range_to_cutoff_m


@pytest.fixture(scope="module")
def small():
    """A seeded run in small: one rider every second ride. The whole table is `./limpet bench calibration`."""
    return table(riders=1, seed=3, under_way=False, every=2)


#: Half-width that range to cut-off may have at most, by kind of evidence: aims where they are met,
#: what stands in docs/method.md and a little where not.
WIDEST = {
    "metered to the end": 0.055,
    "metered in part": 0.12,
    "counters and volts in part": 0.15,
    "volts at every stop": 0.23,
    "two volts": 0.31,
    "volts while pulling": 0.24,
    "percent": 0.50,
    "bars": 0.60,
    "laps and volts": 0.30,
    "percent, map known": 0.30,
}


@pytest.mark.parametrize("kind", KINDS)
def test_intervals_of_range_hold_the_truth_and_are_no_wider_than_they_say(small, kind):
    cell = small[kind, "range_to_cutoff"]
    assert cell.silent == 0
    # Of some 30 rides, 80% is what chance leaves of 93 to 98% (handbook section 18).
    # A gauge under load has another map in the cold and flat out: what three rides taught holds in nine of ten.
    assert cell.coverage >= (0.76 if kind == LEARNED else 0.80)
    assert cell.half_width <= WIDEST[kind]
    # A gauge that falls with the load leans what is told by it alone.
    assert abs(cell.bias) < 0.06 + 0.2 * cell.half_width


def test_what_a_meter_measured_holds(small):
    for kind in ("metered to the end", "metered in part", "counters and volts in part"):
        for figure in ("distance", "energy"):
            cell = small[kind, figure]
            assert cell.coverage >= 0.84, (kind, figure)
            assert abs(cell.bias) < 0.02
    assert abs(small["metered in part", "capacity_ah"].bias) < 0.03


def test_a_cell_like_no_published_set_is_held_too():
    kinds: tuple[Kind, ...] = ("metered in part", "two volts")
    found = table(riders=1, seed=3, cells="left_out", kinds=kinds, under_way=False, every=3)
    for kind in ("metered in part", "two volts"):
        assert found[kind, "range_to_cutoff"].coverage >= 0.80


def test_the_same_seed_gives_the_same_table():

    def small_table():
        return table(1, seed=7, kinds=("two volts",), under_way=False, every=9)

    assert printed(small_table()) == printed(small_table())
