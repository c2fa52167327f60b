"""What the kit says over HTTP: vehicles, packs, riders, routes."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from limpet.bounds import (
    MOST_NAME,
)
from limpet.fields import LEG, PACK, RIDER, ROUTE, STEP_DOWN, VEHICLE
from limpet.pack import Chemistry
from limpet.pack.label import full_energy_wh
from limpet.pack.said import PackSaid
from limpet.road import Surface, VehicleKind
from limpet.trip import MOST_LEGS
from server.kit.models import Route, Vehicle
from server.wire.notices import NoticeOut
from server.wire.schema import Sent
from server.wire.stored import readable
from server.wire.typed import SAID_WHOLE, Held, Line, Lines, NoTruth, Typed

Name = Annotated[Line, Field(min_length=1, max_length=MOST_NAME)]
Note = Annotated[Lines, Field(max_length=2000)]


class StepDownIn(Sent):
    """A controller's limp rule as typed: under so many volts, or where its gauge shows so much."""

    below_v: Annotated[float | None, Typed(STEP_DOWN["below_v"])] = None
    gauge: Annotated[float | None, Held(STEP_DOWN["gauge"])] = None
    max_speed_mps: Annotated[float, Typed(STEP_DOWN["max_speed_mps"])]

    @model_validator(mode="after")
    def one_trigger(self) -> StepDownIn:
        """One rule begins at one reading."""
        if (self.below_v is None) == (self.gauge is None):
            raise PydanticCustomError(
                SAID_WHOLE, "Say where it slows: volts (44 V: 20 km/h) or gauge (20%: 20 km/h)."
            )
        return self


class StepDownOut(Schema):
    """A controller's limp rule."""

    below_v: float | None = None
    gauge: float | None = None
    max_speed_mps: float


class VehicleIn(Sent):
    """A vehicle as typed."""

    name: Name
    kind: VehicleKind
    mass_kg: Annotated[float | None, Typed(VEHICLE["mass_kg"])] = None
    cda_m2: Annotated[float | None, Held(VEHICLE["cda_m2"])] = None
    crr: Annotated[float | None, Held(VEHICLE["crr"])] = None
    drivetrain_efficiency: Annotated[float | None, Held(VEHICLE["drivetrain_efficiency"])] = None
    aux_w: Annotated[float | None, Typed(VEHICLE["aux_w"])] = None
    regeneration: Annotated[float | None, Held(VEHICLE["regeneration"])] = None
    max_power_w: Annotated[float | None, Typed(VEHICLE["max_power_w"])] = None
    max_speed_mps: Annotated[float | None, Typed(VEHICLE["max_speed_mps"])] = None
    controller_current_limit_a: Annotated[
        float | None, Typed(VEHICLE["controller_current_limit_a"])
    ] = None
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
    #: Why its tests could not be looked at of late; empty when they could.
    fit_trouble: str
    learns: bool
    left_aside: list[str]
    note: str

    @staticmethod
    def resolve_fit(obj: Vehicle) -> FitOut | None:
        """The fit without what only the core reads; none when it cannot be read any more."""
        return readable(obj.fit, FitOut)

    @staticmethod
    def resolve_fit_trouble(obj: Vehicle) -> str:
        """What came of the last try to learn from its tests."""
        return obj.trouble

    @staticmethod
    def resolve_step_down(obj: Vehicle) -> list[StepDownOut]:
        """The limp table, less rules that an older form let through half empty."""
        rules = obj.step_down if isinstance(obj.step_down, list) else []
        return [found for rule in rules if (found := readable(rule, StepDownOut)) is not None]


class PackIn(Sent):
    """A pack as typed: by its cells, by its label, or not known but by its name."""

    name: Name
    chemistry: Chemistry | None = None
    series: Annotated[int, Field(ge=1, le=300), NoTruth] | None = None
    parallel: Annotated[int, Field(ge=1, le=1000), NoTruth] | None = None
    nominal_v: Annotated[float | None, Typed(PACK["nominal_v"])] = None
    rated_ah: Annotated[float | None, Typed(PACK["rated_ah"])] = None
    rated_wh: Annotated[float | None, Typed(PACK["rated_wh"])] = None
    full_v: Annotated[float | None, Typed(PACK["full_v"])] = None
    cutoff_v: Annotated[float | None, Typed(PACK["cutoff_v"])] = None
    equivalent_full_cycles: Annotated[float | None, Held(PACK["equivalent_full_cycles"])] = None
    resistance_ohm: Annotated[float | None, Typed(PACK["resistance_ohm"])] = None
    retained_fraction: Annotated[float | None, Held(PACK["retained_fraction"])] = None
    note: Note = ""


