"""Where a difference arises: by the places of two tracks, else by distance; geodesics against GeographicLib."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from geographiclib.geodesic import Geodesic

from demo.skerrow import ridden
from limpet.evidence.model import Entry
from limpet.judge import along
from limpet.judge.along import MOST_POINTS, TOGETHER_M, Way, arising, way_of
from limpet.judge.places import places_of
from limpet.tell import analyse
from tests.strategies import range_test


def even(per_km, km=10.0, **more):
    """A way of so many watt-hours a kilometre."""
    at_m = np.linspace(0, 1000 * km, MOST_POINTS)
    return Way(at_m=tuple(at_m), energy_wh=tuple(per_km * at_m / 1000), **more)


def north(at_m, *, east_m=0.0):
    """A street to the north from 57 degrees, as columns."""
    latitude = 57 + np.asarray(at_m) / 111_200
    longitude = -7 + east_m / (111_200 * np.cos(np.radians(57.0)))
    return {
        "latitude_deg": tuple(float(value) for value in latitude),
        "longitude_deg": tuple(float(longitude) for _ in latitude),
    }


def test_by_distance_an_even_thirst_grows_with_the_way():
    found = arising(even(10.0), even(12.0))
    assert found.by == "distance"
    assert found.height_m is None
    np.testing.assert_allclose(found.more_wh, 2 * np.array(found.at_m) / 1000, atol=0.01)


def test_the_shorter_of_two_ways_is_as_far_as_they_can_be_told_apart():
    assert arising(even(10.0), even(12.0, km=4.0)).at_m[-1] <= 4000


def test_by_tracks_a_detour_on_the_way_to_the_same_street_is_not_held_against_it():
    one = even(10.0, km=4.0)
    one = replace(one, **north(one.at_m))
    # The other rode 240 m about the block first: all its places come so much later.
    two = even(10.0, km=4.24)
    two = replace(two, **north(np.maximum(np.array(two.at_m) - 240, 0.0), east_m=8.0))
    found = arising(one, two)
    assert found.by == "track"
    assert abs(found.more_wh[-1] - found.more_wh[5]) < 0.8, "from the street on both use alike"
    blind = arising(even(10.0, km=4.0), even(10.0, km=4.24))
    assert blind.by == "distance"


def test_ways_about_the_block_add_up_and_the_street_is_still_found():
    """Four times 200 m about a block: by its end the second is 800 m ahead, more than one look takes in."""
    one = even(10.0, km=3.0)
    one = replace(one, **north(one.at_m))
    two = even(10.0, km=3.8)
    blocks = sum(np.clip(np.array(two.at_m) - start, 0, 200) for start in (400, 1200, 2000, 2800))
    two = replace(two, **north(np.array(two.at_m) - blocks))
    found = arising(one, two)
    assert found.by == "track"
    assert found.at_m[-1] > 2900
    # The blocks are what it used more: 800 m of 10 Wh a kilometre.
    assert found.more_wh[-1] == pytest.approx(8, abs=0.5)


def test_two_streets_are_not_one():
    one = even(10.0, km=4.0)
    away = replace(even(12.0, km=4.0), **north(one.at_m, east_m=TOGETHER_M + 30))
    assert arising(replace(one, **north(one.at_m)), away).by == "distance"


def test_there_and_back_are_not_mixed_up():
    """Out a kilometre and back by the same street: the way back costs the second ten times as much."""
    at_m = np.linspace(0, 2000, MOST_POINTS)
    out_and_back = 1000 - np.abs(at_m - 1000)
    one = replace(even(10.0, km=2.0), **north(out_and_back))
    back = np.where(at_m > 1000, 10 + 0.1 * (at_m - 1000), 0.01 * at_m)
    two = replace(one, energy_wh=tuple(back))
    found = arising(one, two)
    assert found.by == "track"
    turn = int(np.searchsorted(found.at_m, 1000))
    assert max(np.abs(found.more_wh[:turn])) < 0.5
    assert found.more_wh[-1] == pytest.approx(90, abs=1)


@pytest.fixture(scope="module")
def lighthouse():
    """The cargo bicycle and the moped on the lighthouse road, both with a track."""
    tests = [ridden(slug) for slug in ("sandpiper-lighthouse", "whimbrel-lighthouse-cutoff")]
    return [(test, way_of(test, analyse(test))) for test in tests]


def test_real_tracks_of_one_road_are_matched_within_what_receivers_differ_by(lighthouse):
    (_, one), (_, two) = lighthouse
    here, there_m = along._together(one, two)
    assert len(here) > 0.6 * MOST_POINTS
    assert (np.diff(there_m) >= 0).all()
    latitude, longitude = (
        np.interp(there_m, two.at_m, np.array(values, dtype=float))
        for values in (two.latitude_deg, two.longitude_deg)
    )
    for k, lat, lon in zip(here, latitude, longitude, strict=True):
        apart = Geodesic.WGS84.Inverse(one.latitude_deg[k], one.longitude_deg[k], lat, lon)["s12"]
        assert apart < TOGETHER_M + 1
    assert arising(one, two).by == "track"


def test_a_way_has_the_rides_own_energy_height_and_gap(lighthouse):
    test, way = lighthouse[0]
    result = analyse(test)
    assert way.energy_wh[-1] == pytest.approx(result.energy_line.at(np.array([1e9]))[0], rel=0.01)
    known = [value for value in way.height_m if value is not None]
    assert max(known) - min(known) > 40, "the climb at the far end"
    silent = np.isnan(np.array(way.latitude_deg, dtype=float))
    # The receiver was silent for seven minutes of the ride.
    assert 0 < silent.mean() < 0.3


def test_a_ride_that_is_known_at_its_ends_alone_has_no_way():
    test = ridden("sandpiper-quay-gentle")
    assert way_of(test, analyse(test)) is not None
    ends = [entry for entry in test.entries if entry.kind in ("start", "end", "settle")]
    few = replace(test, entries=tuple(ends))
    assert way_of(few, analyse(few)) is None
    assert arising(None, even(10.0)) is None


@pytest.fixture(scope="module")
def path_twice():
    """One mountain path walked up and down with a receiver, as ways that both go up.

    Real tracks: the two halves of one among the test files of gpxpy 1.6.2 (Apache License 2.0), metres
    east and north of its beginning, moved to the island.
    """
    walked = json.loads((Path(__file__).parent / "one_path_twice.json").read_text())
    ways = []
    for points in (np.array(walked["up_m"]), np.array(walked["down_m"])[::-1]):
        gone_m = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])
        at_m = np.linspace(0, gone_m[-1], MOST_POINTS)
        east_m, north_m = (np.interp(at_m, gone_m, points[:, k]) for k in (0, 1))
        longitude = -7 + east_m / (111_200 * np.cos(np.radians(57.0)))
        places = {"latitude_deg": 57 + north_m / 111_200, "longitude_deg": longitude}
        told = {name: tuple(values.tolist()) for name, values in places.items()}
        ways.append(replace(even(10.0, km=gone_m[-1] / 1000), **told))
    return ways


def test_a_real_path_walked_twice_is_found_to_be_one(path_twice):
    one, two = path_twice
    here, there_m = along._together(one, two)
    assert len(here) > 0.9 * MOST_POINTS
    assert (np.diff(there_m) >= 0).all()
    # Both are 1.35 km: nowhere is one further along than the bends of a path and a receiver make.
    assert max(abs(there_m - np.array(one.at_m)[here])) < 0.08 * one.at_m[-1]
    # No place is further from its partner than from the nearest of the whole other track but for its own slack.
    places = [along._east_north(way) for way in path_twice]
    for k, at_m in zip(here, there_m, strict=True):
        partner = [np.interp(at_m, two.at_m, places[1][axis]) for axis in (0, 1)]
        own = places[0][:, k]
        nearest = np.hypot(*(places[1] - own[:, None])).min()
        assert np.hypot(*(own - partner)) < nearest + 15
    assert arising(one, two).by == "track"


def test_a_real_path_down_is_not_the_path_up(path_twice):
    one, two = path_twice
    down = replace(two, latitude_deg=two.latitude_deg[::-1], longitude_deg=two.longitude_deg[::-1])
    assert arising(one, down).by == "distance"


def noted(charge_ah):
    """Notes at every kilometre of ten, with a gauge, and amp-hours where they are given."""
    entries = [
        Entry(time_s=200.0 * k, kind="start" if k == 0 else "end" if k == 10 else "lap",
              trip_m=1000.0 * k, laps=float(k), voltage_rest_v=54.4 - 0.6 * k,
              charge_ah=charge_ah(k))
        for k in range(11)
    ]  # fmt: skip
    test = range_test(*entries)
    return test, analyse(test)


def test_what_was_laid_out_evenly_arises_nowhere():
    """A label's energy lies along the way by assumption: neither a way nor a lap of it is told as found."""
    test, result = noted(lambda k: None)
    assert result.energy_line is not None
    assert way_of(test, result) is None
    assert {place.energy_wh for place in places_of(test, result)} == {None}
    # A counter read at both ends alone is as silent between them.
    test, result = noted(lambda k: 0.3 * k if k in (0, 10) else None)
    assert way_of(test, result) is None
    assert [place.laps for place in places_of(test, result) if place.energy_wh is not None] == [10]
    test, result = noted(lambda k: 0.3 * k)
    assert way_of(test, result) is not None
    assert None not in {place.energy_wh for place in places_of(test, result)}
