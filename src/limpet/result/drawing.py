"""The tideline, thinned to what a screen can show."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import EntryKind, RangeTest
from limpet.result.charges import charges_of
from limpet.result.line import Line
from limpet.result.model import Result

FloatArray = NDArray[np.float64]

#: Points of a tideline: more than a wide screen has pixels is waste.
STRIP_POINTS = 240


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
