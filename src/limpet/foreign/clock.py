"""From a table's times to seconds since the ride began, rising row by row, and to when that was."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta, timezone
from typing import Final
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import numpy as np
from numpy.typing import NDArray

from limpet.errors import BundleError, Fault
from limpet.evidence.columns import LONGEST_TEST_S
from limpet.notices import Notice

FloatArray = NDArray[np.float64]
_DAY_S, _HOUR_S = 86_400.0, 3600.0
#: How near a jump must come to an hour, or to a day, to be one [s].
_NEAR_S: Final = 300.0
_EPOCH: Final = datetime(1970, 1, 1)


@dataclass(frozen=True, slots=True, kw_only=True)
class Settled:
    """Times of the rows that are kept, rising strictly from 0; `rows` are their places in the file.

    `started_at` is when time 0 was: with its offset where that is known, None where no date is.
    `began_anew` are rows (of those kept) where the clock began at nought again.
    """

    time_s: FloatArray
    rows: NDArray[np.intp]
    started_at: datetime | None
    notices: tuple[Notice, ...]
    began_anew: tuple[int, ...] = ()


def settled(
    file: str,
    seconds: FloatArray,
    *,
    dated: bool,
    zoned: bool,
    of_day: bool = False,
    zone: str | None = None,
    date: datetime | None = None,
    repeats: NDArray[np.bool_] | None = None,
) -> Settled:
    """Put a table's times in order, and say what was done to them.

    Parameters
    ----------
    file : its name, for messages
    seconds : as `moments.seconds_of` gives them, shape (n,)
    dated, zoned : whether they are since 1970, and of UTC
    of_day : whether they are of a clock without a date
    zone : the name of the time zone that an unzoned clock was in, None when nobody said
    date : the day of a clock without one, or the moment of time 0
    repeats : rows that say exactly what the one before them says

    Raises
    ------
    BundleError
        When fewer than two rows have a time, or they span more than a test does.
    """
    notices: list[Notice] = []
    rows = np.flatnonzero(~np.isnan(seconds))
    if len(rows) < len(seconds):
        notices.append(Notice("rows_without_time", file=file, count=int(len(seconds) - len(rows))))
    if len(rows) < 2:
        raise BundleError(
            [
                Fault(
                    file,
                    0,
                    0,
                    "has fewer than two rows with a time that can be read; choose the column that holds it",
                )
            ]
        )
    if repeats is not None and repeats[rows].any():
        notices.append(Notice("duplicate_rows", file=file, count=int(repeats[rows].sum())))
        rows = rows[~repeats[rows]]
    time = seconds[rows].copy()
    if _falls(time):
        rows, time = rows[::-1], time[::-1].copy()
        notices.append(Notice("newest_first", file=file))
    offset_s = 0.0
    if of_day:
        time, nights = _over_midnight(time)
        if nights:
            notices.append(Notice("over_midnight", file=file))
    if dated and not zoned and zone is not None:
        time, offset_s, changed = _to_utc(file, time, zone)
        if changed:
            notices.append(Notice("summer_time", file=file))
    elif not zoned and (dated or of_day):
        time, changed = _hour_again(time)
        if changed:
            notices.append(Notice("summer_time", file=file))
    anew: list[int] = []
    if not dated and not of_day:
        time, anew = _counted_on(time)
        if anew:
            notices.append(Notice("clock_anew", file=file, count=len(anew)))
    time, rows, dropped = _rising(time, rows)
    if dropped:
        notices.append(Notice("rows_out_of_order", file=file, count=dropped))
    time, spread = _spread(time)
    if spread:
        notices.append(Notice("times_spread", file=file, count=spread))
    if len(time) < 2 or time[-1] - time[0] > LONGEST_TEST_S:
        raise BundleError(
            [
                Fault(
                    file,
                    0,
                    0,
                    "spans more than 400 days; choose another column for the time, or part the log",
                )
            ]
        )
    first = float(time[0])
    started: datetime | None = None
    if dated:
        began = first + offset_s
        if -2.2e9 < began < 1e11:
            started = _EPOCH + timedelta(seconds=began)
            if zoned:
                started = started.replace(tzinfo=timezone.utc)
            elif zone is not None:
                started = started.replace(tzinfo=timezone(timedelta(seconds=offset_s)))
    elif date is not None:
        started = date + timedelta(seconds=first) if of_day else date
    return Settled(
        time_s=time - first,
        rows=rows,
        started_at=started,
        notices=tuple(notices),
        began_anew=tuple(anew),
    )


def _falls(time: FloatArray) -> bool:
    steps = np.diff(time)
    return bool((steps < 0).sum() > 0.8 * max((steps != 0).sum(), 1)) and len(time) > 2


def _over_midnight(time: FloatArray) -> tuple[FloatArray, int]:
    """A clock's times with a day more after every midnight."""
    falls = np.diff(time) < -_DAY_S / 2
    return time + _DAY_S * np.concatenate([[0], np.cumsum(falls)]), int(falls.sum())


