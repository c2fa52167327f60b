"""What a forecast is asked: the trip file as values (trip.md, version 1)."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import cache
from math import isfinite
from statistics import NormalDist
from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field, TypeAdapter, ValidationError
from pydantic_core import PydanticCustomError

from limpet.assumptions import RESERVE
from limpet.bounds import (
    AIR_TEMPERATURE,
    AUXILIARY,
    CLIMB_PER_KM,
    CONSUMPTION,
    CURRENT_LIMIT,
    DRAG_AREA,
    EFFICIENCY,
    LOAD,
    MINIMUM_SPEED,
    MOTOR_POWER,
    PACK_RESISTANCE,
    PEDALLING,
    PROBABILITY,
    REGENERATION,
    RETAINED,
    ROLLING,
    START_SHARE,
    STOPS_PER_KM,
    VEHICLE_MASS,
    WIND,
    AmpHours,
    Bearing,
    Climb,
    Cycles,
    Hectopascal,
    Kilopascal,
    LapMetres,
    Load,
    Name,
    Number,
    Percent,
    Share,
    Span,
    Stops,
    TargetSpeed,
    Volts,
    WattHours,
    Words,
)
from limpet.errors import UnitError
from limpet.evidence.model import MOST_STEPS_DOWN, StepDown, TripPackUse
from limpet.pack import Chemistry, PackSpec
from limpet.pack.labelled import with_what_is_taken
from limpet.pack.spec import Taken
from limpet.quantity import COVERAGE
from limpet.road import Leg, Surface, VehicleKind
from limpet.road.kinds import SpeedPolicy
from limpet.units import CORE_UNITS, Kind, factor_and_zero

#: Legs of a route, the way back not counted: a long day has some dozens.
MOST_LEGS = 400
#: Tests that a road-load fit is made of.
MOST_FIT_TESTS = 12


@dataclass(frozen=True, slots=True, kw_only=True)
class Known:
    """A number that may bring its standard uncertainty: a bare number, or a quantity object.

    Read from a file it is in the core's unit, whatever unit it was given in.
    """

    value: Number
    standard_uncertainty: Annotated[float, Field(ge=0, allow_inf_nan=False)] | None = None
    unit: Words | None = None
    low: Number | None = None
    high: Number | None = None
    coverage: Annotated[float, Field(gt=0, lt=1, allow_inf_nan=False)] | None = None
    source: Name | None = None


@cache
def _known_adapter() -> TypeAdapter[Known]:
    """Made when it is first wanted: building it takes some ten milliseconds."""
    return TypeAdapter(Known)


def _wrong(what: str) -> PydanticCustomError:
    # The sentence may hold braces of the reader's own, so it goes in as a value.
    return PydanticCustomError("quantity", "{what}", {"what": what})


def _as_known(value: Any, kind: Kind) -> Any:
    """A number or a quantity as a Known in the core's unit of a kind."""
    if isinstance(value, Known) or value is None:
        return value
    if isinstance(value, (int, float)) and not isinstance(value, bool):
        if not _is_finite(value):
            raise _wrong("expected a finite number")
        return Known(value=float(value))
    if not isinstance(value, dict):
        raise _wrong("expected a number, or an object with value and unit")
    try:
        given = _known_adapter().validate_python(value, strict=False)
    except ValidationError as cause:
        where = ".".join(str(part) for part in cause.errors()[0]["loc"])
        raise _wrong(f"expected a number or a quantity; its {where} is wrong") from cause
    return _in_core_unit(given, kind)


def _is_finite(value: float) -> bool:
    """Whether a number is finite as a float; an integer of 400 digits is not."""
    try:
        return isfinite(value)
    except OverflowError:
        return False


