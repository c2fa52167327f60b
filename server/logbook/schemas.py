"""What the logbook says over HTTP, and how rows become it."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

from ninja import Schema
from pydantic import ConfigDict, Field

from limpet.evidence.model import EndReason, EntryKind, Purpose
from limpet.pack import Chemistry
from limpet.road import VehicleKind
from server.logbook import results
from server.logbook.evidence import core_sheet, entry_values
from server.logbook.models import Entry, RangeTest
from server.notices import NoticeOut
from server.typed import typed


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
    strip: StripOut
    figures: FiguresOut


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


class EntryOut(Schema):
    """An entry as kept; `changes` counts what its history holds."""

    id: UUID
    time_s: float
    kind: EntryKind
    trip_m: float | None
    gps_m: float | None
    odometer_m: float | None
    laps: float | None
    voltage_rest_v: float | None
    voltage_load_v: float | None
    current_a: float | None
    charge_ah: float | None
    energy_wh: float | None
    gauge: float | None
    speed_mps: float | None
    battery_temp_c: float | None
    motor_temp_c: float | None
    mode: str | None
    note: str | None
    changes: int
    earlier: list[dict[str, Any]]


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
    sheet: SheetOut
    entries: list[EntryOut]
    has_samples: bool
    result: ResultOut | None
    strip: StripOut | None
    figures: FiguresOut | None


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

    title: str = Field(min_length=1, max_length=300)
    purpose: Purpose | None = None
    started_at: datetime
    vehicle_id: UUID
    pack_id: UUID
    rider_id: UUID | None = None
    reserve: float | None = Field(None, ge=0, lt=1, allow_inf_nan=False)
    lap_length_m: typed("distance", gt=0, le=200_000) = None


class EntryIn(_In):
    """An entry as typed; what was not read is left out."""

    time_s: float = Field(ge=0, le=30 * 24 * 3600, allow_inf_nan=False)
    kind: EntryKind
    trip_m: typed("distance", ge=0, le=10_000_000) = None
    gps_m: typed("distance", ge=0, le=10_000_000) = None
    odometer_m: typed("distance", ge=0, le=10_000_000) = None
    laps: float | None = Field(None, ge=0, le=100_000, allow_inf_nan=False)
    voltage_rest_v: typed("voltage", ge=0, le=2000) = None
    voltage_load_v: typed("voltage", ge=0, le=2000) = None
    current_a: typed("current", ge=-2000, le=2000) = None
    charge_ah: typed("charge", ge=-2000, le=5000) = None
    energy_wh: typed("energy", ge=-1e6, le=1e6) = None
    gauge: float | None = Field(None, ge=-1000, le=1000, allow_inf_nan=False)
    speed_mps: typed("speed", ge=0, le=120) = None
    battery_temp_c: typed("temperature", ge=-60, le=300) = None
    motor_temp_c: typed("temperature", ge=-60, le=300) = None
    mode: str | None = Field(None, max_length=200)
    note: str | None = Field(None, max_length=5000)


class EndIn(_In):
    """Why the ride stopped."""

    reason: EndReason
    note: str = Field("", max_length=2000)


def row_of(test: RangeTest) -> TestRow:
    """A test as a row."""
    found = results.cached(test)
    return TestRow(**_head(test), strip=found.strip, figures=found.figures)


def detail_of(test: RangeTest) -> TestDetail:
    """A test with its entries and, once there is evidence, its result."""
    entries = list(test.entries.standing().prefetch_related("revisions"))
    has_samples = test.chunks.exists()
    found = results.cached(test) if entries or has_samples else None
    sheet = core_sheet(test)
    conditions, rider = sheet.conditions, sheet.rider
    load = None
    if rider is not None and rider.mass_kg is not None:
        load = rider.mass_kg + (rider.gear_kg or 0.0)
    pack = sheet.pack
    return TestDetail(
        **_head(test),
        sheet=SheetOut(
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
        ),
        entries=[entry_of(entry) for entry in entries],
        has_samples=has_samples,
        result=found.result if found else None,
        strip=found.strip if found else None,
        figures=found.figures if found else None,
    )


def entry_of(entry: Entry) -> EntryOut:
    """An entry with its history, newest first."""
    earlier = [
        {"replaced_at": revision.replaced_at.isoformat(), **revision.values}
        for revision in entry.revisions.all()
    ]
    return EntryOut(id=entry.id, **entry_values(entry), changes=len(earlier), earlier=earlier)


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
