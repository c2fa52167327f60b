"""A CSV file into columns: in one go where it is plain, cell by cell where it is not.

The plain path reads a million rows as fast as polars does. Whatever it cannot vouch for (quotes,
odd rows, words in number cells) is read again cell by cell, which is slow and says exactly where
each fault stands.
"""

from __future__ import annotations

from limpet.errors import BundleError, Fault
from limpet.files.cells import read_cells
from limpet.files.csv_table import Table
from limpet.files.dialect import dialect_of, text_of
from limpet.files.mapping import ColumnMapping
from limpet.files.plain import read_plain
from limpet.files.table_checks import check_header


def read_table(file: str, data: bytes, mapping: ColumnMapping, *, most_rows: int) -> Table:
    """Read one CSV file; what is wrong with single cells is left in the table's faults.

    Parameters
    ----------
    file : its name, for messages
    data : its bytes
    mapping : which columns are read, and as what; others are kept as words
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
    dialect = dialect_of(file, data, most_rows)
    table = None
    if dialect.names:
        check_header(file, list(dialect.names), mapping.time, mapping.timed)
        table = read_plain(file, data, dialect, mapping)
    if table is None:
        table = read_cells(file, text_of(file, data), dialect.delimiter, mapping)
    if table.height > most_rows:
        message = f"has {table.height:,} rows, at most {most_rows:,} are read; thin it out"
        raise BundleError([Fault(file, 0, 0, message)])
    return mapping.applied(table)
