"""Kit over HTTP: list, add or change by id, remove."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import ConfigDict, Field

from limpet.pack import Chemistry
from limpet.road import Surface, VehicleKind
from server.kit import services
from server.kit.models import Named, Pack, Rider, Route, Vehicle
from server.notices import NoticeOut
from server.problems import Problem
from server.typed import typed

router = Router(tags=["kit"])

Name = Annotated[str, Field(min_length=1, max_length=100)]
Note = Annotated[str, Field(max_length=2000)]


class _In(Schema):
    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True)


class StepDownIn(_In):
    """A controller's limp rule as typed."""

    below_v: typed("voltage", gt=0, le=1000)
    max_speed_mps: typed("speed", gt=0, le=60)


class StepDownOut(Schema):
    """A controller's limp rule."""

    below_v: float
    max_speed_mps: float


class VehicleIn(_In):
    """A vehicle as typed."""

    name: Name
    kind: VehicleKind
    mass_kg: typed("mass", gt=0, le=2000) = None
    cda_m2: float | None = Field(None, ge=0.05, le=5, allow_inf_nan=False)
    crr: float | None = Field(None, ge=0.001, le=0.2, allow_inf_nan=False)
    drivetrain_efficiency: float | None = Field(None, ge=0.2, le=1, allow_inf_nan=False)
    aux_w: typed("power", ge=0, le=5000) = None
    regeneration: float | None = Field(None, ge=0, le=1, allow_inf_nan=False)
    max_power_w: typed("power", ge=20, le=200_000) = None
    max_speed_mps: typed("speed", gt=0, le=60) = None
    controller_current_limit_a: typed("current", gt=0, le=2000) = None
    step_down: list[StepDownIn] = Field(default_factory=list, max_length=6)
    note: Note = ""


class FitOut(Schema):
    """Road load found from tests, with what it says of itself."""

    names: list[str]
    values: list[float]
    standard_uncertainties: list[float]
    told: list[float]
    statement: str
    tests: list[str]
    left_out: list[str]
    windows: int


class VehicleOut(Schema):
    """A vehicle as kept."""

    id: UUID
    name: str
    kind: VehicleKind
    mass_kg: float | None
    cda_m2: float | None
    crr: float | None
    drivetrain_efficiency: float | None
    aux_w: float | None
    regeneration: float | None
    max_power_w: float | None
    max_speed_mps: float | None
    controller_current_limit_a: float | None
    step_down: list[StepDownOut]
    fit: FitOut | None
    note: str

    @staticmethod
    def resolve_fit(obj: Vehicle) -> dict[str, Any] | None:
        """The fit without what only the core reads."""
        return {k: v for k, v in obj.fit.items() if k != "road"} if obj.fit else None


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
    resistance_ohm: typed("resistance", gt=0, le=20) = None
    retained_fraction: float | None = Field(None, ge=0.1, le=1.3, allow_inf_nan=False)
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
    resistance_ohm: float | None
    retained_fraction: float | None
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


class RouteLeg(_In):
    """A leg, as typed and as kept."""

    length_m: typed("distance", gt=0, le=2_000_000)
    climb_m: typed("length", ge=0, le=9000) = 0.0
    descent_m: typed("length", ge=0, le=9000) = 0.0
    bearing_deg: float | None = Field(None, ge=0, le=360, allow_inf_nan=False)
    surface: Surface = "smooth_paved"
    stops: float = Field(0, ge=0, le=1000, allow_inf_nan=False)
    speed_mps: typed("speed", gt=0, le=100) = None
    winding: bool = False


class RouteIn(_In):
    """A route as typed: legs, or a lap with the readings of its length."""

    name: Name
    kind: Literal["legs", "loop"]
    legs: list[RouteLeg] = Field(min_length=1, max_length=400)
    readings_m: list[Annotated[float, Field(gt=0, le=200_000)]] = Field(
        default_factory=list, max_length=50
    )
    note: Note = ""


class ProfileOut(Schema):
    """A track for drawing, from its start."""

    distance_m: list[float]
    height_m: list[float]
    east_m: list[float]
    north_m: list[float]


class LegOut(Schema):
    """A leg as kept."""

    length_m: float
    climb_m: float
    descent_m: float
    bearing_deg: float | None
    surface: Surface
    stops: float
    speed_mps: float | None
    winding: bool


class RouteOut(Schema):
    """A route as kept."""

    id: UUID
    name: str
    kind: Literal["legs", "loop", "track"]
    legs: list[LegOut]
    length_m: float
    ascent_m: float
    descent_m: float
    length_std_m: float | None
    readings_m: list[float]
    profile: ProfileOut | None
    notices: list[NoticeOut]
    note: str


class ReadingsIn(_In):
    """Several readings of one loop."""

    readings_m: list[typed("distance", gt=0, le=200_000)] = Field(min_length=1, max_length=50)
    accuracy_pct: float = Field(0.0, ge=0, le=20)


class LoopLengthOut(Schema):
    """A loop's length and how sure it is."""

    value: float
    standard_uncertainty: float
    low: float
    high: float


@router.get("/routes", operation_id="listRoutes", response=list[RouteOut])
def list_routes(request: HttpRequest) -> list[Named]:
    return list(Route.objects.owned_by(request.user).defer("gpx"))


# Named paths stand before `{item_id}`, which would take them for ids.
@router.post("/routes/import", operation_id="importRoute", response={201: RouteOut, 422: Problem})
def import_route(
    request: HttpRequest, id: Form[UUID], name: Form[Name], file: File[UploadedFile]
) -> Status[Named]:
    """A GPX file as a route."""
    route = services.import_route(request.user, id, name, file.name or "route.gpx", file.read())
    return Status(201, route)


@router.post(
    "/routes/loop-length",
    operation_id="measureLoop",
    response={200: LoopLengthOut, 422: Problem},
)
def measure_loop(request: HttpRequest, payload: ReadingsIn) -> LoopLengthOut:
    found = services.measured_loop(payload.readings_m, payload.accuracy_pct)
    return LoopLengthOut(
        value=found.value,
        standard_uncertainty=found.standard_uncertainty,
        low=found.low,
        high=found.high,
    )


@router.put("/routes/{item_id}", operation_id="putRoute", response={200: RouteOut, **_REFUSALS})
def put_route(request: HttpRequest, item_id: UUID, payload: RouteIn) -> Named:
    return services.store_route(request.user, item_id, payload.model_dump())


@router.delete("/routes/{item_id}", operation_id="deleteRoute", response={204: None, 404: Problem})
def delete_route(request: HttpRequest, item_id: UUID) -> Status[None]:
    services.remove(Route, request.user, item_id)
    return Status(204, None)
