"""What runs of one kind scatter by: what was known before, moved by what is seen."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt


@dataclass(frozen=True, slots=True)
class Scatter:
    """A variance and the degrees of freedom that it is known with."""

    variance: float
    freedom: float

    @property
    def std(self) -> float:
        """One standard deviation, in the unit of what scatters."""
        return sqrt(self.variance)

    def moved_by(self, squares: float, own: float, freedom: int) -> Scatter:
        """A scaled inverse χ², moved by further values.

        Parameters
        ----------
        squares : the sum of the squares of what is left of them
        own : the variance that one of them has by its own errors, which is taken off
        freedom : degrees of freedom of the squares
        """
        seen = max(squares - freedom * own, 0.0)
        whole = self.freedom + freedom
        return Scatter(variance=(self.freedom * self.variance + seen) / whole, freedom=whole)
