"""What the logbook says over HTTP, and how rows become it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from datetime import UTC, datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field

from limpet.bounds import MOST_NAME, MOST_PACKS, MOST_TITLE, MOST_WORDS
from limpet.evidence.checks import all_questions, asked_about
from limpet.evidence.columns import ENTRY_COLUMNS, SAMPLE_COLUMNS, Column
from limpet.evidence.model import (
    EndReason,
    EntryKind,
    Instruments,
    LapInstrument,
    PackUse,
    Propulsion,
    Protocol,
    Purpose,
    TestSheet,
)
from limpet.evidence.reduction import Reduction
from limpet.fields import RIDE
from limpet.files.pasted import MOST_ROWS as MOST_PASTED_ROWS
from limpet.files.pasted import MOST_TEXT as MOST_PASTED
from limpet.files.sheet import document_of
from limpet.pack import Chemistry, reading_span
from limpet.road import VehicleKind
from server.logbook import streams
from server.logbook.models import Entry, RangeTest, Stream
from server.logbook.rides import RideStart, start_of
from server.logbook.rows import core_entry, entry_values
from server.logbook.sheet_schemas import SheetChangeOut, SheetPartsOut, changes_of, parts_of
from server.wire.derived import Derived, derived, filled
from server.wire.notices import NoticeOut
from server.wire.schema import Schema, Sent
from server.wire.stored import unwrapped
from server.wire.times import RideTime
from server.wire.typed import Held, Line, Lines, NoTruth, Typed

#: Earlier shapes of an entry that its history shows.
MOST_EARLIER = 50
#: Tests that are removed, had back or exported together.
MOST_AT_ONCE = 100


class TestHead(Schema):
    """What names a test, wherever it stands; `revision` is raised by every change of its evidence."""

    id: UUID
    revision: int
    title: str
    purpose: Purpose | None
    started_at: str | None
    state: str
    vehicle_name: str
    pack_name: str
    rider_name: str


class TestFound(Schema):
    """A test as the palette names it."""

    id: UUID
    revision: int
    title: str
    vehicle_name: str
    started_at: str | None
    state: str


class NowOut(Schema):
    """What a ride is begun from: rides under way, and the kit of the newest test."""

    under_way: list[TestFound]
    vehicle_name: str
    pack_name: str
    rider_name: str
    tests: int


def _reading(column: Column) -> Any:
    """A column of the one list as it goes out."""
    if column.name == "time_s":
        return float
    if column.choices:
        return Literal[column.choices] | None
    return (str if column.is_text else float) | None


class QuestionOut(Schema):
    """What may be a slip in an entry, and in which of its readings."""

    field: str
    notice: NoticeOut


@filled({name: (_reading(column), ...) for name, column in ENTRY_COLUMNS.items()})
class EntryOut(Derived):
    """An entry as kept; `changes` counts what its history holds."""

    id: UUID
    kind: EntryKind
    changes: int
    earlier: list[dict[str, Any]]
    questions: list[QuestionOut]


class PackOnSheet(Schema):
    """The pack as the test records it."""

    name: str | None
    chemistry: Chemistry
    series: int
    parallel: int | None
    rated_ah: float
    full_v: float | None
    cutoff_v: float | None
    #: What its volts may read where nobody said, and the most that such cells can have.
    likely_full_v: float | None = None
    likely_cutoff_v: float | None = None
    most_v: float | None = None


class SheetOut(Schema):
    """The conditions that a result is read with."""

    vehicle_kind: VehicleKind
    pack: PackOnSheet
    load_kg: float | None
    temp_start_c: float | None
    wind_mps: float | None
    surface: str | None
    ending: EndReason | None
    lap_length_m: float | None
    #: How often it was changed: what a change says that it was made from.
    changes: int
    parts: SheetPartsOut
    history: list[SheetChangeOut]


@derived(Reduction, without=("first", "last", "longest_step_s"))
class SumsOut(Derived):
    """What samples come to so far; nothing is counted across gaps."""


class RevisionOut(Schema):
    """The evidence of a test, counted: raised by every change of what was recorded of it."""

    revision: int


class StoredEntry(Schema):
    """An entry that was stored, what about it may be a slip, and the evidence that it made."""

    entry: EntryOut
    #: Whether it is taken out: a repeat of what noted it does not bring it back.
    removed: bool
    revision: int
    questions: list[str]


#: What a rider says of the charge before the first metre.
StartCharge = Literal["just_charged", "not_full"]


class RideIn(Sent):
    """A ride that is about to be logged by hand."""

    title: Annotated[Line, Field(min_length=1, max_length=MOST_TITLE)]
    purpose: Purpose | None = None
    started_at: RideTime
    vehicle_id: UUID
    pack_id: UUID
    rider_id: UUID | None = None
    reserve: Annotated[float | None, Held(RIDE["reserve"])] = None
    lap_length_m: Annotated[float | None, Typed(RIDE["lap_length_m"])] = None
    #: How it is ridden: what its consumption is told by before anything is read.
    target_speed_mps: Annotated[float | None, Typed(RIDE["target_speed_mps"])] = None
    gear_kg: Annotated[float | None, Typed(RIDE["gear_kg"])] = None
    propulsion: Propulsion | None = None
    #: Whether it is full, and how many packs there are and how they are used; None is not known.
    charge: StartCharge | None = None
    packs_used: Annotated[int, Field(ge=1, le=MOST_PACKS), NoTruth] | None = None
    packs_use: PackUse | None = None

    def start(self) -> RideStart:
        """The ride as the logbook begins it."""
        return RideStart(
            title=self.title,
            purpose=self.purpose,
            started_at=self.started_at,
            vehicle_id=self.vehicle_id,
            pack_id=self.pack_id,
            rider_id=self.rider_id,
            gear_kg=self.gear_kg,
            packs_used=self.packs_used or 1,
            packs_use=self.packs_use,
            protocol=Protocol(
                reserve=self.reserve,
                target_speed_mps=self.target_speed_mps,
                propulsion=self.propulsion,
            ),
            start=start_of(self.charge),
            instruments=(
                Instruments(lap=LapInstrument(length_m=self.lap_length_m))
                if self.lap_length_m
                else None
            ),
        )


def _entry_field(column: Column) -> tuple[Any, Any]:
    """A column of the one list as a form's field."""
    if column.choices:
        return (Literal[column.choices] | None, None)
    if column.is_text:
        words: Any = Lines if column.longest > MOST_WORDS else Line
        return (Annotated[words, Field(max_length=column.longest)] | None, None)
    if column.name == "time_s":
        return (Annotated[float, Held(column.field)], ...)
    reader = Held if column.kind is None else Typed
    return (Annotated[float | None, reader(column.field)], None)


