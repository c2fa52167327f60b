"""The verdict of a test: what it means in a sentence or two, as codes and values, for each purpose.

A band wider than its figure is told as a span, and what would narrow it stands in the same breath.
"""

from __future__ import annotations

from collections.abc import Callable
from math import hypot, sqrt
from typing import Final

from limpet.assumptions import RUN_TO_RUN
from limpet.evidence.model import RangeTest
from limpet.figures.claimed import Differs
from limpet.figures.figures import Figures
from limpet.notices import Notice
from limpet.pack.warmth import REFERENCE_TEMP_C
from limpet.quantity import COVERAGE_FACTOR, SPAN_OF_FIGURE, Quantity
from limpet.read.stated import pack_temp_c
from limpet.words import METHODS

#: Colder than this a pack's capacity is worth a word [°C] (assumption).
COOL_C: Final = 18.0
#: What a ride that differed from the claim was brought to.
_HOW: Final[dict[Differs, str]] = {
    "faster": "its speed",
    "slower": "its speed",
    "heavier": "its load",
    "lighter": "its load",
    "cold": "a mild day",
    "pedalled": "no help from legs",
}


def is_span(quantity: Quantity) -> bool:
    """Whether an interval is wider than its figure: then the figure alone says too much."""
    return quantity.high - quantity.low > SPAN_OF_FIGURE * abs(quantity.value)


def verdict_of(test: RangeTest, figures: Figures) -> tuple[Notice, ...]:
    """The sentences, the answer to the test's own question first.

    Notes
    -----
    Whatever was asked, a range that is a span is told as one first: every other answer hangs on it.
    """
    purpose = test.sheet.purpose
    if figures.range_to_cutoff is None or figures.plan_on is None:
        asked = _ageing(figures) if purpose == "ageing" and figures.pack.retained_fraction else []
        told = "verdict_range_unknown" if figures.contradiction is None else "verdict_contradicted"
        return (*asked, *_used(figures), Notice(told))
    if is_span(figures.range_to_cutoff):
        return (*_thin(figures), *_used(figures))
    answer = _ANSWERS.get(purpose, _as_ridden) if purpose is not None else _as_ridden
    return tuple(answer(test, figures, figures.range_to_cutoff.value, figures.plan_on.distance_m))


def _as_ridden(test: RangeTest, figures: Figures, range_m: float, plan_m: float) -> list[Notice]:
    return [*_used(figures), _range(test, figures, range_m, plan_m)]


def _floor(test: RangeTest, figures: Figures, range_m: float, plan_m: float) -> list[Notice]:
    code = "verdict_floor_measured" if figures.range_measured else "verdict_floor"
    floor = Notice(code, plan_m=plan_m, reserve=figures.reserve, who=_who(test), range_m=range_m)
    return [floor, *_used(figures)]


def _claimed(test: RangeTest, figures: Figures, range_m: float, plan_m: float) -> list[Notice]:
    if figures.claim is not None and figures.claim.verdict != "cannot_tell":
        return [*_claim(figures), _plan(figures, plan_m), *_used(figures)]
    return [*_claim(figures), _range(test, figures, range_m, plan_m)]


def _aged(test: RangeTest, figures: Figures, range_m: float, plan_m: float) -> list[Notice]:
    return [*_ageing(figures), _range(test, figures, range_m, plan_m)]


def _weathered(test: RangeTest, figures: Figures, range_m: float, plan_m: float) -> list[Notice]:
    told = _temperature(test, figures, range_m)
    ranged = any(notice.code == "verdict_temperature" for notice in told)
    last = _plan(figures, plan_m) if ranged else _range(test, figures, range_m, plan_m)
    return [*told, last]


def _compared(test: RangeTest, figures: Figures, range_m: float, plan_m: float) -> list[Notice]:
    return [*_used(figures), *_compare(figures), _range(test, figures, range_m, plan_m)]


def _economy(test: RangeTest, figures: Figures, range_m: float, plan_m: float) -> list[Notice]:
    used = _per_km(figures)
    if used is None or is_span(used):
        return _as_ridden(test, figures, range_m, plan_m)
    return [Notice("verdict_economy", range_m=range_m, wh_per_km=used.value, plan_m=plan_m)]


def _commute(test: RangeTest, figures: Figures, range_m: float, plan_m: float) -> list[Notice]:
    way, share = figures.distance, figures.energy_used_fraction
    if way is None or share is None:
        return _as_ridden(test, figures, range_m, plan_m)
    daily = Notice(
        "verdict_commute",
        way_m=way.value,
        share=share.value,
        low=max(share.low, 0.0),
        high=share.high,
        reserve=figures.reserve,
        plan_m=plan_m,
    )
    return [daily, *_used(figures)]


