"""Cutting a route loses nothing of it."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from limpet.drive.steps import BEARINGS, steps_of
from limpet.road import SURFACE_FACTOR, SURFACES, Leg, Route, loop

legs = st.lists(
    st.builds(
        Leg,
        length_m=st.floats(50, 5000),
        climb_m=st.floats(0, 9),
        descent_m=st.floats(0, 9),
        bearing_deg=st.one_of(st.none(), st.floats(0, 359.9)),
        surface=st.sampled_from(SURFACES),
        stops=st.one_of(st.integers(0, 7).map(float), st.floats(0, 3)),
    ),
    min_size=1,
    max_size=5,
)


@given(legs, st.floats(10, 400), st.booleans())
def test_length_climb_and_stops_are_all_still_there(several, longest, back):
    route = Route(legs=tuple(several))
    route = route.and_back() if back else route
    steps = steps_of(route, longest, slowings_per_km=0.3)
    assert steps.total_m == pytest.approx(route.length_m)
    assert steps.length_m.max() <= longest * (1 + 1e-9)
    rise = steps.grade * steps.length_m
    # A millimetre is no climb: so much may be left out of each leg.
    assert rise[rise > 0].sum() == pytest.approx(route.ascent_m, abs=2e-3 * len(route.legs))
    assert steps.stops.sum() == pytest.approx(sum(leg.stops for leg in route.legs), abs=1e-6)
    assert steps.slowings.sum() == pytest.approx(0.3 * route.length_m / 1000)


def test_a_leg_goes_up_first_and_then_down():
    steps = steps_of(Route(legs=(Leg(length_m=1000, climb_m=30, descent_m=10, even=True),)), 50.0)
    up = steps.grade > 0
    assert steps.length_m[up].sum() == pytest.approx(750)
    assert steps.grade[up] == pytest.approx(30 / 750)
    assert steps.grade[~up] == pytest.approx(-10 / 250)
    assert up[:15].all()


def test_a_climb_that_nobody_drew_lies_on_real_grades_and_the_rest_is_flat():
    steps = steps_of(Route(legs=(Leg(length_m=4000, climb_m=40, descent_m=10),)), 50.0)
    # Half of the height at 3.5 and half at 6.5% (handbook section 10: 4 to 6% ±2).
    steep = np.round(np.unique(steps.grade), 4)
    assert steep.tolist() == [-0.065, -0.035, 0.0, 0.035, 0.065]
    for grade in (0.035, 0.065):
        assert steps.length_m[np.isclose(steps.grade, grade)].sum() == pytest.approx(20 / grade)
    # A leg that is too short for that goes evenly.
    short = steps_of(Route(legs=(Leg(length_m=500, climb_m=40, descent_m=10),)), 50.0)
    assert short.grade.max() == pytest.approx(40 / 400)


def test_a_lap_turns_through_every_direction():
    steps = steps_of(loop(1720.0, climb_m=3.0), 100.0)
    assert steps.sin_bearing.sum() == pytest.approx(0, abs=1e-9)
    assert steps.cos_bearing.sum() == pytest.approx(0, abs=1e-9)
    assert len(steps) % BEARINGS == 0
    # The mean of (w·cosφ)² over a lap is w²/2: closed form.
    assert (steps.cos_bearing**2).mean() == pytest.approx(0.5)


def test_the_way_back_meets_the_wind_that_helped():
    known = steps_of(Route(legs=(Leg(length_m=300, bearing_deg=40),)).and_back(), 100.0)
    assert known.out_steps == 3
    assert known.sin_bearing[:3] == pytest.approx(-known.sin_bearing[3:])
    assert (known.unknown == 0).all()
    unknown = steps_of(Route(legs=(Leg(length_m=300),)).and_back(), 100.0)
    assert unknown.unknown.tolist() == [1, 1, 1, -1, -1, -1]
    assert (unknown.cos_bearing == 0).all()


def test_stops_stand_evenly_and_one_stop_in_the_middle():
    one = steps_of(Route(legs=(Leg(length_m=1000, stops=1.0),)), 100.0)
    assert np.flatnonzero(one.stops).tolist() == [5]
    three = steps_of(Route(legs=(Leg(length_m=900, stops=2.5),)), 100.0)
    assert three.stops[three.stops > 0].tolist() == [1.0, 1.0, 0.5]


def test_a_way_ridden_several_times_is_itself_in_a_row():
    once = steps_of(Route(legs=(Leg(length_m=300, climb_m=6, stops=1.0),)).and_back(), 100.0)
    thrice = once.times(3)
    assert thrice.total_m == pytest.approx(3 * once.total_m)
    assert thrice.stops.sum() == 3 * once.stops.sum()
    assert thrice.out_steps == once.out_steps


def test_surfaces_and_speeds_of_a_leg_reach_its_steps():
    steps = steps_of(
        Route(legs=(Leg(length_m=200, surface="gravel", speed_mps=3.0), Leg(length_m=200))), 100.0
    )
    assert (steps.surface[0], steps.surface_std[0]) == SURFACE_FACTOR["gravel"]
    assert steps.speed_mps[:2].tolist() == [3.0, 3.0]
    assert np.isnan(steps.speed_mps[2:]).all()
