"""What a forecast must say beside its numbers: what was assumed, what is unsafe, what would work."""

from __future__ import annotations

from limpet.assumptions import assumed_otherwise, is_plausible, plausible_span
from limpet.notices import Notice
from limpet.outlook.answer import SLOWEST_MPS, Forecast
from limpet.pack import FACTS, FREEZING_C
from limpet.road import Route
from limpet.trip import Trip

#: More than this of a cell's capacity per hour asks for a look at its data sheet [1/h]
#: (assumption: most energy cells are rated for 2 to 3).
HIGH_RATE_PER_H = 2.0
#: A descent of this much [m] soon after a full start can meet a pack that takes nothing back.
TOP_DESCENT_M = 30.0
FULL_FROM = 0.9
#: The coldest that the capacity tables know [°C], and a wind that moves a light vehicle [m/s].
COLDEST_C = -10.0
STORM_MPS = 15.0


def trip_warnings(trip: Trip, route: Route, answer: Forecast) -> list[Notice]:
    """Everything a rider must hear before setting out, most urgent first."""
    return [
        *_end_warnings(trip, answer),
        *_slow_warnings(trip, answer),
        *_pack_warnings(trip, answer),
        *_regeneration_warnings(trip, route),
        *_weather_warnings(trip, route),
        *_assumptions(trip, answer),
    ]


def _end_warnings(trip: Trip, answer: Forecast) -> list[Notice]:
    chance = answer.route.reaches_probability
    if chance >= trip.probability or (trip.route.laps is None and trip.route.loop is not None):
        return []
    length, reach = answer.route.distance_m, answer.range_to_cutoff.value
    if chance > 0.02:
        return [Notice("may_not_arrive", way_m=length, chance_pct=100 * chance)]
    times = length / max(reach, 1.0)
    return [
        Notice(
            "beyond_any_charge",
            way_m=length,
            ratio=times,
            reach_m=reach,
            floor_m=answer.floor_m,
            packs=int(times / (1 - trip.reserve)) + 1,
        )
    ]


def _slow_warnings(trip: Trip, answer: Forecast) -> list[Notice]:
    if trip.route.loop is not None or answer.slow_to is not None:
        return []
    if answer.route.arrives_probability >= trip.probability:
        return [Notice("slow_to_not_needed")]
    return [Notice("slow_to_none", least_mps=SLOWEST_MPS, wanted_pct=100 * trip.probability)]


def _pack_warnings(trip: Trip, answer: Forecast) -> list[Notice]:
    found = []
    pack, facts = trip.pack, FACTS[trip.pack.chemistry]
    floor_v = facts.floor_v
    if pack.cutoff_v is None:
        found.append(Notice("assumed_cutoff", cell_v=floor_v, cutoff_v=floor_v * pack.series))
    elif pack.cutoff_v < floor_v * pack.series:
        found.append(
            Notice(
                "cutoff_below_floor",
                cutoff_v=pack.cutoff_v,
                cell_v=pack.cutoff_v / pack.series,
                floor_v=floor_v,
                chemistry=pack.chemistry,
            )
        )
    rate = answer.peak.current_a / (pack.rated_ah * max(trip.packs.count, 1))
    if rate > HIGH_RATE_PER_H and not pack.chemistry.startswith("lead"):
        found.append(Notice("high_current", current_a=answer.peak.current_a, rate_per_h=rate))
    return found


def _regeneration_warnings(trip: Trip, route: Route) -> list[Notice]:
    if trip.vehicle.regeneration == 0 or trip.start_energy_fraction.value <= FULL_FROM:
        return []
    fall = 0.0
    for leg in route.legs[: max(len(route.legs) // 4, 1)]:
        fall += leg.descent_m - leg.climb_m
        if fall > TOP_DESCENT_M:
            return [Notice("regeneration_when_full", fall_m=fall)]
    return []


def _weather_warnings(trip: Trip, route: Route) -> list[Notice]:
    found = []
    temp = trip.conditions.temp_c
    if temp is not None and temp.value <= FREEZING_C and not trip.pack.chemistry.startswith("lead"):
        found.append(Notice("cold_day", air_c=temp.value))
    if temp is not None and temp.value < COLDEST_C:
        found.append(Notice("colder_than_table", limit_c=COLDEST_C))
    wind = trip.conditions.wind_mps
    if wind is not None and wind.value > STORM_MPS:
        found.append(Notice("storm", wind_mps=wind.value))
    some_bearing = any(leg.bearing_deg is not None or leg.winding for leg in route.legs)
    if wind is not None and wind.value > 2 and not some_bearing:
        found.append(Notice("bearing_unknown"))
    return found


def _assumptions(trip: Trip, answer: Forecast) -> list[Notice]:
    found = []
    starts = [item.name for item in answer.inputs if item.source.startswith("start value")]
    fitted = trip.known_consumption_wh_per_km is not None or trip.vehicle.fit is not None
    if "cda_m2" in starts and not fitted:
        found.append(Notice("start_values", vehicle=trip.vehicle.kind.replace("_", " ")))
    per_mi = answer.wh_per_mi.value
    if not is_plausible(trip.vehicle.kind, per_mi):
        found.append(
            Notice(
                "implausible_forecast",
                vehicle=trip.vehicle.kind.replace("_", " "),
                **plausible_span(trip.vehicle.kind, per_mi),
            )
        )
    own = assumed_otherwise()
    if own:
        found.append(Notice("own_assumptions", names=", ".join(item.label for item in own)))
    return found
