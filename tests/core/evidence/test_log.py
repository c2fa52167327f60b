"""A log opened once: columns, rows that are known, the ride's part of them, a few a second."""

import pickle

import numpy as np
import polars as pl
import pytest

from limpet.evidence.log import MOST_HZ, Log
from limpet.evidence.model import RangeTest
from limpet.figures.fade import fade_of
from limpet.read.line import Line
from limpet.read.resistance import pack_resistance
from limpet.read.window import ride_window
from tests.strategies import sheet


def log(**columns):
    return Log(pl.DataFrame(columns))


def test_a_column_is_opened_once_and_lent_to_be_read():
    opened = log(time_s=[0.0, 1.0, 2.0], voltage_v=[50.0, None, 49.0], current_a=[None] * 3)
    volts = opened.column("voltage_v")
    assert np.isnan(volts[1])
    assert opened.column("voltage_v") is volts
    assert opened.column("current_a") is None
    assert opened.column("speed_mps") is None
    with pytest.raises(ValueError, match="read-only"):
        volts[0] = 0.0
    assert Log(None).column("time_s") is None


def test_rows_are_those_where_all_that_is_asked_for_is_known():
    opened = log(
        time_s=[0.0, 1.0, 2.0, 3.0],
        voltage_v=[50.0, None, 49.0, 48.0],
        current_a=[1.0, 2.0, None, 4.0],
    )
    time, volts, amps = opened.known("voltage_v", "current_a")
    assert (time.tolist(), volts.tolist(), amps.tolist()) == ([0, 3], [50, 48], [1, 4])
    time, amps = opened.known("current_a", from_s=1.0, until_s=2.9)
    assert (time.tolist(), amps.tolist()) == ([1], [2])
    # Both ends belong to it.
    assert opened.known("voltage_v", from_s=2.0, until_s=3.0)[0].tolist() == [2, 3]
    assert opened.known("voltage_v", "speed_mps") is None


def test_where_all_is_known_nothing_is_copied():
    opened = log(time_s=[0.0, 1.0], voltage_v=[50.0, 49.0])
    assert opened.known("voltage_v")[1] is opened.column("voltage_v")


def test_a_fast_log_is_thinned_to_a_few_a_second_and_a_slow_one_is_not():
    fast = np.arange(1000) / 50
    time, volts = log(time_s=fast, voltage_v=fast).thinned("voltage_v")
    assert len(time) == 20 * MOST_HZ
    assert np.diff(time).min() >= 1 / MOST_HZ - 1e-9
    assert (time == volts).all()
    slow = np.arange(100) / MOST_HZ + 0.01
    assert log(time_s=slow, voltage_v=slow).thinned("voltage_v")[0].tolist() == slow.tolist()
    inside = log(time_s=fast, voltage_v=fast).thinned("voltage_v", until_s=10.0)
    assert inside[0][-1] == pytest.approx(10.0)


def test_a_test_brings_its_log_along_and_another_log_with_other_samples():
    test = RangeTest(sheet=sheet(), samples=pl.DataFrame({"time_s": [0.0, 1.0]}))
    assert test.log is test.log
    assert test == RangeTest(sheet=sheet(), samples=test.samples)
    again = pickle.loads(pickle.dumps(test))
    assert again.column("time_s").tolist() == [0.0, 1.0]


@pytest.fixture(scope="module")
def fast_ride():
    """Fifty samples a second of pulls and pauses, the speed falling towards the end."""
    time = np.arange(0, 3600, 0.02)
    rng = np.random.default_rng(5)
    amps = np.repeat(rng.choice([2.0, 8.0, 15.0], 240), len(time) // 240)
    amps = amps + 0.3 * rng.standard_normal(len(time))
    volts = 52.0 - time / 900 - 0.08 * amps + 0.02 * rng.standard_normal(len(time))
    speed = np.where(time < 2700, 8.0, 6.5) + 0.2 * rng.standard_normal(len(time))
    columns = {"time_s": time, "voltage_v": volts, "current_a": amps, "speed_mps": speed}
    return RangeTest(sheet=sheet(), samples=pl.DataFrame(columns))


def test_what_is_thinned_moves_slopes_and_fade_by_less_than_a_tenth_of_their_u(
    fast_ride, monkeypatch
):
    # Judge: the same with every sample (the house's own rule, no outside source).
    def told():
        test = RangeTest(sheet=fast_ride.sheet, samples=fast_ride.samples)
        ride = ride_window(test)
        way = test.log.known("speed_mps")[0]
        return pack_resistance(test, ride), fade_of(
            test, ride, Line(time_s=way, total=8 * way), None
        )

    thin_ohm, thin_fade = told()
    monkeypatch.setattr("limpet.evidence.log.MOST_HZ", 1000.0)
    ohm, fade = told()
    assert thin_ohm.source == ohm.source == "samples"
    assert thin_ohm.ohm != ohm.ohm
    assert abs(thin_ohm.ohm - ohm.ohm) < ohm.std_ohm / 10
    # A fade is found to the minute over which the speed is held.
    assert abs(thin_fade.onset_distance_m - fade.onset_distance_m) < 8 * 6
    assert thin_fade.reference_speed_mps == pytest.approx(fade.reference_speed_mps, rel=0.002)
