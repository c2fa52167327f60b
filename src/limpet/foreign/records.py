"""A spreadsheet of old rides, one a row, as many tests: each with the evidence that it has."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Any, Final

import numpy as np

from limpet.bounds import MOST_NOTE, MOST_TITLE
from limpet.errors import BundleError, Fault
from limpet.evidence.checks import refused_readings
from limpet.evidence.columns import ENTRY_COLUMNS
from limpet.evidence.model import Conditions, Entry, RangeTest, TestSheet
from limpet.foreign.checks import middle_of
from limpet.foreign.figures import numbers, unit_of_cells
from limpet.foreign.layout import NOT_KNOWN
from limpet.foreign.moments import seconds_of, written_in
from limpet.foreign.quantities import normal
from limpet.foreign.raw import RawTable
from limpet.foreign.ride import moment_of
from limpet.foreign.units import unit_in, unit_of
from limpet.notices import Notice
from limpet.pack import PackSpec, knows_series
from limpet.units import Kind, factor_and_zero

#: Rides of one sheet.
MOST_RIDES: Final = 2000
#: Ridden so far in what time, where the sheet says no time [m/s] (assumption).
_USUAL_MPS: Final = 5.5
_FIRST, _SECOND = r"\b(?:before|start|begin|from|vor|vorher|avant|debut|antes|inicio|prima|initial|full|voor)\b", r"\b(?:after|end|finish|to|nach|nachher|apres|fin|despues|dopo|final|na|rest|resting)\b"  # fmt: skip
#: What a sheet of rides heads its columns with, the first that fits (common practice, no source).
_HEADINGS: Final[tuple[tuple[str, str, Kind | None], ...]] = (
    ("date", r"^(?:date|datum|fecha|data|day|when|ride date|jour)\b", None),
    ("clock", r"^(?:time|start time|uhrzeit|heure|hora|ora|clock|started)\b(?!.*(?:min|dur|moving|total))", None),
    ("duration_s", r"\b(?:duration|dauer|duree|ride time|moving time|riding time|fahrzeit|minutes|mins|hours)\b", "time"),
    ("note", r"\b(?:note|notes|remark|remarks|comment|comments|bemerkung\w*|notiz\w*|notas?|commentaire\w*)\b", None),
    ("title", r"\b(?:title|ride|route|trip name|name|where|strecke name|destination|ziel)\b(?!.*\b(?:km|mi|miles|time|wh)\b)", None),
    ("odometer_start_m", rf"\b(?:odo|odometer|kilometerstand|km stand)\b.*{_FIRST}|{_FIRST}.*\b(?:odo|odometer|kilometerstand)\b", "distance"),
    ("odometer_m", r"\b(?:odo|odometer|kilometerstand|km stand)\b", "distance"),
    ("wall_wh", r"\b(?:wall|socket|plug|mains|outlet|steckdose|netz|prise|charged|charge energy|nachgeladen|geladen)\b", "energy"),
    ("charge_ah", r"\b(?:ah|mah|amp hours?|ampere hours?|amperestunden)\b", "charge"),
    ("wh_per_km", r"\bwh (?:km|mi|mile)\b|\b(?:consumption|verbrauch|efficiency)\b", "consumption"),
    ("energy_wh", r"\b(?:wh|kwh|watt ?hours?|energy|energie|energia)\b", "energy"),
    ("gauge_start", rf"(?:%|\b(?:soc|percent|gauge|bars?|charge|akku|battery|batt)\b).*{_FIRST}|{_FIRST}.*(?:%|\b(?:soc|percent|gauge|bars?|charge|akku|battery)\b)", "share"),
    ("gauge_end", rf"(?:%|\b(?:soc|percent|gauge|bars?|charge|akku|battery|batt)\b).*{_SECOND}|{_SECOND}.*(?:%|\b(?:soc|percent|gauge|bars?|charge|akku|battery)\b)", "share"),
    ("volts_start_v", rf"\b(?:v|volts?|voltage|spannung|tension|voltaje)\b.*{_FIRST}|{_FIRST}.*\b(?:v|volts?|voltage|spannung|tension|voltaje)\b", "voltage"),
    ("volts_end_v", rf"\b(?:v|volts?|voltage|spannung|tension|voltaje)\b.*{_SECOND}|{_SECOND}.*\b(?:v|volts?|voltage|spannung|tension|voltaje)\b", "voltage"),
    ("temp_c", r"\b(?:temp|temperature|temperatur|temperatura|air|outside|weather)\b", "temperature"),
    ("wind_mps", r"\bwind\b", "speed"),
    ("speed_mps", r"\b(?:speed|avg|average|mean|geschwindigkeit|schnitt|vitesse|velocidad)\b", "speed"),
    ("climb_m", r"\b(?:climb|ascent|hohenmeter|hoehenmeter|denivele|elevation|desnivel)\b", "length"),
    ("distance_m", r"\b(?:distance|dist|miles?|km|kilomet\w+|strecke|distanz|trip|ridden|distancia|distanza|afstand|mi)\b", "distance"),
    ("volts_end_v", r"\b(?:v|volts?|voltage|spannung)\b", "voltage"),
    ("gauge_end", r"%|\b(?:soc|gauge|bars)\b", "share"),
)  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class RecordColumn:
    """A column of a sheet of rides: what it is taken for ("" where it is left aside), and in which unit."""

    source: str
    field: str
    unit: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Record:
    """A row as a ride: its line in the sheet, its test or what is wrong with it, cell by cell."""

    row: int
    test: RangeTest | None
    faults: Mapping[str, str]


def record_columns(raw: RawTable) -> tuple[RecordColumn, ...]:
    """What the columns of a sheet of rides are taken for."""
    found: list[RecordColumn] = []
    for at, name in enumerate(raw.names):
        unit, rest = unit_in(name)
        unit = raw.units[at] or unit or unit_of_cells(raw.column(at))
        words = normal(rest)
        field = ""
        for candidate, pattern, kind in _HEADINGS:
            taken = {column.field for column in found}
            if candidate in taken or not re.search(pattern, words + " " + normal(unit)):
                continue
            if unit and kind is not None and unit_of(unit, kind) is None:
                continue
            field = candidate
            break
        kind = _kind_of(field)
        said = unit_of(unit, kind) if unit and kind is not None else None
        found.append(
            RecordColumn(
                source=name, field=field, unit=said[1] if said else _unit_by_word(words, kind)
            )
        )
    return tuple(found)


def _kind_of(field: str) -> Kind | None:
    return next((kind for name, _, kind in _HEADINGS if name == field), None)


def _unit_by_word(words: str, kind: Kind | None) -> str:
    if kind is None:
        return ""
    known = [word for word in words.split() if unit_of(word, kind) is not None]
    return known[-1] if known else ""


def looks_like_records(raw: RawTable) -> bool:
    """Whether a table holds a ride a row and not a moment a row."""
    fields = {column.field for column in record_columns(raw)}
    if not fields & {"distance_m", "odometer_m"} or not fields & {
        "date",
        "volts_start_v",
        "wall_wh",
        "energy_wh",
        "note",
        "title",
    }:
        return False
    if raw.of_rows > MOST_RIDES:
        return False
    dates = _moments(raw, record_columns(raw))
    if dates is None:
        return bool(fields & {"volts_start_v", "gauge_start"}) and raw.of_rows < 500
    known = dates[~np.isnan(dates)]
    # Rides lie hours apart, rows of a log seconds.
    return len(known) > 0 and (
        len(known) == 1 or float(np.median(np.abs(np.diff(known)))) >= 1800 or np.ptp(known) == 0
    )


def _moments(raw: RawTable, columns: Sequence[RecordColumn]) -> Any:
    """When each ride was, in seconds since 1970 by its rider's clock; None without a date."""
    named = {column.field: column.source for column in columns}
    if "date" not in named:
        return None
    cells = raw.column(raw.names.index(named["date"]))
    held = [cell for cell in cells.drop_nulls().to_list() if cell.strip().lower() not in NOT_KNOWN]
    written = written_in(held, day_first=True if raw.decimal == "," else None)
    if written is None:
        days = numbers(cells, raw.decimal)[0]
        if 36_000 < middle_of(days) < 60_000:
            return (days - 25_569) * 86_400
        return None
    seconds = seconds_of(cells, written, raw.decimal)
    if "clock" in named:
        clock = raw.column(raw.names.index(named["clock"]))
        told = written_in([cell for cell in clock.drop_nulls().to_list() if cell.strip()])
        if told is not None and told.form == "clock":
            of_day = seconds_of(clock, told, raw.decimal)
            seconds = seconds + np.where(np.isnan(of_day), 0.0, of_day)
    return seconds


