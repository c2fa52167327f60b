"""`follow(test, way) -> Following`: what is left now, how far it goes, and whether it is enough."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import PER_KM
from limpet.evidence.checks import all_questions
from limpet.evidence.model import RangeTest
from limpet.follow.answer import Enough, Following, Way
from limpet.follow.course import Course, course_of
from limpet.follow.rate import LEAST_M, Rate, as_sure, log_rate, rate_of
from limpet.follow.so_far import last_record_s, so_far
from limpet.follow.ways import GivenWay, way_of
from limpet.forecast.answer import SLOWEST_MPS, SlowTo
from limpet.history import informed
from limpet.notices import Notice
from limpet.planning.enough import WANTED, enough
from limpet.quantity import Quantity
from limpet.result import cautions
from limpet.result.calibrated import calibrated
from limpet.result.choose import least_uncertain
from limpet.result.distance import distance_methods
from limpet.result.findings import Findings, find
from limpet.result.heights import UNKNOWN_END_M, climb_wh
from limpet.result.listed import listed_inputs
from limpet.result.model import InputResult
from limpet.result.moving import driving_hours
from limpet.result.priors import NOTHING, Learned, Priors
from limpet.result.reach import quantity
from limpet.result.window import ride_window
from limpet.road import Route
from limpet.trip import Trip
from limpet.words import named_tests

FloatArray = NDArray[np.float64]

#: Draws of the ride.
DRAWS = 500
#: Places at which turning round is tried, and speeds that are tried.
PLACES, SPEEDS = 25, 9
#: How much further than what is left such a ride is looked at.
MOST_RANGES = 1.5
#: Within this of its end a lap counts as ridden [-].
AT_THE_LINE = 0.03
#: No range is told beyond this [m] (bounds of a trip).
MOST_M = 5_000_000.0
#: Inputs of a trip that a ride under way has better from its own readings.
OF_THE_PACK = frozenset(
    {
        "rated_energy_wh", "retained_fraction", "resistance_ohm", "pack_warming", "climb_factor",
        "stops_factor", "tyre_kpa", "surface", "max_power_w",
    }
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class _Now:
    """The ride at the moment, in draws: energy left and usable [Wh], shape (J,)."""

    found: Findings
    rate: Rate
    course: Course
    way: GivenWay
    done_m: float
    left_wh: FloatArray
    usable_wh: FloatArray
    per_m: FloatArray


def follow(
    test: RangeTest,
    trip: Trip | None = None,
    route: Route | None = None,
    *,
    until_s: float | None = None,
    priors: Priors = NOTHING,
) -> Following:
    """What a ride under way has left, and whether it is enough for the way that is left.

    Parameters
    ----------
    test : as recorded so far, or whole
    trip, route : the way (`route_of`); without them it is the way that was ridden, back, or on a
        counted lap the rest of the lap
    until_s : nothing recorded later is looked at [s]; everything when None
    priors : what earlier tests taught

    Returns
    -------
    Following; one reading is enough, and none at all gives what is assumed

    Notes
    -----
    The pack's state is drawn as `analyse` draws it, with the road model's consumption among its inputs;
    what the ride has shown moves every draw (`Rate`), and the way that is left is asked of the moved
    draws. Handbook section 11.
    """
    at_s = last_record_s(test) if until_s is None else until_s
    seen = calibrated(so_far(test, at_s), priors)
    now = _now(seen, trip, route, priors)
    reserve = now.way.trip.reserve
    to_reserve = np.maximum(now.left_wh - reserve * now.usable_wh, 0.0)
    chosen = least_uncertain(now.found.distances)
    drawn = now.found.drawn
    distance = None
    if chosen is not None and drawn.distance_m is not None:
        distance = quantity(drawn.distance_m, "m", chosen.quantity.value)
    way = _way(seen, now, to_reserve) if now.way.leads else None
    warnings = [
        *cautions.stop_now(seen),
        *_questions(seen),
        *([Notice("nothing_recorded")] if not seen.entries and seen.samples is None else []),
        *([] if now.way.stated or now.way.leads else [Notice("no_way_yet")]),
        *_turn_now(now, way),
        *seen.notices,
    ]
    return Following(
        at_s=at_s,
        distance=distance,
        energy_left_fraction=quantity(now.left_wh / now.usable_wh, "1"),
        range_left_to_cutoff=quantity(np.minimum(now.left_wh / now.per_m, MOST_M), "m"),
        range_left_to_reserve=quantity(np.minimum(to_reserve / now.per_m, MOST_M), "m"),
        reserve=reserve,
        way=way,
        enough=_enough(seen, now, distance),
        inputs=_inputs(now),
        warnings=tuple(dict.fromkeys(warnings)),
    )


def _now(seen: RangeTest, trip: Trip | None, route: Route | None, priors: Priors) -> _Now:
    ride = ride_window(seen)
    chosen = least_uncertain(distance_methods(seen, ride)[0])
    line = None if chosen is None else chosen.line
    done_m = 0.0 if chosen is None else chosen.quantity.value
    if trip is not None and route is not None:
        way = GivenWay(trip, route, stated=True, leads=True)
    else:
        way = way_of(seen, ride, line, driving_hours(seen, ride))
    way = replace(way, trip=informed(way.trip, priors))
    known = way.stated or priors.rides is not None or way.trip.vehicle.fit is not None
    course = course_of(way.trip, way.route, way.unsure_climb)
    ridden_m = min(done_m, course.length_m) if not course.repeats else done_m
    rated_m = ridden_m if ridden_m > 1.0 else course.length_m
    modelled = as_sure(log_rate(course.energy_wh(rated_m), rated_m), known)
    found = find(seen, _with_road(priors, modelled, way), draws=DRAWS)
    rate = rate_of(found, modelled, done_m, _unknown_height(seen, found, way))
    state = found.left.state
    delivered = state.capacity_ah * found.left.model.ride.series * (1 - state.lost)
    end = found.left.at_ends(state.stored, state.cut_stored)[-1]
    in_turn = len(ride.packs) > 1 or seen.sheet.packs_use == "in_sequence"
    spare = max((seen.sheet.packs_used or 1) - len(ride.packs), 0) if in_turn else 0
    usable = state.usable * delivered
    left = np.clip(end - state.cut_stored, 0.0, state.usable) * delivered + spare * usable
    per_m = _per_m(seen, found, rate, course, way, done_m)
    return _Now(
        found=found,
        rate=rate,
        course=course,
        way=way,
        done_m=done_m,
        left_wh=left,
        usable_wh=usable * (spare + len(ride.packs)),
        per_m=per_m * _scatter(found, float(np.median(left / per_m))),
    )


def _per_m(
    seen: RangeTest, found: Findings, rate: Rate, course: Course, way: GivenWay, done_m: float
) -> FloatArray:
    """Consumption of this kind of riding, if it goes on [Wh/m], shape (J,).

    On a trip it is the trip's, on the whole; else that of what was ridden, brought to the level.
    """
    if way.stated:
        whole = rate.carried(course.energy_wh(course.length_m)) / course.length_m
        return np.maximum(whole, 0.05 * float(np.median(np.abs(whole))) + 1e-6)
    shown = np.exp(rate.shown)
    if found.heights is None or done_m < LEAST_M:
        return shown
    height = climb_wh(seen, found.heights.climbed_m) / done_m
    return np.maximum(shown - height, 0.4 * shown)


def _with_road(priors: Priors, modelled: FloatArray, way: GivenWay) -> Priors:
    """The road model's consumption as what is known of it before the ride."""
    kind = way.trip.vehicle.kind.replace("_", " ")
    spread = float(modelled.std())
    middle = float(np.exp(np.median(modelled)))
    said = f"road model of the {'trip' if way.stated else kind}"
    fit = way.trip.vehicle.fit
    if fit is not None:
        said = f"road model, fitted to {named_tests(fit.titles, fit.tests)}"
    elif priors.rides is not None:
        said = f"{priors.rides.wh_per_km.source}, by the road model"
    return priors.also(
        consumption_wh_per_m=Learned(
            value=middle, standard_uncertainty=spread * middle, tests=(), said=said
        )
    )


