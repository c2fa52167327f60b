"""What a ride is taken to use before anything tells, by closed forms and beside rides of the trade."""

from __future__ import annotations

from dataclasses import replace
from math import log

import numpy as np
import pytest

from limpet.carry.start_values import START_VALUES
from limpet.evidence.model import (
    Conditions,
    Entry,
    Protocol,
    RiderSpec,
    Tyres,
    VehicleSpec,
)
from limpet.figures.findings import find
from limpet.read.line import Line
from limpet.read.window import ride_window
from limpet.road import air_density
from limpet.state.usual_consumption import TAKEN_OVER_MODEL, usual_wh_per_m
from limpet.uncertain.input import FAR, Input
from tests.strategies import range_test

KM = 1000.0
RIDER = RiderSpec(mass_kg=80.0, gear_kg=5.0)


def usual(km=20.0, hours=1.0, *, entries=(), kind="bicycle", mass_kg=25.0, **more):
    """Value and relative u [Wh/km] of a ride of so many kilometres."""
    test = range_test(
        Entry(time_s=0, kind="start"),
        *entries,
        Entry(time_s=3600 * (hours or 1.0), kind="end"),
        **{"vehicle": VehicleSpec(kind=kind, mass_kg=mass_kg), "rider": RIDER, **more},
    )
    way = None
    if km is not None:
        way = Line(time_s=np.array([0.0, 3600 * hours]), total=np.array([0.0, km * KM]))
    value, u = usual_wh_per_m(test, ride_window(test), way, hours or 0.0)
    return KM * value, u / value


STEADY = {
    "protocol": Protocol(speed_policy="fixed", target_speed_mps=6.0),
    "conditions": Conditions(temp_start_c=15.0, wind_mps=0.0, surface="smooth_paved"),
}


def test_an_even_ride_on_a_level_road_takes_what_the_closed_form_says():
    """Rolling and air over efficiency, what runs beside, a fifth of a stop a kilometre (handbook section 10)."""
    climb = Entry(time_s=3600, kind="checkpoint", ascent_m=0.0, descent_m=0.0)
    found, _ = usual(km=None, entries=(climb,), hours=None, **STEADY)
    start, v, mass = START_VALUES["bicycle"], 6.0, 110.0
    air = 0.5 * air_density(15.0, 101_325.0, 0.7) * start.cda_m2[0] * v**2 * (1 + 3 * 0.1**2)
    stop = 0.75 * 0.5 * 1.03 * mass * v**2 * 0.2 / KM
    # A climb that nobody can place on a way of no length is the usual one: a tenth of 8 m/km is lost.
    hills = 0.10 * mass * 9.80665 * 8.0 / KM
    force = mass * 9.80665 * start.crr[0] + air + stop + hills
    per_km = KM * (force / start.drivetrain_efficiency[0] + start.aux_w[0] / v) / 3600
    assert found == pytest.approx(TAKEN_OVER_MODEL[0] * per_km, rel=0.01)


@pytest.mark.parametrize(
    ("kind", "kmh", "policy", "taken"),
    [
        # Wh/km at the pack by rides of handbook section 18 (common practice, no source).
        ("kick_scooter", 22.0, None, 540 * 0.97 / (22 * 1.609344)),
        ("moped", 40.0, None, 3040 / 108.4),
        ("motorcycle", 45.0, "with_traffic", 7200 * 0.95 / (107 * 1.609344)),
        ("motorcycle", 100.0, "fixed", 7200 * 0.93 / (46.1 * 1.609344)),
    ],
)
def test_rides_of_the_trade_lie_inside(kind, kmh, policy, taken):
    found, relative = usual(
        km=kmh, kind=kind, mass_kg=None, rider=None, protocol=Protocol(speed_policy=policy)
    )
    assert abs(log(taken / found)) < 1.96 * relative


