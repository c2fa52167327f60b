"""samples.csv and entries.csv: from bytes to the core's values, checked as bundle.md says."""

from __future__ import annotations

import difflib
from typing import cast

import numpy as np
import polars as pl

from limpet.bundle.columns import ENTRY_COLUMNS, ENTRY_TEXT, SAMPLE_COLUMNS
from limpet.bundle.csvfile import MOST_FAULTS, Table, read_table
from limpet.errors import BundleError, Fault
from limpet.evidence.model import ENTRY_KINDS, Entry, EntryKind, Notice
from limpet.pack import PackSpec

SAMPLES = "samples.csv"
ENTRIES = "entries.csv"

#: No cell of any chemistry shows this [V]; a pack above S times it was logged in millivolts.
ABSURD_CELL_V = 20.0
#: Columns that cannot fall below zero, whatever is ridden.
_NOT_NEGATIVE = ("voltage_v", "cell_min_v", "voltage_rest_v", "voltage_load_v", "laps")
#: (lowest, highest, what to check) for columns whose slips are known.
_SPANS = {
    "latitude_deg": (-90.0, 90.0, "degrees north, negative for south"),
    "longitude_deg": (-180.0, 360.0, "degrees east, negative for west"),
    "speed_mps": (-60.0, 120.0, "metres a second, not km/h times ten"),
    "altitude_m": (-500.0, 9000.0, "metres"),
    "battery_temp_c": (-60.0, 200.0, "degrees Celsius"),
    "motor_temp_c": (-60.0, 400.0, "degrees Celsius"),
    "controller_temp_c": (-60.0, 400.0, "degrees Celsius"),
}


def read_samples(data: bytes, pack: PackSpec | None) -> tuple[pl.DataFrame, list[Notice]]:
    """A logger's time series, current turned to discharge-positive if it was logged the other way.

    Raises
    ------
    BundleError
        With every fault found.
    """
    table = read_table(SAMPLES, data, SAMPLE_COLUMNS, ())
    faults = [
        *table.faults,
        *_time_faults(table, SAMPLES, strictly=True),
        *_value_faults(table, SAMPLES, pack),
    ]
    if table.frame.height == 0 and not faults:
        faults.append(Fault(SAMPLES, 0, 0, "has no rows; leave the file out or fill it"))
    if faults:
        raise BundleError(faults)
    frame = table.frame.select(["time_s", *[n for n in table.frame.columns if n != "time_s"]])
    notices = list(table.notices)
    empty = sum(frame[name].null_count() for name in frame.columns if name in SAMPLE_COLUMNS)
    nan_cells = any(notice.code == "not_a_number" for notice in notices)
    if empty and not nan_cells:
        plural = "" if empty == 1 else "s"
        notices.append(
            Notice(
                code="empty_cells",
                message=f"{SAMPLES}: {empty:,} empty cell{plural} taken as not known.",
            )
        )
    frame, flipped = _discharge_positive(frame)
    return frame, notices + flipped


def read_entries(data: bytes, pack: PackSpec | None) -> tuple[tuple[Entry, ...], list[Notice]]:
    """What the rider wrote down, in order of time.

    Raises
    ------
    BundleError
        With every fault found.
    """
    table = read_table(ENTRIES, data, ENTRY_COLUMNS, ENTRY_TEXT)
    faults = [
        *table.faults,
        *_time_faults(table, ENTRIES, strictly=False),
        *_value_faults(table, ENTRIES, pack),
    ]
    notices = list(table.notices)
    kinds: list[EntryKind] = []
    given = table.frame["kind"].to_list() if "kind" in table.frame.columns else []
    blank = 0
    for index in range(table.frame.height):
        word = (given[index] or "").strip() if given else ""
        if not word:
            blank += 1
            word = "checkpoint"
        elif word not in ENTRY_KINDS:
            close = difflib.get_close_matches(word.lower(), ENTRY_KINDS, n=1)
            hint = f"; did you mean {close[0]}?" if close else ""
            column = table.frame.columns.index("kind") + 1
            message = f"kind is '{word}', expected one of {', '.join(ENTRY_KINDS)}{hint}"
            faults.append(Fault(ENTRIES, int(table.line[index]), column, message))
        kinds.append(cast(EntryKind, word))
    if table.frame.height == 0 and not faults:
        faults.append(Fault(ENTRIES, 0, 0, "has no rows; leave the file out or fill it"))
    if faults:
        raise BundleError(faults)
    if blank:
        message = f"{ENTRIES}: {blank} without a kind taken as checkpoint."
        notices.append(Notice(code="kind_missing", message=message))
    entries = []
    for row, kind in zip(table.frame.iter_rows(named=True), kinds, strict=True):
        values = {name: row[name] for name in row if name in ENTRY_COLUMNS and name != "kind"}
        extra = {name: row[name] for name in table.unknown if row[name] is not None}
        entries.append(Entry(**values, kind=kind, extra=extra))
    return tuple(entries), notices


