"""Known parameters are recovered from rides of the generator, which does not use the core's walk."""

from __future__ import annotations

from dataclasses import replace
from functools import cache

import numpy as np
import pytest

from demo.island import VEHICLES
from demo.skerrow import ridden
from limpet.carry.start_values import START_VALUES
from limpet.errors import OutOfRangeError
from limpet.evidence.model import Protocol
from limpet.fitting.fit import NAMES, RideTotals, SampledRide, fit_road
from limpet.fitting.rides import usable_for_fit
from limpet.pack import PackSpec
from limpet.road import air_density
from limpet.tell import analyse
from standins.ride_generator import RidePlan, VehicleModel, Weather, ellipse, out_and_back, ride
from tests.strategies import range_test
from tests.trips import rng

PRIOR = START_VALUES["bicycle"]
PACK = PackSpec(chemistry="nmc", series=13, rated_ah=14.0, cutoff_v=39.0)
RIDES = 90


def lognormal(generator: np.random.Generator, pair: tuple[float, float]) -> float:
    value, std = pair
    return float(value * np.exp(np.sqrt(np.log1p((std / value) ** 2)) * generator.normal()))


def logged(
    model: VehicleModel, *, seed: int, course, speed: float, kit: int | None = None
) -> SampledRide:
    """A generated ride as a logger with a small gain error, a scale and a weather note saw it.

    `kit` seeds the errors of meter and scale, which rides of one vehicle share.
    """
    generator, meter = rng(1000 + seed), rng(2000 + (seed if kit is None else kit))
    truth = ride(
        model,
        PACK,
        course,
        Weather(temp_c=15, wind_mps=0.0, wind_from_deg=0, density_kgpm3=1.22),
        RidePlan(rider_kg=85, target_mps=speed, stop_at_m=9000, rest_after_s=5),
        seed=seed,
    )
    grade = np.gradient(truth.altitude_m) / np.maximum(np.gradient(truth.distance_m), 0.2)
    gain, scale = 1 + meter.normal(0, 0.012), 1 + meter.normal(0, 0.02)
    return SampledRide(
        time_s=truth.time_s,
        speed_mps=truth.speed_mps + generator.normal(0, 0.03, len(truth.time_s)),
        power_w=truth.voltage_v * truth.current_a * gain,
        grade=np.where(truth.speed_mps > 0.5, np.clip(grade, -0.2, 0.2), 0.0),
        headwind_mps=np.full(len(truth.time_s), generator.normal(0, 0.5)),
        density_kgpm3=1.22,
        mass_kg=(model.mass_kg + 85) * scale,
    )


@cache
def recovered() -> tuple[np.ndarray, np.ndarray]:
    """Scores (fit − truth)/u and told shares of many rides whose truths are drawn from the priors."""
    generator = rng(7)
    scores, told = [], []
    for seed in range(RIDES):
        truth = (
            lognormal(generator, PRIOR.crr),
            lognormal(generator, PRIOR.cda_m2),
            float(np.clip(generator.normal(*PRIOR.drivetrain_efficiency), 0.6, 0.95)),
            lognormal(generator, PRIOR.aux_w),
        )
        model = VehicleModel(
            mass_kg=28, crr=truth[0], cda_m2=truth[1], efficiency=truth[2], aux_w=truth[3],
            max_power_w=900,
        )  # fmt: skip
        course = out_and_back(2400, 45, stops=1) if seed % 2 else ellipse(1800, 12, stops=1)
        found = fit_road(
            "bicycle", [logged(model, seed=seed, course=course, speed=4.5 + seed % 5 * 0.7)]
        )
        scores.append((np.array(found.fit.values) - truth) / np.array(found.standard_uncertainties))
        told.append(found.told)
    return np.array(scores), np.array(told)


def test_the_intervals_hold_the_truth_as_often_as_they_say():
    scores, _ = recovered()
    inside = (np.abs(scores) <= 2.0).mean(axis=0)
    print("coverage of 95 % intervals:", dict(zip(NAMES, np.round(100 * inside, 1), strict=True)))
    # 93 to 98% over all parameters; each alone may stray by two binomial deviations more.
    assert 0.93 <= inside.mean() <= 0.985
    assert (inside >= 0.95 - 2 * np.sqrt(0.95 * 0.05 / RIDES) - 0.01).all()
    assert np.abs(scores.mean(axis=0)).max() < 0.45


def test_hills_and_starts_tell_rolling_and_efficiency():
    _, told = recovered()
    assert told.mean(axis=0)[0] < 0.6
    assert told.mean(axis=0)[2] < 0.5


def steady(speed: float = 5.5) -> SampledRide:
    """An hour at one speed on the flat, power by the closed form and a noisy meter."""
    count, generator = 3600, rng(5)
    force = 0.0085 * 113 * 9.80665 + 0.5 * 1.22 * 0.62 * speed**2
    return SampledRide(
        time_s=np.arange(count) * 1.0,
        speed_mps=np.full(count, speed),
        power_w=force * speed / 0.82 + 9 + generator.normal(0, 4, count),
        grade=np.zeros(count),
        headwind_mps=np.zeros(count),
        density_kgpm3=1.22,
        mass_kg=113.0,
    )


MODEL = VehicleModel(mass_kg=28, crr=0.0085, cda_m2=0.62, efficiency=0.82, aux_w=9, max_power_w=900)


