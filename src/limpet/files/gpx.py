"""route.gpx: read safely, its segments as tracks with times where they were ridden."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timezone
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from limpet.errors import BundleError, Fault
from limpet.files.jsonfile import decode_utf8

FILE = "route.gpx"
#: A day at ten points a second would have 860,000; more is no way that was ridden.
MOST_POINTS = 500_000

if TYPE_CHECKING:
    from gpxpy.gpx import GPXRoutePoint, GPXTrackPoint

    Point = GPXTrackPoint | GPXRoutePoint


@dataclass(frozen=True, slots=True, kw_only=True)
class GpxSegment:
    """A piece of track without a break.

    `time_s` is seconds since 1970 UTC, shape (n,), or None when a point has no time; heights are
    NaN where not known.
    """

    latitude_deg: NDArray[np.float64]
    longitude_deg: NDArray[np.float64]
    altitude_m: NDArray[np.float64]
    time_s: NDArray[np.float64] | None


def read_gpx(data: bytes) -> list[GpxSegment]:
    """The track segments of a GPX 1.1 file, in order; a route counts as one segment.

    Raises
    ------
    BundleError
        When the file is not UTF-8, not XML, declares entities, is not GPX or holds no points.
    """
    # The readers of XML are loaded with the first track: most tests have none.
    import gpxpy
    import gpxpy.gpx
    from defusedxml import ElementTree
    from defusedxml.common import DefusedXmlException

    text = decode_utf8(FILE, data)
    count = data.count(b"<trkpt") + data.count(b"<rtept")
    if count > MOST_POINTS:
        message = f"holds {count:,} points, at most {MOST_POINTS:,} are read; thin it out"
        raise BundleError([Fault(FILE, 0, 0, message)])
    _refuse_other_encoding(text)
    try:
        # The text is UTF-8 by now, whatever the declaration would make of its bytes.
        ElementTree.fromstring(text.encode("utf-8"), forbid_dtd=True)
    except DefusedXmlException as cause:
        found = re.search(r"<!(DOCTYPE|ENTITY)", text)
        line = text.count("\n", 0, found.start()) + 1 if found else 0
        raise BundleError(
            [
                Fault(
                    FILE,
                    line,
                    0,
                    "declares a document type or entities; export it again as plain GPX",
                )
            ]
        ) from cause
    except RecursionError as cause:
        raise BundleError([Fault(FILE, 0, 0, "is nested too deeply to be a track")]) from cause
    except ElementTree.ParseError as cause:
        line, column = cause.position
        raise BundleError([Fault(FILE, line, column + 1, f"not XML: {cause.msg}")]) from cause
    try:
        document = gpxpy.parse(text)
    except (gpxpy.gpx.GPXException, ValueError, OverflowError, LookupError) as cause:
        raise BundleError([Fault(FILE, 0, 0, f"not GPX 1.1: {cause}")]) from cause
    pieces: list[Sequence[Point]] = [
        segment.points for track in document.tracks for segment in track.segments
    ]
    pieces += [route.points for route in document.routes]
    segments = [_segment(points) for points in pieces if points]
    if not segments:
        raise BundleError([Fault(FILE, 0, 0, "holds no track and no route; export a track")])
    faults = [fault for segment in segments for fault in _place_faults(segment)]
    if faults:
        raise BundleError(faults)
    return segments


def _refuse_other_encoding(text: str) -> None:
    """A declaration of another encoding than the bytes have would be believed by the parser."""
    declared = re.match(r"\s*<\?xml[^>]{0,200}?encoding\s*=\s*[\"']([^\"']{1,40})[\"']", text[:300])
    if declared is not None and declared.group(1).lower() not in ("utf-8", "utf8", "us-ascii"):
        message = f"declares the encoding {declared.group(1)}; save it as UTF-8"
        raise BundleError([Fault(FILE, 1, 0, message)])


def _place_faults(segment: GpxSegment) -> list[Fault]:
    """The first place of a segment that is not on Earth, and the first height that is no number."""
    off = ~(np.abs(segment.latitude_deg) <= 90) | ~(np.abs(segment.longitude_deg) <= 360)
    faults = []
    if off.any():
        row = int(np.argmax(off))
        place = f"{segment.latitude_deg[row]:g}, {segment.longitude_deg[row]:g}"
        faults.append(
            Fault(
                FILE, 0, 0, f"point {row + 1} of a segment is at {place}; expected degrees on Earth"
            )
        )
    if np.isinf(segment.altitude_m).any():
        faults.append(Fault(FILE, 0, 0, "a height is infinite; leave it out where not known"))
    return faults


def _segment(points: Sequence[Point]) -> GpxSegment:
    times = [point.time for point in points]
    known = all(time is not None for time in times)
    return GpxSegment(
        latitude_deg=np.array([point.latitude for point in points]),
        longitude_deg=np.array([point.longitude for point in points]),
        # A height of 0 m is a height: only None is "not known".
        altitude_m=np.array([np.nan if p.elevation is None else p.elevation for p in points]),
        time_s=np.array([_epoch_s(time) for time in times if time is not None]) if known else None,
    )


_EPOCH = datetime(1970, 1, 1, tzinfo=timezone.utc)


def _epoch_s(time: datetime) -> float:
    aware = time if time.tzinfo is not None else time.replace(tzinfo=timezone.utc)
    # Years 1 and 9999 with an offset lie outside what a clock can hold; they are no time of a ride.
    return (aware - _EPOCH).total_seconds()
