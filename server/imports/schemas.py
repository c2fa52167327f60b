"""Imports over the wire: what was dropped, how it looks, what of it is taken."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from limpet.bounds import MOST_NAME, MOST_TITLE
from limpet.evidence.model import EndReason, Purpose
from limpet.foreign.recipe import LogMapping
from limpet.foreign.track import MOST_CUT_M
from limpet.road.kinds import VehicleKind
from server.wire.schema import Schema, Sent
from server.wire.typed import Line

#: Parts of one import, and days that two clocks may lie apart [s].
MOST_PARTS, MOST_OFFSET_S = 200, 366 * 86_400.0
_Offset = Annotated[float, Field(ge=-MOST_OFFSET_S, le=MOST_OFFSET_S, allow_inf_nan=False)]
_Cut = Annotated[float, Field(ge=0, le=MOST_CUT_M, allow_inf_nan=False)]
_Zone = Annotated[Line, Field(max_length=60)]
What = Literal["table", "workbook", "track", "bundle", "picture", "several", "packed", "unknown"]


class SeenOut(Schema):
    """An earlier import of the same."""

    id: UUID
    name: str
    tests: list[UUID]


class DroppedPartOut(Schema):
    """One thing that was dropped; `fault` says why it cannot be taken."""

    key: int
    name: str
    what: What
    form: str
    size: int
    fault: str
    seen: SeenOut | None


class DropOut(Schema):
    """What was dropped at once; `rides` are the keys of logs and tracks, ride by ride, by their clocks."""

    id: UUID
    parts: list[DroppedPartOut]
    rides: list[list[int]]


class PlaceIn(Sent):
    """A place and how far round it."""

    latitude_deg: Annotated[float, Field(ge=-90, le=90)]
    longitude_deg: Annotated[float, Field(ge=-180, le=180)]
    within_m: Annotated[float, Field(ge=20, le=MOST_CUT_M)]


class CutIn(Sent):
    """What is cut off a track before anything of it is stored."""

    first_m: _Cut = 0.0
    last_m: _Cut = 0.0
    home: PlaceIn | None = None
    #: Whether what lies beyond a leap is left out.
    leaps: bool = False


class RecordColumnIO(Sent):
    """What a column of a list of rides is taken for; "" where it is left aside."""

    source: Annotated[str, Field(max_length=120)]
    field: Annotated[str, Field(max_length=40)]
    unit: Annotated[str, Field(max_length=20)] = ""


class LookIn(Sent):
    """How a part is to be looked at; what is left out is guessed."""

    use: Literal["log", "records"] | None = None
    mapping: LogMapping | None = None
    record_columns: Annotated[list[RecordColumnIO] | None, Field(max_length=200)] = None
    zone: _Zone | None = None
    pack_id: UUID | None = None
    cut: CutIn | None = None


class SumsOut(Schema):
    """What a log comes to, by its rows alone."""

    duration_s: float
    energy_wh: float | None
    charge_ah: float | None
    distance_m: float | None
    wh_per_km: float | None
    by: str


class DrawingOut(Schema):
    """A log as it is drawn: its times [s] and channels in the core's units."""

    time_s: list[float]
    channels: dict[str, list[float | None]]
    sums: SumsOut


class ColumnOut(Schema):
    """A column: its first cells, what it is taken for, how sure that is, and why."""

    source: str
    cells: list[str]
    is_time: bool
    quantity: str | None
    unit: str
    factor: float
    sign: int
    sure: float
    why: list[str]


class RecordOut(Schema):
    """A row of a list of rides, or what is wrong with it."""

    row: int
    title: str
    started_at: str | None
    distance_m: float | None
    energy_wh: float | None
    volts_start_v: float | None
    volts_end_v: float | None
    wall_wh: float | None
    faults: list[str]


class SpanOut(Schema):
    """A stretch of a log, on its own time [s]."""

    from_s: float
    to_s: float


