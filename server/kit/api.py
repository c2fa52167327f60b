"""Kit over HTTP: list, add or change by id, remove."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import File, Form, Query, Router, Status
from ninja.files import UploadedFile
from pydantic import Field

from limpet.pack.said import LONGEST_SAID, understood
from server.kit import services
from server.kit.models import Named, Pack, Rider, Route, Vehicle
from server.kit.schemas import (
    LoopLengthOut,
    Name,
    PackIn,
    PackOut,
    PackSaidOut,
    ReadingsIn,
    RiderIn,
    RiderOut,
    RouteIn,
    RouteOut,
    VehicleIn,
    VehicleOut,
    said_of,
)
from server.wire.owned import owner_of
from server.wire.paged import Page
from server.wire.problems import Problem
from server.wire.removal import removable
from server.wire.typed import Line

router = Router(tags=["kit"])

_REFUSALS = {409: Problem, 422: Problem}


@router.get("/vehicles", operation_id="listVehicles", response=list[VehicleOut])
def list_vehicles(request: HttpRequest, page: Query[Page]) -> list[Vehicle]:
    """The vehicles of the kit, by name."""
    return page.of(Vehicle.objects.owned_by(owner_of(request)))


@router.put(
    "/vehicles/{item_id}", operation_id="putVehicle", response={200: VehicleOut, **_REFUSALS}
)
def put_vehicle(request: HttpRequest, item_id: UUID, payload: VehicleIn) -> Named:
    """Keep a vehicle under its id, whole."""
    return services.store(Vehicle, owner_of(request), item_id, payload.model_dump())


removable(router, "/vehicles/{item_id}", Vehicle, "Vehicle")


@router.get("/packs", operation_id="listPacks", response=list[PackOut])
def list_packs(request: HttpRequest, page: Query[Page]) -> list[Pack]:
    """The packs of the kit, by name."""
    return page.of(Pack.objects.owned_by(owner_of(request)))


@router.get(
    "/packs/understood", operation_id="understandPack", response={200: PackSaidOut, 422: Problem}
)
def understand_pack(
    request: HttpRequest, text: Annotated[Line, Field(max_length=LONGEST_SAID)] = ""
) -> PackSaidOut:
    """A pack out of a rider's words, such as "52 V 24 Ah" or "10s3p of 3.0 Ah cells"."""
    owner_of(request)
    return said_of(understood(text))


@router.put("/packs/{item_id}", operation_id="putPack", response={200: PackOut, **_REFUSALS})
def put_pack(request: HttpRequest, item_id: UUID, payload: PackIn) -> Named:
    """Keep a pack under its id, whole."""
    return services.store(Pack, owner_of(request), item_id, payload.model_dump())


removable(router, "/packs/{item_id}", Pack, "Pack")


@router.get("/riders", operation_id="listRiders", response=list[RiderOut])
def list_riders(request: HttpRequest, page: Query[Page]) -> list[Rider]:
    """The riders of the kit, by name."""
    return page.of(Rider.objects.owned_by(owner_of(request)))


@router.put("/riders/{item_id}", operation_id="putRider", response={200: RiderOut, **_REFUSALS})
def put_rider(request: HttpRequest, item_id: UUID, payload: RiderIn) -> Named:
    """Keep a rider under its id, whole."""
    return services.store(Rider, owner_of(request), item_id, payload.model_dump())


removable(router, "/riders/{item_id}", Rider, "Rider")


@router.get("/routes", operation_id="listRoutes", response=list[RouteOut])
def list_routes(request: HttpRequest, page: Query[Page]) -> list[Route]:
    """The routes of the kit, by name; without their tracks."""
    return page.of(Route.objects.owned_by(owner_of(request)).defer("gpx"))


# Named paths stand before `{item_id}`, which would take them for ids.
@router.post("/routes/import", operation_id="importRoute", response={201: RouteOut, 422: Problem})
def import_route(
    request: HttpRequest, id: Form[UUID], name: Form[Name], file: File[UploadedFile]
) -> Status[Named]:
    """A GPX file as a route."""
    route = services.import_route(
        owner_of(request), id, name, file.name or "route.gpx", file.read()
    )
    return Status(201, route)


@router.post(
    "/routes/loop-length",
    operation_id="measureLoop",
    response={200: LoopLengthOut, 422: Problem},
)
def measure_loop(request: HttpRequest, payload: ReadingsIn) -> LoopLengthOut:
    """The length of a loop from several readings of it, with its uncertainty; nothing is stored."""
    found = services.measured_loop(payload.readings_m, payload.accuracy_pct)
    return LoopLengthOut(
        value=found.value,
        standard_uncertainty=found.standard_uncertainty,
        low=found.low,
        high=found.high,
    )


@router.put("/routes/{item_id}", operation_id="putRoute", response={200: RouteOut, **_REFUSALS})
def put_route(request: HttpRequest, item_id: UUID, payload: RouteIn) -> Named:
    """Keep a route of legs or a loop under its id, whole."""
    return services.store_route(owner_of(request), item_id, payload.model_dump())


removable(router, "/routes/{item_id}", Route, "Route")
