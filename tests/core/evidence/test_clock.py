"""Entries that were noted without a time."""

from __future__ import annotations

import numpy as np
import pytest

from limpet.errors import BundleError
from limpet.evidence.clock import filled_times
from limpet.files.tables import read_entries

NAN = np.nan


def test_a_time_lies_where_its_distance_does():
    times = filled_times(np.array([0.0, NAN, 1800.0]), np.array([0.0, 4000.0, 9000.0]))
    assert times.tolist() == pytest.approx([0.0, 800.0, 1800.0])


def test_beyond_the_last_clock_the_rides_own_speed_goes_on():
    times = filled_times(np.array([0.0, 1000.0, NAN]), np.array([0.0, 5000.0, 7500.0]))
    assert times[2] == pytest.approx(1500.0)


def test_without_any_clock_a_usual_speed_orders_them():
    times = filled_times(np.array([NAN, NAN]), np.array([1000.0, 6500.0]))
    assert times.tolist() == pytest.approx([0.0, 1000.0])


def test_a_filled_time_keeps_between_its_neighbours():
    # The trip meter was misread: the order of the rows is kept all the same.
    times = filled_times(
        np.array([0.0, 600.0, NAN, 900.0]), np.array([0.0, 3000.0, 90_000.0, 4500.0])
    )
    assert (np.diff(times) >= 0).all()


def test_rows_without_time_or_distance_are_refused_each():
    with pytest.raises(BundleError, match="no distance tells when it was") as refused:
        read_entries(b"time_s,kind,gauge\r\n0,start,5\r\n,end,2\r\n", None)
    assert [fault.line for fault in refused.value.faults] == [3]


def test_a_table_without_the_column_is_read_by_its_distance_and_says_so():
    entries, notices = read_entries(b"kind,trip_m\r\nstart,0\r\nend,5500\r\n", None)
    assert [entry.time_s for entry in entries] == pytest.approx([0.0, 1000.0])
    assert [(n.code, n.values["count"]) for n in notices] == [("times_filled", 2)]


def test_what_an_event_was_is_one_of_a_list():
    good, _ = read_entries(b"time_s,kind,what,place\r\n0,event,walked,Skerrow Head\r\n", None)
    assert (good[0].what, good[0].place) == ("walked", "Skerrow Head")
    with pytest.raises(BundleError, match="did you mean walked"):
        read_entries(b"time_s,kind,what\r\n0,event,walkd\r\n", None)
