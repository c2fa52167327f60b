"""What a forecast is asked: the trip file as values (trip.md, version 1)."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BeforeValidator, Field, TypeAdapter, ValidationError
from pydantic_core import PydanticCustomError

from limpet.bounds import Number, Percent, Share, Volts, WattHours
from limpet.evidence.model import SpeedPolicy
from limpet.pack import Chemistry, PackSpec
from limpet.road import Leg, Surface, VehicleKind

PackUse = Literal["single", "in_sequence", "in_parallel"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Known:
    """A number that may bring its standard uncertainty: a bare number, or a quantity object."""

    value: Number
    standard_uncertainty: Annotated[float, Field(ge=0, allow_inf_nan=False)] | None = None
    unit: str | None = None
    low: float | None = None
    high: float | None = None
    coverage: float | None = None
    source: str | None = None


def _as_known(value: Any) -> Any:
    if isinstance(value, Known) or value is None:
        return value
    if isinstance(value, (int, float)) and not isinstance(value, bool):
        return TypeAdapter(Known).validate_python({"value": float(value)})
    if isinstance(value, dict):
        try:
            return TypeAdapter(Known).validate_python(value)
        except ValidationError as cause:
            first = cause.errors()[0]
            where = ".".join(str(part) for part in first["loc"])
            raise PydanticCustomError(
                "quantity",
                "expected a number or a quantity; its {where} is wrong",
                {"where": where},
            ) from cause
    raise PydanticCustomError("quantity", "expected a number, or an object with value and unit")


def _within(low: float, high: float) -> AfterValidator:
    def check(known: Known | None) -> Known | None:
        if known is not None and not low <= known.value <= high:
            raise PydanticCustomError(
                "outside",
                "expected {low} to {high}; check the unit",
                {"low": f"{low:g}", "high": f"{high:g}"},
            )
        return known

    return AfterValidator(check)


_KNOWN: Callable[[Any], Any] = _as_known
Reader = BeforeValidator(_KNOWN)

MassKnown = Annotated[Known | None, Reader, _within(0, 2000)]
VehicleMass = Annotated[Known | None, Reader, _within(1, 2000)]
DragArea = Annotated[Known | None, Reader, _within(0.05, 5)]
Rolling = Annotated[Known | None, Reader, _within(0.001, 0.2)]
Efficiency = Annotated[Known | None, Reader, _within(0.2, 1)]
Auxiliary = Annotated[Known | None, Reader, _within(0, 5000)]
Watts = Annotated[Known | None, Reader, _within(20, 200_000)]
Ohms = Annotated[Known | None, Reader, _within(1e-4, 20)]
Retained = Annotated[Known | None, Reader, _within(0.1, 1.3)]
Temperature = Annotated[Known | None, Reader, _within(-40, 50)]
#: 40 m/s is above force 12: nobody rides in that.
Wind = Annotated[Known | None, Reader, _within(0, 40)]
PerKm = Annotated[Known | None, Reader, _within(0.5, 1000)]
#: A pack of less than a twentieth of an amp-hour moves nobody.
PackCapacity = Annotated[float, Field(ge=0.05, le=2000, allow_inf_nan=False)]
Target = Annotated[float, Field(gt=0, le=60, allow_inf_nan=False)]


@dataclass(frozen=True, slots=True, kw_only=True)
class StepDown:
    """A controller's rule: under this loaded voltage it holds at most this speed."""

    below_v: Volts
    max_speed_mps: Target