#: How a test answers what it was ridden for; every other purpose is answered as it was ridden.
_ANSWERS: Final[dict[str, Callable[[RangeTest, Figures, float, float], list[Notice]]]] = {
    "floor": _floor,
    "claim": _claimed,
    "ageing": _aged,
    "temperature": _weathered,
    "compare": _compared,
    "economy": _economy,
    "commute": _commute,
}


def _per_km(figures: Figures) -> Quantity | None:
    return figures.consumption.wh_per_km if figures.consumption is not None else None


def _cold(figures: Figures) -> float | None:
    """Capacity as ridden over that at 25 °C [-]."""
    capacity, reference = figures.pack.capacity_ah, figures.pack.at_25_degc
    return (
        None
        if capacity is None or reference is None
        else capacity.value / reference.capacity_ah.value
    )


def _who(test: RangeTest) -> str:
    rider = test.sheet.rider
    return rider.name if rider is not None and rider.name else "you"


def _used(figures: Figures) -> list[Notice]:
    used = _per_km(figures)
    if used is None:
        return [Notice("verdict_use_unknown")]
    if is_span(used):
        return [
            Notice("verdict_used_span", low_wh_per_km=max(used.low, 0.0), high_wh_per_km=used.high)
        ]
    half = (used.high - used.low) / 2
    return [Notice("verdict_used", wh_per_km=used.value, off_wh_per_km=half)]


def _range(test: RangeTest, figures: Figures, range_m: float, plan_m: float) -> Notice:
    code = "verdict_range_measured" if figures.range_measured else "verdict_range"
    return Notice(code, who=_who(test), range_m=range_m, plan_m=plan_m)


def _plan(figures: Figures, plan_m: float) -> Notice:
    """The promise alone, where the range has been said already."""
    return Notice("verdict_plan", plan_m=plan_m, reserve=figures.reserve)


def _thin(figures: Figures) -> list[Notice]:
    """A range that is a span, and the one thing that would narrow it most."""
    assert figures.range_to_cutoff is not None
    used = figures.energy_estimate
    what = METHODS[used.method][1] if used is not None else "what is noted"
    said = Notice(
        "verdict_range_span",
        what=what,
        low_m=max(figures.range_to_cutoff.low, 0.0),
        high_m=figures.range_to_cutoff.high,
    )
    about = [item for item in figures.advice if item.figure == "range_to_cutoff"]
    best = min(about, key=lambda item: item.then, default=None)
    return [said] if best is None else [said, Notice(f"take_{best.code}")]


def _claim(figures: Figures) -> list[Notice]:
    claim = figures.claim
    if claim is None:
        return [Notice("verdict_claim_unsaid")]
    reach, held = claim.as_claimed_m, claim.probability_held
    assert reach is not None
    assert held is not None
    brought = dict.fromkeys(_HOW[item] for item in claim.differs)
    how = f"adjusted to {' and '.join(brought)}" if brought else "as ridden"
    said: dict[str, float | str] = {"claimed_m": claim.claimed_m, "held": held, "how": how}
    if claim.verdict == "cannot_tell":
        low_m, high_m = max(reach.low, 0.0), reach.high
        return [Notice("verdict_claim_open", low_m=low_m, high_m=high_m, **said)]
    apart = abs(reach.value / claim.claimed_m - 1)
    code = "verdict_claim_held" if claim.verdict == "held" else "verdict_claim_missed"
    return [Notice(code, range_m=reach.value, apart=apart, **said)]


def _ageing(figures: Figures) -> list[Notice]:
    warm = figures.pack.at_25_degc
    left = warm.retained_fraction if warm is not None else None
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


def _temperature(test: RangeTest, figures: Figures, range_m: float) -> list[Notice]:
    air = test.sheet.conditions
    noted = [entry.air_temp_c for entry in test.entries if entry.air_temp_c is not None]
    said = air is not None and (air.temp_start_c is not None or air.temp_end_c is not None)
    if not said and not noted:
        return [Notice("verdict_temperature_unsaid"), *_used(figures)]
    used, cold = _per_km(figures), _cold(figures)
    if used is None or is_span(used):
        return _used(figures)
    temp_c = pack_temp_c(test)
    told = [Notice("verdict_temperature", temp_c=temp_c, range_m=range_m, wh_per_km=used.value)]
    if cold is not None and temp_c < COOL_C and cold < 1:
        told.append(Notice("verdict_temperature_pack", lost=1 - cold, at_c=REFERENCE_TEMP_C))
    return told


def _compare(figures: Figures) -> list[Notice]:
    """From how much on two single runs are told apart.

    Notes
    -----
    √2 · √(u² + s²) at k = 2: both runs as uncertain as this one, s the spread from run to run
    (handbook section 12); what both have in common would make it less.
    """
    used = _per_km(figures)
    if used is None or is_span(used):
        return []
    one = hypot(used.standard_uncertainty / used.value, RUN_TO_RUN.std)
    return [Notice("verdict_compare", apart=COVERAGE_FACTOR * sqrt(2) * one)]