def test_what_the_sheet_says_moves_it_and_narrows_it():
    _, unsure = usual(km=None, hours=None, rider=None, mass_kg=None)
    _, surer = usual(km=20.0, hours=1.0, **STEADY)
    assert surer < unsure
    assert 0.22 <= surer < 0.30 < unsure < 0.5
    # By the clock, with lights that nobody noted: 20 km in an hour, or 30.
    assert usual(km=30.0)[0] > 1.3 * usual(km=20.0)[0]
    assert usual(rider=replace(RIDER, mass_kg=130.0))[0] > 1.15 * usual()[0]
    gravel = Conditions(surface="gravel")
    assert (
        usual(conditions=gravel)[0] > 1.3 * usual(conditions=Conditions(surface="smooth_paved"))[0]
    )
    assert (
        usual(tyres=Tyres(pressure_kpa=160.0))[0] > 1.1 * usual(tyres=Tyres(pressure_kpa=320.0))[0]
    )
    assert (
        usual(conditions=Conditions(wind_mps=8.0))[0]
        > usual(conditions=Conditions(wind_mps=0.0))[0]
    )
    assert (
        usual(conditions=Conditions(temp_start_c=-10.0))[0]
        > usual(conditions=Conditions(temp_start_c=30.0))[0]
    )
    hilly = Entry(time_s=3600, kind="checkpoint", ascent_m=600.0, descent_m=600.0)
    assert usual(entries=(hilly,))[0] > 1.05 * usual()[0]


def test_the_air_counts_as_it_was_noted_and_no_temperature_breaks_it():
    low, high = (usual(conditions=Conditions(pressure_hpa=p))[0] for p in (850.0, 1030.0))
    assert high > 1.03 * low
    hot, hotter = (usual(conditions=Conditions(temp_start_c=t))[0] for t in (50.0, 70.0))
    assert hotter == hot


def test_legs_take_their_share():
    pedalled = {"protocol": Protocol(propulsion="assist")}
    alone, _ = usual()
    helped, unsure = usual(**pedalled)
    strong, surer = usual(**pedalled, rider=replace(RIDER, pedal_power_w=80.0))
    assert helped < 0.75 * alone
    assert strong == pytest.approx(helped, rel=0.01)
    assert surer < unsure


def test_a_clock_that_nobody_stopped_tells_no_speed():
    stood, _ = usual(km=20.0, hours=30.0)
    assert stood == pytest.approx(usual(km=None, hours=None)[0], rel=1e-6)


def test_it_is_an_input_of_the_ride_with_its_source():
    found = find(
        range_test(
            Entry(time_s=0, kind="start", trip_m=0.0, voltage_rest_v=54.0),
            Entry(time_s=3600, kind="end", trip_m=20_000.0, voltage_rest_v=49.0),
        ),
        draws=20,
    )
    item = next(one for one in found.remaining.model.inputs if one.name == "consumption")
    assert item.source == "road model of the bicycle"
    assert item.shape == "far_tailed"
    way = Line(time_s=np.array([0.0, 3600.0]), total=np.array([0.0, 20_000.0]))
    expected = usual_wh_per_m(found.evidence.test, found.evidence.ride, way, 1.0)
    assert (item.value, item.standard_uncertainty) == pytest.approx(expected, rel=1e-6)


def test_far_tails_reach_further_and_leave_the_middle():
    item = Input(name="c", value=10.0, standard_uncertainty=2.5, source="", shape="far_tailed")
    plain = replace(item, shape="lognormal")
    score = np.array([-3.0, -1.0, 0.0, 1.0, 3.0])
    far, near = np.log(item.drawn(score) / 10), np.log(plain.drawn(score) / 10)
    assert far == pytest.approx(near * (1 + FAR * score**2))
    assert far[2] == 0.0
    # Beyond four it goes on in proportion: no search runs away with it.
    assert np.log(item.drawn(np.array([8.0])) / 10) == pytest.approx(
        np.log(plain.drawn(np.array([8.0])) / 10) * (1 + 16 * FAR)
    )