def test_more_rides_at_other_speeds_part_rolling_from_air():
    slow = logged(MODEL, seed=201, course=out_and_back(2400, 45), speed=4.2, kit=1)
    fast = logged(MODEL, seed=202, course=out_and_back(2400, 45), speed=8.0, kit=1)
    one, both = fit_road("bicycle", [slow]), fit_road("bicycle", [slow, fast])
    assert both.told[1] < one.told[1]
    assert both.fit.tests == 2
    for name, truth in (("crr", 0.0085), ("cda_m2", 0.62), ("drivetrain_efficiency", 0.82)):
        k = NAMES.index(name)
        assert abs(both.fit.values[k] - truth) < 2 * both.standard_uncertainties[k], name


def test_what_a_flat_steady_ride_cannot_tell_is_left_at_the_start_value_and_said():
    found = fit_road("bicycle", [steady()])
    assert "cannot tell air drag, drive efficiency and auxiliary power" in found.statement
    aux = NAMES.index("aux_w")
    assert found.fit.values[aux] == pytest.approx(PRIOR.aux_w[0], rel=0.2)
    # Consumption at that speed is known far better than its parts: they trade off.
    crr, cda, eta, _ = found.fit.values
    roll, air = crr * 113 * 9.80665 / eta, 0.61 * cda * 5.5**2 / eta
    slope = np.array([roll / crr, air / cda, -(roll + air) / eta, 1 / 5.5])
    covariance = np.array(found.fit.covariance)
    together = np.sqrt(slope @ covariance @ slope)
    apart = np.sqrt((slope**2) @ np.diag(covariance))
    assert together < 0.7 * apart


def test_a_wild_reading_does_not_move_the_fit():
    calm = logged(MODEL, seed=204, course=out_and_back(2400, 45), speed=5.5)
    wild_power = calm.power_w.copy()
    wild_power[600:615] *= 12
    before = fit_road("bicycle", [calm])
    after = fit_road("bicycle", [replace(calm, power_w=wild_power)])
    moved = np.abs(np.array(after.fit.values) - before.fit.values)
    assert (moved < 0.6 * np.array(before.standard_uncertainties)).all()


def test_totals_alone_narrow_the_road_load_a_little():
    # The handbook's steady ride (section 10) as a hand-logged test: 9.016 Wh/km at 6 m/s.
    totals = RideTotals(
        energy_wh=9.016 * 20, energy_std_wh=3.0, distance_m=20_000, moving_s=20_000 / 6,
        climb_m=0.0, density_kgpm3=1.2, mass_kg=105.0,
    )  # fmt: skip
    found = fit_road("bicycle", [totals])
    assert min(found.told) < 0.95
    assert all(share <= 1.01 for share in found.told)
    crr, cda, eta, aux = found.fit.values
    again = (crr * 105 * 9.80665 + 0.6 * cda * 36) / eta / 3.6 + aux / 6 / 3.6
    assert again == pytest.approx(9.016, rel=0.08)


def test_the_demos_vehicles_are_recovered_from_their_own_tests():
    for name, slugs in (
        ("Sandpiper", ("sandpiper-lighthouse", "sandpiper-worn-twin", "sandpiper-quay-gentle")),
        ("Whimbrel", ("whimbrel-lighthouse-cutoff", "whimbrel-frost")),
    ):
        rides = []
        for slug in slugs:
            test = ridden(slug)
            usable = usable_for_fit(test, analyse(test))
            assert usable.ride is not None, usable.why_not
            rides.append(usable.ride)
        found = fit_road(VEHICLES[name].spec.kind, rides)
        model = VEHICLES[name].model
        truth = (model.crr, model.cda_m2, model.efficiency, model.aux_w)
        off = (np.array(found.fit.values) - truth) / found.standard_uncertainties
        assert np.abs(off).max() < 2.5, (name, off)


def test_what_a_test_lacks_is_said():
    base = ridden("sandpiper-quay-gentle")
    sheet = base.sheet
    no_mass = replace(base, sheet=replace(sheet, vehicle=replace(sheet.vehicle, mass_kg=None)))
    assert usable_for_fit(no_mass, analyse(no_mass)).why_not == "the vehicle's mass is not known"
    pedalled = replace(base, sheet=replace(sheet, protocol=Protocol(propulsion="assist")))
    assert usable_for_fit(pedalled, analyse(pedalled)).why_not == "the rider pedalled"
    empty = range_test()
    assert usable_for_fit(empty, analyse(empty)).why_not == "energy or distance is not known"


def test_a_wind_along_a_track_is_felt_by_direction():
    usable = usable_for_fit(ridden("sandpiper-lighthouse"), analyse(ridden("sandpiper-lighthouse")))
    assert isinstance(usable.ride, SampledRide)
    # East wind at 4 m/s; the road leads east and comes back.
    assert usable.ride.headwind_mps.max() == pytest.approx(4.0, abs=0.1)
    assert usable.ride.headwind_mps.min() < -3.0
    assert usable.ride.density_kgpm3 == pytest.approx(air_density(9.5, 101_300, 0.78), rel=1e-6)


@pytest.mark.parametrize(
    ("rides", "message"),
    [
        ([], "no ride has a stretch of steady driving"),
        (
            [RideTotals(energy_wh=10, energy_std_wh=1, distance_m=0, moving_s=5, climb_m=0,
                        density_kgpm3=1.2, mass_kg=100)],
            "a ride of 0 m in 5 s has no speed",
        ),
    ],
)  # fmt: skip
def test_rides_that_tell_nothing_are_refused(rides, message):
    with pytest.raises(OutOfRangeError, match=message):
        fit_road("bicycle", rides)