def _time_faults(table: Table, file: str, *, strictly: bool) -> list[Fault]:
    time = table.frame["time_s"].to_numpy()
    steps = np.diff(time)
    wrong = np.flatnonzero(steps <= 0 if strictly else steps < 0)
    column = table.frame.columns.index("time_s") + 1
    faults = [
        Fault(
            file,
            int(table.line[row + 1]),
            column,
            f"time_s is {time[row + 1]:.10g} after {time[row]:.10g}; time must increase",
        )
        for row in wrong[:MOST_FAULTS]
    ]
    if len(wrong) > MOST_FAULTS:
        line = int(table.line[wrong[MOST_FAULTS] + 1])
        more = len(wrong) - MOST_FAULTS
        faults.append(Fault(file, line, 0, f"and {more:,} more rows whose time does not increase"))
    return faults


def _value_faults(table: Table, file: str, pack: PackSpec | None) -> list[Fault]:
    """Values that no ride can have, each with its line; at most ten a column."""
    faults: list[Fault] = []
    spans: dict[str, tuple[float, float, str]] = dict(_SPANS)
    for name in _NOT_NEGATIVE:
        spans[name] = (0.0, np.inf, "zero or more")
    if pack is not None:
        top = ABSURD_CELL_V * pack.series
        for name in ("voltage_v", "voltage_rest_v", "voltage_load_v"):
            spans[name] = (0.0, top, f"volts of {pack.series} cells, not millivolts")
    spans["cell_min_v"] = (0.0, ABSURD_CELL_V, "volts of one cell, not millivolts")
    for column, name in enumerate(table.frame.columns, start=1):
        if name not in spans or table.frame[name].dtype != pl.Float64:
            continue
        low, high, hint = spans[name]
        values = table.frame[name].to_numpy()
        wrong = np.flatnonzero((values < low) | (values > high))
        for row in wrong[:10]:
            message = f"{name} is {values[row]:g}; expected {hint}"
            faults.append(Fault(file, int(table.line[row]), column, message))
        if len(wrong) > 10:
            rest = f"{name}: and {len(wrong) - 10:,} more rows like these"
            faults.append(Fault(file, int(table.line[wrong[10]]), column, rest))
    return faults


def _discharge_positive(frame: pl.DataFrame) -> tuple[pl.DataFrame, list[Notice]]:
    """Turn the current round when most of the charge flows the charging way.

    Notes
    -----
    A ride takes more out than regeneration puts back, so a log whose net charge is negative was
    made with the other sign.
    """
    if "current_a" not in frame.columns or frame.height < 2:
        return frame, []
    known = frame.select("time_s", "current_a").drop_nulls()
    time, current = known["time_s"].to_numpy(), known["current_a"].to_numpy()
    net = float(np.trapezoid(current, time)) if len(time) > 1 else 0.0
    if net >= 0:
        return frame, []
    notice = Notice(
        code="current_flipped",
        message=f"{SAMPLES}: current_a was logged negative for discharge; it was turned round.",
    )
    return frame.with_columns(-pl.col("current_a")), [notice]
