"""What can go wrong, said so that the reader knows what, where and what to do."""

from __future__ import annotations

from dataclasses import dataclass
from math import isfinite


class LimpetError(Exception):
    """Base of every error that Limpet raises on purpose."""


class OutOfRangeError(LimpetError, ValueError):
    """A number lies outside what a formula was published or makes sense for."""


class UnitError(LimpetError, ValueError):
    """A typed quantity cannot be read or has the wrong dimension."""


@dataclass(frozen=True, slots=True, order=True)
class Fault:
    """One thing wrong with an input: where it stands and what would be right.

    `line` and `column` count from 1; 0 means "the file as a whole". `column` is the character in
    a JSON file and the number of the field in a CSV file, whose name then leads `message`.
    """

    file: str
    line: int
    column: int
    message: str

    def __str__(self) -> str:
        place = self.file
        if self.line > 0:
            place += f":{self.line}"
            if self.column > 0:
                place += f":{self.column}"
        return f"{place}: {self.message}"


class BundleError(LimpetError):
    """A bundle is refused; carries every fault found, not only the first."""

    def __init__(self, faults: list[Fault]) -> None:
        self.faults = sorted(faults)
        super().__init__("\n".join(str(fault) for fault in self.faults))

    def __reduce__(self) -> tuple[type[BundleError], tuple[list[Fault]]]:
        # An error may come from a process that reads a large file.
        return type(self), (self.faults,)


def require_range(where: str, name: str, value: float, low: float, high: float, hint: str) -> None:
    """Raise OutOfRangeError unless low <= value <= high; NaN is refused too.

    Parameters
    ----------
    where : the function that refuses, as it is called
    name, value : of the argument, in its unit
    low, high : what it may be
    hint : what to do instead
    """
    if not (isfinite(value) and low <= value <= high):
        raise OutOfRangeError(f"{where}: {name} is {value:g}, expected {low:g} to {high:g}; {hint}")
