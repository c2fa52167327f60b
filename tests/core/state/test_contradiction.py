"""Readings that cannot all be true: no number, and which of them stands out."""

from __future__ import annotations

import pytest

from limpet.cli.follow import follow_report
from limpet.evidence.model import Entry, Gauge, Instruments
from limpet.pack import PackSpec
from limpet.readers import METRIC
from limpet.under_way import WayAhead, advise
from tests.strategies import range_test

PERCENT = Instruments(gauge=Gauge(kind="percent", steps=100))


def ride(*reads, **sheet):
    """A reading every 4 km, at 20 km/h."""
    entries = [
        Entry(time_s=720.0 * k, kind="checkpoint" if k else "start", trip_m=4000.0 * k, **read)
        for k, read in enumerate(reads)
    ]
    return advise(
        range_test(*entries, **sheet),
        ahead=WayAhead(onward="given", from_m=0.0, until_m=4000.0 * len(reads) + 2000.0),
    )


def volts(*values):
    return [{"voltage_rest_v": value} for value in values]


def test_volts_that_go_up_and_down_without_a_charge_are_no_range():
    found = ride(*volts(54.4, 45.0, 53.9, 44.0, 53.8))
    assert found.matter.code == "contradict"
    assert found.following.way is None
    assert found.following.consumption is None
    assert found.following.strip.cutoff_m is None
    assert found.choices == ()
    told = next(item for item in found.following.warnings if item.code == "readings_contradict")
    assert told.values["what"] == "resting volts"
    assert told.values["time_s"] in (720.0, 2160.0)
    said = follow_report("A ride", found.following, METRIC)
    assert said.startswith("These readings can’t all be true")
    assert "Energy left" not in said
    # Nor is one in the JSON, beside the reason.
    answer = found.following.to_json()
    for name in ("energy_left_fraction", "range_left_to_cutoff", "range_left_to_reserve"):
        assert answer[name] is None


def test_one_reading_that_is_a_little_off_is_no_contradiction():
    for last in (50.0, 49.0):
        found = ride(*volts(54.4, 52.6, 51.4, last))
        assert found.matter.code != "contradict"
        assert found.following.way is not None


def test_a_gauge_that_swings_with_the_throttle_is_no_contradiction():
    shown = [{"gauge": value} for value in (100, 77, 92, 61, 73)]
    found = ride(*shown, instruments=PERCENT)
    assert found.matter.code != "contradict"
    gauges = found.riding.onward.now.found.remaining.model.ride.gauges
    steady = ride(*[{"gauge": value} for value in (100, 92, 85, 77, 70)], instruments=PERCENT)
    falls = steady.riding.onward.now.found.remaining.model.ride.gauges
    assert falls.swing == 0.0
    # Twice up by some 14: off by a tenth of its full, each time but the first, before anything pulls.
    assert gauges.swing == pytest.approx(0.09, abs=0.03)
    assert (gauges.std[1:] > 2 * falls.std[1:]).all()
    assert gauges.std[0] == pytest.approx(falls.std[0])
    # 73 to 77% in the middle of the swings: such a gauge means some two thirds.
    left = found.following.energy_left_fraction
    assert 0.45 < left.value < 0.8


def test_a_search_that_ended_in_a_valley_is_begun_elsewhere():
    """A rider read 3.22 V a cell at rest with 2% left, and was told 34%, home over 99% sure."""
    entries = [
        Entry(time_s=time_s, kind="checkpoint" if time_s else "start", trip_m=trip_m, voltage_rest_v=read)
        for time_s, trip_m, read in (
            (0.0, 0.0, 36.6), (1080.0, 6900.0, 37.0), (1820.0, 11_500.0, 34.8), (2970.0, 20_200.0, 32.2),
        )
    ]  # fmt: skip
    pack = PackSpec(chemistry="nmc", series=10, rated_ah=9.5, full_v=42.0, cutoff_v=30.0)
    found = advise(range_test(*entries, pack=pack, start=None))
    assert found.following.energy_left_fraction.value < 0.12