@dataclass(frozen=True, slots=True, kw_only=True)
class RoadFit:
    """Road-load parameters found from tests, with their covariance, in the order of `names`."""

    names: tuple[str, ...]
    values: tuple[Number, ...]
    covariance: tuple[tuple[Number, ...], ...]
    tests: Annotated[int, Field(ge=1)]
    tyre_kpa: Annotated[float, Field(gt=0, le=1500)] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class TripVehicle:
    """What rolls; None is "take the start value of its kind"."""

    kind: VehicleKind
    name: str | None = None
    mass_kg: VehicleMass = None
    cda_m2: DragArea = None
    crr: Rolling = None
    drivetrain_efficiency: Efficiency = None
    aux_w: Auxiliary = None
    regeneration: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.0
    max_power_w: Watts = None
    max_speed_mps: Target | None = None
    controller_current_limit_a: Annotated[float, Field(gt=0, le=2000)] | None = None
    step_down: tuple[StepDown, ...] = ()
    fit: RoadFit | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class TripPack:
    """The pack, and what is left of it."""

    chemistry: Chemistry
    series: Annotated[int, Field(ge=1, le=300)]
    rated_ah: PackCapacity
    name: str | None = None
    parallel: Annotated[int, Field(ge=1, le=1000)] | None = None
    rated_wh: WattHours | None = None
    full_v: Volts | None = None
    cutoff_v: Volts | None = None
    resistance_ohm: Ohms = None
    retained_fraction: Retained = None
    equivalent_full_cycles: Annotated[float, Field(ge=0)] | None = None

    @property
    def label(self) -> PackSpec:
        """The pack as its label describes it."""
        return PackSpec(
            chemistry=self.chemistry,
            series=self.series,
            parallel=self.parallel,
            rated_ah=self.rated_ah,
            rated_wh=self.rated_wh,
            full_v=self.full_v,
            cutoff_v=self.cutoff_v,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Packs:
    """How many packs go along and how they are used."""

    count: Annotated[int, Field(ge=1, le=20)] = 1
    use: PackUse = "single"


@dataclass(frozen=True, slots=True, kw_only=True)
class TripRider:
    """The load."""

    mass_kg: MassKnown = None
    gear_kg: MassKnown = None
    pedal_power_w: Annotated[float, Field(ge=0, le=1000)] = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class TripConditions:
    """Air and wind on the day."""

    temp_c: Temperature = None
    wind_mps: Wind = None
    wind_from_deg: Annotated[float, Field(ge=0, le=360)] | None = None
    pressure_hpa: Annotated[float, Field(ge=500, le=1100)] | None = None
    humidity_pct: Percent | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class TripTyres:
    """Tyre pressure, and the pressure at which a given C_rr was found [kPa]."""

    pressure_kpa: Annotated[float, Field(ge=20, le=1500)] | None = None
    reference_kpa: Annotated[float, Field(ge=20, le=1500)] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class LoopSpec:
    """A measured lap."""

    length_m: Annotated[float, Field(gt=0, le=200_000, allow_inf_nan=False)]
    climb_m: Annotated[float, Field(ge=0, le=9000)] = 0.0
    descent_m: Annotated[float, Field(ge=0, le=9000)] | None = None
    surface: Surface = "smooth_paved"
    stops: Annotated[float, Field(ge=0, le=1000)] = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class RouteSpec:
    """The way: legs, a lap, or a GPX file beside the trip file. One of the three."""

    legs: tuple[Leg, ...] | None = None
    loop: LoopSpec | None = None
    gpx: str | None = None
    and_back: bool = False
    laps: Annotated[int, Field(ge=1, le=100_000)] | None = None
    surface: Surface = "smooth_paved"


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeedSpec:
    """How it is ridden."""

    policy: SpeedPolicy = "fixed"
    target_mps: Target | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class KnownAt:
    """Where a known consumption was found; what is None is taken as on this trip, or calm."""

    speed_mps: Target | None = None
    load_kg: Annotated[float, Field(ge=0, le=1000)] | None = None
    temp_c: Annotated[float, Field(ge=-40, le=50)] | None = None
    climb_m_per_km: Annotated[float, Field(ge=0, le=400)] | None = None
    stops_per_km: Annotated[float, Field(ge=0, le=100)] | None = None
    surface: Surface | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Trip:
    """All of a trip file."""

    trip: Literal[1] = 1
    vehicle: TripVehicle
    pack: TripPack
    route: RouteSpec
    packs: Packs = field(default_factory=Packs)
    rider: TripRider = field(default_factory=TripRider)
    conditions: TripConditions = field(default_factory=TripConditions)
    tyres: TripTyres = field(default_factory=TripTyres)
    speed: SpeedSpec = field(default_factory=SpeedSpec)
    known_consumption_wh_per_km: PerKm = None
    known_at: KnownAt | None = None
    start_energy_fraction: Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)] = 1.0
    reserve: Share = 0.15
    minimum_speed_mps: Annotated[float, Field(gt=0, le=20, allow_inf_nan=False)] = 1.4
    probability: Annotated[float, Field(ge=0.5, le=0.999, allow_inf_nan=False)] = 0.95
    draws: Annotated[int, Field(ge=50, le=20_000)] = 1000
    seed: Annotated[int, Field(ge=0, le=2**32 - 1)] = 1
