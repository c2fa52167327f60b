"""Where every input comes from, and that what is drawn of it is what it says."""

from __future__ import annotations

from dataclasses import replace
from math import log, sqrt

import numpy as np
import pytest
from scipy import stats

from limpet.carry.start_values import POLICIES, START_VALUES
from limpet.drive.draws import at_temperature, columns_of, drawn_inputs
from limpet.drive.inputs import inputs_of, reference_kpa
from limpet.files.tripfile import route_of
from limpet.pack import full_energy_wh, ocv_curve, peukert_factor
from limpet.road import Leg, air_density
from limpet.trip import (
    Known,
    Packs,
    RoadFit,
    RouteSpec,
    SpeedSpec,
    Trip,
    TripConditions,
    TripPack,
    TripTyres,
    TripVehicle,
)
from tests.trips import PACK, certain, trip

BARE = Trip(
    vehicle=TripVehicle(kind="kick_scooter"),
    pack=TripPack(chemistry="nmc", series=10, rated_ah=12.0),
    route=RouteSpec(legs=(Leg(length_m=4000),)),
)


def test_what_nobody_says_comes_from_the_kinds_start_values():
    found = inputs_of(BARE).by_name
    start = START_VALUES["kick_scooter"]
    assert (found["crr"].value, found["crr"].standard_uncertainty) == start.crr
    assert found["crr"].source == "start value for kick scooter"
    assert found["rider_mass_kg"].source == "start value for a rider"
    assert found["target_speed_mps"].value == start.usual_mps
    # A speed that nobody names is less sure than one that is named and held.
    assert found["target_speed_mps"].standard_uncertainty > 0.12 * start.usual_mps
    assert found["wind_from_deg"].shape == "any_direction"
    assert found["rated_energy_wh"].value == pytest.approx(1.065 * full_energy_wh(BARE.pack.label))
    assert found["retained_fraction"].source == "assumption"


def test_a_bare_number_is_sure_to_some_percent_and_a_quantity_as_it_says():
    vehicle = TripVehicle(
        kind="bicycle",
        cda_m2=Known(value=0.5),
        crr=Known(value=0.01, standard_uncertainty=0.0003, source="coast-down"),
    )
    found = inputs_of(replace(BARE, vehicle=vehicle)).by_name
    assert found["cda_m2"].standard_uncertainty == pytest.approx(0.025)
    assert found["cda_m2"].source == "trip"
    assert found["crr"].standard_uncertainty == 0.0003
    assert found["crr"].source == "coast-down"


@pytest.mark.parametrize("policy", ["fixed", "with_traffic", "gentle", "flat_out"])
def test_a_way_of_riding_brings_its_speed_and_its_spread(policy):
    asked = replace(BARE, speed=SpeedSpec(policy=policy))
    found = inputs_of(asked).by_name
    start = START_VALUES["kick_scooter"]
    expected = {"gentle": start.gentle_mps, "flat_out": start.max_speed_mps}
    assert found["target_speed_mps"].value == expected.get(policy, start.usual_mps)
    assert found["riding"].standard_uncertainty == POLICIES[policy].riding_std


FIT = RoadFit(
    names=("crr", "cda_m2"),
    values=(0.009, 0.6),
    covariance=((1e-6, -2e-5), (-2e-5, 9e-4)),
    tests=3,
    tyre_kpa=260.0,
)


def test_a_typed_value_goes_before_the_fit_and_the_fit_before_the_start_value():
    vehicle = TripVehicle(kind="bicycle", fit=FIT, cda_m2=Known(value=0.5))
    found = inputs_of(replace(BARE, vehicle=vehicle)).by_name
    assert found["cda_m2"].source == "trip"
    assert found["crr"].source == "vehicle fit of 3 tests"
    assert found["crr"].standard_uncertainty == pytest.approx(0.001)
    assert found["aux_w"].source == "start value for bicycle"


@pytest.mark.parametrize(
    ("vehicle", "tyres", "expected"),
    [
        (TripVehicle(kind="bicycle"), TripTyres(pressure_kpa=200.0), 320.0),
        (TripVehicle(kind="bicycle", crr=Known(value=0.01)), TripTyres(pressure_kpa=200.0), 200.0),
        (TripVehicle(kind="bicycle", fit=FIT), TripTyres(pressure_kpa=200.0), 260.0),
        (
            TripVehicle(kind="bicycle", crr=Known(value=0.01)),
            TripTyres(pressure_kpa=200.0, reference_kpa=300.0),
            300.0,
        ),
        (TripVehicle(kind="bicycle"), TripTyres(), 320.0),
    ],
)
def test_rolling_is_referred_to_the_pressure_where_it_was_found(vehicle, tyres, expected):
    assert reference_kpa(replace(BARE, vehicle=vehicle, tyres=tyres)) == expected


def test_draws_have_the_distributions_that_the_inputs_state():
    asked = trip()
    inputs = inputs_of(asked, route_of(asked))
    table = drawn_inputs(asked, inputs, 4000, 3)
    for name, item in inputs.by_name.items():
        drawn = table[name][1:]
        assert table[name][0] == item.value
        if item.standard_uncertainty == 0:
            assert (drawn == item.value).all()
            continue
        if item.shape == "lognormal":
            spread = sqrt(log(1 + (item.standard_uncertainty / item.value) ** 2))
            scores = np.log(drawn / item.value) / spread
        else:
            scores = (drawn - item.value) / item.standard_uncertainty
        if item.shape == "rectangular":
            assert stats.kstest(scores, "uniform", (-sqrt(3), 2 * sqrt(3))).pvalue > 0.5, name
            continue
        if item.shape == "shortfall":
            assert (scores == 0).mean() == pytest.approx(0.5, abs=0.01)
            assert stats.kstest(-scores[scores < 0], "halfnorm").pvalue > 0.5, name
            continue
        # Kolmogorov and Smirnov by SciPy: a Latin hypercube is even closer than chance.
        assert stats.kstest(scores, "norm").pvalue > 0.5, name


