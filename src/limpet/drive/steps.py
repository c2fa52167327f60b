"""A route cut into the steps that the walk takes."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from math import ceil
from typing import Any, Self

import numpy as np
from numpy.typing import NDArray

from limpet.road import SURFACE_FACTOR, Leg, Route

FloatArray = NDArray[np.float64]

#: A leg that turns through every direction is cut into so many bearings.
BEARINGS = 8
#: Roads climb at such grades, half of the height at each, and are flat between (assumption of the
#: handbook, 4 to 6% ±2).
REAL_GRADES = (0.035, 0.065)
#: A millimetre up is no climb [m].
LEAST_RISE_M = 1e-3


@dataclass(frozen=True, slots=True, kw_only=True)
class Steps:
    """A route in steps; every array of shape (n,).

    `grade` sin θ; `surface`, `surface_std` the factor on C_rr and its u; `sin_bearing`,
    `cos_bearing` 0 where the bearing is not known, and `unknown` then ±1 (the way back is -1);
    `speed_mps` NaN where the ride's own speed holds; `stops` and
    `slowings` how many of them lie in a step.
    """

    length_m: FloatArray
    grade: FloatArray
    surface: FloatArray
    surface_std: FloatArray
    sin_bearing: FloatArray
    cos_bearing: FloatArray
    unknown: FloatArray
    speed_mps: FloatArray
    stops: FloatArray
    slowings: FloatArray
    out_steps: int | None

    def __len__(self) -> int:
        return len(self.length_m)

    def times(self, count: int) -> Self:
        """The same steps ridden a number of times in a row; where the way back begins is of the first."""
        tiled: dict[str, Any] = {
            item.name: np.tile(getattr(self, item.name), count)
            for item in fields(self)
            if item.name != "out_steps"
        }
        return replace(self, **tiled)

    @property
    def total_m(self) -> float:
        """Length of the route [m]."""
        return float(self.length_m.sum())


def steps_of(route: Route, longest_m: float, slowings_per_km: float = 0.0) -> Steps:
    """Steps no longer than a given length; within a leg all of one climb are alike.

    Parameters
    ----------
    longest_m : no step is longer [m]
    slowings_per_km : what traffic adds [1/km]
    """
    rows: list[tuple[float, ...]] = []
    out_steps: int | None = None
    for number, leg in enumerate(route.legs):
        if route.out_legs is not None and number == route.out_legs:
            out_steps = len(rows)
        back = -1.0 if route.out_legs is not None and number >= route.out_legs else 1.0
        rows += _rows(leg, longest_m, back, slowings_per_km)
    table = np.array(rows, dtype=np.float64)
    return Steps(
        length_m=table[:, 0],
        grade=table[:, 1],
        surface=table[:, 2],
        surface_std=table[:, 3],
        sin_bearing=table[:, 4],
        cos_bearing=table[:, 5],
        unknown=table[:, 6],
        speed_mps=table[:, 7],
        stops=table[:, 8],
        slowings=table[:, 9],
        out_steps=out_steps,
    )


def _rows(
    leg: Leg, longest_m: float, back: float, slowings_per_km: float
) -> list[tuple[float, ...]]:
    factor, factor_std = SURFACE_FACTOR[leg.surface]
    speed = np.nan if leg.speed_mps is None else leg.speed_mps
    rows: list[tuple[float, ...]] = []
    along = 0.0
    for length, rise in _slopes(leg):
        pieces = ceil(length / longest_m)
        if leg.winding:
            pieces = max(BEARINGS * ceil(pieces / BEARINGS), BEARINGS)
        step = length / pieces
        for piece in range(pieces):
            if leg.winding:
                angle = 2 * np.pi * (piece % BEARINGS + 0.5) / BEARINGS
                sin, cos, unknown = np.sin(angle), np.cos(angle), 0.0
            elif leg.bearing_deg is None:
                sin, cos, unknown = 0.0, 0.0, back
            else:
                angle = np.radians(leg.bearing_deg)
                sin, cos, unknown = np.sin(angle), np.cos(angle), 0.0
            stops = _stops_before(leg, along + step) - _stops_before(leg, along)
            along += step
            rows.append(
                (
                    step, rise / length, factor, factor_std, sin, cos, unknown, speed,
                    stops, slowings_per_km * step / 1000,
                )
            )  # fmt: skip
    return rows


def _stops_before(leg: Leg, metres: float) -> float:
    """Stops up to a place. They lie evenly along a leg: on a slope one costs more than on the flat."""
    count = ceil(leg.stops)
    if count == 0:
        return 0.0
    # The k-th of them lies at (k + ½)/count; the last may be a part of one.
    passed = min(max(ceil(metres * count / leg.length_m - 0.5), 0), count)
    return float(passed) if passed < count else leg.stops


def _slopes(leg: Leg) -> list[tuple[float, float]]:
    """(length, rise) of the parts of a leg that go one way: up first, then flat, then down.

    Where a leg is too short for real grades, or its climb is known to lie along all of it, it goes
    evenly.
    """
    if max(leg.climb_m, leg.descent_m) < LEAST_RISE_M:
        return [(leg.length_m, 0.0)]
    up = [(leg.climb_m / 2 / grade, leg.climb_m / 2) for grade in REAL_GRADES]
    down = [(leg.descent_m / 2 / grade, -leg.descent_m / 2) for grade in REAL_GRADES]
    flat_m = leg.length_m - sum(length for length, _ in (*up, *down))
    if not leg.even and flat_m > 0:
        parts = [*up, (flat_m, 0.0), *down]
        return [part for part in parts if part[0] > 0]
    parts = [
        (abs(rise), rise) for rise in (leg.climb_m, -leg.descent_m) if abs(rise) >= LEAST_RISE_M
    ]
    both = sum(share for share, _ in parts)
    return [(leg.length_m * share / both, rise) for share, rise in parts]
