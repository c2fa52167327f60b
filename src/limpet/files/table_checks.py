"""What is wrong with a CSV's header, with a cell, with a whole table; each place named."""

from __future__ import annotations

import re

import numpy as np

from limpet.errors import BundleError, Fault
from limpet.files.csv_table import Table
from limpet.notices import Notice

#: Characters of a cell of the rider's own columns and of a column's name.
MOST_CELL, MOST_HEADER = 5000, 100
#: Faults named one by one in each file; a file with more is no longer read by a person.
MOST_FAULTS = 200
#: Characters of a number cell; repr of any float64 has 24.
LONGEST_NUMBER = 60
NOT_KNOWN = frozenset({"", "nan", "+nan", "-nan"})

_NUMBER = re.compile(r"[+-]?(\d+(\.\d*)?|\.\d+)([eE][+-]?\d+)?\Z")
_NUMBER_BEGUN = re.compile(r"([+-]|[+-]?\.|[+-]?\d*\.?\d*[eE][+-]?)\Z")


def check_header(file: str, names: list[str], time: str, timed: bool) -> None:
    """The names of the columns.

    Parameters
    ----------
    time : what the time since the start is called there
    timed : whether it must be there; a column that seems to be it is asked about in any case

    Raises
    ------
    BundleError
        With every fault.
    """
    faults = []
    for index, name in enumerate(names):
        if name in names[:index]:
            faults.append(Fault(file, 1, index + 1, f"column {name} stands twice; keep one"))
        elif not name:
            faults.append(Fault(file, 1, index + 1, "a column has no name; name it or remove it"))
        elif len(name) > MOST_HEADER:
            message = (
                f"a column's name has {len(name):,} characters, at most {MOST_HEADER} are kept"
            )
            faults.append(Fault(file, 1, index + 1, message))
    if time not in names:
        close = [name for name in names if name.lower() in ("time", "t", "seconds", "time_ms")]
        hint = f"; is it {close[0]}?" if close else ""
        if timed or close:
            wanted = f"column {time} (seconds since the start) is missing{hint}"
            faults.append(Fault(file, 1, 0, wanted))
    if faults:
        raise BundleError(faults)


def number_fault(cell: str) -> str:
    """What is wrong with a number cell; empty when nothing is."""
    if len(cell) > LONGEST_NUMBER:
        return f"is '{cell[:20]}…', {len(cell):,} characters long; write it like 54.3"
    if _NUMBER.match(cell):
        if abs(float(cell)) == float("inf"):
            return f"is {cell}, too large to be a number here; leave not-known cells empty"
        return ""
    if cell.lower().lstrip("+-") in ("inf", "infinity"):
        return f"is {cell}; leave the cell empty for not known"
    if re.fullmatch(r"[+-]?\d+,\d+", cell):
        return f"is '{cell}'; write a decimal point"
    return f"is '{cell}', not a number; leave not-known cells empty"


def is_begun(cell: str) -> bool:
    """Whether a number was begun and not finished; no number takes more room than this."""
    text = cell.strip()
    return len(text) <= LONGEST_NUMBER and _NUMBER_BEGUN.match(text) is not None


def capped(file: str, faults: list[Fault]) -> list[Fault]:
    """The faults of a table, no more than a person reads."""
    if len(faults) <= MOST_FAULTS:
        return faults
    more = len(faults) - MOST_FAULTS
    rest = f"and {more:,} more faults like these; correct them and try again"
    return [*faults[:MOST_FAULTS], Fault(file, faults[MOST_FAULTS].line, 0, rest)]


def tidy(file: str, table: Table, time_name: str, nan_cells: int, broken: bool) -> None:
    """Exact duplicates out, and a notice for each thing that was met."""
    if nan_cells:
        table.notices.append(Notice("not_a_number", file=file, count=nan_cells))
    # Duplicates of a logger follow each other; only where time stands still can one be.
    time = table.numbers.get(time_name, np.full(table.height, np.nan))
    standing = np.flatnonzero(time[1:] == time[:-1])
    same = [int(row) for row in standing + 1 if table.row(int(row)) == table.row(int(row) - 1)]
    if same:
        keep = np.ones(table.height, dtype=bool)
        keep[same] = False
        table.keep(keep)
        table.notices.append(Notice("duplicate_rows", file=file, count=len(same)))
    if broken:
        table.notices.append(Notice("broken_last_line", file=file))
    if table.unknown:
        table.notices.append(Notice("unknown_columns", file=file, names=", ".join(table.unknown)))


def note_semicolons(file: str, table: Table, *, commas: bool) -> None:
    """Say how the file was written."""
    how = "semicolons with decimal commas" if commas else "semicolons between the fields"
    table.notices.append(Notice("semicolons", file=file, how=how))
