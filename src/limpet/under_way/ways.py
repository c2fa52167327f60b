"""The way of a ride: a trip's, or the way back as it came, or the rest of its lap."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from limpet.assumptions import HIDDEN_STANDING, RESERVE, USUAL_CLIMB_M_PER_KM
from limpet.evidence.model import RangeTest
from limpet.evidence.noted import wind_now
from limpet.figures.climb import climb_of, profile_of
from limpet.read.line import Line
from limpet.read.stated import pack_temp_c
from limpet.read.window import RideWindow
from limpet.road import Leg, Route, Surface, loop
from limpet.trip import (
    Known,
    LoopSpec,
    RouteSpec,
    SpeedSpec,
    Trip,
    TripConditions,
    TripPack,
    TripRider,
    TripTyres,
    TripVehicle,
)

#: Before anybody has ridden so far there is no way back [m], nor from where no such vehicle gets; the
#: road model is asked for a level way of some length then.
LEAST_WAY_M, MOST_WAY_M, LEVEL_WAY_M = 100.0, 2_000_000.0, 5000.0
#: Moving averages that are taken at their word [m/s].
SLOWEST_MPS, FASTEST_MPS = 0.5, 60.0


#: How a way goes on: as planned, back as it came, so far as a rider says, round its lap.
Onward = Literal["planned", "back", "given", "lap"]
#: Rides that a rider can say are still to come: no longer than a test, no more laps than it may count.
MOST_LAPS = 1000
#: Hills that nobody placed come about every so often [m], and no way is cut into more pieces (assumption).
PIECE_M, MOST_PIECES = 1500.0, 30


@dataclass(frozen=True, slots=True, kw_only=True)
class WayAhead:
    """What a rider says on the way of the way that is left.

    `onward` back as it came, or given: from `from_m` to `until_m` of this ride's own distance [m] with
    `climb_m` on it where it is known; or round the lap until `laps` are ridden in all.
    """

    onward: Literal["back", "given", "lap"]
    from_m: float = 0.0
    until_m: float | None = None
    climb_m: float | None = None
    laps: int | None = None


@dataclass(frozen=True, slots=True)
class GivenWay:
    """A trip and its route as ridden once; `leads` where it is a way that can be gone on with or turned
    on; `unsure_climb` is u of its climb, relative; `turned` where it is under way back already."""

    trip: Trip
    route: Route
    onward: Onward
    leads: bool
    unsure_climb: float = 0.0
    turned: bool = False

    @property
    def evenly(self) -> bool:
        """Whether its hills are spread along it by assumption."""
        return self.onward == "given"

    @property
    def stated(self) -> bool:
        """Whether a rider planned it."""
        return self.onward == "planned"


def way_of(
    test: RangeTest,
    ride: RideWindow,
    line: Line | None,
    hours: float,
    ahead: WayAhead | None = None,
) -> GivenWay:
    """The way home of a ride that nobody planned: as its rider says, the rest of its lap, or back as it came.

    Parameters
    ----------
    line : distance over time
    hours : of driving
    ahead : what its rider says of it
    """
    done_m = 0.0 if line is None else line.span
    speed = _speed(test, done_m, hours)
    if ahead is not None and ahead.onward == "given" and ahead.until_m is not None:
        return _given(test, speed, ahead, ahead.until_m)
    lap_m = None if ahead is not None and ahead.onward == "back" else _lap_m(test)
    if lap_m is not None:
        laps = None if ahead is None else ahead.laps
        spec = RouteSpec(loop=LoopSpec(length_m=lap_m), laps=laps)
        climb_m = USUAL_CLIMB_M_PER_KM.value * lap_m / 1000
        return GivenWay(
            _trip(test, spec, speed),
            loop(lap_m, climb_m=climb_m, descent_m=climb_m, surface=_surface(test)),
            onward="lap",
            leads=True,
            unsure_climb=USUAL_CLIMB_M_PER_KM.std / USUAL_CLIMB_M_PER_KM.value,
        )
    turned_m = _turned_m(test, line)
    if turned_m is not None:
        # The way out is known by now: what lies beyond its turn is the way back.
        done_m = turned_m
    climb = climb_of(profile_of(test, ride, line))
    leads = LEAST_WAY_M <= done_m <= MOST_WAY_M
    length_m = done_m if leads else LEVEL_WAY_M
    usual_m = USUAL_CLIMB_M_PER_KM.value * length_m / 1000
    known = climb is not None and leads
    leg = Leg(
        length_m=length_m,
        climb_m=climb.ascent_m if climb is not None and known else usual_m,
        descent_m=climb.descent_m if climb is not None and known else usual_m,
        surface=_surface(test),
    )
    spec = RouteSpec(legs=(leg,), and_back=True)
    return GivenWay(
        _trip(test, spec, speed),
        Route(legs=(leg,)).and_back(),
        onward="back",
        leads=leads,
        unsure_climb=0.0 if known else USUAL_CLIMB_M_PER_KM.std / USUAL_CLIMB_M_PER_KM.value,
        turned=turned_m is not None,
    )


def _turned_m(test: RangeTest, line: Line | None) -> float | None:
    """How far out a ride was when its rider noted the turn [m]; None where nobody did."""
    turn = next((entry for entry in reversed(test.entries) if entry.kind == "turn"), None)
    if turn is None or line is None:
        return None
    out_m = float(line.at(np.array([turn.time_s]))[0])
    return out_m if LEAST_WAY_M <= out_m <= MOST_WAY_M else None


def _given(test: RangeTest, speed: SpeedSpec, ahead: WayAhead, until_m: float) -> GivenWay:
    """What was ridden until the rider said it, and what is left by their word."""
    from_m = max(ahead.from_m, 0.0)
    left_m = max(until_m - from_m, 1.0)

    known = ahead.climb_m is not None
    usual = USUAL_CLIMB_M_PER_KM.value / 1000
    surface = _surface(test)
    legs: list[Leg] = []
    if from_m >= 1.0:
        legs += _rolling(from_m, usual * from_m, usual * from_m, surface)
    climb_m = usual * left_m if ahead.climb_m is None else ahead.climb_m
    # Of a climb that is told nothing is said to come back.
    legs += _rolling(left_m, climb_m, 0.0 if known else usual * left_m, surface)
    return GivenWay(
        _trip(test, RouteSpec(legs=tuple(legs)), speed),
        Route(legs=tuple(legs)),
        onward="given",
        leads=True,
        unsure_climb=0.0 if known else USUAL_CLIMB_M_PER_KM.std / USUAL_CLIMB_M_PER_KM.value,
    )


def _rolling(length_m: float, climb_m: float, descent_m: float, surface: Surface) -> list[Leg]:
    """A way of which only the sums are known: its hills spread along it, not one at its beginning."""
    pieces = max(1, min(MOST_PIECES, round(length_m / PIECE_M)))
    leg = Leg(
        length_m=length_m / pieces,
        climb_m=climb_m / pieces,
        descent_m=descent_m / pieces,
        surface=surface,
    )
    return [leg] * pieces


def _lap_m(test: RangeTest) -> float | None:
    tools = test.sheet.instruments
    if tools is None or tools.lap is None or tools.lap.length_m is None:
        return None
    counted = any(entry.laps is not None or entry.kind == "lap" for entry in test.entries)
    return tools.lap.length_m if counted else None


def said_mps(test: RangeTest) -> float | None:
    """The speed that the rider said to hold [m/s]; None where nobody did."""
    rules = test.sheet.protocol
    return None if rules is None else rules.target_speed_mps


def with_hidden_standing(mean_mps: float, said: float | None) -> float:
    """The speed that was held where so much came of it on the mean [m/s].

    Notes
    -----
    Who said a speed and came by that on the mean has not stood unnoticed: what was said is held, and no
    standing is made up beyond it.
    """
    held = mean_mps * HIDDEN_STANDING.value
    return held if said is None else min(held, max(mean_mps, said))


def _speed(test: RangeTest, done_m: float, hours: float) -> SpeedSpec:
    rules = test.sheet.protocol
    # An ordinary ride has traffic.
    policy = (rules.speed_policy if rules is not None else None) or "with_traffic"
    if done_m >= LEAST_WAY_M and hours > 0:
        held = done_m / hours / 3600
        if test.column("speed_mps") is None:
            held = with_hidden_standing(held, said_mps(test))
        if SLOWEST_MPS <= held <= FASTEST_MPS:
            return SpeedSpec(policy=policy, average_mps=held)
    return SpeedSpec(policy=policy, target_mps=said_mps(test))


def _surface(test: RangeTest) -> Surface:
    air = test.sheet.conditions
    return "smooth_paved" if air is None or air.surface is None else air.surface


def _known(value: float | None) -> Known | None:
    return None if value is None else Known(value=value, source="sheet")


def _trip(test: RangeTest, route: RouteSpec, speed: SpeedSpec) -> Trip:
    """A trip as the sheet of a test describes it."""
    sheet = test.sheet
    rider, air, pack = sheet.rider, sheet.conditions, sheet.pack
    temps = air is not None and (air.temp_start_c is not None or air.temp_end_c is not None)
    reserve = sheet.protocol.reserve if sheet.protocol is not None else None
    wind_mps, wind_from_deg = wind_now(test)
    return Trip(
        vehicle=TripVehicle(
            kind=sheet.vehicle.kind,
            name=sheet.vehicle.name,
            mass_kg=_known(sheet.vehicle.mass_kg),
            regeneration=sheet.vehicle.regeneration or 0.0,
            max_speed_mps=sheet.vehicle.max_speed_mps,
            step_down=sheet.vehicle.step_down,
        ),
        pack=TripPack(
            name=pack.name,
            chemistry=pack.chemistry,
            series=pack.series,
            rated_ah=pack.rated_ah,
            rated_wh=pack.rated_wh,
            full_v=pack.full_v,
            cutoff_v=pack.cutoff_v,
        ),
        rider=TripRider(
            mass_kg=None if rider is None else _known(rider.mass_kg),
            gear_kg=None if rider is None else _known(rider.gear_kg),
            pedal_power_w=0.0 if rider is None else rider.pedal_power_w or 0.0,
        ),
        conditions=TripConditions(
            temp_c=_known(pack_temp_c(test)) if temps else None,
            wind_mps=_known(wind_mps),
            wind_from_deg=wind_from_deg,
            pressure_hpa=None if air is None else air.pressure_hpa,
            humidity_pct=None if air is None else air.humidity_pct,
        ),
        tyres=TripTyres(pressure_kpa=None if sheet.tyres is None else sheet.tyres.pressure_kpa),
        route=route,
        speed=speed,
        reserve=RESERVE.value if reserve is None else reserve,
    )
