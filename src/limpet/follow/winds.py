"""The wind of a ride under way: what was noted late holds from there on, not for what was ridden before."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.evidence.noted import Wind, wind_said, winds_noted
from limpet.follow.course import Course, course_of
from limpet.follow.ways import GivenWay
from limpet.result.line import Line
from limpet.trip import Known, TripConditions

FloatArray = NDArray[np.float64]

#: So many changes count, the last ones; each is a course of its own. Shorter pieces are none [m].
MOST_CHANGES, LEAST_PIECE_M = 3, 200.0

#: Up to where [m] a day was as it was.
Behind = list[tuple[float, TripConditions]]


def with_winds(
    seen: RangeTest, way: GivenWay, line: Line | None, done_m: float
) -> tuple[GivenWay, Behind]:
    """A way with the wind of now, and the pieces that were ridden in another.

    A plan's wind is what it was until somebody noted another; without a plan it is the sheet's.
    """
    noted = winds_noted(seen)
    if not noted:
        return way, []
    air = way.trip.conditions
    begun = air if way.stated else _in(air, wind_said(seen))
    now = replace(way, trip=replace(way.trip, conditions=_in(air, noted[-1][1])))
    if line is None:
        return now, []
    places = np.clip(line.at(np.array([time_s for time_s, _ in noted])), 0.0, done_m)
    days = [begun, *(_in(air, wind) for _, wind in noted[:-1])]
    behind: Behind = []
    for until_m, day in list(zip(places, days, strict=True))[-MOST_CHANGES:]:
        since_m = behind[-1][0] if behind else 0.0
        if until_m - since_m >= LEAST_PIECE_M:
            behind.append((float(until_m), day))
    return now, behind


def ridden_wh(way: GivenWay, course: Course, behind: Behind, metres: float) -> FloatArray:
    """What the first metres of a way take, each piece in its own wind [Wh], shape (J,)."""
    taken, at_m = np.zeros(1), 0.0
    for until_m, day in behind:
        then = course_of(replace(way.trip, conditions=day), way.route, way.unsure_climb)
        until_m = min(until_m, metres)
        taken = taken + then.between_wh(at_m, until_m)
        at_m = until_m
    return taken + course.between_wh(at_m, metres)


def _in(air: TripConditions, wind: Wind) -> TripConditions:
    speed, bearing = wind
    known = None if speed is None else Known(value=speed, source="noted on the way")
    return replace(air, wind_mps=known, wind_from_deg=bearing)
