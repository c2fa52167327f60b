"""What comparing asks of a test is what its sheet, its entries and its log say; and whose an error is."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from demo.skerrow import ridden
from limpet.evidence.model import Entry, Protocol, RiderSpec
from limpet.evidence.noted import pedalled_share
from limpet.judge import comparand_of, compare
from limpet.judge.carrying import carried
from limpet.judge.comparand import STEADY_CV, Figure
from limpet.judge.measured import measured
from limpet.tell import analyse
from tests.core.judge.kit import seen


@pytest.fixture(scope="module")
def logged():
    """A ride in the frost with a logger, as recorded, as analysed and as seen."""
    test = ridden("turnstone-frost")
    result = analyse(test)
    return test, result, comparand_of(test, result, "frost")


def test_the_day_is_the_sheets_and_the_stops_are_the_logs(logged):
    test, result, found = logged
    air = test.sheet.conditions
    said = [temp for temp in (air.temp_start_c, air.temp_end_c) if temp is not None]
    assert found.ridden.temp_c == pytest.approx(sum(said) / len(said))
    assert found.ridden.wind_mps == air.wind_mps
    assert found.ridden.stops_per_km > 0
    assert found.ridden.speed_cv != STEADY_CV
    used = result.consumption.wh_per_km
    figure = found.figures["wh_per_km"]
    assert (figure.value, figure.std) == (used.value, used.standard_uncertainty)
    shares = [(part.input, part.share_of_variance) for part in result.budget.wh_per_km]
    assert list(figure.parts) == shares
    assert shares


def test_a_place_has_the_volts_at_rest_before_those_while_pulling():
    test = ridden("knot-2024-9")
    at = next(k for k, one in enumerate(test.entries) if one.voltage_load_v and one.kind == "lap")
    both = replace(
        test.entries[at],
        voltage_rest_v=test.entries[at].voltage_load_v + 1.5,
        air_temp_c=12.0,
        battery_temp_c=21.0,
    )
    entries = (*test.entries[:at], both, *test.entries[at + 1 :])
    found = comparand_of(replace(test, entries=entries), analyse(test), "knot")
    volts = {place.time_s: place.voltage_v for place in found.places}
    assert volts[both.time_s] == both.voltage_rest_v
    temps = {place.time_s: place.temp_c for place in found.places}
    assert temps[both.time_s] == 21.0, "the pack's own where it was read"
    others = [one for one in test.entries[at + 1 :] if one.time_s in volts and one.voltage_load_v]
    assert others
    assert all(
        volts[one.time_s] == one.voltage_load_v for one in others if one.voltage_rest_v is None
    )


def test_a_packs_own_errors_are_the_same_in_all_its_tests_and_in_no_others():
    far = {"wh_per_km": Figure(value=10.0, std=0.8, parts=(("label", 1.0),))}
    one, two = (measured(seen(key, figures=far), "wh_per_km") for key in "ab")
    other = measured(seen("c", figures=far, pack="Worn"), "wh_per_km")
    assert np.corrcoef(one, two)[0, 1] == pytest.approx(1)
    assert abs(np.corrcoef(one, other)[0, 1]) < 0.15


def test_a_speed_that_scattered_more_is_set_right():
    uneven = carried(seen("b", speed_cv=0.4), seen("a"), "wh_per_km", frozenset())
    assert next(c for c in uneven.corrections if c.name == "speed").log.mean() < -0.05


def test_it_is_the_order_that_is_warned_of_whichever_side_came_first():
    def at(key, hour):
        return seen(key, started_at=f"2026-05-14T{hour:02d}:00:00+00:00")

    late_first = compare([at("a", 11), at("c", 12)], [at("b", 9), at("d", 10)])
    assert "compare_order" in [notice.code for notice in late_first.warnings]


def test_legs_have_a_part_for_as_long_as_was_noted(logged):
    rider = RiderSpec(name="Ines", mass_kg=64.0, pedal_power_w=120.0)
    entries = (
        Entry(time_s=0, kind="start"),
        Entry(time_s=600, kind="checkpoint"),
        Entry(time_s=1200, kind="event", what="pedalled"),
        Entry(time_s=2400, kind="end"),
    )
    frost, result, _ = logged
    test = replace(frost, sheet=replace(frost.sheet, rider=rider), entries=entries)
    # Ten of forty minutes.
    assert pedalled_share(test) == 0.25
    assert comparand_of(test, result, "x").ridden.pedal_w == pytest.approx(30.0)
    rules = Protocol(propulsion="assist")
    whole = replace(test, sheet=replace(test.sheet, protocol=rules), entries=entries[:1])
    assert pedalled_share(whole) == 1.0
    assert pedalled_share(replace(frost, entries=entries[:2])) == 0.0


@pytest.mark.parametrize(
    ("rider", "load_kg"),
    [
        (None, None),
        # Gear alone is no load: nobody knows what else there was.
        (RiderSpec(gear_kg=5.0), None),
        (RiderSpec(mass_kg=70.0), 70.0),
        (RiderSpec(mass_kg=70.0, gear_kg=5.0), 75.0),
    ],
)
def test_a_load_is_known_where_the_rider_was_weighed(logged, rider, load_kg):
    test, result, _ = logged
    unsaid = replace(test, sheet=replace(test.sheet, rider=rider))
    assert comparand_of(unsaid, result, "frost").ridden.load_kg == load_kg


def test_what_is_left_of_a_pack_is_compared_at_25_degrees():
    test = ridden("knot-2025-9")
    result = analyse(test)
    warm = result.pack.at_25_degc.retained_fraction
    figure = comparand_of(test, result, "k").figures["retained_fraction"]
    assert figure.value == warm.value != result.pack.retained_fraction.value


def test_the_age_of_its_pack_goes_with_a_test():
    test = ridden("sandpiper-lighthouse")
    cycles = test.sheet.pack.equivalent_full_cycles
    assert cycles is not None
    assert comparand_of(test, analyse(test), "a").cycles == cycles
