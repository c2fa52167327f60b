"""How likely a maker's figure holds, by this ride carried to the speed, load and legs that were claimed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import load_kg
from limpet.carry.road import CARRYING
from limpet.evidence.model import RangeTest
from limpet.evidence.noted import is_assisted
from limpet.figures.drawn import quantity
from limpet.figures.findings import Findings
from limpet.quantity import Quantity
from limpet.state.usual_consumption import road_inputs, taken_wh_per_km

FloatArray = NDArray[np.float64]
Verdict = Literal["held", "missed", "cannot_tell"]
Differs = Literal["faster", "slower", "heavier", "lighter", "cold", "pedalled"]

#: Apart by more than this is another speed, or another load [-, kg] (assumption).
SPEED_APART, LOAD_APART_KG = 0.08, 8.0
#: A maker's figure is of a mild day [°C] (assumption).
MILD_C = 12.0
#: As likely as this it holds, and as unlikely as this it does not [-] (bundle.md).
HELD_FROM, MISSED_TO = 0.95, 0.05
#: A draw lies no lower than this share of its middle [-].
LEAST_SHARE = 0.2
SEED: Final = 13


@dataclass(frozen=True, slots=True, kw_only=True)
class ClaimResult:
    """The claimed distance [m] beside the range as ridden and as claimed, how likely it holds, and what differed."""

    verdict: Verdict
    probability_held: float | None = None
    distance_m: Quantity
    as_claimed_m: Quantity | None = None
    claimed_m: float
    differs: tuple[Differs, ...]


def claim_of(
    found: Findings, to_cutoff: Quantity | None, mean_mps: float | None
) -> ClaimResult | None:
    """What the ride says of the sheet's claim; None where there is no claim or no range.

    Parameters
    ----------
    found : the test's findings, with range in draws
    to_cutoff : range as ridden
    mean_mps : speed while moving [m/s]

    Notes
    -----
    Each draw of the range is carried by the ratio of what the road model takes as ridden and as claimed: at
    the claim's speed, with its load, without legs and with a pack that is not cold, each where the ride
    differs in it. Of what that changes a quarter may be wrong (`CARRYING`). The share of draws that
    reach the claim is the probability that it holds.
    """
    test, claim = found.evidence.test, found.evidence.test.sheet.claim
    drawn_m = found.drawn.range_m
    if claim is None or claim.distance_m is None or to_cutoff is None or drawn_m is None:
        return None
    differs = _differs(test, mean_mps)
    ratio = _carried(found, differs, len(drawn_m))
    carried_m = drawn_m * ratio
    held = float((carried_m >= claim.distance_m).mean())
    verdict: Verdict = "cannot_tell"
    if held >= HELD_FROM:
        verdict = "held"
    elif held <= MISSED_TO:
        verdict = "missed"
    return ClaimResult(
        verdict=verdict,
        probability_held=held,
        distance_m=to_cutoff,
        as_claimed_m=quantity(carried_m, "m", to_cutoff.value * float(np.median(ratio))),
        claimed_m=claim.distance_m,
        differs=differs,
    )


def _carried(found: Findings, differs: tuple[Differs, ...], count: int) -> FloatArray:
    """Range as claimed over range as ridden [-], shape (count,)."""
    evidence, claim = found.evidence, found.evidence.test.sheet.claim
    assert claim is not None
    rng = np.random.default_rng(SEED)
    way = None if evidence.distance is None else evidence.distance.line
    ridden = {
        name: np.maximum(value + std * rng.standard_normal(count), LEAST_SHARE * value)
        for name, (value, std) in road_inputs(
            evidence.test, evidence.ride, way, evidence.hours
        ).items()
    }
    off = rng.standard_normal(count)
    claimed = dict(ridden)
    if claim.speed_mps is not None and {"faster", "slower"} & set(differs):
        claimed["speed"] = np.full(count, claim.speed_mps)
    if claim.load_kg is not None and {"heavier", "lighter"} & set(differs):
        claimed["load"] = np.full(count, claim.load_kg)
    if "pedalled" in differs:
        claimed["legs"] = np.zeros(count)
    if all(claimed[name] is ridden[name] for name in ridden):
        ratio = np.ones(count)
    else:
        ratio = taken_wh_per_km(evidence.test, ridden) / taken_wh_per_km(evidence.test, claimed)
    ratio = ratio * np.exp(CARRYING * np.abs(np.log(ratio)) * off)
    return ratio / found.remaining.value("cold") if "cold" in differs else ratio


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