@filled({name: _entry_field(column) for name, column in ENTRY_COLUMNS.items()})
class EntryIn(Sent):
    """An entry as typed; what was not read is left out. Its fields are `evidence.columns`'."""

    kind: EntryKind
    #: How often it had been changed when it was read to be changed; nothing overwrites what came since.
    from_changes: Annotated[int, Field(ge=0, le=1_000_000), NoTruth] | None = None


@filled({name: _entry_field(column) for name, column in ENTRY_COLUMNS.items() if name != "time_s"})
class RememberedEntryIn(Sent):
    """A row of a ride that is written down afterwards: as an entry, with a clock where it was read."""

    clock: Annotated[Line, Field(max_length=20)] = ""
    kind: EntryKind | None = None


class RememberedIn(Sent):
    """A ride that was ridden already, as far as it is remembered."""

    title: Annotated[Line, Field(min_length=1, max_length=MOST_TITLE)]
    purpose: Purpose | None = None
    #: When the first row was; nobody needs to know.
    started_at: RideTime | None = None
    vehicle_id: UUID
    pack_id: UUID
    rider_id: UUID | None = None
    #: Whether it began full; None is not known.
    full: bool | None = None
    reason: EndReason | None = None
    lap_length_m: Annotated[float | None, Typed(RIDE["lap_length_m"])] = None
    entries: Annotated[list[RememberedEntryIn], Field(min_length=2, max_length=MOST_PASTED_ROWS)]


class PastedIn(Sent):
    """A table out of a spreadsheet."""

    text: Annotated[Lines, Field(max_length=MOST_PASTED)]


class PastedColumnOut(Schema):
    """A column, and what it was taken for; `clock`, or a reading of an entry."""

    heading: str
    name: str | None
    unit: str


class PastedOut(Schema):
    """A pasted table as it was understood."""

    columns: list[PastedColumnOut]
    rows: list[list[str]]
    left_out: int


class StreamIn(Sent):
    """An instrument that will send samples."""

    instrument: Annotated[Line, Field(min_length=1, max_length=MOST_NAME)]
    #: What is added to its clock to have the test's time.
    clock_offset_s: Annotated[float, Held(ENTRY_COLUMNS["time_s"].field)] = 0.0
    sign: Literal[1, -1] = 1


class StreamOut(Schema):
    """A stream, and what it has come to."""

    id: UUID
    instrument: str
    clock_offset_s: float
    sign: Literal[1, -1]
    next_sequence: int
    rows: int
    sums: SumsOut | None
    #: Of the test's evidence, once this was stored.
    revision: int


_Value = Annotated[float, Field(strict=True, allow_inf_nan=False)]
_Values = Annotated[list[_Value | None], Field(max_length=streams.MOST_BATCH_ROWS)]


