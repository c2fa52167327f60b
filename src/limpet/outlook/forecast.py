"""One function answers every question about a trip: the command line's and the screens'."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from limpet.drive.draws import Columns
from limpet.drive.journey import (
    CHOSEN_SPAN,
    Draws,
    Ridden,
    draws_of,
    ride_on,
    trip_steps,
    usable_wh,
)
from limpet.drive.steps import Steps
from limpet.drive.walk import END_CUTOFF, END_FLOOR, walk
from limpet.notices import Notice
from limpet.outlook.answer import (
    SLOWEST_MPS,
    Forecast,
    Peak,
    ProfilePoint,
    RouteAnswer,
    SlowTo,
    Swing,
    TurnPoint,
)
from limpet.outlook.warnings import trip_warnings
from limpet.quantity import COVERAGE, Quantity
from limpet.road import Route
from limpet.trip import Trip
from limpet.units import METRES_PER_KM, METRES_PER_MILE, SECONDS_PER_HOUR

FloatArray = NDArray[np.float64]

PROFILE_POINTS = 81
#: Speeds tried for "slow to", and the lowest worth naming [m/s] (trip.md).
SPEEDS = 13
#: Draws of each speed tried.
SPEED_DRAWS = 300


def forecast(
    trip: Trip, route: Route, notices: tuple[Notice, ...] = (), *, swings: bool = True
) -> Forecast:
    """How far, how long, how sure: a trip ridden by a vehicle on a day.

    Parameters
    ----------
    trip : what is asked
    route : the way as ridden once (`route_of`); for a lap, one lap
    notices : what reading the file had to say, carried into the warnings
    swings : whether to rank the inputs; a slider in motion does without

    Returns
    -------
    Forecast; the same seed gives the same answer

    Notes
    -----
    The value of each quantity is that at the best values of the inputs, its interval holds 95%
    of the draws (JCGM 101:2008, 7.7). Handbook section 11.
    """
    draws = draws_of(trip, route, swings=swings)
    steps = trip_steps(trip, route, draws.likely_m)
    ridden = ride_on(trip, draws, steps, ledger=True)
    n = draws.count + 1
    drawn = slice(1, n)
    end_m = np.where(np.isfinite(ridden.walk.end_m), ridden.walk.end_m, ridden.walk.at_m[-1])
    laps, length_m = _length(trip, steps, ridden.reserve_m[drawn])
    chances = _ends_by(ridden, length_m, drawn)
    reaches = float((end_m[drawn] >= length_m).mean())
    turn = _turn_point(trip, route, steps, draws, ridden, drawn)
    slow = None
    if chances["route_end"] < trip.probability and trip.route.loop is None:
        slow = _slow_to(trip, steps, draws, length_m)
    answer = Forecast(
        **_consumption(ridden, end_m, length_m, drawn),
        range_to_cutoff=Quantity.from_draws(end_m[drawn], "m", float(end_m[0])),
        range_to_reserve=Quantity.from_draws(
            ridden.reserve_m[drawn], "m", float(ridden.reserve_m[0])
        ),
        reserve=trip.reserve,
        floor_m=float(np.quantile(ridden.reserve_m[drawn], 1 - trip.probability)),
        route=_route_answer(route, ridden, end_m, length_m, laps, drawn, chances, reaches),
        turn_point=turn,
        slow_to=slow,
        ends_by=chances,
        peak=_peak(trip, ridden),
        profile=_profile(ridden, length_m, end_m, drawn),
        sensitivity=_sensitivity(draws, end_m),
        inputs=tuple(draws.inputs.by_name.values()),
        usable_wh=usable_wh(draws),
        ledger=ridden.walk.ledger,
        warnings=notices,
    )
    return replace(answer, warnings=(*notices, *trip_warnings(trip, route, answer)))


def _length(trip: Trip, steps: Steps, reserve_m: FloatArray) -> tuple[int | None, float]:
    """Laps and length of the trip; a lap without a number is ridden to the reserve."""
    if trip.route.loop is None:
        return None, steps.total_m
    laps = trip.route.laps
    if laps is None:
        floor = float(np.quantile(reserve_m, 1 - trip.probability))
        laps = max(int(floor // steps.total_m), 1)
    return laps, laps * steps.total_m


def _ends_by(ridden: Ridden, length_m: float, drawn: slice) -> dict[str, float]:
    """The share of draws whose trip each rule ends."""
    end, reserve = ridden.walk.end_m[drawn], ridden.reserve_m[drawn]
    reason = ridden.walk.end_reason[drawn]
    # The last metre decides nothing: a trip that comes down to the reserve at the door arrives.
    arrives = np.minimum(end, reserve) >= length_m - 1e-6
    by_reserve = ~arrives & (reserve < end)
    return {
        "route_end": float(arrives.mean()),
        "cutoff": float((~arrives & ~by_reserve & (reason == END_CUTOFF)).mean()),
        "speed_floor": float((~arrives & ~by_reserve & (reason == END_FLOOR)).mean()),
        "reserve": float(by_reserve.mean()),
    }


def _at_length(
    ridden: Ridden, values: FloatArray, at_end: FloatArray, end_m: FloatArray, length_m: float
) -> FloatArray:
    """A quantity that grows with distance at the trip's length, carried on where it ended before."""
    there = ridden.walk.at(values, length_m)
    early = np.isfinite(ridden.walk.end_m) & (ridden.walk.end_m < length_m)
    reach = np.maximum(end_m, 1.0)
    return np.where(early, at_end * length_m / reach, there)


