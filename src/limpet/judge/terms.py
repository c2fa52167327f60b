"""What a comparison means to a rider: how far each side goes, in laps and minutes, and which trips it makes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import sqrt
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import AIR_TEMP_C, CHARGER, PRICE, RESERVE, like_days_std
from limpet.figures.plan_on import COLD_OFF, MONTHS, PROBABILITY, WITHIN_C
from limpet.judge.answer import Question
from limpet.judge.carrying import carried
from limpet.judge.comparand import Comparand
from limpet.judge.day import Factor, body_of, day_of, held_by, pack_factor, wh_per_km
from limpet.judge.named_errors import DRAWS, FEW, draws_of, score
from limpet.judge.spread import (
    ASSUMED_RUNS,
    comparable,
    learned_spread,
    own_variance,
    shown_by,
)
from limpet.pack.wearing import lost_within
from limpet.road.surface import TYRE_PER_C
from limpet.uncertain.lower_bound import tolerance_factor
from limpet.uncertain.normal import normal_probability
from limpet.uncertain.scatter import Scatter
from limpet.uncertain.student import student_of
from limpet.units import METRES_PER_KM, SECONDS_PER_HOUR

FloatArray = NDArray[np.float64]

SEED: Final = 7
#: Trips that are asked about at most.
MOST_TRIPS = 40
#: So many tests on so many ways are looked at with all draws.
MOST_WHOLE = 200
#: A trip takes that much of a test's way at least before its own hills and speed are of use [m].
LEAST_M = 100.0


#: A kilowatt-hour in watt-hours.
WH_PER_KWH = 1000.0

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

    Surely is as surely as is planned on: 19 of 20. The shares are what the trip takes of a full charge [-].
    """

    name: str
    length_m: float
    first_chance: float
    second_chance: float
    first_share: float
    second_share: float
    surely: Surely


@dataclass(frozen=True, slots=True, kw_only=True)
class SideTerms:
    """How far a side goes.

    `range_m` is to cut-off in a typical ride, `floor_m` and `best_m` what the next ride passes with 19 and
    with 1 chance of 20, `most_m` what 19 of 20 such rides reach, said with 95% certainty, where there are
    repeats to say it from. `plan_on_m` is the floor to the reserve. In laps and hours where the first
    test's lap and speed are known; `socket_wh_per_km` is what is paid for, `cost_per_km` its price in the
    rider's money.
    """

    runs: int
    range_m: float
    floor_m: float
    best_m: float
    most_m: float | None
    plan_on_m: float
    hours: float | None
    laps: float | None
    socket_wh_per_km: float | None
    cost_per_km: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Terms:
    """Both sides in a rider's terms, at the conditions of the first test, and the trips, longest first."""

    reserve: float
    lap_m: float | None
    price_per_kwh: float
    first: SideTerms
    second: SideTerms
    trips: tuple[TripMade, ...]


@dataclass(frozen=True, slots=True)
class _Ahead:
    """A side's range to cut-off under conditions, in draws of its logarithm, and how the next ride differs.

    `clauses` is what other weather and wear make of it while a promise is for them, the logarithm.
    """

    logs: FloatArray
    clauses: FloatArray
    runs: int
    spread: Scatter
    score: FloatArray

    @property
    def following(self) -> FloatArray:
        """How far the next ride goes [m], shape (J,).

        A single run's spread is taken as it stands, as its own result does; repeats show theirs.
        """
        t = self.score if self.runs < 2 else student_of(self.score, self.spread.freedom)
        differs = self.spread.std * sqrt(1 + 1 / self.runs) * t
        return np.asarray(np.exp(self.logs + self.clauses + differs))

    @property
    def most_m(self) -> float | None:
        """What most such rides reach [m]; None of a single run, whose spread is assumed."""
        if self.runs < 2:
            return None
        factor = tolerance_factor(self.runs, self.spread.freedom, PROBABILITY, PROBABILITY)
        return float(np.exp(self.logs.mean() - factor * self.spread.std))


