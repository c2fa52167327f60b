"""samples.csv and entries.csv: from bytes to the core's values, checked as bundle.md says."""

from __future__ import annotations

import difflib
from collections.abc import Mapping
from typing import TYPE_CHECKING, Any, cast

import numpy as np

from limpet.errors import BundleError, Fault
from limpet.evidence.checks import counts_backwards, not_rising, outside, says_not_rising
from limpet.evidence.clock import filled_times
from limpet.evidence.columns import (
    ENTRY_COLUMNS,
    SAMPLE_COLUMNS,
    Column,
)
from limpet.evidence.model import ENTRY_KINDS, Entry, EntryKind
from limpet.files.csv_table import Table
from limpet.files.csvfile import read_table
from limpet.files.mapping import ColumnMapping
from limpet.files.shielded import unshielded, unshielded_frame
from limpet.files.table_checks import MOST_FAULTS
from limpet.notices import Notice
from limpet.pack import PackSpec
from limpet.units import METRES_PER_MILE

if TYPE_CHECKING:
    import polars as pl

SAMPLES = "samples.csv"
ENTRIES = "entries.csv"

#: Faults of one column named one by one.
MOST_A_COLUMN = 10
#: Rows of each table: a week at ten a second, and more than anybody writes down in a season.
MOST_SAMPLES = 6_000_000
MOST_ENTRIES = 20_000

_PLAIN_SAMPLES = ColumnMapping.plain(SAMPLE_COLUMNS)
_PLAIN_ENTRIES = ColumnMapping.plain(ENTRY_COLUMNS, timed=False)
#: Distances that tell when an entry without a time was, the first that was noted.
_TELLS_TIME = ("trip_m", "gps_m", "odometer_m", "laps")


def read_samples(
    data: bytes,
    pack: PackSpec | None,
    mapping: ColumnMapping | None = None,
    *,
    file: str = SAMPLES,
) -> tuple[pl.DataFrame, list[Notice]]:
    """A logger's time series, current turned to discharge-positive if it was logged the other way.

    Parameters
    ----------
    mapping : from the logger's own columns; the bundle's when None
    file : its name in the bundle

    Raises
    ------
    BundleError
        With every fault found.
    """
    table = read_table(file, data, mapping or _PLAIN_SAMPLES, most_rows=MOST_SAMPLES)
    faults = [
        *table.faults,
        *_time_faults(table, file, strictly=True),
        *_value_faults(table, file, SAMPLE_COLUMNS, pack),
    ]
    if table.height == 0 and not faults:
        faults.append(Fault(file, 0, 0, "has no rows; leave the file out or fill it"))
    if faults:
        raise BundleError(faults)
    frame = unshielded_frame(table.frame())
    frame = frame.select(["time_s", *[n for n in frame.columns if n != "time_s"]])
    notices = list(table.notices)
    empty = sum(frame[name].null_count() for name in frame.columns if name in SAMPLE_COLUMNS)
    nan_cells = any(notice.code == "not_a_number" for notice in notices)
    if empty and not nan_cells:
        notices.append(Notice("empty_cells", file=file, count=empty))
    frame, flipped = _discharge_positive(frame, file)
    return frame, notices + flipped


