"""Times of strangers' logs: put in order, and nothing done to them in silence."""

from datetime import datetime, timezone

import numpy as np
import polars as pl
import pytest

from limpet.errors import BundleError
from limpet.foreign.clock import settled
from limpet.foreign.moments import Written, seconds_of, written_in


def codes(found):
    return {notice.code for notice in found.notices}


def test_a_clock_that_passes_midnight_counts_on():
    found = settled(
        "a", np.array([86_398.0, 86_399.0, 0.0, 1.0]), dated=False, zoned=False, of_day=True
    )
    assert found.time_s.tolist() == [0, 1, 2, 3]
    assert "over_midnight" in codes(found)


def test_an_hour_that_comes_again_in_autumn_is_ridden_twice():
    # 2026-10-25, 02:00 summer time is 01:00 winter time in London.
    base = datetime(2026, 10, 25, 0, 59, 0, tzinfo=timezone.utc).timestamp()
    local = np.array(
        [base + 3600 + 30 * k for k in range(2)] + [base + 60 + 30 * k for k in range(4)]
    )
    found = settled("a", local, dated=True, zoned=False, zone="Europe/London")
    assert found.time_s.tolist() == [0, 30, 60, 90, 120, 150]
    assert "summer_time" in codes(found)
    assert found.started_at.utcoffset().total_seconds() == 3600


def test_an_hour_that_is_left_out_in_spring_was_not_ridden():
    # 2026-03-29, 01:00 in London becomes 02:00.
    base = datetime(2026, 3, 29, 0, 59, 0, tzinfo=timezone.utc).timestamp()
    local = np.array([base, base + 30, base + 60 + 3600, base + 90 + 3600])
    found = settled("a", local, dated=True, zoned=False, zone="Europe/London")
    assert found.time_s.tolist() == pytest.approx([0, 30, 60, 90], abs=0.6)
    assert "summer_time" in codes(found)


def test_rows_of_one_second_are_spread_to_the_next_and_counted():
    found = settled("a", np.array([0.0, 0, 0, 0, 1, 1, 2]), dated=False, zoned=False)
    assert found.time_s.tolist() == [0, 0.25, 0.5, 0.75, 1, 1.5, 2]
    assert "times_spread" in codes(found)


def test_single_rows_out_of_order_are_left_out_and_the_runner_is_the_odd_one():
    found = settled("a", np.array([0.0, 1, 2, 500, 3, 4, 5, 6]), dated=False, zoned=False)
    assert found.time_s.tolist() == [0, 1, 2, 3, 4, 5, 6]
    assert found.rows.tolist() == [0, 1, 2, 4, 5, 6, 7]
    assert "rows_out_of_order" in codes(found)


def test_a_counter_that_began_anew_counts_on():
    time = np.concatenate([np.arange(0, 600.0), np.arange(0, 300.0)])
    found = settled("a", time, dated=False, zoned=False)
    assert found.began_anew == (600,)
    assert found.time_s[-1] == pytest.approx(899)
    assert "clock_anew" in codes(found)


def test_rows_without_a_time_are_counted_and_a_log_of_years_is_refused():
    found = settled("a", np.array([0.0, np.nan, 1.0, 2.0]), dated=False, zoned=False)
    assert found.rows.tolist() == [0, 2, 3]
    assert "rows_without_time" in codes(found)
    with pytest.raises(BundleError, match="400 days"):
        settled("a", np.array([0.0, 5e8]), dated=False, zoned=False)
    with pytest.raises(BundleError, match="fewer than two rows"):
        settled("a", np.array([np.nan, 1.0]), dated=False, zoned=False)
    with pytest.raises(BundleError, match="no time zone"):
        settled("a", np.array([1.7e9, 1.7e9 + 1]), dated=True, zoned=False, zone="Atlantis/Deep")


@pytest.mark.parametrize(
    ("cells", "form", "format_", "first"),
    [
        (["2026-05-14 09:12:00", "2026-05-14 09:12:01"], "text", "%Y-%m-%d %H:%M:%S", 1778749920.0),
        (["14.05.2026 09:12:00,5", "14.05.2026 09:12:01,0"], "text", "%d.%m.%Y %H:%M:%S%.f", 1778749920.5),
        (["05/14/2026 9:12:00 PM", "05/14/2026 9:12:01 PM"], "text", "%m/%d/%Y %I:%M:%S %p", 1778793120.0),
        (["20260514 091200", "20260514 091201"], "text", "%Y%m%d %H%M%S", 1778749920.0),
        (["09:12:00", "09:12:01"], "clock", "%H:%M:%S", 33_120.0),
        (["00:00.0", "00:01.5", "00:03.0"], "minutes", "", 0.0),
        (["26:00:01", "26:00:02"], "clock", "%H:%M:%S", 93_601.0),
    ],
)  # fmt: skip
def test_times_are_read_as_they_are_written(cells, form, format_, first):
    written = written_in(cells)
    assert written is not None
    assert (written.form, written.format) == (form, format_)
    assert seconds_of(pl.Series(cells), written, ".")[0] == pytest.approx(first)


def test_a_date_whose_day_may_be_its_month_says_so_and_one_over_midnight_does_not():
    assert written_in(["03/04/2026 10:00:00", "03/04/2026 10:00:01"]).unsure
    told = written_in(["03/04/2026 23:59:59", "04/04/2026 00:00:00"])
    assert not told.unsure
    assert told.format.startswith("%d/%m")
    assert written_in(["hello", "world"]) is None


def test_the_fast_way_reads_what_the_slow_one_does():
    cells = pl.Series(
        [
            f"2026-05-{1 + k // 1440 % 28:02d} {k // 60 % 24:02d}:{k % 60:02d}:07.25"
            for k in range(5000)
        ]
    )
    written = Written(form="text", format="%Y-%m-%d %H:%M:%S%.f")
    fast = seconds_of(cells, written, ".")
    slow = np.concatenate(
        [
            seconds_of(part, written, ".")
            for part in (cells[:1500], cells[1500:3000], cells[3000:4000], cells[4000:])
        ]
    )
    assert fast.tolist() == slow.tolist()
