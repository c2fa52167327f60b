"""What the display promised, and what then came."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.figures.drawn import quantity
from limpet.quantity import Quantity
from limpet.read.line import Line
from limpet.read.window import RideWindow

FloatArray = NDArray[np.float64]

#: So many read-outs are told.
MOST_SHOWN = 50


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownRange:
    """A promise `shown_m` at `at_m` from the start, and how far the pack really went on from there."""

    at_m: float
    shown_m: float
    came_m: Quantity


def shown_ranges(
    test: RangeTest, ride: RideWindow, way: Line | None, to_cutoff_m: FloatArray | None
) -> tuple[ShownRange, ...] | None:
    """Every displayed range; None where none was noted or nothing tells what came.

    Parameters
    ----------
    way : distance over time [m]
    to_cutoff_m : from the ride's start to the end of its pack in draws [m], shape (J,)
    """
    if way is None or to_cutoff_m is None:
        return None
    noted = [
        entry
        for entry in test.entries
        if entry.shown_range_m is not None and entry.time_s <= ride.end_s + 1e-6
    ]
    if len(noted) > MOST_SHOWN:
        rows = np.unique(np.linspace(0, len(noted) - 1, MOST_SHOWN).astype(int))
        noted = [noted[row] for row in rows]
    found = []
    for entry in noted:
        at_m = float(way.at(np.array([entry.time_s]))[0])
        came = quantity(np.maximum(to_cutoff_m - at_m, 0.0), "m")
        found.append(ShownRange(at_m=at_m, shown_m=float(entry.shown_range_m or 0.0), came_m=came))
    return tuple(found) or None