def _in_core_unit(given: Known, kind: Kind) -> Known:
    factor, zero = 1.0, 0.0
    if given.unit is not None:
        try:
            factor, zero = factor_and_zero(given.unit, kind)
        except UnitError as cause:
            raise _wrong(f"its unit: {cause}") from cause
    low, high = given.low, given.high
    if (low is not None and low > given.value) or (high is not None and high < given.value):
        raise _wrong("its interval low to high does not hold its value")
    std = given.standard_uncertainty
    if std is None and low is not None and high is not None:
        # The half-width in standard deviations of a normal distribution (GUM, JCGM 100, G.1.3).
        std = (high - low) / 2 / NormalDist().inv_cdf((1 + (given.coverage or COVERAGE)) / 2)
    return replace(
        given,
        value=given.value * factor + zero,
        standard_uncertainty=None if std is None else std * factor,
        low=None if low is None else low * factor + zero,
        high=None if high is None else high * factor + zero,
        unit=CORE_UNITS[kind][0] if given.unit is not None else None,
    )


def _reader(span: Span) -> BeforeValidator:
    """Reads a number or a quantity in any unit of the span's kind, and holds it to the span."""

    def read(value: Any) -> Any:
        known = _as_known(value, span.kind)
        if known is not None and not span.holds(known.value):
            text = f"expected {span.low:g} to {span.high:g}; check the unit"
            raise PydanticCustomError("outside", "{text}", {"text": text})
        return known

    number = Annotated[float, Field(ge=span.low, le=span.high)]
    return BeforeValidator(read, json_schema_input_type=number | Known | None)


LoadKnown = Annotated[Known | None, _reader(LOAD)]
VehicleMass = Annotated[Known | None, _reader(VEHICLE_MASS)]
DragArea = Annotated[Known | None, _reader(DRAG_AREA)]
Rolling = Annotated[Known | None, _reader(ROLLING)]
Efficiency = Annotated[Known | None, _reader(EFFICIENCY)]
Auxiliary = Annotated[Known | None, _reader(AUXILIARY)]
Watts = Annotated[Known | None, _reader(MOTOR_POWER)]
Ohms = Annotated[Known | None, _reader(PACK_RESISTANCE)]
Retained = Annotated[Known | None, _reader(RETAINED)]
Temperature = Annotated[Known | None, _reader(AIR_TEMPERATURE)]
Wind = Annotated[Known | None, _reader(WIND)]
StartShare = Annotated[Known, _reader(START_SHARE)]
PerKm = Annotated[Known | None, _reader(CONSUMPTION)]


