"""What planning says over HTTP."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any
from uuid import UUID

from pydantic import ConfigDict, Field, create_model

from limpet.assumptions import RESERVE, RETIRED_AT
from limpet.bounds import (
    MOST_NAME,
    MOST_TITLE,
)
from limpet.evidence.model import EndRule, Propulsion, Purpose, SpeedPolicy
from limpet.fields import CELL, CLAIM, GUESS, PLAN, SIZE, TRIP
from limpet.pack import Chemistry
from limpet.planning.claim import Verdict
from limpet.road import VehicleKind
from limpet.trip import MOST_LEGS, PackUse
from server.kit.api import RouteLeg
from server.logbook.schemas import QuantityOut
from server.wire.notices import NoticeOut, Told
from server.wire.schema import Schema
from server.wire.times import RideTime
from server.wire.typed import Held, Line, Lines, NoTruth, Typed

Name = Annotated[Line, Field(min_length=1, max_length=MOST_NAME)]


class _In(Schema):
    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True)


class TripIn(_In):
    """A trip with kit: what a forecast is asked from the screens."""

    vehicle_id: UUID
    pack_id: UUID
    rider_id: UUID | None = None
    route_id: UUID | None = None
    legs: list[RouteLeg] | None = Field(None, max_length=MOST_LEGS)
    and_back: bool = False
    reversed: bool = False
    laps: Annotated[int, Field(ge=1, le=10_000), NoTruth] | None = None
    policy: SpeedPolicy = "with_traffic"
    target_mps: Annotated[float | None, Typed(TRIP["target_mps"])] = None
    temp_c: Annotated[float | None, Typed(TRIP["temp_c"])] = None
    wind_mps: Annotated[float | None, Typed(TRIP["wind_mps"])] = None
    wind_from_deg: Annotated[float | None, Held(TRIP["wind_from_deg"])] = None
    pressure_hpa: Annotated[float | None, Typed(TRIP["pressure_hpa"])] = None
    humidity_pct: Annotated[float | None, Held(TRIP["humidity_pct"])] = None
    tyre_kpa: Annotated[float | None, Typed(TRIP["tyre_kpa"])] = None
    extra_load_kg: Annotated[float | None, Typed(TRIP["extra_load_kg"])] = None
    reserve: Annotated[float, Held(TRIP["reserve"])] = RESERVE.value
    probability: Annotated[float, Held(TRIP["probability"])] = 0.95
    start_energy_fraction: Annotated[float, Held(TRIP["start_energy_fraction"])] = 1.0
    packs_count: Annotated[int, Field(ge=1, le=20), NoTruth] = 1
    packs_use: PackUse = "single"
    known_consumption_wh_per_km: Annotated[
        float | None, Typed(TRIP["known_consumption_wh_per_km"])
    ] = None
    #: A slider in motion asks for fewer draws and no ranking.
    quick: bool = False


class PlanIn(TripIn):
    """A plan as typed: a trip, the question it answers, and how it is to be ridden."""

    title: Annotated[Line, Field(max_length=MOST_TITLE)] = ""
    purpose: Purpose = "floor"
    end_rule: EndRule = "cutoff"
    wanted: Annotated[float | None, Held(PLAN["wanted"])] = None
    runs: Annotated[int, Field(ge=1, le=60), NoTruth] | None = None
    counts_charge: bool = True
    charger_w: Annotated[float | None, Typed(PLAN["charger_w"])] = None
    starts_at: RideTime | None = None


class RouteAnswerOut(Schema):
    """The trip itself."""

    distance_m: float
    ascent_m: float
    energy: QuantityOut
    duration_s: QuantityOut
    energy_left_fraction: QuantityOut
    arrives_probability: float
    reaches_probability: float
    laps: int | None


class ChanceAt(Schema):
    """A place on the way and a chance."""

    distance_m: float
    probability: float


class SlowToOut(Schema):
    """A speed at which the trip succeeds."""

    speed_mps: float
    probability: float


class PeakOut(Schema):
    """The most that the way asks."""

    power_w: float
    current_a: float
    loaded_v: float
    per_cell_a: float | None


class BandOut(Schema):
    """A value in its 95 % interval."""

    low: float
    value: float
    high: float


class PointOut(Schema):
    """One point of the profile."""

    distance_m: float
    energy_left_fraction: BandOut
    loaded_v: float | None
    speed_mps: float | None


#: What one input does to the range. Made by hand: "from" is the format's name and Python's word.
SwingOut = create_model(  # type: ignore[call-overload]
    "SwingOut",
    __base__=Schema,
    input=(str, ...),
    to=(float, ...),
    range_low_m=(float, ...),
    range_high_m=(float, ...),
    **{"from": (float, ...)},
)


class InputOut(Schema):
    """An input and its source."""

    name: str
    value: float
    standard_uncertainty: float
    source: str


class ConsumptionOut(Schema):
    """Energy over distance."""

    wh_per_km: QuantityOut
    wh_per_mi: QuantityOut


class ForecastOut(Schema):
    """A forecast, as the command line prints it."""

    consumption: ConsumptionOut
    range_to_cutoff: QuantityOut
    range_to_reserve: QuantityOut
    route: RouteAnswerOut
    turn_point: ChanceAt | None
    slow_to: SlowToOut | None
    ends_by: dict[str, float]
    peak: PeakOut
    profile: list[PointOut]
    sensitivity: list[SwingOut]
    inputs: list[InputOut]
    warnings: list[NoticeOut]
    reserve: float
    floor_m: float
    usable_wh: float
    turn_chances: list[ChanceAt]
    where_it_goes_wh: dict[str, float] | None


class RulesOut(Schema):
    """The rules of a question."""

    purpose: Purpose
    question: str
    end_rule: EndRule
    reserve: float
    speed_policy: SpeedPolicy
    propulsion: Propulsion
    route_kind: str
    stops: str
    runs: int
    wanted: float
    why: str
    series: list[str]
    equipment: list[str]
    cautions: list[str]


class PlannedEntryOut(Schema):
    """An entry to make."""

    distance_m: float
    energy_left: float
    after_s: float
    lap: int | None


class ScheduleOut(Schema):
    """A ride in numbers."""

    entries: list[PlannedEntryOut]
    laps: int | None
    riding_s: float
    resting_s: float
    total_s: float
    charge_s: float


class EnoughOut(Told):
    """Where a test has told enough."""

    distance_m: float | None
    wanted: float
    at_end: float


class PreviewOut(Schema):
    """Everything that a plan comes to, before it is stored."""

    forecast: ForecastOut
    rules: RulesOut
    schedule: ScheduleOut
    enough: EnoughOut
    days: list[str]
    checklist: list[str]


class PlanRow(Schema):
    """A plan in a list."""

    id: UUID
    title: str
    purpose: Purpose
    changed_at: datetime
    test_id: UUID | None
    #: None when what it came to cannot be read any more; `trouble` then says what to do.
    distance_m: float | None
    arrives_probability: float | None
    trouble: str


class GuessOut(Schema):
    """A guess; sealed until the ride has ended."""

    id: UUID
    name: str
    distance_m: float | None
    off_m: float | None
    place: int | None


class PlanOut(Schema):
    """A plan as kept."""

    id: UUID
    title: str
    purpose: Purpose
    changed_at: datetime
    asked: dict[str, Any]
    answer: PreviewOut | None
    trouble: str
    ticked: list[str]
    guesses: list[GuessOut]
    opened: bool
    guesses_closed: bool
    test_id: UUID | None


class TickedIn(_In):
    """What of the checklist is done."""

    ticked: list[Annotated[str, Field(max_length=300)]] = Field(max_length=60)


class GuessIn(_In):
    """A guess as typed."""

    name: Name
    distance_m: Annotated[float, Typed(GUESS["distance_m"])]


class StartIn(_In):
    """When a planned ride begins."""

    started_at: RideTime


class ClaimIn(_In):
    """A maker's figure as typed."""

    name: Name = "A claim"
    note: Annotated[Lines, Field(max_length=2000)] = ""
    rated_wh: Annotated[float, Typed(CLAIM["rated_wh"])]
    distance_m: Annotated[float, Typed(CLAIM["distance_m"])]
    speed_mps: Annotated[float, Typed(CLAIM["speed_mps"])]
    load_kg: Annotated[float | None, Typed(CLAIM["load_kg"])] = None
    vehicle_kind: VehicleKind
    vehicle_mass_kg: Annotated[float | None, Typed(CLAIM["vehicle_mass_kg"])] = None


