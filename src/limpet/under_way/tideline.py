"""The tideline of a ride under way, out of the same draws as its line: one estimate, one drawing."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.figures.strip import Mark, Strip
from limpet.quantity import Quantity
from limpet.under_way.now import Now

FloatArray = NDArray[np.float64]

#: Points of the line between the start and the last reading.
POINTS = 60


def strip_under_way(
    seen: RangeTest, now: Now, asked_s: frozenset[float], on_to_cutoff: Quantity | None
) -> Strip:
    """The tideline so far, and where it would end.

    Parameters
    ----------
    seen : what was recorded so far
    asked_s : times of entries that are questioned [s]
    on_to_cutoff : from here to cut-off [m]; None where readings contradict each other, and nothing is drawn
    """
    if on_to_cutoff is None:
        return Strip(
            distance_m=(),
            energy_left=(),
            marks=(),
            ridden_m=now.done_m,
            cutoff_m=None,
            reserve=now.way.trip.reserve,
            measured=False,
        )
    line = now.line
    if line is None or now.done_m <= 0:
        times = np.array([0.0])
        distance = np.zeros(1)
    else:
        even = np.interp(np.linspace(0.0, now.done_m, POINTS), line.total, line.time_s)
        noted = [e.time_s for e in seen.entries if line.time_s[0] <= e.time_s <= now.until_s]
        times = np.unique(np.concatenate([even, noted]))
        distance = np.clip(line.at(times), 0.0, now.done_m)
    levels = left_along(now, times)
    # All at once: a ride has many entries.
    at = np.array([entry.time_s for entry in seen.entries])
    places = np.zeros(len(at)) if line is None else np.clip(line.at(at), 0.0, now.done_m)
    along = left_along(now, at) if len(at) else at
    marks = []
    for entry, at_m, left in zip(seen.entries, places.tolist(), along.tolist(), strict=True):
        volts = entry.voltage_rest_v if entry.voltage_rest_v is not None else entry.voltage_load_v
        marks.append(
            Mark(
                distance_m=at_m,
                time_s=entry.time_s,
                kind=entry.kind,
                energy_left=left,
                voltage_v=volts,
                what=entry.what,
                place=entry.place,
                gauge=entry.gauge,
                questioned=entry.time_s in asked_s,
            )
        )
    return Strip(
        distance_m=tuple(distance.tolist()),
        energy_left=tuple(levels.tolist()),
        marks=tuple(marks),
        ridden_m=now.done_m,
        cutoff_m=(
            now.done_m + max(on_to_cutoff.low, 0.0),
            now.done_m + on_to_cutoff.value,
            now.done_m + on_to_cutoff.high,
        ),
        reserve=now.way.trip.reserve,
        measured=False,
    )


def left_along(now: Now, times: FloatArray) -> FloatArray:
    """The middle of the energy left at some times, as a share of all packs' usable energy, shape (n,).

    Between the readings it goes as the progress of the ride does; at the last it is what the line says.
    """
    found = now.found.remaining
    ride, state = found.model.ride, found.state
    share = np.clip((state.stored - state.cut_stored) / state.usable, 0.0, 1.0)
    waiting = ride.windows - 1 - ride.knot_window[:, None] + now.spare
    middle = np.median((share + waiting) / (ride.windows + now.spare), axis=1)
    middle[-1] = float(np.median(now.left_wh / now.usable_wh))
    along = now.found.evidence.progress.line.at(found.times)
    here = np.clip(now.found.evidence.progress.line.at(times), along[0], along[-1])
    # Of two knots at one place, where a fresh pack was put in, the later counts.
    order = np.argsort(along, kind="stable")
    return np.asarray(np.interp(here, along[order], middle[order]))
