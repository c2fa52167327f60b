"""A plain CSV in one go: as fast as polars reads it, and vouched for afterwards."""

from __future__ import annotations

import io

import numpy as np

from limpet.files.csv_table import Table
from limpet.files.dialect import Dialect
from limpet.files.mapping import ColumnMapping
from limpet.files.table_checks import is_begun, note_semicolons, tidy


def read_plain(file: str, data: bytes, dialect: Dialect, mapping: ColumnMapping) -> Table | None:
    """The fast path; None when the file is anything but plain."""
    names = list(dialect.names)
    if not dialect.plain or mapping.words:
        return None
    if dialect.delimiter == ",":
        return _with_commas(file, data, names, mapping)
    return _with_semicolons(file, data, dialect.header_end, names, mapping)


def _with_commas(file: str, data: bytes, names: list[str], mapping: ColumnMapping) -> Table | None:
    # Loaded here: notes alone, which most tests are, need no tables.
    import polars as pl

    body, broken = _without_broken_line(data, len(names))
    unknown = [name for name in names if name not in mapping.known]
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
    time = frame[mapping.time]
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
    tidy(file, table, mapping.time, nan_cells, broken)
    return table


def _with_semicolons(
    file: str, data: bytes, header_end: int, names: list[str], mapping: ColumnMapping
) -> Table | None:
    """A plain table with semicolons, and decimal commas where it has any; None when it is not."""
    body = data[header_end:] if header_end >= 0 else b""
    commas = b"," in body
    if (commas and b"." in body) or any(name not in mapping.known for name in names):
        return None
    commaed = data.replace(b",", b".").replace(b";", b",")
    table = _with_commas(file, commaed, names, mapping)
    if table is not None:
        note_semicolons(file, table, commas=commas)
    return table


def _without_broken_line(data: bytes, fields: int) -> tuple[bytes, bool]:
    """The data less a last line that has too few fields or stops inside a number."""
    end = len(data)
    while end and data[end - 1] in b"\r\n":
        end -= 1
    start = data.rfind(b"\n", 0, end) + 1
    if start == 0:
        return data, False
    cells = data[start:end].split(b",")
    unfinished = not data.endswith(b"\n") and is_begun(cells[-1].decode("ascii"))
    if len(cells) < fields or unfinished:
        return data[:start], True
    return data, False
