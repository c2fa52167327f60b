"""The way of a ride as the road model has it: what each draw of the day needs for any part of it."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from limpet.drive.draws import Columns
from limpet.drive.journey import STEPS_PER_RANGE, Draws, draws_of, trip_steps
from limpet.drive.steps import Steps
from limpet.drive.walk import Walk, walk
from limpet.road import Route
from limpet.trip import Trip
from limpet.uncertain.input import Input
from limpet.units import SECONDS_PER_HOUR

FloatArray = NDArray[np.float64]

#: Draws of the day; those of the pack meet them in pairs.
DRAWS = 300
#: A pack so large that it never fades: what a way needs is asked, not whether it is there.
ENDLESS = 1000.0
#: A way is cut into so many steps at the most: its energy is wanted, not where a pack gives out.
MOST_STEPS = 40
#: Draws at other speeds than the trip's.
SPEED_DRAWS = 100
#: A way is written down at so many places; at other speeds, where one part is set against the same part
#: at the trip's own, at fewer.
MARKS, SPEED_MARKS = 40, 10


@dataclass(frozen=True, slots=True)
class Slower:
    """A way ridden at some other speeds, and at the trip's own beside them."""

    walk: Walk
    length_m: float
    speeds: int

    def over(self, from_m: float, to_m: float) -> FloatArray:
        """What a part of the way takes, over what it takes at the trip's own speed [-].

        Shape (speeds,): the median over some draws.
        """
        need = _energy_wh(self.walk, to_m, self.length_m)
        need = (need - _energy_wh(self.walk, from_m, self.length_m)).reshape(self.speeds + 1, -1)
        own = np.maximum(need[-1], 0.05 * np.abs(need[-1]).mean() + 1e-9)
        return np.asarray(np.median(need[:-1] / own, axis=1))


@dataclass(frozen=True, slots=True)
class Course:
    """A way under the draws of a day.

    `out_m` is where it turns round, None where it does not come back the same way; `repeats` says that
    it is a lap, ridden again and again. `ends_m` is where its pieces end [m], shape (K,), from 0 on, for a way
    of unknown hills: each piece takes the same from metre to metre. None where the hills are known.
    """

    trip: Trip
    length_m: float
    out_m: float | None
    repeats: bool
    steps: Steps
    draws: Draws
    walk: Walk
    home: Walk | None
    ends_m: FloatArray | None = None

    def energy_wh(self, metres: float) -> FloatArray:
        """What the first metres of the way take [Wh], shape (J,)."""
        if self.ends_m is None or metres >= self.length_m:
            return _energy_wh(self.walk, metres, self.length_m)
        return _evenly_wh(self.walk, metres, self.ends_m)

    def between_wh(self, from_m: float, to_m: float) -> FloatArray:
        """What a part of the way takes [Wh], shape (J,)."""
        return self.energy_wh(to_m) - self.energy_wh(from_m)

    def home_wh(self, metres: float) -> FloatArray | None:
        """What the way back from so far out takes [Wh], shape (J,); None on a lap."""
        if self.repeats:
            return None
        if self.home is not None:
            return self.between_home(metres)
        assert self.out_m is not None
        whole = self.energy_wh(self.length_m)
        return whole - self.energy_wh(self.length_m - min(metres, self.out_m))

    def between_home(self, metres: float) -> FloatArray:
        """The same on the way reversed, where the trip itself does not come back."""
        assert self.home is not None
        whole = _energy_wh(self.home, self.length_m, self.length_m)
        rest_m = self.length_m - min(metres, self.length_m)
        if self.ends_m is not None:
            return whole - _evenly_wh(self.home, rest_m, (self.length_m - self.ends_m)[::-1])
        return whole - _energy_wh(self.home, rest_m, self.length_m)

    def at_speeds(self, speeds_mps: list[float]) -> Slower:
        """The way ridden at other speeds."""
        few = self.draws.columns.first(SPEED_DRAWS)
        target = float(few.target_mps[0])
        columns = Columns.joined(
            [few.at_speed(np.full(len(few), speed / target)) for speed in (*speeds_mps, target)]
        )
        steps = replace(self.steps, speed_mps=np.full(len(self.steps), np.nan))
        found = _walked(steps, columns, self.draws, self.length_m, SPEED_MARKS)
        return Slower(found, self.length_m, len(speeds_mps))


def course_of(
    trip: Trip, route: Route, unsure_climb: float = 0.0, *, evenly: bool = False
) -> Course:
    """A way with the draws of a day on it.

    Parameters
    ----------
    trip : who rides what, on which day; its pack does not matter
    route : the way as ridden once
    unsure_climb : u of its climb, relative
    evenly : its hills are spread over its legs by assumption
    """
    draws = draws_of(replace(trip, draws=DRAWS), route, swings=False)
    if unsure_climb > 0:
        climb = Input(
            name="climb", value=1.0, standard_uncertainty=unsure_climb, source="", shape="lognormal"
        )
        score = np.random.default_rng(trip.seed).standard_normal(len(draws.columns) - 1)
        hills = np.concatenate([[1.0], climb.drawn(score)])
        draws = replace(draws, columns=replace(draws.columns, hills=draws.columns.hills * hills))
    coarse = max(draws.likely_m, STEPS_PER_RANGE / MOST_STEPS * route.length_m)
    steps = trip_steps(replace(trip, draws=DRAWS), route, coarse)
    repeats = trip.route.loop is not None
    out_m = None
    if route.out_legs is not None:
        out_m = sum(leg.length_m for leg in route.legs[: route.out_legs])
    home = None
    if out_m is None and not repeats:
        back = trip_steps(replace(trip, draws=DRAWS), route.reversed(), coarse)
        home = _walked(back, draws.columns, draws, route.length_m)
    return Course(
        trip,
        route.length_m,
        out_m,
        repeats,
        steps,
        draws,
        _walked(steps, draws.columns, draws, route.length_m),
        home,
        np.cumsum([0.0, *(leg.length_m for leg in route.legs)]) if evenly else None,
    )


def _walked(
    steps: Steps, columns: Columns, draws: Draws, length_m: float, marks: int = MARKS
) -> Walk:
    endless = replace(
        columns,
        capacity_as=columns.capacity_as * ENDLESS,
        resistance_ohm=columns.resistance_ohm / ENDLESS,
    )
    return walk(
        steps,
        endless,
        draws.limits,
        start_charge=np.full(len(columns), 0.5),
        longest_m=length_m,
        block_m=max(length_m / marks, 1.0),
        ends=False,
    )


def _energy_wh(found: Walk, metres: float, length_m: float) -> FloatArray:
    """Energy to a place; a way that is ridden again takes the same again."""
    laps = int(metres // length_m) if metres > length_m else 0
    rest = metres - laps * length_m
    whole = found.at(found.terminal_j, length_m)
    return (laps * whole + found.at(found.terminal_j, rest)) / SECONDS_PER_HOUR


def _evenly_wh(found: Walk, metres: float, ends_m: FloatArray) -> FloatArray:
    """Energy to a place of a way that takes the same from metre to metre within each of its pieces."""
    place = int(np.clip(np.searchsorted(ends_m, metres, side="right"), 1, len(ends_m) - 1))
    before, after = float(ends_m[place - 1]), float(ends_m[place])
    part = (metres - before) / max(after - before, 1e-9)
    low, high = (found.at(found.terminal_j, end) for end in (before, after))
    return np.asarray((low + part * (high - low)) / SECONDS_PER_HOUR)
