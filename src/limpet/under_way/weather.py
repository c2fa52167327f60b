"""The weather of a ride under way: a wind or rain that was noted late holds from there on, not for what was
ridden before."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.evidence.noted import Wind, rain_noted, wind_said, winds_noted
from limpet.read.line import Line
from limpet.road import Route
from limpet.trip import Known
from limpet.under_way.demand import Course, course_of
from limpet.under_way.ways import GivenWay

FloatArray = NDArray[np.float64]

#: So many changes count, the last ones; each is a course of its own. Shorter pieces are none [m].
MOST_CHANGES, LEAST_PIECE_M = 3, 200.0

#: Up to where [m] the way was as it was.
Behind = list[tuple[float, GivenWay]]


def with_weather(
    seen: RangeTest, way: GivenWay, line: Line | None, done_m: float
) -> tuple[GivenWay, Behind]:
    """A way in the weather of now, and the pieces that were ridden in another.

    A plan's wind is what it was until somebody noted another; without a plan it is the sheet's. Rain
    makes what is paved wet, and wet it stays: nobody notes when a road has dried.
    """
    winds, wet_from_s = winds_noted(seen), rain_noted(seen)
    if not winds and wet_from_s is None:
        return way, []
    begun = way if way.stated or not winds else _in(way, wind_said(seen))
    changes: dict[float, Wind | None] = dict(winds)
    if wet_from_s is not None:
        changes.setdefault(wet_from_s, None)
    times = sorted(changes)
    days = [begun]
    for time_s in times:
        wind = changes[time_s]
        then = days[-1] if wind is None else _in(days[-1], wind)
        days.append(_wet(then) if time_s == wet_from_s else then)
    now = days.pop()
    if line is None:
        return now, []
    places = np.clip(line.at(np.array(times)), 0.0, done_m)
    behind: Behind = []
    for until_m, day in list(zip(places, days, strict=True))[-MOST_CHANGES:]:
        since_m = behind[-1][0] if behind else 0.0
        if until_m - since_m >= LEAST_PIECE_M:
            behind.append((float(until_m), day))
    return now, behind


def ridden_wh(course: Course, behind: Behind, metres: float) -> FloatArray:
    """What the first metres of a way take, each piece in its own weather [Wh], shape (J,)."""
    taken, at_m = np.zeros(1), 0.0
    for until_m, day in behind:
        then = course_of(day.trip, day.route, day.unsure_climb, evenly=day.evenly)
        until_m = min(until_m, metres)
        taken = taken + then.between_wh(at_m, until_m)
        at_m = until_m
    return taken + course.between_wh(at_m, metres)


def _in(way: GivenWay, wind: Wind) -> GivenWay:
    speed, bearing = wind
    known = None if speed is None else Known(value=speed, source="noted on the way")
    air = replace(way.trip.conditions, wind_mps=known, wind_from_deg=bearing)
    return replace(way, trip=replace(way.trip, conditions=air))


def _wet(way: GivenWay) -> GivenWay:
    return replace(way, route=_wetted(way.route))


def _wetted(route: Route) -> Route:
    legs = (
        replace(leg, surface="wet_paved") if leg.surface == "smooth_paved" else leg
        for leg in route.legs
    )
    return replace(route, legs=tuple(legs))
