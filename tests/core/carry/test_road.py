"""The kernel that rides are carried by, against closed forms of handbook section 10."""

import numpy as np
import pytest

from limpet.carry.road import (
    CARRYING,
    LEAST_MOTOR,
    LOST_OF_CLIMB,
    LOST_OF_STOP,
    NO_SPEED,
    road_wh_per_km,
)
from limpet.road import steady_wh_per_km
from limpet.road.load import ROTATING

LEVEL = {
    "speed_mps": np.array([6.0]),
    "mass_kg": np.array([95.0]),
    "crr": np.array([0.012]),
    "cda_m2": np.array([0.55]),
    "density_kgpm3": np.array([1.2]),
    "efficiency": np.array([0.8]),
    "aux_w": np.array([8.0]),
}
G = 9.80665


def more(**changes):
    return float((road_wh_per_km(**{**LEVEL, **changes}) - road_wh_per_km(**LEVEL))[0])


def test_on_the_level_it_is_the_steady_road_load_and_the_closed_form():
    rolling, air = 95 * G * 0.012, 0.5 * 1.2 * 0.55 * 36
    closed = ((rolling + air) / 0.8 + 8 / 6) * 1000 / 3600
    assert float(road_wh_per_km(**LEVEL)[0]) == pytest.approx(closed, rel=1e-12)
    assert road_wh_per_km(**LEVEL) == pytest.approx(steady_wh_per_km(**LEVEL), rel=1e-12)


def test_of_climbs_and_stops_the_lost_share_is_taken():
    climb = LOST_OF_CLIMB * 95 * G * 12 / 0.8 / 3600
    assert more(climb_m_per_km=12.0) == pytest.approx(climb, rel=1e-9)
    stops = LOST_OF_STOP * 0.5 * ROTATING * 95 * 36 * 2 / 0.8 / 3600
    assert more(stops_per_km=2.0) == pytest.approx(stops, rel=1e-9)


def test_a_wind_counts_by_the_mean_square_against_the_rider():
    assert more(against_m2ps2=np.array([36.0 + 8.0])) == pytest.approx(
        0.5 * 1.2 * 0.55 * 8 / 0.8 / 3.6, rel=1e-9
    )


def test_legs_spare_what_they_give_and_never_all_of_it():
    assert more(legs_w=np.array([30.0])) == pytest.approx(-30 / 6 / 0.8 / 3.6, rel=1e-9)
    hard = road_wh_per_km(**{**LEVEL, "legs_w": np.array([5000.0]), "aux_w": np.array([0.0])})
    alone = road_wh_per_km(**{**LEVEL, "aux_w": np.array([0.0])})
    assert hard == pytest.approx(LEAST_MOTOR * alone, rel=1e-12)


def test_what_carrying_may_be_wrong_by_is_told_once():
    # Assumptions, no source; `history` and `judge` widen what they carry by them.
    assert (CARRYING, NO_SPEED) == (0.25, 0.15)
