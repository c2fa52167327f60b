"""What planning says over HTTP."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field

from limpet.assumptions import RESERVE, RETIRED_AT
from limpet.bounds import (
    MOST_NAME,
    MOST_TITLE,
)
from limpet.evidence.model import EndRule, Purpose, TripPackUse
from limpet.fields import CELL, CLAIM, GUESS, PLAN, SIZE, TRIP
from limpet.history.inform import TaughtTrip
from limpet.judge import Question
from limpet.judge.compare import MOST_RUNS
from limpet.outlook.answer import Peak, RouteAnswer, SlowTo, TurnPoint
from limpet.pack import Chemistry
from limpet.planning.claim import ClaimAnswer
from limpet.planning.enough import Enough
from limpet.planning.rules import Rules
from limpet.planning.schedule import PlannedEntry, Schedule
from limpet.planning.size import PackSize
from limpet.planning.wagers import Standing
from limpet.road import VehicleKind
from limpet.road.kinds import SpeedPolicy
from limpet.trip import MOST_LEGS
from limpet.uncertain.input import Input
from server.kit.schemas import RouteLeg
from server.logbook.schemas import StartCharge
from server.results.schemas import ConsumptionOut, PooledStepOut
from server.wire.derived import Derived, QuantityOut, derived, filled
from server.wire.notices import NoticeOut, Told
from server.wire.schema import Schema, Sent
from server.wire.times import RideTime
from server.wire.typed import Held, Line, Lines, NoTruth, Typed

Name = Annotated[Line, Field(min_length=1, max_length=MOST_NAME)]


class TripIn(Sent):
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
    reserve: Annotated[float, Held(TRIP["reserve"])] = Field(default_factory=lambda: RESERVE.value)
    probability: Annotated[float, Held(TRIP["probability"])] = 0.95
    start_energy_fraction: Annotated[float, Held(TRIP["start_energy_fraction"])] = 1.0
    packs_count: Annotated[int, Field(ge=1, le=20), NoTruth] = 1
    packs_use: TripPackUse = "single"
    known_consumption_wh_per_km: Annotated[
        float | None, Typed(TRIP["known_consumption_wh_per_km"])
    ] = None
    #: What the vehicle's and the pack's own tests taught, where nothing is typed.
    use_tests: bool = True
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


@derived(RouteAnswer)
class RouteAnswerOut(Derived):
    """The trip itself."""


@derived(SlowTo)
class SlowToOut(Derived):
    """A speed at which the trip succeeds."""


@derived(TurnPoint, without=("curve",))
class ChanceAt(Derived):
    """A place on the way and a chance."""


@derived(Peak)
class PeakOut(Derived):
    """The most that the way asks."""


class BandOut(Schema):
    """A value in its 95% interval."""

    low: float
    value: float
    high: float


class PointOut(Schema):
    """One point of the profile."""

    distance_m: float
    energy_left_fraction: BandOut
    loaded_v: float | None
    speed_mps: float | None


@filled({"from": (float, ...)})
class SwingOut(Schema):
    """What one input does to the range; "from" is the format's name and Python's word."""

    input: str
    to: float
    range_low_m: float
    range_high_m: float


@derived(Input, without=("shape",))
class InputOut(Derived):
    """An input and its source."""


class NamedTest(Schema):
    """A test by its title; without an id it was renamed or removed since."""

    id: UUID | None
    title: str


class OwnTestsOut(Schema):
    """What tests of a piece of kit taught a trip, and where that is seen."""

    what: TaughtTrip
    shelf: Literal["vehicles", "packs"]
    item_id: UUID
    item: str
    tests: list[NamedTest]


class ForecastOut(Schema):
    """A forecast, as the command line prints it, and the own tests that it rests on."""

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
    own_tests: list[OwnTestsOut] = Field(default_factory=list)
    #: What the vehicle's gauge meant over its tests, fullest first.
    gauge: list[PooledStepOut] = Field(default_factory=list)


@derived(Rules)
class RulesOut(Derived):
    """The rules of a question."""


@derived(PlannedEntry)
class PlannedEntryOut(Derived):
    """An entry to make."""


@derived(Schedule)
class ScheduleOut(Derived):
    """A ride in numbers."""


@derived(Enough, without=("curve", "notice"))
class EnoughOut(Told, Derived):
    """Where a test has told enough."""


class KeptTripIn(Sent):
    """A trip to be kept under a name."""

    name: Name
    asked: TripIn


class KeptTripOut(Schema):
    """A kept trip: what the form held, by its own names."""

    id: UUID
    name: str
    asked: dict[str, Any]


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
    series: UUID | None
    series_place: int | None


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
    #: Of a series that settles a comparison: which, and which ride of it this is.
    series: UUID | None
    series_place: int | None


@derived(Standing)
class StandingOut(Derived):
    """How well somebody guesses."""


class SettleIn(Sent):
    """A comparison that is to be settled by so many more rides of each side."""

    first: list[UUID] = Field(min_length=1, max_length=MOST_RUNS)
    second: list[UUID] = Field(min_length=1, max_length=MOST_RUNS)
    question: Question | None = None
    runs: Annotated[int, Field(ge=1, le=60), NoTruth] = 1


class SeriesRide(Schema):
    """One ride of a series: its plan, and the test that was made of it."""

    plan_id: UUID
    place: int
    side: str
    title: str
    test_id: UUID | None


class SeriesOut(Schema):
    """Rides that settle a comparison, in their order, and the address of the comparison with them."""

    id: UUID
    rides: list[SeriesRide]
    compare: str


class TickedIn(Sent):
    """What of the checklist is done."""

    ticked: list[Annotated[str, Field(max_length=300)]] = Field(max_length=60)


class GuessIn(Sent):
    """A guess as typed."""

    name: Name
    distance_m: Annotated[float, Typed(GUESS["distance_m"])]


class StartIn(Sent):
    """When a planned ride begins, and what its rider says of the charge."""

    started_at: RideTime
    charge: StartCharge | None = None


class ClaimIn(Sent):
    """A maker's figure as typed."""

    name: Name = "A claim"
    note: Annotated[Lines, Field(max_length=2000)] = ""
    rated_wh: Annotated[float, Typed(CLAIM["rated_wh"])]
    distance_m: Annotated[float, Typed(CLAIM["distance_m"])]
    speed_mps: Annotated[float, Typed(CLAIM["speed_mps"])]
    load_kg: Annotated[float | None, Typed(CLAIM["load_kg"])] = None
    vehicle_kind: VehicleKind
    vehicle_mass_kg: Annotated[float | None, Typed(CLAIM["vehicle_mass_kg"])] = None


@derived(ClaimAnswer, without=("notice",))
class ClaimAnswerOut(Told, Derived):
    """Whether a figure can be true."""


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


class CellIn(Sent):
    """A cell as typed."""

    capacity_ah: Annotated[float, Typed(CELL["capacity_ah"])]
    nominal_v: Annotated[float, Typed(CELL["nominal_v"])]
    max_current_a: Annotated[float, Typed(CELL["max_current_a"])]
    resistance_ohm: Annotated[float, Typed(CELL["resistance_ohm"])]
    mass_kg: Annotated[float, Typed(CELL["mass_kg"])]
    chemistry: Chemistry
    parallel: Annotated[int, Field(ge=1, le=200), NoTruth] | None = None


class SizeIn(Sent):
    """A trip, a cell, and the pack's last and coldest day."""

    trip: TripIn
    cell: CellIn
    retired_at: Annotated[float, Held(SIZE["retired_at"])] = Field(
        default_factory=lambda: RETIRED_AT.value
    )


@derived(PackSize, without=("notice",))
class SizeOut(Told, Derived):
    """A pack for a trip."""


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
