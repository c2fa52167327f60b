"""The simulated instruments show what they should of the truth."""

import numpy as np
import pytest

from demo.island import ORIGIN, lighthouse_road, peat_track, quay_loop
from limpet.pack import PackSpec
from limpet.road import step_lengths_m
from standins.instruments import Meter, record, samples, with_gap
from standins.ride_generator import RidePlan, Weather, ride
from tests.core.test_simulated_rides import CALM, VEHICLES, energy_wh, truth_of


@pytest.fixture(scope="module")
def truth():
    return truth_of(stop_at_m=6000)


def logged(truth, **meter):
    return record(
        truth,
        Meter(noise_v=0, noise_a=0, **meter),
        trip_scale=1.05,
        gps_scale=0.99,
        gauge_steps=5,
        seed=1,
    )


def test_a_meters_counters_are_its_own_integrals(truth):
    log = logged(truth, voltage_gain=1.01, current_gain=1.02)
    assert log.energy_wh[-1] == pytest.approx(1.01 * 1.02 * energy_wh(truth), rel=2e-3)
    assert log.charge_ah[-1] == pytest.approx(
        1.02 * np.trapezoid(truth.current_a, truth.time_s) / 3600, rel=2e-3
    )


def test_trip_and_track_have_their_scales(truth):
    log = logged(truth)
    assert log.trip_m[-1] == pytest.approx(1.05 * truth.distance_m[-1])
    assert log.gps_m[-1] == pytest.approx(0.99 * truth.distance_m[-1])


def test_the_gauge_shows_its_steps_and_bounces_with_the_load(truth):
    log = logged(truth)
    assert set(np.unique(log.gauge)) <= {0, 1, 2, 3, 4, 5}
    assert (np.diff(log.gauge) > 0).any()


def test_a_track_lies_on_the_road(truth):
    frame = samples(truth, logged(truth), origin=ORIGIN, seed=1)
    lengths = step_lengths_m(frame["latitude_deg"].to_numpy(), frame["longitude_deg"].to_numpy())
    moving = (truth.speed_mps[1:] + truth.speed_mps[:-1]) / 2 > 0.5
    assert lengths[moving].sum() == pytest.approx(truth.distance_m[-1], rel=0.03)


def test_a_gap_takes_rows_out_and_nothing_else(truth):
    frame = samples(truth, logged(truth), origin=ORIGIN, seed=1)
    holed = with_gap(frame, 200, 60)
    assert frame.height - holed.height == 59
    assert holed["time_s"].is_sorted()


@pytest.mark.parametrize(
    ("course", "length_m"), [(quay_loop, 1720), (lighthouse_road, 17_800), (peat_track, 6400)]
)
def test_courses_have_their_lengths_and_close(course, length_m):
    made = course()
    assert made.length_m == pytest.approx(length_m)
    assert made.altitude_m[0] == pytest.approx(made.altitude_m[-1], abs=0.01)
    assert np.hypot(made.east_m[0] - made.east_m[-1], made.north_m[0] - made.north_m[-1]) < 1.0
    assert (np.diff(made.distance_m) > 0).all()
    # On the map it is as long as it is called.
    path = np.hypot(np.diff(made.east_m), np.diff(made.north_m)).sum()
    assert path == pytest.approx(made.length_m, rel=1e-6)


def range_km(**changes):
    weather = Weather(
        **{
            "temp_c": 25,
            "wind_mps": 0,
            "wind_from_deg": 0,
            "density_kgpm3": 1.2,
            **changes.pop("weather", {}),
        }
    )
    plan = RidePlan(**{"rider_kg": 80, "target_mps": 5.5, **changes.pop("plan", {})})
    pack = PackSpec(chemistry="nmc", series=13, rated_ah=4.0, full_v=54.6, cutoff_v=39.0)
    return (
        ride(
            VEHICLES["Sandpiper"].model, pack, quay_loop(), weather, plan, seed=4, **changes
        ).distance_m[-1]
        / 1000
    )


@pytest.mark.parametrize(
    "worse",
    [
        {"plan": {"rider_kg": 120}},
        {"plan": {"target_mps": 7.5}},
        {"weather": {"temp_c": -5}},
        {"weather": {"wind_mps": 6}},
        {"retained": 0.8},
    ],
    ids=["heavier", "faster", "colder", "windier", "older"],
)
def test_what_makes_riding_harder_makes_it_shorter(worse):
    # Physics, no number needed: each of these costs energy or takes it from the pack.
    assert range_km(**worse) < 0.97 * range_km()


def test_a_ride_ends_with_three_seconds_under_cutoff_or_where_it_was_to():
    assert not truth_of(stop_at_m=3000).reached_cutoff
    ended = truth_of(stop_at_m=None)
    assert ended.reached_cutoff
    assert CALM.wind_mps == 0
    under = ended.voltage_v <= 39.0
    assert under.sum() >= 4
