"""A logger whose clock ran beside the rider's: samples that lie hours beside the entries of the same ride."""

from __future__ import annotations

from dataclasses import replace
from typing import Final

from limpet.evidence.model import RangeTest
from limpet.notices import Notice

#: Clocks of two zones, or of summer and winter, are so many half hours apart; and begin and end of one ride
#: may lie so far beside that, by what was done before the first and after the last entry [s] (assumption).
HALF_HOUR_S, BEGIN_S, END_S = 1800.0, 300.0, 600.0
#: No two zones are further apart [half hours].
MOST_HALF_HOURS = 52
#: A shorter ride fits anywhere [s].
LEAST_S: Final = 600.0


def without_samples_of_another_clock(test: RangeTest) -> tuple[RangeTest, list[Notice]]:
    """The test without samples that lie whole half hours beside its entries, and the question about them.

    Parameters
    ----------
    test : as recorded

    Returns
    -------
    the test, without its samples where they begin and end the same half hours after or before the entries; and
    what is to be asked

    Notes
    -----
    Read as they stand they would be half of a ride or twice of one. Entries alone tell it whole.
    """
    time = test.column("time_s")
    if time is None or len(test.entries) < 2:
        return test, []
    begin, end = test.entries[0].time_s, test.entries[-1].time_s
    if min(end - begin, float(time[-1] - time[0])) < LEAST_S:
        return test, []
    late_s = float(time[0]) - begin
    half_hours = round(late_s / HALF_HOUR_S)
    apart_s = half_hours * HALF_HOUR_S
    same = (
        0 < abs(half_hours) <= MOST_HALF_HOURS
        and abs(late_s - apart_s) <= BEGIN_S
        and abs(float(time[-1]) - end - apart_s) <= END_S
    )
    if not same:
        return test, []
    side = "after" if apart_s > 0 else "before"
    return replace(test, samples=None), [
        Notice("samples_of_another_clock", ahead_s=abs(apart_s), side=side)
    ]
