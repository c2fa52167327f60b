"""What a test's sheet says of mass, of packs side by side and of their warmth, or what is taken for it."""

from __future__ import annotations

from typing import Final

from limpet.assumptions import load_kg
from limpet.evidence.model import RangeTest

#: Uses of several packs in which one at a time carries the current.
IN_TURN: Final = ("in_sequence", "spare")
#: The air where nobody says, for the pack [°C] (assumption).
PACK_TEMP_C = 20.0


def packs_together(test: RangeTest) -> int:
    """Packs that share the current; those used one after another do not, nor one in the bag."""
    return 1 if test.sheet.packs_use in IN_TURN else test.sheet.packs_used or 1


def pack_temp_c(test: RangeTest) -> float:
    """Of the pack as far as is known: the mean of the noted air temperatures [°C]."""
    air = test.sheet.conditions
    temps = [] if air is None else [t for t in (air.temp_start_c, air.temp_end_c) if t is not None]
    temps = temps or [entry.air_temp_c for entry in test.entries if entry.air_temp_c is not None]
    return sum(temps) / len(temps) if temps else PACK_TEMP_C


def mass_kg(test: RangeTest) -> float:
    """All that moves [kg], as noted or assumed."""
    rider, vehicle = test.sheet.rider, test.sheet.vehicle.mass_kg
    load, _ = load_kg(*((None, None) if rider is None else (rider.mass_kg, rider.gear_kg)))
    return load + (25.0 if vehicle is None else vehicle)
