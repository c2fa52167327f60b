"""The way of a ride: a trip's, or the way back as it came, or the rest of its lap."""

from __future__ import annotations

from dataclasses import dataclass

from limpet.assumptions import HIDDEN_STANDING, RESERVE, USUAL_CLIMB_M_PER_KM
from limpet.evidence.model import RangeTest
from limpet.result.climb import climb_of, profile_of
from limpet.result.line import Line
from limpet.result.window import RideWindow
from limpet.result.world import pack_temp_c
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


@dataclass(frozen=True, slots=True)
class GivenWay:
    """A trip and its route as ridden once; `stated` where a rider planned it, `leads` where it is a way
    that can be gone on with or turned on; `unsure_climb` is u of its climb, relative."""

    trip: Trip
    route: Route
    stated: bool
    leads: bool
    unsure_climb: float = 0.0


def way_of(test: RangeTest, ride: RideWindow, line: Line | None, hours: float) -> GivenWay:
    """The way home of a ride that nobody planned: the rest of its lap, or back as it came.

    Parameters
    ----------
    line : distance over time
    hours : of driving
    """
    done_m = 0.0 if line is None else line.span
    lap_m = _lap_m(test)
    speed = _speed(test, done_m, hours)
    if lap_m is not None:
        spec = RouteSpec(loop=LoopSpec(length_m=lap_m))
        climb_m = USUAL_CLIMB_M_PER_KM.value * lap_m / 1000
        return GivenWay(
            _trip(test, spec, speed),
            loop(lap_m, climb_m=climb_m, descent_m=climb_m, surface=_surface(test)),
            stated=False,
            leads=True,
            unsure_climb=USUAL_CLIMB_M_PER_KM.std / USUAL_CLIMB_M_PER_KM.value,
        )
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
        stated=False,
        leads=leads,
        unsure_climb=0.0 if known else USUAL_CLIMB_M_PER_KM.std / USUAL_CLIMB_M_PER_KM.value,
    )


def _lap_m(test: RangeTest) -> float | None:
    tools = test.sheet.instruments
    if tools is None or tools.lap is None or tools.lap.length_m is None:
        return None
    counted = any(entry.laps is not None or entry.kind == "lap" for entry in test.entries)
    return tools.lap.length_m if counted else None


def _speed(test: RangeTest, done_m: float, hours: float) -> SpeedSpec:
    rules = test.sheet.protocol
    # An ordinary ride has traffic.
    policy = (rules.speed_policy if rules is not None else None) or "with_traffic"
    if done_m >= LEAST_WAY_M and hours > 0:
        held = done_m / hours / 3600
        if test.column("speed_mps") is None:
            held *= HIDDEN_STANDING.value
        if SLOWEST_MPS <= held <= FASTEST_MPS:
            return SpeedSpec(policy=policy, average_mps=held)
    return SpeedSpec(policy=policy, target_mps=None if rules is None else rules.target_speed_mps)


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
            wind_mps=None if air is None else _known(air.wind_mps),
            wind_from_deg=None if air is None else air.wind_from_deg,
            pressure_hpa=None if air is None else air.pressure_hpa,
            humidity_pct=None if air is None else air.humidity_pct,
        ),
        tyres=TripTyres(pressure_kpa=None if sheet.tyres is None else sheet.tyres.pressure_kpa),
        route=route,
        speed=speed,
        reserve=RESERVE.value if reserve is None else reserve,
    )
