"""The uncertain inputs of a trip, each with its value, its spread and where it comes from."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, cos, degrees, hypot, radians, sin

from limpet.assumptions import (
    AIR_TEMP_C,
    AIR_TEMP_ON_THE_WAY_C,
    GEAR_KG,
    LABEL,
    RESISTANCE_OHM_AH,
    RIDER_KG,
    SAID_FULL,
    START_SHOWN,
    TYPED_STD,
    UNKNOWN_PACK,
    UNSTATED_SPEED,
    WARMING,
    WIND_FROM_DEG,
    WIND_GAIN,
    WIND_OFFSET_MPS,
    WIND_UNKNOWN_MPS,
    retained_after,
)
from limpet.carry.start_values import POLICIES, START_VALUES, Spread, StartValues
from limpet.pack import (
    assumed_resistance_ohm,
    full_energy_wh,
    is_lead,
)
from limpet.pack.usable import PEUKERT, PEUKERT_STD
from limpet.road import SURFACE_FACTOR, Route
from limpet.trip import Known, Trip
from limpet.uncertain.input import Input, Shape
from limpet.words import named_tests

#: u of how a speed scatters about its average, relative (assumption).
SPEED_CV_STD = 0.3


@dataclass(frozen=True, slots=True, kw_only=True)
class Inputs:
    """All uncertain inputs of a trip by name; `fitted` names those that are drawn together."""

    by_name: dict[str, Input]
    fitted: tuple[str, ...]

    def value(self, name: str) -> float:
        """Best value."""
        return self.by_name[name].value


def inputs_of(trip: Trip, route: Route | None = None) -> Inputs:
    """Every uncertain input of a trip, from the trip, the vehicle's fit or the start values.

    Parameters
    ----------
    route : the way, for the best value of a wind of unknown direction
    """
    kind = trip.vehicle.kind.replace("_", " ")
    start = START_VALUES[trip.vehicle.kind]
    started = f"start value for {kind}"
    found = [
        _of("vehicle_mass_kg", trip.vehicle.mass_kg, start.mass_kg, started),
        _of("rider_mass_kg", trip.rider.mass_kg, RIDER_KG.spread, "start value for a rider"),
        _of("gear_kg", trip.rider.gear_kg, GEAR_KG.spread, "start value for gear"),
        *_road(trip, start, started),
        _of("max_power_w", trip.vehicle.max_power_w, start.max_power_w, started, "lognormal"),
        _speed(trip, start, started),
        _scatter_of_speed(trip),
        *_weather(trip, route),
        *_pack(trip),
        _start(trip),
        Input(
            name="riding",
            value=1.0,
            standard_uncertainty=POLICIES[trip.speed.policy].riding_std,
            source=f"assumption for {trip.speed.policy.replace('_', ' ')}",
            shape="lognormal",
        ),
        *_levers(trip),
        Input(
            name="surface",
            value=0.0,
            standard_uncertainty=1.0 if _rough(trip) else 0.0,
            source="table of surfaces",
        ),
    ]
    if trip.known_consumption_wh_per_km is not None:
        known = trip.known_consumption_wh_per_km
        found.append(
            _of("known_consumption_wh_per_km", known, (known.value, 0.0), "trip", "lognormal")
        )
    fit = trip.vehicle.fit
    return Inputs(
        by_name={item.name: item for item in found},
        fitted=tuple(fit.names) if fit is not None else (),
    )


def reference_kpa(trip: Trip) -> float:
    """The tyre pressure at which the trip's C_rr was found [kPa].

    Notes
    -----
    Stated, or the fit's; a C_rr that was given without it was found at today's pressure, and a
    start value at what is usual for the kind.
    """
    if trip.tyres.reference_kpa is not None:
        return trip.tyres.reference_kpa
    fit = trip.vehicle.fit
    if fit is not None and fit.tyre_kpa is not None:
        return fit.tyre_kpa
    usual = START_VALUES[trip.vehicle.kind].tyre_kpa
    if (trip.vehicle.crr is not None or fit is not None) and trip.tyres.pressure_kpa is not None:
        return trip.tyres.pressure_kpa
    return usual


def _levers(trip: Trip) -> list[Input]:
    """What a rider can change: no uncertainty of the day, but part of what matters."""
    pressure = trip.tyres.pressure_kpa
    return [
        Input(
            name="tyre_kpa",
            value=reference_kpa(trip) if pressure is None else pressure,
            standard_uncertainty=0.0,
            source="assumption: as where rolling was found" if pressure is None else "trip",
        ),
        Input(name="climb_factor", value=1.0, standard_uncertainty=0.0, source="route"),
        Input(name="stops_factor", value=1.0, standard_uncertainty=0.0, source="route"),
    ]


def _of(
    name: str, known: Known | None, start: Spread, started: str, shape: Shape = "normal"
) -> Input:
    if known is None:
        value, std = start
        return Input(name=name, value=value, standard_uncertainty=std, source=started, shape=shape)
    typed_std = TYPED_STD[name] * abs(known.value)
    std = typed_std if known.standard_uncertainty is None else known.standard_uncertainty
    return Input(
        name=name,
        value=known.value,
        standard_uncertainty=std,
        source=known.source or "trip",
        shape=shape,
    )


def _road(trip: Trip, start: StartValues, started: str) -> list[Input]:
    vehicle, fit = trip.vehicle, trip.vehicle.fit
    shapes: dict[str, Shape] = {
        "cda_m2": "lognormal",
        "crr": "lognormal",
        "drivetrain_efficiency": "normal",
        "aux_w": "lognormal",
    }
    found = []
    for name, shape in shapes.items():
        if fit is not None and name in fit.names and getattr(vehicle, name) is None:
            row = fit.names.index(name)
            item = Input(
                name=name,
                value=fit.values[row],
                standard_uncertainty=max(fit.covariance[row][row], 0.0) ** 0.5,
                source=f"vehicle fit of {named_tests(fit.titles, fit.tests)}",
                shape=shape,
            )
        else:
            item = _of(name, getattr(vehicle, name), getattr(start, name), started, shape)
        found.append(item)
    return found


def _speed(trip: Trip, start: StartValues, started: str) -> Input:
    policy = POLICIES[trip.speed.policy]
    target, source = trip.speed.target_mps, "trip"
    spread = policy.speed_std
    if target is None and trip.speed.average_mps is not None:
        target, source = trip.speed.average_mps, "trip: average"
    elif target is None and trip.speed.policy == "flat_out":
        top = trip.vehicle.max_speed_mps
        target, source = (start.max_speed_mps, started) if top is None else (top, "trip")
    elif target is None:
        target = start.gentle_mps if trip.speed.policy == "gentle" else start.usual_mps
        source = started
        spread = hypot(spread, UNSTATED_SPEED.std)
    return Input(
        name="target_speed_mps",
        value=target,
        standard_uncertainty=spread * target,
        source=source,
        shape="lognormal",
    )


def _scatter_of_speed(trip: Trip) -> Input:
    """How the speed scattered about an average: a speed that is held needs none."""
    only_average = trip.speed.target_mps is None and trip.speed.average_mps is not None
    cv = POLICIES[trip.speed.policy].speed_cv if only_average else 0.0
    return Input(
        name="speed_cv",
        value=cv,
        standard_uncertainty=SPEED_CV_STD * cv,
        source=f"assumption for {trip.speed.policy.replace('_', ' ')}",
        shape="lognormal",
    )


def _weather(trip: Trip, route: Route | None) -> list[Input]:
    air = trip.conditions
    if air.temp_c is None:
        temp = Input(
            name="temp_c",
            value=AIR_TEMP_C.value,
            standard_uncertainty=AIR_TEMP_C.std,
            source="assumption",
        )
    else:
        std = air.temp_c.standard_uncertainty
        temp = Input(
            name="temp_c",
            value=air.temp_c.value,
            standard_uncertainty=AIR_TEMP_ON_THE_WAY_C.std if std is None else std,
            source=air.temp_c.source or "trip",
        )
    if air.wind_mps is None:
        wind = Input(
            name="wind_mps",
            value=0.0,
            standard_uncertainty=WIND_UNKNOWN_MPS.std,
            source="assumption",
        )
    else:
        share, least = WIND_GAIN.std, WIND_OFFSET_MPS.std
        std = air.wind_mps.standard_uncertainty
        wind = Input(
            name="wind_mps",
            value=air.wind_mps.value,
            standard_uncertainty=share * air.wind_mps.value + least if std is None else std,
            source=air.wind_mps.source or "trip",
        )
    known = air.wind_from_deg is not None
    direction = Input(
        name="wind_from_deg",
        value=air.wind_from_deg
        if air.wind_from_deg is not None
        else (_main_bearing_deg(route) + middling_deg(trip)) % 360,
        standard_uncertainty=WIND_FROM_DEG.std if known else 0.0,
        source="trip" if known else "not known, so any direction",
        shape="angle" if known else "any_direction",
    )
    return [temp, wind, direction]


def middling_deg(trip: Trip) -> float:
    """How far off a road a wind from anywhere is at its best value [deg].

    Across, it neither helps nor hinders one way; there and back, 45° off costs what the mean over
    all directions does (cos² of it is one half).
    """
    return 45.0 if trip.route.and_back else 90.0


def _main_bearing_deg(route: Route | None) -> float:
    """Where a route leads on the whole, its way back apart [deg]; 0 where that is not known."""
    legs = () if route is None else route.legs[: route.out_legs]
    east = north = 0.0
    for leg in legs:
        if leg.bearing_deg is not None:
            east += leg.length_m * sin(radians(leg.bearing_deg))
            north += leg.length_m * cos(radians(leg.bearing_deg))
    return degrees(atan2(east, north)) % 360


def _pack(trip: Trip) -> list[Input]:
    retained = trip.pack.retained_fraction
    label = trip.pack.label
    stated = retained.standard_uncertainty if retained is not None else None
    left, left_std = retained_after(trip.pack.equivalent_full_cycles)
    aged = "assumption" if trip.pack.equivalent_full_cycles is None else "cycles"
    # What is left was found against the label: its excess is in it.
    excess, excess_std = LABEL.spread if retained is None else (1.0, 0.0)
    ohm = assumed_resistance_ohm(label)
    if not label.knows_energy:
        excess, excess_std = UNKNOWN_PACK.spread
    return [
        Input(
            name="rated_energy_wh",
            value=excess * full_energy_wh(label),
            standard_uncertainty=excess_std * full_energy_wh(label),
            source="label" if label.knows_energy else "taken: no label",
            shape="rectangular" if label.knows_energy else "lognormal",
        ),
        Input(
            name="retained_fraction",
            value=left if retained is None else retained.value,
            standard_uncertainty=left_std if stated is None else stated,
            source=aged if retained is None else retained.source or "trip",
        ),
        _of(
            "resistance_ohm",
            trip.pack.resistance_ohm,
            (ohm, RESISTANCE_OHM_AH.std / RESISTANCE_OHM_AH.value * ohm),
            "assumption for the cells' size",
            "lognormal",
        ),
        Input(
            name="pack_warming",
            value=1.0,
            standard_uncertainty=WARMING.std,
            source="assumption",
            shape="lognormal",
        ),
        *(
            [
                Input(
                    name="peukert",
                    value=PEUKERT,
                    standard_uncertainty=PEUKERT_STD,
                    source="assumption",
                )
            ]
            if is_lead(trip.pack.chemistry)
            else []
        ),
    ]


def _start(trip: Trip) -> Input:
    """The share of usable energy at the start: "40% shown" is not 0.400."""
    known = trip.start_energy_fraction
    full = known.value >= 1
    assumed = SAID_FULL.std if full else START_SHOWN.std
    return Input(
        name="start_energy_fraction",
        value=known.value,
        standard_uncertainty=assumed
        if known.standard_uncertainty is None
        else known.standard_uncertainty,
        source=known.source or "trip",
        shape="shortfall" if full else "normal",
    )


def _rough(trip: Trip) -> bool:
    surfaces = {trip.route.surface}
    if trip.route.loop is not None:
        surfaces = {trip.route.loop.surface}
    elif trip.route.legs is not None:
        surfaces = {leg.surface for leg in trip.route.legs}
    return any(SURFACE_FACTOR[surface][1] > 0 for surface in surfaces)
