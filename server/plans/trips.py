"""From an account's kit and a form to the core's Trip and Route."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, Literal
from uuid import UUID

from django.contrib.auth.models import User
from django.db.models import Q
from pydantic import ValidationError

from limpet.errors import OutOfRangeError
from limpet.files.tripfile import adapter_of
from limpet.history import informed
from limpet.history.inform import TaughtTrip, taught_by
from limpet.notices import Notice
from limpet.road import Leg, Route
from limpet.state.priors import PooledStep
from limpet.trip import (
    Known,
    LoopSpec,
    Packs,
    RouteSpec,
    SpeedSpec,
    Trip,
    TripConditions,
    TripPack,
    TripRider,
    TripTyres,
    TripVehicle,
)
from server.kit.models import Pack, Rider, Vehicle
from server.kit.models import Route as StoredRoute
from server.kit.road import road_of
from server.kit.services import taken_of
from server.logbook.models import RangeTest
from server.results.lessons import lessons_of
from server.wire.problems import FieldError

#: Draws of a slider in motion, and of an answer that stands.
QUICK_DRAWS, FULL_DRAWS = 150, 1000


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnTests:
    """What tests of a piece of kit teach a trip, with the ids of those that are still there."""

    what: TaughtTrip
    shelf: Literal["vehicles", "packs"]
    item_id: UUID
    item: str
    tests: tuple[tuple[str, UUID | None], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """A trip as the core takes it, the way, what that lacks, and what own tests teach of it."""

    trip: Trip
    route: Route
    notices: tuple[Notice, ...]
    taught: tuple[OwnTests, ...]
    #: What the vehicle's gauge meant over its tests.
    gauge: tuple[PooledStep, ...] = ()


#: Tests whose titles are looked up for a trip, newest first.
MOST_NAMED = 400


def trip_of(owner: User, asked: dict[str, Any]) -> Asked:
    """The trip that a form asks about.

    Raises
    ------
    FieldError
        For kit that is not the account's, or a route that cannot be ridden.
    """
    vehicle = _own(Vehicle, owner, asked["vehicle_id"], "vehicle_id")
    pack = _own(Pack, owner, asked["pack_id"], "pack_id")
    rider = _own(Rider, owner, asked["rider_id"], "rider_id") if asked["rider_id"] else None
    stored = _own(StoredRoute, owner, asked["route_id"], "route_id") if asked["route_id"] else None
    legs, notices = _legs(stored, asked)
    is_loop = stored is not None and stored.kind == StoredRoute.Kind.LOOP
    try:
        route = Route(legs=legs)
    except OutOfRangeError as cause:
        raise FieldError({"legs": str(cause)}) from cause
    if asked["reversed"]:
        route = route.reversed()
        legs = route.legs
    if asked["and_back"] and not is_loop:
        route = route.and_back()
    trip = Trip(
        vehicle=trip_vehicle(vehicle),
        pack=trip_pack(pack),
        packs=_packs(asked),
        rider=_rider(rider, asked["extra_load_kg"]),
        conditions=TripConditions(
            temp_c=_known(asked["temp_c"]),
            wind_mps=_known(asked["wind_mps"]),
            wind_from_deg=asked["wind_from_deg"],
            pressure_hpa=asked["pressure_hpa"],
            humidity_pct=asked["humidity_pct"],
        ),
        tyres=TripTyres(pressure_kpa=asked["tyre_kpa"]),
        route=_spec(legs, is_loop, asked),
        speed=SpeedSpec(policy=asked["policy"], target_mps=asked["target_mps"]),
        known_consumption_wh_per_km=_known(asked["known_consumption_wh_per_km"]),
        start_energy_fraction=Known(value=asked["start_energy_fraction"]),
        reserve=asked["reserve"],
        probability=asked["probability"],
        draws=QUICK_DRAWS if asked["quick"] else FULL_DRAWS,
    )
    taught: tuple[OwnTests, ...] = ()
    gauge: tuple[PooledStep, ...] = ()
    if asked["use_tests"]:
        priors = lessons_of(owner, vehicle, pack, trip.speed.target_mps)
        if not asked["quick"]:
            taught = _own_tests(owner, vehicle, pack, taught_by(trip, priors))
            gauge = priors.gauge
        trip = informed(trip, priors)
    return Asked(trip=trip, route=route, notices=notices, taught=taught, gauge=gauge)


def _own_tests(
    owner: User, vehicle: Vehicle, pack: Pack, found: Mapping[TaughtTrip, tuple[str, ...]]
) -> tuple[OwnTests, ...]:
    """The tests that teach, by their pages."""
    if not found:
        return ()
    of = Q(vehicle=vehicle.pk) | Q(pack=pack.pk)
    rows = RangeTest.objects.owned_by(owner).filter(of).order_by("-sorted_at", "-pk")
    ids = dict(reversed(rows.values_list("title", "pk")[:MOST_NAMED]))
    return tuple(
        OwnTests(
            what=what,
            shelf="vehicles" if what in ("road", "consumption") else "packs",
            item_id=vehicle.pk if what in ("road", "consumption") else pack.pk,
            item=vehicle.name if what in ("road", "consumption") else pack.name,
            tests=tuple((title, ids.get(title)) for title in titles),
        )
        for what, titles in found.items()
    )


def trip_vehicle(vehicle: Vehicle) -> TripVehicle:
    """A vehicle of the kit, with its fit when it has one."""
    values = {
        "kind": vehicle.kind,
        "name": vehicle.name,
        "mass_kg": vehicle.mass_kg,
        "cda_m2": vehicle.cda_m2,
        "crr": vehicle.crr,
        "drivetrain_efficiency": vehicle.drivetrain_efficiency,
        "aux_w": vehicle.aux_w,
        "regeneration": vehicle.regeneration or 0.0,
        "max_power_w": vehicle.max_power_w,
        "max_speed_mps": vehicle.max_speed_mps,
        "controller_current_limit_a": vehicle.controller_current_limit_a,
        "step_down": vehicle.step_down,
        "fit": road_of(vehicle),
    }
    try:
        return adapter_of(TripVehicle).validate_python(values)
    except ValidationError as cause:
        # A vehicle of yesterday may hold what today's form refuses.
        raise FieldError({"vehicle_id": _not_usable(vehicle.name, cause)}) from cause


def _not_usable(name: str, cause: ValidationError) -> str:
    first = cause.errors()[0]
    where = " ".join(str(part).replace("_", " ") for part in first["loc"])
    return f"'{name}' cannot be used: its {where} is out of bounds; correct it in your kit"


def trip_pack(pack: Pack) -> TripPack:
    """A pack of the kit."""
    values = {
        "name": pack.name,
        "chemistry": pack.chemistry,
        "series": pack.series,
        "parallel": pack.parallel,
        "nominal_v": pack.nominal_v,
        "taken": taken_of(pack),
        "rated_ah": pack.rated_ah,
        "rated_wh": pack.rated_wh,
        "full_v": pack.full_v,
        "cutoff_v": pack.cutoff_v,
        "resistance_ohm": _known(pack.resistance_ohm),
        "retained_fraction": _known(pack.retained_fraction, 0.03),
        "equivalent_full_cycles": pack.equivalent_full_cycles,
    }
    try:
        return adapter_of(TripPack).validate_python(values)
    except ValidationError as cause:
        raise FieldError({"pack_id": _not_usable(pack.name, cause)}) from cause


def _own(model: Any, owner: User, item_id: UUID, field: str) -> Any:
    found = model.objects.owned_by(owner).filter(pk=item_id).first()
    if found is None:
        raise FieldError({field: "is not in your kit; choose another"})
    return found


def _known(value: float | None, std: float | None = None) -> Known | None:
    return None if value is None else Known(value=value, standard_uncertainty=std)


def _packs(asked: dict[str, Any]) -> Packs:
    count, use = asked["packs_count"], asked["packs_use"]
    if count > 1 and use == "single":
        use = "in_sequence"
    return Packs(count=count, use=use)


def _rider(rider: Rider | None, extra_kg: float | None) -> TripRider:
    gear = rider.gear_kg if rider is not None else None
    if extra_kg:
        gear = max((gear or 0.0) + extra_kg, 0.0)
    return TripRider(
        mass_kg=_known(rider.mass_kg if rider is not None else None), gear_kg=_known(gear)
    )


def _legs(
    stored: StoredRoute | None, asked: dict[str, Any]
) -> tuple[tuple[Leg, ...], tuple[Notice, ...]]:
    if stored is not None:
        try:
            legs = adapter_of(tuple[Leg, ...]).validate_python(stored.legs)
        except ValidationError as cause:
            text = f"'{stored.name}' cannot be read any more; enter it again"
            raise FieldError({"route_id": text}) from cause
        if stored.kind == StoredRoute.Kind.TRACK:
            # Stored before a track's legs said so of themselves.
            legs = tuple(replace(leg, even=True) for leg in legs)
        return legs, tuple(Notice.from_json(kept) for kept in stored.notices)
    if not asked["legs"]:
        raise FieldError({"route_id": "is needed: choose a route, or give a leg with its length"})
    return tuple(Leg(**leg) for leg in asked["legs"]), ()


def _spec(legs: tuple[Leg, ...], is_loop: bool, asked: dict[str, Any]) -> RouteSpec:
    if not is_loop:
        return RouteSpec(legs=legs, and_back=asked["and_back"])
    lap = legs[0]
    return RouteSpec(
        loop=LoopSpec(
            length_m=lap.length_m,
            climb_m=lap.climb_m,
            descent_m=lap.descent_m,
            surface=lap.surface,
            stops=lap.stops,
        ),
        laps=asked["laps"],
    )
