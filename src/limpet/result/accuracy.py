"""How well each instrument reads: from the sheet, or assumed and said so."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from limpet.evidence.model import RangeTest
from limpet.quantity import rectangular

InstrumentName = Literal["voltage", "current", "charge", "energy", "trip", "gps", "odometer", "lap"]

#: Half-width in percent of the reading when the sheet does not say (assumption). The trip meter's
#: and the track's follow the handbook's section 1: they differ by 2 to 12 %.
ASSUMED_PCT: dict[InstrumentName, float] = {
    "voltage": 1.0,
    "current": 2.0,
    "charge": 2.0,
    "energy": 2.5,
    "trip": 5.0,
    "gps": 2.5,
    "odometer": 5.0,
    "lap": 1.0,
}


@dataclass(frozen=True, slots=True)
class Accuracy:
    """Relative standard uncertainty of an instrument's gain [-], and whether it was assumed."""

    relative_std: float
    assumed: bool


def accuracy(test: RangeTest, name: InstrumentName) -> Accuracy:
    """The gain uncertainty of an instrument: x/√3 for a maker's ± x % (GUM 4.3.7)."""
    instrument = getattr(test.sheet.instruments, name, None) if test.sheet.instruments else None
    stated = instrument.accuracy_pct if instrument is not None else None
    percent = ASSUMED_PCT[name] if stated is None else stated
    return Accuracy(rectangular(percent / 100), stated is None)