@filled(dict.fromkeys(SAMPLE_COLUMNS, (_Values | None, None)))
class BatchIn(Sent):
    """A batch of samples, column by column; its columns are `evidence.columns`'; a row needs its time."""

    time_s: Annotated[list[_Value], Field(min_length=1, max_length=streams.MOST_BATCH_ROWS)]


class PhotoIn(Sent):
    """A JPEG picture, base64; on its way here it is scaled to well under the limit of a request."""

    jpeg: Annotated[str, Field(min_length=8, max_length=1_400_000)]


class PhotoOut(Schema):
    """A picture that is kept: its name in the bundle, which an entry refers to."""

    id: UUID
    name: str


class ManyIn(Sent):
    """Several tests."""

    ids: list[UUID] = Field(min_length=1, max_length=MOST_AT_ONCE)


class EndIn(Sent):
    """Why the ride stopped."""

    reason: EndReason
    note: Annotated[Lines, Field(max_length=2000)] = ""


def found_of(test: RangeTest) -> TestFound:
    """A test by its name."""
    head = head_of(test)
    return TestFound(**{name: head[name] for name in TestFound.model_fields})


def sheet_of(test: RangeTest, sheet: TestSheet) -> SheetOut:
    """The sheet of a test with its history."""
    conditions, rider = sheet.conditions, sheet.rider
    load = None
    if rider is not None and rider.mass_kg is not None:
        load = rider.mass_kg + (rider.gear_kg or 0.0)
    pack = sheet.pack
    return SheetOut(
        vehicle_kind=sheet.vehicle.kind,
        pack=PackOnSheet(
            name=pack.name,
            chemistry=pack.chemistry,
            series=pack.series,
            parallel=pack.parallel,
            rated_ah=pack.rated_ah,
            full_v=pack.full_v,
            cutoff_v=pack.cutoff_v,
            **asdict(reading_span(pack)),
        ),
        load_kg=load,
        temp_start_c=conditions.temp_start_c if conditions else None,
        wind_mps=conditions.wind_mps if conditions else None,
        surface=conditions.surface if conditions else None,
        ending=sheet.ending.reason if sheet.ending else None,
        lap_length_m=sheet.instruments.lap.length_m
        if sheet.instruments and sheet.instruments.lap
        else None,
        changes=test.sheet_changes,
        parts=parts_of(document_of(sheet)),
        history=changes_of(test),
    )


def questions_of(sheet: TestSheet, entries: Sequence[Entry]) -> dict[UUID, list[QuestionOut]]:
    """What may be a slip in the entries of a test, by their ids."""
    core = [core_entry(entry) for entry in entries]
    begun = sheet.started_at
    # A clock without its offset tells no time that could lie ahead.
    known = begun is not None and begun.tzinfo is not None
    now_s = (datetime.now(UTC) - begun).total_seconds() if known and begun is not None else None
    notices = all_questions(sheet.pack, sheet.packs_used or 1, core, now_s)
    return {
        entry.pk: [
            QuestionOut(field=name, notice=notice) for name, notice in asked_about(item, notices)
        ]
        for entry, item in zip(entries, core, strict=True)
    }


def entry_of(entry: Entry, questions: Sequence[QuestionOut] = ()) -> EntryOut:
    """An entry with its history, newest first."""
    revisions = list(entry.revisions.all())
    earlier = [
        {**_kept_values(revision.values), "replaced_at": revision.replaced_at.isoformat()}
        for revision in revisions[:MOST_EARLIER]
    ]
    return EntryOut(
        id=entry.id,
        **entry_values(entry),
        changes=len(revisions),
        earlier=earlier,
        questions=list(questions),
    )


def _kept_values(kept: Any) -> dict[str, Any]:
    found = unwrapped(kept)
    return found if isinstance(found, dict) else {}


def head_of(test: RangeTest) -> dict[str, Any]:
    """What names a test, wherever it stands."""
    return {
        "id": test.id,
        "revision": test.revision,
        "title": test.title,
        "purpose": test.purpose,
        "started_at": test.started_at_text or None,
        "state": test.state,
        "vehicle_name": test.vehicle_name,
        "pack_name": test.pack_name,
        "rider_name": test.rider_name,
    }


def stream_of(stream: Stream) -> StreamOut:
    """A stream with its sums."""
    sums = streams.sums_of(stream)
    if sums is not None and stream.sign < 0:
        sums = sums.turned()
    return StreamOut(
        id=stream.id,
        instrument=stream.instrument,
        clock_offset_s=stream.clock_offset_s,
        sign=1 if stream.sign > 0 else -1,
        next_sequence=stream.next_sequence,
        rows=stream.rows,
        sums=SumsOut.model_validate(sums.to_json()) if sums is not None else None,
        revision=stream.test.revision,
    )