def read_entries(data: bytes, pack: PackSpec | None) -> tuple[tuple[Entry, ...], list[Notice]]:
    """What the rider wrote down, in order of time.

    Raises
    ------
    BundleError
        With every fault found.
    """
    table = read_table(ENTRIES, data, _PLAIN_ENTRIES, most_rows=MOST_ENTRIES)
    filled, untold = _fill_times(table)
    faults = [
        *table.faults,
        *untold,
        *([] if untold else _time_faults(table, ENTRIES, strictly=False)),
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
    if filled:
        notices.append(Notice("times_filled", file=ENTRIES, count=filled))
    if blank:
        notices.append(Notice("kind_missing", file=ENTRIES, count=blank))
    entries = []
    for index, kind in enumerate(kinds):
        row = dict(zip(table.names, table.row(index), strict=True))
        row = {n: unshielded(cell) if isinstance(cell, str) else cell for n, cell in row.items()}
        values: dict[str, Any] = {
            name: cell for name, cell in row.items() if name in ENTRY_COLUMNS and name != "kind"
        }
        extra = {
            unshielded(name): str(row[name]) for name in table.unknown if row[name] is not None
        }
        entries.append(Entry(**values, kind=kind, extra=extra))
    return tuple(entries), notices


def _fill_times(table: Table) -> tuple[int, list[Fault]]:
    """Put times where a distance tells them; how many, and the rows that nothing tells."""
    absent = "time_s" not in table.numbers
    if absent and (table.faults or table.height == 0):
        table.numbers["time_s"] = np.full(table.height, np.nan)
        table.names.append("time_s")
    if table.faults or table.height == 0:
        return 0, []
    time = np.full(table.height, np.nan) if absent else table.numbers["time_s"]
    missing = np.isnan(time)
    if not missing.any():
        return 0, []
    distance = np.full(table.height, np.nan)
    name = next((name for name in _TELLS_TIME if name in table.numbers), None)
    if name is not None:
        distance = table.numbers[name] - np.nanmin(table.numbers[name])
        # The measured loop is not known here; laps of a mile order as well as any.
        distance = distance * METRES_PER_MILE if name == "laps" else distance
    time = filled_times(time, distance)
    if absent:
        table.names.append("time_s")
    table.numbers["time_s"] = time
    place = 0 if absent else table.number_of("time_s")
    untold = [
        Fault(
            ENTRIES,
            int(table.line[row]),
            place,
            "time_s is empty, and no distance tells when it was",
        )
        for row in np.flatnonzero(np.isnan(time))[:MOST_A_COLUMN]
    ]
    return int(missing.sum()), untold


def _time_faults(table: Table, file: str, *, strictly: bool) -> list[Fault]:
    time = table.numbers["time_s"]
    wrong = not_rising(time, strictly=strictly)
    column = table.number_of("time_s")
    faults = [
        Fault(file, int(table.line[row]), column, says_not_rising(time[row], time[row - 1]))
        for row in wrong[:MOST_FAULTS]
    ]
    if len(wrong) > MOST_FAULTS:
        line = int(table.line[wrong[MOST_FAULTS]])
        more = len(wrong) - MOST_FAULTS
        faults.append(Fault(file, line, 0, f"and {more:,} more rows whose time does not increase"))
    return faults


def _value_faults(
    table: Table, file: str, columns: Mapping[str, Column], pack: PackSpec | None
) -> list[Fault]:
    """Values that no ride can have, each with its line; at most ten a column."""
    faults: list[Fault] = []
    for odd in outside(columns, table.numbers, pack):
        number = table.number_of(odd.name)
        for index, row in enumerate(odd.rows[:MOST_A_COLUMN]):
            said = f"{odd.name} {odd.says(index)}"
            faults.append(Fault(file, int(table.line[row]), number, said))
        if len(odd.rows) > MOST_A_COLUMN:
            rest = f"{odd.name}: and {len(odd.rows) - MOST_A_COLUMN:,} more rows like these"
            faults.append(Fault(file, int(table.line[odd.rows[MOST_A_COLUMN]]), number, rest))
    return faults


def _text_faults(table: Table, file: str) -> list[Fault]:
    """Words longer than a form takes."""
    faults: list[Fault] = []
    for name, words in table.words.items():
        column = ENTRY_COLUMNS.get(name)
        if column is None:
            continue
        if column.choices:
            faults += _choice_faults(table, file, name, column)
            continue
        too_long = [row for row, word in enumerate(words) if len(word or "") > column.longest]
        for row in too_long[:MOST_A_COLUMN]:
            length = len(words[row] or "")
            message = f"{name} has {length:,} characters, at most {column.longest:,} are kept"
            place = table.number_of(name)
            faults.append(Fault(file, int(table.line[row]), place, message))
    return faults


def _choice_faults(table: Table, file: str, name: str, column: Column) -> list[Fault]:
    """Words that are none of a closed list."""
    faults = []
    words = [(word or "").strip() for word in table.words[name]]
    wrong = [row for row, word in enumerate(words) if word and word not in column.choices]
    for row in wrong[:MOST_A_COLUMN]:
        close = difflib.get_close_matches(words[row].lower(), column.choices, n=1)
        hint = f"; did you mean {close[0]}?" if close else ""
        message = (
            f"{name} is '{words[row][:40]}', expected one of {', '.join(column.choices)}{hint}"
        )
        faults.append(Fault(file, int(table.line[row]), table.number_of(name), message))
    return faults


def _discharge_positive(frame: pl.DataFrame, file: str) -> tuple[pl.DataFrame, list[Notice]]:
    """Turn the current round when most of the charge flows the charging way."""
    if "current_a" not in frame.columns:
        return frame, []
    if not counts_backwards(frame["time_s"].to_numpy(), frame["current_a"].to_numpy()):
        return frame, []
    turned = -frame["current_a"]
    return frame.with_columns(turned.alias("current_a")), [Notice("current_flipped", file=file)]
