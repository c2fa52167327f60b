"""A gauge's first and last step, its rebound, metres a percent, and one gauge for two packs."""

from __future__ import annotations

import numpy as np
import pytest

from limpet.evidence.model import Entry, Gauge, Instruments
from limpet.figures.gauge_habits import gauge_habits
from limpet.read.line import Line
from limpet.read.readings import Reading
from limpet.tell import analyse
from tests.strategies import range_test


def read(*pairs):
    """(km, shown) one after the other, a kilometre in 200 s; standing readings share a distance."""
    gauges = [
        Reading(kind="gauge", time_s=200.0 * km + k, value=shown, step=1.0, source="entry")
        for k, (km, shown) in enumerate(pairs)
    ]
    km = np.array([pair[0] for pair in pairs], dtype=float)
    return gauges, Line(time_s=np.array([g.time_s for g in gauges]), total=1000 * km)


def test_bars_tell_how_long_the_first_and_the_last_lasted():
    gauges, way = read((0, 5), (6, 5), (8, 4), (11, 3), (13, 2), (15, 1), (16, 1), (17, 0))
    found = gauge_habits(gauges, 5, way)
    # From the start to half way between the last reading of five and the first of four; between likewise.
    assert found.first_step_m == pytest.approx(7000)
    assert found.last_step_m == pytest.approx(16_500 - 14_000)
    assert found.rebound is None
    # Five to three bars are 40% over 11 km; half of the gauge and less is two bars over 4 km.
    assert found.upper_m_per_percent == pytest.approx(11_000 / 40)
    assert found.lower_m_per_percent == pytest.approx(4000 / 40)


def test_a_percent_gauge_that_hangs_and_then_falls_is_no_kilometre_a_percent():
    # Handbook section 18 (common practice, no source): a 3.04 kWh moped, km → shown %.
    moped = ((0, 100), (2.2, 97), (24.2, 80), (45.5, 65), (75, 36), (100, 11), (108.4, 1))
    found = gauge_habits(*read(*moped)[:1], 100, read(*moped)[1])
    assert found.first_step_m is None is found.last_step_m
    assert found.upper_m_per_percent == pytest.approx(45_500 / 35, rel=1e-6)
    assert found.lower_m_per_percent == pytest.approx(33_400 / 35, rel=1e-6)


def test_a_rest_that_gives_back_is_a_rebound_and_a_fresh_pack_is_none():
    gauges, way = read((0, 100), (10, 60), (10, 66), (15, 40))
    assert gauge_habits(gauges, 100, way).rebound == pytest.approx(0.06)
    swapped = gauge_habits(gauges, 100, way, [gauges[2].time_s])
    assert swapped.rebound is None
    descended = read((0, 100), (10, 60), (12, 66), (15, 40))
    assert gauge_habits(descended[0], 100, descended[1]).rebound is None


def test_without_a_way_or_a_second_reading_there_are_no_habits():
    gauges, way = read((0, 100), (10, 60))
    assert gauge_habits(gauges, 100, None) is None
    assert gauge_habits(gauges[:1], 100, way) is None


def two_packs(*shown):
    """20 km on a full pack to nearly its end, another put in, and what the gauge shows from there."""
    rows = [
        Entry(time_s=0, kind="start", trip_m=0.0, voltage_rest_v=54.6, gauge=shown[0]),
        Entry(time_s=1800, kind="stop", trip_m=9_000.0, voltage_rest_v=49.0, gauge=shown[1]),
        Entry(time_s=3600, kind="stop", trip_m=18_000.0, voltage_rest_v=44.0, gauge=shown[2]),
        Entry(time_s=3900, kind="swap", trip_m=18_000.0, voltage_rest_v=54.6, gauge=shown[3]),
        Entry(time_s=5700, kind="end", trip_m=27_000.0, voltage_rest_v=49.0, gauge=shown[4]),
    ]
    tools = Instruments(gauge=Gauge(kind="percent", steps=100))
    return range_test(*rows, packs_used=2, packs_use="in_sequence", instruments=tools)


def test_one_gauge_for_two_packs_is_seen_by_its_not_rising():
    together, each = (
        analyse(two_packs(100, 76, 55, 54, 27)),
        analyse(two_packs(100, 53, 10, 99, 52)),
    )
    half = {s.shown: s.energy_left_fraction.value for s in together.gauge_truth}
    own = {s.shown: s.energy_left_fraction.value for s in each.gauge_truth}
    # Half of both is the one pack that is left; the same reading of one pack is that pack nearly empty.
    assert half[55] == pytest.approx(0.55, abs=0.06)
    assert half[27] == pytest.approx(0.27, abs=0.09)
    assert own[99] > 0.9
    assert own[10] == pytest.approx(0.1, abs=0.06)
    # By a gauge of both, "55%" with a pack to come is no sign that 55% of the one in use were left.
    assert together.range_to_cutoff.value == pytest.approx(each.range_to_cutoff.value, rel=0.1)


def test_a_result_carries_them():
    found = analyse(two_packs(100, 53, 10, 99, 52)).to_json()
    assert found["gauge_habits"]["rebound"] is None
    assert found["gauge_pooled"] is None
