"""What a ride is ridden with: the vehicle, the pack and the rider of an account's kit."""

from __future__ import annotations

from typing import NamedTuple
from uuid import UUID

from django.contrib.auth.models import User

from server.kit.models import Pack, Rider, Vehicle
from server.wire.problems import FieldError


class Ridden(NamedTuple):
    """Pieces of the kit; nobody need say who rides."""

    vehicle: Vehicle
    pack: Pack
    rider: Rider | None


def ridden_kit(
    owner: User, vehicle_id: UUID | str, pack_id: UUID | str, rider_id: UUID | str | None
) -> Ridden:
    """What a ride is ridden with.

    Raises
    ------
    FieldError
        With what is not in the account's kit.
    """
    vehicle = Vehicle.objects.owned_by(owner).filter(pk=vehicle_id).first()
    pack = Pack.objects.owned_by(owner).filter(pk=pack_id).first()
    rider = Rider.objects.owned_by(owner).filter(pk=rider_id).first() if rider_id else None
    missing = {}
    if vehicle is None:
        missing["vehicle_id"] = "is not in your kit; choose another"
    if pack is None:
        missing["pack_id"] = "is not in your kit; choose another"
    if rider_id is not None and rider is None:
        missing["rider_id"] = "is not in your kit; choose another"
    if vehicle is None or pack is None or missing:
        raise FieldError(missing)
    return Ridden(vehicle, pack, rider)
