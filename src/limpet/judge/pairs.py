"""Two rides beside each other at the same places: by name, by lap, by distance."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any, Literal

import numpy as np

from limpet.judge.comparand import Comparand
from limpet.judge.places import Place

#: Pairs that are told at most, and how far two entries of one distance may be apart, of it [-] and [m].
MOST_PAIRS = 100
WITHIN, WITHIN_M = 0.05, 150.0

By = Literal["place", "lap", "distance"]


@dataclass(frozen=True, slots=True, kw_only=True)
class At:
    """What stood at a place in one ride; energy [Wh] since its start."""

    at_m: float
    time_s: float
    energy_wh: float | None
    voltage_v: float | None
    gauge: float | None
    temp_c: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Pair:
    """The same place in both rides, and what the second had used more by then [Wh]."""

    by: By
    name: str
    first: At
    second: At
    more_wh: float | None

    def to_json(self) -> dict[str, Any]:
        """As compare.md has it."""
        return asdict(self)


def pairs_of(one: Comparand, two: Comparand) -> tuple[Pair, ...]:
    """Places that both rides passed, along the way: by their names, else by laps, else by distance."""
    for by in ("place", "lap", "distance"):
        found = _by(by, one, two)
        if found:
            return tuple(found[:MOST_PAIRS])
    return ()


def _by(by: By, one: Comparand, two: Comparand) -> list[Pair]:
    if by == "distance":
        return _near(one, two)
    first, second = _named(by, one.places), _named(by, two.places)
    return [_pair(by, key[0], first[key], second[key]) for key in first if key in second]


def _named(by: By, places: tuple[Place, ...]) -> dict[tuple[str, int], Place]:
    """Places by name and by how often they were passed before."""
    found: dict[tuple[str, int], Place] = {}
    passed: dict[str, int] = {}
    for place in places:
        if by == "lap":
            if place.laps is None or place.laps != int(place.laps) or place.laps < 1:
                continue
            name = f"{int(place.laps)}"
            found[name, 0] = place
        elif place.name:
            passed[place.name] = passed.get(place.name, -1) + 1
            found[place.name, passed[place.name]] = place
    return found


def _near(one: Comparand, two: Comparand) -> list[Pair]:
    """Entries about as far along."""
    if not two.places:
        return []
    there = np.array([place.at_m for place in two.places])
    found, used = [], set()
    for place in one.places:
        k = int(np.argmin(np.abs(there - place.at_m)))
        apart = abs(float(there[k]) - place.at_m)
        if k not in used and apart <= max(WITHIN * place.at_m, WITHIN_M) and place.at_m > WITHIN_M:
            used.add(k)
            found.append(_pair("distance", f"{place.at_m:.0f}", place, two.places[k]))
    return found


def _pair(by: By, name: str, one: Place, two: Place) -> Pair:
    more = None
    if one.energy_wh is not None and two.energy_wh is not None:
        more = two.energy_wh - one.energy_wh
    return Pair(by=by, name=name, first=_at(one), second=_at(two), more_wh=more)


def _at(place: Place) -> At:
    return At(
        at_m=place.at_m,
        time_s=place.time_s,
        energy_wh=place.energy_wh,
        voltage_v=place.voltage_v,
        gauge=place.gauge,
        temp_c=place.temp_c,
    )