def _unknown_height(seen: RangeTest, found: Findings, way: GivenWay) -> float:
    """What a difference of height that nobody noted may have taken so far [Wh]."""
    if way.stated or found.heights is not None or way.trip.route.loop is not None:
        return 0.0
    return climb_wh(seen, UNKNOWN_END_M)


def _scatter(found: Findings, metres: FloatArray | float) -> FloatArray:
    """How pieces of road ahead may differ from what such a road takes, factor, shape (…, J)."""
    std = np.asarray(PER_KM.std / np.sqrt(np.maximum(np.asarray(metres) / 1000, 0.2)))
    return np.exp(np.clip(std[..., None] * found.left.value("way_ahead"), -1.0, 1.0))


def _way(seen: RangeTest, now: _Now, to_reserve: FloatArray) -> Way:
    """Whether the way that is left can be ridden; by when to turn; how slowly."""
    course, trip = now.course, now.way.trip
    until_m = _until_m(now)
    left_m = max(until_m - now.done_m, 0.0)
    scatter = _scatter(now.found, left_m)
    # What the way out climbed unnoticed, the way back gives.
    height = _unknown_height(seen, now.found, now.way) * now.found.left.value("height")
    begin = min(now.done_m, until_m)
    need = now.rate.carried(course.between_wh(begin, until_m)) * scatter - 2 * height
    arrives = _chance(need <= to_reserve)
    slow = None
    if arrives < trip.probability and left_m > 0:
        slow = _slow_to(now, begin, until_m, need, to_reserve)
    return Way(
        left_m=left_m,
        arrives_probability=arrives,
        reaches_probability=_chance(need <= now.left_wh),
        energy_left_fraction=quantity(
            np.clip(now.left_wh - need, 0.0, now.usable_wh) / now.usable_wh, "1"
        ),
        turn_by_m=_turn_by(now, height, to_reserve),
        slow_to=slow,
    )


