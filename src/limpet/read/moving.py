"""When a ride moved: driving time, with what entries and samples say of standing taken out."""

from __future__ import annotations

import numpy as np

from limpet.evidence.model import Entry, RangeTest
from limpet.read.line import Line
from limpet.read.window import RideWindow
from limpet.units import SECONDS_PER_HOUR

#: Slower than this is standing [m/s] (assumption).
STANDING_MPS = 0.5
#: Entries after which the vehicle stands until the next one that goes on.
_HALTS = ("stop", "settle", "swap", "end")
_STANDING = ("stop", "settle", "event", "end", "swap")


def driving_line(test: RangeTest, ride: RideWindow) -> Line:
    """Seconds of driving since the start over time, as far as entries tell.

    Parameters
    ----------
    test : as recorded
    ride : the window

    Notes
    -----
    From a stop to the entry that goes on again nothing moves, unless a distance rose in between: a
    rider who notes each stop does not note each start. A night is noted in the evening or in the
    morning: it is the longer of the times before and after, and what was ridden in that as well is
    too little to count beside it.
    """
    times, total = [ride.start_s], [0.0]
    halted = False
    gone: dict[str, float] = {}
    # Of entries at one moment the halt counts, whichever was written first.
    entries = sorted(test.entries, key=lambda item: (item.time_s, item.kind in _HALTS))
    nights = _nights(entries)
    for k, entry in enumerate(entries):
        at = min(max(entry.time_s, ride.start_s), max(ride.end_s, ride.start_s))
        rolled = _rolled(entry, gone)
        stood = k in nights or (halted and not rolled)
        total.append(total[-1] + (0.0 if stood else at - times[-1]))
        times.append(at)
        if entry.kind in _HALTS:
            halted = True
        elif entry.kind not in _STANDING:
            halted = False
    end = max(ride.end_s, ride.start_s + 1.0)
    total.append(total[-1] + (0.0 if halted else max(end - times[-1], 0.0)))
    times.append(max(end, times[-1]))
    return Line(time_s=np.array(times), total=np.array(total))


def _nights(entries: list[Entry]) -> set[int]:
    """Of entries in order of time, those that a night lies before."""
    found = set()
    for k, entry in enumerate(entries):
        if entry.what != "overnight":
            continue
        before = entry.time_s - entries[k - 1].time_s if k > 0 else 0.0
        after = entries[k + 1].time_s - entry.time_s if k + 1 < len(entries) else 0.0
        found.add(k + 1 if after > before else k)
    return found


def _rolled(entry: Entry, gone: dict[str, float]) -> bool:
    """Whether a distance rose since it was last read; what is read is kept in `gone`."""
    rose = False
    for name in ("trip_m", "odometer_m", "gps_m", "laps"):
        value = getattr(entry, name)
        if value is not None:
            rose |= value > gone.get(name, value)
            gone[name] = value
    return rose


def driving_hours(test: RangeTest, ride: RideWindow) -> float:
    """Hours of the ride proper in which it moved, as far as samples or entries tell [h].

    Parameters
    ----------
    test : as recorded
    ride : the window
    """
    rolled = _rolled_share(test, ride)
    if rolled is not None:
        return rolled * (ride.end_s - ride.start_s) / SECONDS_PER_HOUR
    return driving_line(test, ride).between(ride.start_s, ride.end_s) / SECONDS_PER_HOUR


def speed_is_logged(test: RangeTest, ride: RideWindow) -> bool:
    """Whether samples tell when it moved: then no standing is in `driving_hours`."""
    return _rolled_share(test, ride) is not None


def _rolled_share(test: RangeTest, ride: RideWindow) -> float | None:
    """Share of the time that it rolled, by a log of its speed that covers most of the ride [-]."""
    logged = test.log.known("speed_mps", until_s=ride.end_s)
    if logged is None or len(logged[0]) <= 10:
        return None
    time, speed = logged
    steps, moves = np.diff(time), speed > STANDING_MPS
    rolled, covered = float(steps[moves[1:] & moves[:-1]].sum()), float(steps.sum())
    if rolled <= 0 or covered <= 0.5 * (ride.end_s - ride.start_s):
        return None
    return rolled / covered
