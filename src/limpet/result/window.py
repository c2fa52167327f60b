"""Where the ride proper begins and ends: what comes after its end is limp distance, apart."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.pack import voltage_limits

#: The loaded voltage must stay at or under cut-off this long [s] (bundle.md, Definitions).
CUTOFF_HOLD_S = 3.0
#: Reasons that mean the ride reached its end: a measured range (bundle.md, Definitions).
REACHED_END = ("cutoff", "protect", "speed_floor")


@dataclass(frozen=True, slots=True, kw_only=True)
class RideWindow:
    """The ride proper: its times [s] and how it ended.

    `cutoff_s` is when the samples show the loaded voltage staying at or under cut-off, if they do.
    """

    start_s: float
    end_s: float
    reached_end: bool
    cutoff_s: float | None
    last_s: float


def cutoff_time_s(
    time_s: NDArray[np.float64], voltage_v: NDArray[np.float64], cutoff_v: float
) -> float | None:
    """When the voltage first fell to cut-off and stayed at or under it for 3 s; None if never.

    Parameters
    ----------
    time_s, voltage_v : samples [s], [V], shape (n,), without NaN

    Notes
    -----
    A log that begins under cut-off began before the pack was switched on; nothing can fall to
    cut-off that was not above it.
    """
    under = voltage_v <= cutoff_v
    if not under.any():
        return None
    edges = np.diff(np.concatenate([[0], under.view(np.int8), [0]]))
    begins, ends = np.flatnonzero(edges == 1), np.flatnonzero(edges == -1) - 1
    held = np.flatnonzero((time_s[ends] - time_s[begins] >= CUTOFF_HOLD_S) & (begins > 0))
    return float(time_s[begins[held[0]]]) if len(held) else None


def ride_window(test: RangeTest) -> RideWindow:
    """Find the ride proper in a test.

    Notes
    -----
    It begins with the first record. It ends with the first of: the loaded voltage held at cut-off
    for 3 s; the first `end` entry; where there is none, the first `settle` entry; the last record.
    A `settle` ends the ride only then, because riders also let the pack settle on the way.
    """
    first, last = [], []
    cutoff_s = None
    time = test.column("time_s")
    if time is not None:
        first.append(float(time[0]))
        last.append(float(time[-1]))
        volts = test.column("voltage_v")
        if volts is not None and test.sheet.pack.cutoff_v is not None:
            _, cutoff_v, _ = voltage_limits(test.sheet.pack)
            known = ~np.isnan(volts)
            # The first of two packs reaches cut-off without ending the ride.
            if not any(entry.kind == "swap" for entry in test.entries):
                cutoff_s = cutoff_time_s(time[known], volts[known], cutoff_v)
    if test.entries:
        first.append(test.entries[0].time_s)
        last.append(test.entries[-1].time_s)
    # A ride that was begun and has no record yet is a moment long.
    start_s, last_s = min(first, default=0.0), max(last, default=0.0)
    ends = [entry.time_s for entry in test.entries if entry.kind == "end"]
    if not ends:
        ends = [entry.time_s for entry in test.entries[-2:] if entry.kind == "settle"]
    candidates = [*ends[:1], *([cutoff_s] if cutoff_s is not None else [])]
    end_s = max(min([last_s, *candidates]), start_s)
    reason = test.sheet.ending.reason if test.sheet.ending else None
    return RideWindow(
        start_s=start_s,
        end_s=end_s,
        reached_end=cutoff_s is not None or reason in REACHED_END,
        cutoff_s=cutoff_s,
        last_s=last_s,
    )
