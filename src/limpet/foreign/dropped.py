"""What somebody drops on Limpet, opened: tables, tracks, bundles and pictures out of files, zips and workbooks."""

from __future__ import annotations

import gzip
import io
import zipfile
import zlib
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

from limpet.errors import BundleError, Fault
from limpet.files.archive import MAX_RATIO, MAX_UNPACKED_BYTES
from limpet.foreign.kinds import HEAD_BYTES, Told, told
from limpet.foreign.workbook import sheets_of

#: Parts that are taken at once, and how deep a packed file may lie in another.
MOST_PARTS, _DEEPEST = 200, 3
#: What an unknown file looks like, and what to do about it.
_UNKNOWN: Final = {
    "empty": "is empty",
    "pdf": "is a document (PDF); export the ride itself, as CSV or GPX",
    "old_workbook": "is a workbook of an old kind (.xls); save it as .xlsx, .ods or CSV",
    "parquet": "is a Parquet file; save it as CSV",
    "database": "is a database; export the ride from the app that it belongs to",
    "rar": "is a RAR archive; unpack it, or zip it",
    "7z": "is a 7z archive; unpack it, or zip it",
    "program": "is a program; give the log that it writes",
    "film": "is a film; take pictures of the display, or note its readings",
    "page": "is a web page; export the ride itself, as CSV or GPX",
    "xml": "is XML of a kind that is not read; export the track as GPX",
    "json": "is JSON of a kind that is not read; export the ride as CSV, GPX or GeoJSON",
    "damaged_zip": "is a damaged zip; zip it again",
    "binary": "is in a maker’s own format; export it as CSV",
    "heic": "is a picture of a kind that is not read; save it as JPEG",
    "png": "is a picture (PNG); save it as JPEG to keep it with an entry",
    "gif": "is a picture (GIF); save it as JPEG to keep it with an entry",
    "bmp": "is a picture (BMP); save it as JPEG to keep it with an entry",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Dropped:
    """One thing that a file held: a sheet of a workbook is a table of its own, as text."""

    name: str
    told: Told
    data: bytes
    fault: Fault | None = None


def opened(files: Mapping[str, bytes]) -> list[Dropped]:
    """All that files hold, each told for what it is; what cannot be used brings its fault.

    Parameters
    ----------
    files : bytes by name

    Raises
    ------
    BundleError
        When an archive is a bomb, or there are more than 200 parts.

    Notes
    -----
    The files of a bundle stay together as they came: whoever reads bundles takes them.
    """
    found: list[Dropped] = []
    for name, data in files.items():
        found += _opened(name, data, 0)
        if len(found) > MOST_PARTS:
            raise BundleError(
                [Fault(name, 0, 0, f"holds over {MOST_PARTS} parts; give fewer at once")]
            )
    return found


def _opened(name: str, data: bytes, depth: int) -> list[Dropped]:
    found = told(name, data if data[:2] == b"PK" else data[:HEAD_BYTES])
    if found.what == "packed":
        return (
            _opened(name.removesuffix(".gz"), _unpacked(name, data), depth + 1)
            if depth < _DEEPEST
            else [_refused(name, found, data, "is packed too deep")]
        )
    if found.what == "several":
        return _members(name, data, depth)
    if found.what == "workbook":
        try:
            sheets = sheets_of(name, data, found.form)
        except BundleError as error:
            return [Dropped(name=name, told=found, data=b"", fault=error.faults[0])]
        table = Told(what="table", form=found.form)
        several = len(sheets) > 1
        return [
            Dropped(name=f"{name}: {sheet}" if several else name, told=table, data=text)
            for sheet, text in sheets
        ]
    if found.what == "unknown" or (found.what == "picture" and found.form != "jpeg"):
        return [
            _refused(name, found, b"", _UNKNOWN.get(found.form, "is of a kind that is not read"))
        ]
    return [Dropped(name=name, told=found, data=data)]


def _refused(name: str, found: Told, data: bytes, why: str) -> Dropped:
    return Dropped(
        name=name,
        told=Told(what="unknown", form=found.form),
        data=data,
        fault=Fault(name, 0, 0, why),
    )


def _unpacked(name: str, data: bytes) -> bytes:
    most = min(MAX_UNPACKED_BYTES, MAX_RATIO * len(data))
    try:
        with gzip.GzipFile(fileobj=io.BytesIO(data)) as packed:
            found = packed.read(most + 1)
    except (OSError, EOFError, zlib.error) as cause:
        raise BundleError(
            [Fault(name, 0, 0, "is damaged, so it can’t be unpacked; pack it again")]
        ) from cause
    if len(found) > most:
        raise BundleError(
            [Fault(name, 0, 0, "unpacks to far more than it holds; unpack it and give the log")]
        )
    return found


def _members(name: str, data: bytes, depth: int) -> list[Dropped]:
    if depth >= _DEEPEST:
        return [_refused(name, Told(what="unknown", form="zip"), b"", "is packed too deep")]
    found: list[Dropped] = []
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            members = [item for item in archive.infolist() if not item.filename.endswith("/")]
            unpacked = sum(member.file_size for member in members)
            if (
                len(members) > MOST_PARTS
                or unpacked > MAX_UNPACKED_BYTES
                or unpacked > MAX_RATIO * len(data)
            ):
                raise BundleError(
                    [
                        Fault(
                            name,
                            0,
                            0,
                            "unpacks to far more than it holds, or has over 200 files; give fewer at once",
                        )
                    ]
                )
            for member in members:
                inner = member.filename.replace("\\", "/").rsplit("/", 1)[-1]
                # What a computer puts beside files of its own accord.
                if not inner or inner.startswith(".") or member.filename.startswith("__MACOSX"):
                    continue
                if member.flag_bits & 1:
                    found.append(
                        _refused(
                            inner,
                            Told(what="unknown", form="zip"),
                            b"",
                            "has a password; zip it without one",
                        )
                    )
                    continue
                with archive.open(member) as part:
                    held = part.read(member.file_size + 1)
                if len(held) > member.file_size:
                    raise BundleError(
                        [Fault(name, 0, 0, f"{inner} is longer than it says; zip it again")]
                    )
                found += _opened(inner, held, depth + 1)
                if len(found) > MOST_PARTS:
                    raise BundleError(
                        [Fault(name, 0, 0, f"holds over {MOST_PARTS} parts; give fewer at once")]
                    )
    except BundleError:
        raise
    except Exception as cause:  # zlib.error and its kin share no base of their own
        raise BundleError([Fault(name, 0, 0, "is damaged; zip it again")]) from cause
    return found or [_refused(name, Told(what="unknown", form="zip"), b"", "holds no files")]
