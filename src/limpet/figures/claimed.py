"""Whether a maker's figure held on this ride, and what was different from what was claimed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from limpet.assumptions import load_kg
from limpet.evidence.model import RangeTest
from limpet.evidence.noted import is_assisted
from limpet.quantity import Quantity

Verdict = Literal["held", "missed", "cannot_tell"]
Differs = Literal["faster", "slower", "heavier", "lighter", "cold", "pedalled"]

#: Apart by more than this is another speed, or another load [-, kg] (assumption).
SPEED_APART, LOAD_APART_KG = 0.08, 8.0
#: A maker's figure is of a mild day [°C] (assumption).
MILD_C = 12.0
_HARDER: tuple[Differs, ...] = ("faster", "heavier", "cold")


@dataclass(frozen=True, slots=True, kw_only=True)
class ClaimResult:
    """The claimed distance [m] beside the range as ridden, the verdict, and what differed."""

    verdict: Verdict
    distance_m: Quantity
    claimed_m: float
    differs: tuple[Differs, ...]


def claim_of(
    test: RangeTest, to_cutoff: Quantity | None, mean_mps: float | None
) -> ClaimResult | None:
    """The verdict on the sheet's claim; None where there is no claim or no range.

    Parameters
    ----------
    mean_mps : speed while moving [m/s]

    Notes
    -----
    Held where all of the interval reaches it, missed where none does. A figure that was missed on a
    harder ride than claimed, or held on an easier one, is not judged.
    """
    claim = test.sheet.claim
    if claim is None or claim.distance_m is None or to_cutoff is None:
        return None
    differs = _differs(test, mean_mps)
    harder = any(item in _HARDER for item in differs)
    easier = any(item not in _HARDER for item in differs)
    verdict: Verdict = "cannot_tell"
    if to_cutoff.low >= claim.distance_m and not easier:
        verdict = "held"
    elif to_cutoff.high < claim.distance_m and not harder:
        verdict = "missed"
    return ClaimResult(
        verdict=verdict, distance_m=to_cutoff, claimed_m=claim.distance_m, differs=differs
    )


def _differs(test: RangeTest, mean_mps: float | None) -> tuple[Differs, ...]:
    claim, found = test.sheet.claim, list[Differs]()
    assert claim is not None
    if claim.speed_mps is not None and mean_mps is not None:
        if mean_mps > claim.speed_mps * (1 + SPEED_APART):
            found.append("faster")
        elif mean_mps < claim.speed_mps * (1 - SPEED_APART):
            found.append("slower")
    rider = test.sheet.rider
    if claim.load_kg is not None and rider is not None and rider.mass_kg is not None:
        load, _ = load_kg(rider.mass_kg, rider.gear_kg)
        if load > claim.load_kg + LOAD_APART_KG:
            found.append("heavier")
        elif load < claim.load_kg - LOAD_APART_KG:
            found.append("lighter")
    air = test.sheet.conditions
    temps = [] if air is None else [t for t in (air.temp_start_c, air.temp_end_c) if t is not None]
    if temps and sum(temps) / len(temps) < MILD_C:
        found.append("cold")
    if is_assisted(test):
        found.append("pedalled")
    return tuple(found)
