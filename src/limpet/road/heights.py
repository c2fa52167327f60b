"""Heights along a way: cleaned of noise, and the climb that is really in them."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter1d

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
    return np.asarray(gaussian_filter1d(height_m, SMOOTHING_M / spacing_m, mode="nearest"))


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
    turns = [float(height_m[0])]
    low = high = extreme = turns[0]
    direction = 0
    for height in height_m.tolist():
        if direction == 0:
            low, high = min(low, height), max(high, height)
            if height - low >= hysteresis_m or high - height >= hysteresis_m:
                direction = 1 if height - low >= hysteresis_m else -1
                turns.append(low if direction > 0 else high)
                extreme = height
        elif direction * (height - extreme) > 0:
            extreme = height
        elif direction * (extreme - height) >= hysteresis_m:
            turns.append(extreme)
            extreme, direction = height, -direction
    if direction != 0:
        turns.append(extreme)
    steps = np.diff(turns)
    return float(steps[steps > 0].sum()), float(-steps[steps < 0].sum())


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
