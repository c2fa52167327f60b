"""A CSV cell by cell: RFC 4180 with quotes, every cell looked at, every fault placed."""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass, field

import numpy as np

from limpet.errors import BundleError, Fault
from limpet.files.csv_table import Table
from limpet.files.mapping import ColumnMapping
from limpet.files.table_checks import (
    MOST_CELL,
    NOT_KNOWN,
    capped,
    check_header,
    is_begun,
    note_semicolons,
    number_fault,
    tidy,
)


def read_cells(file: str, content: str, delimiter: str, mapping: ColumnMapping) -> Table:
    """The slow path: RFC 4180 with quotes, every cell looked at, every fault placed."""
    reader = csv.reader(io.StringIO(content, newline=""), delimiter=delimiter, strict=False)
    rows: list[list[str]] = []
    lines: list[int] = []
    begins = 1
    try:
        for row in reader:
            if row:
                rows.append(row)
                lines.append(begins)
            begins = reader.line_num + 1
    except csv.Error as cause:
        raise BundleError([Fault(file, reader.line_num, 0, f"not CSV: {cause}")]) from cause
    if delimiter == "," and len(rows[0]) == 1 and ";" in rows[0][0]:
        return read_cells(file, content, ";", mapping)
    names = [name.strip() for name in rows.pop(0)]
    lines.pop(0)
    check_header(file, names, mapping.time, mapping.timed)
    broken = bool(rows) and _broke_off(rows[-1], len(names), content)
    if broken:
        rows.pop()
        lines.pop()
    columns = _columns_of(file, delimiter, names, rows, lines, mapping)
    table = columns.table(file)
    if delimiter == ";":
        note_semicolons(file, table, commas=columns.commas > 0)
    tidy(file, table, mapping.time, columns.nan_cells, broken)
    return table


def _broke_off(row: list[str], fields: int, content: str) -> bool:
    unfinished = not content.endswith("\n") and is_begun(row[-1])
    return len(row) < fields or unfinished


@dataclass(slots=True)
class _Columns:
    """The columns of a table as they fill up, cell by cell."""

    names: list[str]
    mapping: ColumnMapping
    cells: list[list[float | str | None]] = field(init=False)
    lines: list[int] = field(default_factory=list)
    faults: list[Fault] = field(default_factory=list)
    commas: int = 0
    nan_cells: int = 0

    def __post_init__(self) -> None:
        self.cells = [[] for _ in self.names]

    def is_words(self, name: str) -> bool:
        """Whether a column holds words: the rider's own do, whatever stands in them."""
        return name not in self.mapping.known or name in self.mapping.words

    def table(self, file: str) -> Table:
        """All that was read."""
        named = dict(zip(self.names, self.cells, strict=True))
        return Table(
            numbers={
                name: np.array([np.nan if cell is None else cell for cell in cells], dtype=float)
                for name, cells in named.items()
                if not self.is_words(name)
            },
            words={
                name: [None if cell is None else str(cell) for cell in cells]
                for name, cells in named.items()
                if self.is_words(name)
            },
            names=self.names,
            line=np.array(self.lines, dtype=np.int64),
            unknown=[name for name in self.names if name not in self.mapping.known],
            faults=capped(file, self.faults),
        )


def _columns_of(
    file: str,
    delimiter: str,
    names: list[str],
    rows: list[list[str]],
    lines: list[int],
    mapping: ColumnMapping,
) -> _Columns:
    found = _Columns(names, mapping)
    for row, line in zip(rows, lines, strict=True):
        if len(row) != len(names):
            message = f"has {len(row)} fields, the header {len(names)}; add or remove separators"
            found.faults.append(Fault(file, line, 0, message))
            continue
        for index, cell in enumerate(row):
            name = names[index]
            value: float | str | None
            if found.is_words(name):
                value, fault = _word(name, cell, mapping)
            else:
                value, fault = _number(found, name, cell.strip(), delimiter)
            found.cells[index].append(value)
            if fault:
                found.faults.append(Fault(file, line, index + 1, f"{name} {fault}"))
        found.lines.append(line)
    return found


def _word(name: str, cell: str, mapping: ColumnMapping) -> tuple[str | None, str]:
    if name not in mapping.known and len(cell) > MOST_CELL:
        return cell, f"has {len(cell):,} characters, at most {MOST_CELL:,} are kept"
    return cell or None, ""


def _number(found: _Columns, name: str, cell: str, delimiter: str) -> tuple[float | None, str]:
    if delimiter == ";" and "," in cell:
        if "." in cell or cell.count(",") > 1:
            return None, f"is '{cell}': point or comma? write 1234.5"
        cell = cell.replace(",", ".")
        found.commas += 1
    timed = found.mapping.time if found.mapping.timed else None
    if cell.lower() in NOT_KNOWN:
        found.nan_cells += cell != ""
        return None, "is empty; every row needs its time" if name == timed else ""
    fault = number_fault(cell)
    return (None, fault) if fault else (float(cell), "")
