"""Storing kit: one transaction each, the core's rules, and a repeated send changes nothing."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction

from limpet.evidence.model import RiderSpec, VehicleSpec
from limpet.pack import PackSpec, pack_faults
from server.kit.models import Named, Pack, Rider, Vehicle
from server.problems import ConflictError, FieldError


def store(model: type[Named], owner: User, item_id: UUID, values: dict[str, Any]) -> Named:
    """Create or change one piece of kit under the id that the client made."""
    with transaction.atomic():
        taken = model.objects.filter(pk=item_id).exclude(owner=owner).exists()
        if taken:
            raise ConflictError("That id is in use. Load the page again and add it once more.")
        same_name = model.objects.owned_by(owner).filter(name=values["name"]).exclude(pk=item_id)
        if same_name.exists():
            raise FieldError({"name": f"'{values['name']}' is in your kit already; choose another"})
        if model is Pack:
            _check_pack(values)
        item, _ = model.objects.owned_by(owner).update_or_create(
            pk=item_id, defaults=values, create_defaults={**values, "owner": owner}
        )
    return item


def remove(model: type[Named], owner: User, item_id: UUID) -> None:
    """Remove a piece of kit; the tests that used it keep what they recorded of it."""
    model.objects.owned_by(owner).get(pk=item_id).delete()


def vehicle_spec(vehicle: Vehicle) -> VehicleSpec:
    """The core's value."""
    return VehicleSpec(name=vehicle.name, kind=vehicle.kind, mass_kg=vehicle.mass_kg)


def rider_spec(rider: Rider) -> RiderSpec:
    """The core's value."""
    return RiderSpec(name=rider.name, mass_kg=rider.mass_kg, gear_kg=rider.gear_kg)


def pack_spec(pack: Pack) -> PackSpec:
    """The core's value."""
    return PackSpec(
        name=pack.name,
        chemistry=pack.chemistry,
        series=pack.series,
        parallel=pack.parallel,
        rated_ah=pack.rated_ah,
        rated_wh=pack.rated_wh,
        full_v=pack.full_v,
        cutoff_v=pack.cutoff_v,
        equivalent_full_cycles=pack.equivalent_full_cycles,
    )


def _check_pack(values: dict[str, Any]) -> None:
    """The same rules that a bundle's pack must pass."""
    names = set(asdict(PackSpec(chemistry="nmc", series=1, rated_ah=1.0)))
    spec = PackSpec(**{name: value for name, value in values.items() if name in names})
    faults = dict(pack_faults(spec))
    if faults:
        raise FieldError(faults)
