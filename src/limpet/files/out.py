"""What was recorded of a test, in the formats that others read: CSV, Parquet, GPX, GeoJSON."""

from __future__ import annotations

import io
import json
from datetime import datetime, timedelta, timezone
from itertools import pairwise
from typing import TYPE_CHECKING, Any, Final

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.gaps import gap_threshold_s
from limpet.evidence.model import RangeTest
from limpet.files.gpx import read_gpx
from limpet.files.shielded import shielded_frame

if TYPE_CHECKING:
    import polars as pl

FloatArray = NDArray[np.float64]
#: Longitudes that lie further apart than this are on both sides of the line where the date changes [deg].
_ROUND_THE_WORLD: Final = 180.0


def samples_csv(test: RangeTest) -> bytes | None:
    """All samples as one table of RFC 4180, what a spreadsheet would run made harmless; None without any."""
    return (
        None if test.samples is None else shielded_frame(test.samples).write_csv().encode("utf-8")
    )


def samples_parquet(test: RangeTest) -> bytes | None:
    """The same as Parquet, texts as they are."""
    if test.samples is None:
        return None
    out = io.BytesIO()
    test.samples.write_parquet(out, compression="zstd")
    return out.getvalue()


def track_segments(test: RangeTest) -> list[pl.DataFrame]:
    """Where it was ridden: places, heights and times by segment; a break in the fixes parts them.

    Returns
    -------
    tables of `time_s` (NaN where planned), `latitude_deg`, `longitude_deg`, `altitude_m`; none without places
    """
    import polars as pl

    logged = test.log.known("latitude_deg", "longitude_deg")
    if logged is not None and len(logged[0]) > 1:
        time, latitude, longitude = logged
        height = test.column("altitude_m")
        all_times = test.column("time_s")
        heights = np.full(len(time), np.nan)
        if height is not None and all_times is not None:
            heights = height[np.searchsorted(all_times, time)]
        breaks = np.flatnonzero(np.diff(time) > gap_threshold_s(time)) + 1
        frame = pl.DataFrame(
            {
                "time_s": time,
                "latitude_deg": latitude,
                "longitude_deg": longitude,
                "altitude_m": heights,
            }
        )
        ends = [0, *breaks.tolist(), len(time)]
        return [frame[a:b] for a, b in pairwise(ends) if b - a > 0]
    if test.route_gpx is None:
        return []
    began = (
        test.started_at.timestamp()
        if test.started_at is not None and test.started_at.tzinfo
        else 0.0
    )
    found = []
    for part in read_gpx(test.route_gpx):
        time = (
            np.full(len(part.latitude_deg), np.nan) if part.time_s is None else part.time_s - began
        )
        found.append(
            pl.DataFrame(
                {
                    "time_s": time,
                    "latitude_deg": part.latitude_deg,
                    "longitude_deg": part.longitude_deg,
                    "altitude_m": part.altitude_m,
                }
            )
        )
    return found


def _moment(test: RangeTest, seconds: float) -> datetime | None:
    """When that was, in UTC; a clock without an offset is taken as UTC."""
    if test.started_at is None or np.isnan(seconds):
        return None
    began = test.started_at
    began = began if began.tzinfo is not None else began.replace(tzinfo=timezone.utc)
    return (began + timedelta(seconds=seconds)).astimezone(timezone.utc)


def track_gpx(test: RangeTest) -> bytes | None:
    """The track as GPX 1.1, a segment for each stretch without a break; None where no places were logged."""
    segments = track_segments(test)
    if not segments:
        return None
    import gpxpy.gpx as gpx

    document = gpx.GPX()
    document.creator = "Limpet"
    track = gpx.GPXTrack(name=test.sheet.title[:200])
    document.tracks.append(track)
    for frame in segments:
        segment = gpx.GPXTrackSegment()
        for time, latitude, longitude, height in frame.rows():
            segment.points.append(
                gpx.GPXTrackPoint(
                    latitude=latitude,
                    longitude=longitude,
                    elevation=None if np.isnan(height) else height,
                    time=_moment(test, time),
                )
            )
        track.segments.append(segment)
    return bytes(document.to_xml("1.1").encode("utf-8"))


def track_geojson(test: RangeTest) -> bytes | None:
    """The track as GeoJSON: a line, or several where it breaks; None where no places were logged.

    References
    ----------
    RFC 7946 (2016): positions are longitude, latitude, height (3.1.1); a line that crosses the antimeridian is
    parted there (3.1.9); WGS 84 (4).
    """
    segments = [piece for frame in track_segments(test) for piece in _parted(frame)]
    segments = [frame for frame in segments if frame.height > 1]
    if not segments:
        return None
    lines: list[list[list[float]]] = []
    times: list[list[str | None]] = []
    for frame in segments:
        line = []
        for _, latitude, longitude, height in frame.rows():
            place = [_round_the_world(longitude), round(latitude, 7)]
            line.append(place if np.isnan(height) else [*place, round(height, 2)])
        lines.append(line)
        moments = [_moment(test, time) for time in frame["time_s"]]
        times.append(
            [each.isoformat().replace("+00:00", "Z") if each else None for each in moments]
        )
    several = len(lines) > 1
    geometry: dict[str, Any] = {
        "type": "MultiLineString" if several else "LineString",
        "coordinates": lines if several else lines[0],
    }
    properties: dict[str, Any] = {"title": test.sheet.title, "vehicle": test.sheet.vehicle.name}
    if all(each is not None for part in times for each in part):
        properties["coordTimes"] = times if several else times[0]
    feature = {"type": "Feature", "properties": properties, "geometry": geometry}
    document = {"type": "FeatureCollection", "features": [feature]}
    return (json.dumps(document, ensure_ascii=False) + "\n").encode("utf-8")


def _round_the_world(longitude: float) -> float:
    return round((longitude + 180) % 360 - 180, 7)


def _parted(frame: pl.DataFrame) -> list[pl.DataFrame]:
    """A segment parted where it crosses the line at which the date changes."""
    longitude = (frame["longitude_deg"].to_numpy() + 180) % 360 - 180
    ends = [
        0,
        *(np.flatnonzero(np.abs(np.diff(longitude)) > _ROUND_THE_WORLD) + 1).tolist(),
        frame.height,
    ]
    return [frame[a:b] for a, b in pairwise(ends)]
