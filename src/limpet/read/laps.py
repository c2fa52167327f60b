"""Distance by laps: a count of whole ones, and what tells where in the next one a ride ended."""

from __future__ import annotations

from math import sqrt

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.notices.remarks import remark
from limpet.read.accuracy import accuracy
from limpet.read.line import Estimate, Line, counted_on, estimate
from limpet.read.window import RideWindow

FloatArray = NDArray[np.float64]

#: A part lap noted as a decimal is good to about this [laps] (assumption).
PART_STD = 0.03
#: How far one lap's time is off the mean of those before it [-] (assumption).
PACE_STD = 0.10
#: By so much at most an instrument's own scale is carried on from the counted laps to what was ridden
#: after them: more is another road, or a lap that nobody counted [-] (assumption).
MOST_SCALE = 0.06


def lap_estimate(
    test: RangeTest, ride: RideWindow, finer: Line | None, driving: Line
) -> Estimate | None:
    """Laps × the measured length of the loop.

    Parameters
    ----------
    finer : another line of distance [m], which tells the part of a lap that no count does
    driving : seconds of driving over time, whose pace tells it for want of one

    Notes
    -----
    A count of completed laps leaves the lap that was begun: it is exact only where the line was
    crossed (a `lap` entry), or where a decimal was noted. Elsewhere the scale of the finer line is
    found between all counts, and that line tells the rest; else the pace since the last crossing
    does; else half a lap ± L/√12 is added.
    """
    lap = test.sheet.instruments.lap if test.sheet.instruments else None
    if lap is None or lap.length_m is None:
        return None
    counts = _counts(test, ride)
    if counts is None:
        return None
    time, laps, exact = counts
    length, gain = lap.length_m, accuracy(test, "lap").relative_std
    counted = {"laps": float(laps[-1]), "length_m": length}
    scaled = None if finer is None else _by_finer(time, laps, exact, length, finer, ride)
    if scaled is not None:
        line, std = scaled
        told = remark("laps_and_finer", **counted)
        return estimate("laps", line, "m", gains={"lap": gain}, extra_std=std, remarks=(told,))
    middle = np.where(exact, laps, laps + 0.5)
    std = _part_std(laps[-1], exact[-1], length)
    told = remark("laps" if exact[-1] else "laps_and_half", **counted)
    paced = None if exact[-1] else _by_pace(time, laps, exact, driving)
    if paced is not None:
        middle[-1], std = paced[0], paced[1] * length
        told = remark("laps_and_pace", **counted)
    line = Line(time_s=time, total=np.maximum.accumulate(middle * length))
    if line.span <= 0:
        return None
    return estimate("laps", line, "m", gains={"lap": gain}, extra_std=std, remarks=(told,))


def _by_pace(
    time: FloatArray, laps: FloatArray, exact: NDArray[np.bool_], driving: Line
) -> tuple[float, float] | None:
    """Laps at the last count by the pace of those before, and u of that [laps]."""
    crossed = np.flatnonzero(exact & (laps > laps[0]))
    if len(crossed) == 0:
        return None
    last = int(crossed[-1])
    done = float(laps[last] - laps[0])
    lap_s = driving.between(float(time[0]), float(time[last])) / done
    since = driving.between(float(time[last]), float(time[-1]))
    if lap_s <= 0:
        return None
    count = float(np.clip(laps[last] + since / lap_s, laps[-1], laps[-1] + 1))
    return count, min(PACE_STD * (count - float(laps[last])), 1 / sqrt(12))


def _part_std(count: float, exact: bool, length: float) -> float:
    """u of the lap that a count leaves open [m]."""
    if not exact:
        return length / sqrt(12)
    return 0.0 if count == int(count) else PART_STD * length


def _counts(
    test: RangeTest, ride: RideWindow
) -> tuple[FloatArray, FloatArray, NDArray[np.bool_]] | None:
    """Times [s], counts, and whether each is the whole of what was ridden; from 0 at the start."""
    noted = [
        (entry.time_s, entry.laps, entry.kind == "lap" or entry.laps != int(entry.laps))
        for entry in test.entries
        if entry.laps is not None and entry.time_s <= ride.end_s
    ]
    if not noted:
        crossings = [e.time_s for e in test.entries if e.kind == "lap" and e.time_s <= ride.end_s]
        noted = [(at, float(number), True) for number, at in enumerate(crossings, start=1)]
    if not noted:
        return None
    if noted[0][0] > ride.start_s:
        noted = [(ride.start_s, 0.0, True), *noted]
    else:
        # A count at the start is where the ride began, whatever the counter shows.
        noted[0] = (noted[0][0], noted[0][1], True)
    time = np.array([at for at, _, _ in noted])
    total, _ = counted_on(np.array([count for _, count, _ in noted]))
    return (time, total, np.array([known for _, _, known in noted])) if len(time) > 1 else None


def _by_finer(
    time: FloatArray,
    laps: FloatArray,
    exact: NDArray[np.bool_],
    length: float,
    finer: Line,
    ride: RideWindow,
) -> tuple[Line, float] | None:
    """The finer line, scaled to what the counts allow [m], and u of what they leave open [m]."""
    own = finer.at(time) - float(finer.at(time[:1])[0])
    end = float(finer.between(float(time[0]), ride.end_s))
    told = own > 0.2 * length
    if not told.any() or end <= 0:
        return None
    crossed = np.flatnonzero(told & exact)
    if len(crossed):
        last = int(crossed[-1])
        scale = float(laps[last] * length / own[last])
        std = _part_std(laps[last], True, length) + PART_STD * (end - float(own[last]))
    else:
        least = float((laps[told] * length / own[told]).max())
        most = float(((laps[told] + 1) * length / own[told]).min())
        if least > most:
            return None
        scale, std = (least + most) / 2, (most - least) / sqrt(12) * end
    if not 0.8 <= scale <= 1.25:
        return None
    line = finer.clipped(float(time[0]), max(ride.end_s, float(time[0]) + 1e-6))
    if not len(crossed):
        return Line(time_s=line.time_s, total=line.total * scale), std
    counted_m = float(own[crossed[-1]])
    onward = float(np.clip(scale, 1 - MOST_SCALE, 1 + MOST_SCALE))
    total = np.minimum(line.total, counted_m) * scale
    total = total + np.maximum(line.total - counted_m, 0.0) * onward
    std += abs(scale - onward) * (end - counted_m)
    return Line(time_s=line.time_s, total=total), std
