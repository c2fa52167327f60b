"""The parts of a result: a method beside the others, consumption, the pack, a budget, an input."""

from __future__ import annotations

from dataclasses import dataclass, fields, is_dataclass
from typing import Any

from limpet.figures.budget import Part
from limpet.notices import Notice
from limpet.quantity import Quantity
from limpet.read.line import Method


@dataclass(frozen=True, slots=True, kw_only=True)
class MethodResult:
    """One method's answer, beside the others."""

    method: Method
    quantity: Quantity
    used: bool
    agrees: bool
    note: str

    def to_json(self) -> dict[str, Any]:
        """The object of bundle.md."""
        return {
            "method": self.method,
            "quantity": self.quantity.to_json(),
            "used": self.used,
            "agrees": self.agrees,
            "note": self.note,
        }


@dataclass(frozen=True, slots=True, kw_only=True)
class Consumption:
    """Energy over distance, in both units that riders use."""

    wh_per_km: Quantity
    wh_per_mi: Quantity


@dataclass(frozen=True, slots=True, kw_only=True)
class AtReference:
    """What a pack gives at 25 °C, between the same full and cut-off.

    `retained_fraction` of its label at this ride's load, to be compared with other rides;
    `retained_at_low_rate` without what the load left in it, to be compared with a data sheet.
    """

    capacity_ah: Quantity
    usable_energy_wh: Quantity | None
    # What was stored before these were told is read still.
    retained_fraction: Quantity | None = None
    retained_at_low_rate: Quantity | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class PackResult:
    """What the ride says of the pack, as ridden; None is "the evidence cannot give it".

    `retained_fraction` is of the label; the one of `at_25_degc` can be compared over seasons.
    """

    resistance_ohm: Quantity | None
    capacity_ah: Quantity | None
    usable_energy_wh: Quantity | None
    at_25_degc: AtReference | None
    retained_fraction: Quantity | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Regeneration:
    """Energy returned [Wh] and its share of the gross energy drawn [-]."""

    energy_wh: float
    fraction_of_drawn: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Budget:
    """What makes each headline figure uncertain, largest part first."""

    wh_per_km: tuple[Part, ...]
    range_to_cutoff: tuple[Part, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class InputResult:
    """An uncertain input as the ride leaves it: value, u and where it is from."""

    name: str
    value: float
    standard_uncertainty: float
    source: str


def plain(value: Any) -> Any:
    """A dataclass of the result as JSON: its fields by name, quantities as bundle.md has them."""
    if isinstance(value, Quantity | Notice):
        return value.to_json()
    if isinstance(value, tuple):
        return [plain(item) for item in value]
    if is_dataclass(value) and not isinstance(value, type):
        return {item.name: plain(getattr(value, item.name)) for item in fields(value)}
    return value
