"""A test read once: what tells the share of the pack, and what no clock can make of a ride."""

import numpy as np
import pytest

from limpet.evidence.checks import FASTEST_MPS
from limpet.evidence.model import Entry
from limpet.figures.findings import find
from limpet.read.evidence import read_test
from limpet.read.window import ride_window
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
    # Who follows a ride asks for it, who judges a finished one does not.
    assert find(test, under_way=True, draws=50).evidence.readings
    assert find(test, draws=50).evidence.readings == ()


def test_amp_hours_with_resting_volts_alone_name_no_gain():
    # The pack's own state tells their energy better; a loaded voltage is a reading of its own.
    resting, loaded = (
        read(
            entry(0, "start", trip_m=0.0, charge_ah=0.0, **{name: 54.0}),
            entry(3600, "end", trip_m=12_000.0, charge_ah=5.0, **{name: 49.0}),
        )
        for name in ("voltage_rest_v", "voltage_load_v")
    )
    assert resting.meter.gains == ()
    assert dict(loaded.meter.gains) == {"charge": 1, "voltage": -1}


def test_the_sample_at_a_swap_is_the_next_packs():
    # At or under cut-off from 97 to 99 s, and at 100 s, when the fresh pack is in: two seconds, not three.
    time = np.arange(201.0)
    volts = np.where((time >= 97) & (time <= 100), 38.5, 50.0)
    samples = {"time_s": time, "voltage_v": volts}
    swapped = range_test(entry(0, "start"), entry(100, "swap"), entry(200, "end"), samples=samples)
    assert ride_window(swapped).cut_before == (False,)
    sooner = {**samples, "voltage_v": np.where((time >= 96) & (time <= 100), 38.5, 50.0)}
    again = range_test(entry(0, "start"), entry(100, "swap"), entry(200, "end"), samples=sooner)
    assert ride_window(again).cut_before == (True,)