def day_month_unsure(raw: RawTable, columns: Sequence[RecordColumn]) -> bool:
    """Whether day and month of the dates could be the other way round."""
    named = {column.field: column.source for column in columns}
    if "date" not in named:
        return False
    cells = raw.column(raw.names.index(named["date"])).drop_nulls().to_list()
    written = written_in(cells, day_first=True if raw.decimal == "," else None)
    return written is not None and written.unsure


def records_of(
    raw: RawTable, columns: Sequence[RecordColumn], sheet: TestSheet, zone: str | None = None
) -> tuple[Record, ...]:
    """Every row as a test.

    Parameters
    ----------
    raw : the whole table
    columns : what its columns are
    sheet : what all of the rides share: vehicle, pack, rider
    zone : the time zone of its dates

    Raises
    ------
    BundleError
        When no column tells a distance, or there are too many rows.
    """
    if raw.of_rows > MOST_RIDES:
        raise BundleError(
            [
                Fault(
                    raw.file,
                    0,
                    0,
                    f"has {raw.of_rows:,} rows, at most {MOST_RIDES:,} rides are taken at once; part it",
                )
            ]
        )
    fields = [column for column in columns if column.field]
    if not any(column.field in ("distance_m", "odometer_m") for column in fields):
        raise BundleError(
            [Fault(raw.file, 0, 0, "has no column that tells how far each ride was; choose one")]
        )
    table: dict[str, list[Any]] = {}
    faults: list[dict[str, str]] = [{} for _ in range(raw.cells.height)]
    for column in fields:
        cells = raw.column(raw.names.index(column.source))
        kind = _kind_of(column.field)
        if kind is None:
            table[column.field] = [cell.strip() if cell else "" for cell in cells.to_list()]
            continue
        table[column.field] = _figures(raw, column, kind, faults)
    moments = _moments(raw, columns)
    return tuple(
        _record(
            row,
            {name: values[row] for name, values in table.items()},
            None if moments is None else float(moments[row]),
            faults[row],
            sheet,
            zone,
        )
        for row in range(raw.cells.height)
    )