def test_inputs_are_drawn_independently_of_each_other():
    asked = trip()
    table = drawn_inputs(asked, inputs_of(asked), 4000, 3)
    names = [name for name in table if table[name][1:].std() > 0]
    correlation = np.corrcoef(np.stack([table[name][1:] for name in names]))
    off = correlation[~np.eye(len(names), dtype=bool)]
    # 4000 draws: 1/√4000 = 0.016, five deviations.
    assert np.abs(off).max() < 0.08


def test_a_fits_parameters_are_drawn_with_their_covariance():
    asked = replace(BARE, vehicle=TripVehicle(kind="bicycle", fit=FIT))
    table = drawn_inputs(asked, inputs_of(asked), 6000, 3)
    crr, cda = np.log(table["crr"][1:] / 0.009), np.log(table["cda_m2"][1:] / 0.6)
    assert crr.std() == pytest.approx(0.001 / 0.009, rel=0.05)
    assert cda.std() == pytest.approx(0.03 / 0.6, rel=0.05)
    assert np.corrcoef(crr, cda)[0, 1] == pytest.approx(-2e-5 / (0.001 * 0.03), abs=0.05)


def columns(asked: Trip):
    return columns_of(asked, inputs_of(asked), drawn_inputs(asked, inputs_of(asked), 1, 1))


def test_the_best_column_is_what_was_stated():
    found = columns(certain())
    assert found.mass_kg[0] == 31 + 82 + 6
    assert found.rolling[0] == pytest.approx(0.010)
    assert found.drag[0] == pytest.approx(0.5 * air_density(25, 101_325, 0.7) * 0.55)
    assert 1 / found.inverse_efficiency[0] == pytest.approx(0.8)
    assert found.capacity_as[0] == pytest.approx(14 * 3600)
    assert found.resistance_ohm[0] == pytest.approx(0.11)


def test_a_label_in_watt_hours_sets_the_charge_that_the_curve_needs():
    asked = certain(pack=replace(certain().pack, rated_wh=600.0))
    volts = ocv_curve("nmc").mean_v * 13
    assert columns(asked).capacity_as[0] * volts / 3600 == pytest.approx(600.0)


def test_two_packs_side_by_side_have_twice_the_charge_and_half_the_resistance():
    one, two = columns(certain()), columns(certain(packs=Packs(count=2, use="in_parallel")))
    assert two.capacity_as[0] == pytest.approx(2 * one.capacity_as[0])
    assert two.resistance_ohm[0] == pytest.approx(one.resistance_ohm[0] / 2)
    after = columns(certain(packs=Packs(count=2, use="in_sequence")))
    assert after.capacity_as[0] == one.capacity_as[0]


def test_a_worn_packs_assumed_resistance_grows_and_a_measured_one_stays():
    worn = replace(PACK, retained_fraction=Known(value=0.8, standard_uncertainty=0.0))
    new = replace(PACK, retained_fraction=Known(value=1.0, standard_uncertainty=0.0))
    fresh = columns(trip(pack=new)).resistance_ohm[0]
    assert columns(trip(pack=worn)).resistance_ohm[0] == pytest.approx(1.6 * fresh)
    measured = replace(worn, resistance_ohm=Known(value=0.2))
    assert columns(trip(pack=measured)).resistance_ohm[0] == pytest.approx(0.2)


def test_cold_air_is_denser():
    warm, cold = (
        columns(trip(conditions=TripConditions(temp_c=Known(value=t)))).drag[0] for t in (30.0, 0.0)
    )
    # The ideal gas law: 303.15/273.15, less what moist warm air is lighter.
    assert cold / warm == pytest.approx(303.15 / 273.15, rel=0.02)


def test_lead_acid_gives_less_at_a_high_rate_and_lithium_does_not():
    # Peukert by hand: (C/(I·H))^0.15 = (20/(10·20))^0.15; 1 at and under the 20-hour rate.
    at = peukert_factor(np.array([0.5, 1.0, 10.0]), 20.0, 1.15)
    assert at.tolist() == [1.0, 1.0, pytest.approx(0.1**0.15)]
    # The textbook's: 100 Ah in 20 h, k = 1.2: 10 A last 20·(100/(10·20))^1.2 = 8.7 h.
    assert float(peukert_factor(np.array([10.0]), 100.0, 1.2)[0]) * 100 / 10 == pytest.approx(
        8.7, abs=0.01
    )

    def capacity(chemistry, amps, **packs):
        what = certain(pack=replace(certain().pack, chemistry=chemistry), packs=Packs(**packs))
        inputs = inputs_of(what)
        table = drawn_inputs(what, inputs, 1, 1)
        found = columns_of(what, inputs, table)
        return at_temperature(what, found, table, np.full(2, amps)).capacity_as[0]

    slow, fast = (capacity("lead_acid_agm", amps) for amps in (0.7, 7.0))
    # 14 Ah at twenty hours: 0.7 A; ten times that gives 10^−0.15 of it.
    assert fast / slow == pytest.approx(10**-0.15, rel=0.02)
    assert capacity("nmc", 0.7) == pytest.approx(capacity("nmc", 7.0), rel=0.02)
    # Two packs side by side give half of the current each.
    both = capacity("lead_acid_agm", 14.0, count=2, use="in_parallel")
    assert both == pytest.approx(2 * fast, rel=0.02)
