"""Where one log holds two rides: at a long rest, or where the logger was off for as long."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from limpet.foreign.checks import counted, path_m

if TYPE_CHECKING:
    import polars as pl

FloatArray = NDArray[np.float64]
#: Standing as long as this parts two rides, if its rider says so [s] (assumption); a shorter piece is none.
LONG_REST_S, LEAST_RIDE_S = 30 * 60.0, 120.0
#: Rides that are told apart in one log.
MOST_RIDES: Final = 12
#: Slower than this it stands [m/s]; under this share of its strong current it pulls nothing.
_STANDS_MPS, _PULLS = 0.5, 0.08


@dataclass(frozen=True, slots=True)
class Span:
    """A stretch of a log, on its own time [s]."""

    from_s: float
    to_s: float


def rides_of(samples: pl.DataFrame) -> list[Span]:
    """The rides that a log holds, parted at its long rests; one where there is none.

    Parameters
    ----------
    samples : `time_s` and any columns of samples.csv

    Notes
    -----
    It rests while it neither moves nor pulls; a logger that was switched off rests too.
    """
    time = samples["time_s"].to_numpy()
    moving = _moving(samples, time)
    at = time[moving] if moving is not None and moving.any() else time
    if len(at) < 2:
        return [Span(float(time[0]), float(time[-1]))]
    breaks = np.flatnonzero(np.diff(at) >= LONG_REST_S)
    starts = np.concatenate([[at[0]], at[breaks + 1]])
    ends = np.concatenate([at[breaks], [at[-1]]])
    found = [
        Span(float(a), float(b)) for a, b in zip(starts, ends, strict=True) if b - a >= LEAST_RIDE_S
    ]
    if len(found) < 2 or len(found) > MOST_RIDES:
        return [Span(float(time[0]), float(time[-1]))]
    # What was logged before and after belongs to the first and the last; a rest is parted in its middle.
    middles = [(one.to_s + other.from_s) / 2 for one, other in pairwise(found)]
    edges = [float(time[0]), *middles, float(time[-1])]
    return [Span(a, b) for a, b in pairwise(edges)]


def _moving(samples: pl.DataFrame, time: FloatArray) -> NDArray[np.bool_] | None:
    def column(name: str) -> FloatArray | None:
        if name not in samples.columns or samples[name].null_count() == samples.height:
            return None
        return samples[name].to_numpy().astype(np.float64)

    speed = column("speed_mps")
    if speed is not None:
        return np.asarray(np.abs(np.nan_to_num(speed)) > _STANDS_MPS)
    way = column("distance_m")
    latitude, longitude = column("latitude_deg"), column("longitude_deg")
    if way is None and latitude is not None and longitude is not None:
        way = path_m(latitude, longitude)
    if way is not None:
        gained = np.diff(counted(way), prepend=0.0) / np.maximum(
            np.diff(time, prepend=time[0] - 1), 1e-3
        )
        return np.asarray(gained > _STANDS_MPS)
    amps = column("current_a")
    if amps is None:
        return None
    strong = float(np.nanquantile(np.abs(amps), 0.95))
    return np.asarray(np.abs(np.nan_to_num(amps)) > _PULLS * strong)
