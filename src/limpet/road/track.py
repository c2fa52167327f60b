"""A track of places and heights into a route of legs."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.errors import OutOfRangeError
from limpet.road.geodesic import bearings_deg, step_lengths_m
from limpet.road.heights import HYSTERESIS_GPS_M, ascent_m, kept_points, smoothed, without_noise
from limpet.road.kinds import Surface
from limpet.road.route import STEEPEST, Leg, Route

FloatArray = NDArray[np.float64]

#: Grid on which heights are smoothed [m].
GRID_M = 10.0
#: A track with at least this share of heights is filled between them, below it counts as without
#: heights [-] (assumption).
LEAST_HEIGHTS = 0.5
#: How far a leg's straight line may leave the track [m] (assumption: wind cares for less).
PLAN_TOLERANCE_M = 40.0
#: Two fixes further apart than this, and than 50 usual steps, are a jump [m] (assumption).
JUMP_M = 1000.0
#: Points kept for the drawing of the path.
DRAWN_POINTS = 400


@dataclass(frozen=True, slots=True, kw_only=True)
class Track:
    """A route from a track, with its profile and its path for drawing.

    `distance_m`, `height_m` (cleaned; zeros where `has_heights` is False), `east_m` and `north_m`
    (from the start) are of shape (n,).
    """

    route: Route
    distance_m: FloatArray
    height_m: FloatArray
    east_m: FloatArray
    north_m: FloatArray
    ascent_m: float
    descent_m: float
    has_heights: bool
    heights_filled: float


def track_of(
    latitude_deg: FloatArray,
    longitude_deg: FloatArray,
    altitude_m: FloatArray,
    *,
    surface: Surface = "smooth_paved",
    hysteresis_m: float = HYSTERESIS_GPS_M,
) -> Track:
    """A track cleaned and cut into legs.

    Parameters
    ----------
    latitude_deg, longitude_deg : of the points [deg], shape (n,)
    altitude_m : their heights, NaN where not known [m], shape (n,)
    surface : of the whole way
    hysteresis_m : what a climb must exceed to count [m]; also what is straightened out

    Raises
    ------
    OutOfRangeError
        For a track of one place or none, one with a jump, or one steeper than any road.

    Notes
    -----
    Heights are put on a 10 m grid, smoothed (standard deviation 40 m), freed of swings under the
    hysteresis and straightened to a polyline within half of it; legs end where that or the path
    bends.
    """
    steps = step_lengths_m(latitude_deg, longitude_deg)
    _refuse_jumps(steps)
    moving = np.concatenate([[True], steps > 0])
    latitude, longitude, altitude = (
        values[moving] for values in (latitude_deg, longitude_deg, altitude_m)
    )
    steps = steps[steps > 0]
    total = float(steps.sum())
    if total < 1:
        raise OutOfRangeError(
            f"the route is {total:.1f} m long; a route needs two places at least 1 m apart"
        )
    along = np.concatenate([[0.0], np.cumsum(steps)])
    cells = max(int(np.ceil(total / GRID_M)), 1)
    grid = np.linspace(0.0, total, cells + 1)
    spacing = total / cells
    known = ~np.isnan(altitude)
    has_heights = bool(known.mean() >= LEAST_HEIGHTS)
    height = np.zeros_like(grid)
    if has_heights:
        raw = smoothed(grid, np.interp(grid, along[known], altitude[known]), spacing)
        height = without_noise(raw, hysteresis_m)
    east, north = _plan(latitude, longitude, along, grid)
    corners = np.union1d(
        kept_points(grid, height, hysteresis_m / 2),
        kept_points(grid, np.stack([east, north], axis=1), PLAN_TOLERANCE_M),
    )
    legs = _legs(grid[corners], height[corners], east[corners], north[corners], surface)
    profile = np.interp(grid, grid[corners], height[corners])
    climb, descent = ascent_m(height, hysteresis_m)
    drawn = np.unique(np.linspace(0, cells, min(DRAWN_POINTS, cells + 1)).astype(int))
    return Track(
        route=Route(legs=legs),
        distance_m=grid[drawn],
        height_m=profile[drawn],
        east_m=east[drawn],
        north_m=north[drawn],
        ascent_m=climb,
        descent_m=descent,
        has_heights=has_heights,
        heights_filled=float(1 - known.mean()) if has_heights else 1.0,
    )


def _refuse_jumps(steps: FloatArray) -> None:
    if len(steps) == 0:
        return
    usual = float(np.median(steps))
    worst = int(np.argmax(steps))
    if len(steps) > 3 and steps[worst] > max(JUMP_M, 50 * usual):
        raise OutOfRangeError(
            f"the route jumps {steps[worst] / 1000:.1f} km between points {worst + 1} and "
            f"{worst + 2}, where its points are {usual:.0f} m apart; remove the stray point, or "
            "export the two parts as two routes"
        )


def _plan(
    latitude: FloatArray, longitude: FloatArray, along: FloatArray, grid: FloatArray
) -> tuple[FloatArray, FloatArray]:
    """East and north of the start [m] on the grid, by adding up the steps."""
    bearing = np.radians(bearings_deg(latitude, longitude))
    steps = np.diff(along)
    east = np.concatenate([[0.0], np.cumsum(steps * np.sin(bearing))])
    north = np.concatenate([[0.0], np.cumsum(steps * np.cos(bearing))])
    return np.interp(grid, along, east), np.interp(grid, along, north)


def _legs(
    along: FloatArray, height: FloatArray, east: FloatArray, north: FloatArray, surface: Surface
) -> tuple[Leg, ...]:
    legs = []
    bearing = np.degrees(np.arctan2(np.diff(east), np.diff(north))) % 360
    for index, (length, rise) in enumerate(zip(np.diff(along), np.diff(height), strict=True)):
        if abs(rise) > STEEPEST * length:
            raise OutOfRangeError(
                f"the route's height changes {abs(rise):.0f} m within {length:.0f} m near "
                f"{along[index] / 1000:.2f} km; check whether its heights are in feet, or leave "
                "them out"
            )
        legs.append(
            Leg(
                length_m=float(length),
                climb_m=float(max(rise, 0.0)),
                descent_m=float(max(-rise, 0.0)),
                bearing_deg=float(bearing[index]),
                surface=surface,
                even=True,
            )
        )
    return tuple(legs)
