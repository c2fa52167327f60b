"""What the gauge really meant: energy left at each step it showed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.quantity import Quantity
from limpet.read.line import Line
from limpet.read.readings import Reading
from limpet.state.remaining import Remaining
from limpet.uncertain.isotonic import isotonic

FloatArray = NDArray[np.float64]

#: Steps of a gauge that are told, at most: a percent gauge is told in even parts.
MOST_STEPS = 25


@dataclass(frozen=True, slots=True, kw_only=True)
class GaugeStep:
    """One step: what was left of usable energy when it showed, of the distance, how far it lasted [m]."""

    shown: float
    energy_left_fraction: Quantity
    distance_left_fraction: float | None
    lasted_m: float | None


def gauge_truth(
    remaining: Remaining,
    found: Sequence[Reading],
    way: Line | None,
    range_m: float | None,
    *,
    ended: bool = False,
) -> tuple[GaugeStep, ...] | None:
    """Each step of the gauge against the energy that was left; None where nothing but it tells.

    Parameters
    ----------
    way : distance over time [m]
    range_m : of the whole pack [m]
    ended : the ride went on until the pack was empty: then the way itself tells what was left at each place, as
        even as it was ridden
    """
    ride = remaining.model.ride
    gauges = [item for item in found if item.kind == "gauge"]
    # A gauge cannot be judged by itself.
    told = ride.metered_a is not None or len(ride.volts.knot) > 1 or (ended and way is not None)
    if len(gauges) < 2 or not told:
        return None
    fraction = remaining.model.gauge_left(remaining.state)
    shown = np.array([item.value for item in gauges])
    at_m = np.array([float(way.at(np.array([item.time_s]))[0]) for item in gauges]) if way else None
    levels = np.unique(shown)
    if len(levels) > MOST_STEPS:
        levels = levels[np.unique(np.linspace(0, len(levels) - 1, MOST_STEPS).astype(int))]
    means = np.stack([fraction[shown == level].mean(axis=0) for level in levels])
    counts = np.array([(shown == level).sum() for level in levels], dtype=float)
    middle = isotonic(np.median(means, axis=1), counts)
    low = isotonic(np.quantile(means, 0.025, axis=1), counts)
    high = isotonic(np.quantile(means, 0.975, axis=1), counts)
    steps = []
    for k, level in enumerate(levels.tolist()):
        distance = lasted = None
        if at_m is not None:
            here = at_m[shown == level]
            if range_m:
                distance = float(np.clip(1 - here.mean() / range_m, 0.0, 1.0))
            below = at_m[(shown < level) & (at_m > here.min())]
            lasted = float(below.min() - here.min()) if len(below) else None
        value = float(np.clip(middle[k], 0.0, 1.0))
        steps.append(
            GaugeStep(
                shown=level,
                energy_left_fraction=Quantity(
                    value=value,
                    unit="1",
                    standard_uncertainty=float(means[k].std()),
                    low=float(min(np.clip(low[k], 0.0, 1.0), value)),
                    high=float(max(np.clip(high[k], 0.0, 1.0), value)),
                ),
                distance_left_fraction=distance,
                lasted_m=lasted,
            )
        )
    return tuple(reversed(steps))
