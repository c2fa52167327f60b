"""The verdict of a test: what it means in a sentence or two, as codes and values, for each purpose.

A band wider than its figure is told as a span, and what would narrow it stands in the same breath.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, sqrt
from typing import Final

from limpet.assumptions import RUN_TO_RUN
from limpet.evidence.model import RangeTest
from limpet.figures.budget import Advice
from limpet.figures.claimed import ClaimResult, Differs
from limpet.figures.plan_on import PlanOn
from limpet.notices import Notice
from limpet.pack.warmth import REFERENCE_TEMP_C
from limpet.quantity import COVERAGE_FACTOR, SPAN_OF_FIGURE, Quantity
from limpet.read.sheet import pack_temp_c
from limpet.words import METHODS

#: Colder than this a pack's capacity is worth a word [°C] (assumption).
COOL_C: Final = 18.0
#: What made a ride harder or easier than what was claimed.
_HOW: Final[dict[Differs, str]] = {
    "faster": "ridden faster than claimed",
    "slower": "ridden slower than claimed",
    "heavier": "with a heavier load than claimed",
    "lighter": "with a lighter load than claimed",
    "cold": "on a cold day",
    "pedalled": "with help from the pedals",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """What a verdict is made of; None is "the evidence cannot give it"."""

    wh_per_km: Quantity | None
    distance: Quantity | None
    share: Quantity | None
    range_m: Quantity | None
    measured: bool
    reserve: float
    plan_on: PlanOn | None
    retained: Quantity | None
    #: Capacity as ridden over that at 25 °C.
    cold: float | None
    claim: ClaimResult | None
    #: The method that the energy is taken from.
    method: str | None
    advice: tuple[Advice, ...]


def is_span(quantity: Quantity) -> bool:
    """Whether an interval is wider than its figure: then the figure alone says too much."""
    return quantity.high - quantity.low > SPAN_OF_FIGURE * abs(quantity.value)


def verdict_of(test: RangeTest, found: Found) -> tuple[Notice, ...]:
    """The sentences, the answer to the test's own question first.

    Notes
    -----
    Whatever was asked, a range that is a span is told as one first: every other answer hangs on it.
    """
    purpose = test.sheet.purpose
    if found.range_m is None or found.plan_on is None:
        asked = _ageing(found) if purpose == "ageing" and found.retained else []
        return (*asked, *_used(found), Notice("verdict_range_unknown"))
    if is_span(found.range_m):
        return (*_thin(found), *_used(found))
    who = _who(test)
    reach, plan = found.range_m.value, found.plan_on.distance_m
    as_asked: list[Notice]
    if purpose == "floor":
        code = "verdict_floor_measured" if found.measured else "verdict_floor"
        floor = Notice(code, plan_m=plan, reserve=found.reserve, who=who, range_m=reach)
        return (floor, *_used(found))
    if purpose == "claim":
        as_asked = _claim(found)
        if found.claim is not None and found.claim.verdict != "cannot_tell":
            return (*as_asked, *_plan(found), *_used(found))
    elif purpose == "ageing":
        as_asked = _ageing(found)
    elif purpose == "temperature":
        told = _temperature(test, found)
        ranged = any(notice.code == "verdict_temperature" for notice in told)
        return (*told, *(_plan(found) if ranged else _range(found, who)))
    elif purpose == "compare":
        return (*_used(found), *_compare(found), *_range(found, who))
    elif purpose == "economy" and found.wh_per_km is not None and not is_span(found.wh_per_km):
        return (
            Notice(
                "verdict_economy",
                range_m=reach,
                wh_per_km=found.wh_per_km.value,
                plan_m=plan,
            ),
        )
    elif purpose == "commute" and found.distance is not None and found.share is not None:
        return (
            Notice(
                "verdict_commute",
                way_m=found.distance.value,
                share=found.share.value,
                low=max(found.share.low, 0.0),
                high=found.share.high,
                reserve=found.reserve,
                plan_m=plan,
            ),
            *_used(found),
        )
    else:
        return (*_used(found), *_range(found, who))
    return (*as_asked, *_range(found, who))


def _who(test: RangeTest) -> str:
    rider = test.sheet.rider
    return rider.name if rider is not None and rider.name else "you"


def _used(found: Found) -> list[Notice]:
    used = found.wh_per_km
    if used is None:
        return [Notice("verdict_use_unknown")]
    if is_span(used):
        return [
            Notice("verdict_used_span", low_wh_per_km=max(used.low, 0.0), high_wh_per_km=used.high)
        ]
    half = (used.high - used.low) / 2
    return [Notice("verdict_used", wh_per_km=used.value, off_wh_per_km=half)]


def _range(found: Found, who: str) -> list[Notice]:
    assert found.range_m is not None
    assert found.plan_on is not None
    code = "verdict_range_measured" if found.measured else "verdict_range"
    return [Notice(code, who=who, range_m=found.range_m.value, plan_m=found.plan_on.distance_m)]


def _plan(found: Found) -> list[Notice]:
    """The promise alone, where the range has been said already."""
    assert found.plan_on is not None
    return [Notice("verdict_plan", plan_m=found.plan_on.distance_m, reserve=found.reserve)]


def _thin(found: Found) -> list[Notice]:
    """A range that is a span, and the one thing that would narrow it most."""
    assert found.range_m is not None
    what = METHODS[found.method][1] if found.method in METHODS else "what is noted"
    said = Notice(
        "verdict_range_span",
        what=what,
        low_m=max(found.range_m.low, 0.0),
        high_m=found.range_m.high,
    )
    about = [item for item in found.advice if item.figure == "range_to_cutoff"]
    best = min(about, key=lambda item: item.then, default=None)
    return [said] if best is None else [said, Notice(f"take_{best.code}")]


def _claim(found: Found) -> list[Notice]:
    claim, reach = found.claim, found.range_m
    assert reach is not None
    if claim is None:
        return [Notice("verdict_claim_unsaid")]
    how = (
        " and ".join(_HOW[item] for item in claim.differs) or "on what was noted of load and speed"
    )
    if claim.verdict == "cannot_tell":
        return [
            Notice(
                "verdict_claim_open",
                claimed_m=claim.claimed_m,
                low_m=max(reach.low, 0.0),
                high_m=reach.high,
                how=how,
            )
        ]
    apart = abs(reach.value / claim.claimed_m - 1)
    code = "verdict_claim_held" if claim.verdict == "held" else "verdict_claim_missed"
    return [Notice(code, claimed_m=claim.claimed_m, range_m=reach.value, apart=apart, how=how)]


def _ageing(found: Found) -> list[Notice]:
    left = found.retained
    if left is None:
        return [Notice("verdict_ageing_unknown")]
    return [
        Notice(
            "verdict_ageing",
            retained=left.value,
            low=max(left.low, 0.0),
            high=left.high,
            at_c=REFERENCE_TEMP_C,
        )
    ]


def _temperature(test: RangeTest, found: Found) -> list[Notice]:
    air = test.sheet.conditions
    noted = [entry.air_temp_c for entry in test.entries if entry.air_temp_c is not None]
    said = air is not None and (air.temp_start_c is not None or air.temp_end_c is not None)
    if not said and not noted:
        return [Notice("verdict_temperature_unsaid"), *_used(found)]
    if found.wh_per_km is None or found.range_m is None or is_span(found.wh_per_km):
        return _used(found)
    temp_c = pack_temp_c(test)
    told = [
        Notice(
            "verdict_temperature",
            temp_c=temp_c,
            range_m=found.range_m.value,
            wh_per_km=found.wh_per_km.value,
        )
    ]
    if found.cold is not None and temp_c < COOL_C and found.cold < 1:
        told.append(Notice("verdict_temperature_pack", lost=1 - found.cold, at_c=REFERENCE_TEMP_C))
    return told


def _compare(found: Found) -> list[Notice]:
    """From how much on two single runs are told apart.

    Notes
    -----
    √2 · √(u² + s²) at k = 2: both runs as uncertain as this one, s the spread from run to run
    (handbook section 12); what both have in common would make it less.
    """
    used = found.wh_per_km
    if used is None or is_span(used):
        return []
    one = hypot(used.standard_uncertainty / used.value, RUN_TO_RUN.std)
    return [Notice("verdict_compare", apart=COVERAGE_FACTOR * sqrt(2) * one)]
