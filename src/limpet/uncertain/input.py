"""A named uncertain input, and how a standard normal number becomes a value of it."""

from __future__ import annotations

from dataclasses import dataclass
from math import log1p, sqrt
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from limpet.uncertain.normal import normal_probability

FloatArray = NDArray[np.float64]

#: How the errors of an input are spread about its best value.
#:
#: `rectangular` within ± u·√3; `soft_top` the same with a tail above it, for what a few exceed; `lognormal` with its median at the best value, `far_tailed` the same with far tails
#: on both sides; `shortfall` at the best
#: value in half of all cases, and normally below it in the others; `angle` and `any_direction` of a
#: bearing.
Shape = Literal[
    "normal",
    "lognormal",
    "far_tailed",
    "rectangular",
    "soft_top",
    "shortfall",
    "angle",
    "any_direction",
]


#: How fast the tail of a `soft_top` goes on past its edge [u for each standard score beyond 1]: 2.5% of
#: labels are exceeded by 16.5% or more where 13% is the edge (assumption).
TAIL = 1.0


#: How much further out the tails of a `far_tailed` lie: a score of 3 counts for 3.8, one of 1 for little more
#: than itself (assumption: a sheet may name another kind of vehicle, or another pack).
FAR = 0.03


@dataclass(frozen=True, slots=True, kw_only=True)
class Input:
    """One uncertain input: its best value, u, the shape it is drawn from, and its source."""

    name: str
    value: float
    standard_uncertainty: float
    source: str
    shape: Shape = "normal"

    def drawn(self, score: FloatArray) -> FloatArray:
        """Values at standard normal scores, the same shape; the best value where the score is 0."""
        value, std = self.value, self.standard_uncertainty
        if self.shape == "any_direction":
            return np.asarray(360 * normal_probability(score))
        if std == 0:
            return np.full_like(score, value)
        if self.shape == "far_tailed" and value > 0:
            score = score * (1 + FAR * np.minimum(score**2, 16.0))
        if self.shape in ("lognormal", "far_tailed") and value > 0:
            return np.asarray(value * np.exp(score * sqrt(log1p((std / value) ** 2))))
        if self.shape == "rectangular":
            return np.asarray(value + std * sqrt(3) * (2 * normal_probability(score) - 1))
        if self.shape == "soft_top":
            inside = 2 * normal_probability(score) - 1
            return np.asarray(value + std * (sqrt(3) * inside + TAIL * np.maximum(score - 1, 0.0)))
        if self.shape == "shortfall":
            return np.asarray(value - std * np.maximum(score, 0.0))
        return np.asarray(value + std * score)
