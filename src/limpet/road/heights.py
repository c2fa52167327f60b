"""Heights along a way: cleaned of noise, and the climb that is really in them."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from limpet.road.smoothing import gaussian_smoothed

FloatArray = NDArray[np.float64]

#: A climb counts once it exceeds this [m] (assumption, handbook section 6).
HYSTERESIS_GPS_M = 10.0
HYSTERESIS_BAROMETRIC_M = 3.0
#: Standard deviation of the smoothing along the way [m] (assumption: a GPS height wanders over
#: tens of metres of road).
SMOOTHING_M = 40.0


def smoothed(distance_m: FloatArray, height_m: FloatArray, spacing_m: float) -> FloatArray:
    """Heights on an even grid through a Gaussian filter.

    Parameters
    ----------
    distance_m : even grid [m], shape (n,)
    height_m : h [m], shape (n,), without NaN

    Returns
    -------
    h smoothed over 40 m of road [m], shape (n,)
    """
    return gaussian_smoothed(height_m, SMOOTHING_M / spacing_m)


def ascent_m(height_m: FloatArray, hysteresis_m: float) -> tuple[float, float]:
    """Climb and descent along a profile, counted with a hysteresis.

    Parameters
    ----------
    height_m : h along the way [m], shape (n,)
    hysteresis_m : rises and falls smaller than this are noise [m]

    Returns
    -------
    (ascent, descent) [m], both positive; their difference is the height gained, up to the part
    of the last unfinished swing that is smaller than the hysteresis
    """
    if len(height_m) == 0:
        return 0.0, 0.0
    steps = np.diff(height_m[turning_points(height_m, hysteresis_m)])
    return float(steps[steps > 0].sum()), float(np.abs(steps[steps < 0]).sum())


def turning_points(height_m: FloatArray, hysteresis_m: float) -> NDArray[np.intp]:
    """Where a profile turns between climbing and falling, swings under the hysteresis left out.

    Returns
    -------
    indices, increasing, the first point included; the last is where the last counted swing ends
    """
    turns, lowest, highest, extreme, direction = [0], 0, 0, 0, 0
    heights = height_m.tolist()
    for k, height in enumerate(heights):
        if direction == 0:
            lowest = k if height < heights[lowest] else lowest
            highest = k if height > heights[highest] else highest
            rises = height - heights[lowest] >= hysteresis_m
            if rises or heights[highest] - height >= hysteresis_m:
                direction = 1 if rises else -1
                turns.append(lowest if rises else highest)
                extreme = k
        elif direction * (height - heights[extreme]) > 0:
            extreme = k
        elif direction * (heights[extreme] - height) >= hysteresis_m:
            turns.append(extreme)
            extreme, direction = k, -direction
    if direction != 0:
        turns.append(extreme)
    return np.unique(turns)


def without_noise(height_m: FloatArray, hysteresis_m: float) -> FloatArray:
    """A profile that only rises or only falls between its turning points.

    Parameters
    ----------
    height_m : smoothed [m], shape (n,)
    hysteresis_m : swings smaller than this go [m]

    Returns
    -------
    h [m], shape (n,): within each swing the mean of the running extremes from either side; a
    straight line before the first swing and after the last
    """
    turns = np.union1d(turning_points(height_m, hysteresis_m), [0, len(height_m) - 1])
    clean = height_m.copy()
    for first, last in pairwise(turns.tolist()):
        part = height_m[first : last + 1]
        rise = part[-1] - part[0]
        if abs(rise) < hysteresis_m:
            clean[first : last + 1] = np.linspace(part[0], part[-1], len(part))
            continue
        sign = 1.0 if rise > 0 else -1.0
        from_left = np.maximum.accumulate(sign * part)
        from_right = np.minimum.accumulate((sign * part)[::-1])[::-1]
        clean[first : last + 1] = sign * (from_left + from_right) / 2
    return clean


def kept_points(distance_m: FloatArray, values: FloatArray, tolerance: float) -> NDArray[np.intp]:
    """The points of a line that a polyline within a tolerance must keep.

    Parameters
    ----------
    distance_m : abscissa, increasing, shape (n,)
    values : ordinate, shape (n,) or (n, k) for several lines that share their points
    tolerance : the largest distance from the chord that may be dropped

    Returns
    -------
    indices, increasing, the first and the last point included

    References
    ----------
    D. H. Douglas and T. K. Peucker, "Algorithms for the reduction of the number of points
    required to represent a digitized line", Cartographica 10 (1973) 112-122,
    doi:10.3138/FM57-6770-U75U-7727.
    """
    lines = values.reshape(len(values), -1)
    keep = np.zeros(len(distance_m), dtype=bool)
    keep[[0, -1]] = True
    open_spans = [(0, len(distance_m) - 1)]
    while open_spans:
        first, last = open_spans.pop()
        if last - first < 2:
            continue
        part = (distance_m[first + 1 : last] - distance_m[first]) / (
            distance_m[last] - distance_m[first]
        )
        chord = lines[first] + part[:, None] * (lines[last] - lines[first])
        off = np.sqrt(((lines[first + 1 : last] - chord) ** 2).sum(axis=1))
        worst = int(np.argmax(off))
        if off[worst] > tolerance:
            middle = first + 1 + worst
            keep[middle] = True
            open_spans += [(first, middle), (middle, last)]
    return np.flatnonzero(keep)
