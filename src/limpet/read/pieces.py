"""Pieces of the way that riders tell apart: pushed, which took nothing, and missed by the tracker."""

from __future__ import annotations

from dataclasses import replace
from math import hypot

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.notices.remarks import remark
from limpet.quantity import Quantity
from limpet.read.line import Estimate, Line
from limpet.read.window import RideWindow

FloatArray = NDArray[np.float64]

#: A piece that a rider names is good to this, relative (assumption).
NAMED_STD = 0.2


def with_pieces(test: RangeTest, ride: RideWindow, found: list[Estimate]) -> list[Estimate]:
    """Distances less what was pushed, and a track with what it missed.

    Notes
    -----
    Each piece lies between the entry that names it and the one before. No distance falls below nothing.
    """
    pushed = _running(test, ride, "walked_m")
    missed = _running(test, ride, "untracked_m")
    if pushed is None and missed is None:
        return found
    return [_one(item, pushed, missed if item.method == "gps" else None) for item in found]


def _one(item: Estimate, pushed: Line | None, missed: Line | None) -> Estimate:
    pieces = [(line, sign) for line, sign in ((pushed, -1.0), (missed, 1.0)) if line is not None]
    if not pieces:
        return item
    times = np.unique(np.concatenate([item.line.time_s, *(line.time_s for line, _ in pieces)]))
    times = times[(times >= item.line.time_s[0]) & (times <= item.line.time_s[-1])]
    total = item.line.at(times)
    for line, sign in pieces:
        total = total + sign * (line.at(times) - line.at(times[:1]))
    total = np.maximum.accumulate(np.maximum(total, 0.0))
    line = Line(time_s=times, total=total - total[0])
    named = [float(piece.between(times[0], times[-1])) for piece, _ in pieces]
    more = NAMED_STD * hypot(*named)
    std = hypot(item.quantity.standard_uncertainty, more)
    return replace(
        item,
        line=line,
        quantity=Quantity.of(line.span, item.quantity.unit, std),
        other_std=hypot(item.other_std, more),
        filled=item.filled + line.span - item.line.span,
        remarks=(*item.remarks, remark("pieces")),
    )


def _running(test: RangeTest, ride: RideWindow, name: str) -> Line | None:
    """What was named up to each entry, running up from the entry before it; None of nothing."""
    entries = [item for item in test.entries if item.time_s <= ride.end_s + 1e-6]
    named = [getattr(item, name) or 0.0 for item in entries]
    if not any(named):
        return None
    times = np.array([ride.start_s, *(item.time_s for item in entries)])
    return Line(time_s=times, total=np.concatenate([[0.0], np.cumsum(named)]))
