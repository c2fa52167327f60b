"""Distances as the rider's own instrument will show them: the trip meter, the odometer, GPS."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from limpet.evidence.model import RangeTest
from limpet.read.line import Line

Instrument = Literal["trip_m", "odometer_m", "gps_m"]
#: In the order in which a rider looks at them.
INSTRUMENTS: Final[tuple[Instrument, ...]] = ("trip_m", "gps_m", "odometer_m")
#: Over less than this an instrument's own scale is not told by the ride [m].
LEAST_M = 500.0
#: No instrument is off by more than this [-].
MOST_OFF = 0.3


@dataclass(frozen=True, slots=True, kw_only=True)
class Reads:
    """What a rider looks at: it showed `shown_m` where the ride had truly come `at_m`, and shows `per_m`
    for each true metre [-]."""

    instrument: Instrument
    shown_m: float
    at_m: float
    per_m: float

    def at(self, true_m: float) -> float:
        """What it will show at a true distance from the start [m]."""
        return max(self.shown_m + (true_m - self.at_m) * self.per_m, 0.0)


def reads_of(as_read: RangeTest, right: RangeTest, line: Line | None) -> Reads | None:
    """What the rider of a ride looks at; None where no instrument of the way was read.

    Parameters
    ----------
    as_read : the ride as it was noted
    right : the same, its instruments corrected by what earlier tests taught
    line : true distance over time, as it was chosen; None before the first metre

    Notes
    -----
    What the instrument counted between its first and last reading, over what was truly ridden between
    them; where that is too short to tell, what earlier tests taught.
    """
    for name in INSTRUMENTS:
        time, shown = as_read.readings(name)
        if len(time) == 0:
            continue
        at_m = 0.0 if line is None else float(line.at(time[-1:])[0])
        return Reads(
            instrument=name,
            shown_m=float(shown[-1]),
            at_m=at_m,
            per_m=_scale(name, right, line, time, shown),
        )
    return None


def _scale(
    name: Instrument,
    right: RangeTest,
    line: Line | None,
    time: np.ndarray,
    shown: np.ndarray,
) -> float:
    counted = float(shown[-1] - shown[0])
    if line is not None and counted > LEAST_M:
        true = line.between(float(time[0]), float(time[-1]))
        if true > LEAST_M:
            return float(np.clip(counted / true, 1 - MOST_OFF, 1 + MOST_OFF))
    _, truly = right.readings(name)
    known = float(shown[-1]) / float(truly[-1]) if len(truly) and truly[-1] > 0 else 1.0
    return float(np.clip(known, 1 - MOST_OFF, 1 + MOST_OFF))