class LookOut(Schema):
    """How a part looks: a log, a list of rides or a track. What does not belong to its kind is empty."""

    kind: Literal["log", "records", "track"]
    unsure: list[str]
    faults: list[str]
    notices: list[str] = Field(default_factory=list)
    started_at: str | None = None
    drawing: DrawingOut | None = None
    of_rows: int = 0
    sampled: bool = False
    headings: list[str] = Field(default_factory=list)
    rows: list[list[str]] = Field(default_factory=list)
    mapping: LogMapping | None = None
    kept: bool = False
    columns: list[ColumnOut] = Field(default_factory=list)
    time_why: list[str] = Field(default_factory=list)
    record_columns: list[RecordColumnIO] = Field(default_factory=list)
    records: list[RecordOut] = Field(default_factory=list)
    form: str = ""
    fixes: int = 0
    segments: int = 0
    length_m: float = 0.0
    timed: bool = False
    has_heights: bool = False
    leaps_m: list[float] = Field(default_factory=list)
    #: The rides that it holds, where a long rest parts them; empty where it is one.
    rides: list[SpanOut] = Field(default_factory=list)
    path: list[list[list[float]]] = Field(default_factory=list)


class SpanIO(Sent):
    """A stretch of a log, on its own time [s]."""

    from_s: Annotated[float, Field(ge=0, le=MOST_OFFSET_S)]
    to_s: Annotated[float, Field(ge=0, le=MOST_OFFSET_S)]


class TakeIn(Sent):
    """What becomes of a part."""

    key: Annotated[int, Field(ge=0, lt=MOST_PARTS)]
    use: Literal["log", "track", "records", "route", "photo", "leave"]
    mapping: LogMapping | None = None
    record_columns: Annotated[list[RecordColumnIO] | None, Field(max_length=200)] = None
    #: Rows of a list of rides that are left out, from 1.
    skip: Annotated[list[int], Field(max_length=2000)] = Field(default_factory=list)
    offset_s: _Offset = 0.0
    #: Only this stretch of a log or a track; all of it when None.
    span: SpanIO | None = None
    cut: CutIn | None = None


class StoreIn(Sent):
    """What of a drop is taken, and what it is of. `test_id` adds it to a test that is there."""

    id: UUID
    parts: Annotated[list[TakeIn], Field(min_length=1, max_length=MOST_PARTS)]
    title: Annotated[Line, Field(max_length=MOST_TITLE)] = ""
    test_id: UUID | None = None
    vehicle_id: UUID | None = None
    pack_id: UUID | None = None
    rider_id: UUID | None = None
    kind: VehicleKind | None = None
    purpose: Purpose | None = None
    full: bool | None = None
    reason: EndReason | None = None
    zone: _Zone | None = None
    #: Take it although the same readings are there already.
    again: bool = False


class BroughtOut(Schema):
    """An import that was taken: what became of it."""

    id: UUID
    name: str
    created_at: str
    files: list[str]
    tests: list[UUID]
    routes: list[UUID]
    streams: int


class StageOut(Schema):
    """How far the storing of a drop is; "" before it begins."""

    stage: str


class MatchIn(Sent):
    """Two recordings of one ride: a part and how it is read, against another part or a test's samples."""

    first: TakeIn
    second: TakeIn
    zone: _Zone | None = None


class CurveOut(Schema):
    """What two recordings are compared by, each on its own time [s]."""

    name: str
    time_s: list[float]
    speed_mps: list[float | None]
    power_w: list[float | None]


class MatchOut(Schema):
    """How the second lies on the first one's clock: `offset_s` beyond what the clocks say."""

    by_clocks_s: float | None
    offset_s: float | None
    likeness: float | None
    sure: bool
    said: str
    curves: list[CurveOut]


class KeptMappingOut(Schema):
    """How an instrument's files are read."""

    id: UUID
    instrument: Annotated[str, Field(max_length=MOST_NAME)]
    mapping: LogMapping
