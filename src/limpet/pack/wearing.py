"""How packs lose with time and use before anybody has tested one twice: what a promise has to allow for."""

from __future__ import annotations

from typing import Final

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import LOST_PER_CYCLE, LOST_PER_MONTH

FloatArray = NDArray[np.float64]

#: Exponents of a loss over time: at once and then slowly, evenly, late; and what each weighs before
#: anything is known (assumption).
POWERS: Final = ((0.5, 1.0), (0.75, 2.0), (1.0, 3.0), (1.35, 1.5), (1.8, 0.5))
#: A pack is usually down to this, lost in the time that is usual for it [-].
LOST_WHEN_WORN: Final = 0.2
#: How far the loss of one pack in that time lies from the usual, u of its logarithm (assumption).
PACKS_DIFFER: Final = 0.5
#: A pack of which nobody counted the cycles is anywhere up to this share of the time that is usual for 80%
#: (assumption).
OLDEST_UNSAID: Final = 0.6
#: A pack with more cycles than this share of the usual is looked at as one with as many [-].
OLDEST: Final = 5.0


def usual_months() -> float:
    """When a pack is usually down to 80% [months], by what is assumed of a month."""
    return LOST_WHEN_WORN / LOST_PER_MONTH.value


def usual_cycles() -> float:
    """When a pack is usually down to 80% [equivalent full cycles], by what is assumed of a cycle."""
    return LOST_WHEN_WORN / LOST_PER_CYCLE.value


def lost_within(
    months: float, cycles: float | None, count: int, rng: np.random.Generator
) -> FloatArray:
    """What a pack loses from now on, over what it gives now, in draws [-], shape (count,).

    Parameters
    ----------
    months : from now [months]
    cycles : equivalent full cycles that it has behind it; None where nobody counted

    Notes
    -----
    lost·((a + t)^p − a^p) over 1 − lost·a^p, with a and t in the time that is usual for 80% and p one of
    `POWERS` by weight. All of it is assumed.
    """
    powers, weights = zip(*POWERS, strict=True)
    power = rng.choice(powers, size=count, p=np.array(weights) / sum(weights))
    # Of the mean of such packs, not of the middle one.
    spread = np.exp(PACKS_DIFFER * rng.standard_normal(count) - PACKS_DIFFER**2 / 2)
    lost = LOST_WHEN_WORN * spread
    if cycles is None:
        age = rng.uniform(0, OLDEST_UNSAID, count)
    else:
        age = np.full(count, min(cycles / usual_cycles(), OLDEST))
    before = lost * age**power
    after = lost * (age + months / usual_months()) ** power
    return np.asarray(np.clip((after - before) / np.maximum(1 - before, 0.2), 0.0, 0.9))
