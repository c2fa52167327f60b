"""The range that the vehicle's display promises: an alarm where it is less than the way to go, and evidence."""

from __future__ import annotations

import numpy as np

from limpet.evidence.model import RangeTest
from limpet.under_way.now import Now


def shown_left_m(seen: RangeTest, now: Now) -> float | None:
    """What the display shows to be left from here [m]; None where nobody read it.

    The last read-out, less what was ridden since: a display that is not looked at counts on.
    """
    read = [entry for entry in seen.entries if entry.shown_range_m is not None]
    if not read:
        return None
    last = read[-1]
    at_m = 0.0
    if now.line is not None:
        at_m = float(np.clip(now.line.at(np.array([last.time_s]))[0], 0.0, now.done_m))
    return float(last.shown_range_m or 0.0) - max(now.done_m - at_m, 0.0)
