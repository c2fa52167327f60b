"""Volts at rest and pulling, and the speed held, over what is left in the pack: what a rider feels fade."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.read.window import PULLS, RideWindow

FloatArray = NDArray[np.float64]

#: Bins of energy left, so many samples at least in one that is told.
BINS, LEAST_SAMPLES = 40, 3
#: Under this share of the mean current it rests; slower than this it stands [-, m/s] (assumptions).
RESTS, STANDS_MPS = 0.02, 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Sag:
    """At some energies left [-]: pack volts pulling and at rest [V], speed while moving [m/s]; all of shape
    (n,), None where it was not seen."""

    energy_left: tuple[float, ...]
    loaded_v: tuple[float | None, ...]
    rest_v: tuple[float | None, ...]
    speed_mps: tuple[float | None, ...]


def sag_of(
    test: RangeTest, ride: RideWindow, left: Callable[[FloatArray], FloatArray] | None
) -> Sag | None:
    """From samples in bins, else from the entries; None where neither tells volts.

    Parameters
    ----------
    left : energy left [-] over time [s]
    """
    if left is None:
        return None
    return _logged(test, ride, left) or _noted(test, ride, left)


def _logged(
    test: RangeTest, ride: RideWindow, left: Callable[[FloatArray], FloatArray]
) -> Sag | None:
    time, volts, amps = (test.column(name) for name in ("time_s", "voltage_v", "current_a"))
    if time is None or volts is None or amps is None:
        return None
    within = (time >= ride.start_s) & (time <= ride.end_s) & ~np.isnan(volts) & ~np.isnan(amps)
    if within.sum() < BINS:
        return None
    time, volts, amps = time[within], volts[within], amps[within]
    speed = test.column("speed_mps")
    driving = float(np.mean(amps[amps > 0])) if (amps > 0).any() else 0.0
    share = left(time)
    edges = np.linspace(float(share.min()), float(share.max()), BINS + 1)
    which = np.clip(np.searchsorted(edges, share, side="right") - 1, 0, BINS - 1)
    pulling = amps > PULLS * driving
    resting = np.abs(amps) <= RESTS * driving
    loaded, rest = _means(volts, which, pulling), _means(volts, which, resting)
    held = np.full(BINS, np.nan)
    if speed is not None:
        moving = speed[within]
        held = _means(moving, which, moving > STANDS_MPS)
    middle = (edges[1:] + edges[:-1]) / 2
    seen = ~(np.isnan(loaded) & np.isnan(rest) & np.isnan(held))
    return _sag(middle[seen], loaded[seen], rest[seen], held[seen])


def _noted(
    test: RangeTest, ride: RideWindow, left: Callable[[FloatArray], FloatArray]
) -> Sag | None:
    entries = [
        entry
        for entry in test.entries
        if ride.start_s <= entry.time_s <= ride.end_s
        and (entry.voltage_rest_v is not None or entry.voltage_load_v is not None)
    ]
    if len(entries) < 2:
        return None

    def column(name: str) -> FloatArray:
        return np.array([getattr(entry, name) for entry in entries], dtype=np.float64)

    share = left(column("time_s"))
    order = np.argsort(share)
    return _sag(
        share[order],
        column("voltage_load_v")[order],
        column("voltage_rest_v")[order],
        column("speed_mps")[order],
    )


def _means(values: FloatArray, which: NDArray[np.intp], of: NDArray[np.bool_]) -> FloatArray:
    """The mean in each bin, NaN where there are too few, shape (BINS,)."""
    known = of & ~np.isnan(values)
    counts = np.bincount(which[known], minlength=BINS)
    sums = np.bincount(which[known], weights=values[known], minlength=BINS)
    return np.where(counts >= LEAST_SAMPLES, sums / np.maximum(counts, 1), np.nan)


def _sag(share: FloatArray, loaded: FloatArray, rest: FloatArray, speed: FloatArray) -> Sag:
    def plain(values: FloatArray) -> tuple[float | None, ...]:
        return tuple(None if np.isnan(value) else float(f"{value:.5g}") for value in values)

    return Sag(
        energy_left=tuple(round(float(value), 4) for value in share),
        loaded_v=plain(loaded),
        rest_v=plain(rest),
        speed_mps=plain(speed),
    )
