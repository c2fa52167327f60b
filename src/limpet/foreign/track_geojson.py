"""Lines of GeoJSON: longitude, latitude, height; times where a feature brings them."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Final

from limpet.errors import BundleError, Fault
from limpet.files.jsonfile import parse_json
from limpet.foreign.text import as_utf8
from limpet.foreign.track import MOST_FIXES, ReadTrack, Segment
from limpet.foreign.track_parts import Fixes, epoch_of, number_of

#: What times are called among a feature's properties (common practice, no source).
_TIMES: Final = ("coordTimes", "coordinateTimes", "times", "time_s", "time")


def read_geojson(file: str, data: bytes) -> ReadTrack:
    """The lines of a GeoJSON file.

    References
    ----------
    RFC 7946 (2016): 3.1.1 (positions are longitude, latitude, height), 3.1.4 and 3.1.5 (lines).
    """
    document, _ = parse_json(file, as_utf8(data)[0])
    segments: list[Segment] = []
    aside: set[str] = set()
    count = 0
    for geometry, properties in _geometries(document, 0):
        lines = geometry.get("coordinates")
        if not isinstance(lines, list):
            continue
        several = geometry.get("type") == "MultiLineString"
        times = next(
            (properties[name] for name in _TIMES if isinstance(properties.get(name), list)), None
        )
        aside |= {name for name in properties if name not in _TIMES}
        for number, line in enumerate(lines if several else [lines]):
            own = (
                times[number]
                if several and times and number < len(times) and isinstance(times[number], list)
                else times
            )
            fixes = Fixes()
            for row, place in enumerate(line if isinstance(line, list) else []):
                count += 1
                if count > MOST_FIXES:
                    raise BundleError(
                        [Fault(file, 0, 0, f"holds over {MOST_FIXES:,} points; thin it out")]
                    )
                if isinstance(place, list) and len(place) >= 2:
                    fixes.add(
                        number_of(place[1]),
                        number_of(place[0]),
                        number_of(place[2]) if len(place) > 2 else None,
                        _time_of(own[row]) if own is not None and row < len(own) else None,
                        None,
                    )
            if len(fixes):
                segments.append(fixes.segment())
    if not segments:
        raise BundleError([Fault(file, 0, 0, "holds no line; export the track as a LineString")])
    return ReadTrack(
        file=file,
        form="geojson",
        segments=tuple(segments),
        aside=tuple(sorted(str(name)[:60] for name in aside)),
    )


def _time_of(value: Any) -> float | None:
    if isinstance(value, str):
        return epoch_of(value)
    seconds = number_of(value)
    return seconds / 1000 if seconds is not None and seconds > 1e11 else seconds


def _geometries(
    value: Any, depth: int, properties: dict[str, Any] | None = None
) -> Iterator[tuple[dict[str, Any], dict[str, Any]]]:
    """Every line of a document, with what is said of it."""
    if not isinstance(value, dict) or depth > 6:
        return
    kind = value.get("type")
    if kind == "FeatureCollection":
        for feature in value.get("features") or []:
            yield from _geometries(feature, depth + 1)
    elif kind == "Feature":
        said = value.get("properties")
        yield from _geometries(
            value.get("geometry"), depth + 1, said if isinstance(said, dict) else {}
        )
    elif kind == "GeometryCollection":
        for geometry in value.get("geometries") or []:
            yield from _geometries(geometry, depth + 1, properties)
    elif kind in ("LineString", "MultiLineString"):
        yield value, properties or {}
