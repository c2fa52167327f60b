"""Where along the way a test was, and what it had used there: what two rides are paired by."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from limpet.evidence.model import RangeTest
from limpet.read.where_read import NOWHERE, energy_read_at
from limpet.tell import Result

#: So many places of a test are kept at most: every one with a name, laps, then entries.
MOST_PLACES = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """An entry with a place of its own: a name or a number of laps, and what stood there.

    `energy_wh` only where a meter was read: what was laid out between readings tells nothing of a place.
    """

    name: str | None
    laps: float | None
    at_m: float
    time_s: float
    energy_wh: float | None
    voltage_v: float | None
    gauge: float | None
    #: Of the pack where it was read, else of the air.
    temp_c: float | None = None


def places_of(test: RangeTest, result: Result) -> tuple[Place, ...]:
    """The entries of a ride that have a place along its way, in their order."""
    way, energy = result.distance_line, result.energy_line
    if way is None:
        return ()
    used = result.energy_estimate
    read = NOWHERE if used is None else energy_read_at(test, result.ride, used.method)
    found = []
    for entry in test.entries:
        if entry.kind in ("start", "settle") or entry.time_s > result.ride.end_s:
            continue
        at = np.array([entry.time_s])
        volts = entry.voltage_rest_v if entry.voltage_rest_v is not None else entry.voltage_load_v
        found.append(
            Place(
                name=entry.place,
                laps=entry.laps,
                at_m=float(way.at(at)[0]),
                time_s=entry.time_s,
                energy_wh=float(energy.at(at)[0])
                if energy is not None and read.at(entry.time_s)
                else None,
                voltage_v=volts,
                gauge=entry.gauge,
                temp_c=entry.battery_temp_c
                if entry.battery_temp_c is not None
                else entry.air_temp_c,
            )
        )
    return tuple(found[:MOST_PLACES])
