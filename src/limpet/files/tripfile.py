"""TRIP.json, CLAIM.json and CELL.json: read whole, or refused with every fault in its place."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path as FilePath
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray
from pydantic import TypeAdapter

from limpet.errors import BundleError, Fault, OutOfRangeError
from limpet.files.document import leaves, read_document
from limpet.files.gpx import GpxSegment, read_gpx
from limpet.files.jsonfile import Path
from limpet.notices import Notice
from limpet.pack import pack_faults
from limpet.road import Route, Surface, Track, loop, route_faults, track_of
from limpet.trip import Trip

T = TypeVar("T")
FloatArray = NDArray[np.float64]

#: A trip longer than this is a slip of units [m] (assumption: half round the Earth).
LONGEST_M = 20_000_000.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadTrip:
    """A trip, its route ready to ride, and what there is to say about the file."""

    trip: Trip
    route: Route
    notices: tuple[Notice, ...]


_adapters: dict[type, TypeAdapter[Any]] = {}


def adapter_of(kind: type[T]) -> TypeAdapter[T]:
    """Pydantic's reader of a dataclass; one each, because building it takes milliseconds."""
    if kind not in _adapters:
        _adapters[kind] = TypeAdapter(kind)
    return _adapters[kind]


def read_trip(path: FilePath) -> ReadTrip:
    """A trip file, with the GPX file beside it when it names one.

    Raises
    ------
    BundleError
        With every fault, each with file, line and column.
    """
    trip, notices = read_file(path, Trip, trip_faults)
    track = None
    if trip.route.gpx is not None:
        beside = path.parent / trip.route.gpx
        if beside.name != trip.route.gpx:
            raise BundleError(
                [Fault(path.name, 0, 0, "route.gpx must name a file beside the trip file")]
            )
        track, found = track_from_gpx(_bytes_of(beside), beside.name, trip.route.surface)
        notices += found
    return ReadTrip(trip=trip, route=route_of(trip, track), notices=tuple(notices))


def read_file(
    path: FilePath, kind: type[T], check: Callable[[T], list[tuple[Path, str]]]
) -> tuple[T, list[Notice]]:
    """A JSON file as one of the core's values, and a notice of the keys it does not know.

    Parameters
    ----------
    path : of the file
    kind : the dataclass that it holds
    check : what no single field shows; (path, fault) each
    """
    value, extra = read_document(path.name, _bytes_of(path), adapter_of(kind), kind, check)
    parts = frozenset(kind.__annotations__)
    notices = []
    if extra:
        names = ", ".join(sorted(leaves(extra, parts)))
        notices.append(Notice("unknown_fields", file=path.name, names=names))
    return value, notices


def _bytes_of(path: FilePath) -> bytes:
    try:
        return path.read_bytes()
    except OSError as cause:
        reason = "there is no such file" if isinstance(cause, FileNotFoundError) else cause.strerror
        raise BundleError([Fault(path.name, 0, 0, f"cannot be read: {reason}")]) from cause


def trip_faults(trip: Trip) -> list[tuple[Path, str]]:
    """What no single field of a trip can show."""
    found: list[tuple[Path, str]] = [
        (("pack", name), message) for name, message in pack_faults(trip.pack.label)
    ]
    route = trip.route
    given = [name for name in ("legs", "loop", "gpx") if getattr(route, name) is not None]
    if len(given) != 1:
        what = "none of them" if not given else " and ".join(given)
        found.append((("route",), f"must hold legs, loop or gpx, one of them; it has {what}"))
    if route.legs is not None:
        for number, message in route_faults(route.legs):
            place: Path = ("route", "legs") if number < 0 else ("route", "legs", number)
            found.append((place, message))
    if route.loop is not None:
        try:
            route_of(trip)
        except OutOfRangeError as fault:
            found.append((("route", "loop"), str(fault).removeprefix("leg 1 ")))
    if route.laps is not None and route.loop is None:
        found.append((("route", "laps"), "is for a loop; give legs as often as they are ridden"))
    length = sum(leg.length_m for leg in route.legs or ()) + (
        route.loop.length_m * (route.laps or 1) if route.loop is not None else 0
    )
    if length > LONGEST_M:
        found.append((("route",), f"is {length / 1000:.0f} km long; check metres against km"))
    if trip.packs.use == "single" and trip.packs.count > 1:
        found.append(
            (("packs", "use"), "is single with several packs; say in_sequence or in_parallel")
        )
    return found


def route_of(trip: Trip, track: Track | None = None) -> Route:
    """The route of a trip as it is ridden once: one lap, or all legs and the way back.

    Raises
    ------
    OutOfRangeError
        For legs that no road has; `trip_faults` finds them first.
    """
    spec = trip.route
    if spec.loop is not None:
        return loop(
            spec.loop.length_m,
            climb_m=spec.loop.climb_m,
            descent_m=spec.loop.descent_m,
            surface=spec.loop.surface,
            stops=spec.loop.stops,
        )
    route = track.route if track is not None else Route(legs=spec.legs or ())
    return route.and_back() if spec.and_back else route


def track_from_gpx(data: bytes, name: str, surface: Surface) -> tuple[Track, list[Notice]]:
    """A GPX file as a route: its segments joined in order.

    Parameters
    ----------
    data : the file
    name : by which faults name it
    surface : of the whole track

    Raises
    ------
    BundleError
        When the file is not a GPX track, or is no route that can be ridden.
    """
    segments = read_gpx(data)
    try:
        track = track_of(*_joined(segments), surface=surface)
    except OutOfRangeError as cause:
        raise BundleError([Fault(name, 0, 0, str(cause))]) from cause
    notices = []
    if not track.has_heights:
        notices.append(Notice("no_heights", file=name))
    elif track.heights_filled > 0:
        notices.append(Notice("heights_filled", file=name, share=track.heights_filled))
    return track, notices


def _joined(segments: list[GpxSegment]) -> tuple[FloatArray, FloatArray, FloatArray]:
    latitude, longitude, altitude = (
        np.concatenate([getattr(segment, name) for segment in segments])
        for name in ("latitude_deg", "longitude_deg", "altitude_m")
    )
    return latitude, longitude, altitude
