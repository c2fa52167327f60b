"""What a vehicle's gauge meant over all its tests."""

from __future__ import annotations

from collections.abc import Sequence
from math import sqrt

import numpy as np

from limpet.history.facts import Facts
from limpet.quantity import Quantity
from limpet.state.priors import PooledStep
from limpet.uncertain.isotonic import isotonic

#: A step of a gauge means something else from ride to ride by so much of a full pack [-] (assumption), and
#: percent are told in parts of this.
RIDE_STD, PART = 0.03, 0.05


def pooled_gauge(facts: Sequence[Facts]) -> tuple[PooledStep, ...]:
    """Energy left at each step of a gauge over several tests, fullest first.

    Notes
    -----
    Each test's step is weighted by 1/(u² + 0.03²), steps are pooled to a rising sequence (isotonic
    regression), and the interval is the mean's u with the scatter of the tests about it (Birge ratio).
    """
    found: dict[float, list[tuple[float, float, str]]] = {}
    for item in facts:
        for shown, share, std in item.gauge:
            level = round(shown / PART) * PART if item.gauge_percent else shown
            found.setdefault(round(level, 4), []).append((share, std, item.title))
    if not found:
        return ()
    levels = sorted(found)
    mean, spread = np.zeros(len(levels)), np.zeros(len(levels))
    weights = np.zeros(len(levels))
    for k, level in enumerate(levels):
        left = np.array([value for value, _, _ in found[level]])
        weight = 1 / (np.array([std for _, std, _ in found[level]]) ** 2 + RIDE_STD**2)
        mean[k], weights[k] = np.average(left, weights=weight), weight.sum()
        birge = sqrt(float(((left - mean[k]) ** 2 * weight).sum()) / max(len(left) - 1, 1))
        spread[k] = max(birge, 1.0) / sqrt(weights[k])
    rising = isotonic(mean, weights)
    return tuple(
        PooledStep(
            shown=level,
            energy_left_fraction=Quantity(
                value=float(np.clip(rising[k], 0, 1)),
                unit="1",
                standard_uncertainty=float(spread[k]),
                low=float(np.clip(rising[k] - 1.96 * spread[k], 0, 1)),
                high=float(np.clip(rising[k] + 1.96 * spread[k], 0, 1)),
            ),
            tests=tuple(dict.fromkeys(title for _, _, title in found[level])),
        )
        for k, level in reversed(list(enumerate(levels)))
    )
