"""Tracks of every format that is read, each by the package that knows it."""

from __future__ import annotations

import io
import re
import zipfile
from collections.abc import Callable
from typing import Final

from limpet.errors import BundleError, Fault
from limpet.files.gpx import read_gpx
from limpet.foreign.text import as_utf8
from limpet.foreign.track import MOST_BYTES, MOST_FIXES, ReadTrack, Segment, tidied
from limpet.foreign.track_fit import read_fit
from limpet.foreign.track_geojson import read_geojson
from limpet.foreign.track_nmea import read_nmea
from limpet.foreign.track_xml import read_kml, read_tcx

_READERS: Final[dict[str, Callable[[str, bytes], ReadTrack]]] = {
    "tcx": read_tcx,
    "kml": read_kml,
    "geojson": read_geojson,
    "nmea": read_nmea,
    "fit": read_fit,
}
#: What a GPX file may hold beside places, heights and times.
_EXTENSION: Final = re.compile(rb"<extensions>(.{0,4000}?)</extensions>", re.S)
_TAG: Final = re.compile(rb"<(?:\w+:)?(\w+)[^>/]*>[^<]")


def read_track(file: str, data: bytes, form: str) -> ReadTrack:
    """The track of a file.

    Parameters
    ----------
    file : its name, for messages
    data : its bytes
    form : "gpx", "tcx", "kml", "kmz", "geojson", "nmea" or "fit"

    Raises
    ------
    BundleError
        When it is too large, damaged, or holds no track.
    """
    if len(data) > MOST_BYTES:
        text = f"has {len(data) / 2**20:.0f} MiB, more than {MOST_BYTES >> 20}; thin it out"
        raise BundleError([Fault(file, 0, 0, text)])
    if form == "kmz":
        form, data = "kml", _unpacked(file, data)
    if form == "gpx":
        return tidied(_read_gpx(file, as_utf8(data)[0]))
    return tidied(_READERS[form](file, data))


def _unpacked(file: str, data: bytes) -> bytes:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            member = archive.getinfo("doc.kml")
            if member.file_size > MOST_BYTES or member.file_size > 200 * max(len(data), 1):
                raise BundleError(
                    [Fault(file, 0, 0, "unpacks to far more than it holds; give the track itself")]
                )
            return archive.read(member)
    except BundleError:
        raise
    except Exception as cause:  # zlib.error and its kin share no base of their own
        raise BundleError([Fault(file, 0, 0, "is damaged; export the track again")]) from cause


def _read_gpx(file: str, data: bytes) -> ReadTrack:
    try:
        found = read_gpx(data)
    except BundleError as error:
        raise BundleError(
            [Fault(file, f.line, f.column, f.message) for f in error.faults]
        ) from error
    names: set[str] = set()
    for block in _EXTENSION.findall(data)[:200]:
        names |= {tag.decode("ascii", "replace") for tag in _TAG.findall(block)}
    return ReadTrack(
        file=file,
        form="gpx",
        segments=tuple(
            Segment(
                latitude_deg=part.latitude_deg,
                longitude_deg=part.longitude_deg,
                altitude_m=part.altitude_m,
                time_s=part.time_s,
            )
            for part in found
        ),
        aside=tuple(sorted(names)),
    )


__all__ = ["MOST_FIXES", "read_track"]
