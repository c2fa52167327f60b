"""Where the ride proper begins and ends: what comes after its end is limp distance, apart."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from math import sqrt

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.pack import voltage_limits
from limpet.read.accuracy import accuracy

#: The loaded voltage must stay at or under cut-off this long [s] (bundle.md, Definitions).
CUTOFF_HOLD_S = 3.0
#: Reasons that mean the ride reached its end: a measured range (bundle.md, Definitions).
REACHED_END = ("cutoff", "protect", "speed_floor")


#: Under this share of the mean driving current a drive does not pull any more (assumption); a pause of
#: so long ends the pull [s]; and so much of the energy pulled as before, after it, shows that the
#: drive had not been cut off at all (assumption).
PULLS, PAUSE_S, GOES_ON = 0.3, 5.0, 0.05

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class RideWindow:
    """The ride proper: its times [s] and how it ended.

    `cutoff_s` is when the samples show that the drive was cut off, if they do. `packs` are the times
    of the packs that were used one after another, one pair where none was swapped; `cut_before` says
    of each but the last whether it ran to its cut-off.
    """

    start_s: float
    end_s: float
    reached_end: bool
    cutoff_s: float | None
    last_s: float
    packs: tuple[tuple[float, float], ...]
    cut_before: tuple[bool, ...]


def cutoff_time_s(
    time_s: FloatArray,
    voltage_v: FloatArray,
    cutoff_v: float,
    current_a: FloatArray | None = None,
    off: float = 0.0,
) -> float | None:
    """When the drive was cut off; None if never.

    Parameters
    ----------
    time_s, voltage_v, current_a : samples [s], [V], [A], shape (n,), without NaN
    off : how far the voltmeter may be off, relative [-]

    Notes
    -----
    The voltage falls to cut-off and stays at or under it for 3 s. A meter that reads a little low
    shows that too early: while the drive pulls on, and the voltage is not further down than the meter
    may be off, the ride goes on; and a drive that pulls as before afterwards was not cut off. A log that begins under
    cut-off began before the pack was switched on.
    """
    held = _held_under(time_s, voltage_v, cutoff_v)
    if len(held) == 0:
        return None
    if current_a is None:
        return float(time_s[held[0]])
    surely = _held_under(time_s, voltage_v, cutoff_v * (1 - off) - 1e-9)
    pulls = _Pulls(time_s, current_a)
    for row in held.tolist():
        stop = pulls.stops_after(row)
        beyond = surely[surely >= row]
        if len(beyond) and beyond[0] <= stop:
            return float(time_s[beyond[0]])
        if not pulls.goes_on_after(stop):
            return float(time_s[stop])
    return None


def _held_under(time_s: FloatArray, voltage_v: FloatArray, limit_v: float) -> NDArray[np.intp]:
    """Rows at which the voltage fell to a limit and then stayed at or under it for 3 s."""
    under = voltage_v <= limit_v
    if not under.any():
        return np.zeros(0, dtype=np.intp)
    edges = np.diff(np.concatenate([[0], under.view(np.int8), [0]]))
    begins, ends = np.flatnonzero(edges == 1), np.flatnonzero(edges == -1) - 1
    return begins[(time_s[ends] - time_s[begins] >= CUTOFF_HOLD_S) & (begins > 0)]


class _Pulls:
    """Where a logged current pulls as it does while driving."""

    def __init__(self, time: FloatArray, amps: FloatArray) -> None:
        self._time = time
        driving = amps[amps > 0.05 * float(np.quantile(amps, 0.98))]
        self._least = PULLS * float(driving.mean()) if len(driving) else 0.0
        self._rows = np.flatnonzero(amps > self._least) if self._least > 0 else np.zeros(0, np.intp)
        steps = np.minimum(np.diff(time, append=time[-1]), PAUSE_S)
        self._charge = np.concatenate(
            [[0.0], np.cumsum(np.where(amps > self._least, amps, 0.0) * steps)]
        )

    def stops_after(self, row: int) -> int:
        """The last row of the pull that runs on through a row; the row itself where none does."""
        later = self._rows[np.searchsorted(self._rows, row) :]
        if len(later) == 0 or self._time[later[0]] - self._time[row] > PAUSE_S:
            return row
        pauses = np.flatnonzero(np.diff(self._time[later]) > PAUSE_S)
        return int(later[pauses[0]] if len(pauses) else later[-1])

    def goes_on_after(self, row: int) -> bool:
        """Whether as much is pulled after a row as no limp would take."""
        total = float(self._charge[-1])
        return total > 0 and total - float(self._charge[row + 1]) > GOES_ON * total


def ride_window(test: RangeTest) -> RideWindow:
    """Find the ride proper in a test.

    Parameters
    ----------
    test : as recorded

    Notes
    -----
    It begins with the first record. It ends with the first of: the drive cut off; the first `end`
    entry; where there is none, the last `settle` entry; the last record. A `settle` ends the ride only
    then, because riders also let the pack settle on the way.
    """
    first, last = [], []
    cutoff_s = None
    swaps = [entry.time_s for entry in test.entries if entry.kind == "swap"]
    time = test.column("time_s")
    cuts: list[float | None] = []
    if time is not None:
        first.append(float(time[0]))
        last.append(float(time[-1]))
    if test.entries:
        first.append(test.entries[0].time_s)
        last.append(test.entries[-1].time_s)
    # A ride that was begun and has no record yet is a moment long.
    start_s, last_s = min(first, default=0.0), max(last, default=0.0)
    bounds = [start_s, *swaps, last_s + 1.0]
    cuts = [_cut_in(test, a, b) for a, b in itertools.pairwise(bounds)]
    cutoff_s = cuts[-1]
    ends = [entry.time_s for entry in test.entries if entry.kind == "end"]
    if not ends:
        ends = [entry.time_s for entry in test.entries[-2:] if entry.kind == "settle"]
    candidates = [*ends[:1], *([cutoff_s] if cutoff_s is not None else [])]
    end_s = max(min([last_s, *candidates]), start_s)
    swaps = [at for at in swaps if start_s < at < end_s]
    reason = test.sheet.ending.reason if test.sheet.ending else None
    inner = [start_s, *swaps, end_s]
    return RideWindow(
        start_s=start_s,
        end_s=end_s,
        reached_end=cutoff_s is not None or reason in REACHED_END,
        cutoff_s=cutoff_s,
        last_s=last_s,
        packs=tuple(itertools.pairwise(inner)),
        cut_before=tuple(cut is not None for cut in cuts[: len(swaps)]),
    )


def _cut_in(test: RangeTest, from_s: float, to_s: float) -> float | None:
    """When the samples of a part of the test show the drive cut off, if they do."""
    names = ["voltage_v", "current_a"] if test.column("current_a") is not None else ["voltage_v"]
    # The sample of a swap is the first of the next pack.
    logged = test.log.known(*names, from_s=from_s, until_s=np.nextafter(to_s, from_s))
    if logged is None or len(logged[0]) < 2 or test.sheet.pack.cutoff_v is None:
        return None
    time, volts = logged[:2]
    _, cutoff_v, _ = voltage_limits(test.sheet.pack)
    off = accuracy(test, "voltage").relative_std * sqrt(3)
    return cutoff_time_s(time, volts, cutoff_v, logged[2] if len(logged) > 2 else None, off)
