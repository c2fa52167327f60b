"""A CSV file into columns: polars where the file is plain, cell by cell where it is not.

The plain path reads a million rows as fast as polars does. Whatever it cannot vouch for (quotes,
odd rows, words in number cells) is read again cell by cell, which is slow and says exactly where
each fault stands.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Collection

import numpy as np

from limpet.errors import BundleError, Fault
from limpet.files.jsonfile import decode_utf8
from limpet.files.table import Table
from limpet.notices import Notice

#: Columns of a table: the format has seventeen, a logger may bring a hundred of its own.
MOST_COLUMNS = 200
#: Cells that are looked at one by one; a plain file, read in one go, may have more.
MOST_ODD_CELLS = 6_000_000
#: Characters of a cell of the rider's own columns and of a column's name.
MOST_CELL, MOST_HEADER = 5000, 100
#: Faults named one by one in each file; a file with more is no longer read by a person.
MOST_FAULTS = 200

_NUMBER = re.compile(r"[+-]?(\d+(\.\d*)?|\.\d+)([eE][+-]?\d+)?\Z")
_NUMBER_BEGUN = re.compile(r"([+-]|[+-]?\.|[+-]?\d*\.?\d*[eE][+-]?)\Z")
#: Characters of a number cell; repr of any float64 has 24.
_LONGEST_NUMBER = 60
_NOT_KNOWN = frozenset({"", "nan", "+nan", "-nan"})


def read_table(
    file: str,
    data: bytes,
    known: Collection[str],
    text: Collection[str],
    *,
    most_rows: int,
) -> Table:
    """Read one CSV file; what is wrong with single cells is left in the table's faults.

    Parameters
    ----------
    file : its name, for messages
    data : its bytes
    known : the format's columns
    text : those of them that hold words
    most_rows : a file with more is refused before it is read

    Raises
    ------
    BundleError
        When there is no table at all (no header, no time, not UTF-8), or too large a one.

    References
    ----------
    RFC 4180 (2005), with the leniencies that bundle.md lists.
    """
    data = data.removeprefix(b"\xef\xbb\xbf")
    if not data[:4096].strip():
        raise BundleError([Fault(file, 1, 0, "is empty; the first line names the columns")])
    lines = data.count(b"\n") + data.count(b"\r")
    # A line may end in two characters, a broken last one in none; quoted text holds a few more.
    if lines > 2 * most_rows + 100:
        message = f"has some {lines:,} lines, at most {most_rows:,} rows are read; thin it out"
        raise BundleError([Fault(file, 0, 0, message)])
    end = data.find(b"\n")
    first = data if end < 0 else data[:end]
    if first.count(b",") > MOST_COLUMNS or first.count(b";") > MOST_COLUMNS:
        raise BundleError([Fault(file, 1, 0, _TOO_WIDE)])
    if b'"' in first:
        return _within(_read_cells(file, _odd(file, data), ",", known, text), file, most_rows)
    header_line = decode_utf8(file, first).rstrip("\r")
    delimiter = ";" if ";" in header_line and "," not in header_line else ","
    names = [name.strip() for name in header_line.split(delimiter)]
    _check_header(file, names, known)
    if not text and data.isascii() and b'"' not in data:
        if delimiter == ",":
            table = _read_plain(file, data, names, known)
        else:
            table = _read_plain_semicolons(file, data, end, names, known)
        if table is not None:
            return _within(table, file, most_rows)
    return _within(_read_cells(file, _odd(file, data), delimiter, known, text), file, most_rows)


_TOO_WIDE = f"has more than {MOST_COLUMNS} columns; leave out those that no ride needs"


def _within(table: Table, file: str, most_rows: int) -> Table:
    if table.height > most_rows:
        message = f"has {table.height:,} rows, at most {most_rows:,} are read; thin it out"
        raise BundleError([Fault(file, 0, 0, message)])
    return table


def _odd(file: str, data: bytes) -> str:
    """The text of a table that must be looked at cell by cell, if it is no larger than that allows."""
    cells = data.count(b",") + data.count(b";") + data.count(b"\n") + data.count(b"\r")
    if cells > MOST_ODD_CELLS:
        message = (
            f"has some {cells:,} cells, and something odd among them; over {MOST_ODD_CELLS:,} are "
            "read only from a plain table: commas, decimal points, no quotes, every row complete"
        )
        raise BundleError([Fault(file, 0, 0, message)])
    return decode_utf8(file, data)


def _check_header(file: str, names: list[str], known: Collection[str]) -> None:
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
    if "time_s" not in names:
        close = [name for name in names if name.lower() in ("time", "t", "seconds", "time_ms")]
        hint = f"; is it {close[0]}?" if close else ""
        wanted = f"column time_s (seconds since the start) is missing{hint}"
        faults.append(Fault(file, 1, 0, wanted))
    if faults:
        raise BundleError(faults)


def _read_plain(file: str, data: bytes, names: list[str], known: Collection[str]) -> Table | None:
    """The fast path; None when the file is anything but plain."""
    # Loaded here: notes alone, which most tests are, need no tables.
    import polars as pl

    body, broken = _without_broken_line(data, len(names))
    unknown = [name for name in names if name not in known]
    schema = {name: pl.String if name in unknown else pl.Float64 for name in names}
    try:
        # One chunk a column: every later look at a column is then a view, not a copy.
        frame = pl.read_csv(
            io.BytesIO(body), has_header=False, skip_rows=1, schema=schema
        ).rechunk()
    except pl.exceptions.PolarsError:
        return None
    # Polars pads short rows with nulls and takes blank lines for rows of nulls. Where the last
    # column has none, there was neither; otherwise the commas tell.
    padded = frame.height == 0 or frame[names[-1]].null_count() > 0
    if padded and body.count(b",") != (len(names) - 1) * (frame.height + 1):
        return None
    numbers = [name for name in names if name not in unknown]
    if frame.height and frame.select(pl.any_horizontal(pl.col(numbers).is_infinite().any())).item():
        return None
    time = frame["time_s"]
    if time.null_count() or time.is_nan().any():
        return None
    nan_cells = int(frame.select(pl.sum_horizontal(pl.col(numbers).is_nan().sum())).item() or 0)
    if nan_cells:
        frame = frame.with_columns(pl.col(numbers).fill_nan(None))
    table = Table(
        numbers={name: frame[name].to_numpy() for name in numbers},
        words={name: frame[name].to_list() for name in unknown},
        names=names,
        line=np.arange(2, frame.height + 2),
        unknown=unknown,
        plain=frame,
    )
    _tidy(file, table, nan_cells, broken)
    return table


def _read_plain_semicolons(
    file: str, data: bytes, header_end: int, names: list[str], known: Collection[str]
) -> Table | None:
    """A plain table with semicolons, and decimal commas where it has any; None when it is not."""
    body = data[header_end:] if header_end >= 0 else b""
    commas = b"," in body
    if (commas and b"." in body) or any(name not in known for name in names):
        return None
    table = _read_plain(file, data.replace(b",", b".").replace(b";", b","), names, known)
    if table is not None:
        _note_semicolons(file, table, commas)
    return table


def _note_semicolons(file: str, table: Table, commas: bool) -> None:
    how = "semicolons with decimal commas" if commas else "semicolons between the fields"
    table.notices.append(Notice("semicolons", file=file, how=how))


def _without_broken_line(data: bytes, fields: int) -> tuple[bytes, bool]:
    """The data less a last line that has too few fields or stops inside a number."""
    end = len(data)
    while end and data[end - 1] in b"\r\n":
        end -= 1
    start = data.rfind(b"\n", 0, end) + 1
    if start == 0:
        return data, False
    cells = data[start:end].split(b",")
    unfinished = not data.endswith(b"\n") and _begun(cells[-1].decode("ascii"))
    if len(cells) < fields or unfinished:
        return data[:start], True
    return data, False


def _begun(cell: str) -> bool:
    """Whether a number was begun and not finished; no number takes more room than this."""
    text = cell.strip()
    return len(text) <= _LONGEST_NUMBER and _NUMBER_BEGUN.match(text) is not None


def _tidy(file: str, table: Table, nan_cells: int, broken: bool) -> None:
    """Exact duplicates out, and a notice for each thing that was met."""
    if nan_cells:
        table.notices.append(Notice("not_a_number", file=file, count=nan_cells))
    # Duplicates of a logger follow each other; only where time stands still can one be.
    time = table.numbers["time_s"]
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


def _read_cells(
    file: str, content: str, delimiter: str, known: Collection[str], text: Collection[str]
) -> Table:
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
        return _read_cells(file, content, ";", known, text)
    names = [name.strip() for name in rows.pop(0)]
    lines.pop(0)
    _check_header(file, names, known)
    broken = bool(rows) and _broke_off(rows[-1], len(names), content)
    if broken:
        rows.pop()
        lines.pop()
    return _cells_to_table(file, delimiter, names, rows, lines, broken, known, text)


def _broke_off(row: list[str], fields: int, content: str) -> bool:
    unfinished = not content.endswith("\n") and _begun(row[-1])
    return len(row) < fields or unfinished


def _cells_to_table(
    file: str,
    delimiter: str,
    names: list[str],
    rows: list[list[str]],
    lines: list[int],
    broken: bool,
    known: Collection[str],
    text: Collection[str],
) -> Table:
    unknown = [name for name in names if name not in known]
    words = {index for index, name in enumerate(names) if name in unknown or name in text}
    columns: list[list[float | str | None]] = [[] for _ in names]
    faults: list[Fault] = []
    kept: list[int] = []
    commas = 0
    nan_cells = 0
    for row, line in zip(rows, lines, strict=True):
        if len(row) != len(names):
            message = f"has {len(row)} fields, the header {len(names)}; add or remove separators"
            faults.append(Fault(file, line, 0, message))
            continue
        for index, cell in enumerate(row):
            if index in words:
                if names[index] in unknown and len(cell) > MOST_CELL:
                    message = f"has {len(cell):,} characters, at most {MOST_CELL:,} are kept"
                    faults.append(Fault(file, line, index + 1, f"{names[index]} {message}"))
                columns[index].append(cell or None)
                continue
            stripped = cell.strip()
            if delimiter == ";" and "," in stripped:
                if "." in stripped or stripped.count(",") > 1:
                    message = f"{names[index]} is '{stripped}': point or comma? write 1234.5"
                    faults.append(Fault(file, line, index + 1, message))
                    columns[index].append(None)
                    continue
                stripped = stripped.replace(",", ".")
                commas += 1
            if stripped.lower() in _NOT_KNOWN:
                nan_cells += stripped != ""
                columns[index].append(None)
                if names[index] == "time_s":
                    faults.append(
                        Fault(file, line, index + 1, "time_s is empty; every row needs its time")
                    )
                continue
            fault = _number_fault(names[index], stripped)
            if fault:
                faults.append(Fault(file, line, index + 1, fault))
                columns[index].append(None)
                continue
            columns[index].append(float(stripped))
        kept.append(line)
    if len(faults) > MOST_FAULTS:
        more = len(faults) - MOST_FAULTS
        rest = f"and {more:,} more faults like these; mend them and try again"
        faults = [*faults[:MOST_FAULTS], Fault(file, faults[MOST_FAULTS].line, 0, rest)]
    table = Table(
        numbers={
            name: np.array([np.nan if cell is None else cell for cell in column], dtype=np.float64)
            for index, (name, column) in enumerate(zip(names, columns, strict=True))
            if index not in words
        },
        words={
            name: [None if cell is None else str(cell) for cell in column]
            for index, (name, column) in enumerate(zip(names, columns, strict=True))
            if index in words
        },
        names=names,
        line=np.array(kept, dtype=np.int64),
        unknown=unknown,
        faults=faults,
    )
    if delimiter == ";":
        _note_semicolons(file, table, commas > 0)
    _tidy(file, table, nan_cells, broken)
    return table


def _number_fault(name: str, cell: str) -> str | None:
    """What is wrong with a number cell, or None."""
    if len(cell) > _LONGEST_NUMBER:
        return f"{name} is '{cell[:20]}…', {len(cell):,} characters long; write it like 54.3"
    if _NUMBER.match(cell):
        if abs(float(cell)) == float("inf"):
            return f"{name} is {cell}, too large to be a number here; leave not-known cells empty"
        return None
    if cell.lower().lstrip("+-") in ("inf", "infinity"):
        return f"{name} is {cell}; leave the cell empty for not known"
    if re.fullmatch(r"[+-]?\d+,\d+", cell):
        return f"{name} is '{cell}'; write a decimal point"
    return f"{name} is '{cell}', not a number; leave not-known cells empty"
