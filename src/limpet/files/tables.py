"""samples.csv and entries.csv: from bytes to the core's values, checked as bundle.md says."""

from __future__ import annotations

import difflib
from collections.abc import Mapping
from typing import TYPE_CHECKING, Any, cast

import numpy as np

from limpet.errors import BundleError, Fault
from limpet.evidence.columns import (
    ENTRY_COLUMNS,
    ENTRY_TEXT,
    SAMPLE_COLUMNS,
    Column,
    pack_voltage_limit,
)
from limpet.evidence.model import ENTRY_KINDS, Entry, EntryKind
from limpet.files.csvfile import MOST_FAULTS, read_table
from limpet.files.table import Table
from limpet.notices import Notice
from limpet.pack import PackSpec

if TYPE_CHECKING:
    import polars as pl

SAMPLES = "samples.csv"
ENTRIES = "entries.csv"

#: Rows of each table: a week at ten a second, and more than anybody writes down in a season.
MOST_SAMPLES = 6_000_000
MOST_ENTRIES = 20_000


def read_samples(data: bytes, pack: PackSpec | None) -> tuple[pl.DataFrame, list[Notice]]:
    """A logger's time series, current turned to discharge-positive if it was logged the other way.

    Raises
    ------
    BundleError
        With every fault found.
    """
    table = read_table(SAMPLES, data, SAMPLE_COLUMNS, (), most_rows=MOST_SAMPLES)
    faults = [
        *table.faults,
        *_time_faults(table, SAMPLES, strictly=True),
        *_value_faults(table, SAMPLES, SAMPLE_COLUMNS, pack),
    ]
    if table.height == 0 and not faults:
        faults.append(Fault(SAMPLES, 0, 0, "has no rows; leave the file out or fill it"))
    if faults:
        raise BundleError(faults)
    frame = table.frame()
    frame = frame.select(["time_s", *[n for n in frame.columns if n != "time_s"]])
    notices = list(table.notices)
    empty = sum(frame[name].null_count() for name in frame.columns if name in SAMPLE_COLUMNS)
    nan_cells = any(notice.code == "not_a_number" for notice in notices)
    if empty and not nan_cells:
        notices.append(Notice("empty_cells", file=SAMPLES, count=empty))
    frame, flipped = _discharge_positive(frame)
    return frame, notices + flipped


def read_entries(data: bytes, pack: PackSpec | None) -> tuple[tuple[Entry, ...], list[Notice]]:
    """What the rider wrote down, in order of time.

    Raises
    ------
    BundleError
        With every fault found.
    """
    table = read_table(ENTRIES, data, ENTRY_COLUMNS, ENTRY_TEXT, most_rows=MOST_ENTRIES)
    faults = [
        *table.faults,
        *_time_faults(table, ENTRIES, strictly=False),
        *_value_faults(table, ENTRIES, ENTRY_COLUMNS, pack),
        *_text_faults(table, ENTRIES),
    ]
    notices = list(table.notices)
    kinds: list[EntryKind] = []
    given = table.words.get("kind", [])
    blank = 0
    for index in range(table.height):
        word = (given[index] or "").strip() if given else ""
        if not word:
            blank += 1
            word = "checkpoint"
        elif word not in ENTRY_KINDS:
            close = difflib.get_close_matches(word.lower(), ENTRY_KINDS, n=1)
            hint = f"; did you mean {close[0]}?" if close else ""
            column = table.number_of("kind")
            message = f"kind is '{word}', expected one of {', '.join(ENTRY_KINDS)}{hint}"
            faults.append(Fault(ENTRIES, int(table.line[index]), column, message))
        kinds.append(cast(EntryKind, word))
    if table.height == 0 and not faults:
        faults.append(Fault(ENTRIES, 0, 0, "has no rows; leave the file out or fill it"))
    if faults:
        raise BundleError(faults)
    if blank:
        notices.append(Notice("kind_missing", file=ENTRIES, count=blank))
    entries = []
    for index, kind in enumerate(kinds):
        row = dict(zip(table.names, table.row(index), strict=True))
        values: dict[str, Any] = {
            name: cell for name, cell in row.items() if name in ENTRY_COLUMNS and name != "kind"
        }
        extra = {name: str(row[name]) for name in table.unknown if row[name] is not None}
        entries.append(Entry(**values, kind=kind, extra=extra))
    return tuple(entries), notices


def _time_faults(table: Table, file: str, *, strictly: bool) -> list[Fault]:
    time = table.numbers["time_s"]
    later, before = time[1:], time[:-1]
    wrong = np.flatnonzero(later <= before if strictly else later < before)
    column = table.number_of("time_s")
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


def _value_faults(
    table: Table, file: str, columns: Mapping[str, Column], pack: PackSpec | None
) -> list[Fault]:
    """Values that no ride can have, each with its line; at most ten a column."""
    faults: list[Fault] = []
    for name, values in table.numbers.items():
        column, number = columns[name], table.number_of(name)
        high, hint = column.high, column.hint
        limit = pack_voltage_limit(name, pack.series) if pack is not None else None
        if limit is not None and pack is not None:
            high, hint = limit, f"volts of {pack.series} cells, not millivolts"
        # Two looks at a million numbers, and no table of them, unless one is wrong; NaN is passed over.
        if np.fmin.reduce(values, initial=high) >= column.low and (
            np.fmax.reduce(values, initial=column.low) <= high
        ):
            continue
        wrong = np.flatnonzero((values < column.low) | (values > high))
        for row in wrong[:10]:
            message = f"{name} is {values[row]:g}; expected {hint}"
            faults.append(Fault(file, int(table.line[row]), number, message))
        if len(wrong) > 10:
            rest = f"{name}: and {len(wrong) - 10:,} more rows like these"
            faults.append(Fault(file, int(table.line[wrong[10]]), number, rest))
    return faults


def _text_faults(table: Table, file: str) -> list[Fault]:
    """Words longer than a form takes."""
    faults: list[Fault] = []
    for name, words in table.words.items():
        column = ENTRY_COLUMNS.get(name)
        if column is None:
            continue
        too_long = [row for row, word in enumerate(words) if len(word or "") > column.longest]
        for row in too_long[:10]:
            length = len(words[row] or "")
            message = f"{name} has {length:,} characters, at most {column.longest:,} are kept"
            place = table.number_of(name)
            faults.append(Fault(file, int(table.line[row]), place, message))
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
    time, current = frame["time_s"].to_numpy(), frame["current_a"].to_numpy()
    if frame["current_a"].null_count():
        known = ~np.isnan(current)
        time, current = time[known], current[known]
    net = float(np.trapezoid(current, time)) if len(time) > 1 else 0.0
    if net >= 0:
        return frame, []
    notice = Notice("current_flipped", file=SAMPLES)
    turned = -frame["current_a"]
    return frame.with_columns(turned.alias("current_a")), [notice]