class ClaimAnswerOut(Told):
    """Whether a figure can be true."""

    implied_wh_per_km: float
    least_wh_per_km: float
    usual_wh_per_km: float
    possible: bool
    speed_it_would_need_mps: float | None
    verdict: Verdict


class ClaimOut(Schema):
    """A claim as kept, and its verdict."""

    id: UUID
    name: str
    note: str
    rated_wh: float
    distance_m: float
    speed_mps: float
    load_kg: float | None
    vehicle_kind: VehicleKind
    vehicle_mass_kg: float | None
    answer: ClaimAnswerOut


class CellIn(_In):
    """A cell as typed."""

    capacity_ah: Annotated[float, Typed(CELL["capacity_ah"])]
    nominal_v: Annotated[float, Typed(CELL["nominal_v"])]
    max_current_a: Annotated[float, Typed(CELL["max_current_a"])]
    resistance_ohm: Annotated[float, Typed(CELL["resistance_ohm"])]
    mass_kg: Annotated[float, Typed(CELL["mass_kg"])]
    chemistry: Chemistry
    parallel: Annotated[int, Field(ge=1, le=200), NoTruth] | None = None


class SizeIn(_In):
    """A trip, a cell, and the pack's last and coldest day."""

    trip: TripIn
    cell: CellIn
    retired_at: Annotated[float, Held(SIZE["retired_at"])] = RETIRED_AT.value


class SizeOut(Told):
    """A pack for a trip."""

    series: int
    parallel: int
    rated_wh: float
    mass_kg: float
    needed_wh: float
    peak_cell_current_a: float
    continuous_cell_current_a: float
    sag_fraction: float
    fits: bool
    arrives_probability: float
    arrives_with_one_more: float | None
    range_gain_with_one_more_m: float | None
    retained_fraction: float


class WeatherOut(Schema):
    """Conditions at a place on a day."""

    place: str
    date: date
    temp_c: float
    wind_mps: float
    wind_from_deg: float
    pressure_hpa: float
    humidity_pct: float
    source: str
