"""A test read once: what tells the share of the pack, and what no clock can make of a ride."""

import pytest

from limpet.evidence.checks import FASTEST_MPS
from limpet.evidence.model import Entry
from limpet.read.evidence import read_test
from tests.strategies import range_test


def read(*entries, **changes):
    return read_test(range_test(*entries, **changes), mean_v=3.7)


def entry(time_s, kind="checkpoint", **values):
    return Entry(time_s=time_s, kind=kind, **values)


@pytest.mark.parametrize(
    ("start", "end", "tells"),
    [
        ({}, {}, False),
        # One reading at the start says nothing of what was used; one later does.
        ({"voltage_rest_v": 54.4}, {}, False),
        ({}, {"voltage_rest_v": 51.0}, True),
        ({"voltage_rest_v": 54.4}, {"gauge": 60.0}, True),
        ({"charge_ah": 0.0}, {"charge_ah": 5.0}, True),
    ],
)
def test_what_tells_the_share_of_the_pack(start, end, tells):
    found = read(entry(0, "start", trip_m=0.0, **start), entry(3600, "end", trip_m=12_000.0, **end))
    assert found.tells_share is tells
    assert found.distance.quantity.value == pytest.approx(12_000)


def test_without_any_way_two_readings_are_needed():
    assert not read(entry(3600, voltage_rest_v=51.0)).tells_share
    assert read(
        entry(0, "start", voltage_rest_v=54.4), entry(3600, voltage_rest_v=51.0)
    ).tells_share


def test_entries_noted_one_after_the_other_make_no_ride_faster_than_any_can_be():
    found = read(entry(0, "start", trip_m=0.0), entry(2, "end", trip_m=12_000.0))
    assert found.hours == pytest.approx(12_000 / FASTEST_MPS / 3600)


def test_every_instrument_whose_gain_counts_is_named_once():
    found = read(
        entry(0, "start", trip_m=0.0, charge_ah=0.0, voltage_load_v=53.0),
        entry(3600, "end", trip_m=12_000.0, charge_ah=5.0, voltage_load_v=49.0),
    )
    assert sorted(found.instruments) == ["charge", "trip", "voltage"]
    assert found.instruments[0] == "voltage"
    assert found.meter is not None
    assert found.meter.method == "charge_counter"
    assert found.progress.basis == "charge"


def test_a_promise_of_the_display_is_a_reading_only_of_a_ride_that_goes_on():
    test = range_test(
        entry(0, "start", trip_m=0.0, shown_range_m=30_000.0),
        entry(1800, trip_m=6000.0, shown_range_m=22_000.0),
    )
    assert {item.kind for item in read_test(test, mean_v=3.7, under_way=True).readings} == {"shown"}
    assert read_test(test, mean_v=3.7).readings == ()
