"""Two recordings of one drop held against each other: by how much one clock is off, and the curves to see it on."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Final

import numpy as np
from django.contrib.auth.models import User

from limpet.errors import BundleError, Fault
from limpet.foreign.align import comparable, matched
from limpet.foreign.raw import read_raw
from limpet.foreign.rests import Span
from limpet.foreign.ride import Recorded, moment_of, part_of
from limpet.foreign.stranger import instrument_of, recorded_track
from limpet.foreign.taken import taken
from limpet.foreign.tracks import read_track
from server.imports.asked import cut_track, mapping_in
from server.imports.held import Drop
from server.wire.reader import reader_units

#: Points of a curve.
POINTS: Final = 600


def _part(found: Recorded, take: Mapping[str, Any]) -> Recorded:
    span = take.get("span")
    return found if span is None else part_of(found, Span(**span))


def recorded_part(drop: Drop, take: Mapping[str, Any], *, sample: bool) -> Recorded:
    """What a part's instrument recorded, as it is asked to be read.

    Raises
    ------
    BundleError
        When it cannot be.
    """
    part = drop.part(take["key"])
    if part.what == "track":
        data = drop.data(part)
        track = cut_track(read_track(part.name, data, part.form), take.get("cut"))
        return _part(recorded_track(track), take)
    if part.what != "table":
        raise BundleError([Fault(part.name, 0, 0, "is no log and no track")])
    mapping = mapping_in(take.get("mapping") or {})
    with drop.mapped(part) as mapped:
        read = taken(read_raw(part.name, mapped, sample=sample), mapping)
    found = Recorded(
        name=mapping.instrument or instrument_of(part.name),
        samples=read.samples,
        started_at=read.started_at,
        notices=read.notices,
    )
    return _part(found, take)


def match(owner: User, drop: Drop, asked: Mapping[str, Any]) -> dict[str, Any]:
    """How a second recording lies on a first one's clock, and the two as curves."""
    first = recorded_part(drop, asked["first"], sample=True)
    second = recorded_part(drop, asked["second"], sample=True)
    zone = asked.get("zone")
    by_clocks = None
    if first.started_at is not None and second.started_at is not None:
        apart = moment_of(second.started_at, zone) - moment_of(first.started_at, zone)
        by_clocks = apart.total_seconds()
    found = matched(first.samples, second.samples, by_clocks_s=by_clocks)
    moved = None
    if found is not None and (found.sure or by_clocks is None):
        moved = found.offset_s - (by_clocks or 0.0)
    return {
        "by_clocks_s": by_clocks,
        "offset_s": moved,
        "likeness": found.likeness if found is not None else None,
        "sure": bool(found is not None and found.sure),
        "said": found.notice.said(reader_units()) if found is not None else "",
        "curves": [_curve(first), _curve(second)],
    }


def _curve(item: Recorded) -> dict[str, Any]:
    time, speed, power = comparable(item.samples)
    rows: list[int] = []
    if len(time):
        rows = np.unique(np.linspace(0, len(time) - 1, min(POINTS, len(time))).astype(int)).tolist()

    def drawn(values: Any) -> list[float | None]:
        return (
            [None if np.isnan(values[row]) else round(float(values[row]), 3) for row in rows]
            if values is not None
            else []
        )

    return {
        "name": item.name,
        "time_s": [round(float(time[row]), 1) for row in rows],
        "speed_mps": drawn(speed),
        "power_w": drawn(power),
    }
