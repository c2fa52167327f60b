"""Each default stands once: what reads it agrees with what else reads it."""

from __future__ import annotations

from dataclasses import replace

import pytest

from demo.skerrow import ridden
from limpet.assumptions import (
    AIR_TEMP_C,
    GEAR_KG,
    INSTRUMENT_PCT,
    RESERVE,
    RIDER_KG,
    SETTLE_S,
    assumptions,
    is_plausible,
    load_kg,
    worn_resistance,
)
from limpet.drive.draws import columns_of, drawn_inputs
from limpet.drive.inputs import inputs_of
from limpet.evidence.model import Purpose
from limpet.fitting.rides import usable_for_fit
from limpet.planning.enough import enough
from limpet.planning.rules import rules_for
from limpet.tell import analyse
from limpet.trip import Known, TripRider
from tests.trips import certain


def test_every_assumption_says_what_it_is_and_where_it_matters():
    found = assumptions()
    assert len({item.name for item in found}) == len(found) > 30
    for item in found:
        assert all((item.matters, item.source, item.unit)), item
        assert item.std >= 0, item


def test_an_unweighed_rider_is_the_same_load_in_a_fit_and_in_a_forecast():
    test = ridden("sandpiper-lighthouse")
    unweighed = replace(test, sheet=replace(test.sheet, rider=None))
    fitted = usable_for_fit(unweighed, analyse(unweighed)).ride
    trip = replace(certain(), rider=TripRider())
    inputs = inputs_of(trip)
    forecast_kg = inputs.value("rider_mass_kg") + inputs.value("gear_kg")
    assert fitted.mass_kg - test.sheet.vehicle.mass_kg == pytest.approx(forecast_kg)
    assert load_kg(None, None)[0] == RIDER_KG.value + GEAR_KG.value == forecast_kg
    assert load_kg(90.0, None) == (90.0 + GEAR_KG.value, GEAR_KG.std)
    assert load_kg(90.0, 0.0) == (90.0, 0.0)


def test_the_reserve_is_one_number_everywhere():
    test = ridden("sandpiper-lighthouse")
    unset = replace(test, sheet=replace(test.sheet, protocol=None))
    assert analyse(unset).reserve == RESERVE.value
    assert certain().reserve == RESERVE.value
    for purpose in Purpose.__args__:
        assert rules_for(purpose).reserve == RESERVE.value


def test_a_worn_pack_resists_alike_in_a_walk_and_in_a_size():
    trip = certain()
    ohm = []
    for left in (1.0, 0.8):
        worn = replace(trip, pack=replace(trip.pack, retained_fraction=Known(value=left)))
        worn = replace(worn, pack=replace(worn.pack, resistance_ohm=None))
        inputs = inputs_of(worn)
        ohm.append(columns_of(worn, inputs, drawn_inputs(worn, inputs, 1, 1)).resistance_ohm[0])
    assert ohm[1] / ohm[0] == pytest.approx(worn_resistance(0.8)) == pytest.approx(1.6)
    assert worn_resistance(1.1) == 1.0


def test_a_trip_meter_without_a_data_sheet_is_one_instrument():
    """What limits a ride of known energy is the trip meter: 5% rectangular, twice."""
    found = enough(1e9, capacity_std=0.0)
    assert found.at_end == pytest.approx(2 * INSTRUMENT_PCT["trip"].value / 100 / 3**0.5, rel=1e-3)


def test_what_the_weather_is_when_nobody_says():
    trip = certain()
    silent = replace(trip, conditions=replace(trip.conditions, temp_c=None))
    inputs = inputs_of(silent)
    assert inputs.value("temp_c") == AIR_TEMP_C.value
    assert inputs.by_name["temp_c"].standard_uncertainty == AIR_TEMP_C.std


def test_settling_is_as_long_in_the_schedule_as_in_the_reading():
    assert SETTLE_S.value == 600


@pytest.mark.parametrize(("kind", "wh_per_mi", "near"), [
    ("bicycle", 25, True), ("bicycle", 10, True), ("bicycle", 9, False), ("bicycle", 53, False),
    ("moped", 90, True), ("wheelbarrow", 9000, True),
])  # fmt: skip
def test_plausible(kind, wh_per_mi, near):
    assert is_plausible(kind, wh_per_mi) is near
