"""Which readings tell the state of the pack, how settled they are, and the resistance behind the sag."""

import numpy as np
import polars as pl
import pytest

from limpet.evidence.model import Entry, Gauge, Instruments
from limpet.pack import assumed_resistance_ohm
from limpet.read.readings import gauge_steps, readings, resolution
from limpet.read.resistance import pack_resistance
from limpet.read.window import ride_window
from tests.strategies import PACK, range_test


def entry(time_s, kind="checkpoint", **values):
    return Entry(time_s=time_s, kind=kind, **values)


def found_in(test, kind="rest"):
    return [item for item in readings(test, ride_window(test)) if item.kind == kind]


def test_every_resting_entry_counts_and_says_how_long_it_had_settled():
    test = range_test(
        entry(0, "start", voltage_rest_v=54.4), entry(1500, "stop"),
        entry(1800, voltage_rest_v=51.0), entry(3600, "end"),
        entry(4500, "settle", voltage_rest_v=48.0),
    )  # fmt: skip
    items = found_in(test)
    assert [item.value for item in items] == [54.4, 51.0, 48.0]
    assert [item.settled_s for item in items] == [np.inf, 300.0, 900.0]
    assert items[0].at_start_of == 0


def test_going_on_ends_a_rest():
    test = range_test(
        entry(0, "start"), entry(600, "stop"), entry(900, "resume"),
        entry(1800, voltage_rest_v=51.0), entry(3600, "end"),
    )  # fmt: skip
    assert found_in(test)[0].settled_s == 0.0


def test_volts_of_another_day_are_not_read():
    test = range_test(
        entry(0, "start", voltage_rest_v=54.4),
        entry(3600, "end"),
        entry(90_000, "settle", voltage_rest_v=54.5),
    )
    assert len(found_in(test)) == 1


def test_loaded_volts_and_the_gauge_are_readings_with_the_step_of_their_display():
    test = range_test(
        entry(0, "start", gauge=5), entry(60, voltage_load_v=51.5, current_a=9.0),
        entry(90, voltage_load_v=51.0, gauge=3), entry(99, "end"),
    )  # fmt: skip
    loaded = found_in(test, "load")
    assert [item.current_a for item in loaded] == [9.0, None]
    assert {item.step for item in loaded} == {0.5}
    assert [item.value for item in found_in(test, "gauge")] == [5, 3]


@pytest.mark.parametrize(
    ("values", "step"),
    [([54.0, 51.0], 1.0), ([54.5, 51.0], 0.5), ([54.4, 51.2], 0.2), ([54.43], 0.01), ([], 1.0)],
)
def test_the_step_of_a_display_is_seen_from_what_it_showed(values, step):
    assert resolution(values) == step


def test_a_gauge_counts_in_its_own_steps():
    gauges = found_in(range_test(entry(0, gauge=97), entry(60, gauge=80)), "gauge")
    assert gauge_steps(range_test(), gauges) == 100
    bars = found_in(range_test(entry(0, gauge=5), entry(60, gauge=2)), "gauge")
    assert gauge_steps(range_test(), bars) == 5
    stated = range_test(instruments=Instruments(gauge=Gauge(kind="bars", steps=8)))
    assert gauge_steps(stated, bars) == 8


def logged(amps):
    time = np.arange(float(len(amps)))
    volts = 54.0 - np.arange(len(amps)) * 1e-3
    return pl.DataFrame(
        {"time_s": time, "voltage_v": volts, "current_a": np.array(amps, dtype=float)}
    )


def test_a_logger_that_ran_at_rest_gives_both_ends():
    items = found_in(range_test(samples=logged([0.05] * 20 + [8.0] * 600 + [0.05] * 700)))
    assert items[0].value == pytest.approx(54.0 - 0.019)
    assert items[0].settled_s == np.inf
    assert items[-1].value == pytest.approx(54.0 - 1.319)
    assert items[-1].settled_s == pytest.approx(699.0)


def test_a_logger_that_stopped_pulling_gives_no_last_rest():
    assert len(found_in(range_test(samples=logged([0.05] * 20 + [8.0] * 600)))) == 1


def test_what_the_rider_noted_goes_before_what_was_logged():
    test = range_test(
        entry(0, "start", voltage_rest_v=54.4), samples=logged([0.05] * 20 + [8.0] * 600)
    )
    assert [item.source for item in found_in(test)] == ["entry"]


def test_a_log_is_read_in_stretches_of_even_charge():
    amps = [4.0] * 600 + [8.0] * 600
    items = found_in(range_test(samples=logged(amps)), "load")
    assert 6 <= len(items) <= 10
    assert [round(items[k].current_a) for k in (0, -1)] == [4, 8]
    # Twice the current empties a stretch in half the time.
    steps = np.diff([item.time_s for item in items])
    assert steps[0] == pytest.approx(2 * steps[-1], rel=0.1)


def test_resistance_is_the_median_of_sag_over_current():
    test = range_test(
        entry(0, "start", voltage_rest_v=54.0, voltage_load_v=53.0, current_a=10.0),
        entry(600, voltage_rest_v=52.0, voltage_load_v=50.0, current_a=10.0),
        entry(900, voltage_rest_v=51.0, voltage_load_v=49.8, current_a=10.0),
        entry(1200, voltage_rest_v=50.0, voltage_load_v=51.0, current_a=10.0),  # swapped: left out
    )
    found = pack_resistance(test, ride_window(test))
    assert found.ohm == pytest.approx(0.12)
    assert found.source == "entries"


def test_resistance_is_read_from_steps_of_a_logged_current():
    # V = 54 − 0.15·I with a slow fall: the slope over steps is 0.15 Ω whatever the level.
    rng = np.random.default_rng(2)
    amps = np.repeat(rng.uniform(2, 20, 200), 5)
    time = np.arange(float(len(amps)))
    volts = np.round(54 - 0.15 * amps - time / 1000 + rng.normal(0, 0.02, len(amps)), 2)
    volts[::97] = 60.0  # slips of the logger
    frame = pl.DataFrame({"time_s": time, "voltage_v": volts, "current_a": amps})
    test = range_test(samples=frame)
    found = pack_resistance(test, ride_window(test))
    assert found.source == "samples"
    assert found.ohm == pytest.approx(0.15, rel=0.02)


def test_resistance_is_assumed_from_the_cells_and_halved_by_a_second_pack():
    # 0.12 Ω·Ah a cell group: 13 groups of 14 Ah → 0.111 Ω, near the handbook's 0.12 Ω at 50 V.
    def of(test):
        return pack_resistance(test, ride_window(test))

    one = of(range_test())
    assert one.ohm == pytest.approx(13 * 0.12 / 14) == assumed_resistance_ohm(PACK)
    assert not one.measured
    assert of(range_test(packs_used=2)).ohm == pytest.approx(one.ohm / 2)
    swapped = range_test(entry(0, "start"), entry(9, "swap"), packs_used=2)
    assert of(swapped).ohm == pytest.approx(one.ohm)
