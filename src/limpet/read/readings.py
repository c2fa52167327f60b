"""Every reading of the state of the pack, with its resolution, its settling and where it is from."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.gaps import gap_threshold_s
from limpet.evidence.model import Entry, RangeTest
from limpet.read.line import Line
from limpet.read.window import RideWindow

FloatArray = NDArray[np.float64]

#: A logger's current below this share of the 1-hour rate counts as rest [-] (assumption).
REST_RATE = 0.01
#: Samples at rest for at least this long make a resting reading [s] (assumption).
REST_HOLD_S = 5.0
#: So many stretches of samples, and so many readings of each kind, tell what more would.
STRETCHES, LONGEST_RESTS = 8, 6
MOST_READINGS = 16
#: A pack that nobody rode settles for hours; a reading this long after the end is of another day [s].
LONGEST_SETTLE_S = 4 * 3600.0
#: Finest steps that a display may have, coarsest first.
_STEPS = (1.0, 0.5, 0.2, 0.1, 0.05, 0.02, 0.01, 0.001)

_HALTS = ("stop", "end", "settle")

Kind = Literal["rest", "load", "gauge", "shown"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """One reading of the pack's state.

    `value` in volts, or as the gauge shows it; `step` of the display; `current_a` while it was read,
    None where nobody says; `settled_s` since the last load, None under load; `pack` of several, where
    somebody says; `fresh` of a pack just put in; `at_start_of` the pack (from 0) that it opens.
    """

    kind: Kind
    time_s: float
    value: float
    step: float
    source: Literal["entry", "samples"]
    current_a: float | None = None
    settled_s: float | None = None
    pack: int | None = None
    fresh: bool = False
    at_start_of: int | None = None


#: A read-out that stands still while this was ridden is frozen: what it showed first counts [m] (assumption).
FROZEN_M = 1500.0


def shown_ranges_read(test: RangeTest, ride: RideWindow, way: Line | None) -> list[Reading]:
    """What the display promised on a ride that goes on, as readings of the pack's state [m].

    Parameters
    ----------
    way : distance over time [m]

    Notes
    -----
    A read-out that shows the same while the ride went on is frozen, and says nothing new.
    """
    if way is None:
        return []
    found: list[Reading] = []
    since_m = 0.0
    for entry in test.entries:
        if entry.shown_range_m is None or entry.time_s > ride.end_s:
            continue
        at_m = float(way.at(np.array([entry.time_s]))[0])
        frozen = found and found[-1].value == entry.shown_range_m and at_m - since_m > FROZEN_M
        if not frozen and entry.shown_range_m > 0:
            since_m = at_m
            found.append(
                Reading(
                    kind="shown",
                    time_s=entry.time_s,
                    value=entry.shown_range_m,
                    step=1.0,
                    source="entry",
                )
            )
    return found[-MOST_READINGS:]


def gauge_steps(test: RangeTest, gauges: Sequence[Reading]) -> float:
    """What the gauge shows when full: as stated, or 100 where it ever showed more than ten.

    Parameters
    ----------
    test : whose sheet may state it
    gauges : what it showed, shape (n,)
    """
    stated = test.sheet.instruments.gauge if test.sheet.instruments else None
    if stated is not None and stated.steps is not None:
        return float(stated.steps)
    most = max((item.value for item in gauges), default=0.0)
    return 100.0 if most > 10 else max(most, 1.0)


def resolution(values: Sequence[float]) -> float:
    """The step of a display, from what it showed: the coarsest that all values are multiples of."""
    for step in _STEPS:
        if all(
            abs(value / step - round(value / step)) < 1e-6 * max(abs(value / step), 1)
            for value in values
        ):
            return step
    return _STEPS[-1]


def readings(test: RangeTest, ride: RideWindow) -> list[Reading]:
    """All that tells how full the pack was, in the order of time.

    Notes
    -----
    Entries go before samples where both were read at one stop: the rider knew that the throttle was
    closed. More than `MOST_READINGS` of a kind are thinned evenly.
    """
    noted = _noted(test, ride)
    logged = [
        item
        for item in _logged(test, ride)
        if not any(
            abs(item.time_s - other.time_s) < 30 and item.kind == other.kind for other in noted
        )
    ]
    by_kind: dict[str, list[Reading]] = {}
    for item in sorted([*noted, *logged], key=_order):
        by_kind.setdefault(item.kind, []).append(item)
    kept = [item for items in by_kind.values() for item in _thinned(items)]
    return _opening(sorted(kept, key=_order), ride)


def _order(item: Reading) -> tuple[float, str, float]:
    """In time; at one moment by what was read, not by which line it stood in."""
    return item.time_s, item.kind, item.value


def _opening(found: Sequence[Reading], ride: RideWindow) -> list[Reading]:
    """The same, with those marked that tell what a pack began with: volts at rest before a gauge."""
    marked = list(found)
    for number, (begin, end) in enumerate(ride.packs):
        until = begin + 0.01 * (end - begin)
        here = [
            k for k, item in enumerate(found)
            if begin <= item.time_s <= until and item.kind in ("rest", "gauge")
            and (number == 0 or item.fresh or item.time_s > begin)
        ]  # fmt: skip
        rests = [k for k in here if found[k].kind == "rest"]
        if here:
            first = (rests or here)[0]
            marked[first] = replace(found[first], at_start_of=number)
    return marked


def _thinned(items: list[Reading]) -> list[Reading]:
    if len(items) <= MOST_READINGS:
        return items
    rows = np.unique(np.linspace(0, len(items) - 1, MOST_READINGS).round().astype(int))
    return [items[k] for k in rows]


def _noted(test: RangeTest, ride: RideWindow) -> list[Reading]:
    entries = [e for e in test.entries if e.time_s <= ride.end_s + LONGEST_SETTLE_S]
    moved_s = last_motion_s(test, ride)
    all_volts = [v for e in entries for v in (e.voltage_rest_v, e.voltage_load_v) if v is not None]
    shown = [e.gauge for e in entries if e.gauge is not None]
    volt_step, gauge_step = resolution(all_volts), resolution(shown) if shown else 1.0
    found: list[Reading] = []
    lowest = float("inf")
    for entry in entries:
        common: dict[str, Any] = {
            "time_s": entry.time_s,
            "source": "entry",
            "pack": None if entry.pack is None else int(entry.pack),
        }
        if entry.kind == "swap":
            # Volts noted at a swap are of the pack put in where they are not below the last of the old one.
            shown_v = entry.voltage_rest_v
            common["fresh"] = shown_v is not None and shown_v >= lowest
            lowest = float("inf")
        for volts_read in (entry.voltage_rest_v, entry.voltage_load_v):
            lowest = min(lowest, volts_read) if volts_read is not None else lowest
        if entry.voltage_rest_v is not None:
            found.append(
                Reading(
                    kind="rest",
                    value=entry.voltage_rest_v,
                    step=volt_step,
                    settled_s=settled_s(test.entries, entry, ride, moved_s),
                    **common,
                )
            )
        if entry.time_s > ride.end_s + 1e-6:
            continue
        if entry.voltage_load_v is not None:
            found.append(
                Reading(
                    kind="load",
                    value=entry.voltage_load_v,
                    step=volt_step,
                    current_a=entry.current_a,
                    **common,
                )
            )
        if entry.gauge is not None:
            found.append(Reading(kind="gauge", value=entry.gauge, step=gauge_step, **common))
    return found


def settled_s(entries: Sequence[Entry], entry: Entry, ride: RideWindow, moved_s: float) -> float:
    """For how long nothing had pulled before an entry [s], as far as is known; infinite at the start."""
    if entry.time_s <= ride.start_s + 0.01 * (ride.end_s - ride.start_s):
        return float("inf")
    halt: float | None = None
    for other in sorted(entries, key=lambda item: (item.time_s, item.kind in _HALTS)):
        if other.time_s >= entry.time_s:
            break
        if other.kind in _HALTS and (halt is None or other.kind == "stop"):
            # Who stops again has been riding in between.
            halt = other.time_s
        elif other.kind in ("resume", "lap", "checkpoint", "turn"):
            halt = None
    if entry.time_s >= ride.end_s and moved_s < entry.time_s:
        halt = moved_s if halt is None else min(halt, moved_s)
    return 0.0 if halt is None else max(entry.time_s - halt, 0.0)


def last_motion_s(test: RangeTest, ride: RideWindow) -> float:
    """When the wheels last turned in the ride proper, by the samples; its end without them [s]."""
    logged = test.log.known("speed_mps")
    if logged is not None:
        time, speed = logged
        moving = np.flatnonzero(speed > 0.5)
        if len(moving):
            return min(float(time[moving[-1]]), ride.end_s)
    return ride.end_s


def _logged(test: RangeTest, ride: RideWindow) -> list[Reading]:
    logged = test.log.known("voltage_v", "current_a")
    if logged is None or len(logged[0]) < 2:
        return []
    time, volts, amps = logged
    found = _rests(test, ride, time, volts, amps)
    inside = time <= ride.end_s
    found += _stretches(time[inside], volts[inside], amps[inside])
    return found


def _rests(
    test: RangeTest, ride: RideWindow, time: FloatArray, volts: FloatArray, amps: FloatArray
) -> list[Reading]:
    quiet = np.abs(amps) <= max(REST_RATE * test.sheet.pack.rated_ah, 0.15)
    edges = np.diff(np.concatenate([[0], quiet.view(np.int8), [0]]))
    begins, ends = np.flatnonzero(edges == 1), np.flatnonzero(edges == -1) - 1
    found = []
    for first, last in zip(begins.tolist(), ends.tolist(), strict=True):
        rested = float(time[last] - time[first])
        at_start = first == 0
        if time[first] > ride.end_s + 1 or (rested < REST_HOLD_S and not at_start):
            continue
        found.append(
            Reading(
                kind="rest",
                time_s=float(time[last]),
                value=float(volts[last]),
                step=0.01,
                settled_s=float("inf") if at_start else rested,
                source="samples",
            )
        )
    return sorted(found, key=lambda item: -(item.settled_s or 0))[:LONGEST_RESTS]


def _stretches(time: FloatArray, volts: FloatArray, amps: FloatArray) -> list[Reading]:
    """Mean volts and amps of stretches of even charge: what the pack shows under load."""
    steps = np.diff(time)
    steps = np.where(steps > gap_threshold_s(time), 0.0, steps)
    charge = np.concatenate([[0.0], np.cumsum(np.maximum((amps[1:] + amps[:-1]) / 2, 0.0) * steps)])
    if charge[-1] <= 0 or len(time) < 4 * STRETCHES:
        return []
    weight = np.concatenate([steps, [0.0]]) * (amps > 0)
    bounds = np.searchsorted(charge, np.linspace(0, charge[-1], STRETCHES + 1))
    found = []
    for first, last in zip(bounds[:-1].tolist(), bounds[1:].tolist(), strict=True):
        part = weight[first:last]
        # A mean over amp-hours: the state is that of its middle.
        by_charge = part * amps[first:last]
        total = float(by_charge.sum())
        if total <= 0 or last - first < 3:
            continue
        middle = int(
            np.searchsorted(charge, 0.5 * (charge[first] + charge[min(last, len(charge) - 1)]))
        )
        found.append(
            Reading(
                kind="load",
                time_s=float(time[middle]),
                value=float(part @ volts[first:last] / part.sum()),
                current_a=float(part @ amps[first:last] / part.sum()),
                step=0.01,
                source="samples",
            )
        )
    return found
