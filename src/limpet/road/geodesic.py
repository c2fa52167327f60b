"""Length and direction of a track on the WGS 84 ellipsoid."""

from __future__ import annotations

from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

if TYPE_CHECKING:
    from pyproj import Geod


@lru_cache(maxsize=1)
def _wgs84() -> Geod:
    # Loaded with the first track: a test without one does not wait for it.
    from pyproj import Geod

    return Geod(ellps="WGS84")


def step_lengths_m(
    latitude_deg: NDArray[np.float64], longitude_deg: NDArray[np.float64]
) -> NDArray[np.float64]:
    """Geodesic length of each step of a track.

    Parameters
    ----------
    latitude_deg, longitude_deg : φ, λ of the fixes on WGS 84 [deg], shape (n,), without NaN

    Returns
    -------
    s [m], shape (n - 1,)

    References
    ----------
    C. F. F. Karney, "Algorithms for geodesics", J. Geod. 87 (2013) 43-55,
    doi:10.1007/s00190-012-0578-z, as computed by PROJ.
    """
    if len(latitude_deg) < 2:
        return np.zeros(0)
    lengths = _wgs84().inv(
        longitude_deg[:-1], latitude_deg[:-1], longitude_deg[1:], latitude_deg[1:]
    )[2]
    return np.asarray(lengths, dtype=np.float64)


def bearings_deg(
    latitude_deg: NDArray[np.float64], longitude_deg: NDArray[np.float64]
) -> NDArray[np.float64]:
    """Direction of each step of a track where it sets out, clockwise from north.

    Parameters
    ----------
    latitude_deg, longitude_deg : φ, λ of the fixes on WGS 84 [deg], shape (n,), without NaN

    Returns
    -------
    azimuth [deg], shape (n - 1,), from 0 to 360; source as for `step_lengths_m`
    """
    if len(latitude_deg) < 2:
        return np.zeros(0)
    azimuths = _wgs84().inv(
        longitude_deg[:-1], latitude_deg[:-1], longitude_deg[1:], latitude_deg[1:]
    )[0]
    return np.asarray(azimuths, dtype=np.float64) % 360
