"""Tracks of training centres (TCX) and of maps (KML), both XML, read by a parser that expands nothing."""

from __future__ import annotations

from typing import Any

from limpet.errors import BundleError, Fault
from limpet.foreign.text import as_utf8
from limpet.foreign.track import MOST_FIXES, ReadTrack, Segment
from limpet.foreign.track_parts import Fixes, epoch_of, number_of


def _elements(file: str, data: bytes) -> Any:
    """The document's root, without namespaces in its tags.

    Raises
    ------
    BundleError
        When it is no XML, declares entities, or nests too deeply.
    """
    from defusedxml import ElementTree
    from defusedxml.common import DefusedXmlException

    text = as_utf8(data)[0]
    try:
        root = ElementTree.fromstring(text, forbid_dtd=True)
    except DefusedXmlException as cause:
        raise BundleError(
            [
                Fault(
                    file,
                    1,
                    0,
                    "declares a document type or entities; export it again as a plain track",
                )
            ]
        ) from cause
    except (ElementTree.ParseError, ValueError, LookupError, RecursionError) as cause:
        line, column = getattr(cause, "position", (0, -1))
        raise BundleError(
            [Fault(file, line, column + 1, "is no XML that can be read; export it again")]
        ) from cause
    for element in root.iter():
        if isinstance(element.tag, str):
            element.tag = element.tag.rpartition("}")[2]
    return root


def _child_text(element: Any, name: str) -> str | None:
    found = element.find(name)
    return None if found is None else found.text


def read_tcx(file: str, data: bytes) -> ReadTrack:
    """The tracks of a training file: a segment for each `Track`, times in UTC.

    References
    ----------
    Training Center Database, version 2 (schema, from memory).
    """
    segments: list[Segment] = []
    aside: set[str] = set()
    known = {"Time", "Position", "AltitudeMeters", "DistanceMeters", "Extensions", "SensorState"}
    count = 0
    for track in _elements(file, data).iter("Track"):
        fixes = Fixes()
        for point in track.findall("Trackpoint"):
            count += 1
            if count > MOST_FIXES:
                raise BundleError(
                    [Fault(file, 0, 0, f"holds over {MOST_FIXES:,} points; thin it out")]
                )
            place = point.find("Position")
            speed = next((item.text for item in point.iter("Speed")), None)
            fixes.add(
                None if place is None else number_of(_child_text(place, "LatitudeDegrees")),
                None if place is None else number_of(_child_text(place, "LongitudeDegrees")),
                number_of(_child_text(point, "AltitudeMeters")),
                epoch_of(_child_text(point, "Time")),
                number_of(speed),
            )
            aside |= {item.tag for item in point if item.tag not in known}
        if len(fixes):
            segments.append(fixes.segment())
    if not segments:
        raise BundleError(
            [Fault(file, 0, 0, "holds no track points; export the activity with its track")]
        )
    return ReadTrack(file=file, form="tcx", segments=tuple(segments), aside=tuple(sorted(aside)))


def read_kml(file: str, data: bytes) -> ReadTrack:
    """The lines of a map file: `LineString` without times, `Track` with them.

    References
    ----------
    OGC KML 2.3 (12-007r2), 10.8 LineString, 10.14 Track: longitude, latitude, height (from memory).
    """
    root = _elements(file, data)
    segments = [
        segment for track in root.iter("Track") if (segment := _kml_track(track)) is not None
    ]
    for line in root.iter("LineString"):
        fixes = Fixes()
        for text in (_child_text(line, "coordinates") or "").split()[: MOST_FIXES + 1]:
            parts = text.split(",")
            if len(parts) >= 2:
                height = number_of(parts[2]) if len(parts) > 2 else None
                # A line on a map that is drawn on the ground has heights of nought.
                fixes.add(number_of(parts[1]), number_of(parts[0]), height, None, None)
        if len(fixes):
            segments.append(fixes.segment(no_zero_heights=True))
    if not segments:
        raise BundleError(
            [Fault(file, 0, 0, "holds no line; export the track, and not its places alone")]
        )
    return ReadTrack(file=file, form="kml", segments=tuple(segments))


def _kml_track(track: Any) -> Segment | None:
    when = [epoch_of(item.text) for item in track if item.tag == "when"]
    places = [(item.text or "").split() for item in track if item.tag == "coord"]
    fixes = Fixes()
    for number, place in enumerate(places[: MOST_FIXES + 1]):
        if len(place) >= 2:
            height = number_of(place[2]) if len(place) > 2 else None
            fixes.add(
                number_of(place[1]),
                number_of(place[0]),
                height,
                when[number] if number < len(when) else None,
                None,
            )
    return fixes.segment() if len(fixes) else None
