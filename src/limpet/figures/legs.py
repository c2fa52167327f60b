"""Pieces of a ride: between entries, by lap, by mode, by speed held and by grade."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.figures.climb import Profile
from limpet.quantity import Quantity
from limpet.read.line import Estimate, Line
from limpet.read.where_read import WhereRead, energy_read_at
from limpet.read.window import RideWindow
from limpet.units import METRES_PER_KM

FloatArray = NDArray[np.float64]
By = Literal["entry", "lap", "mode", "speed", "grade"]

#: So many legs of a kind at most; a leg shorter than this says nothing [m].
MOST_LEGS, LEAST_M = 60, 50.0
#: Bands of speed [m/s] and of grade [-]; the outer ones are open.
SPEED_EDGES = (2.0, 4.0, 6.0, 8.0, 11.0, 15.0, 20.0)
GRADE_EDGES = (-0.04, -0.015, 0.015, 0.04)
#: Stretches over which samples are put into bands [m].
BAND_M = 50.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Leg:
    """A piece of a ride. `from_m`, `to_m` are None where it is scattered along the way."""

    by: By
    name: str
    from_m: float | None
    to_m: float | None
    distance_m: float
    energy: Quantity
    wh_per_km: Quantity
    ascent_m: float | None
    mean_speed_mps: float | None


def legs_of(
    test: RangeTest,
    ride: RideWindow,
    energy: Estimate | None,
    way: Line | None,
    profile: Profile | None,
) -> tuple[Leg, ...]:
    """All legs of a ride whose energy was metered; empty where it was not.

    Notes
    -----
    An energy that is known only as a whole says nothing of its parts: a leg begins and ends where the meter
    was read. Marks between two readings are one leg, named by its last; a mode whose beginning or end nobody
    read has none.
    """
    if energy is None or way is None or not energy.gains:
        return ()
    read = energy_read_at(test, ride, energy.method)
    make = _maker(energy, way, profile, read)
    return (
        *_between(ride, _entry_marks(test), "entry", make),
        *_laps(test, ride, make),
        *_modes(test, ride, make),
        *_bands(test, ride, energy, way, profile),
    )


_Maker = Callable[[By, str, float, float], Leg | None]


def _maker(energy: Estimate, way: Line, profile: Profile | None, read: WhereRead) -> _Maker:
    relative = energy.quantity.relative

    def make(by: By, name: str, from_s: float, to_s: float) -> Leg | None:
        metres, watt_hours = way.between(from_s, to_s), energy.line.between(from_s, to_s)
        if metres < LEAST_M or to_s <= from_s or not (read.at(from_s) and read.at(to_s)):
            return None
        ends = way.at(np.array([from_s, to_s]))
        return Leg(
            by=by,
            name=name,
            from_m=float(ends[0]),
            to_m=float(ends[1]),
            distance_m=metres,
            energy=_around(watt_hours, "Wh", relative),
            wh_per_km=_around(watt_hours / metres * METRES_PER_KM, "Wh/km", relative),
            ascent_m=None if profile is None else profile.climb(float(ends[0]), float(ends[1])),
            mean_speed_mps=metres / (to_s - from_s),
        )

    return make


def _around(value: float, unit: str, relative: float) -> Quantity:
    return Quantity.of(value, unit, abs(relative * value))


def _entry_marks(test: RangeTest) -> list[tuple[float, str]]:
    return [(entry.time_s, entry.note or entry.kind) for entry in test.entries]


def _laps(test: RangeTest, ride: RideWindow, make: _Maker) -> list[Leg]:
    """One leg for each lap, or for as many as were ridden between two readings."""
    ends = [entry.time_s for entry in test.entries if entry.kind == "lap"]
    found: list[Leg] = []
    before, first = ride.start_s, 1
    for number, at in enumerate(ends, start=1):
        if at > ride.end_s or len(found) == MOST_LEGS:
            break
        name = f"lap {number}" if first == number else f"laps {first} to {number}"
        leg = make("lap", name, before, at)
        if leg is not None:
            found.append(leg)
            before, first = at, number + 1
    return found


def _between(ride: RideWindow, marks: list[tuple[float, str]], by: By, make: _Maker) -> list[Leg]:
    """One leg to each mark, from the one before it."""
    found: list[Leg] = []
    before = ride.start_s
    for at, name in marks:
        if at > ride.end_s:
            break
        leg = make(by, name[:100], before, at)
        if leg is not None:
            found.append(leg)
            before = at
        if len(found) == MOST_LEGS:
            break
    return found


def _modes(test: RangeTest, ride: RideWindow, make: _Maker) -> list[Leg]:
    """One leg for each stretch ridden in a mode that an entry names."""
    named = [(entry.time_s, entry.mode) for entry in test.entries if entry.mode]
    if len({mode for _, mode in named}) < 2:
        return []
    # Who notes the mode at every stop has not changed it.
    named = [item for k, item in enumerate(named) if k == 0 or item[1] != named[k - 1][1]]
    found: list[Leg] = []
    ends = [at for at, _ in named[1:]] + [ride.end_s]
    for (begin, mode), end in zip(named, ends, strict=True):
        leg = make("mode", mode[:100], max(begin, ride.start_s), min(end, ride.end_s))
        if leg is not None and len(found) < MOST_LEGS:
            found.append(leg)
    return found


def _bands(
    test: RangeTest, ride: RideWindow, energy: Estimate, way: Line, profile: Profile | None
) -> list[Leg]:
    """Stretches of even length, gathered by the speed held and by the grade."""
    if test.column("current_a") is None or way.span < 4 * BAND_M:
        return []
    count = int(min(way.span / BAND_M, 20_000))
    edges_m = np.linspace(0.0, way.span, count + 1)
    # Where the way stands still the time of a place is its last.
    keep = np.concatenate([np.diff(way.total) > 0, [True]])
    at_s = np.interp(edges_m, way.total[keep], way.time_s[keep])
    metres, seconds = np.diff(edges_m), np.diff(at_s)
    watt_hours = np.diff(energy.line.at(at_s))
    found: list[Leg] = []
    speed = np.where(seconds > 0, metres / np.maximum(seconds, 1e-6), 0.0)
    found += _gathered(
        "speed", speed, SPEED_EDGES, metres, seconds, watt_hours, energy.quantity.relative
    )
    if profile is not None:
        middle = (edges_m[1:] + edges_m[:-1]) / 2
        at = (profile.distance_m[1:] + profile.distance_m[:-1]) / 2
        grade = np.interp(middle, at, profile.grade())
        found += _gathered(
            "grade", grade, GRADE_EDGES, metres, seconds, watt_hours, energy.quantity.relative
        )
    return found


def _gathered(
    by: By,
    values: FloatArray,
    edges: tuple[float, ...],
    metres: FloatArray,
    seconds: FloatArray,
    watt_hours: FloatArray,
    relative: float,
) -> list[Leg]:
    band = np.searchsorted(edges, values)
    found = []
    for number in range(len(edges) + 1):
        mine = band == number
        total_m, total_s = float(metres[mine].sum()), float(seconds[mine].sum())
        if total_m < 4 * LEAST_M:
            continue
        total_wh = float(watt_hours[mine].sum())
        low = None if number == 0 else edges[number - 1]
        high = None if number == len(edges) else edges[number]
        found.append(
            Leg(
                by=by,
                name=band_name(low, high),
                from_m=None,
                to_m=None,
                distance_m=total_m,
                energy=_around(total_wh, "Wh", relative),
                wh_per_km=_around(total_wh / total_m * METRES_PER_KM, "Wh/km", relative),
                ascent_m=None,
                mean_speed_mps=total_m / total_s if total_s > 0 else None,
            )
        )
    return found


def band_name(low: float | None, high: float | None) -> str:
    """The bounds of a band in the core's unit, as a name: "2..4", "..2", "20..".

    Parameters
    ----------
    low, high : in the core's unit; None for an open end
    """
    left = "" if low is None else f"{low:g}"
    return f"{left}.." if high is None else f"{left}..{high:g}"