def _chance(true: NDArray[np.bool_]) -> float:
    return float(true.mean())


def _until_m(now: _Now) -> float:
    """Where the way ends, from its start [m]; on a lap without a number, at the end of the lap."""
    course = now.course
    if not course.repeats:
        return course.length_m
    laps = now.way.trip.route.laps
    if laps is None:
        laps = int(now.done_m / course.length_m + AT_THE_LINE) + 1
    return laps * course.length_m


def _turn_by(now: _Now, height: FloatArray, to_reserve: FloatArray) -> float | None:
    """How far out, from the start, one may go and still be back with the reserve untouched [m]."""
    course, done = now.course, now.done_m
    wanted = now.way.trip.probability
    if course.repeats:
        return None
    if not now.way.stated:
        # Such a road goes on: each metre is ridden twice.
        reach = MOST_RANGES * float(np.median(to_reserve / now.per_m)) / 2
        places = done + np.linspace(0.0, max(reach, 1.0), PLACES)
        back = now.rate.carried(course.between_wh(done, course.length_m))
        needs = back + 2 * (places - done)[:, None] * now.per_m
    else:
        out_m = course.length_m if course.out_m is None else course.out_m
        if done >= out_m:
            return None
        places = np.linspace(done, out_m, PLACES)
        rows = []
        for place in places.tolist():
            home = course.home_wh(place)
            assert home is not None
            rows.append(course.between_wh(done, place) + home)
        needs = now.rate.carried(np.stack(rows))
    needs = needs * _scatter(now.found, 2 * places - done) - 2 * height
    chances = (needs <= to_reserve).mean(axis=1)
    return _last_safe(places, chances, wanted)