def _consumption(
    ridden: Ridden, end_m: FloatArray, length_m: float, drawn: slice
) -> dict[str, Quantity]:
    energy = _at_length(ridden, ridden.walk.terminal_j, ridden.walk.end_terminal_j, end_m, length_m)
    per_km = energy / SECONDS_PER_HOUR / (length_m / METRES_PER_KM)
    found = Quantity.from_draws(per_km[drawn], "Wh/km", float(per_km[0]))
    return {
        "wh_per_km": found,
        "wh_per_mi": found.scaled(METRES_PER_MILE / METRES_PER_KM, "Wh/mi"),
    }


def _route_answer(
    route: Route,
    ridden: Ridden,
    end_m: FloatArray,
    length_m: float,
    laps: int | None,
    drawn: slice,
    chances: dict[str, float],
    reaches: float,
) -> RouteAnswer:
    found = ridden.walk
    energy = _at_length(ridden, found.terminal_j, found.end_terminal_j, end_m, length_m)
    energy /= SECONDS_PER_HOUR
    seconds = _at_length(ridden, found.time_s, found.end_time_s, end_m, length_m)
    left = np.where(found.end_m < length_m, 0.0, found.at(ridden.left, length_m))
    return RouteAnswer(
        distance_m=length_m,
        ascent_m=route.ascent_m * (laps or 1),
        energy=Quantity.from_draws(energy[drawn], "Wh", float(energy[0])),
        duration_s=Quantity.from_draws(seconds[drawn], "s", float(seconds[0])),
        energy_left_fraction=Quantity.from_draws(left[drawn], "1", float(left[0])),
        arrives_probability=chances["route_end"],
        reaches_probability=reaches,
        laps=laps,
    )


def _peak(trip: Trip, ridden: Ridden) -> Peak:
    found = ridden.walk
    packs = trip.packs.count if trip.packs.use == "in_parallel" else 1
    cells = None if trip.pack.parallel is None else trip.pack.parallel * packs
    return Peak(
        power_w=found.peak_power_w,
        current_a=found.peak_current_a,
        loaded_v=float(found.least_loaded_v),
        per_cell_a=None if cells is None else found.peak_current_a / cells,
    )


def _profile(
    ridden: Ridden, length_m: float, end_m: FloatArray, drawn: slice
) -> tuple[ProfilePoint, ...]:
    """Energy left at even distances, the trip's end among them, on to where the last draw ends."""
    found = ridden.walk
    furthest = max(length_m, float(np.quantile(end_m[drawn], (1 + COVERAGE) / 2)))
    furthest = min(furthest, float(found.at_m[-1]))
    at = np.linspace(0.0, furthest, PROFILE_POINTS)
    at[np.argmin(np.abs(at - min(length_m, furthest)))] = min(length_m, furthest)
    middle = (found.at_m[1:] + found.at_m[:-1]) / 2
    volts = np.interp(at, middle, found.loaded_v)
    speed = np.interp(at, middle, found.speed_mps)
    left = np.stack([found.at(ridden.left, metres) for metres in at.tolist()])
    left = np.where(found.end_m < at[:, None], 0.0, left)
    edges = [(1 - COVERAGE) / 2, (1 + COVERAGE) / 2]
    low, high = np.quantile(left[:, drawn], edges, axis=1)
    best = left[:, 0]
    low, high = np.minimum(low, best), np.maximum(high, best)
    riding = at <= found.end_m[0]
    return tuple(
        ProfilePoint(
            distance_m=float(at[k]),
            low=float(low[k]),
            value=float(best[k]),
            high=float(high[k]),
            loaded_v=float(volts[k]) if riding[k] else None,
            speed_mps=float(speed[k]) if riding[k] else None,
        )
        for k in range(len(at))
    )


