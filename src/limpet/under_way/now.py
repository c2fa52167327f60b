"""A ride at the moment: its findings, its road, and in draws what is left and what a metre takes."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import PER_KM
from limpet.evidence.model import RangeTest
from limpet.figures.findings import Findings, find
from limpet.history import informed
from limpet.read.choose import least_uncertain
from limpet.read.distance import distance_methods
from limpet.read.height_difference import UNKNOWN_END_M, climb_wh
from limpet.read.line import Line
from limpet.read.moving import driving_hours
from limpet.read.window import ride_window
from limpet.road import Route
from limpet.state.priors import Learned, Priors
from limpet.trip import Trip
from limpet.under_way.demand import Course, course_of
from limpet.under_way.rate import LEAST_M, Rate, log_rate, rate_of, unmodelled
from limpet.under_way.ways import GivenWay, WayAhead, way_of
from limpet.under_way.weather import ridden_wh, with_weather
from limpet.units import SECONDS_PER_HOUR
from limpet.words import named_tests

FloatArray = NDArray[np.float64]

#: Draws of the ride.
DRAWS = 500
#: Nothing that is read tells better than this of a full pack how much its weakest cells have left when a
#: drive gives out: u of what is left [-] (assumption).
LAST_STD = 0.02


@dataclass(frozen=True, slots=True)
class Now:
    """The ride at the moment, in draws: energy left and usable [Wh], shape (J,).

    `left_wh` is `read_wh`, of which readings tell, and `last_wh`, of which none does (how unlike the
    cells are at their end), within what a pack holds. `line` is true distance over time, None before the
    first metre; the way was last read at `until_s`, `done_m` from the start: what came after that nobody
    has said. `spare` packs wait to be used, and so do `in_bag`, of which nobody counts on.
    """

    found: Findings
    rate: Rate
    course: Course
    way: GivenWay
    done_m: float
    left_wh: FloatArray
    read_wh: FloatArray
    last_wh: FloatArray
    usable_wh: FloatArray
    per_m: FloatArray
    line: Line | None
    until_s: float
    spare: int
    in_bag: int

    @property
    def one_pack_wh(self) -> FloatArray:
        """What one full pack gives [Wh], shape (J,)."""
        return self.usable_wh / (self.spare + len(self.found.evidence.ride.packs))


def now_of(
    seen: RangeTest,
    trip: Trip | None,
    route: Route | None,
    priors: Priors,
    ahead: WayAhead | None = None,
) -> Now:
    """Draw a ride as it stands.

    Parameters
    ----------
    seen : what was recorded so far, its instruments set right
    trip, route, ahead : the way, as `follow` has it
    """
    ride = ride_window(seen)
    chosen = least_uncertain(distance_methods(seen, ride)[0])
    line = None if chosen is None else chosen.line
    until_s = read_until_s(seen)
    done_m = (
        0.0 if line is None else float(np.clip(line.at(np.array([until_s]))[0], 0.0, line.span))
    )
    if trip is not None and route is not None and ahead is None:
        way = GivenWay(trip, route, onward="planned", leads=True)
    else:
        way = way_of(seen, ride, line, driving_hours(seen, ride), ahead)
    way, behind = with_weather(seen, replace(way, trip=informed(way.trip, priors)), line, done_m)
    known = way.stated or priors.rides is not None or way.trip.vehicle.fit is not None
    course = course_of(way.trip, way.route, way.unsure_climb, evenly=way.evenly)
    ridden_m = min(done_m, course.length_m) if not course.repeats else done_m
    rated_m = ridden_m if ridden_m > 1.0 else _begins_with_m(course, way)
    # Of a way that is still to be ridden nothing lies behind.
    taken = ridden_wh(course, behind if ridden_m > 1.0 else [], rated_m)
    logs = log_rate(taken, rated_m)
    common = unmodelled(logs, known)
    modelled = logs + common
    speed_mps = float(course.draws.columns.target_mps[0])
    cruise_w = float(np.exp(np.median(modelled))) * speed_mps * SECONDS_PER_HOUR
    found = find(
        seen, _with_road(priors, modelled, way), draws=DRAWS, under_way=True, cruise_w=cruise_w
    )
    state = found.remaining.state
    delivered = state.capacity_ah * found.remaining.model.ride.series * (1 - state.lost)
    ends = found.remaining.at_ends(state.stored, state.cut_stored)
    end = ends[-1]
    used = (state.stored[found.remaining.model.ride.first_knots] - ends).sum(axis=0)
    used_wh = (used + state.added_stored) * delivered
    rate = rate_of(found, modelled, common, done_m, unknown_height(seen, found, way), used_wh)
    use = seen.sheet.packs_use
    in_turn = use == "in_sequence" or (len(ride.packs) > 1 and use != "spare")
    spare = max((seen.sheet.packs_used or 1) - len(ride.packs), 0) if in_turn else 0
    in_bag = max((seen.sheet.packs_used or 1) - len(ride.packs), 0) if use == "spare" else 0
    usable = state.usable * delivered
    last = LAST_STD * np.random.default_rng(23).standard_normal(len(end)) * usable
    read = (end - state.cut_stored) * delivered
    left = np.clip(read + last, 0.0, usable) + spare * usable
    per_m = _per_m(seen, found, rate, course, way, done_m)
    return Now(
        found=found,
        rate=rate,
        course=course,
        way=way,
        done_m=done_m,
        left_wh=left,
        read_wh=read + spare * usable,
        last_wh=last,
        usable_wh=usable * (spare + len(ride.packs)),
        per_m=per_m * scatter(found, float(np.median(left / per_m))),
        line=line,
        until_s=until_s,
        spare=spare,
        in_bag=in_bag,
    )


def _begins_with_m(course: Course, way: GivenWay) -> float:
    """The part of a way that a ride shows the consumption of first [m].

    On a way out without end that is the way out alone: a wind that turns is against the rider or with them there,
    and what the way home takes goes the other way.
    """
    if way.onward == "back" and not way.turned and not course.repeats and not way.stated:
        return course.length_m / 2 if course.out_m is None else course.out_m
    return course.length_m


#: What tells how far a ride has come: columns of an entry, and of samples.
_WAY = ("trip_m", "gps_m", "odometer_m", "laps")
_LOGGED_WAY = ("distance_m", "speed_mps", "latitude_deg")


def read_until_s(seen: RangeTest) -> float:
    """When the way was last read [s]: what comes after it is not ridden until something says so."""
    noted = [
        entry.time_s
        for entry in seen.entries
        if entry.kind == "lap" or any(getattr(entry, name) is not None for name in _WAY)
    ]
    time = seen.column("time_s")
    if time is not None and any(seen.column(name) is not None for name in _LOGGED_WAY):
        noted.append(float(time[-1]))
    return max(noted, default=0.0)


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
    if found.evidence.heights is None or done_m < LEAST_M:
        return shown
    height = climb_wh(seen, found.evidence.heights.climbed_m) / done_m
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


def unknown_height(seen: RangeTest, found: Findings, way: GivenWay) -> float:
    """What a difference of height that nobody noted may have taken so far [Wh]."""
    if way.stated or found.evidence.heights is not None or way.trip.route.loop is not None:
        return 0.0
    return climb_wh(seen, UNKNOWN_END_M)


def scatter(found: Findings, metres: FloatArray | float) -> FloatArray:
    """How pieces of road ahead may differ from what such a road takes, factor, shape (…, J)."""
    std = np.asarray(PER_KM.std / np.sqrt(np.maximum(np.asarray(metres) / 1000, 0.2)))
    return np.exp(np.clip(std[..., None] * found.remaining.value("way_ahead"), -1.0, 1.0))
