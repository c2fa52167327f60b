"""What a display of distance leaves away: by simulation, and in a ride."""

import numpy as np
import pytest

from limpet.evidence.model import Entry
from limpet.read.display_step import display_step_m, left_away_m
from limpet.tell import analyse
from tests.strategies import range_test

MILE_M = 1609.344


@pytest.mark.parametrize(
    ("readings", "step"),
    [
        ([0.0, 12_300.0, 38_800.0], 100.0),
        ([0.0, 4.2 * MILE_M, 21.5 * MILE_M], MILE_M / 10),
        ([0.0, 12_345.0, 38_801.0], None),  # finer than a step
        ([0.0, 12_000.0, 38_000.0], None),  # perhaps the rider's own rounding
        ([0.0], None),
        ([], None),
    ],
)
def test_a_display_shows_its_own_step(readings, step):
    found = display_step_m(np.array(readings))
    assert found == (step if step is None else pytest.approx(step))


@pytest.mark.parametrize("resets", [0, 1])
@pytest.mark.parametrize("from_zero", [True, False])
def test_what_is_left_away_is_half_a_step_and_its_u(resets, from_zero):
    """Simulation: 4,000 counters that truncate to 100 m, reset on the way or not; u by GUM 4.3.7."""
    rng = np.random.default_rng(27)
    off = []
    for _ in range(4000):
        begins = 0.0 if from_zero else rng.uniform(5_000, 90_000)
        gone = np.array([rng.uniform(6_000, 9_000), rng.uniform(1_000, 4_000)])
        true = np.array([begins, begins + gone[0], begins + gone.sum()])
        if resets:
            true = np.array(
                [begins, begins + gone[0], gone[1]]
            )  # reset just after the second reading
        shown = np.floor(true / 100) * 100
        added, u = left_away_m(shown, 100.0, truncates=True)
        steps = np.where(np.diff(shown) < 0, shown[1:], np.diff(shown))
        off.append(steps.sum() + added[-1] - gone.sum())
    assert np.mean(off) == pytest.approx(0.0, abs=3)
    assert np.std(off) == pytest.approx(u, rel=0.05)


def test_a_tracker_rounds_and_is_not_raised():
    added, u = left_away_m(np.array([0.0, 12_300.0]), 100.0, truncates=False)
    assert added.sum() == 0
    assert u == pytest.approx(100 / 12**0.5)


def distance(**end):
    test = range_test(
        Entry(time_s=0, kind="start", **dict.fromkeys(end, 0.0)),
        Entry(time_s=5000, kind="end", **end),
    )
    return {item.method: item for item in analyse(test).distance_methods}


def test_a_ride_by_the_trip_meter_has_half_a_step_more_than_it_showed():
    trip = distance(trip_m=38_800.0)["trip"]
    assert trip.quantity.value == pytest.approx(38_850)
    assert "Half a step of the display (50 m)" in trip.note
    assert distance(gps_m=38_800.0)["gps"].quantity.value == pytest.approx(38_800)
    assert distance(trip_m=38_000.0)["trip"].quantity.value == pytest.approx(38_000)
