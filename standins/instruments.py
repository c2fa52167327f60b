"""Simulated instruments: what a meter, a track, a trip wheel and a gauge make of the truth."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import polars as pl
from numpy.typing import NDArray

from standins.ride_generator import Truth, position

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Meter:
    """A watt meter's gains and its counters' resolution."""

    voltage_gain: float = 1.0
    current_gain: float = 1.0
    noise_v: float = 0.03
    noise_a: float = 0.06


@dataclass(frozen=True, slots=True, kw_only=True)
class Log:
    """A truth as the instruments recorded it, second by second, shape (n,) each."""

    time_s: FloatArray
    voltage_v: FloatArray
    current_a: FloatArray
    charge_ah: FloatArray
    energy_wh: FloatArray
    trip_m: FloatArray
    gps_m: FloatArray
    gauge: FloatArray


def record(
    truth: Truth, meter: Meter, *, trip_scale: float, gps_scale: float, gauge_steps: int, seed: int
) -> Log:
    """What the instruments show, second by second."""
    rng = np.random.default_rng(seed)
    n = len(truth.time_s)
    volts = truth.voltage_v * meter.voltage_gain + rng.normal(0, meter.noise_v, n)
    amps = truth.current_a * meter.current_gain + rng.normal(0, meter.noise_a, n)
    hours = np.diff(truth.time_s, prepend=truth.time_s[0]) / 3600
    # The counters run inside the meter, on its own unrounded readings.
    charge = np.cumsum(truth.current_a * meter.current_gain * hours)
    energy = np.cumsum(
        truth.voltage_v * meter.voltage_gain * truth.current_a * meter.current_gain * hours
    )
    # A gauge that reads loaded volts as if they were charge: it bounces on every hill.
    top, bottom = truth.voltage_v.max(), truth.voltage_v.min()
    shown = np.ceil((truth.voltage_v - bottom) / (top - bottom) * gauge_steps)
    return Log(
        time_s=truth.time_s,
        voltage_v=np.round(volts, 2),
        current_a=np.round(amps, 2),
        charge_ah=np.round(charge, 3),
        energy_wh=np.round(energy, 2),
        trip_m=truth.distance_m * trip_scale,
        gps_m=truth.distance_m * gps_scale,
        gauge=np.clip(shown, 0, gauge_steps),
    )


def samples(
    truth: Truth,
    log: Log,
    *,
    origin: tuple[float, float],
    counters: bool = True,
    track: bool = True,
    gauge: bool = False,
    seed: int,
) -> pl.DataFrame:
    """A logger's table at one row a second, as its card would hold it."""
    rng = np.random.default_rng(seed)
    n = len(truth.time_s)
    columns: dict[str, FloatArray] = {
        "time_s": truth.time_s,
        "voltage_v": log.voltage_v,
        "current_a": log.current_a,
    }
    if counters:
        columns |= {"charge_ah": log.charge_ah, "energy_wh": log.energy_wh}
    noise = rng.normal(0, 0.05, n) * (truth.speed_mps > 0.2)
    columns["speed_mps"] = np.round(np.maximum(truth.speed_mps + noise, 0.0), 2).astype(np.float64)
    columns["distance_m"] = np.round(log.trip_m, 1)
    if track:
        # Fixes wander slowly rather than jump: a first-order walk of about a metre.
        walk = np.zeros((2, n))
        for k in range(1, n):
            walk[:, k] = 0.97 * walk[:, k - 1] + rng.normal(0, 0.12, 2)
        latitude, longitude = position(truth.east_m + walk[0], truth.north_m + walk[1], origin)
        columns |= {"latitude_deg": np.round(latitude, 7), "longitude_deg": np.round(longitude, 7)}
    columns["altitude_m"] = np.round(truth.altitude_m + rng.normal(0, 0.2, n), 1)
    columns["battery_temp_c"] = np.round(truth.pack_temp_c, 1)
    if gauge:
        columns["gauge"] = log.gauge
    return pl.DataFrame(columns)


def with_gap(frame: pl.DataFrame, begins_s: float, seconds: float) -> pl.DataFrame:
    """A log whose recorder dropped out for a while."""
    return frame.filter((pl.col("time_s") <= begins_s) | (pl.col("time_s") >= begins_s + seconds))
