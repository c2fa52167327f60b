"""What the page draws, thinned to what a screen can show: the tideline's points and the traces."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import EntryKind, RangeTest
from limpet.result.charges import charges_of
from limpet.result.line import Line
from limpet.result.model import Result

if TYPE_CHECKING:
    import polars as pl

FloatArray = NDArray[np.float64]

#: Points of a tideline: more than a wide screen has pixels is waste.
STRIP_POINTS = 240
#: Bins of a trace, each with its lowest, mean and highest value.
TRACE_BINS = 700


@dataclass(frozen=True, slots=True, kw_only=True)
class Mark:
    """An entry on the tideline."""

    distance_m: float
    time_s: float
    kind: EntryKind
    energy_left: float | None
    voltage_v: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Strip:
    """The tideline of a test: energy left [-] over distance [m], both of shape (n,).

    `cutoff_m` is where it ends, low, value and high; `reserve` the share kept back. A test whose
    energy is not known has an empty line.
    """

    distance_m: tuple[float, ...]
    energy_left: tuple[float, ...]
    marks: tuple[Mark, ...]
    ridden_m: float | None
    cutoff_m: tuple[float, float, float] | None
    reserve: float
    measured: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Channel:
    """One quantity in bins: lowest, mean and highest, None in a bin without samples."""

    name: str
    unit: str
    low: tuple[float | None, ...]
    mean: tuple[float | None, ...]
    high: tuple[float | None, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Traces:
    """Channels over common bins: mid-times [s] and distances there [m], shape (bins,)."""

    time_s: tuple[float, ...]
    distance_m: tuple[float, ...] | None
    channels: tuple[Channel, ...]


def _energy_left(test: RangeTest, result: Result) -> Callable[[FloatArray], FloatArray] | None:
    """Energy left [-] as a function of time [s]; None when the energy is not known."""
    line, usable = result.energy_line, result.pack.usable_energy_wh
    used = result.energy_used_fraction
    if line is None or usable is None or used is None or line.span == 0:
        return None
    # A ride that began part empty starts below the full mark.
    began = result.started_fraction
    start = min(began.value, 1.0) if began is not None else 1.0
    total_wh = result.energy.value if result.energy is not None else line.span

    charged = _charged(test, result)

    def left(time_s: FloatArray) -> FloatArray:
        share = line.at(time_s) / line.span * total_wh / usable.value
        return np.clip(start - share + charged(time_s), 0.0, 1.0)

    return left


def _charged(test: RangeTest, result: Result) -> Callable[[FloatArray], FloatArray]:
    """What had been charged on the way by a time, as a share of the usable energy [-]."""
    charges, usable = charges_of(test, result.ride), result.pack.usable_energy_wh
    if charges is None or usable is None:
        return np.zeros_like
    factor = next((item.value for item in result.inputs if item.name == "charged"), 1.0)
    shares = factor * charges.energy_wh / usable.value
    return lambda time_s: ((time_s[:, None] >= charges.time_s - 1e-6) * shares).sum(axis=1)


def strip_of(test: RangeTest, result: Result) -> Strip:
    """The tideline of a test."""
    track = result.distance_line
    left = _energy_left(test, result)
    distance: FloatArray = np.zeros(0)
    levels: FloatArray = np.zeros(0)
    marks: list[Mark] = []
    if track is not None:
        if left is not None:
            time = _even_times(track.time_s, track.total, result.ride.start_s, result.ride.end_s)
            distance, levels = track.at(time), left(time)
        for entry in test.entries:
            at = np.array([min(entry.time_s, result.ride.end_s)])
            volts = (
                entry.voltage_rest_v if entry.voltage_rest_v is not None else entry.voltage_load_v
            )
            marks.append(
                Mark(
                    distance_m=float(track.at(at)[0]),
                    time_s=entry.time_s,
                    kind=entry.kind,
                    energy_left=float(left(at)[0]) if left is not None else None,
                    voltage_v=volts,
                )
            )
    cutoff = result.range_to_cutoff
    # What was charged on the way carries the ride so much further than one pack.
    further = 1 + float(_charged(test, result)(np.array([result.ride.end_s]))[0])
    return Strip(
        distance_m=tuple(distance.tolist()),
        energy_left=tuple(levels.tolist()),
        marks=tuple(marks),
        ridden_m=result.distance.value if result.distance is not None else None,
        cutoff_m=(cutoff.low * further, cutoff.value * further, cutoff.high * further)
        if cutoff is not None
        else None,
        reserve=result.reserve,
        measured=result.range_measured,
    )


def _even_times(time: FloatArray, metres: FloatArray, start_s: float, end_s: float) -> FloatArray:
    """Times at even steps of distance, and the readings themselves where they are few."""
    even = np.interp(np.linspace(metres[0], metres[-1], STRIP_POINTS), metres, time)
    if len(time) < STRIP_POINTS:
        even = np.union1d(even, time)
    return even[(even >= start_s) & (even <= end_s)]


def traces_of(
    samples: pl.DataFrame | None,
    way: Line | None,
    from_s: float | None = None,
    to_s: float | None = None,
) -> Traces | None:
    """Voltage, power, speed and height in bins, for the whole ride or a part; None without samples.

    Parameters
    ----------
    samples : a table as `RangeTest.samples` has it, or a part of one
    way : distance [m] over time; None when not known
    from_s, to_s : the part to show [s]; all there is when None
    """

    if samples is None:
        return None

    def column(name: str) -> FloatArray | None:
        if name not in samples.columns or samples[name].null_count() == samples.height:
            return None
        return samples[name].to_numpy()

    time = column("time_s")
    if time is None or len(time) < 2:
        return None
    begin = float(time[0]) if from_s is None else max(from_s, float(time[0]))
    end = float(time[-1]) if to_s is None else min(to_s, float(time[-1]))
    if end <= begin:
        return None
    first, last = np.searchsorted(time, [begin, end], side="left")
    last = min(int(last) + 1, len(time))
    shown = time[first:last]
    bins = min(TRACE_BINS, max(len(shown), 1))
    edges = np.searchsorted(shown, np.linspace(begin, end, bins + 1)[:-1], side="left")
    middle = begin + (np.arange(bins) + 0.5) * (end - begin) / bins
    volts, amps = column("voltage_v"), column("current_a")
    power = volts * amps if volts is not None and amps is not None else None
    wanted = (
        ("voltage", "V", volts),
        ("power", "W", power),
        ("speed", "m/s", column("speed_mps")),
        ("height", "m", column("altitude_m")),
    )
    channels = [
        _binned(name, unit, values[first:last], edges)
        for name, unit, values in wanted
        if values is not None
    ]
    return Traces(
        time_s=tuple(middle.tolist()),
        distance_m=tuple(way.at(middle).tolist()) if way is not None else None,
        channels=tuple(channels),
    )


def _binned(name: str, unit: str, values: FloatArray, edges: NDArray[np.int64]) -> Channel:
    known = ~np.isnan(values)
    if known.all():
        counts = np.diff(np.append(edges, len(values)))
        parts = values
        starts = edges
    else:
        positions = np.concatenate([[0], np.cumsum(known)])
        starts = positions[edges]
        parts = values[known]
        counts = np.diff(np.append(starts, len(parts)))
    filled = counts > 0
    low, mean, high = (np.full(len(edges), np.nan) for _ in range(3))
    if filled.any():
        at = starts[filled]
        low[filled] = np.minimum.reduceat(parts, at)
        high[filled] = np.maximum.reduceat(parts, at)
        mean[filled] = np.add.reduceat(parts, at) / counts[filled]
    return Channel(
        name=name, unit=unit, low=_optional(low), mean=_optional(mean), high=_optional(high)
    )


def _optional(values: FloatArray) -> tuple[float | None, ...]:
    # Five significant figures are more than a pixel shows, and half the bytes to send.
    return tuple(None if np.isnan(value) else float(f"{value:.5g}") for value in values)
