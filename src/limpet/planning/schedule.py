"""A plan's ride in numbers: entries, laps, hours; and its days as a calendar file."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta, timezone
from math import ceil
from uuid import UUID, uuid5

import numpy as np
from icalendar import Calendar, Event

from limpet.assumptions import SETTLE_S
from limpet.errors import OutOfRangeError
from limpet.outlook.answer import Forecast
from limpet.planning.rules import charge_time_s

#: Entries on a ride: enough for a curve, few enough to be made (assumption).
ENTRIES = 6
#: A rest after so long in the saddle [s], and how long it is [s] (assumption).
REST_EVERY_S = 5400.0
REST_S = 600.0
#: The warm and the cold ride of a pair lie this far apart [days] (assumption: half a year).
SEASON_DAYS = 182


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedEntry:
    """An entry to make: where, what is likely left there, and when it is due."""

    distance_m: float
    energy_left: float
    after_s: float
    lap: int | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Schedule:
    """A ride in numbers; seconds."""

    entries: tuple[PlannedEntry, ...]
    laps: int | None
    riding_s: float
    resting_s: float
    total_s: float
    charge_s: float


def schedule(
    answer: Forecast,
    rated_wh: float,
    *,
    lap_m: float | None,
    to_cutoff: bool,
    count: int = ENTRIES,
    charger_w: float | None = None,
) -> Schedule:
    """Where to make entries, how many laps, how long it takes.

    Parameters
    ----------
    answer : the plan's forecast
    rated_wh : of all packs, for the charge before [Wh]
    lap_m : length of the lap, None off a loop [m]
    to_cutoff : whether the test goes on until the drive stops
    count : entries between start and end

    Notes
    -----
    Entries lie evenly in *energy*: volts and gauges tell most where energy goes, and the last
    tenth of it often takes a fifth of the way. On a loop they move to the next full lap.
    """
    at = np.array([point.distance_m for point in answer.profile])
    left = np.array([point.value for point in answer.profile])
    length = answer.route.distance_m
    if to_cutoff:
        length = max(answer.range_to_cutoff.value, 1.0)
    end_left = float(np.interp(length, at, left)) if not to_cutoff else 0.0
    per_m = answer.route.duration_s.value / max(answer.route.distance_m, 1.0)
    places: list[PlannedEntry] = []
    for level in np.linspace(1.0, end_left, count + 2)[1:-1]:
        metres = float(np.interp(-level, -left, at))
        lap = None
        if lap_m is not None:
            lap = max(round(metres / lap_m), 1)
            metres = lap * lap_m
        if metres >= length - 1 or (places and metres <= places[-1].distance_m):
            continue
        places.append(
            PlannedEntry(
                distance_m=metres,
                energy_left=float(np.interp(metres, at, left)),
                after_s=metres * per_m,
                lap=lap,
            )
        )
    riding = length * per_m
    resting = (ceil(riding / REST_EVERY_S) - 1) * REST_S + 2 * SETTLE_S.value
    laps = None
    if lap_m is not None:
        laps = ceil(length / lap_m) if to_cutoff else round(length / lap_m)
    return Schedule(
        entries=tuple(places),
        laps=laps,
        riding_s=riding,
        resting_s=resting,
        total_s=riding + resting,
        charge_s=charge_time_s(rated_wh, 0.0, charger_w),
    )


def calendar(
    plan_id: UUID,
    title: str,
    days: tuple[str, ...],
    *,
    first: datetime,
    total_s: float,
    days_apart: int,
    note: str = "",
) -> bytes:
    """The rides of a plan as an iCalendar file.

    Parameters
    ----------
    plan_id : of the plan; events keep their identity when the file is made again
    days : what each ride is called, in order
    first : when the first begins; with a zone
    total_s : how long each takes [s]
    days_apart : from one ride to the next

    Raises
    ------
    OutOfRangeError
        For a time without a zone.

    References
    ----------
    B. Desruisseaux (ed.), RFC 5545, "Internet Calendaring and Scheduling Core Object
    Specification", 2009.
    """
    if first.tzinfo is None:
        raise OutOfRangeError(
            f"calendar: {first.isoformat()} has no zone; write it like 2026-05-14T09:00:00+02:00"
        )
    found = Calendar()
    found.add("prodid", "-//Limpet//range test plans//EN")
    found.add("version", "2.0")
    for number, name in enumerate(days):
        begins = first.astimezone(timezone.utc) + timedelta(days=number * days_apart)
        event = Event()
        event.add("uid", f"{uuid5(plan_id, str(number))}@limpet")
        event.add("dtstamp", first.astimezone(timezone.utc))
        event.add("dtstart", begins)
        event.add("dtend", begins + timedelta(seconds=ceil(total_s / 900) * 900))
        event.add("summary", title if len(days) == 1 else f"{title}: {name}")
        if note:
            event.add("description", note)
        found.add_component(event)
    return bytes(found.to_ical())


def days_between(purpose: str) -> int:
    """How far apart the rides of a question lie [days]."""
    return SEASON_DAYS if purpose == "temperature" else 1
