"""A column while it is being guessed: what it is taken for, in which unit, why, and what it is held against."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Final

import numpy as np
from numpy.typing import NDArray

from limpet.foreign.checks import mean_over
from limpet.foreign.quantities import CELL, IN_AH, IN_WH, KINDS, LEFT_AH, LEFT_WH, POWER, Meaning
from limpet.foreign.units import unit_of
from limpet.notices import Notice
from limpet.pack import PackSpec, knows_series
from limpet.units import Kind, factor_and_zero

FloatArray = NDArray[np.float64]
#: A guess that is as sure as this is not asked about.
SURE: Final = 0.8
#: Volts of a small vehicle's pack, and of a cell in use [V] (common practice, no source).
PACK_V, CELL_V = (9.0, 130.0), (1.5, 4.6)
#: What a meter's sum may differ from its own readings' [-] (assumption: a logger's row is a moment).
NEAR: Final = 0.12
#: What is tried where a heading names no unit: the units, or the parts of one that a logger counts in.
TRIED: Final[dict[str, tuple[tuple[str, float], ...]]] = {
    "voltage_v": (("", 1.0), ("", 0.1), ("", 0.01), ("mV", 1.0)),
    "current_a": (("", 1.0), ("", 0.1), ("", 0.01), ("mA", 1.0)),
    POWER: (("", 1.0), ("kW", 1.0)),
    "charge_ah": (("", 1.0), ("mAh", 1.0)),
    LEFT_AH: (("", 1.0), ("mAh", 1.0)),
    IN_AH: (("", 1.0), ("mAh", 1.0)),
    "energy_wh": (("", 1.0), ("kWh", 1.0)),
    LEFT_WH: (("", 1.0), ("kWh", 1.0)),
    IN_WH: (("", 1.0), ("kWh", 1.0)),
    "speed_mps": (("km/h", 1.0), ("mph", 1.0), ("m/s", 1.0)),
    "distance_m": (("km", 1.0), ("mi", 1.0), ("m", 1.0)),
    CELL: (("", 1.0), ("mV", 1.0)),
    "cell_min_v": (("", 1.0), ("mV", 1.0)),
}


@dataclass(slots=True)
class Candidate:
    """One column, what it may be, and how sure that is from 0 to 1; its values are as they stand in the file."""

    number: int
    source: str
    meaning: Meaning
    values: FloatArray
    unit: str = ""
    factor: float = 1.0
    sign: int = 1
    sure: float = 0.0
    why: list[Notice] = field(default_factory=list)

    @property
    def quantity(self) -> str:
        """What it is taken for; empty for nothing."""
        return self.meaning.quantity or ""

    def si(self) -> FloatArray:
        """In the core's unit."""
        kind = KINDS[self.quantity]
        factor, zero = (
            (1.0, 0.0) if kind is None or not self.unit else _unit_factor(self.unit, kind)
        )
        return self.sign * (self.factor * (factor * self.values + zero))


def _unit_factor(unit: str, kind: Kind) -> tuple[float, float]:
    found = unit_of(unit, kind)
    return factor_and_zero(found[1], found[0]) if found is not None else (1.0, 0.0)


class Chosen:
    """The chosen columns by what they are."""

    def __init__(self, chosen: list[Candidate]) -> None:
        self.all = chosen

    def __call__(self, quantity: str) -> list[Candidate]:
        """The columns of a quantity, one or one a pack."""
        return [item for item in self.all if item.quantity == quantity]

    def total(self, quantity: str) -> FloatArray | None:
        """The sum over packs, in the core's unit."""
        items = self(quantity)
        return np.sum([item.si() for item in items], axis=0) if items else None

    def volts(self) -> FloatArray | None:
        """The mean over packs."""
        items = self("voltage_v")
        return mean_over([item.si() for item in items]) if items else None


def middle(values: FloatArray) -> float:
    """The median size of what is not zero; 0 where there is nothing."""
    known = np.abs(values[~np.isnan(values)])
    known = known[known > 0]
    return float(np.median(known)) if len(known) else 0.0


def span_of(pack: PackSpec | None) -> tuple[float, float]:
    """Volts that a pack may show, of any small vehicle's where its cells are not known [V]."""
    if pack is None or not knows_series(pack):
        return PACK_V
    return CELL_V[0] * pack.series, CELL_V[1] * pack.series


def _in_span(item: Candidate, span: tuple[float, float]) -> bool:
    return span[0] <= middle(item.si()) <= span[1]


def sizes_within(item: Candidate, span: tuple[float, float]) -> list[tuple[str, float]]:
    """The units and parts under which a column's middle lies within a span, the named one first."""
    found = []
    named = [(item.meaning.unit, 1.0), (item.meaning.unit, 0.1), (item.meaning.unit, 0.01)]
    tried = TRIED[item.quantity]
    for unit, factor in (*named, *tried) if item.meaning.unit else tried:
        item.unit, item.factor = unit, factor
        if _in_span(item, span) and (unit, factor) not in found:
            found.append((unit, factor))
    return found
