"""Kit over HTTP: list, add or change by id, remove."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from limpet.pack import Chemistry
from limpet.road import VehicleKind
from server.kit import services
from server.kit.models import Named, Pack, Rider, Vehicle
from server.problems import Problem
from server.typed import typed

router = Router(tags=["kit"])

Name = Annotated[str, Field(min_length=1, max_length=100)]
Note = Annotated[str, Field(max_length=2000)]


class _In(Schema):
    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True)


class VehicleIn(_In):
    """A vehicle as typed."""

    name: Name
    kind: VehicleKind
    mass_kg: typed("mass", gt=0, le=2000) = None
    note: Note = ""


class VehicleOut(Schema):
    """A vehicle as kept."""

    id: UUID
    name: str
    kind: VehicleKind
    mass_kg: float | None
    note: str


class PackIn(_In):
    """A pack as typed."""

    name: Name
    chemistry: Chemistry
    series: int = Field(ge=1, le=300)
    parallel: int | None = Field(None, ge=1, le=1000)
    rated_ah: typed("charge", gt=0, le=2000)
    rated_wh: typed("energy", gt=0, le=200_000) = None
    full_v: typed("voltage", gt=0, le=1000) = None
    cutoff_v: typed("voltage", gt=0, le=1000) = None
    equivalent_full_cycles: float | None = Field(None, ge=0, allow_inf_nan=False)
    note: Note = ""


class PackOut(Schema):
    """A pack as kept."""

    id: UUID
    name: str
    chemistry: Chemistry
    series: int
    parallel: int | None
    rated_ah: float
    rated_wh: float | None
    full_v: float | None
    cutoff_v: float | None
    equivalent_full_cycles: float | None
    note: str


class RiderIn(_In):
    """A rider as typed."""

    name: Name
    mass_kg: typed("mass", gt=0, le=400) = None
    gear_kg: typed("mass", ge=0, le=400) = None
    note: Note = ""


class RiderOut(Schema):
    """A rider as kept."""

    id: UUID
    name: str
    mass_kg: float | None
    gear_kg: float | None
    note: str


_REFUSALS = {409: Problem, 422: Problem}


@router.get("/vehicles", operation_id="listVehicles", response=list[VehicleOut])
def list_vehicles(request: HttpRequest) -> list[Named]:
    return list(Vehicle.objects.owned_by(request.user))


@router.put(
    "/vehicles/{item_id}", operation_id="putVehicle", response={200: VehicleOut, **_REFUSALS}
)
def put_vehicle(request: HttpRequest, item_id: UUID, payload: VehicleIn) -> Named:
    return services.store(Vehicle, request.user, item_id, payload.model_dump())


@router.delete(
    "/vehicles/{item_id}", operation_id="deleteVehicle", response={204: None, 404: Problem}
)
def delete_vehicle(request: HttpRequest, item_id: UUID) -> Status[None]:
    services.remove(Vehicle, request.user, item_id)
    return Status(204, None)


@router.get("/packs", operation_id="listPacks", response=list[PackOut])
def list_packs(request: HttpRequest) -> list[Named]:
    return list(Pack.objects.owned_by(request.user))


@router.put("/packs/{item_id}", operation_id="putPack", response={200: PackOut, **_REFUSALS})
def put_pack(request: HttpRequest, item_id: UUID, payload: PackIn) -> Named:
    values = payload.model_dump()
    if values["rated_ah"] is None:
        raise services.FieldError({"rated_ah": "is needed; it stands on the pack's label"})
    return services.store(Pack, request.user, item_id, values)


@router.delete("/packs/{item_id}", operation_id="deletePack", response={204: None, 404: Problem})
def delete_pack(request: HttpRequest, item_id: UUID) -> Status[None]:
    services.remove(Pack, request.user, item_id)
    return Status(204, None)


@router.get("/riders", operation_id="listRiders", response=list[RiderOut])
def list_riders(request: HttpRequest) -> list[Named]:
    return list(Rider.objects.owned_by(request.user))


@router.put("/riders/{item_id}", operation_id="putRider", response={200: RiderOut, **_REFUSALS})
def put_rider(request: HttpRequest, item_id: UUID, payload: RiderIn) -> Named:
    return services.store(Rider, request.user, item_id, payload.model_dump())


@router.delete("/riders/{item_id}", operation_id="deleteRider", response={204: None, 404: Problem})
def delete_rider(request: HttpRequest, item_id: UUID) -> Status[None]:
    services.remove(Rider, request.user, item_id)
    return Status(204, None)
