"""Routes: legs, laps, tracks, and what cannot be ridden."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from limpet.errors import OutOfRangeError
from limpet.road import Leg, Route, ascent_m, loop, loop_length, track_of
from limpet.road.heights import kept_points

NAN = float("nan")


def straight(count: int, spacing_deg: float = 0.0009) -> tuple[np.ndarray, np.ndarray]:
    """Places northwards along a meridian, about 100 m apart."""
    return np.arange(count) * spacing_deg + 47.0, np.full(count, -24.0)


def test_the_way_back_climbs_what_the_way_out_fell():
    out = Route(legs=(Leg(length_m=4200, climb_m=35, descent_m=10, bearing_deg=90),))
    both = out.and_back()
    assert (both.length_m, both.ascent_m, both.descent_m) == (8400, 45, 45)
    assert both.legs[1].bearing_deg == 270
    assert both.out_legs == 1
    assert both.reversed().legs == both.legs


legs = st.builds(
    Leg,
    length_m=st.floats(100, 9000),
    climb_m=st.floats(0, 15),
    descent_m=st.floats(0, 15),
    bearing_deg=st.one_of(st.none(), st.floats(0, 359)),
    stops=st.integers(0, 5).map(float),
)


@given(st.lists(legs, min_size=1, max_size=6))
def test_turning_a_route_round_twice_gives_it_back(several):
    route = Route(legs=tuple(several))
    again = route.reversed().reversed()
    assert again.length_m == pytest.approx(route.length_m)
    assert again.ascent_m == pytest.approx(route.ascent_m)
    for before, after in zip(route.legs, again.legs, strict=True):
        if before.bearing_deg is not None:
            assert after.bearing_deg == pytest.approx(before.bearing_deg)


@pytest.mark.parametrize(
    ("make", "message"),
    [
        (lambda: Route(legs=()), "no legs; add one"),
        (lambda: Route(legs=(Leg(length_m=0.0),)), "leg 1 is 0 m long; give it a length above 0"),
        (
            lambda: Route(legs=(Leg(length_m=1000), Leg(length_m=100, climb_m=90))),
            "leg 2 rises and falls 90 m in 100 m, 90%",
        ),
        (lambda: loop(0.0), "0 m long"),
        (lambda: Route(legs=(Leg(length_m=12.0),)), "12 m long; metres for kilometres"),
    ],
)
def test_routes_that_no_road_is_are_refused(make, message):
    with pytest.raises(OutOfRangeError, match=message):
        make()


def test_ascent_counts_what_exceeds_the_hysteresis():
    # By hand: 0 → 20 → 12 → 30 with a wobble of 4 m that a 10 m hysteresis does not see.
    profile = np.array([0.0, 8, 4, 20, 12, 16, 30])
    assert ascent_m(profile, 10.0) == (30.0, 0.0)
    assert ascent_m(profile, 3.0) == (8 + 16 + 18.0, 4 + 8.0)
    assert ascent_m(np.array([5.0]), 3.0) == (0.0, 0.0)
    assert ascent_m(np.zeros(0), 3.0) == (0.0, 0.0)


@given(st.lists(st.floats(-50, 200), min_size=2, max_size=60), st.floats(0.5, 12))
def test_climb_less_descent_is_the_height_gained(heights, hysteresis):
    up, down = ascent_m(np.array(heights), hysteresis)
    assert up >= 0
    assert down >= 0
    assert abs((up - down) - (heights[-1] - heights[0])) <= hysteresis + 1e-9


def test_a_noisy_flat_track_climbs_nothing_and_a_hill_keeps_its_height():
    rng = np.random.default_rng(3)
    latitude, longitude = straight(200)
    flat = track_of(latitude, longitude, 20 + rng.normal(0, 2.0, 200))
    assert flat.ascent_m == 0
    assert flat.route.ascent_m < 6
    hill = 60 / (1 + np.exp(-(np.arange(200) - 100) / 12.0))
    found = track_of(latitude, longitude, hill + rng.normal(0, 1.5, 200))
    # The noise adds its own extremes at the foot and the top: some 2.7 of its σ = 1.5 m each.
    assert found.ascent_m == pytest.approx(60, abs=6)
    assert found.route.ascent_m - found.route.descent_m == pytest.approx(60, abs=6)
    assert found.route.length_m == pytest.approx(199 * 100.1, rel=2e-3)
    assert all(abs((leg.bearing_deg or 0) % 360) < 1 for leg in found.route.legs)


def test_a_corner_ends_a_leg_and_turns_the_bearing():
    north = straight(20)
    latitude = np.concatenate([north[0], np.full(20, north[0][-1])])
    longitude = np.concatenate([north[1], -24.0 + np.arange(1, 21) * 0.00132])
    track = track_of(latitude, longitude, np.zeros(40))
    bearings = [leg.bearing_deg for leg in track.route.legs]
    assert bearings[0] == pytest.approx(0, abs=2)
    assert bearings[-1] == pytest.approx(90, abs=2)
    assert len(bearings) <= 4


def test_a_track_without_heights_is_flat_and_says_so():
    latitude, longitude = straight(50)
    few = np.full(50, NAN)
    few[:10] = 300.0
    track = track_of(latitude, longitude, few)
    assert not track.has_heights
    assert track.route.ascent_m == 0
    most = np.linspace(0, 40, 50)
    most[20:30] = NAN
    filled = track_of(latitude, longitude, most)
    assert filled.has_heights
    assert filled.heights_filled == pytest.approx(0.2)
    assert filled.route.ascent_m == pytest.approx(40, abs=3)


@pytest.mark.parametrize(
    ("latitude", "longitude", "altitude", "message"),
    [
        ([47.0, 47.0], [-24.0, -24.0], [0, 0], "0.0 m long; a route needs two places"),
        (
            [*(47 + 0.0001 * np.arange(20)), 48.0],
            [-24.0] * 21,
            [0] * 21,
            r"jumps \d+\.\d km between points 20 and 21",
        ),
        (
            list(47 + 0.0009 * np.arange(30)),
            [-24.0] * 30,
            [0] * 15 + [3000] * 15,
            "height changes .* whether its heights are in feet",
        ),
    ],
)
def test_tracks_that_cannot_be_ridden_are_refused(latitude, longitude, altitude, message):
    with pytest.raises(OutOfRangeError, match=message):
        track_of(np.array(latitude), np.array(longitude), np.array(altitude, dtype=float))


def test_the_kept_points_stay_within_the_tolerance():
    x = np.linspace(0, 1000, 400)
    y = 8 * np.sin(x / 60)
    kept = kept_points(x, y, 1.0)
    assert np.abs(np.interp(x, x[kept], y[kept]) - y).max() <= 1.0
    assert len(kept) < 60


def test_a_loops_length_from_readings_follows_students_t():
    # By hand: 1720, 1716, 1728 → mean 1721.33, s/√3 = 3.528, t(0.975, 2) = 4.303 (tables).
    found = loop_length([1720, 1716, 1728])
    assert found.value == pytest.approx(1721.333, abs=1e-3)
    assert found.standard_uncertainty == pytest.approx(3.528, abs=1e-3)
    assert found.high - found.value == pytest.approx(4.303 * 3.528, rel=1e-3)
    shared = loop_length([1720, 1716, 1728], accuracy_pct=1.0)
    assert shared.standard_uncertainty == pytest.approx(np.hypot(3.528, 9.938), rel=1e-3)


@pytest.mark.parametrize(
    ("readings", "message"),
    [
        ([], "no readings"),
        ([1700, -5], "a reading is -5 m"),
        ([1700, 1710, 3420], "3420 m is 100% off the others' 1710 m"),
    ],
)
def test_odd_readings_of_a_loop_are_refused(readings, message):
    with pytest.raises(OutOfRangeError, match=message):
        loop_length(readings)
