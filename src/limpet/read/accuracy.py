"""How well each instrument reads: from the sheet, or assumed and said so."""

from __future__ import annotations

from dataclasses import dataclass

from limpet.assumptions import INSTRUMENT_PCT, InstrumentName
from limpet.evidence.model import RangeTest
from limpet.quantity import rectangular


@dataclass(frozen=True, slots=True)
class Accuracy:
    """Relative standard uncertainty of an instrument's gain [-], and whether it was assumed."""

    relative_std: float
    assumed: bool


def accuracy(test: RangeTest, name: InstrumentName) -> Accuracy:
    """The gain uncertainty of an instrument: x/√3 for a maker's ± x % (GUM 4.3.7).

    Parameters
    ----------
    test : whose sheet states it
    name : of the instrument

    Returns
    -------
    relative standard uncertainty [-], and whether it was stated or assumed
    """
    instrument = getattr(test.sheet.instruments, name, None) if test.sheet.instruments else None
    stated = instrument.accuracy_pct if instrument is not None else None
    percent = INSTRUMENT_PCT[name].value if stated is None else stated
    return Accuracy(rectangular(percent / 100), stated is None)
