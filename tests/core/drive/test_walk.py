"""The walk against an integration of the same ride by SciPy, PyBaMM's cell, and its own ledger."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pybamm
import pytest
from scipy.integrate import solve_ivp

from limpet.drive.battery import Battery
from limpet.drive.journey import draws_of, limits_of, ride_on, trip_steps
from limpet.drive.steps import steps_of
from limpet.outlook.forecast import forecast
from limpet.pack import curve_family, ocv_curve
from limpet.pack.family import GRID
from limpet.road import Leg, air_density
from limpet.trip import Packs, RouteSpec, SpeedSpec, StepDown
from limpet.units import STANDARD_GRAVITY_MPS2
from tests.trips import HILLS, PACK, certain, routed, sure


def ridden(what, until_m=None):
    trip, route = routed(what)
    draws = draws_of(trip, route, swings=False)
    steps = trip_steps(trip, route, draws.likely_m)
    return draws, ride_on(trip, draws, steps, until_m=until_m, ledger=True).walk


NO_STOPS = tuple(replace(leg, stops=0.0, surface="smooth_paved", even=True) for leg in HILLS)


def by_solve_ivp(trip, route, length_m, start=1.0):
    """The same ride as an ordinary differential equation in distance: charge and energy."""
    curve = ocv_curve("nmc")
    vehicle = trip.vehicle
    mass = 31.0 + 82.0 + 6.0
    rho = air_density(25.0, 101_325.0, 0.7)
    edges, grades, headings = [0.0], [], []
    for leg in route.legs:
        both = leg.climb_m + leg.descent_m
        for share, rise in ((leg.climb_m, leg.climb_m), (leg.descent_m, -leg.descent_m)):
            if share > 0:
                length = leg.length_m * share / both
                edges.append(edges[-1] + length)
                grades.append(rise / length)
                headings.append(leg.bearing_deg)
    wind, wind_from = trip.conditions.wind_mps.value, trip.conditions.wind_from_deg

    def demand(metres):
        k = min(int(np.searchsorted(edges, metres % edges[-1], side="right")) - 1, len(grades) - 1)
        v = trip.speed.target_mps
        head = wind * np.cos(np.radians(wind_from - headings[k]))
        grade = grades[k]
        drag = 0.5 * rho * vehicle.cda_m2.value
        rolls = mass * STANDARD_GRAVITY_MPS2 * (vehicle.crr.value * np.sqrt(1 - grade**2) + grade)
        if grade < 0:
            # Let run up to a quarter over: the speed at which nothing is braked.
            v = min(max(np.sqrt(max(-rolls, 0) / drag) - head, v), 1.25 * v)
        force = rolls + drag * (v + head) * abs(v + head)
        wheel = force * v
        regen = vehicle.regeneration
        return (wheel / 0.8 if wheel > 0 else regen * wheel) + 9.0, v

    def slope(metres, state):
        power, v = demand(metres)
        open_v = 13 * float(np.interp(state[0], curve.state_of_charge, curve.ocv_v))
        # Towards empty the resistance grows, to 3.2 times at nothing (assumption).
        ohm = 0.11 * (1 + 2.2 * np.exp(-state[0] / 0.08))
        amps = (open_v - np.sqrt(open_v**2 - 4 * ohm * power)) / (2 * ohm)
        return [-amps / v / (14.0 * 3600), power / v]

    total = np.zeros(2)
    state, energy, at = start, 0.0, 0.0
    # Corner by corner: the solver's steps must not straddle a change of slope.
    while at < length_m - 1e-6:
        lap = np.floor((at + 1e-9) / edges[-1]) * edges[-1]
        ahead = [lap + edge for edge in edges if lap + edge > at + 1e-6]
        end = min(ahead[0], length_m)
        middle = solve_ivp(
            lambda m, y, a=at, b=end: slope(min(max(m, a + 1e-6), b - 1e-6), y),
            (at, end), [state, energy], rtol=1e-8, atol=1e-8,
        )  # fmt: skip
        state, energy, at = *middle.y[:, -1], end
        total += 1
    return state, energy


@pytest.mark.parametrize("wind", [(0.0, 0.0), (4.0, 250.0)])
def test_a_whole_ride_agrees_with_solve_ivp(wind):
    # SciPy 1.17, RK45 at 1e-8. Half a percent is the issue's; the walk is well within it.
    base = certain(route=RouteSpec(legs=NO_STOPS, and_back=True))
    base = replace(
        base, conditions=replace(base.conditions, wind_mps=sure(wind[0]), wind_from_deg=wind[1])
    )
    # The direction is stated surely too, or column 0 would still be at its best value: it is.
    trip, route = routed(base)
    _, walk = ridden(base, until_m=2 * route.length_m)
    charge, energy_j = by_solve_ivp(trip, route, float(walk.at_m[-1]))
    assert walk.terminal_j[-1, 0] == pytest.approx(energy_j, rel=1e-3)
    assert 1 - walk.charge[-1, 0] == pytest.approx(1 - charge, rel=2e-3)


def test_a_pack_near_its_end_agrees_with_solve_ivp_too():
    base = certain(route=RouteSpec(legs=NO_STOPS, and_back=True), start_energy_fraction=sure(0.32))
    trip, route = routed(base)
    _, walk = ridden(base, until_m=route.length_m)
    start = float(walk.charge[0, 0])
    charge, energy_j = by_solve_ivp(trip, route, float(walk.at_m[-1]), start)
    assert charge < 0.22
    assert walk.terminal_j[-1, 0] == pytest.approx(energy_j, rel=1e-3)
    # With the resistance of a full pack it would be a percent off.
    assert start - walk.charge[-1, 0] == pytest.approx(start - charge, rel=3e-3)


def test_a_slope_that_pays_back_agrees_with_solve_ivp_too():
    legs = (
        Leg(length_m=3000, climb_m=120, bearing_deg=0, even=True),
        Leg(length_m=3000, descent_m=120, bearing_deg=0, even=True),
    )
    base = certain(route=RouteSpec(legs=legs))
    base = replace(
        base,
        vehicle=replace(base.vehicle, regeneration=0.5),
        start_energy_fraction=sure(1.0),
    )
    trip, route = routed(base)
    _, walk = ridden(base, until_m=6000)
    # On the climb the pack falls to about 0.94, below where it takes everything back.
    _, energy_j = by_solve_ivp(trip, route, 6000)
    assert walk.terminal_j[-1, 0] == pytest.approx(energy_j, rel=5e-3)


def test_finer_steps_change_the_range_by_little():
    trip, route = routed(certain())
    draws = draws_of(trip, route, swings=False)
    ends = [
        ride_on(trip, draws, steps_of(route, step)).walk.end_m[0] for step in (200.0, 50.0, 10.0)
    ]
    assert ends[0] == pytest.approx(ends[2], rel=4e-3)
    assert ends[1] == pytest.approx(ends[2], rel=2e-3)


@pytest.mark.parametrize(("regeneration", "pedalled_w"), [(0.0, 0.0), (0.5, 0.0), (0.3, 70.0)])
def test_every_joule_that_left_the_cells_is_accounted_for(regeneration, pedalled_w):
    base = certain()
    base = replace(
        base,
        vehicle=replace(base.vehicle, regeneration=regeneration),
        rider=replace(base.rider, pedal_power_w=pedalled_w),
    )
    _, walk = ridden(base)
    book = walk.ledger
    assert book is not None
    parts = (
        book.resistance + book.rolling + book.air + book.climb + book.stops
        + book.drivetrain + book.brakes + book.auxiliary + book.rider
    )  # fmt: skip
    assert parts == pytest.approx(book.drawn, rel=1e-12)


def test_the_ledgers_rolling_and_climb_are_the_closed_forms():
    base = certain(
        route=RouteSpec(legs=(Leg(length_m=5000, climb_m=60, bearing_deg=0, even=True),))
    )
    _, walk = ridden(base, until_m=5000)
    weight = 119.0 * STANDARD_GRAVITY_MPS2
    assert walk.ledger.climb == pytest.approx(weight * 60, rel=1e-12)
    assert walk.ledger.rolling == pytest.approx(
        0.010 * weight * 5000 * np.sqrt(1 - 0.012**2), rel=1e-12
    )
    air = 0.5 * air_density(25.0, 101_325.0, 0.7) * 0.55 * 5.8**2 * 5000
    assert walk.ledger.air == pytest.approx(air, rel=1e-12)


def test_a_stop_costs_what_a_simulated_stop_costs():
    # A plain simulation in time: brake at 1.1, wait, gather way at 0.7 m/s², against riding past.
    mass, v, crr, k, eta, aux = (
        119.0,
        5.8,
        0.010,
        0.5 * air_density(25, 101325, 0.7) * 0.55,
        0.8,
        9.0,
    )
    flat = (Leg(length_m=2000, bearing_deg=0),)
    stopping = (Leg(length_m=2000, bearing_deg=0, stops=1.0),)
    cost = []
    for legs in (flat, stopping):
        _, walk = ridden(certain(route=RouteSpec(legs=legs)), until_m=2000)
        cost.append((walk.terminal_j[-1, 0], walk.time_s[-1, 0]))
    energy, seconds = np.subtract(cost[1], cost[0])
    roll = crr * mass * STANDARD_GRAVITY_MPS2
    dt = 1e-3
    speed = np.arange(0, v, 0.7 * dt)
    wheel = (roll + k * speed**2 + 1.03 * mass * 0.7) * speed
    start_s, start_m = v / 0.7, v**2 / 1.4
    brake_s, brake_m = v / 1.1, v**2 / 2.2
    with_stop = wheel.sum() * dt / eta + aux * (start_s + brake_s + 15)
    past = ((roll + k * v**2) * v / eta + aux) * (start_m + brake_m) / v
    assert seconds == pytest.approx(start_s + brake_s + 15 - (start_m + brake_m) / v, rel=1e-3)
    assert energy == pytest.approx(with_stop - past, rel=0.02)


def test_the_hardest_pull_of_a_way_may_be_gathering_way_again():
    """½·1.03·m·v² gathered at 0.7 m/s² ends at (F + 1.03·m·a)·v/η + aux: closed form."""
    walks = []
    for stops in (1.0, 0.0):
        leg = Leg(length_m=2000, bearing_deg=0, stops=stops)
        base = certain(route=RouteSpec(legs=(leg,)))
        strong = replace(base.vehicle, max_power_w=sure(2000.0))
        walks.append(ridden(replace(base, vehicle=strong), until_m=2000)[1])
    walk, past = walks
    mass, v, eta, aux = 119.0, 5.8, 0.8, 9.0
    drag = 0.5 * air_density(25, 101325, 0.7) * 0.55 * v**2
    force = 0.010 * mass * STANDARD_GRAVITY_MPS2 + drag + 1.03 * mass * 0.7
    assert walk.peak_power_w == pytest.approx(force * v / eta + aux, rel=0.01)
    assert walk.peak_power_w > 2 * past.peak_power_w
    assert walk.peak_current_a > 2 * past.peak_current_a
    assert walk.least_loaded_v < past.least_loaded_v


def test_a_pack_takes_no_more_back_than_half_its_charge_in_an_hour():
    down = RouteSpec(legs=(Leg(length_m=3000, descent_m=450, bearing_deg=0),))
    base = certain(route=down, start_energy_fraction=sure(0.5))
    brake = replace(base.vehicle, regeneration=1.0, aux_w=sure(1e-6))
    _, walk = ridden(replace(base, vehicle=brake), until_m=3000)
    taken_ah = (walk.charge[-1, 0] - walk.charge[0, 0]) * PACK.rated_ah
    hours = walk.time_s[-1, 0] / 3600
    # 15% down asks for far more than the half: what comes in is held to it (assumption).
    assert taken_ah == pytest.approx(0.5 * PACK.rated_ah * hours, rel=0.03)


def test_the_drive_ends_where_a_simulated_cell_ends():
    """PyBaMM 26.10, single-particle model of Chen 2020: the voltage-limited end of a drive."""
    model = pybamm.lithium_ion.SPM()
    values = pybamm.ParameterValues("Chen2020")
    capacity = values["Nominal cell capacity [A.h]"]
    current = 1.6
    values["Current function [A]"] = current
    solution = pybamm.Simulation(model, parameter_values=values).solve([0, 4 * 3600])
    volts, hours = solution["Terminal voltage [V]"].entries, solution["Time [h]"].entries
    simulated = float(np.interp(-3.0, -volts, hours)) if volts.min() < 3.0 else float(hours[-1])
    # The same cell on a treadmill: a speed and an aux load that draw the same current, 3.0 V end.
    # R of the simulated cell at half charge, from its own voltages.
    half = len(volts) // 2
    open_v = solution["Bulk open-circuit voltage [V]"].entries
    ohm = float((open_v[half] - volts[half]) / current)
    mean_v = float(volts.mean())
    what = certain(
        route=RouteSpec(legs=(Leg(length_m=5000, bearing_deg=0),)),
        pack=replace(
            PACK, series=1, parallel=1, rated_ah=capacity, rated_wh=None, cutoff_v=3.0,
            resistance_ohm=sure(ohm), retained_fraction=sure(1.0),
        ),
    )  # fmt: skip
    tiny = replace(
        what.vehicle,
        mass_kg=sure(1.0),
        cda_m2=sure(0.06),
        crr=sure(0.001),
        aux_w=sure(mean_v * current),
    )
    what = replace(
        what,
        vehicle=tiny,
        rider=replace(what.rider, mass_kg=sure(4.0), gear_kg=sure(0.0)),
        speed=SpeedSpec(policy="fixed", target_mps=0.6),
        minimum_speed_mps=0.1,
    )
    draws, walk = ridden(what)
    ended = float(walk.end_time_s[0]) / 3600
    mean_current = float(walk.end_terminal_j[0]) / 3600 / ended / mean_v
    # The curve is the mean of three NMC families and the model has no diffusion: 6%.
    assert mean_current == pytest.approx(current, rel=0.03)
    assert ended == pytest.approx(simulated, rel=0.06)
    assert draws.limits.cutoff_v == 3.0


def test_power_that_does_not_reach_slows_the_climb_to_what_it_holds():
    steep = (Leg(length_m=1500, climb_m=120, bearing_deg=0),)
    base = certain(route=RouteSpec(legs=steep))
    base = replace(base, vehicle=replace(base.vehicle, max_power_w=sure(500.0)))
    _, walk = ridden(base, until_m=1500)
    v = float(walk.speed_mps[2])
    weight, grade = 119.0 * STANDARD_GRAVITY_MPS2, 0.08
    k = 0.5 * air_density(25, 101325, 0.7) * 0.55
    needed = (weight * (0.010 * np.sqrt(1 - grade**2) + grade) + k * v**2) * v / 0.8 + 9.0
    assert v < 5.8
    assert needed == pytest.approx(500.0, rel=1e-3)
    assert walk.peak_power_w == pytest.approx(500.0)


def test_a_controllers_current_limit_holds():
    base = certain(route=RouteSpec(legs=(Leg(length_m=1500, climb_m=100, bearing_deg=0),)))
    base = replace(base, vehicle=replace(base.vehicle, controller_current_limit_a=8.0))
    _, walk = ridden(base, until_m=1500)
    assert walk.peak_current_a <= 8.0 + 1e-6
    assert walk.peak_current_a > 7.5


def test_a_step_down_caps_the_speed_once_the_pack_sags():
    base = certain(route=RouteSpec(legs=(Leg(length_m=5000, bearing_deg=0),)))
    stepped = replace(
        base, vehicle=replace(base.vehicle, step_down=(StepDown(below_v=46.0, max_speed_mps=3.0),))
    )
    _, walk = ridden(stepped)
    first = int(np.argmax(walk.speed_mps < 5.0))
    assert walk.speed_mps[:first] == pytest.approx(5.8)
    assert walk.speed_mps[first:] == pytest.approx(3.0)
    assert walk.loaded_v[first - 1] < 46.0 <= walk.loaded_v[first - 2]
    # It stays there though the lighter load lets the volts recover.
    assert walk.loaded_v[first] > 46.0
    assert limits_of(stepped).step_down == ((46.0, 3.0),)


def test_a_step_down_by_the_gauge_comes_where_such_a_gauge_shows_it():
    base = certain(route=RouteSpec(legs=(Leg(length_m=5000, bearing_deg=0),)))
    step = (StepDown(gauge=0.4, max_speed_mps=3.0),)
    stepped = replace(base, vehicle=replace(base.vehicle, step_down=step))
    _, walk = ridden(stepped)
    first = int(np.argmax(walk.speed_mps < 5.0))
    assert walk.speed_mps[:first] == pytest.approx(5.8)
    assert walk.speed_mps[first:] == pytest.approx(3.0)
    # 40% shown are 0.4^(1/0.75) of what there was (handbook section 9): some 29% of the way is left.
    whole_m = float(ridden(base)[1].end_m[0])
    assert walk.at_m[first] / whole_m == pytest.approx(1 - 0.4 ** (1 / 0.75), abs=0.06)
    assert limits_of(stepped).step_down == ()


@pytest.mark.parametrize("said", [{}, {"below_v": 44.0, "gauge": 0.2}])
def test_a_step_down_begins_at_volts_or_at_the_gauge(said):
    with pytest.raises(ValueError, match="either below_v or gauge"):
        StepDown(max_speed_mps=3.0, **said)


def test_a_fresh_pack_lifts_what_the_old_one_had_stepped_down():
    base = certain(
        route=RouteSpec(legs=(Leg(length_m=5000, bearing_deg=0),)),
        packs=Packs(count=2, use="in_sequence"),
    )
    step = (StepDown(below_v=46.0, max_speed_mps=3.0),)
    _, walk = ridden(replace(base, vehicle=replace(base.vehicle, step_down=step)))
    swapped = int(np.argmax(walk.spare[:, 0] < 1))
    assert walk.speed_mps[swapped - 2] == pytest.approx(3.0)
    assert walk.speed_mps[swapped] == pytest.approx(5.8)
    assert walk.speed_mps[-1] == pytest.approx(3.0)


def test_two_packs_in_sequence_go_twice_as_far_and_in_parallel_a_little_further():
    flat = RouteSpec(legs=(Leg(length_m=5000, bearing_deg=0),))
    one, _ = ridden(certain(route=flat)), None
    sequence = ridden(certain(route=flat, packs=Packs(count=2, use="in_sequence")))
    parallel = ridden(certain(route=flat, packs=Packs(count=2, use="in_parallel")))
    single = one[1].end_m[0]
    assert sequence[1].end_m[0] == pytest.approx(2 * single, rel=0.01)
    assert 2 * single < parallel[1].end_m[0] < 2.15 * single


def test_a_hill_too_steep_for_the_motor_ends_the_ride_at_its_foot():
    wall = (Leg(length_m=3000, bearing_deg=0), Leg(length_m=800, climb_m=200, bearing_deg=0))
    base = certain(route=RouteSpec(legs=wall))
    base = replace(base, vehicle=replace(base.vehicle, max_power_w=sure(250.0)))
    answer = forecast(*routed(base), swings=False)
    assert answer.ends_by["speed_floor"] == 1.0
    assert answer.range_to_cutoff.value == pytest.approx(3000, abs=120)


def test_a_sagging_pack_is_eased_up_a_hill_and_ends_when_it_cannot_be_ridden_on():
    # Half an ohm and a wall of 9%: at 750 W the pack would sag by 8 V or more, under its cut-off on the first
    # climb once its rest is under 48 V. Eased, it creeps up and goes on along the level.
    legs = (
        Leg(length_m=4000, bearing_deg=0),
        Leg(length_m=150, climb_m=13.5, bearing_deg=0, even=True),
    )
    base = certain(route=RouteSpec(legs=legs))
    base = replace(base, pack=replace(base.pack, resistance_ohm=sure(0.5)))
    _, walk = ridden(base)
    level = certain(route=RouteSpec(legs=(Leg(length_m=4000, bearing_deg=0),)))
    _, flat = ridden(replace(level, pack=replace(level.pack, resistance_ohm=sure(0.5))))
    sagged = 13 * ocv_curve("nmc").voltage(walk.charge[:, 0]) < 46
    middle = (walk.at_m[1:] + walk.at_m[:-1]) / 2
    hill = (middle % 4150 > 4000) & sagged[1:]
    assert hill.any()
    # 750 W would hold some 4.5 m/s there.
    assert walk.speed_mps[hill].min() < 3.5
    # What is left where it ends is what is left on the level, not that of the first hill.
    last, last_flat = (float(np.interp(w.end_m[0], w.at_m, w.charge[:, 0])) for w in (walk, flat))
    assert last == pytest.approx(last_flat, abs=0.06)


def test_every_draw_has_a_curve_of_its_own_from_the_family():
    trip, route = routed(certain(draws=2000))
    draws = draws_of(trip, route, swings=False)
    battery = Battery(draws.columns, draws.limits)
    family = curve_family("nmc")
    for z in (0.2, 0.5, 0.9):
        volts = battery.open_v(np.full(2001, z))
        at = [float(np.interp(z, GRID, shape)) for shape in family.volts]
        # The first is the mean curve, the others scatter as the root sum of the family's shapes.
        assert volts[0] == pytest.approx(13 * at[0], rel=1e-6)
        spread = 13 * float(np.hypot.reduce(at[1:]))
        assert volts[1:].std() == pytest.approx(spread, rel=0.05)


def test_where_a_mark_stands_on_the_one_before_it_the_walk_is_as_at_the_mark():
    """Beyond the last mark of a way whose last step is of no length: a division by nothing was the way's energy."""
    _, walk = ridden(certain(route=RouteSpec(legs=NO_STOPS)), until_m=500.0)
    last = walk.at_m[-1]
    twice = replace(
        walk,
        at_m=np.append(walk.at_m, last),
        terminal_j=np.concatenate([walk.terminal_j, walk.terminal_j[-1:]]),
    )
    for metres in (last, last + 1.0):
        found = twice.at(twice.terminal_j, metres)
        assert found == pytest.approx(walk.terminal_j[-1])
    middle = walk.at(walk.terminal_j, 0.5 * (walk.at_m[1] + walk.at_m[2]))
    assert middle == pytest.approx((walk.terminal_j[1] + walk.terminal_j[2]) / 2)
