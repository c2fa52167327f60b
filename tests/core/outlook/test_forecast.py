"""What a forecast must be, whatever the trip; and the questions it answers."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given, settings

from limpet.assumptions import RESERVE
from limpet.drive.journey import draws_of, ride_on, trip_steps
from limpet.outlook.forecast import forecast
from limpet.road import Leg
from limpet.trip import (
    Known,
    KnownAt,
    LoopSpec,
    RoadFit,
    RouteSpec,
    SpeedSpec,
    TripConditions,
    TripTyres,
)
from tests.trips import PACK, certain, routed, sure, trip, trips


def far(what) -> float:
    return forecast(*routed(what), swings=False).range_to_cutoff.value


def known(value: float) -> Known:
    return Known(value=value)


#: A range ends in the middle of a step, and steps are cut anew for each trip; so far may two that
#: differ by nothing lie apart: a share, and metres for a drive that stops at the first hill.
STEP = 1.004
STEP_M = 15.0


@settings(max_examples=12)
@given(trips())
def test_heavier_faster_or_colder_never_goes_further(what):
    # Speeds from 4.5 m/s on lie above where auxiliary power makes slowness dear, but for a
    # following wind at that speed and legs that pay back: those are left out.
    assume(what.conditions.wind_mps.value < 3)
    base = far(what)
    mass = what.rider.mass_kg.value
    heavier = replace(what, rider=replace(what.rider, mass_kg=known(mass + 15)))
    faster = replace(what, speed=SpeedSpec(policy="fixed", target_mps=what.speed.target_mps + 0.5))
    colder = replace(
        what, conditions=replace(what.conditions, temp_c=known(what.conditions.temp_c.value - 8))
    )
    soft = replace(what, tyres=TripTyres(pressure_kpa=what.tyres.pressure_kpa * 0.7))
    climb = sum(leg.climb_m + leg.descent_m for leg in what.route.legs)
    length = sum(leg.length_m for leg in what.route.legs)
    assume(climb / length < 0.008)
    for worse in (heavier, faster, colder, soft):
        assert far(worse) <= base * STEP + STEP_M


@settings(max_examples=15)
@given(trips())
def test_more_headwind_never_goes_further(what):
    into = Leg(length_m=4000.0, bearing_deg=90.0)
    ranges = []
    for wind in (0.0, 2.5, 5.0):
        air = replace(what.conditions, wind_mps=known(wind), wind_from_deg=90.0)
        ranges.append(far(replace(what, conditions=air, route=RouteSpec(legs=(into,)))))
    assert ranges[1] <= ranges[0] * STEP + STEP_M
    assert ranges[2] <= ranges[1] * STEP + STEP_M


@settings(max_examples=12)
@given(trips())
def test_every_trip_gets_an_answer_that_holds_together(what):
    answer = forecast(*routed(what))
    assert sum(answer.ends_by.values()) == pytest.approx(1.0)
    assert answer.route.arrives_probability <= answer.route.reaches_probability + 1e-9
    assert answer.range_to_reserve.value <= answer.range_to_cutoff.value + 1e-6
    levels = [point.value for point in answer.profile]
    assert levels == sorted(levels, reverse=True)
    assert all(0 <= p.low <= p.value <= p.high <= 1 + 1e-9 for p in answer.profile)
    if answer.turn_point is not None:
        assert 0 <= answer.turn_point.distance_m <= answer.route.distance_m
    named = {item.name for item in answer.inputs}
    assert {"cda_m2", "crr", "temp_c", "retained_fraction"} <= named
    assert all(item.source for item in answer.inputs)
    assert answer.to_json()["limpet_forecast"] == 1


def test_there_and_back_over_a_hill_costs_more_than_the_flat():
    flat = certain(route=RouteSpec(legs=(Leg(length_m=4000, bearing_deg=0),), and_back=True))
    hill = certain(
        route=RouteSpec(legs=(Leg(length_m=4000, climb_m=160, bearing_deg=0),), and_back=True)
    )
    on_flat, on_hill = (forecast(*routed(what), swings=False) for what in (flat, hill))
    assert on_hill.wh_per_km.value > on_flat.wh_per_km.value * 1.05
    assert on_hill.range_to_cutoff.value < on_flat.range_to_cutoff.value


def test_the_same_seed_gives_the_same_answer_and_another_a_near_one():
    first, again = (forecast(*routed(trip(draws=3000))).to_json() for _ in range(2))
    assert first == again
    other = forecast(*routed(trip(draws=3000, seed=2)))
    low = first["range_to_cutoff"]["low"]
    assert other.range_to_cutoff.low == pytest.approx(low, rel=0.06)
    assert other.wh_per_km.low != first["consumption"]["wh_per_km"]["low"]


def long_trip(km: float, **changes):
    legs = (Leg(length_m=km * 500, climb_m=40, bearing_deg=90),)
    return trip(route=RouteSpec(legs=legs, and_back=True), draws=600, **changes)


def test_a_longer_trip_is_less_likely_to_arrive():
    chances = [
        forecast(*routed(long_trip(km)), swings=False).route.arrives_probability
        for km in (20, 45, 60, 100)
    ]
    assert chances[0] == 1.0
    assert chances == sorted(chances, reverse=True)
    assert chances[-1] < 0.05


def test_the_turn_point_is_where_riding_it_says():
    """Against brute force: the trip that turns there is ridden as a trip of its own."""
    what = long_trip(90)
    answer = forecast(*routed(what), swings=False)
    assert answer.turn_point is not None
    turn = answer.turn_point.distance_m
    assert 0 < turn < 45_000
    leg = what.route.legs[0]

    def chance(metres: float) -> float:
        piece = replace(leg, length_m=metres, climb_m=leg.climb_m * metres / leg.length_m)
        shorter = replace(what, route=RouteSpec(legs=(piece,), and_back=True))
        return forecast(*routed(shorter), swings=False).route.arrives_probability

    assert chance(turn * 0.97) >= what.probability
    assert chance(turn * 1.03) < what.probability


def test_a_tailwind_out_brings_the_turn_point_nearer_than_half_the_range():
    base = long_trip(110)
    windy = replace(
        base,
        conditions=TripConditions(temp_c=sure(12.0), wind_mps=sure(6.0), wind_from_deg=270.0),
    )
    answer = forecast(*routed(windy), swings=False)
    one_way = replace(windy, route=RouteSpec(legs=base.route.legs))
    going = forecast(*routed(one_way), swings=False)
    assert answer.turn_point.distance_m < 0.42 * going.range_to_reserve.value


def test_slow_to_is_a_speed_at_which_the_trip_succeeds():
    what = long_trip(46)
    answer = forecast(*routed(what), swings=False)
    assert answer.route.arrives_probability < 0.95
    slow = answer.slow_to
    assert slow is not None
    assert 2 < slow.speed_mps < 5.8

    def chance(speed: float) -> float:
        slower = replace(what, speed=replace(what.speed, target_mps=speed))
        return forecast(*routed(slower), swings=False).route.arrives_probability

    assert chance(slow.speed_mps - 0.25) >= 0.95
    assert chance(slow.speed_mps + 0.35) < 0.95


@pytest.mark.parametrize(("km", "code"), [(8, "slow_to_not_needed"), (300, "slow_to_none")])
def test_without_a_slower_speed_a_warning_says_why(km, code):
    answer = forecast(*routed(long_trip(km)), swings=False)
    assert answer.slow_to is None
    assert code in {notice.code for notice in answer.warnings}


def test_a_trip_that_may_fail_says_in_how_many_cases_it_arrives():
    answer = forecast(*routed(long_trip(52)), swings=False)
    told = next(n for n in answer.warnings if n.code == "may_not_arrive")
    assert told.values["chance_pct"] == 100 * answer.route.reaches_probability
    assert told.values["way_m"] == answer.route.distance_m
    assert 2 < told.values["chance_pct"] < 95


def test_a_trip_beyond_any_charge_names_what_would_work():
    answer = forecast(*routed(long_trip(300)), swings=False)
    words = next(n.message for n in answer.warnings if n.code == "beyond_any_charge")
    assert "What would work" in words
    assert "such packs" in words


def test_a_lap_without_a_number_is_ridden_as_often_as_the_floor_allows():
    what = trip(route=RouteSpec(loop=LoopSpec(length_m=1720.0, climb_m=3.0, stops=1.0)))
    answer = forecast(*routed(what), swings=False)
    assert answer.route.laps == int(answer.floor_m // 1720)
    assert answer.route.distance_m == pytest.approx(1720 * answer.route.laps)
    assert answer.route.arrives_probability >= 0.95
    assert answer.turn_point is None
    ten = replace(what, route=replace(what.route, laps=10))
    assert forecast(*routed(ten), swings=False).route.distance_m == pytest.approx(17_200)


def test_a_known_consumption_narrows_the_band_and_is_met_where_it_was_found():
    flat = RouteSpec(legs=(Leg(length_m=10_000, bearing_deg=0),))
    calm = TripConditions(temp_c=sure(15.0), wind_mps=sure(0.0))
    start = forecast(*routed(trip(route=flat, conditions=calm)), swings=False)
    told = trip(
        route=flat,
        conditions=calm,
        known_consumption_wh_per_km=Known(value=11.0, standard_uncertainty=0.3),
    )
    answer = forecast(*routed(told), swings=False)
    assert answer.wh_per_km.value == pytest.approx(11.0, rel=0.01)
    assert answer.wh_per_km.standard_uncertainty < 0.6 * start.wh_per_km.standard_uncertainty
    source = next(i.source for i in answer.inputs if i.name == "known_consumption_wh_per_km")
    assert source == "trip"
    # Found with a light rider at a low speed, it is more with a heavy one, faster.
    slower = replace(told, known_at=KnownAt(speed_mps=4.0, load_kg=60.0))
    assert forecast(*routed(slower), swings=False).wh_per_km.value > 13.0


def test_a_vehicles_fit_is_used_with_its_covariance_and_named():
    names = ("crr", "cda_m2")
    up_and_down = RoadFit(
        names=names, values=(0.0095, 0.58), tests=4,
        covariance=((0.0012**2, -0.95 * 0.0012 * 0.05), (-0.95 * 0.0012 * 0.05, 0.05**2)),
    )  # fmt: skip
    apart = replace(up_and_down, covariance=((0.0012**2, 0.0), (0.0, 0.05**2)))
    base = trip()
    with_fit = replace(base, vehicle=replace(base.vehicle, fit=up_and_down), draws=3000)
    answer = forecast(*routed(with_fit), swings=False)
    sources = {item.name: item.source for item in answer.inputs}
    assert sources["crr"] == "vehicle fit of 4 tests"
    assert sources["drivetrain_efficiency"] == "start value for bicycle"
    draws = draws_of(*routed(with_fit), swings=False)
    pairs = np.corrcoef(np.log(draws.columns.rolling[1:]), np.log(draws.columns.drag[1:]))
    assert pairs[0, 1] < -0.3
    loose = replace(with_fit, vehicle=replace(base.vehicle, fit=apart))
    wider = forecast(*routed(loose), swings=False)
    assert answer.wh_per_km.standard_uncertainty < wider.wh_per_km.standard_uncertainty


@pytest.mark.parametrize("bearing", [90.0, None])
def test_a_wind_from_anywhere_leaves_the_value_amid_its_band(bearing):
    legs = (Leg(length_m=9000, bearing_deg=bearing),)
    breeze = TripConditions(temp_c=sure(15.0), wind_mps=sure(6.0))
    there_and_back = RouteSpec(legs=legs, and_back=True)
    what, route = routed(trip(route=there_and_back, conditions=breeze, draws=2000))
    draws = draws_of(what, route, swings=False)
    ends = ride_on(what, draws, trip_steps(what, route, draws.likely_m)).walk.end_m
    assert ends[0] == pytest.approx(float(np.median(ends[1:])), rel=0.06)


def test_sensitivity_is_ranked_and_points_the_right_way():
    answer = forecast(*routed(trip()))
    sizes = [swing.size_m for swing in answer.sensitivity]
    assert sizes == sorted(sizes, reverse=True)
    swings = {swing.input: swing for swing in answer.sensitivity}
    assert swings["target_speed_mps"].range_low_m > swings["target_speed_mps"].range_high_m
    assert swings["retained_fraction"].range_low_m < swings["retained_fraction"].range_high_m
    speed = swings["target_speed_mps"]
    assert (speed.from_value, speed.to_value) == (pytest.approx(4.64), pytest.approx(6.96))
    # A swing is the range with that one input changed and nothing else.
    faster = replace(trip(), speed=SpeedSpec(policy="fixed", target_mps=6.96))
    assert speed.range_high_m == pytest.approx(far(faster), rel=0.01)


def test_half_a_charge_goes_half_as_far_and_the_reserve_is_kept_back():
    full, half = (
        certain(),
        certain(start_energy_fraction=sure(0.5)),
    )
    whole, part = forecast(*routed(full), swings=False), forecast(*routed(half), swings=False)
    # Half the energy of the cells, less what lies under cut-off and can never be had.
    assert 0.42 < part.range_to_cutoff.value / whole.range_to_cutoff.value < 0.5
    share = whole.range_to_reserve.value / whole.range_to_cutoff.value
    assert share == pytest.approx(1 - RESERVE.value, abs=0.02)


@pytest.mark.parametrize(
    ("changes", "code"),
    [
        ({"conditions": TripConditions(temp_c=known(-3.0))}, "cold_day"),
        ({"conditions": TripConditions(wind_mps=known(18.0), wind_from_deg=0.0)}, "storm"),
        ({"pack": replace(PACK, cutoff_v=None)}, "assumed_cutoff"),
        ({"pack": replace(PACK, cutoff_v=33.8)}, "cutoff_below_floor"),
        ({"pack": replace(PACK, rated_ah=4.0)}, "high_current"),
        ({}, "start_values"),
    ],
)
def test_cautions_come_where_they_matter(changes, code):
    codes = {n.code for n in forecast(*routed(trip(**changes)), swings=False).warnings}
    assert code in codes


def test_a_descent_on_a_full_regenerating_pack_is_warned_of():
    down = (
        Leg(length_m=2000, descent_m=80, bearing_deg=0),
        Leg(length_m=9000, climb_m=80, bearing_deg=0),
    )
    base = trip(route=RouteSpec(legs=down))
    full = replace(base, vehicle=replace(base.vehicle, regeneration=0.4))
    codes = {n.code for n in forecast(*routed(full), swings=False).warnings}
    assert "regeneration_when_full" in codes
    lower = replace(full, start_energy_fraction=sure(0.85))
    assert "regeneration_when_full" not in {
        n.code for n in forecast(*routed(lower), swings=False).warnings
    }


def test_regeneration_stretches_a_hilly_ride_and_a_full_pack_takes_nothing():
    legs = (
        Leg(length_m=2000, climb_m=100, bearing_deg=0),
        Leg(length_m=2000, descent_m=100, bearing_deg=0),
    )
    base = certain(route=RouteSpec(legs=legs))
    with_regen = replace(base, vehicle=replace(base.vehicle, regeneration=0.5))
    assert far(with_regen) > 1.05 * far(base)
    down = replace(with_regen, route=RouteSpec(legs=legs[1:]))
    trip_, route = routed(down)
    draws = draws_of(trip_, route, swings=False)
    first = ride_on(trip_, draws, trip_steps(trip_, route, draws.likely_m), until_m=2000).walk
    assert first.charge.max() <= 1.0


def test_a_share_that_was_shown_is_not_known_to_a_digit():
    sure_of_it = forecast(*routed(certain(start_energy_fraction=sure(0.4))), swings=False)
    shown = forecast(*routed(certain(start_energy_fraction=Known(value=0.4))), swings=False)
    by = {item.name: item for item in shown.inputs}["start_energy_fraction"]
    assert by.standard_uncertainty == 0.05

    def half(answer):
        return (answer.range_to_cutoff.high - answer.range_to_cutoff.low) / 2

    assert half(shown) > half(sure_of_it) + 0.1 * shown.range_to_cutoff.value
    full = forecast(*routed(certain(start_energy_fraction=Known(value=1.0))), swings=False)
    # Full is full, or a little less; never more.
    assert full.range_to_cutoff.high == pytest.approx(
        forecast(*routed(certain()), swings=False).range_to_cutoff.high, rel=0.01
    )