def _hour_again(time: FloatArray) -> tuple[FloatArray, bool]:
    """A clock that was put back by an hour counts on."""
    steps = np.diff(time)
    back = (steps < -_HOUR_S + _NEAR_S * 2) & (steps > -_HOUR_S - _NEAR_S)
    if back.sum() != 1:
        return time, False
    at = int(np.flatnonzero(back)[0]) + 1
    # An hour that comes again lasts: single rows out of their place do not.
    if len(time) - at < 3:
        return time, False
    moved = time.copy()
    moved[at:] += _HOUR_S
    return moved, True


def _to_utc(file: str, time: FloatArray, zone: str) -> tuple[FloatArray, float, bool]:
    """Local times as UTC, the offset at the start [s], and whether the clock was changed on the way."""
    try:
        place = ZoneInfo(zone)
    except (ZoneInfoNotFoundError, ValueError, OSError) as cause:
        raise BundleError(
            [Fault(file, 0, 0, f"'{zone[:40]}' is no time zone; name one such as Europe/London")]
        ) from cause

    def offset(local_s: float, fold: int = 0) -> float:
        if not -2.2e9 < local_s < 1e11:
            return 0.0
        said = (_EPOCH + timedelta(seconds=local_s)).replace(tzinfo=place, fold=fold).utcoffset()
        return said.total_seconds() if said is not None else 0.0

    first = offset(float(time[0]))
    last = offset(float(time.max()), 1)
    if first == last:
        moved, again = _hour_again(time)
        return moved - first, first, again
    if last < first:
        # Put back: the hour comes twice, and the second time the rows fall.
        moved, again = _hour_again(time)
        if again:
            return moved - first, first, True
    low, high = float(time[0]), float(time.max())
    while high - low > 0.5:
        middle = (low + high) / 2
        if offset(middle, 1) == first:
            low = middle
        else:
            high = middle
    after = time >= high - 0.5
    return time - np.where(after, last, first), first, bool(after.any())


def _counted_on(time: FloatArray) -> tuple[FloatArray, list[int]]:
    """A counter of time that began at nought again counts on from where it was, by its usual step."""
    steps = np.diff(time)
    span = float(np.nanmax(time) - np.nanmin(time))
    usual = float(np.median(steps[steps > 0])) if (steps > 0).any() else 1.0
    falls = np.flatnonzero(steps < -max(10 * usual, 0.02 * span, 2.0))
    # After a single row that ran ahead the others go on from where they were.
    anew = [
        int(at) + 1
        for at in falls
        if time[at + 1] <= max(0.05 * time[at], 60.0) and time[at + 1] < time[max(int(at) - 1, 0)]
    ]
    if not anew or len(anew) > 50:
        return time, []
    moved = time.copy()
    for at in anew:
        moved[at:] += moved[at - 1] - moved[at] + usual
    return moved, anew


def _rising(time: FloatArray, rows: NDArray[np.intp]) -> tuple[FloatArray, NDArray[np.intp], int]:
    """Without rows that lie before one above them; how many those were.

    A row that ran ahead of its time would take all the others with it: where more rows lie behind the
    latest than not, the runner is the odd one.
    """
    if not (np.diff(time) < 0).any():
        return time, rows, 0
    latest = np.maximum.accumulate(time)
    earliest = np.minimum.accumulate(time[::-1])[::-1]
    behind, ahead = time < latest, time > earliest
    odd = behind if behind.sum() <= ahead.sum() else ahead
    kept = ~odd
    return time[kept], rows[kept], int(odd.sum())


def _spread(time: FloatArray) -> tuple[FloatArray, int]:
    """Rows of one moment, of a clock that counts whole seconds, evenly up to the next one."""
    same = np.diff(time) <= 0
    if not same.any():
        return time, 0
    starts = np.concatenate([[True], ~same])
    group = np.cumsum(starts) - 1
    firsts = np.flatnonzero(starts)
    sizes = np.diff(np.concatenate([firsts, [len(time)]]))
    distinct = time[firsts]
    steps = np.diff(distinct)
    usual = float(np.median(steps)) if len(steps) else 1.0
    room = np.concatenate([np.minimum(steps, usual), [usual]])
    place = np.arange(len(time)) - firsts[group]
    return distinct[group] + room[group] * place / sizes[group], int(same.sum())