@dataclass(frozen=True, slots=True, kw_only=True)
class RoadFit:
    """Road-load parameters found from tests, with their covariance, in the order of `names`."""

    names: Annotated[tuple[str, ...], Field(max_length=8)]
    values: Annotated[tuple[Number, ...], Field(max_length=8)]
    covariance: Annotated[tuple[tuple[Number, ...], ...], Field(max_length=8)]
    tests: Annotated[int, Field(ge=1)]
    tyre_kpa: Kilopascal | None = None
    titles: Annotated[tuple[Name, ...], Field(max_length=MOST_FIT_TESTS)] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class TripVehicle:
    """What rolls; None is "take the start value of its kind"."""

    kind: VehicleKind
    name: Name | None = None
    mass_kg: VehicleMass = None
    cda_m2: DragArea = None
    crr: Rolling = None
    drivetrain_efficiency: Efficiency = None
    aux_w: Auxiliary = None
    regeneration: Annotated[float, REGENERATION.field()] = 0.0
    max_power_w: Watts = None
    max_speed_mps: TargetSpeed | None = None
    controller_current_limit_a: Annotated[float, CURRENT_LIMIT.field()] | None = None
    step_down: Annotated[tuple[StepDown, ...], Field(max_length=MOST_STEPS_DOWN)] = ()
    fit: RoadFit | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class TripPack:
    """The pack, and what is left of it."""

    chemistry: Chemistry
    series: Annotated[int, Field(ge=1, le=300)]
    rated_ah: AmpHours
    name: Name | None = None
    nominal_v: Volts | None = None
    taken: Annotated[Taken, Field(max_length=3)] = ()
    parallel: Annotated[int, Field(ge=1, le=1000)] | None = None
    rated_wh: WattHours | None = None
    full_v: Volts | None = None
    cutoff_v: Volts | None = None
    resistance_ohm: Ohms = None
    retained_fraction: Retained = None
    equivalent_full_cycles: Cycles | None = None

    @property
    def label(self) -> PackSpec:
        """The pack as its label describes it."""
        return PackSpec(
            name=self.name,
            chemistry=self.chemistry,
            series=self.series,
            parallel=self.parallel,
            rated_ah=self.rated_ah,
            rated_wh=self.rated_wh,
            nominal_v=self.nominal_v,
            full_v=self.full_v,
            cutoff_v=self.cutoff_v,
            taken=self.taken,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Packs:
    """How many packs go along and how they are used."""

    count: Annotated[int, Field(ge=1, le=20)] = 1
    use: TripPackUse = "single"


@dataclass(frozen=True, slots=True, kw_only=True)
class TripRider:
    """The load."""

    mass_kg: LoadKnown = None
    gear_kg: LoadKnown = None
    pedal_power_w: Annotated[float, PEDALLING.field()] = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class TripConditions:
    """Air and wind on the day."""

    temp_c: Temperature = None
    wind_mps: Wind = None
    wind_from_deg: Bearing | None = None
    pressure_hpa: Hectopascal | None = None
    humidity_pct: Percent | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class TripTyres:
    """Tyre pressure, and the pressure at which a given C_rr was found [kPa]."""

    pressure_kpa: Kilopascal | None = None
    reference_kpa: Kilopascal | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class LoopSpec:
    """A measured lap."""

    length_m: LapMetres
    climb_m: Climb = 0.0
    descent_m: Climb | None = None
    surface: Surface = "smooth_paved"
    stops: Stops = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class RouteSpec:
    """The way: legs, a lap, or a GPX file beside the trip file. One of the three."""

    legs: Annotated[tuple[Leg, ...], Field(max_length=MOST_LEGS)] | None = None
    loop: LoopSpec | None = None
    gpx: Words | None = None
    and_back: bool = False
    laps: Annotated[int, Field(ge=1, le=100_000)] | None = None
    surface: Surface = "smooth_paved"


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeedSpec:
    """How it is ridden: a speed that is held, or the average that a tracker gives while moving, about
    which it scattered."""

    policy: SpeedPolicy = "fixed"
    target_mps: TargetSpeed | None = None
    average_mps: TargetSpeed | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class KnownAt:
    """Where a known consumption was found; what is None is taken as on this trip, or calm."""

    speed_mps: TargetSpeed | None = None
    load_kg: Load | None = None
    temp_c: Annotated[float, AIR_TEMPERATURE.field()] | None = None
    climb_m_per_km: Annotated[float, CLIMB_PER_KM.field()] | None = None
    stops_per_km: Annotated[float, STOPS_PER_KM.field()] | None = None
    surface: Surface | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Trip:
    """All of a trip file."""

    trip: Literal[1] = 1
    vehicle: TripVehicle
    pack: Annotated[TripPack, BeforeValidator(with_what_is_taken)]
    route: RouteSpec
    packs: Packs = field(default_factory=Packs)
    rider: TripRider = field(default_factory=TripRider)
    conditions: TripConditions = field(default_factory=TripConditions)
    tyres: TripTyres = field(default_factory=TripTyres)
    speed: SpeedSpec = field(default_factory=SpeedSpec)
    known_consumption_wh_per_km: PerKm = None
    known_at: KnownAt | None = None
    start_energy_fraction: StartShare = Known(value=1.0)
    reserve: Share = field(default_factory=lambda: RESERVE.value)
    minimum_speed_mps: Annotated[float, MINIMUM_SPEED.field()] = 1.4
    probability: Annotated[float, PROBABILITY.field()] = 0.95
    draws: Annotated[int, Field(ge=50, le=20_000)] = 1000
    seed: Annotated[int, Field(ge=0, le=2**32 - 1)] = 1
