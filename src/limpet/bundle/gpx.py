"""route.gpx: read safely, its segments as tracks with times where they were ridden."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timezone

import gpxpy
import gpxpy.gpx
import numpy as np
from defusedxml import ElementTree
from defusedxml.common import DefusedXmlException
from numpy.typing import NDArray

from limpet.bundle.jsonfile import decode_utf8
from limpet.errors import BundleError, Fault

FILE = "route.gpx"

Point = gpxpy.gpx.GPXTrackPoint | gpxpy.gpx.GPXRoutePoint


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
    text = decode_utf8(FILE, data)
    try:
        ElementTree.fromstring(data, forbid_dtd=True)
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
    except ElementTree.ParseError as cause:
        line, column = cause.position
        raise BundleError([Fault(FILE, line, column + 1, f"not XML: {cause.msg}")]) from cause
    try:
        document = gpxpy.parse(text)
    except (gpxpy.gpx.GPXException, ValueError) as cause:
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


def _epoch_s(time: datetime) -> float:
    aware = time if time.tzinfo is not None else time.replace(tzinfo=timezone.utc)
    return aware.timestamp()
