"""The log of a practice ride beside the truth: what was known when, and what each reading cost."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from limpet.assumptions import RESERVE
from limpet.practice.costs import Cost, costs_of
from limpet.practice.learned import Learned, lessons_of
from limpet.practice.practice_log import PracticeLog
from limpet.practice.quality import range_of, readings
from limpet.quantity import Quantity
from limpet.under_way import follow

#: Of the newest entries it is told what was known then: each is a judgement of the ride so far.
MOST_TOLD: Final = 16


@dataclass(frozen=True, slots=True, kw_only=True)
class Told:
    """What was known after an entry, beside what was true.

    `left` of the usable energy; `turn_by_m` by when it was said to turn, None where it was not.
    """

    time_s: float
    distance_m: float
    left: Quantity
    left_truly: float
    turn_by_m: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Turn:
    """Where it was turned, and from where one could have come home.

    `turned_m` None where nobody turned; `last_home_m` the furthest stone from which it came home,
    `last_kept_m` the furthest with the reserve kept.
    """

    turned_m: float | None
    last_home_m: float
    last_kept_m: float
    reserve: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Review:
    """A practice ride, judged. `range_to_cutoff` is what the log tells, None where it tells none."""

    home: bool
    over: bool
    distance_m: float
    left_truly: float
    range_truly_m: float
    range_to_cutoff: Quantity | None
    turn: Turn
    told: tuple[Told, ...]
    costs: tuple[Cost, ...]
    lessons: tuple[Learned, ...]


def review(log: PracticeLog) -> Review:
    """Judge a log; it must have an entry at least.

    Parameters
    ----------
    log : of a rehearsed ride

    Notes
    -----
    What a reading cost is found by judging the same ride again with that reading as it should have been
    (handbook section 8: a budget by leaving one thing out).
    """
    end = log.place(log.entries[-1].time_s)
    used = max(end.used_wh, 1e-9)
    truly = end.distance_m * log.ride.usable_wh / used
    found = range_of(log)
    return Review(
        home=log.is_over and log.way.home,
        over=log.is_over,
        distance_m=end.distance_m,
        left_truly=log.ride.left(end),
        range_truly_m=truly,
        range_to_cutoff=found,
        turn=_turn(log),
        told=tuple(_told(log)),
        costs=tuple(costs_of(log)),
        lessons=tuple(lessons_of(log, found)),
    )


def _turn(log: PracticeLog) -> Turn:
    ride = log.ride
    kept = [way.turn_m for way in ride.ways if way.home and way.used_wh <= (1 - RESERVE.value) * ride.usable_wh]  # fmt: skip
    return Turn(
        turned_m=None if log.turn_s is None else log.way.turn_m,
        last_home_m=max((way.turn_m for way in ride.ways if way.home), default=0.0),
        last_kept_m=max(kept, default=0.0),
        reserve=RESERVE.value,
    )


def _told(log: PracticeLog) -> Iterator[Told]:
    for entry in readings(log)[-MOST_TOLD:]:
        said = follow(log.test, until_s=entry.time_s)
        place = log.place(entry.time_s)
        yield Told(
            time_s=entry.time_s,
            distance_m=place.distance_m,
            left=said.energy_left_fraction,
            left_truly=log.ride.left(place),
            turn_by_m=None if said.way is None else said.way.turn_by_m,
        )
