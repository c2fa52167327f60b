"""Storing kit: one transaction each, the core's rules, and a repeated send changes nothing."""

from __future__ import annotations

from dataclasses import asdict, replace
from typing import Any, cast, get_args
from uuid import UUID

import numpy as np
from django.contrib.auth.models import User
from django.db import IntegrityError, transaction

from limpet.errors import OutOfRangeError
from limpet.evidence.model import RiderSpec, StepDown, VehicleSpec
from limpet.files.tripfile import adapter_of, track_from_gpx
from limpet.pack import Chemistry, PackSpec, pack_faults
from limpet.pack.labelled import with_what_is_taken
from limpet.pack.spec import Taken, TakenName
from limpet.quantity import Quantity
from limpet.road import Leg, VehicleKind, loop_length, route_faults
from limpet.road import Route as CoreRoute
from server.kit.models import Named, Pack, Rider, Route, Vehicle
from server.wire.owned import create_or_change
from server.wire.problems import ConflictError, FieldError

#: Pieces of one kind of kit, or routes, that an account may keep.
MOST_KIT = 1000


def store(model: type[Named], owner: User, item_id: UUID, values: dict[str, Any]) -> Named:
    """Create or change one piece of kit under the id that the client made."""
    if model is Pack:
        values = dict(values)
        _complete_pack(values)
    owned = model.objects.owned_by(owner)
    if owned.count() >= MOST_KIT and not owned.filter(pk=item_id).exists():
        raise ConflictError(f"Your kit holds {MOST_KIT} of these; remove one you no longer use.")
    try:
        with transaction.atomic():
            return create_or_change(model, owner, item_id, values)
    except IntegrityError as cause:
        raise FieldError(
            {"name": f"'{values['name']}' is in your kit already; choose another"}
        ) from cause


def store_route(owner: User, item_id: UUID, values: dict[str, Any]) -> Named:
    """Keep a route of legs, or a lap; a lap's length comes from its readings when it has some."""
    legs = adapter_of(tuple[Leg, ...]).validate_python(values["legs"])
    std: float | None = None
    if values["kind"] == Route.Kind.LOOP:
        lap = legs[0]
        length = lap.length_m
        if values["readings_m"]:
            found = measured_loop(values["readings_m"], 0.0)
            length, std = found.value, found.standard_uncertainty
        # A lap ends at the height it began: what it climbs it falls.
        legs = (replace(lap, length_m=length, descent_m=lap.climb_m, winding=True),)
    kept = _route_columns(legs)
    stored = {**values, **kept, "length_std_m": std, "profile": None, "notices": []}
    return store(Route, owner, item_id, {**stored, "gpx": None})


def import_route(owner: User, item_id: UUID, name: str, file: str, data: bytes) -> Named:
    """A GPX file as a route, the file kept with it. Sent again, it changes nothing.

    Raises
    ------
    BundleError
        When the file is no GPX track or no way that can be ridden; nothing is stored.
    """
    kept = Route.objects.owned_by(owner).filter(pk=item_id).first()
    if kept is not None:
        return kept
    track, notices = track_from_gpx(data, file, "smooth_paved")
    profile = {
        "distance_m": np.round(track.distance_m, 1).tolist(),
        "height_m": np.round(track.height_m, 1).tolist(),
        "east_m": np.round(track.east_m, 1).tolist(),
        "north_m": np.round(track.north_m, 1).tolist(),
    }
    values = {
        "name": name,
        "note": "",
        "kind": Route.Kind.TRACK,
        **_route_columns(track.route.legs),
        "ascent_m": track.ascent_m,
        "descent_m": track.descent_m,
        "profile": profile,
        "gpx": data,
        "notices": [notice.to_json() for notice in notices],
    }
    return store(Route, owner, item_id, values)


def measured_loop(readings_m: list[float], accuracy_pct: float) -> Quantity:
    """A loop's length from several readings of it."""
    try:
        return loop_length(readings_m, accuracy_pct)
    except OutOfRangeError as cause:
        raise FieldError({"readings_m": str(cause).removeprefix("loop_length: ")}) from cause


def _route_columns(legs: tuple[Leg, ...]) -> dict[str, Any]:
    faults = route_faults(legs)
    if faults:
        number, text = faults[0]
        raise FieldError({"legs": f"leg {number + 1} {text}" if number >= 0 else text})
    route = CoreRoute(legs=legs)
    return {
        "legs": [asdict(leg) for leg in legs],
        "length_m": route.length_m,
        "ascent_m": route.ascent_m,
        "descent_m": route.descent_m,
    }


def vehicle_spec(vehicle: Vehicle) -> VehicleSpec:
    """The core's value."""
    return VehicleSpec(
        name=vehicle.name,
        kind=cast(VehicleKind, vehicle.kind),
        mass_kg=vehicle.mass_kg,
        regeneration=vehicle.regeneration,
        max_speed_mps=vehicle.max_speed_mps,
        step_down=tuple(StepDown(**rule) for rule in vehicle.step_down or ()),
    )


def rider_spec(rider: Rider) -> RiderSpec:
    """The core's value."""
    return RiderSpec(name=rider.name, mass_kg=rider.mass_kg, gear_kg=rider.gear_kg)


def pack_spec(pack: Pack) -> PackSpec:
    """The core's value."""
    return PackSpec(
        name=pack.name,
        chemistry=cast(Chemistry, pack.chemistry),
        series=pack.series,
        parallel=pack.parallel,
        rated_ah=pack.rated_ah,
        rated_wh=pack.rated_wh,
        full_v=pack.full_v,
        nominal_v=pack.nominal_v,
        cutoff_v=pack.cutoff_v,
        equivalent_full_cycles=pack.equivalent_full_cycles,
        taken=taken_of(pack),
    )


def taken_of(pack: Pack) -> Taken:
    """Which of a pack's facts nobody said."""
    return tuple(name for name in get_args(TakenName) if name in (pack.taken or ()))


def _complete_pack(values: dict[str, Any]) -> None:
    """The same rules that a bundle's pack must pass, and the same fillings-in."""
    names = set(asdict(PackSpec(chemistry="nmc", series=1, rated_ah=1.0)))
    given = {name: value for name, value in values.items() if name in names and name != "taken"}
    # What nobody said is filled in, and named: so that a later answer can say what it rests on.
    spec = PackSpec(**with_what_is_taken(given))
    values.update(
        chemistry=spec.chemistry,
        series=spec.series,
        rated_ah=spec.rated_ah,
        taken=list(spec.taken),
    )
    faults = dict(pack_faults(spec))
    if faults:
        raise FieldError(faults)
