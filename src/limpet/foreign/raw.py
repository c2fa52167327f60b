"""A table as it stands in its file: cells as text, every row or a sample of the rows."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field
from mmap import mmap
from typing import TYPE_CHECKING, Final

from limpet.errors import BundleError, Fault
from limpet.files.tables import MOST_SAMPLES
from limpet.foreign.layout import Layout, layout_of, split_line
from limpet.foreign.text import as_utf8
from limpet.notices import Notice

if TYPE_CHECKING:
    import polars as pl

#: Bytes of a table's text, and rows that a look is made from.
MOST_BYTES: Final = 768 * 2**20
SAMPLE_ROWS: Final = 4000
#: A file up to this size is read whole even for a look; of a larger one lines are picked.
_WHOLE_BYTES: Final = 4 * 2**20
_LAYOUT_BYTES: Final = 256 * 1024
#: Two bytes a character are read whole.
_MOST_WIDE_BYTES: Final = 96 * 2**20
#: Aligned by spaces, it is parted by an expression, which is slow.
_MOST_SPACED_BYTES: Final = 96 * 2**20


@dataclass(frozen=True, slots=True, kw_only=True)
class RawTable:
    """Cells as text under the columns' numbers "0", "1", …; `of_rows` is how many rows the file has.

    A sample of the rows has `sampled` set, and `of_rows` is then an estimate.
    """

    file: str
    names: tuple[str, ...]
    units: tuple[str, ...]
    cells: pl.DataFrame
    decimal: str
    of_rows: int
    headed: bool = True
    sampled: bool = False
    decimal_unsure: bool = False
    preamble: tuple[str, ...] = ()
    notices: tuple[Notice, ...] = field(default=())

    def column(self, number: int) -> pl.Series:
        """The cells of a column, from 0."""
        return self.cells[str(number)]


def read_raw(file: str, data: bytes | mmap, *, sample: bool = False) -> RawTable:
    """The table of a text file, all of its rows or a sample of them.

    Parameters
    ----------
    file : its name, for messages
    data : its bytes, in any encoding; of a mapped file a sample reads only what it picks
    sample : whether some thousand rows, evenly over the file, are enough

    Raises
    ------
    BundleError
        When it is too large, or holds no table.
    """
    if len(data) > MOST_BYTES:
        text = f"has {len(data) / 2**20:.0f} MiB, more than {MOST_BYTES >> 20}; part it"
        raise BundleError([Fault(file, 0, 0, text)])
    head = as_utf8(data[:_LAYOUT_BYTES])[0].decode("utf-8", errors="replace")
    if len(data) > _LAYOUT_BYTES:
        # The last line of a beginning is not a whole one.
        head = head[: head.rfind("\n") + 1] or head
    layout = layout_of(file, head)
    wide = data[:2] in (b"\xff\xfe", b"\xfe\xff")
    if wide and len(data) > _MOST_WIDE_BYTES:
        text = f"is in UTF-16 and has over {_MOST_WIDE_BYTES >> 20} MiB; save it as UTF-8"
        raise BundleError([Fault(file, 0, 0, text)])
    picked = sample and len(data) > _WHOLE_BYTES and not wide
    if picked:
        body, of_rows = _picked(data, layout.skip)
    else:
        body, of_rows = as_utf8(bytes(data))[0], 0
        body = _without_lines(body, layout.skip)
    cells, notices = _cells(file, body, layout)
    if not picked:
        of_rows = cells.height
        if of_rows > MOST_SAMPLES:
            text = f"has {of_rows:,} rows, at most {MOST_SAMPLES:,} are read; thin it out"
            raise BundleError([Fault(file, 0, 0, text)])
        if sample and of_rows > SAMPLE_ROWS:
            cells, picked = cells.gather_every(-(-of_rows // SAMPLE_ROWS)), True
    return RawTable(
        file=file,
        names=layout.names,
        units=layout.units,
        cells=cells,
        decimal=layout.decimal,
        of_rows=of_rows,
        headed=layout.headed,
        sampled=picked,
        decimal_unsure=layout.decimal_unsure,
        preamble=layout.preamble,
        notices=tuple(notices),
    )


def _without_lines(data: bytes, count: int) -> bytes:
    at = 0
    for _ in range(count):
        end = data.find(b"\n", at)
        if end < 0:
            # Lines of an old kind, each ended by a carriage return.
            return b"\n".join(data.splitlines()[count:])
        at = end + 1
    body = data[at:]
    return body if b"\n" in body or b"\r" not in body else body.replace(b"\r", b"\n")


def _picked(data: bytes | mmap, skip: int) -> tuple[bytes, int]:
    """Lines from all over a file, in order, and about how many rows it has."""
    start = (
        len(data)
        - len(_without_lines(data[: _LAYOUT_BYTES * 2], skip))
        - (len(data) - len(data[: _LAYOUT_BYTES * 2]))
    )
    lines: list[bytes] = []
    step = max((len(data) - start) // SAMPLE_ROWS, 1)
    at = start
    taken = 0
    while at < len(data) and len(lines) < SAMPLE_ROWS + 2:
        begin = at if at == start else data.find(b"\n", at) + 1
        end = data.find(b"\n", begin) if begin > 0 or at == start else -1
        if end < 0:
            break
        lines.append(data[begin:end])
        taken += end + 1 - begin
        at = max(at + step, end + 1)
    mean = taken / max(len(lines), 1)
    return as_utf8(b"\n".join(lines) + b"\n")[0], round((len(data) - start) / max(mean, 1.0))


def _cells(file: str, body: bytes, layout: Layout) -> tuple[pl.DataFrame, list[Notice]]:
    # Loaded here: whoever only asks what a file is needs no tables.
    import polars as pl

    notices: list[Notice] = []
    delimiter = layout.delimiter
    if delimiter == " ":
        if len(body) > _MOST_SPACED_BYTES:
            text = f"is aligned by spaces and has over {_MOST_SPACED_BYTES >> 20} MiB; save it with commas"
            raise BundleError([Fault(file, 0, 0, text)])
        body = re.sub(rb"(?m)^[ \t]+|[ \t]+(?=\r?$)", b"", body)
        body, delimiter = re.sub(rb"[ \t]+", b"\t", body), "\t"
    body = body.replace(b"\r\n", b"\n") if b"\r" in body else body
    body, broken = _whole_lines(body, delimiter, len(layout.names))
    if broken:
        notices.append(Notice("broken_last_line", file=file))
    columns = [str(number) for number in range(len(layout.names))]
    kinds = _kinds(body, layout, delimiter, columns)
    try:
        cells = _parsed(body, layout, delimiter, kinds)
    except pl.exceptions.PolarsError:
        # Something among the numbers is none: every cell is looked at as text.
        kinds = dict.fromkeys(columns, pl.String)
        try:
            cells = _parsed(body, layout, delimiter, kinds)
        except pl.exceptions.PolarsError as cause:
            said = str(cause).splitlines()[0][:120] if str(cause) else "no rows"
            raise BundleError([Fault(file, 0, 0, f"cannot be read as a table: {said}")]) from cause
    before = cells.height
    cells = cells.filter(~pl.all_horizontal(pl.all().is_null()))
    cells, again = _without_headings(cells, layout, columns)
    if again:
        notices.append(Notice("headings_again", file=file, count=again))
    if cells.height == 0:
        what = "holds only a heading" if before == 0 else "holds only empty rows"
        raise BundleError([Fault(file, 0, 0, f"{what}; log a ride first")])
    return cells, notices


def _kinds(
    body: bytes, layout: Layout, delimiter: str, columns: Sequence[str]
) -> dict[str, type[pl.DataType]]:
    """What each column is read as: in a large table numbers at once, which takes a third of the time."""
    import polars as pl

    kinds: dict[str, type[pl.DataType]] = dict.fromkeys(columns, pl.String)
    if len(body) < _WHOLE_BYTES or layout.decimal != ".":
        return kinds
    end = body.find(b"\n", _LAYOUT_BYTES)
    head = _parsed(body[: end + 1], layout, delimiter, kinds)
    for name in columns:
        known = head[name].drop_nulls()
        # A figure of six or eight digits may be a day or a time of day.
        plain = known.str.contains(r"^[+\-]?(\d{0,5}\.\d+|\d{1,5}|\d{9,19})([eE][+\-]?\d+)?$")
        if len(known) and plain.all():
            kinds[name] = pl.Float64
    return kinds


def _parsed(
    body: bytes, layout: Layout, delimiter: str, kinds: dict[str, type[pl.DataType]]
) -> pl.DataFrame:
    import polars as pl

    return pl.read_csv(
        body,
        separator=delimiter,
        has_header=False,
        schema=kinds,
        infer_schema=False,
        quote_char='"' if b'"' in body else None,
        truncate_ragged_lines=True,
        comment_prefix=layout.comment or None,
        encoding="utf8-lossy",
    )


def _without_headings(
    cells: pl.DataFrame, layout: Layout, columns: Sequence[str]
) -> tuple[pl.DataFrame, int]:
    """Without rows that say the heading again, as a logger writes it that was switched on anew; how many."""
    import polars as pl

    again = None
    for row in layout.raw_header:
        said = [
            (name, cell)
            for name, cell in zip(columns, row, strict=True)
            if cell and cells[name].dtype == pl.String
        ][:6]
        # One look at one column spares the others, unless the heading does come again.
        if not said or not (cells[said[0][0]] == said[0][1]).any():
            continue
        same = pl.all_horizontal([pl.col(n).str.strip_chars() == cell for n, cell in said])
        again = same.fill_null(False) if again is None else again | same.fill_null(False)
    if again is None:
        return cells, 0
    kept = cells.filter(~again)
    return kept, cells.height - kept.height


def _whole_lines(body: bytes, delimiter: str, width: int) -> tuple[bytes, bool]:
    """The text up to its last whole line: one that was being written when the power went is no reading."""
    if body.endswith(b"\n") or b"\n" not in body:
        return body, False
    start = body.rfind(b"\n") + 1
    last = body[start:].decode("utf-8", errors="replace")
    fields = split_line(last, delimiter)
    if len(fields) < width:
        return body[:start], True
    before = body[:start].rstrip(b"\n")
    above = split_line(before[before.rfind(b"\n") + 1 :].decode("utf-8", "replace"), delimiter)
    # A whole row without an end of line is a row; one whose last cell is cut short may be none.
    cut = len(above) >= width and len(fields[-1]) < len(above[width - 1]) - 1
    return (body[:start], True) if cut else (body, False)
