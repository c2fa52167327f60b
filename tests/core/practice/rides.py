"""Practice rides as careful, hasty and forgetful riders log them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from limpet.evidence.model import Entry
from limpet.practice import PracticeLog, practice_ride
from limpet.practice.course import Place

#: A careful rider waits so long for the volts [s].
PATIENT_S = 240.0


def rehearsed(
    turn_m: float,
    reads_s: Sequence[float] = (700.0, 1500.0),
    *,
    waits_s: float = PATIENT_S,
    starts: bool = True,
    ends: bool = True,
    mistakes: bool = False,
) -> PracticeLog:
    """A ride to a stone and home, with readings after so long of riding [s].

    `mistakes` reads the volts while it pulls and notes them as at rest.
    """
    ride = practice_ride()
    way = next(way for way in ride.ways if way.turn_m == turn_m)
    turn_s, end_s = float(way.rows.time_s[0]), float(way.rows.time_s[-1])
    stood = 0.0
    entries = [_entry(0.0, "start", 0.0, ride.out.at(0).settled_v)] if starts else []
    for moving_s in sorted([*reads_s, turn_s]):
        place = (way.rows if moving_s >= turn_s else ride.out).at(moving_s)
        at_s = moving_s + stood
        if moving_s == turn_s:
            entries.append(Entry(time_s=at_s, kind="turn"))
        elif mistakes:
            entries.append(_entry(at_s, "checkpoint", trip_of(place), place.voltage_v))
        else:
            volts = ride.rest_v(place, waits_s)
            entries.append(Entry(time_s=at_s, kind="stop"))
            entries.append(_entry(at_s + waits_s, "checkpoint", trip_of(place), volts))
            stood += waits_s + 5
            entries.append(Entry(time_s=moving_s + stood, kind="resume"))
    if ends:
        place = way.rows.at(end_s)
        volts = ride.rest_v(place, PATIENT_S)
        entries.append(_entry(end_s + stood + PATIENT_S, "end", trip_of(place), volts))
    else:
        entries.append(Entry(time_s=end_s + stood, kind="end"))
    return PracticeLog(ride, tuple(entries))


def trip_of(place: Place) -> float:
    """What the trip meter, which counts long, shows there [m]."""
    return place.distance_m * practice_ride().trip_scale


def _entry(time_s: float, kind: Any, trip_m: float, volts: float) -> Entry:
    return Entry(time_s=time_s, kind=kind, trip_m=trip_m, voltage_rest_v=round(volts, 1))
