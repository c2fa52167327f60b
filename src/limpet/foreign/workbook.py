"""Sheets of a workbook as text, looked at for tricks before a cell of it is read."""

from __future__ import annotations

import io
import re
import zipfile
from typing import Final

from limpet.errors import BundleError, Fault
from limpet.files.archive import MAX_RATIO
from limpet.foreign.layout import MOST_COLUMNS

#: What a workbook may hold, packed and unpacked, and the cells of one sheet.
MOST_PACKED, MOST_UNPACKED = 64 * 2**20, 512 * 2**20
MOST_ROWS, MOST_CELLS = 1_048_576, 16_000_000
_MOST_SHEETS, _MOST_MEMBERS = 50, 2000
_CELL: Final = re.compile(rb'<c\b[^>]{0,200}?\br="([A-Z]{1,3})(\d{1,8})"')
_REPEATED: Final = re.compile(rb'number-columns-repeated="(\d+)"[^>]{0,300}?(/?)>')
_ROWS_REPEATED: Final = re.compile(rb'number-rows-repeated="(\d+)"')


def sheets_of(file: str, data: bytes, form: str) -> list[tuple[str, bytes]]:
    """The sheets of a workbook that hold anything, as text with tabs, in their order.

    Parameters
    ----------
    file : its name, for messages
    data : the workbook
    form : "xlsx" or "ods"

    Returns
    -------
    (name of the sheet, its rows as UTF-8 text: a tab between cells, a line a row)

    Raises
    ------
    BundleError
        When it is damaged, too large, packed too tightly, wider than any log, or asks for other files.

    Notes
    -----
    Formulas are not run: what a cell showed when it was saved is read.
    """
    _refuse_tricks(file, data)
    import fastexcel

    try:
        book = fastexcel.read_excel(data)
        names = book.sheet_names[:_MOST_SHEETS]
        found = []
        for name in names:
            sheet = book.load_sheet(name, header_row=None, dtypes="string", skip_rows=0)
            if sheet.width == 0 or sheet.height == 0:
                continue
            if sheet.width > MOST_COLUMNS or sheet.width * sheet.height > MOST_CELLS:
                raise BundleError([_too_wide(file, name, sheet.width, sheet.height)])
            found.append((name, sheet.to_polars()))
    except BundleError:
        raise
    except Exception as cause:  # whatever bytes do to the reader, they are no workbook
        text = "cannot be read as a workbook; save it again, or save its sheet as CSV"
        raise BundleError([Fault(file, 0, 0, text)]) from cause
    texts = []
    for name, frame in found:
        import polars as pl

        frame = frame.with_columns(pl.all().str.replace_all(r"[\t\r\n\"]+", " ").fill_null(""))
        frame = frame.filter(pl.any_horizontal(pl.all() != ""))
        if frame.height:
            texts.append(
                (
                    name,
                    frame.write_csv(
                        separator="\t", include_header=False, quote_style="never"
                    ).encode(),
                )
            )
    if not texts:
        raise BundleError([Fault(file, 0, 0, "holds no cells; fill a sheet first")])
    return texts


def _refuse_tricks(file: str, data: bytes) -> None:
    """Refuse what would take more than any log does, before it is unpacked."""

    def refuse(message: str) -> BundleError:
        return BundleError([Fault(file, 0, 0, message)])

    if len(data) > MOST_PACKED:
        raise refuse(
            f"has {len(data) / 2**20:.0f} MiB, more than {MOST_PACKED >> 20}; save its sheet as CSV"
        )
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            members = archive.infolist()
            if len(members) > _MOST_MEMBERS:
                raise refuse("holds more parts than a workbook has; save it again")
            unpacked = sum(member.file_size for member in members)
            if unpacked > MOST_UNPACKED or unpacked > MAX_RATIO * len(data):
                raise refuse("unpacks to far more than it holds; save its sheet as CSV")
            for member in members:
                if member.flag_bits & 1:
                    raise refuse("has a password; save it without one")
                name = member.filename
                if name.startswith("xl/externalLinks/") or name.endswith("vbaProject.bin"):
                    raise refuse("asks for other files or runs a program; save its sheet as CSV")
                if name.startswith("xl/worksheets/") and name.endswith(".xml"):
                    _refuse_wide_xlsx(file, _part(archive, member))
                elif name == "content.xml":
                    _refuse_wide_ods(file, _part(archive, member))
    except BundleError:
        raise
    except Exception as cause:  # a zip that is none, or whose parts cannot be unpacked
        raise refuse("is a damaged workbook; save it again") from cause


def _part(archive: zipfile.ZipFile, member: zipfile.ZipInfo) -> bytes:
    """A part, unpacked no further than it said."""
    with archive.open(member) as opened:
        data = opened.read(member.file_size + 1)
    if len(data) > member.file_size:
        raise zipfile.BadZipFile("a part is longer than it says")
    return data


def _refuse_wide_xlsx(file: str, xml: bytes) -> None:
    if b"<!DOCTYPE" in xml[:2000] or b"<!ENTITY" in xml[:20000]:
        raise BundleError([Fault(file, 0, 0, "declares entities; save it again as a workbook")])
    widest = deepest = 0
    for column, row in _CELL.findall(xml):
        number = 0
        for letter in column:
            number = number * 26 + letter - 64
        widest, deepest = max(widest, number), max(deepest, int(row))
    if widest > MOST_COLUMNS or widest * deepest > MOST_CELLS:
        raise BundleError([_too_wide(file, "a sheet", widest, deepest)])


def _refuse_wide_ods(file: str, xml: bytes) -> None:
    if b"<!DOCTYPE" in xml[:2000] or b"<!ENTITY" in xml[:20000]:
        raise BundleError([Fault(file, 0, 0, "declares entities; save it again as a workbook")])
    # Empty cells are repeated to the edge of every sheet; filled ones to no log's.
    for count, alone in _REPEATED.findall(xml):
        if not alone and int(count) > MOST_COLUMNS:
            raise BundleError([_too_wide(file, "a sheet", int(count), 1)])
    rows = sum(int(count) for count in _ROWS_REPEATED.findall(xml) if int(count) < MOST_ROWS // 2)
    if rows > 2 * MOST_ROWS:
        raise BundleError([_too_wide(file, "a sheet", 1, rows)])


def _too_wide(file: str, name: str, columns: int, rows: int) -> Fault:
    return Fault(
        file,
        0,
        0,
        f"{name} has {columns:,} columns and {rows:,} rows; at most {MOST_COLUMNS} columns and "
        f"{MOST_CELLS:,} cells are read: leave out what no ride needs",
    )
