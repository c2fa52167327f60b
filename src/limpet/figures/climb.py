"""Climb and descent of a ride, counted with a hysteresis."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.read.height_difference import noted_climb_m
from limpet.read.line import Line
from limpet.read.window import RideWindow
from limpet.road.heights import HYSTERESIS_BAROMETRIC_M, HYSTERESIS_GPS_M, ascent_m, smoothed

FloatArray = NDArray[np.float64]

#: Heights are smoothed on a grid of this spacing, of so many points at most [m].
GRID_M, MOST_POINTS = 10.0, 40_000
#: A height that wanders less than this between neighbours is a barometer's [m] (assumption).
QUIET_M = 0.4
#: So many heights at least make a profile.
LEAST_HEIGHTS = 20
#: So many laps have a mean at each place.
LEAST_LAPS = 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Climb:
    """Ascent and descent [m], and the hysteresis that they were counted with [m]."""

    ascent_m: float
    descent_m: float
    hysteresis_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Profile:
    """Heights along the way on an even grid [m], shape (n,), and their hysteresis [m]."""

    distance_m: FloatArray
    height_m: FloatArray
    hysteresis_m: float

    def grade(self) -> FloatArray:
        """Rise over run [-] of each piece, shape (n - 1,)."""
        return np.diff(self.height_m) / np.diff(self.distance_m)

    def climb(self, from_m: float, to_m: float) -> float:
        """Ascent within a part of the way [m]."""
        inside = (self.distance_m >= from_m) & (self.distance_m <= to_m)
        return ascent_m(self.height_m[inside], self.hysteresis_m)[0] if inside.sum() > 1 else 0.0


def profile_of(test: RangeTest, ride: RideWindow, way: Line | None) -> Profile | None:
    """Logged heights, smoothed over 40 m of road; None where there are none.

    On counted laps the heights of each place are averaged first: a barometer's drift is no climb.

    Parameters
    ----------
    test : with logged heights
    ride : the window
    way : metres over time; None where nothing tells
    """
    if way is None or way.span < 4 * GRID_M:
        return None
    logged = test.log.thinned("altitude_m", from_s=ride.start_s, until_s=ride.end_s)
    if logged is None or len(logged[0]) < LEAST_HEIGHTS:
        return None
    time, here = logged
    at = way.at(time)
    moved = np.concatenate([[True], np.diff(at) > 0])
    at, here = at[moved], here[moved]
    if len(at) < 4:
        return None
    count = int(min(max((at[-1] - at[0]) / GRID_M, 4), MOST_POINTS))
    grid = np.linspace(at[0], at[-1], count)
    even = np.interp(grid, at, here)
    spacing = float(grid[1] - grid[0])
    lap_m = lap_in_the_log_m(test, way)
    if lap_m is not None and grid[-1] - grid[0] >= LEAST_LAPS * lap_m > 4 * spacing:
        even = by_place(grid - grid[0], even, lap_m)
    jitter = float(np.median(np.abs(np.diff(here, 2)))) if len(here) > 4 else 0.0
    hysteresis = HYSTERESIS_BAROMETRIC_M if jitter < QUIET_M else HYSTERESIS_GPS_M
    return Profile(distance_m=grid, height_m=smoothed(grid, even, spacing), hysteresis_m=hysteresis)


def lap_in_the_log_m(test: RangeTest, way: Line) -> float | None:
    """Length of a lap as the logged distance has it [m]; None where laps were not counted.

    It is not the measured length: wheel and track have scales of their own.
    """
    counted = [(e.time_s, e.laps) for e in test.entries if e.laps is not None]
    if len(counted) < 2:
        return None
    (first_s, first), (last_s, last) = counted[0], counted[-1]
    if first is None or last is None or last - first < LEAST_LAPS:
        return None
    return way.between(first_s, last_s) / (last - first)


def by_place(along_m: FloatArray, height_m: FloatArray, lap_m: float) -> FloatArray:
    """Heights as the mean of all laps at the same place, shape (n,).

    Parameters
    ----------
    along_m, height_m : of an even grid from the first lap's start [m], shape (n,)
    """
    laps = int(along_m[-1] // lap_m)
    places = np.linspace(0.0, lap_m, max(int(lap_m / GRID_M), 4), endpoint=False)
    mean = np.mean([np.interp(places + k * lap_m, along_m, height_m) for k in range(laps)], axis=0)
    return np.interp(along_m % lap_m, places, mean, period=lap_m)


def noted_climb(test: RangeTest, ride: RideWindow) -> Climb | None:
    """Climb and descent as a display counted them, with whatever hysteresis it has."""
    noted = noted_climb_m(test, ride)
    return None if noted is None else Climb(ascent_m=noted[0], descent_m=noted[1], hysteresis_m=0.0)


def climb_of(profile: Profile | None) -> Climb | None:
    """Climb and descent of a profile: 3 m of hysteresis for a barometer, 10 m for a receiver.

    Parameters
    ----------
    profile : smoothed heights [m] over the way [m]; None passes through
    """
    if profile is None:
        return None
    up, down = ascent_m(profile.height_m, profile.hysteresis_m)
    return Climb(ascent_m=up, descent_m=down, hysteresis_m=profile.hysteresis_m)
