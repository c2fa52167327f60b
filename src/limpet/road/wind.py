"""Wind along the way."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]


def headwind_mps(
    wind_mps: FloatArray | float, from_deg: FloatArray | float, bearing_deg: FloatArray | float
) -> FloatArray:
    """The part of a wind that meets a rider head on.

    Parameters
    ----------
    wind_mps : at the rider's height [m/s]
    from_deg : where it blows from, clockwise from north [deg]
    bearing_deg : where the rider goes [deg]

    Returns
    -------
    w, negative for a tailwind [m/s]; all arrays broadcast

    Notes
    -----
    Weather stations report the wind at 10 m, which is stronger than at a rider's height: nothing
    is taken off here, so a forecast with a station's figure errs to the safe side upwind.
    """
    angle = np.radians(np.asarray(from_deg) - np.asarray(bearing_deg))
    return np.asarray(np.asarray(wind_mps) * np.cos(angle))
