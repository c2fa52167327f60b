"""The practice ride over HTTP: the ride, what a log so far is told, and the log beside the truth."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router
from pydantic import Field

from limpet.evidence.checks import refused_readings
from limpet.evidence.columns import ENTRY_COLUMNS
from limpet.evidence.model import Entry
from limpet.figures.parts import plain
from limpet.practice import MOST_ENTRIES, PracticeLog, practice_ride, review
from limpet.practice.lessons import CostCode, LessonCode, State
from limpet.practice.review import Told, Turn
from limpet.road import VehicleKind
from limpet.under_way import advise
from server.logbook.schemas import EntryIn, PackOnSheet
from server.plans.follow_schemas import FollowOut
from server.plans.riding import of_no_test, told
from server.wire.derived import Derived, QuantityOut, derived
from server.wire.problems import FieldError, Problem
from server.wire.schema import Schema, Sent
from server.wire.turns import by_turns

router = Router(tags=["practice"])
#: A ride of two minutes, thirty times as slow, with long stops [s].
LONGEST_S = 6 * 3600.0
_REFUSALS = {422: Problem}


class PracticeRows(Schema):
    """Rows of a stretch, in whole small units: `step_s` of riding lie between two, less before the last."""

    begins_s: int
    ends_s: int
    distance_m: list[int]
    speed_dmps: list[int]
    voltage_cv: list[int]
    settled_cv: list[int]
    lag_cv: list[int]
    used_dwh: list[int]


class PracticeWay(Schema):
    """The way home from a stone, or to where the drive cut off."""

    turn_m: int
    home: bool
    rows: PracticeRows


class PracticeBack(Schema):
    """How much of the lag is left so long after the throttle was closed [s]."""

    seconds: list[int]
    left: list[float]


class PracticeVehicle(Schema):
    """What is ridden."""

    name: str
    kind: VehicleKind
    mass_kg: float


class PracticeOut(Schema):
    """The practice ride and all that can happen on it."""

    name: str
    title: str
    step_s: int
    pace: float
    vehicle: PracticeVehicle
    pack: PackOnSheet
    rider_kg: float
    temp_c: float
    trip_scale: float
    bars_v: list[float]
    back: PracticeBack
    usable_wh: float
    out: PracticeRows
    ways: list[PracticeWay]


class PracticeIn(Sent):
    """A log of the practice ride so far, in the order of its times."""

    entries: Annotated[list[EntryIn], Field(min_length=1, max_length=MOST_ENTRIES)]


@derived(Turn)
class TurnOut(Derived):
    """Where it was turned, and from where one could have come home."""


@derived(Told)
class ToldOut(Derived):
    """What was known after an entry, beside what was true."""


class CostOut(Schema):
    """What a slip cost: of the energy left, as it was known then and as it would have been."""

    code: CostCode
    values: dict[str, float]
    half: float
    with_half: float
    off: float
    with_off: float


class LearnedOut(Schema):
    """How a lesson went."""

    code: LessonCode
    state: State
    values: dict[str, float]


class ReviewOut(Schema):
    """A practice ride, judged."""

    home: bool
    over: bool
    distance_m: float
    left_truly: float
    range_truly_m: float
    range_to_cutoff: QuantityOut | None
    turn: TurnOut
    told: list[ToldOut]
    costs: list[CostOut]
    lessons: list[LearnedOut]


@router.get("/practice", operation_id="getPractice", response={200: PracticeOut})
def get_practice(request: HttpRequest) -> dict[str, Any]:
    """The ride, whole: it is played on the page, with signal or without."""
    return dict(practice_ride().said)


@router.post(
    "/practice/follow", operation_id="followPractice", response={200: FollowOut, **_REFUSALS}
)
def follow_practice(request: HttpRequest, payload: PracticeIn) -> dict[str, Any]:
    """What matters now, as a real ride with this log would be told."""
    return _follow(_log_of(payload))


@router.post(
    "/practice/review", operation_id="reviewPractice", response={200: ReviewOut, **_REFUSALS}
)
def review_practice(request: HttpRequest, payload: PracticeIn) -> dict[str, Any]:
    """The log beside the truth. Nothing of it is kept."""
    return _review(_log_of(payload))


@by_turns
def _follow(log: PracticeLog) -> dict[str, Any]:
    found = advise(log.test)
    return {**told(found), "evidence": of_no_test(len(log.test.entries)), "table": None}


@by_turns
def _review(log: PracticeLog) -> dict[str, Any]:
    found: dict[str, Any] = plain(review(log))
    return found


def _log_of(payload: PracticeIn) -> PracticeLog:
    """The log, checked as a real one is.

    Raises
    ------
    FieldError
        When a reading or a time is none that this ride can have.
    """
    ride = practice_ride()
    entries: list[Entry] = []
    for index, sent in enumerate(payload.entries):
        values = sent.model_dump(exclude={"from_changes"})
        faults = refused_readings(ENTRY_COLUMNS, values, ride.pack)
        time_s: float = values["time_s"]
        if not 0 <= time_s <= LONGEST_S:
            faults["time_s"] = f"is {time_s:g}; expected 0 to {LONGEST_S:g} s of this ride"
        elif entries and time_s < entries[-1].time_s:
            faults["time_s"] = f"is {time_s:g}; expected entries in the order of their times"
        if faults:
            raise FieldError({f"entries.{index}.{name}": fault for name, fault in faults.items()})
        entries.append(Entry(**values))
    return PracticeLog(ride, tuple(entries))