def _turn_point(
    trip: Trip, route: Route, steps: Steps, draws: Draws, ridden: Ridden, drawn: slice
) -> TurnPoint | None:
    """How far out one may go and come back by the same way with the reserve untouched.

    Notes
    -----
    Energy at the pack's terminals does not depend on when a piece of road is ridden, but for
    what limits do; so one ride out and one back serve every turning place.
    """
    if trip.route.loop is not None:
        return None
    found = ridden.walk
    if steps.out_steps is not None:
        out_m = float(steps.length_m[: steps.out_steps].sum())
        home = found
        home_from = out_m
    else:
        out_m = steps.total_m
        back = trip_steps(trip, route.reversed(), draws.likely_m)
        home = walk(
            back,
            draws.columns,
            draws.limits,
            start_charge=np.full(len(draws.columns), 0.5),
            longest_m=out_m,
            block_m=draws.likely_m / 100,
            ends=False,
        )
        home_from = 0.0
    places = np.linspace(0.0, out_m, 61)[1:]
    total = home.at(home.terminal_j, home_from + out_m)
    chance = []
    for metres in places.tolist():
        out = found.at(found.terminal_j, metres)
        back_j = total - home.at(home.terminal_j, home_from + out_m - metres)
        # A pack that is past its end by then has no way back, whatever the sums say.
        alive = found.end_m[drawn] >= metres
        chance.append(float((alive & ((out + back_j)[drawn] <= ridden.reserve_j[drawn])).mean()))
    curve = ((0.0, 1.0), *zip(places.tolist(), chance, strict=True))
    distance, probability = _last_safe(curve, trip.probability)
    return TurnPoint(distance_m=distance, probability=probability, curve=curve)


def _last_safe(curve: tuple[tuple[float, float], ...], wanted: float) -> tuple[float, float]:
    """The furthest point up to which the chance never falls under what is wanted."""
    for (before, high), (after, low) in pairwise(curve):
        if low < wanted:
            part = (high - wanted) / (high - low) if high > low else 0.0
            return before + part * (after - before), wanted
    return curve[-1]


def _slow_to(trip: Trip, steps: Steps, draws: Draws, length_m: float) -> SlowTo | None:
    """The highest speed at which the trip arrives with the chosen probability, if any does."""
    target = float(draws.columns.target_mps[0])
    if target <= SLOWEST_MPS:
        return None
    speeds = np.linspace(SLOWEST_MPS, target, SPEEDS)[:-1]
    few = min(SPEED_DRAWS, draws.count) + 1
    part = _first(draws, few)
    together = replace(
        part,
        columns=Columns.joined(
            [part.columns.at_speed(np.full(few, speed / target)) for speed in speeds]
        ),
        start_charge=np.tile(part.start_charge, len(speeds)),
        empty_share=np.tile(part.empty_share, len(speeds)),
    )
    slower = replace(steps, speed_mps=np.full(len(steps), np.nan))
    ridden = ride_on(trip, together, slower, until_m=length_m)
    arrives = np.minimum(ridden.walk.end_m, ridden.reserve_m) >= length_m - 1e-6
    chance = arrives.reshape(len(speeds), few)[:, 1:].mean(axis=1)
    good = np.flatnonzero(chance >= trip.probability)
    if len(good) == 0:
        return None
    best = int(good[-1])
    if best + 1 < len(speeds):
        drop = chance[best] - chance[best + 1]
        more = (chance[best] - trip.probability) / drop if drop > 0 else 0.0
        speed = speeds[best] + more * (speeds[best + 1] - speeds[best])
        return SlowTo(speed_mps=float(speed), probability=trip.probability)
    return SlowTo(speed_mps=float(speeds[best]), probability=float(chance[best]))


def _first(draws: Draws, count: int) -> Draws:
    """The first few draws; a Latin hypercube's rows are in no order."""
    columns = draws.columns.first(count)
    return replace(
        draws,
        columns=columns,
        start_charge=draws.start_charge[:count],
        empty_share=draws.empty_share[:count],
        count=count - 1,
        swings=(),
    )


def _sensitivity(draws: Draws, end_m: FloatArray) -> tuple[Swing, ...]:
    first = draws.count + 1
    found = [
        Swing(
            input=name,
            from_value=low,
            to_value=high,
            range_low_m=float(end_m[first + 2 * k]),
            range_high_m=float(end_m[first + 2 * k + 1]),
        )
        for k, (name, low, high) in enumerate(draws.swings)
    ]
    # A route without stops or climbs has nothing to show for them.
    found = [swing for swing in found if swing.size_m > 0 or swing.input not in CHOSEN_SPAN]
    return tuple(sorted(found, key=lambda swing: -swing.size_m))
