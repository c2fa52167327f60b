"""What a comparison means to a rider: how far each side goes, in laps and minutes, and which trips it makes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import sqrt
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import RESERVE, RUN_TO_RUN
from limpet.judge.carry import carried
from limpet.judge.drawn import score
from limpet.judge.seen import Seen
from limpet.result.promise import PROBABILITY
from limpet.units import METRES_PER_KM, SECONDS_PER_HOUR

FloatArray = NDArray[np.float64]

#: Trips that are asked about at most.
MOST_TRIPS = 40
#: A trip takes that much of a test's way at least before its own hills and speed are of use [m].
LEAST_M = 100.0


Surely = Literal["both", "first", "second", "neither"]
_SURELY: Final[dict[tuple[bool, bool], Surely]] = {
    (True, True): "both",
    (True, False): "first",
    (False, True): "second",
    (False, False): "neither",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class TripAsked:
    """A way that a rider wants to make: its length, and its climb and speed where it has its own; else as ridden."""

    name: str
    length_m: float
    climb_m: float | None = None
    speed_mps: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class TripMade:
    """The chance [-] that each side's next ride makes a trip with the reserve kept, and who makes it surely.

    Surely is as surely as is planned on: 19 of 20.
    """

    name: str
    length_m: float
    first_chance: float
    second_chance: float
    surely: Surely


@dataclass(frozen=True, slots=True, kw_only=True)
class SideTerms:
    """How far a side goes: to cut-off, and what to plan on to the reserve [m], in hours at its speed."""

    range_m: float
    plan_on_m: float
    hours: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Terms:
    """Both sides in a rider's terms, at the conditions of the first test, and the trips, longest first."""

    reserve: float
    first: SideTerms
    second: SideTerms
    trips: tuple[TripMade, ...]


def terms_of(
    first: Sequence[Seen], second: Sequence[Seen], trips: Sequence[TripAsked] = ()
) -> Terms | None:
    """Both sides in a rider's terms; None where a test tells no range.

    Parameters
    ----------
    first, second : the tests of each side
    trips : the first `MOST_TRIPS` are answered

    Notes
    -----
    A side's range is the mean of its tests', carried to the first test's conditions, or to a trip's own
    climb and speed. The next ride differs from that mean by √(1 + 1/n) of the spread from run to run (8 %,
    handbook section 12), and keeps the reserve.
    """
    everyone = (*first, *second)
    if not everyone or any("range_to_cutoff" not in test.figures for test in everyone):
        return None
    sides = [_ahead(side, first[0]) for side in (first, second)]
    made = []
    for trip in sorted(trips[:MOST_TRIPS], key=lambda trip: -trip.length_m):
        if trip.length_m < LEAST_M:
            continue
        like = _like(first[0], trip)
        one, two = (_to_reserve(_ahead(side, like), side) for side in (first, second))
        made.append(
            _made(trip, float((one >= trip.length_m).mean()), float((two >= trip.length_m).mean()))
        )
    speed = first[0].ridden.speed_mps
    told = []
    for side, ahead in zip((first, second), sides, strict=True):
        far = float(np.exp(ahead.mean()))
        told.append(
            SideTerms(
                range_m=far,
                plan_on_m=float(np.quantile(_to_reserve(ahead, side), 1 - PROBABILITY)),
                hours=None if not speed else far / speed / SECONDS_PER_HOUR,
            )
        )
    return Terms(reserve=RESERVE.value, first=told[0], second=told[1], trips=tuple(made))


def _made(trip: TripAsked, one: float, two: float) -> TripMade:
    sure: tuple[bool, bool] = (one >= PROBABILITY, two >= PROBABILITY)
    return TripMade(
        name=trip.name,
        length_m=trip.length_m,
        first_chance=one,
        second_chance=two,
        surely=_SURELY[sure],
    )


def _like(test: Seen, trip: TripAsked) -> Seen:
    """A test as if it had been the trip."""
    ridden = replace(
        test.ridden,
        climb_m_per_km=test.ridden.climb_m_per_km
        if trip.climb_m is None
        else METRES_PER_KM * trip.climb_m / trip.length_m,
        speed_mps=trip.speed_mps or test.ridden.speed_mps,
    )
    return replace(test, key=f"trip {trip.name}", ridden=ridden)


def _ahead(side: Sequence[Seen], like: Seen) -> FloatArray:
    """A side's range to cut-off under conditions [log m], shape (J,)."""
    logs = [carried(test, like, "range_to_cutoff", frozenset()).log for test in side]
    return np.asarray(np.mean(logs, axis=0))


def _to_reserve(ahead: FloatArray, side: Sequence[Seen]) -> FloatArray:
    """How far the next ride of a side goes with the reserve kept [m], shape (J,)."""
    spread = RUN_TO_RUN.std * sqrt(1 + 1 / len(side))
    following = score("the next ride", *(test.key for test in side))
    return np.asarray((1 - RESERVE.value) * np.exp(ahead + spread * following))
