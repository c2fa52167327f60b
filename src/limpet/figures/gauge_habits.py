"""How a gauge behaves along a ride: its first and last step, what a rest gave back, metres a percent."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import ceil

import numpy as np

from limpet.read.line import Line
from limpet.read.readings import Reading

#: A gauge that rises by this share of its full, or by a step, while nothing was ridden has rebounded [-]
#: (assumption), and a ride on from one reading to the next is longer than this [m].
REBOUND, RIDDEN_M = 0.02, 30.0
#: Metres a percent are told over at least this part of the gauge [-] (assumption).
LEAST_PART = 0.15
#: A gauge of more steps than this shows percent, of which one alone says nothing.
MOST_STEPS = 20


@dataclass(frozen=True, slots=True, kw_only=True)
class GaugeHabits:
    """What a rider learns of a gauge by riding.

    `first_step_m`, `last_step_m`: how far the fullest and the emptiest step that were seen through lasted;
    `rebound` the most that it rose while nothing was ridden, as a share of full; `upper_m_per_percent`,
    `lower_m_per_percent` how far a percent went above and below half: 1000 is what the habit "one percent,
    one kilometre" takes for granted.
    """

    first_step_m: float | None
    last_step_m: float | None
    rebound: float | None
    upper_m_per_percent: float | None
    lower_m_per_percent: float | None


def gauge_habits(
    gauges: Sequence[Reading], steps: float, way: Line | None, swaps_s: Sequence[float] = ()
) -> GaugeHabits | None:
    """The habits of a gauge; None where it was read less than twice or no distance is known.

    Parameters
    ----------
    gauges : its readings in order of time
    steps : what it shows when full
    way : distance over time [m]
    swaps_s : when another pack was put in [s]: a gauge that rises then has not rebounded
    """
    if way is None or len(gauges) < 2:
        return None
    time = np.array([item.time_s for item in gauges])
    shown = np.array([item.value / steps for item in gauges])
    at_m = way.at(time)
    swapped = np.array([any(a < s <= b for s in swaps_s) for a, b in pairwise(time)])
    rose = np.where(swapped | (np.diff(at_m) > RIDDEN_M), 0.0, np.diff(shown))
    rebound = float(rose.max())
    # Another pack is another fall of the gauge: the longest tells.
    part = _longest(swapped)
    shown, at_m = shown[part], at_m[part]
    whole = np.arange(1, ceil(steps) + 1) / steps if steps <= MOST_STEPS else np.array([])
    lasted = [(_lasted(shown, at_m, level, 1 / steps)) for level in whole]
    told = [metres for metres in lasted if metres is not None]
    return GaugeHabits(
        first_step_m=told[-1] if told else None,
        last_step_m=told[0] if len(told) > 1 else None,
        rebound=rebound if rebound >= REBOUND else None,
        upper_m_per_percent=_per_percent(shown, at_m, 0.5, 1.0),
        lower_m_per_percent=_per_percent(shown, at_m, 0.0, 0.5),
    )


def _longest(swapped: np.ndarray) -> slice:
    """The readings of the pack that was read most often."""
    edges = [0, *(int(k) + 1 for k in np.flatnonzero(swapped)), len(swapped) + 1]
    lengths = np.diff(edges)
    k = int(np.argmax(lengths))
    return slice(edges[k], edges[k + 1])


def _lasted(shown: np.ndarray, at_m: np.ndarray, level: float, step: float) -> float | None:
    """How far a step was shown, from the reading that first shows it to the first that is lower."""
    here = np.flatnonzero(np.abs(shown - level) < 0.25 * step)
    if not len(here):
        return None
    lower = np.flatnonzero((shown < level - 0.5 * step) & (np.arange(len(shown)) > here[0]))
    # The step is left somewhere between its last reading and the next: half way, on the whole.
    if not len(lower):
        return None
    begun = at_m[here[0]] if here[0] == 0 else (at_m[here[0] - 1] + at_m[here[0]]) / 2
    left = (at_m[lower[0] - 1] + at_m[lower[0]]) / 2
    return float(max(left - begun, 0.0))


def _per_percent(shown: np.ndarray, at_m: np.ndarray, low: float, high: float) -> float | None:
    """Metres a percent of the gauge, between two shares of it."""
    inside = (shown >= low - 1e-9) & (shown <= high + 1e-9)
    if inside.sum() < 2:
        return None
    fallen = shown[inside][0] - shown[inside][-1]
    if fallen < LEAST_PART:
        return None
    return float((at_m[inside][-1] - at_m[inside][0]) / (100 * fallen))