def _last_safe(places: FloatArray, chances: FloatArray, wanted: float) -> float | None:
    """The furthest place up to which the chance never falls under what is wanted; None of none."""
    if chances[0] < wanted:
        return None
    rows = zip(places.tolist(), chances.tolist(), strict=True)
    for (before, high), (after, low) in pairwise(rows):
        if low < wanted:
            return float(before + (high - wanted) / max(high - low, 1e-9) * (after - before))
    return float(places[-1])


def _slow_to(
    now: _Now,
    begin_m: float,
    until_m: float,
    need: FloatArray,
    to_reserve: FloatArray,
) -> SlowTo | None:
    """The highest speed at which the rest of the way is ridden with the wanted chance."""
    course = now.course
    target = float(course.draws.columns.target_mps[0])
    if target <= SLOWEST_MPS:
        return None
    speeds = np.linspace(SLOWEST_MPS, target, SPEEDS)[:-1]
    needs = need * course.at_speeds(speeds.tolist(), begin_m, until_m)
    chances = (needs <= to_reserve).mean(axis=1)
    wanted = now.way.trip.probability
    good = np.flatnonzero(chances >= wanted)
    if len(good) == 0:
        return None
    best = int(good[-1])
    speed, chance = float(speeds[best]), float(chances[best])
    if best + 1 < len(speeds):
        step = (chance - wanted) / max(chance - float(chances[best + 1]), 1e-9)
        return SlowTo(
            speed_mps=speed + step * float(speeds[best + 1] - speeds[best]), probability=wanted
        )
    return SlowTo(speed_mps=speed, probability=chance)


def _turn_now(now: _Now, way: Way | None) -> list[Notice]:
    """Where going on in any case costs the reserve."""
    if way is None or way.arrives_probability >= now.way.trip.probability:
        return []
    if way.reaches_probability < now.way.trip.probability:
        return [
            Notice("may_not_get_home", left_m=way.left_m, chance_pct=100 * way.reaches_probability)
        ]
    return [
        Notice("cuts_into_reserve", left_m=way.left_m, chance_pct=100 * way.arrives_probability)
    ]


def _questions(seen: RangeTest) -> list[Notice]:
    asked = all_questions(seen.sheet.pack, seen.sheet.packs_used or 1, seen.entries)
    return [*asked, *([Notice("hangs_on_question")] if asked else [])]


def _enough(seen: RangeTest, now: _Now, distance: Quantity | None) -> Enough | None:
    """How well a full pack's range would be known if the ride stopped now, and when well enough."""
    if distance is None or not now.found.told:
        return None
    reach = quantity(now.usable_wh / now.per_m, "m")
    half = (reach.high - reach.low) / 2 / max(reach.value, 1e-9)
    if now.found.ride.reached_end:
        half = (distance.high - distance.low) / 2 / max(distance.value, 1e-9)
    metered = now.found.progress.basis in ("charge", "energy")
    plan = enough(reach.value, instruments=seen.sheet.instruments, counts_charge=metered)
    at = np.array([place for place, _ in plan.curve])
    widths = np.array([width for _, width in plan.curve])
    # As the plan has it, but beginning with what this ride has reached.
    scale = half / max(float(np.interp(now.done_m, at, widths)), 1e-9)
    later = np.flatnonzero((at >= now.done_m) & (widths * scale <= WANTED))
    at_m = now.done_m if half <= WANTED else float(at[later[0]]) if len(later) else None
    return Enough(relative_half_width=half, wanted=WANTED, at_distance_m=at_m)


def _inputs(now: _Now) -> tuple[InputResult, ...]:
    own = listed_inputs(now.found.left)
    names = {item.name for item in own}
    road = [
        InputResult(
            name=item.name,
            value=item.value,
            standard_uncertainty=item.standard_uncertainty,
            source=item.source,
        )
        for item in now.course.draws.inputs.by_name.values()
        if item.name not in OF_THE_PACK and item.name not in names
    ]
    return (*own, *road)
