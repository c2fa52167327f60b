"""Columns held against one another: what a wrong unit, a wrong sign or a wrong column would break."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]
#: A step longer than this many usual ones is a pause, over which nothing is summed.
_PAUSE = 30.0


def middle_of(values: FloatArray) -> float:
    """The median of what is known, NaN where nothing is."""
    known = values[~np.isnan(values)]
    return float(np.median(known)) if len(known) else float("nan")


def mean_over(parts: list[FloatArray]) -> FloatArray:
    """The mean over several columns, row by row, of those that are known, shape (n,)."""
    stacked = np.stack(parts)
    known = (~np.isnan(stacked)).sum(axis=0)
    total = np.nansum(stacked, axis=0)
    return np.where(known > 0, total / np.maximum(known, 1), np.nan)


def running(time_s: FloatArray, rate: FloatArray) -> FloatArray:
    """The running integral of a rate over time, from 0, shape (n,); nothing over pauses and what is not known."""
    steps = np.diff(time_s)
    usual = float(np.median(steps)) if len(steps) else 1.0
    mean = (rate[1:] + rate[:-1]) / 2
    part = np.where(np.isnan(mean) | (steps > max(_PAUSE * usual, 30.0)), 0.0, mean * steps)
    return np.concatenate([[0.0], np.cumsum(part)])


def counted(counter: FloatArray) -> FloatArray:
    """A counter from 0, counting on where it began anew, shape (n,)."""
    known = counter[~np.isnan(counter)]
    if len(known) < 2:
        return np.zeros(len(counter))
    filled = np.interp(np.arange(len(counter)), np.flatnonzero(~np.isnan(counter)), known)
    steps = np.diff(filled)
    span = float(np.ptp(filled))
    steps = np.where(np.abs(steps) > 0.6 * span, 0.0, steps) if len(known) > 3 else steps
    return np.concatenate([[0.0], np.cumsum(steps)])


def slope_of(counter: FloatArray, summed: FloatArray) -> tuple[float, float]:
    """By how much a counter goes with a running sum.

    Returns
    -------
    (what the counter gains for 1 of the sum, how well it does so: 1 is a straight line through 0)
    """
    x, y = summed - summed[0], counted(counter)
    known = ~(np.isnan(x) | np.isnan(y))
    x, y = x[known], y[known]
    xx = float(x @ x)
    if len(x) < 5 or xx <= 0 or not np.any(y):
        return 0.0, 0.0
    slope = float(x @ y) / xx
    left = float(((y - slope * x) ** 2).sum()) / float(y @ y)
    return slope, max(1.0 - left, 0.0)


def product_ratio(power: FloatArray, volts: FloatArray, amps: FloatArray) -> tuple[float, float]:
    """Watts over volts times amps: (the middle of the ratios, how near they lie to it: 1 is all)."""
    product = volts * amps
    known = ~(np.isnan(power) | np.isnan(product))
    if known.sum() < 5:
        return 0.0, 0.0
    power, product = power[known], product[known]
    large = np.abs(product) > 0.1 * np.max(np.abs(product), initial=0.0)
    if large.sum() < 5 or not np.any(product):
        return 0.0, 0.0
    ratio = power[large] / product[large]
    middle = float(np.median(ratio))
    if middle == 0:
        return 0.0, 0.0
    return middle, float(np.mean(np.abs(ratio / middle - 1) < 0.1))


def path_m(latitude_deg: FloatArray, longitude_deg: FloatArray) -> FloatArray:
    """How far a track has come at each of its points [m], on a sphere, shape (n,)."""
    known = ~(np.isnan(latitude_deg) | np.isnan(longitude_deg))
    found = np.zeros(len(latitude_deg))
    where = np.flatnonzero(known)
    if len(where) < 2:
        return found
    lat, lon = np.radians(latitude_deg[where]), np.radians(longitude_deg[where])
    half = (
        np.sin(np.diff(lat) / 2) ** 2
        + np.cos(lat[1:]) * np.cos(lat[:-1]) * np.sin(np.diff(lon) / 2) ** 2
    )
    steps = 2 * 6_371_009.0 * np.arcsin(np.sqrt(np.clip(half, 0, 1)))
    come = np.concatenate([[0.0], np.cumsum(steps)])
    return np.asarray(np.interp(np.arange(len(latitude_deg)), where, come), dtype=np.float64)
