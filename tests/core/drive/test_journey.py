"""The ridden trip: what is left, where the reserve is, ways that give more than they take."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from limpet.cli.forecast import forecast_report
from limpet.drive.journey import draws_of, ride_on, trip_steps, usable_wh
from limpet.drive.walk import END_CUTOFF
from limpet.outlook.forecast import forecast
from limpet.readers import METRIC
from limpet.road import Leg
from limpet.trip import Packs, RouteSpec, SpeedSpec
from tests.trips import certain, routed, sure, trip

FLAT = RouteSpec(legs=(Leg(length_m=5000, bearing_deg=0),))


def ridden(what):
    trip_, route = routed(what)
    draws = draws_of(trip_, route, swings=False)
    return draws, ride_on(trip_, draws, trip_steps(trip_, route, draws.likely_m))


def test_what_is_left_falls_from_one_to_nothing_where_the_drive_stops():
    draws, found = ridden(certain(route=FLAT))
    left, walk = found.left[:, 0], found.walk
    assert left[0] == 1
    assert (np.diff(left) <= 1e-12).all()
    last = int(np.searchsorted(walk.at_m, walk.end_m[0])) - 1
    # Steady riding ends at cut-off with next to nothing usable left, and beyond it is nothing.
    assert left[last] < 0.03
    assert (left[walk.at_m > walk.end_m[0]] == 0).all()
    assert walk.end_reason[0] == END_CUTOFF
    assert walk.end_terminal_j[0] / 3600 == pytest.approx(usable_wh(draws), rel=0.06)


@pytest.mark.parametrize("reserve", [0.0, 0.1, 0.3, 0.6])
def test_the_reserve_lies_where_its_share_is_left(reserve):
    _, found = ridden(certain(route=FLAT, reserve=reserve))
    at = float(np.interp(-reserve, -found.left[:, 0], found.walk.at_m))
    expected = min(at, float(found.walk.end_m[0]))
    assert found.reserve_m[0] == pytest.approx(expected, rel=0.01)
    whole = float(found.walk.end_terminal_j[0])
    assert found.reserve_j[0] == pytest.approx((1 - reserve) * whole, rel=0.06)


@pytest.mark.parametrize("length_m", [21.0, 160.0, 5000.0])
def test_how_long_the_way_is_does_not_change_how_far_it_can_be_ridden(length_m):
    short = RouteSpec(legs=(Leg(length_m=length_m, bearing_deg=0),))
    _, found = ridden(certain(route=short))
    _, usual = ridden(certain(route=FLAT))
    assert found.walk.end_m[0] == pytest.approx(usual.walk.end_m[0], rel=4e-3)
    assert len(found.walk.at_m) < 2000


@pytest.mark.parametrize("count", [5, 20])
def test_many_packs_in_sequence_go_that_many_times_as_far(count):
    _, one = ridden(certain(route=FLAT, draws=60))
    _, many = ridden(certain(route=FLAT, draws=60, packs=Packs(count=count, use="in_sequence")))
    ratio = many.walk.end_m / one.walk.end_m
    assert ratio == pytest.approx(count, rel=0.02)


def test_a_drive_that_goes_down_to_the_cells_floor_ends_by_cut_off_and_not_by_speed():
    lfp = replace(certain().pack, chemistry="lfp", cutoff_v=13 * 2.5)
    _, found = ridden(certain(route=FLAT, pack=lfp))
    assert (found.walk.end_reason == END_CUTOFF).all()


def test_with_two_packs_in_sequence_half_is_left_at_the_change():
    draws, found = ridden(certain(route=FLAT, packs=Packs(count=2, use="in_sequence")))
    single, _ = ridden(certain(route=FLAT))
    assert usable_wh(draws) == pytest.approx(2 * usable_wh(single))
    half = float(np.interp(-0.5, -found.left[:, 0], found.walk.at_m))
    assert half == pytest.approx(found.walk.end_m[0] / 2, rel=0.03)


def test_a_way_that_falls_all_the_time_ends_all_the_same():
    down = RouteSpec(legs=(Leg(length_m=4000, descent_m=200, bearing_deg=0),))
    # A full pack takes nothing back; this one has room.
    what = certain(route=down, draws=60, start_energy_fraction=sure(0.6))
    what = replace(what, vehicle=replace(what.vehicle, regeneration=0.6, aux_w=sure(1.0)))
    answer = forecast(*routed(what), swings=False)
    assert answer.route.arrives_probability == 1
    assert np.isfinite(answer.range_to_cutoff.value)
    assert answer.route.energy.value < 0
    assert answer.to_json()["route"]["energy"]["value"] < 0


def test_a_turn_on_a_one_way_road_counts_the_climb_home():
    down = (Leg(length_m=30_000, descent_m=500, bearing_deg=90),)
    one_way = forecast(*routed(certain(route=RouteSpec(legs=down), draws=60)), swings=False)
    # Going is easy, coming back is not: the turn lies well before half of the range.
    assert one_way.turn_point is not None
    assert one_way.turn_point.distance_m < 0.45 * one_way.range_to_reserve.value
    chances = [chance for _, chance in one_way.turn_point.curve]
    assert chances[0] == 1


def test_a_leg_with_a_speed_of_its_own_takes_its_own_time():
    legs = (Leg(length_m=2000, bearing_deg=0), Leg(length_m=1000, bearing_deg=0, speed_mps=2.5))
    answer = forecast(*routed(certain(route=RouteSpec(legs=legs))), swings=False)
    assert answer.route.duration_s.value == pytest.approx(2000 / 5.8 + 1000 / 2.5, rel=1e-6)


def test_with_traffic_costs_more_than_one_speed_held_and_gently_less():
    ranges = {}
    for policy, speed in (("fixed", 5.8), ("with_traffic", 5.8), ("gentle", None)):
        asked = certain(route=FLAT, speed=SpeedSpec(policy=policy, target_mps=speed))
        ranges[policy] = forecast(*routed(asked), swings=False).range_to_cutoff.value
    assert ranges["with_traffic"] < ranges["fixed"] < ranges["gentle"]


def test_flat_out_is_held_by_the_motors_power():
    asked = certain(route=FLAT, speed=SpeedSpec(policy="flat_out"))
    asked = replace(asked, vehicle=replace(asked.vehicle, max_speed_mps=20.0))
    answer = forecast(*routed(asked), swings=False)
    assert answer.peak.power_w == pytest.approx(750.0)
    speeds = [point.speed_mps for point in answer.profile if point.speed_mps is not None]
    assert 8 < max(speeds) < 12


def test_pedalling_takes_its_share_off_the_pack():
    alone = certain(route=FLAT)
    helped = replace(alone, rider=replace(alone.rider, pedal_power_w=60.0))
    without, with_help = (
        forecast(*routed(what), swings=False).wh_per_km.value for what in (alone, helped)
    )
    # 60 W at the wheel for the 172 s of a kilometre, over η = 0.8: closed form.
    assert without - with_help == pytest.approx(60 / 0.8 / 5.8 / 3.6, rel=0.02)


def test_the_report_says_when_to_slow_down_and_what_is_unsure():
    legs = (Leg(length_m=25_000, climb_m=60, bearing_deg=90),)
    answer = forecast(*routed(trip(route=RouteSpec(legs=legs, and_back=True))))
    lines = forecast_report(answer, METRIC).splitlines()
    assert any(line.startswith("Slow to") for line in lines) == (answer.slow_to is not None)
    assert "What matters most (range to cut-off)" in lines
    assert lines[-1].startswith("  - ")
