"""The whole analysis against rides whose truth is known, from a generator that shares none of it."""

from dataclasses import replace

import numpy as np
import pytest

from demo.island import ORIGIN, PACKS, VEHICLES, lighthouse_road, quay_loop
from demo.skerrow import ROUNDS, ridden
from limpet.evidence.model import Instrument, Instruments, SampleSources
from limpet.tell import analyse
from limpet.units import METRES_PER_MILE
from standins.instruments import Meter, record, samples
from standins.ride_generator import RidePlan, Weather, ellipse, ride
from tests.strategies import range_test

CALM = Weather(temp_c=25, wind_mps=0, wind_from_deg=0, density_kgpm3=1.2)


def truth_of(pack="Eider-2", seed=1, course=quay_loop, vehicle="Sandpiper", **plan):
    steering = RidePlan(**{"rider_kg": 80, "target_mps": 5.5, "stop_at_m": 9000, **plan})
    return ride(VEHICLES[vehicle].model, PACKS[pack].spec, course(), CALM, steering, seed=seed)


def energy_wh(truth):
    return np.trapezoid(truth.voltage_v * truth.current_a, truth.time_s) / 3600


def test_the_generator_itself_obeys_the_closed_form_of_steady_power():
    # Handbook section 10: m 105 kg, 6 m/s, C_rr 0.012, CdA 0.6 m², ρ 1.2, η 0.78 → 9.016 Wh/km.
    model = replace(
        VEHICLES["Sandpiper"].model, mass_kg=25, cda_m2=0.6, crr=0.012, efficiency=0.78, aux_w=0
    )
    flat = lambda: ellipse(60_000.0, 0.0)  # noqa: E731
    plan = RidePlan(rider_kg=80, target_mps=6.0, speed_spread=0.0, stop_at_m=12_000, rest_after_s=0)
    found = ride(model, PACKS["Eider-2"].spec, flat(), CALM, plan, seed=1)
    steady = (found.distance_m > 2000) & (found.distance_m < 11_000)
    power = (found.voltage_v * found.current_a)[steady]
    metres = np.ptp(found.distance_m[steady])
    assert power.mean() * np.ptp(found.time_s[steady]) / 3600 / metres * 1000 == pytest.approx(
        9.016, rel=0.005
    )


@pytest.mark.parametrize("seed", range(3))
def test_a_logged_ride_gives_the_true_energy_within_its_interval(seed):
    truth = truth_of(seed=seed)
    rng = np.random.default_rng(seed)
    meter = Meter(
        voltage_gain=1 + rng.uniform(-0.005, 0.005), current_gain=1 + rng.uniform(-0.01, 0.01)
    )
    log = record(
        truth, meter, trip_scale=1 + rng.uniform(-0.05, 0.05), gps_scale=1, gauge_steps=5, seed=seed
    )
    frame = samples(truth, log, origin=ORIGIN, seed=seed)
    instruments = Instruments(
        voltage=Instrument(accuracy_pct=0.5), current=Instrument(accuracy_pct=1.0),
        trip=Instrument(accuracy_pct=5.0), gps=Instrument(accuracy_pct=2.0), samples=SampleSources(distance="trip"),
    )  # fmt: skip
    result = analyse(range_test(samples=frame, pack=PACKS["Eider-2"].spec, instruments=instruments))
    assert result.energy.low <= energy_wh(truth) <= result.energy.high
    assert result.distance.low <= truth.distance_m[-1] <= result.distance.high
    per_mile = energy_wh(truth) / truth.distance_m[-1] * METRES_PER_MILE
    assert result.consumption.wh_per_mi.low <= per_mile <= result.consumption.wh_per_mi.high


@pytest.mark.parametrize("pack", ["Eider-2", "Fulmar-1"])
@pytest.mark.parametrize("stop_at_m", [9_000, 22_000])
def test_range_from_a_part_holds_the_range_of_the_whole(pack, stop_at_m):
    # The same ride to the end of the pack is the judge; the part sees only its own log.
    whole = truth_of(pack=pack, stop_at_m=None)
    part = truth_of(pack=pack, stop_at_m=stop_at_m, rest_after_s=900)
    assert whole.reached_cutoff
    log = record(part, Meter(), trip_scale=1.0, gps_scale=1, gauge_steps=5, seed=3)
    frame = samples(part, log, origin=ORIGIN, seed=3)
    result = analyse(range_test(samples=frame, pack=PACKS[pack].spec))
    found = result.range_to_cutoff
    assert not result.range_measured
    assert found.low <= whole.distance_m[-1] <= found.high, result.to_json()["energy_used_fraction"]


def test_a_ride_to_the_end_measures_its_range():
    truth = truth_of(stop_at_m=None)
    frame = samples(
        truth,
        record(truth, Meter(), trip_scale=1.0, gps_scale=1, gauge_steps=5, seed=1),
        origin=ORIGIN,
        seed=1,
    )
    result = analyse(range_test(samples=frame, pack=PACKS["Eider-2"].spec))
    assert result.range_measured
    assert result.range_to_cutoff.value == pytest.approx(truth.distance_m[-1], rel=0.01)


def test_volts_alone_find_the_energy_within_their_wide_interval():
    truth = truth_of(stop_at_m=20_000, rest_after_s=900, course=lighthouse_road)
    from limpet.evidence.model import Entry

    test = range_test(
        Entry(
            time_s=0, kind="start", voltage_rest_v=round(float(truth.voltage_v[0]), 1), trip_m=0.0
        ),
        Entry(time_s=float(truth.time_s[-1]) - 890, kind="end", trip_m=float(truth.distance_m[-1])),
        Entry(
            time_s=float(truth.time_s[-1]),
            kind="settle",
            voltage_rest_v=round(float(truth.voltage_v[-1]), 1),
        ),
        pack=PACKS["Eider-2"].spec,
    )
    found = analyse(test).energy
    assert found.low <= energy_wh(truth) <= found.high
    assert found.relative < 0.3


def test_the_demo_is_the_same_whenever_it_is_made():
    test = ridden("turnstone-frost")
    ridden.cache_clear()
    again = ridden("turnstone-frost")
    assert again.samples.equals(test.samples)
    assert (again.sheet, again.entries) == (test.sheet, test.entries)


def test_the_demo_has_what_every_view_needs():
    tests = {item.slug: ridden(item.slug) for item in ROUNDS}
    results = {slug: analyse(test) for slug, test in tests.items()}
    assert len(tests) >= 8
    assert len({test.sheet.vehicle.name for test in tests.values()}) >= 4
    assert sum(result.range_measured for result in results.values()) >= 2
    found = [w.code for result in results.values() for w in result.warnings]
    assert {"sample_gap", "distance_methods_disagree", "volts_cannot_tell", "cold_charge"} <= set(
        found
    )
    used = {m.method for r in results.values() for m in r.energy_methods if m.used}
    assert {"sampled", "charge_counter", "energy_counter", "rest_voltage"} <= used
    gauge = tests["whimbrel-frost"].samples["gauge"].drop_nulls()
    assert (gauge.diff() > 5).any(), "the gauge bounces"
    assert all(result.consumption is not None for result in results.values())