def terms_of(
    first: Sequence[Comparand],
    second: Sequence[Comparand],
    trips: Sequence[TripAsked] = (),
    *,
    question: Question = "repeat",
    others: Sequence[Comparand] = (),
) -> Terms | None:
    """Both sides in a rider's terms; None where a test tells no range.

    Parameters
    ----------
    first, second : the tests of each side
    trips : the first `MOST_TRIPS` are answered
    question : what the comparison was about: each side keeps its own of that, here as in its verdict
    others : further tests, oldest first, that teach how one ride differs from the next

    Notes
    -----
    A side's range is the mean of its tests', carried to the first test's conditions, or to a trip's own
    climb and speed. The next ride differs from that mean by √(1 + 1/n) of the spread from run to run on like
    days (assumed for eight runs, handbook section 12), by the weather and the wear that a promise is for
    (`figures.plan_on`), and keeps the reserve. Bounds of repeats are Student's.
    """
    everyone = (*first, *second)
    if not everyone or any("range_to_cutoff" not in test.figures for test in everyone):
        return None
    assumed = Scatter(variance=like_days_std() ** 2, freedom=ASSUMED_RUNS)
    known, _ = learned_spread(comparable(others, everyone), assumed)
    held = held_by(question)
    # What weather and wear take is hardly another on another way: once for each side.
    sides = [
        (side, _spread(side, first[0], known, held), _clauses(side[0], first[0], held))
        for side in (first, second)
    ]
    longest_first = sorted(trips[:MOST_TRIPS], key=lambda trip: -trip.length_m)
    asked = [trip for trip in longest_first if trip.length_m >= LEAST_M]
    # Many tests on many ways: whole per cents of a chance are enough.
    with draws_of(FEW if len(asked) * len(everyone) > MOST_WHOLE else DRAWS):
        made = [
            _made(
                trip,
                *(
                    _ahead(side, _like(first[0], trip), spread, clauses, _on_the_way(held, trip))
                    for side, spread, clauses in sides
                ),
            )
            for trip in asked
        ]
    lap_m = next((far for test in everyone if (far := _lap_m(test)) is not None), None)
    told = []
    for side, spread, clauses in sides:
        ahead = _ahead(side, first[0], spread, clauses, held)
        following, far = ahead.following, float(np.exp(ahead.logs.mean()))
        at_speed = side[0] if "speed" in held else first[0]
        speed, socket = at_speed.ridden.speed_mps, _socket_wh_per_km(side, first[0], held)
        told.append(
            SideTerms(
                runs=len(side),
                range_m=far,
                floor_m=float(np.quantile(following, 1 - PROBABILITY)),
                best_m=float(np.quantile(following, PROBABILITY)),
                most_m=ahead.most_m,
                plan_on_m=(1 - RESERVE.value) * float(np.quantile(following, 1 - PROBABILITY)),
                hours=None if not speed else far / speed / SECONDS_PER_HOUR,
                laps=None if lap_m is None else far / lap_m,
                socket_wh_per_km=socket,
                cost_per_km=None if socket is None else socket / WH_PER_KWH * PRICE.value,
            )
        )
    return Terms(
        reserve=RESERVE.value,
        lap_m=lap_m,
        price_per_kwh=PRICE.value,
        first=told[0],
        second=told[1],
        trips=tuple(made),
    )


def _made(trip: TripAsked, first: _Ahead, second: _Ahead) -> TripMade:
    one, two = (
        float(((1 - RESERVE.value) * side.following >= trip.length_m).mean())
        for side in (first, second)
    )
    shares = [trip.length_m / float(np.exp(side.logs.mean())) for side in (first, second)]
    sure: tuple[bool, bool] = (one >= PROBABILITY, two >= PROBABILITY)
    return TripMade(
        name=trip.name,
        length_m=trip.length_m,
        first_chance=one,
        second_chance=two,
        first_share=shares[0],
        second_share=shares[1],
        surely=_SURELY[sure],
    )


