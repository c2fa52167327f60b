"""What the logbook says over HTTP, and how rows become it."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import ConfigDict, Field, create_model

from limpet.bounds import MOST_TITLE, MOST_WORDS
from limpet.evidence.columns import ENTRY_COLUMNS, Column
from limpet.evidence.model import EndReason, EntryKind, Purpose, TestSheet
from limpet.fields import RIDE
from limpet.pack import Chemistry
from limpet.road import VehicleKind
from server.logbook import results
from server.logbook.evidence import core_sheet, entry_values
from server.logbook.models import Entry, RangeTest
from server.wire.notices import NoticeOut
from server.wire.problems import UnreadableError
from server.wire.schema import Schema
from server.wire.stored import readable, unwrapped
from server.wire.times import RideTime
from server.wire.typed import Held, Line, Lines, Typed

#: Earlier shapes of an entry that its history shows.
MOST_EARLIER = 50


class QuantityOut(Schema):
    """A value with unit, standard uncertainty and 95 % interval."""

    value: float
    unit: str
    standard_uncertainty: float
    low: float
    high: float
    coverage: float


class MarkOut(Schema):
    """An entry on the tideline."""

    distance_m: float
    time_s: float
    kind: EntryKind
    energy_left: float | None
    voltage_v: float | None


class StripOut(Schema):
    """A tideline: energy left over distance, its marks and where it ends."""

    distance_m: list[float]
    energy_left: list[float]
    marks: list[MarkOut]
    ridden_m: float | None
    cutoff_m: list[float] | None
    reserve: float
    measured: bool


class FiguresOut(Schema):
    """The three figures, and how the range was found."""

    wh_per_km: QuantityOut | None
    wh_per_mi: QuantityOut | None
    range_to_cutoff: QuantityOut | None
    range_to_reserve: QuantityOut | None
    range_measured: bool
    reserve: float
    reserve_assumed: bool


Computed = Literal["fresh", "waiting", "failed"]


class TestRow(Schema):
    """A test as a row of the logbook."""

    id: UUID
    title: str
    purpose: Purpose | None
    started_at: str | None
    state: str
    vehicle_name: str
    pack_name: str
    rider_name: str
    strip: StripOut | None
    figures: FiguresOut | None
    #: "waiting" until the worker has computed it; "failed" with the reason in `trouble`.
    computed: Computed
    trouble: str


class SummaryOut(Schema):
    """All of an account's tests together."""

    tests: int
    measured: int
    waiting: int
    reach_m: float
    vehicles: list[str]


class TestPage(Schema):
    """Some rows of the logbook, and what gives the next ones."""

    items: list[TestRow]
    next: str | None
    #: How many fit the filters.
    count: int
    #: All tests together; on the first page only.
    summary: SummaryOut | None


class TestFound(Schema):
    """A test as the palette names it."""

    id: UUID
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


class MethodOut(Schema):
    """One method's answer."""

    method: str
    quantity: QuantityOut
    used: bool
    agrees: bool
    note: str


class ConsumptionOut(Schema):
    """Energy over distance."""

    wh_per_km: QuantityOut
    wh_per_mi: QuantityOut


class PackFindings(Schema):
    """What the ride says of the pack."""

    resistance_ohm: QuantityOut | None
    capacity_ah: QuantityOut | None
    usable_energy_wh: QuantityOut | None
    retained_fraction: QuantityOut | None


class RegenerationOut(Schema):
    """Energy returned."""

    energy_wh: float
    fraction_of_drawn: float


class ResultOut(Schema):
    """The result, as the command line prints it (less what is not built yet)."""

    distance: QuantityOut | None
    energy: QuantityOut | None
    charge: QuantityOut | None
    consumption: ConsumptionOut | None
    energy_methods: list[MethodOut]
    distance_methods: list[MethodOut]
    energy_used_fraction: QuantityOut | None
    range_to_cutoff: QuantityOut | None
    range_to_reserve: QuantityOut | None
    pack: PackFindings
    regeneration: RegenerationOut | None
    warnings: list[NoticeOut]


class _EntryOutBase(Schema):
    """An entry as kept; `changes` counts what its history holds."""

    id: UUID
    kind: EntryKind
    changes: int
    earlier: list[dict[str, Any]]


def _reading(column: Column) -> Any:
    """A column of the one list as it goes out."""
    if column.name == "time_s":
        return float
    return (str if column.is_text else float) | None


EntryOut = create_model(  # type: ignore[call-overload]
    "EntryOut",
    __base__=_EntryOutBase,
    **{
        name: (_reading(column), ...)
        for name, column in ENTRY_COLUMNS.items()
        if name not in _EntryOutBase.model_fields
    },
)


class PackOnSheet(Schema):
    """The pack as the test records it."""

    name: str | None
    chemistry: Chemistry
    series: int
    parallel: int | None
    rated_ah: float
    full_v: float | None
    cutoff_v: float | None


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


class TestDetail(Schema):
    """A test with its entries and its result."""

    id: UUID
    title: str
    purpose: Purpose | None
    started_at: str | None
    state: str
    vehicle_name: str
    pack_name: str
    rider_name: str
    #: None when it was stored in a shape that cannot be read any more; `trouble` says so.
    sheet: SheetOut | None
    entries: list[EntryOut]
    has_samples: bool
    result: ResultOut | None
    strip: StripOut | None
    figures: FiguresOut | None
    trouble: str


