"""How a CSV file is written: what stands between its fields, its header, whether it is plain."""

from __future__ import annotations

from dataclasses import dataclass

from limpet.errors import BundleError, Fault
from limpet.files.jsonfile import decode_utf8

#: Columns of a table: the format has seventeen, a logger may bring a hundred of its own.
MOST_COLUMNS = 200
#: Cells that are looked at one by one; a plain file, read in one go, may have more.
MOST_ODD_CELLS = 6_000_000


@dataclass(frozen=True, slots=True, kw_only=True)
class Dialect:
    """`header_end` is where the first line ends in the data, -1 when it is the only one.

    A plain file can be read in one go: no quotes, ASCII throughout. `names` is empty when the
    header itself has quotes and must be read as CSV first.
    """

    delimiter: str
    names: tuple[str, ...]
    header_end: int
    plain: bool


def dialect_of(file: str, data: bytes, most_rows: int) -> Dialect:
    """Look at a file before it is read.

    Raises
    ------
    BundleError
        When it is empty, larger than any ride's, or not UTF-8.
    """
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
        message = f"has more than {MOST_COLUMNS} columns; leave out those that no ride needs"
        raise BundleError([Fault(file, 1, 0, message)])
    if b'"' in first:
        return Dialect(delimiter=",", names=(), header_end=end, plain=False)
    line = decode_utf8(file, first).rstrip("\r")
    delimiter = ";" if ";" in line and "," not in line else ","
    return Dialect(
        delimiter=delimiter,
        names=tuple(name.strip() for name in line.split(delimiter)),
        header_end=end,
        plain=data.isascii() and b'"' not in data,
    )


def text_of(file: str, data: bytes) -> str:
    """The text of a table that must be looked at cell by cell, if it is no larger than that allows.

    Raises
    ------
    BundleError
        When it is, or is not UTF-8.
    """
    cells = data.count(b",") + data.count(b";") + data.count(b"\n") + data.count(b"\r")
    if cells > MOST_ODD_CELLS:
        message = (
            f"has some {cells:,} cells, and something odd among them; over {MOST_ODD_CELLS:,} are "
            "read only from a plain table: commas, decimal points, no quotes, every row complete"
        )
        raise BundleError([Fault(file, 0, 0, message)])
    return decode_utf8(file, data)
