"""What a file is: told from what it holds, and from its name only where that says nothing."""

from __future__ import annotations

import io
import re
import zipfile
from dataclasses import dataclass
from typing import Final, Literal

from limpet.foreign.text import as_utf8

What = Literal["table", "workbook", "track", "bundle", "picture", "several", "packed", "unknown"]
#: Bytes at the beginning that tell what a file is.
HEAD_BYTES: Final = 64 * 1024


@dataclass(frozen=True, slots=True, kw_only=True)
class Told:
    """What a file is; `form` is its format, such as "gpx", or what an unknown one looks like."""

    what: What
    form: str


_XML: Final = (
    (re.compile(rb"<(?:\w+:)?gpx[\s>]"), "gpx"),
    (re.compile(rb"<(?:\w+:)?TrainingCenterDatabase[\s>]"), "tcx"),
    (re.compile(rb"<(?:\w+:)?kml[\s>]"), "kml"),
)
_PICTURES: Final = (
    (b"\xff\xd8\xff", "jpeg"),
    (b"\x89PNG\r\n", "png"),
    (b"GIF8", "gif"),
    (b"BM", "bmp"),
)
#: Files that riders try and that hold no readings, by how they begin.
_OTHERS: Final = (
    (b"%PDF", "pdf"),
    (b"\xd0\xcf\x11\xe0", "old_workbook"),
    (b"PAR1", "parquet"),
    (b"SQLite format 3", "database"),
    (b"Rar!", "rar"),
    (b"7z\xbc\xaf", "7z"),
    (b"\x7fELF", "program"),
    (b"MZ", "program"),
)
_NMEA: Final = re.compile(rb"^\s*(?:[\d.:, T-]{0,30}\s*)?\$[A-Z]{2}[A-Z]{3},", re.M)
_MEMBERS: Final = {
    "xl/workbook.xml": Told(what="workbook", form="xlsx"),
    "doc.kml": Told(what="track", form="kmz"),
}


def told(name: str, data: bytes) -> Told:
    """What a file is.

    Parameters
    ----------
    name : as it was dropped
    data : all of it; of a text, its beginning will do
    """
    if not data.strip(b"\0 \r\n\t"):
        return Told(what="unknown", form="empty")
    if data.startswith((b"PK\x03\x04", b"PK\x05\x06")):
        return _of_zip(data)
    if data.startswith(b"\x1f\x8b"):
        return Told(what="packed", form="gz")
    if data[8:12] == b".FIT" and data[0] in (12, 14):
        return Told(what="track", form="fit")
    if data[4:8] == b"ftyp":
        brand = data[8:12]
        return (
            Told(what="picture", form="heic")
            if brand in (b"heic", b"heix", b"mif1")
            else Told(what="unknown", form="film")
        )
    for start, form in _PICTURES:
        if data.startswith(start):
            return Told(what="picture", form=form)
    for start, form in _OTHERS:
        if data.startswith(start):
            return Told(what="unknown", form=form)
    return _of_text(name, as_utf8(data[:HEAD_BYTES])[0])


def _of_zip(data: bytes) -> Told:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            members = archive.namelist()[:2000]
            kind = archive.read("mimetype")[:80] if "mimetype" in members else b""
    except Exception:  # whatever bytes do to it, it is no zip that can be opened
        return Told(what="unknown", form="damaged_zip")
    for member, found in _MEMBERS.items():
        if member in members:
            return found
    if kind.startswith(b"application/vnd.oasis.opendocument.spreadsheet"):
        return Told(what="workbook", form="ods")
    if "account.json" in members:
        return Told(what="bundle", form="account")
    if any(member.rsplit("/", 1)[-1] == "test.json" for member in members):
        return Told(what="bundle", form="zip")
    return Told(what="several", form="zip")


def _of_text(name: str, text: bytes) -> Told:
    ends = name.lower().rsplit(".", 1)[-1]
    if name.lower() in ("test.json", "entries.csv", "samples.csv", "datapackage.json"):
        return Told(what="bundle", form="file")
    start = text.lstrip()[:1]
    if start == b"<":
        for pattern, form in _XML:
            if pattern.search(text[:8192]):
                return Told(what="track", form=form)
        return Told(what="unknown", form="page" if b"<html" in text[:4096].lower() else "xml")
    if start in (b"{", b"["):
        if b'"FeatureCollection"' in text or b'"Feature"' in text or b'"LineString"' in text:
            return Told(what="track", form="geojson")
        if b'"bundle"' in text and b'"vehicle"' in text:
            return Told(what="bundle", form="file")
        return Told(what="unknown", form="json")
    if _NMEA.search(text[:4096]) and text.count(b"\n$") + text.startswith(b"$") >= 1:
        return Told(what="track", form="nmea")
    if _is_binary(text):
        return Told(what="unknown", form="binary")
    if ends in ("jpg", "jpeg", "png"):
        return Told(what="unknown", form="binary")
    return Told(what="table", form="tsv" if text.count(b"\t") > text.count(b",") else "csv")


def _is_binary(text: bytes) -> bool:
    odd = sum(text[:4096].count(byte) for byte in (*range(9), *range(14, 32)))
    return odd > 0.02 * len(text[:4096])
