"""Which method is used: the least uncertain; the others check it and are never averaged in."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import hypot

from limpet.quantity import COVERAGE_FACTOR, Quantity, agree
from limpet.read.line import Estimate


def least_uncertain(found: Sequence[Estimate]) -> Estimate | None:
    """The estimate with the smallest relative standard uncertainty; None of none.

    Parameters
    ----------
    found : estimates of one figure; None among them are passed over
    """
    return min(found, key=lambda item: item.quantity.relative, default=None)


def widened(used: Estimate | None, others: Sequence[Estimate]) -> Estimate | None:
    """The estimate used, as uncertain as it takes to hold those that it cannot be reconciled with."""
    if used is None:
        return None
    apart = [
        abs(item.quantity.value - used.quantity.value)
        for item in others
        if item is not used and not agree(item.quantity, used.quantity)
    ]
    if not apart:
        return used
    more = max(apart) / COVERAGE_FACTOR
    std = hypot(used.quantity.standard_uncertainty, more)
    return replace(
        used,
        quantity=Quantity.of(used.quantity.value, used.quantity.unit, std),
        other_std=hypot(used.other_std, more),
    )
