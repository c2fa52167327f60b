"""Traces of a test, drawn from its chunks against the way that its result knows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

import numpy as np

from limpet.evidence.streams import joined
from limpet.figures.traces import CHANNELS, USUAL, Traces, columns_for, traces_of
from limpet.read.line import Line
from server.logbook.models import RangeTest
from server.logbook.rows import core_streams
from server.results.services import detail_of
from server.wire.problems import FieldError


def traces(
    test: RangeTest, from_s: float | None, to_s: float | None, channels: Sequence[str] = ()
) -> dict[str, Any] | None:
    """Binned traces of a test or a part of it; None without samples. Nothing is analysed for them.

    Raises
    ------
    FieldError
        For a channel that there is not.
    """
    strange = [name for name in channels if name not in CHANNELS]
    if strange:
        raise FieldError({"channels": f"has no {strange[0]}; there are {', '.join(CHANNELS)}"})
    wanted = channels or USUAL
    recorded: set[str] = set()
    columns = columns_for(wanted)
    samples = joined(core_streams(test, from_s, to_s, columns=columns, recorded=recorded))
    if samples is None:
        return None
    found = traces_of(samples, _way(test), from_s, to_s, channels=wanted, recorded=sorted(recorded))
    return _plain(found) if found is not None else None


def _plain(found: Traces) -> dict[str, Any]:
    """Traces as JSON has them. `asdict` would copy each of ten thousand numbers."""
    return {
        "time_s": found.time_s,
        "distance_m": found.distance_m,
        "channels": [
            {"name": c.name, "unit": c.unit, "low": c.low, "mean": c.mean, "high": c.high}
            for c in found.channels
        ],
        "available": found.available,
        "stretch": asdict(found.stretch),
    }


def _way(test: RangeTest) -> Line | None:
    """The distance over time, from the last result of whatever version; None where it had none."""
    kept = getattr(test, "kept_result", None)
    way: Any = detail_of(kept).get("way") if kept is not None else None
    try:
        time = np.array(way["time_s"], dtype=np.float64)
        metres = np.array(way["distance_m"], dtype=np.float64)
    except (TypeError, KeyError, ValueError):
        return None
    if time.ndim != 1 or time.shape != metres.shape or len(time) < 2:
        return None
    return Line(time_s=time, total=metres)
