"""What a rider noted on the way of the day itself: the wind as it turned, and that somebody pedalled."""

from __future__ import annotations

from dataclasses import replace
from math import atan2, cos, degrees, hypot, radians, sin

from limpet.evidence.model import Conditions, RangeTest


def is_assisted(test: RangeTest) -> bool:
    """Whether a rider's legs had a part in it, by the rules of the ride or by what was noted."""
    rules = test.sheet.protocol
    planned = rules is not None and rules.propulsion in ("assist", "mixed")
    return planned or any(entry.what == "pedalled" for entry in test.entries)


def pedalled_share(test: RangeTest) -> float:
    """Of the time of a ride the share that legs had a part in [-]: where "pedalled" was noted, since the entry
    before; all of it where pedalling was the rule and no stretch was noted."""
    entries = test.entries
    noted = [k for k, entry in enumerate(entries) if entry.what == "pedalled"]
    whole = entries[-1].time_s - entries[0].time_s if entries else 0.0
    if not noted or whole <= 0:
        return 1.0 if is_assisted(test) else 0.0
    gone = sum(entries[k].time_s - entries[max(k - 1, 0)].time_s for k in noted)
    return min(max(gone / whole, 0.0), 1.0)


#: A wind [m/s] and where it comes from [deg]; None where nobody said.
Wind = tuple[float | None, float | None]


def winds_noted(test: RangeTest) -> list[tuple[float, Wind]]:
    """The winds that were noted on the way, each with when [s], in their order."""
    return [
        (entry.time_s, (entry.wind_mps, entry.wind_from_deg))
        for entry in test.entries
        if entry.wind_mps is not None
    ]


def rain_noted(test: RangeTest) -> float | None:
    """When rain was first noted on the way [s]; None where nobody did."""
    return next((entry.time_s for entry in test.entries if entry.what == "rain"), None)


def wind_said(test: RangeTest) -> Wind:
    """The wind of the sheet."""
    air = test.sheet.conditions
    return (None, None) if air is None else (air.wind_mps, air.wind_from_deg)


def wind_now(test: RangeTest) -> Wind:
    """The wind as it was noted last; the sheet's where nobody noted any."""
    noted = winds_noted(test)
    return noted[-1][1] if noted else wind_said(test)


def conditions_noted(test: RangeTest) -> Conditions | None:
    """The conditions of a whole ride: the sheet's, and where that has no wind the mean of what was noted.

    Notes
    -----
    Winds are added as vectors; where one of them has no direction only their mean strength is told.
    """
    air = test.sheet.conditions
    winds = [
        (entry.wind_mps, entry.wind_from_deg)
        for entry in test.entries
        if entry.wind_mps is not None
    ]
    if not winds or (air is not None and air.wind_mps is not None):
        return air
    known = [(speed, radians(bearing)) for speed, bearing in winds if bearing is not None]
    if len(known) < len(winds):
        mean, bearing = sum(speed for speed, _ in winds) / len(winds), None
    else:
        north = sum(speed * cos(way) for speed, way in known) / len(known)
        east = sum(speed * sin(way) for speed, way in known) / len(known)
        mean, bearing = hypot(north, east), degrees(atan2(east, north)) % 360
    return replace(air or Conditions(), wind_mps=mean, wind_from_deg=bearing)