class StoredEntry(Schema):
    """An entry that was stored, and what about it may be a slip."""

    entry: EntryOut
    questions: list[str]


class ChannelOut(Schema):
    """One trace in bins."""

    name: str
    unit: str
    low: list[float | None]
    mean: list[float | None]
    high: list[float | None]


class TracesOut(Schema):
    """Traces over common bins."""

    time_s: list[float]
    distance_m: list[float] | None
    channels: list[ChannelOut]


class _In(Schema):
    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True)


class RideIn(_In):
    """A ride that is about to be logged by hand."""

    title: Annotated[Line, Field(min_length=1, max_length=MOST_TITLE)]
    purpose: Purpose | None = None
    started_at: RideTime
    vehicle_id: UUID
    pack_id: UUID
    rider_id: UUID | None = None
    reserve: Annotated[float | None, Held(RIDE["reserve"])] = None
    lap_length_m: Annotated[float | None, Typed(RIDE["lap_length_m"])] = None


class _EntryBase(_In):
    """What every entry has."""

    kind: EntryKind


def _entry_field(column: Column) -> tuple[Any, Any]:
    """A column of the one list as a form's field."""
    if column.is_text:
        words: Any = Lines if column.longest > MOST_WORDS else Line
        return (Annotated[words, Field(max_length=column.longest)] | None, None)
    if column.name == "time_s":
        return (Annotated[float, Held(column.field)], ...)
    reader = Held if column.kind is None else Typed
    return (Annotated[float | None, reader(column.field)], None)


#: An entry as typed; what was not read is left out. Its fields are `evidence.columns`'.
EntryIn = create_model(  # type: ignore[call-overload]
    "EntryIn",
    __base__=_EntryBase,
    **{
        name: _entry_field(column)
        for name, column in ENTRY_COLUMNS.items()
        if name not in _EntryBase.model_fields
    },
)


class EndIn(_In):
    """Why the ride stopped."""

    reason: EndReason
    note: Annotated[Lines, Field(max_length=2000)] = ""


def row_of(test: RangeTest) -> TestRow:
    """A test as a row."""
    kept = getattr(test, "kept_result", None)
    computed: Computed = "waiting"
    if results.is_fresh(test, kept):
        computed = "failed" if kept is not None and kept.fault else "fresh"
    return TestRow(
        **_head(test),
        strip=readable(kept.strip, StripOut) if kept else None,
        figures=readable(kept.figures, FiguresOut) if kept else None,
        computed=computed,
        trouble=kept.fault if kept and computed == "failed" else "",
    )


def found_of(test: RangeTest) -> TestFound:
    """A test by its name."""
    head = _head(test)
    return TestFound(**{name: head[name] for name in TestFound.model_fields})


def detail_of(test: RangeTest) -> TestDetail:
    """A test with its entries and, once there is evidence, its result."""
    entries = list(test.entries.standing().prefetch_related("revisions"))
    has_samples = test.chunks.exists()
    found = results.current(test) if entries or has_samples else None
    detail = results.detail_of(found) if found else {}
    trouble = found.fault if found else ""
    try:
        sheet = _sheet_of(core_sheet(test))
    except UnreadableError as error:
        sheet, trouble = None, str(error)
    return TestDetail(
        **_head(test),
        sheet=sheet,
        entries=[entry_of(entry) for entry in entries],
        has_samples=has_samples,
        result=readable(detail.get("result"), ResultOut),
        strip=readable(detail.get("strip"), StripOut),
        figures=readable(found.figures, FiguresOut) if found else None,
        trouble=trouble,
    )


def _sheet_of(sheet: TestSheet) -> SheetOut:
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
        ),
        load_kg=load,
        temp_start_c=conditions.temp_start_c if conditions else None,
        wind_mps=conditions.wind_mps if conditions else None,
        surface=conditions.surface if conditions else None,
        ending=sheet.ending.reason if sheet.ending else None,
        lap_length_m=sheet.instruments.lap.length_m
        if sheet.instruments and sheet.instruments.lap
        else None,
    )


def entry_of(entry: Entry) -> EntryOut:
    """An entry with its history, newest first."""
    revisions = list(entry.revisions.all())
    earlier = [
        {**_kept_values(revision.values), "replaced_at": revision.replaced_at.isoformat()}
        for revision in revisions[:MOST_EARLIER]
    ]
    return EntryOut(id=entry.id, **entry_values(entry), changes=len(revisions), earlier=earlier)


def _kept_values(kept: Any) -> dict[str, Any]:
    found = unwrapped(kept)
    return found if isinstance(found, dict) else {}


def _head(test: RangeTest) -> dict[str, Any]:
    return {
        "id": test.id,
        "title": test.title,
        "purpose": test.purpose,
        "started_at": test.started_at_text or None,
        "state": test.state,
        "vehicle_name": test.vehicle_name,
        "pack_name": test.pack_name,
        "rider_name": test.rider_name,
    }