class PackSaidOut(Schema):
    """A pack as it was understood from a rider's words; what was not said is filled in and named."""

    #: What was said.
    values: dict[str, float | int | str]
    chemistry: Chemistry
    series: int
    rated_ah: float
    energy_wh: float
    taken: list[str]
    #: Words that were not understood.
    left: list[str]


class PackOut(Schema):
    """A pack as kept."""

    id: UUID
    name: str
    chemistry: Chemistry
    series: int
    parallel: int | None
    nominal_v: float | None
    rated_ah: float
    #: Which of `chemistry`, `series` and `rated_ah` nobody said and are a guess.
    taken: list[str]
    rated_wh: float | None
    full_v: float | None
    cutoff_v: float | None
    #: What its volts may read where nobody said, and the most that such cells can have.
    likely_full_v: float | None
    likely_cutoff_v: float | None
    most_v: float | None
    equivalent_full_cycles: float | None
    resistance_ohm: float | None
    retained_fraction: float | None
    note: str


class RiderIn(Sent):
    """A rider as typed."""

    name: Name
    mass_kg: Annotated[float | None, Typed(RIDER["mass_kg"])] = None
    gear_kg: Annotated[float | None, Typed(RIDER["gear_kg"])] = None
    note: Note = ""


class RiderOut(Schema):
    """A rider as kept."""

    id: UUID
    name: str
    mass_kg: float | None
    gear_kg: float | None
    note: str


class RouteLeg(Sent):
    """A leg, as typed and as kept."""

    length_m: Annotated[float, Typed(LEG["length_m"])]
    climb_m: Annotated[float, Typed(LEG["climb_m"])] = 0.0
    descent_m: Annotated[float, Typed(LEG["descent_m"])] = 0.0
    bearing_deg: Annotated[float | None, Held(LEG["bearing_deg"])] = None
    surface: Surface = "smooth_paved"
    stops: Annotated[float, Held(LEG["stops"])] = 0.0
    speed_mps: Annotated[float | None, Typed(LEG["speed_mps"])] = None
    winding: bool = False


class RouteIn(Sent):
    """A route as typed: legs, or a lap with the readings of its length."""

    name: Name
    kind: Literal["legs", "loop"]
    legs: list[RouteLeg] = Field(min_length=1, max_length=MOST_LEGS)
    readings_m: list[Annotated[float, Typed(ROUTE["readings_m"])]] = Field(
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
    #: Empty when they cannot be read any more; the way's length stays.
    legs: list[LegOut]
    length_m: float
    ascent_m: float
    descent_m: float
    length_std_m: float | None
    readings_m: list[float]
    profile: ProfileOut | None
    notices: list[NoticeOut]
    note: str

    @staticmethod
    def resolve_legs(obj: Route) -> list[LegOut]:
        legs = obj.legs if isinstance(obj.legs, list) else []
        found = [readable(leg, LegOut) for leg in legs]
        return [leg for leg in found if leg is not None] if None not in found else []

    @staticmethod
    def resolve_profile(obj: Route) -> ProfileOut | None:
        return readable(obj.profile, ProfileOut)

    @staticmethod
    def resolve_notices(obj: Route) -> list[NoticeOut]:
        notices = obj.notices if isinstance(obj.notices, list) else []
        return [found for kept in notices if (found := readable(kept, NoticeOut)) is not None]


class ReadingsIn(Sent):
    """Several readings of one loop."""

    readings_m: list[Annotated[float, Typed(ROUTE["readings_m"])]] = Field(
        min_length=1, max_length=50
    )
    accuracy_pct: float = Field(0.0, ge=0, le=20, allow_inf_nan=False)


class LoopLengthOut(Schema):
    """A loop's length and how sure it is."""

    value: float
    standard_uncertainty: float
    low: float
    high: float


def said_of(said: PackSaid) -> PackSaidOut:
    """What was understood, and the pack that it makes."""
    spec = said.spec
    return PackSaidOut(
        values=said.values,
        chemistry=spec.chemistry,
        series=spec.series,
        rated_ah=spec.rated_ah,
        energy_wh=full_energy_wh(spec),
        taken=list(spec.taken),
        left=list(said.left[:20]),
    )
