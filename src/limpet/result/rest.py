"""Resting voltages and resistance: what the pack said when nothing pulled."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from limpet.assumptions import SETTLE_S
from limpet.evidence.model import RangeTest
from limpet.pack import assumed_resistance_ohm
from limpet.result.window import RideWindow

#: A logger's current below this share of the 1-hour rate counts as rest [-] (assumption).
REST_RATE = 0.01
#: Samples at rest for at least this long make a resting reading [s] (assumption).
REST_HOLD_S = 5.0


@dataclass(frozen=True, slots=True, kw_only=True)
class RestReading:
    """A resting pack voltage [V], when it was read [s] and whether it had settled."""

    time_s: float
    voltage_v: float
    settled: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Resistance:
    """Resistance of all packs together as ridden [Ω], its u [Ω] and where it came from."""

    ohm: float
    std_ohm: float
    measured: bool


def first_and_last_rest(
    test: RangeTest, ride: RideWindow
) -> tuple[RestReading | None, RestReading | None]:
    """The first resting voltage of a test and the last one of the ride proper.

    Notes
    -----
    Entries go before samples: the rider knew that the throttle was closed. The last reading may
    come after the ride's end, when the pack has settled, unless limp distance lies between.
    """
    time, volts = test.readings("voltage_rest_v")
    if len(time) > 0:
        moved = _last_motion_s(test, ride)
        usable = time <= max(ride.end_s, moved + 4 * 3600.0)
        time, volts = time[usable], volts[usable]
    readings = [
        RestReading(time_s=float(t), voltage_v=float(v), settled=_settled(test, float(t), ride))
        for t, v in zip(time, volts, strict=True)
    ]
    first = readings[0] if readings and _at_start(readings[0].time_s, ride) else None
    last = readings[-1] if len(readings) > 1 and _at_end(readings[-1].time_s, ride) else None
    if first is not None and last is not None:
        return first, last
    from_samples = _rest_in_samples(test, ride)
    return first or from_samples[0], last or from_samples[1]


def pack_resistance(test: RangeTest) -> Resistance:
    """Resistance as ridden: (resting − loaded)/I of the entries, or assumed from the cells.

    Notes
    -----
    The median over the entries that give all three, u = 20 % (assumption: hand readings of an
    unsteady current); without any, 0.12 Ω·Ah per cell group ± 50 % (assumption).
    """
    found = [
        (entry.voltage_rest_v - entry.voltage_load_v) / entry.current_a
        for entry in test.entries
        if entry.voltage_rest_v is not None
        and entry.voltage_load_v is not None
        and entry.current_a is not None
        and entry.current_a > 0
        and entry.voltage_rest_v > entry.voltage_load_v
    ]
    if found:
        ohm = float(np.median(found))
        return Resistance(ohm=ohm, std_ohm=0.2 * ohm, measured=True)
    in_parallel = 1 if any(e.kind == "swap" for e in test.entries) else test.sheet.packs_used or 1
    ohm = assumed_resistance_ohm(test.sheet.pack) / in_parallel
    return Resistance(ohm=ohm, std_ohm=0.5 * ohm, measured=False)


def _at_start(time_s: float, ride: RideWindow) -> bool:
    return time_s <= ride.start_s + 0.05 * (ride.end_s - ride.start_s)


def _at_end(time_s: float, ride: RideWindow) -> bool:
    return time_s >= ride.end_s - 0.02 * (ride.end_s - ride.start_s)


def _last_motion_s(test: RangeTest, ride: RideWindow) -> float:
    speed, time = test.column("speed_mps"), test.column("time_s")
    if speed is not None and time is not None:
        moving = np.flatnonzero(np.nan_to_num(speed) > 0.5)
        if len(moving):
            return min(float(time[moving[-1]]), ride.end_s)
    return ride.end_s


def _settled(test: RangeTest, time_s: float, ride: RideWindow) -> bool:
    """Whether the pack had ten minutes without load before a reading."""
    if _at_start(time_s, ride):
        return True
    halt_s: float | None = None
    for entry in test.entries:
        if entry.time_s >= time_s:
            break
        if entry.kind in ("stop", "end") and halt_s is None:
            halt_s = entry.time_s
        elif entry.kind in ("resume", "lap", "checkpoint", "turn"):
            halt_s = None
    if time_s >= ride.end_s and _last_motion_s(test, ride) < time_s:
        halt_s = min(_last_motion_s(test, ride), time_s if halt_s is None else halt_s)
    return halt_s is not None and time_s - halt_s >= SETTLE_S.value


def _rest_in_samples(
    test: RangeTest, ride: RideWindow
) -> tuple[RestReading | None, RestReading | None]:
    time, volts, amps = test.column("time_s"), test.column("voltage_v"), test.column("current_a")
    if time is None or volts is None or amps is None:
        return None, None
    known = ~(np.isnan(volts) | np.isnan(amps))
    time, volts, amps = time[known], volts[known], amps[known]
    quiet = np.abs(amps) <= max(REST_RATE * test.sheet.pack.rated_ah, 0.15)
    first = last = None
    if len(time) and quiet[0]:
        until = int(np.argmin(quiet)) if not quiet.all() else len(quiet)
        if time[until - 1] - time[0] >= REST_HOLD_S or until == 1:
            first = RestReading(
                time_s=float(time[until - 1]), voltage_v=float(volts[0]), settled=True
            )
    if len(time) and quiet[-1] and not quiet.all():
        since = len(quiet) - int(np.argmin(quiet[::-1]))
        rested_s = float(time[-1] - time[since])
        if rested_s >= REST_HOLD_S:
            last = RestReading(
                time_s=float(time[-1]),
                voltage_v=float(volts[-1]),
                settled=rested_s >= SETTLE_S.value,
            )
    return first, last
