"""A vehicle's curve against closed forms of handbook section 10."""

from __future__ import annotations

import numpy as np
import pytest

from limpet.fitting.curve import DAY, level_curve
from limpet.road.air import air_density
from limpet.trip import RoadFit
from limpet.units import STANDARD_GRAVITY_MPS2

NAMES = ("crr", "cda_m2", "drivetrain_efficiency", "aux_w")
VALUES = (0.010, 0.60, 0.80, 8.0)


def road(*stds: float, names=NAMES) -> RoadFit:
    covariance = np.diag(np.square(stds))
    return RoadFit(
        names=names, values=VALUES, covariance=tuple(map(tuple, covariance.tolist())), tests=3
    )


def by_hand(v, crr=VALUES[0], cda=VALUES[1], efficiency=VALUES[2], aux=VALUES[3], mass=126.0):
    force = mass * STANDARD_GRAVITY_MPS2 * crr + 0.5 * air_density(*DAY) * cda * v**2
    return (force / efficiency + aux / v) / 3.6


def test_the_curve_is_rolling_air_drive_and_what_runs_beside_it():
    found = level_curve(road(0, 0, 0, 0), "bicycle", 126.0)
    v = np.array(found.speed_mps)
    assert np.allclose(found.wh_per_km, by_hand(v), rtol=2e-4)
    assert found.low == found.high == found.wh_per_km
    assert found.mass_kg == 126.0
    # It falls and rises again: what runs beside the drive costs most per kilometre where it is slow.
    crawling = level_curve(road(0, 0, 0, 0), "kick_scooter", 40.0)
    assert crawling.wh_per_km[0] < crawling.wh_per_km[-1]


@pytest.mark.parametrize("which", range(4))
def test_its_interval_is_two_standard_uncertainties_of_what_is_not_known(which):
    """Each parameter alone, against the difference of the closed form over two steps of it."""
    std = 0.01 * VALUES[which]
    found = level_curve(road(*[std if k == which else 0.0 for k in range(4)]), "bicycle", 126.0)
    v = np.array(found.speed_mps)
    up, down = ([*VALUES], [*VALUES])
    up[which] += std
    down[which] -= std
    half = np.abs(by_hand(v, *up) - by_hand(v, *down))
    assert np.allclose(np.array(found.high) - found.low, 2 * half, rtol=0.02, atol=2e-3)


def test_a_fit_that_lacks_a_part_draws_no_curve():
    short = road(0.1, 0.1, 0.1, 0.1, names=("crr", "cda_m2", "drivetrain_efficiency", "rest"))
    assert level_curve(short, "bicycle", 126.0) is None
