"""A straight trend through uncertain points, and where it crosses a level."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

import numpy as np
from scipy.stats import t as student

from limpet.quantity import COVERAGE

#: Points that make a trend; fewer are a guess with a ruler.
LEAST_POINTS = 3
#: Points closer together than this of their span are one place to a line [-].
LEAST_SPAN = 1e-9


@dataclass(frozen=True, slots=True, kw_only=True)
class Trend:
    """y = at_zero + slope · x, with the covariance of the two and the degrees of freedom left.

    Notes
    -----
    Weighted least squares by 1/u². The covariance is that of the given u, widened by the points' own
    scatter about the line where it is larger (Birge ratio).
    """

    at_zero: float
    slope: float
    covariance: tuple[tuple[float, float], tuple[float, float]]
    freedom: int
    first: float
    last: float

    @property
    def factor(self) -> float:
        """Half-widths of a 95% interval in standard uncertainties."""
        return float(student.ppf((1 + COVERAGE) / 2, self.freedom))

    def std(self, x: float) -> float:
        """u of the line at x."""
        (aa, ab), (_, bb) = self.covariance
        return sqrt(max(aa + 2 * x * ab + x * x * bb, 0.0))

    def at(self, x: float) -> tuple[float, float, float]:
        """The line at x with its 95% interval: value, low, high."""
        value = self.at_zero + self.slope * x
        half = self.factor * self.std(x)
        return value, value - half, value + half

    @property
    def falls(self) -> bool:
        """Whether its slope is below nought by its own interval."""
        return self.slope + self.factor * sqrt(self.covariance[1][1]) < 0

    def crosses(self, level: float) -> tuple[float, float, float] | None:
        """Where a line comes down to a level: x, and the 95% interval of it; None of one that may not fall.

        Notes
        -----
        Fieller's interval of a ratio (E. C. Fieller, J. R. Stat. Soc. B 16, 1954, 175-185): the x at
        which the line's own interval holds the level.
        """
        if not self.falls:
            return None
        (aa, ab), (_, bb) = self.covariance
        square = self.factor**2
        a, b = self.at_zero - level, self.slope
        # (a + b x)² ≤ t² (aa + 2 ab x + bb x²), a quadratic in x that opens upwards as b is not nought.
        two, one, none = b * b - square * bb, a * b - square * ab, a * a - square * aa
        root = sqrt(max(one * one - two * none, 0.0))
        low, high = sorted(((-one - root) / two, (-one + root) / two))
        return -a / b, low, high


def trend_of(x: Sequence[float], y: Sequence[float], std: Sequence[float]) -> Trend | None:
    """A trend through points with u; None of fewer than three, or of points at one place.

    Raises
    ------
    ValueError
        When the three are of different lengths.
    """
    if not len(x) == len(y) == len(std):
        raise ValueError("trend_of: x, y and std must be equally long")
    places = np.asarray(x, dtype=np.float64)
    values = np.asarray(y, dtype=np.float64)
    if len(places) < LEAST_POINTS or np.ptp(places) <= LEAST_SPAN:
        return None
    weight = 1 / np.maximum(np.asarray(std, dtype=np.float64), 1e-9)
    # polyfit's weights are 1/u; "unscaled" keeps the covariance that the given u make.
    (slope, at_zero), cov = np.polyfit(places, values, 1, w=weight, cov="unscaled")
    freedom = len(places) - 2
    left = (values - at_zero - slope * places) * weight
    birge = max(float(left @ left) / freedom, 1.0)
    cov = cov * birge
    return Trend(
        at_zero=float(at_zero),
        slope=float(slope),
        covariance=((float(cov[1, 1]), float(cov[0, 1])), (float(cov[0, 1]), float(cov[0, 0]))),
        freedom=freedom,
        first=float(places.min()),
        last=float(places.max()),
    )
