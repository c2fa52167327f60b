"""Times of entries that were noted without one: order and distance tell about when they were."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]

#: Ridden at when no clock tells how fast [m/s] (assumption).
USUAL_MPS = 5.5


def filled_times(time_s: FloatArray, distance_m: FloatArray) -> FloatArray:
    """Times with those that are missing put where the distance was ridden.

    Parameters
    ----------
    time_s : NaN where nobody noted it [s], in the order of the entries, shape (n,)
    distance_m : since the start, NaN where not noted [m], shape (n,)

    Returns
    -------
    times [s], never falling where the given ones do not; NaN where no distance tells one

    Notes
    -----
    Between two entries with both, at the speed between them; beyond them, or where no clock was read at
    all, at the ride's mean speed, or 5.5 m/s (*assumption*).
    """
    missing = np.isnan(time_s)
    told = missing & ~np.isnan(distance_m)
    if not told.any():
        return time_s
    both = ~missing & ~np.isnan(distance_m)
    at, when = distance_m[both], time_s[both]
    order = np.argsort(at, kind="stable")
    at, when = at[order], when[order]
    speed = USUAL_MPS
    if len(at) > 1 and at[-1] > at[0] and when[-1] > when[0]:
        speed = float((at[-1] - at[0]) / (when[-1] - when[0]))
    if len(at) == 0:
        at, when = np.array([float(np.nanmin(distance_m))]), np.array([0.0])
    here = distance_m[told]
    found = np.interp(here, at, when)
    found = np.where(here > at[-1], when[-1] + (here - at[-1]) / speed, found)
    found = np.where(here < at[0], when[0] - (at[0] - here) / speed, found)
    filled = time_s.copy()
    filled[told] = found
    # The order of the rows is as sure as their distance: a filled time keeps to its neighbours.
    for row in np.flatnonzero(told).tolist():
        before = filled[:row][~np.isnan(filled[:row])]
        after = time_s[row + 1 :][~missing[row + 1 :]]
        low = before[-1] if len(before) else -np.inf
        high = after[0] if len(after) else np.inf
        filled[row] = min(max(filled[row], low), high)
    return filled
