"""A value with its unit, its standard uncertainty and a 95% interval."""

from __future__ import annotations

from dataclasses import dataclass
from html import escape
from math import floor, hypot, isfinite, log10, sqrt
from typing import TypedDict

import numpy as np
from numpy.typing import NDArray

from limpet.errors import OutOfRangeError, UnitError

#: Half-width of a 95% interval in standard uncertainties, as the handbook's E_n score rounds it
#: (GUM, JCGM 100:2008, 6.3.3 takes k = 2 for "approximately 95%").
COVERAGE_FACTOR = 2.0
COVERAGE = 0.95
#: An interval wider than so much of its figure is told as a span: the figure alone would say too much.
SPAN_OF_FIGURE = 1.0


class QuantityJson(TypedDict):
    """A quantity as bundle.md prints it."""

    value: float
    unit: str
    standard_uncertainty: float
    low: float
    high: float
    coverage: float


@dataclass(frozen=True, slots=True, kw_only=True, repr=False)
class Quantity:
    """A measured or computed value [unit] with standard uncertainty u [unit] and interval.

    It is printed as its value and half the width of its 95% interval: `str(q)` is "23.4 ± 1.2 Wh/km".
    A format spec is the value's, as of a float: `f"{q:.1f}"` is "23.4"; with a `u` at its end both numbers
    are printed by it, with the unit: `f"{q:.2fu}"` is "23.41 ± 1.20 Wh/km", `f"{q:u}"` is `str(q)`.
    Quantities of one unit are ordered by their values; `agree` says whether two contradict each other.

    Raises
    ------
    OutOfRangeError
        When a number is not finite, u is negative, or the interval does not hold the value.
    """

    value: float
    unit: str
    standard_uncertainty: float
    low: float
    high: float

    def __post_init__(self) -> None:
        numbers = (self.value, self.standard_uncertainty, self.low, self.high)
        if not all(isfinite(number) for number in numbers):
            raise OutOfRangeError(f"Quantity: {numbers} {self.unit} must be finite")
        if self.standard_uncertainty < 0:
            raise OutOfRangeError(
                f"Quantity: standard uncertainty is {self.standard_uncertainty:g} {self.unit}, "
                "expected 0 or more"
            )
        if not self.low <= self.value <= self.high:
            raise OutOfRangeError(
                f"Quantity: interval {self.low:g} to {self.high:g} {self.unit} "
                f"does not hold the value {self.value:g}"
            )

    @property
    def half_width(self) -> float:
        """Half the width of the 95% interval [unit]."""
        return (self.high - self.low) / 2

    def __format__(self, spec: str) -> str:
        if spec and not spec.endswith("u"):
            return format(self.value, spec)
        own = spec[:-1] if spec else ""
        if own:
            return f"{self.value:{own}} ± {self.half_width:{own}}{self._after}"
        return self._said()

    @property
    def _after(self) -> str:
        """The unit behind a number; a ratio has none."""
        return "" if self.unit == "1" else f" {self.unit}"

    def _said(self) -> str:
        """To two figures of the half-width, as GUM 7.2.6 asks."""
        if self.half_width == 0:
            return f"{self.value:.6g}{self._after}"
        digits = 1 - floor(log10(self.half_width))
        places = max(digits, 0)
        value, half = round(self.value, digits), round(self.half_width, digits)
        return f"{value:.{places}f} ± {half:.{places}f}{self._after}"

    def __str__(self) -> str:
        return self._said()

    def __repr__(self) -> str:
        return f"Quantity({self._said()})"

    def _repr_html_(self) -> str:
        """For a notebook."""
        return f"<span title='95% interval'>{escape(self._said())}</span>"

    def __lt__(self, other: Quantity) -> bool:
        return self.value < self._of_one_unit(other)

    def __le__(self, other: Quantity) -> bool:
        return self.value <= self._of_one_unit(other)

    def __gt__(self, other: Quantity) -> bool:
        return self.value > self._of_one_unit(other)

    def __ge__(self, other: Quantity) -> bool:
        return self.value >= self._of_one_unit(other)

    def _of_one_unit(self, other: Quantity) -> float:
        if not isinstance(other, Quantity):
            raise TypeError(f"a Quantity is compared with a Quantity, not with {other!r}")
        if other.unit != self.unit:
            raise UnitError(
                f"{self.unit} and {other.unit} cannot be compared; bring both to one unit"
            )
        return other.value

    @classmethod
    def of(cls, value: float, unit: str, standard_uncertainty: float = 0.0) -> Quantity:
        """A quantity whose 95% interval is value ±2u (normal, GUM 6.3.3)."""
        half = COVERAGE_FACTOR * standard_uncertainty
        return cls(
            value=float(value),
            unit=unit,
            standard_uncertainty=float(standard_uncertainty),
            low=float(value - half),
            high=float(value + half),
        )

    @classmethod
    def from_draws(cls, draws: NDArray[np.float64], unit: str, value: float) -> Quantity:
        """A quantity from Monte Carlo draws (JCGM 101:2008, 7.6 and 7.7).

        Parameters
        ----------
        draws : of the quantity [unit], shape (n,)
        value : the estimate to report, normally that at the inputs' best values [unit]
        """
        low, high = np.quantile(draws, [(1 - COVERAGE) / 2, (1 + COVERAGE) / 2])
        return cls(
            value=float(value),
            unit=unit,
            standard_uncertainty=float(np.sqrt(np.mean((draws - value) ** 2))),
            low=float(min(low, value)),
            high=float(max(high, value)),
        )

    @property
    def relative(self) -> float:
        """u/|x| [-]; infinite for a value of 0 that is uncertain."""
        if self.standard_uncertainty == 0:
            return 0.0
        return self.standard_uncertainty / abs(self.value) if self.value != 0 else float("inf")

    def scaled(self, factor: float, unit: str) -> Quantity:
        """The same quantity times an exact positive factor, in another unit."""
        return Quantity(
            value=self.value * factor,
            unit=unit,
            standard_uncertainty=self.standard_uncertainty * factor,
            low=self.low * factor,
            high=self.high * factor,
        )

    def to_json(self) -> QuantityJson:
        """The JSON object of bundle.md."""
        return {
            "value": self.value,
            "unit": self.unit,
            "standard_uncertainty": self.standard_uncertainty,
            "low": self.low,
            "high": self.high,
            "coverage": COVERAGE,
        }


