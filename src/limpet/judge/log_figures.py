"""Figures that are reckoned in logarithms, as they are told."""

from __future__ import annotations

from math import exp, expm1
from typing import Final

import numpy as np
from numpy.typing import NDArray

from limpet.judge.answer import Run, Side
from limpet.judge.carrying import Carried
from limpet.judge.comparand import Name
from limpet.quantity import Quantity

UNITS: Final[dict[Name, str]] = {
    "wh_per_km": "Wh/km",
    "range_to_cutoff": "m",
    "retained_fraction": "1",
}


def relative(value: float, se: float, t: float) -> Quantity:
    """A difference of logarithms with u and the half-widths of its interval in u, as a share."""
    return Quantity(
        value=expm1(value),
        unit="1",
        standard_uncertainty=exp(value) * se,
        low=expm1(value - t * se),
        high=expm1(value + t * se),
    )


def run_of(item: Carried, side: Side) -> Run:
    """A test as found and as carried."""

    def figure(logs: NDArray[np.float64]) -> Quantity:
        return Quantity.from_draws(np.exp(logs), UNITS[item.quantity], float(np.exp(logs.mean())))

    return Run(
        key=item.test.key,
        title=item.test.title,
        side=side,
        as_found=figure(item.found),
        carried=figure(item.log),
    )
