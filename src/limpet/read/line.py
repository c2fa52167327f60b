"""A running quantity over the time of a ride: the common shape of every distance and energy."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import hypot
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import InstrumentName
from limpet.notices.remarks import Remark
from limpet.quantity import Quantity

FloatArray = NDArray[np.float64]

#: A piece that no reading covers is filled in with at least this relative standard uncertainty
#: (handbook section 4).
FILL_STD = 0.30
#: No more than so many times what was read is filled in (assumption).
MOST_FILLED = 20.0


#: How energy and distance are found (bundle.md).
EnergyMethod = Literal[
    "sampled",
    "energy_counter",
    "charge_counter",
    "rest_voltage",
    "linear_voltage",
    "gauge",
    "rated",
    "wall",
]
#: Methods that are a meter's.
METERED: Final[frozenset[str]] = frozenset({"sampled", "energy_counter", "charge_counter"})
DistanceMethod = Literal["laps", "gps", "trip", "odometer", "samples", "route"]
Method = EnergyMethod | DistanceMethod


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """A quantity that accumulates along a ride.

    Parameters
    ----------
    time_s : of the readings [s], shape (n,), n >= 2, not decreasing
    total : accumulated since the first of them [unit], shape (n,), 0 at first
    """

    time_s: FloatArray
    total: FloatArray

    @property
    def span(self) -> float:
        """Accumulated from the first reading to the last [unit]."""
        return float(self.total[-1] - self.total[0])

    def at(self, time_s: FloatArray) -> FloatArray:
        """Accumulated by a time [unit], held constant beyond the ends."""
        return np.interp(time_s, self.time_s, self.total)

    def between(self, start_s: float, end_s: float) -> float:
        """Accumulated between two times [unit]."""
        ends = self.at(np.array([start_s, end_s]))
        return float(ends[1] - ends[0])

    def clipped(self, start_s: float, end_s: float) -> Line:
        """The part between two times, starting from 0 again."""
        if start_s <= self.time_s[0] and end_s >= self.time_s[-1]:
            return self
        inside = (self.time_s > start_s) & (self.time_s < end_s)
        first, last = max(start_s, float(self.time_s[0])), min(end_s, float(self.time_s[-1]))
        last = max(first, last)
        ends = self.at(np.array([first, last]))
        time = np.concatenate([[first], self.time_s[inside], [last]])
        total = np.concatenate([[ends[0]], self.total[inside], [ends[1]]])
        return Line(time_s=time, total=total - ends[0])


@dataclass(frozen=True, slots=True, kw_only=True)
class Estimate:
    """What one method makes of a ride: its total and how it ran up to it.

    `gains` are the instruments whose gain is common to all that was read (1, or −1 where it divides);
    `other_std` is everything else that is independent of them [unit], and `filled` what was not read.
    """

    method: Method
    quantity: Quantity
    line: Line
    remarks: tuple[Remark, ...] = ()
    gains: tuple[tuple[InstrumentName, int], ...] = ()
    other_std: float = 0.0
    filled: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Metered:
    """A running total that a meter tells [Ah or Wh], with its u and what was filled in."""

    line: Line
    quantity: Quantity
    gain: InstrumentName
    gain_std: float
    filled_std: Line | None


def counted_on(
    values: FloatArray, *, may_fall_by: float = 0.0, reset_at: NDArray[np.bool_] | None = None
) -> tuple[FloatArray, int]:
    """A counter's readings as one running total; where it fell it was reset, and counts on.

    Parameters
    ----------
    values : readings [unit], shape (n,), n >= 1
    may_fall_by : a fall up to this is true, not a reset: regeneration into a net counter [unit]
    reset_at : readings that follow a pack swap, where any fall is a reset, shape (n,)

    Returns
    -------
    total since the first reading [unit], shape (n,), and how many resets were met
    """
    steps = np.diff(values)
    if reset_at is None and (len(steps) == 0 or float(steps.min()) >= -may_fall_by):
        return values - values[0], 0
    reset = steps < -may_fall_by
    if reset_at is not None:
        reset |= reset_at[1:] & (steps < 0)
    # After a reset the counter began at 0, so the new reading is itself the step.
    steps = np.where(reset, values[1:], steps)
    return np.concatenate([[0.0], np.cumsum(steps)]), int(reset.sum())


def completed(
    line: Line,
    start_s: float,
    end_s: float,
    progress: Line | None,
) -> tuple[Line, float, float]:
    """Fill in what lies before the first and after the last reading of a line.

    Parameters
    ----------
    line : the readings' own line
    start_s, end_s : of the ride [s]
    progress : a line that covers more of the ride, normally distance; time is taken without it

    Returns
    -------
    the line over the whole ride, what was filled in [unit] and its standard uncertainty [unit]

    Notes
    -----
    The rate of the covered part is carried over to the rest, with a relative standard
    uncertainty of 0.3 on the piece (handbook section 4).
    """
    first, last = float(line.time_s[0]), float(line.time_s[-1])

    def gone(begin_s: float, until_s: float) -> float:
        if progress is not None:
            return progress.between(begin_s, until_s)
        return max(until_s - begin_s, 0.0)

    covered = gone(first, last)
    before, after = gone(start_s, first), gone(last, end_s)
    if covered <= 0 or before + after <= 0:
        return line, 0.0, 0.0
    # Two readings a moment apart tell no rate of an hour.
    rate = line.span / max(covered, (before + after) / MOST_FILLED)
    lead, trail = before * rate, after * rate
    time, total = line.time_s, line.total
    if before > 0:
        time, total = np.concatenate([[start_s], time]), np.concatenate([[0.0], total + lead])
    if after > 0:
        time = np.concatenate([time, [end_s]])
        total = np.concatenate([total, [total[-1] + trail]])
    filled = abs(lead) + abs(trail)
    return Line(time_s=time, total=total), filled, FILL_STD * filled


def estimate(
    method: Method,
    line: Line,
    unit: str,
    *,
    gains: Mapping[InstrumentName, float],
    extra_std: float = 0.0,
    filled: float = 0.0,
    filled_std: float = 0.0,
    remarks: tuple[Remark, ...] = (),
    dividing: frozenset[InstrumentName] = frozenset(),
) -> Estimate:
    """An estimate whose gain errors are common to all its readings, so they do not average out.

    Parameters
    ----------
    gains : relative u of each instrument, of what was read [-]
    extra_std : of everything else that is independent [unit]
    filled, filled_std : a piece that was not read, already in the line, and its own [unit]
    dividing : instruments whose reading is too high where the quantity comes out too low
    """
    other_std = hypot(extra_std, filled_std)
    u = hypot(*(std * (line.span - filled) for std in gains.values()), other_std)
    return Estimate(
        method=method,
        quantity=Quantity.of(line.span, unit, u),
        line=line,
        remarks=remarks,
        gains=tuple((name, -1 if name in dividing else 1) for name in gains),
        other_std=other_std,
        filled=filled,
    )
