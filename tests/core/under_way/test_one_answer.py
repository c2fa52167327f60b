"""All that a ride's page shows comes from one estimate: line, strip, distance, consumption, cut-off."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import pytest

from limpet.evidence.model import Instruments, LapInstrument
from limpet.read.distance import distance_methods
from limpet.read.window import ride_window
from limpet.state.priors import NOTHING, Learned
from limpet.under_way import advise, follow
from tests.core.under_way.test_follow import entry, riding
from tests.strategies import accuracies, range_test


def test_strip_cutoff_and_line_are_of_one_estimate():
    told = follow(riding(14.0))
    strip = told.strip
    assert told.distance is not None
    assert strip.ridden_m == told.distance.value == strip.distance_m[-1]
    assert strip.energy_left[-1] == pytest.approx(told.energy_left_fraction.value, abs=0.02)
    assert strip.cutoff_m is not None
    low, value, high = strip.cutoff_m
    on = told.range_left_to_cutoff
    assert value == pytest.approx(strip.ridden_m + on.value)
    assert (low, high) == pytest.approx((strip.ridden_m + on.low, strip.ridden_m + on.high))
    assert [mark.time_s for mark in strip.marks] == [e.time_s for e in riding(14.0).entries]


def test_the_line_of_energy_falls_from_full_to_what_is_left():
    levels = follow(riding(20.0)).strip.energy_left
    assert levels[0] > 0.95
    assert all(after <= before + 1e-9 for before, after in pairwise(levels))


def test_consumption_is_told_as_soon_as_something_was_ridden():
    assert follow(range_test(entry(0, "start", voltage_rest_v=54.2))).consumption is None
    told = follow(riding(14.0)).consumption
    assert told is not None
    # By its meter it takes 0.29 Ah/km, from a pack of thirteen cells at about 4.0 V (Chen 2020, the first third).
    assert told.wh_per_km.value == pytest.approx(0.29 * 13 * 4.0, rel=0.05)
    assert told.wh_per_mi.value == pytest.approx(1.609344 * told.wh_per_km.value)


def test_a_trip_meter_that_is_known_to_show_too_much_is_what_the_turn_is_told_by():
    out = riding(10.0)
    fast = NOTHING.also(trip=Learned(value=1.05, standard_uncertainty=0.005, tests=("Quay loop",)))
    plain, known = advise(out), advise(out, priors=fast)
    read = out.entries[-1].trip_m
    assert read is not None
    assert plain.following.reads is not None
    assert plain.following.reads.per_m == pytest.approx(1.0)
    reads = known.following.reads
    assert reads is not None
    assert reads.per_m == pytest.approx(1.05, rel=1e-3)
    assert (reads.shown_m, reads.at_m) == pytest.approx((read, read / 1.05), rel=1e-3)
    way = known.following.way
    assert known.matter.code == "turn_by"
    assert way is not None
    assert way.turn_by_m is not None
    assert known.matter.values["turn_shown_m"] == pytest.approx(1.05 * way.turn_by_m, rel=1e-3)


def test_a_reading_is_never_passed_over_when_laps_are_no_longer_counted():
    """17.00 by the trip meter after lap four was told as 14.5."""
    loop = Instruments(lap=LapInstrument(length_m=1000.0, accuracy_pct=0.5))
    laps = [entry(300.0 * k, "lap", laps=float(k), trip_m=1180.0 * k) for k in range(1, 5)]
    test = range_test(
        entry(0, "start", trip_m=0.0, laps=0.0, voltage_rest_v=54.2),
        *laps,
        entry(6000, trip_m=17_000.0, voltage_rest_v=50.0),
        instruments=loop,
    )
    told = follow(test)
    assert told.distance is not None
    # Four measured laps, and what the trip meter counted after them within what an instrument is off.
    since = 17_000 - 4 * 1180
    assert 4000 + 0.93 * since < told.distance.value < 17_000 * 1.01


def test_what_comes_after_the_last_reading_of_the_way_is_not_ridden_until_something_says_so():
    out = riding(10.0)
    read = follow(out).distance
    later = replace(out, entries=(*out.entries, entry(out.entries[-1].time_s + 1800, gauge=60.0)))
    told = follow(later).distance
    assert read is not None
    assert told is not None
    assert told.value == pytest.approx(read.value, rel=1e-6)


def test_one_instrument_goes_on_where_another_was_not_read():
    """An end without the trip meter, where GPS was read: 44 was told as 47.14 by the pace of before."""
    test = range_test(
        entry(0, "start", trip_m=0.0, gps_m=0.0, voltage_rest_v=54.2),
        entry(3600, trip_m=20_000.0, gps_m=20_000.0),
        entry(9000, gps_m=22_000.0, voltage_rest_v=50.0),
        # The trip meter is the better one, and was not read at the end.
        instruments=accuracies(trip=0.5, gps=5.0),
    )
    told = follow(test)
    assert told.distance is not None
    assert told.distance.value == pytest.approx(22_000.0, rel=0.01)
    # The trip meter's own line goes on by what GPS read, not by the clock: that would be 50 km.
    methods, _ = distance_methods(test, ride_window(test))
    trip = next(item for item in methods if item.method == "trip")
    assert trip.quantity.value == pytest.approx(22_000.0, rel=0.01)