def _like(test: Comparand, trip: TripAsked) -> Comparand:
    """A test as if it had been the trip."""
    ridden = replace(
        test.ridden,
        climb_m_per_km=test.ridden.climb_m_per_km
        if trip.climb_m is None
        else METRES_PER_KM * trip.climb_m / trip.length_m,
        speed_mps=trip.speed_mps or test.ridden.speed_mps,
    )
    return replace(test, key=f"trip {trip.name}", ridden=ridden)


def _on_the_way(held: frozenset[Factor], trip: TripAsked) -> frozenset[Factor]:
    """What each side keeps its own of on a trip: its hills are the trip's where they are known."""
    return held if trip.climb_m is None else held - {"climb"}


def _spread(
    side: Sequence[Comparand], like: Comparand, known: Scatter, held: frozenset[Factor]
) -> Scatter:
    """How a side's next ride differs from the mean of its tests: what is known, moved by its own repeats."""
    if len(side) < 2:
        return known
    runs = [carried(test, like, "range_to_cutoff", held) for test in side]
    return shown_by(np.array([run.log.mean() for run in runs]), own_variance(*runs), known)


def _ahead(
    side: Sequence[Comparand],
    like: Comparand,
    spread: Scatter,
    clauses: FloatArray,
    held: frozenset[Factor],
) -> _Ahead:
    """A side's range under conditions."""
    logs = [carried(test, like, "range_to_cutoff", held).log for test in side]
    return _Ahead(
        logs=np.mean(logs, axis=0),
        # Of many trips fewer draws are looked at, the first of as many.
        clauses=clauses[: len(logs[0])],
        runs=len(side),
        spread=spread,
        score=score("the next ride", *(test.key for test in side)),
    )


def _clauses(test: Comparand, like: Comparand, held: frozenset[Factor]) -> FloatArray:
    """What air up to `WITHIN_C` away and the wear of `MONTHS` make of a range, the logarithm, shape (J,)."""
    mean = test.ridden.temp_c if "temperature" in held else like.ridden.temp_c or test.ridden.temp_c
    usual = AIR_TEMP_C.value if mean is None else mean
    body, day = body_of(test), day_of(test, like)
    even = 2 * normal_probability(score("weather", test.key)) - 1
    here = replace(day, temp_c=np.full_like(even, usual))
    stiffer = np.maximum(
        TYRE_PER_C[0] + TYRE_PER_C[1] * score("tyre cold", test.vehicle or test.kind), 0
    )
    there = replace(
        day, temp_c=usual + WITHIN_C * even, tyres=day.tyres * (1 - stiffer * WITHIN_C * even)
    )
    change = np.log(pack_factor(test, there) / pack_factor(test, here))
    change -= np.log(wh_per_km(body, there) / wh_per_km(body, here))
    lost = lost_within(MONTHS, test.cycles, len(even), np.random.default_rng(SEED))
    return np.asarray(change * (1 + COLD_OFF * score("weather off", test.key)) + np.log(1 - lost))


def _lap_m(test: Comparand) -> float | None:
    """A lap of a test, by the last one that was counted [m]."""
    for place in reversed(test.places):
        if place.laps is not None and place.laps >= 1:
            return place.at_m / place.laps
    return None


def _socket_wh_per_km(
    side: Sequence[Comparand], like: Comparand, held: frozenset[Factor]
) -> float | None:
    """What a kilometre takes at the socket [Wh/km]; None where a test does not know its consumption."""
    if any("wh_per_km" not in test.figures for test in side):
        return None
    logs = [carried(test, like, "wh_per_km", held).log.mean() for test in side]
    return float(np.exp(np.mean(logs))) / CHARGER.value