def ratio(numerator: Quantity, denominator: Quantity, unit: str) -> Quantity:
    """numerator / denominator of independent quantities, (u_c/c)² = (u_a/a)² + (u_b/b)².

    Raises
    ------
    OutOfRangeError
        When the denominator is 0.

    References
    ----------
    JCGM 100:2008 (GUM), 5.1.6, equation (12).
    """
    if denominator.value == 0:
        raise OutOfRangeError("ratio: the denominator is 0; there is nothing to divide by")
    value = numerator.value / denominator.value
    u_rel_denominator = denominator.standard_uncertainty / denominator.value
    u = hypot(numerator.standard_uncertainty / denominator.value, value * u_rel_denominator)
    return Quantity.of(value, unit, u)


def rectangular(half_width: float) -> float:
    """Standard uncertainty a/√3 of a rectangular distribution of half-width a (GUM 4.3.7).

    Parameters
    ----------
    half_width : of the interval, in the quantity's unit

    Returns
    -------
    the standard uncertainty in that unit
    """
    return half_width / sqrt(3)


def agree(a: Quantity, b: Quantity) -> bool:
    """Whether |a − b| ≤ √(U_a² + U_b²), U = 2u: the E_n score of ISO 13528:2022, 9.7, ≤ 1.

    Parameters
    ----------
    a, b : two results of one quantity, each with its standard uncertainty
    """
    expanded = COVERAGE_FACTOR * hypot(a.standard_uncertainty, b.standard_uncertainty)
    return abs(a.value - b.value) <= expanded