def _figures(
    raw: RawTable, column: RecordColumn, kind: Kind, faults: list[dict[str, str]]
) -> list[float | None]:
    cells = raw.column(raw.names.index(column.source))
    values, _ = numbers(cells, raw.decimal)
    unit = unit_of(column.unit, kind) if column.unit else None
    factor, zero = (
        factor_and_zero(unit[1], unit[0])
        if unit is not None
        else (_usual_factor(column.field), 0.0)
    )
    if kind == "share":
        # A gauge is kept in its own steps.
        factor, zero = 1.0, 0.0
    found: list[float | None] = []
    for row, cell in enumerate(cells.to_list()):
        value = float(values[row])
        if np.isnan(value):
            if cell is not None and cell.strip().lower() not in NOT_KNOWN:
                faults[row][column.source] = f"is '{cell.strip()[:30]}', expected a number"
            found.append(None)
        else:
            found.append(value * factor + zero)
    return found


def _usual_factor(field: str) -> float:
    return {
        "distance_m": 1000.0,
        "odometer_m": 1000.0,
        "odometer_start_m": 1000.0,
        "speed_mps": 1 / 3.6,
        "duration_s": 60.0,
    }.get(field, 1.0)


def _record(
    row: int,
    values: Mapping[str, Any],
    moment_s: float | None,
    faults: dict[str, str],
    shared: TestSheet,
    zone: str | None,
) -> Record:
    def number(name: str) -> float | None:
        return values.get(name)

    distance_m = number("distance_m")
    first_m, last_m = number("odometer_start_m"), number("odometer_m")
    if distance_m is None and first_m is not None and last_m is not None:
        distance_m = last_m - first_m
    if distance_m is None or distance_m <= 0:
        if not faults:
            faults["distance"] = "is missing, so this row is no ride"
        return Record(row=row, test=None, faults=faults)
    speed = number("speed_mps")
    lasted_s = number("duration_s") or distance_m / (speed if speed else _USUAL_MPS)
    energy_wh = number("energy_wh")
    if energy_wh is None and number("wh_per_km") is not None:
        energy_wh = (number("wh_per_km") or 0.0) * distance_m / 1000
    start: dict[str, Any] = {
        "voltage_rest_v": number("volts_start_v"),
        "gauge": number("gauge_start"),
        "odometer_m": first_m,
        "trip_m": 0.0,
    }
    end: dict[str, Any] = {
        "trip_m": distance_m, "voltage_rest_v": number("volts_end_v"), "gauge": number("gauge_end"), "odometer_m": last_m,
        "charge_ah": number("charge_ah"), "energy_wh": energy_wh, "ascent_m": number("climb_m"),
    }  # fmt: skip
    if end["charge_ah"] is not None:
        start["charge_ah"] = 0.0
    if end["energy_wh"] is not None:
        start["energy_wh"] = 0.0
    pack = shared.pack if knows_series(shared.pack) else None
    for at in (start, end):
        odd = refused_readings(
            ENTRY_COLUMNS, {k: v for k, v in at.items() if v is not None}, pack or _any_pack(shared)
        )
        for name, said in odd.items():
            faults[name] = said
    note = str(values.get("note") or "")[:MOST_NOTE]
    began: datetime | None = None
    if moment_s is not None and np.isfinite(moment_s) and 0 <= moment_s < 1e10:
        began = datetime(1970, 1, 1) + timedelta(seconds=moment_s)
        began = moment_of(began, zone) if zone is not None else began
    title = str(values.get("title") or "")[:MOST_TITLE]
    if not title:
        title = f"Ride of {began:%Y-%m-%d}" if began is not None else f"Ride {row + 1}"
    if faults:
        return Record(row=row, test=None, faults=faults)
    conditions = Conditions(temp_start_c=number("temp_c"), wind_mps=number("wind_mps"))
    try:
        sheet = replace(shared, title=title, started_at=began, conditions=conditions)
        entries = [
            Entry(time_s=0.0, kind="start", **{k: v for k, v in start.items() if v is not None}),
            Entry(
                time_s=float(lasted_s),
                kind="end",
                note=note or None,
                **{k: v for k, v in end.items() if v is not None},
            ),
        ]
    except ValueError as error:
        return Record(row=row, test=None, faults={"row": str(error)[:200]})
    wall = number("wall_wh")
    if wall is not None:
        entries.append(Entry(time_s=float(lasted_s) + 3600.0, kind="settle", wall_wh=wall))
    return Record(row=row, test=RangeTest(sheet=sheet, entries=tuple(entries)), faults={})


def _any_pack(sheet: TestSheet) -> PackSpec:
    return sheet.pack


def notices_of(records: Sequence[Record]) -> tuple[Notice, ...]:
    """How many rows are rides, and how many are none."""
    odd = sum(record.test is None for record in records)
    return (Notice("records_odd", count=odd),) if odd else ()
