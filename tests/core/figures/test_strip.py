"""What the page draws must say what the result says."""

import numpy as np
import pytest

from demo.skerrow import ridden
from limpet.figures.strip import STRIP_POINTS, strip_of
from limpet.figures.traces import TRACE_BINS, traces_of
from limpet.tell import analyse
from tests.strategies import range_test


@pytest.fixture(scope="module")
def logged():
    test = ridden("sandpiper-lighthouse")
    return test, analyse(test)


def test_a_strip_ebbs_from_full_to_what_the_share_leaves(logged):
    test, result = logged
    strip = strip_of(test, result)
    began = result.started_fraction.value
    assert 0.95 < began <= 1.0
    assert strip.energy_left[0] == pytest.approx(began, abs=1e-3)
    assert strip.energy_left[-1] == pytest.approx(
        began - result.energy_used_fraction.value, abs=0.01
    )
    assert strip.distance_m[-1] == pytest.approx(result.distance.value, rel=1e-3)
    assert len(strip.distance_m) <= 2 * STRIP_POINTS
    assert strip.cutoff_m[1] == result.range_to_cutoff.value
    assert np.all(np.diff(strip.distance_m) >= 0)


def test_a_strip_to_the_end_is_empty_there():
    test = ridden("turnstone-quay-cutoff")
    strip = strip_of(test, analyse(test))
    assert strip.measured
    assert strip.energy_left[-1] == pytest.approx(0.0, abs=1e-6)


def test_every_entry_is_a_mark_at_its_distance(logged):
    test, result = logged
    marks = strip_of(test, result).marks
    assert [mark.kind for mark in marks] == [entry.kind for entry in test.entries]
    assert marks[1].distance_m == pytest.approx(test.entries[1].trip_m, rel=0.05)
    assert marks[0].voltage_v == test.entries[0].voltage_rest_v


def test_without_energy_there_is_no_line_but_marks_remain():
    from limpet.evidence.model import Entry

    test = range_test(
        Entry(time_s=0, kind="start", trip_m=0), Entry(time_s=600, kind="end", trip_m=3000)
    )
    strip = strip_of(test, analyse(test))
    assert strip.energy_left == ()
    assert [mark.energy_left for mark in strip.marks] == [None, None]
    assert strip.ridden_m == pytest.approx(3000)


def test_bins_hold_lowest_mean_and_highest(logged):
    test, result = logged
    traces = traces_of(test.samples, result.distance_line)
    assert [channel.name for channel in traces.channels] == ["voltage", "power", "speed", "height"]
    volts = traces.channels[0]
    assert len(volts.mean) == TRACE_BINS == len(traces.time_s) == len(traces.distance_m)
    known = [v for v in volts.low if v is not None]
    column = test.samples["voltage_v"]
    assert min(known) == pytest.approx(column.min(), rel=1e-4)
    assert max(v for v in volts.high if v is not None) == pytest.approx(column.max(), rel=1e-4)
    for low, mean, high in zip(volts.low, volts.mean, volts.high, strict=True):
        assert low is None or low - 1e-2 <= mean <= high + 1e-2


def test_a_gap_in_the_log_is_a_gap_in_the_trace(logged):
    test, result = logged
    volts = traces_of(test.samples, result.distance_line).channels[0]
    missing = [k for k, value in enumerate(volts.mean) if value is None]
    time = traces_of(test.samples, result.distance_line).time_s
    assert missing
    assert all(2590 < time[k] < 3030 for k in missing)


def test_a_part_is_drawn_in_as_many_bins(logged):
    test, result = logged
    part = traces_of(test.samples, result.distance_line, from_s=1000, to_s=1900)
    assert part.time_s[0] >= 1000
    assert part.time_s[-1] <= 1900
    assert len(part.time_s) == TRACE_BINS
    assert traces_of(test.samples, result.distance_line, from_s=1900, to_s=1000) is None


def test_hand_notes_have_no_traces():
    test = ridden("turnstone-quay-cutoff")
    assert traces_of(test.samples, analyse(test).distance_line) is None
