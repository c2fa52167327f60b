"""What a forecast must say beside its numbers: what was assumed, what is unsafe, what would work."""

from __future__ import annotations

from limpet.assumptions import PLAUSIBLE_WH_PER_MI, is_plausible
from limpet.drive.voltage import is_line
from limpet.evidence.model import Notice
from limpet.forecast.answer import Forecast
from limpet.pack import FACTS
from limpet.road import Route
from limpet.trip import Trip

#: More than this of a cell's capacity per hour asks for a look at its data sheet [1/h]
#: (assumption: most energy cells are rated for 2 to 3).
HIGH_RATE_PER_H = 2.0
#: A descent of this much [m] soon after a full start can meet a pack that takes nothing back.
TOP_DESCENT_M = 30.0
FULL_FROM = 0.9


def trip_warnings(trip: Trip, route: Route, answer: Forecast) -> list[Notice]:
    """Everything a rider must hear before setting out, most urgent first."""
    found = [
        *_end_warnings(trip, answer),
        *_slow_warnings(trip, answer),
        *_pack_warnings(trip, answer),
        *_regeneration_warnings(trip, route),
        *_weather_warnings(trip, route),
        *_assumptions(trip, answer),
    ]
    return [Notice(code=code, message=message) for code, message in found]


def _end_warnings(trip: Trip, answer: Forecast) -> list[tuple[str, str]]:
    chance = answer.route.reaches_probability
    if chance >= trip.probability or (trip.route.laps is None and trip.route.loop is not None):
        return []
    length, reach = answer.route.distance_m, answer.range_to_cutoff.value
    if chance > 0.02:
        return [
            (
                "may_not_arrive",
                f"The pack reaches the end of these {length / 1000:.1f} km in {100 * chance:.0f} of 100 "
                "cases. Plan where to stop, away from fast roads.",
            )
        ]
    times = length / max(reach, 1.0)
    return [
        (
            "beyond_any_charge",
            f"These {length / 1000:.1f} km are {times:.1f} times what one charge gives "
            f"({reach / 1000:.1f} km). What would work: {answer.floor_m / 1000:.1f} km, a charge on "
            f"the way, or {int(times / (1 - trip.reserve)) + 1} such packs.",
        )
    ]


def _slow_warnings(trip: Trip, answer: Forecast) -> list[tuple[str, str]]:
    if trip.route.loop is not None or answer.slow_to is not None:
        return []
    if answer.route.arrives_probability >= trip.probability:
        return [
            (
                "slow_to_not_needed",
                "The trip succeeds as planned; there is no need to ride slower.",
            )
        ]
    return [
        (
            "slow_to_none",
            f"No speed above 2 m/s (7 km/h) brings this trip home in {100 * trip.probability:.0f} of "
            "100 cases with the reserve kept: shorten it, or charge on the way.",
        )
    ]


def _pack_warnings(trip: Trip, answer: Forecast) -> list[tuple[str, str]]:
    found = []
    pack, facts = trip.pack, FACTS[trip.pack.chemistry]
    if pack.cutoff_v is None:
        found.append(
            (
                "assumed_cutoff",
                f"No cut-off voltage given: {facts.floor_v:g} V a cell is taken, "
                f"{facts.floor_v * pack.series:.1f} V for the pack.",
            )
        )
    elif pack.cutoff_v < facts.floor_v * pack.series:
        found.append(
            (
                "cutoff_below_floor",
                f"A cut-off of {pack.cutoff_v:g} V is {pack.cutoff_v / pack.series:.2f} V a cell, under "
                f"the {facts.floor_v:g} V where {pack.chemistry} is harmed. Stop before it does.",
            )
        )
    rate = answer.peak.current_a / (pack.rated_ah * max(trip.packs.count, 1))
    if rate > HIGH_RATE_PER_H and not pack.chemistry.startswith("lead"):
        found.append(
            (
                "high_current",
                f"The way asks for {answer.peak.current_a:.0f} A at its worst, {rate:.1f} times the "
                "pack's amp-hours. Check that the cells and the BMS are rated for it.",
            )
        )
    if is_line(pack.chemistry):
        found.append(
            (
                "no_voltage_curve",
                f"There is no voltage curve for {pack.chemistry} here: a straight line between its "
                "resting voltages is taken, so where the drive fades is a rough guess.",
            )
        )
    return found


def _regeneration_warnings(trip: Trip, route: Route) -> list[tuple[str, str]]:
    if trip.vehicle.regeneration == 0 or trip.start_energy_fraction <= FULL_FROM:
        return []
    fall = 0.0
    for leg in route.legs[: max(len(route.legs) // 4, 1)]:
        fall += leg.descent_m - leg.climb_m
        if fall > TOP_DESCENT_M:
            return [
                (
                    "regeneration_when_full",
                    f"The way falls {fall:.0f} m soon after the start: a full pack takes nothing back, "
                    "and protection may trip. Start below 90 %, and trust the brakes.",
                )
            ]
    return []


def _weather_warnings(trip: Trip, route: Route) -> list[tuple[str, str]]:
    found = []
    temp = trip.conditions.temp_c
    if temp is not None and temp.value <= 0 and not trip.pack.chemistry.startswith("lead"):
        found.append(
            (
                "cold_charge",
                f"At {temp.value:g} °C do not charge a lithium pack: let it warm up indoors first. "
                "Keep it warm until the start; it gives more.",
            )
        )
    if temp is not None and temp.value < -10:
        found.append(
            (
                "colder_than_table",
                "Below -10 °C the pack is taken as at -10 °C, which flatters it.",
            )
        )
    wind = trip.conditions.wind_mps
    if wind is not None and wind.value > 15:
        found.append(
            (
                "storm",
                f"Wind of {wind.value:.0f} m/s pushes a light vehicle off its line. Choose another day.",
            )
        )
    some_bearing = any(leg.bearing_deg is not None or leg.winding for leg in route.legs)
    if wind is not None and wind.value > 2 and not some_bearing:
        found.append(
            (
                "bearing_unknown",
                "The legs have no bearing, so the wind may help or hinder: the band is wider for it.",
            )
        )
    return found


def _assumptions(trip: Trip, answer: Forecast) -> list[tuple[str, str]]:
    found = []
    starts = [item.name for item in answer.inputs if item.source.startswith("start value")]
    fitted = trip.known_consumption_wh_per_km is not None or trip.vehicle.fit is not None
    if "cda_m2" in starts and not fitted:
        kind = trip.vehicle.kind.replace("_", " ")
        found.append(
            (
                "start_values",
                f"Nothing is measured for this vehicle yet: start values for a {kind} are used. One "
                "logged test would narrow the band most.",
            )
        )
    per_mi = answer.wh_per_mi.value
    if not is_plausible(trip.vehicle.kind, per_mi):
        span = PLAUSIBLE_WH_PER_MI[trip.vehicle.kind]
        kind = trip.vehicle.kind.replace("_", " ")
        found.append(
            (
                "implausible_consumption",
                f"{per_mi:.1f} Wh/mi is far from the {span[0]:g} to {span[1]:g} that a {kind} uses. "
                "Check speed, load and climb.",
            )
        )
    return found
