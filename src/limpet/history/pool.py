"""One number out of what several tests say of it."""

from __future__ import annotations

from collections.abc import Sequence
from math import sqrt

import numpy as np

from limpet.history.facts import Spread
from limpet.state.priors import Learned


def pooled(
    pairs: Sequence[tuple[Spread, str]], floor: float, *, relative: bool = False
) -> Learned | None:
    """The mean of what tests say, weighted by 1/u²; None of none.

    Parameters
    ----------
    pairs : value and u of each test, and its title
    floor : u of the mean at least, in the unit of the values, or relative to the mean
    """
    if not pairs:
        return None
    values = np.array([value for (value, _), _ in pairs])
    weight = 1 / np.array([max(std, 1e-9) for (_, std), _ in pairs]) ** 2
    mean = float(values @ weight / weight.sum())
    inner = 1 / sqrt(float(weight.sum()))
    # Beyond what their own u says, tests differ as rides do.
    spread = sqrt(float(((values - mean) ** 2 * weight).sum()) / max(len(pairs) - 1, 1))
    least = floor * abs(mean) if relative else floor
    return Learned(
        value=mean,
        standard_uncertainty=max(inner * max(spread, 1.0), least),
        tests=tuple(title for _, title in pairs),
    )
