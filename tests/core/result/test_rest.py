"""Which voltages count as resting, and the resistance behind the sag."""

import numpy as np
import polars as pl
import pytest

from limpet.evidence.model import Entry
from limpet.pack import assumed_resistance_ohm
from limpet.result.rest import first_and_last_rest, pack_resistance
from limpet.result.window import ride_window
from tests.strategies import PACK, range_test


def entry(time_s, kind="checkpoint", **values):
    return Entry(time_s=time_s, kind=kind, **values)


def rests(test):
    return first_and_last_rest(test, ride_window(test))


def test_the_first_and_the_last_resting_entry_count():
    test = range_test(
        entry(0, "start", voltage_rest_v=54.4), entry(1800, voltage_rest_v=51.0),
        entry(3600, "end"), entry(4500, "settle", voltage_rest_v=48.0),
    )  # fmt: skip
    first, last = rests(test)
    assert (first.voltage_v, first.settled) == (54.4, True)
    assert (last.voltage_v, last.settled) == (48.0, True)


def test_a_reading_soon_after_the_end_has_not_settled():
    test = range_test(
        entry(0, "start", voltage_rest_v=54.4),
        entry(3600, "end"),
        entry(3700, "settle", voltage_rest_v=48.0),
    )
    assert rests(test)[1].settled is False


def test_a_stop_of_ten_minutes_settles_the_pack():
    test = range_test(
        entry(0, "start", voltage_rest_v=54.4),
        entry(2990, "stop"),
        entry(3600, voltage_rest_v=49.0),
    )
    assert rests(test)[1].settled is True


def test_a_resting_voltage_halfway_is_neither_first_nor_last():
    test = range_test(entry(0, "start"), entry(1800, voltage_rest_v=51.0), entry(3600, "end"))
    assert rests(test) == (None, None)


def logged(amps):
    time = np.arange(float(len(amps)))
    volts = 54.0 - np.arange(len(amps)) * 1e-3
    return pl.DataFrame(
        {"time_s": time, "voltage_v": volts, "current_a": np.array(amps, dtype=float)}
    )


def test_a_logger_that_ran_at_rest_gives_both_ends():
    test = range_test(samples=logged([0.05] * 20 + [8.0] * 600 + [0.05] * 700))
    first, last = rests(test)
    assert first.voltage_v == pytest.approx(54.0)
    assert last.voltage_v == pytest.approx(54.0 - 1.319)
    assert last.settled is True


def test_a_logger_that_stopped_pulling_gives_no_last_rest():
    first, last = rests(range_test(samples=logged([0.05] * 20 + [8.0] * 600)))
    assert first is not None
    assert last is None


def test_what_the_rider_noted_goes_before_what_was_logged():
    test = range_test(
        entry(0, "start", voltage_rest_v=54.4),
        samples=logged([0.05] * 20 + [8.0] * 600 + [0.05] * 60),
    )
    first, last = rests(test)
    assert first.voltage_v == 54.4
    assert last.settled is False


def test_resistance_is_the_median_of_sag_over_current():
    test = range_test(
        entry(0, "start", voltage_rest_v=54.0, voltage_load_v=53.0, current_a=10.0),
        entry(600, voltage_rest_v=52.0, voltage_load_v=50.0, current_a=10.0),
        entry(900, voltage_rest_v=51.0, voltage_load_v=49.8, current_a=10.0),
        entry(1200, voltage_rest_v=50.0, voltage_load_v=51.0, current_a=10.0),  # swapped: left out
    )
    found = pack_resistance(test)
    assert found.ohm == pytest.approx(0.12)
    assert found.std_ohm == pytest.approx(0.2 * 0.12)
    assert found.measured


def test_resistance_is_assumed_from_the_cells_and_halved_by_a_second_pack():
    # 0.12 Ω·Ah a cell group: 13 groups of 14 Ah → 0.111 Ω, near the handbook's 0.12 Ω at 50 V.
    one = pack_resistance(range_test())
    assert one.ohm == pytest.approx(13 * 0.12 / 14) == assumed_resistance_ohm(PACK)
    assert not one.measured
    assert pack_resistance(range_test(packs_used=2)).ohm == pytest.approx(one.ohm / 2)
    swapped = range_test(entry(0, "start"), entry(9, "swap"), packs_used=2)
    assert pack_resistance(swapped).ohm == pytest.approx(one.ohm)
