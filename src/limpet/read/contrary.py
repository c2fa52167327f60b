"""Distances that cannot all be of one ride: those that agree are believed, or none is told."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from limpet.notices import Notice
from limpet.quantity import agree
from limpet.read.choose import least_uncertain
from limpet.read.line import Estimate
from limpet.units import METRES_PER_KM, METRES_PER_MILE
from limpet.words import METHODS

#: Two distances of one ride may differ by this factor: a scale, a late tracker, a lap more (assumption).
MOST_APART = 1.5
#: Slips of a unit: how far one is over the other, and within what of it.
_SLIPS: Final = (
    (METRES_PER_MILE / METRES_PER_KM, "km_mi"),
    (METRES_PER_KM, "km_m"),
    (METRES_PER_MILE, "mi_m"),
)
_WITHIN = 0.08
#: What was only planned contradicts nothing that was read.
_NOT_READ = ("route",)


def told_apart(found: Sequence[Estimate]) -> tuple[Estimate | None, list[Notice]]:
    """The distance to take of several, and what is to be asked where they contradict each other.

    Parameters
    ----------
    found : each method's distance

    Returns
    -------
    the least uncertain of those that agree with another; None where two stand against each other alone
    """
    best = least_uncertain(found)
    read = [item for item in found if item.method not in _NOT_READ]
    if best is None or best not in read:
        return best, []
    against = [item for item in read if _factor(best, item) > MOST_APART]
    if not against:
        return best, []
    other = least_uncertain(against)
    assert other is not None
    told = [item for item in read if any(_agree(item, one) for one in read if one is not item)]
    chosen = least_uncertain(told)
    if chosen is not None:
        # Two or more agree: the one that stands alone is shown, and does not widen what they say.
        return chosen, []
    question = Notice(
        "distances_contradict",
        first=METHODS[best.method][1], first_m=best.quantity.value,
        second=METHODS[other.method][1], second_m=other.quantity.value,
        slip=_slip(_factor(best, other)),
    )  # fmt: skip
    return None, [question]


def within_reach(chosen: Estimate | None, found: Sequence[Estimate]) -> list[Estimate]:
    """Those that may be of the same ride as the chosen one; a slip of a unit does not widen it."""
    return [item for item in found if chosen is None or _factor(chosen, item) <= MOST_APART]


def _factor(one: Estimate, other: Estimate) -> float:
    small, large = sorted((one.quantity.value, other.quantity.value))
    return large / max(small, 1e-6)


def _agree(one: Estimate, other: Estimate) -> bool:
    return agree(one.quantity, other.quantity)


def _slip(factor: float) -> str:
    for times, code in _SLIPS:
        if abs(factor / times - 1) <= _WITHIN:
            return code
    return "misread"
