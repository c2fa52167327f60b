"""What is drawn of a log before it is taken: a few hundred points, and the sums that a wrong guess would show in."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from limpet.foreign.checks import counted, path_m, running
from limpet.units import METRES_PER_KM, SECONDS_PER_HOUR

if TYPE_CHECKING:
    import polars as pl

FloatArray = NDArray[np.float64]
#: Points of a line that is drawn.
POINTS: Final = 240
#: The columns that are drawn.
CHANNELS: Final = ("voltage_v", "current_a", "speed_mps", "altitude_m")


@dataclass(frozen=True, slots=True, kw_only=True)
class Sums:
    """What a log comes to; None where nothing tells.

    `energy_wh` and `charge_ah` are net of regeneration; `by` says what the energy is from.
    """

    duration_s: float
    energy_wh: float | None
    charge_ah: float | None
    distance_m: float | None
    wh_per_km: float | None
    by: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Drawing:
    """Times [s], and the channels by name in the core's units, None where not known; all of one length."""

    time_s: list[float]
    channels: dict[str, list[float | None]]
    sums: Sums


def drawing_of(samples: pl.DataFrame) -> Drawing:
    """A log as it is drawn before it is taken.

    Parameters
    ----------
    samples : `time_s` and any columns of samples.csv
    """
    time = samples["time_s"].to_numpy()
    rows = np.unique(np.linspace(0, len(time) - 1, min(POINTS, len(time))).astype(int))
    channels: dict[str, list[float | None]] = {}
    for name in CHANNELS:
        if name in samples.columns:
            values = samples[name].to_numpy()[rows]
            channels[name] = [
                None if np.isnan(value) else round(float(value), 4)
                for value in values.astype(float)
            ]
    return Drawing(
        time_s=[round(float(each), 2) for each in time[rows]],
        channels=channels,
        sums=sums_of(samples),
    )


def sums_of(samples: pl.DataFrame) -> Sums:
    """What a log comes to, by its rows alone: gaps are left out."""

    def column(name: str) -> FloatArray | None:
        if name not in samples.columns or samples[name].null_count() == samples.height:
            return None
        return samples[name].to_numpy().astype(np.float64)

    time = samples["time_s"].to_numpy()
    volts, amps = column("voltage_v"), column("current_a")
    counter_wh, counter_ah = column("energy_wh"), column("charge_ah")
    energy_wh = charge_ah = None
    by = ""
    if volts is not None and amps is not None:
        energy_wh, by = float(running(time, volts * amps)[-1]) / SECONDS_PER_HOUR, "sampled"
    elif counter_wh is not None:
        energy_wh, by = float(counted(counter_wh)[-1]), "energy_counter"
    elif counter_ah is not None and volts is not None:
        gained = counted(counter_ah)
        energy_wh, by = float(np.nansum(np.diff(gained) * volts[1:])), "charge_counter"
    if amps is not None:
        charge_ah = float(running(time, amps)[-1]) / SECONDS_PER_HOUR
    elif counter_ah is not None:
        charge_ah = float(counted(counter_ah)[-1])
    distance_m = _distance(
        time,
        column("distance_m"),
        column("speed_mps"),
        column("latitude_deg"),
        column("longitude_deg"),
    )
    per_km = None
    if energy_wh is not None and distance_m is not None and distance_m > 10:
        per_km = energy_wh / (distance_m / METRES_PER_KM)
    return Sums(
        duration_s=float(time[-1] - time[0]),
        energy_wh=energy_wh,
        charge_ah=charge_ah,
        distance_m=distance_m,
        wh_per_km=per_km,
        by=by,
    )


def _distance(
    time: FloatArray,
    way: FloatArray | None,
    speed: FloatArray | None,
    lat: FloatArray | None,
    lon: FloatArray | None,
) -> float | None:
    if way is not None:
        return float(counted(way)[-1])
    if lat is not None and lon is not None:
        return float(path_m(lat, lon)[-1])
    return None if speed is None else float(running(time, np.abs(speed))[-1])
