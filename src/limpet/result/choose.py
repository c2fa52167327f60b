"""Which method is used: the least uncertain; the others check it and are never averaged in."""

from __future__ import annotations

from dataclasses import replace
from math import hypot

from limpet.notices import Notice
from limpet.quantity import COVERAGE_FACTOR, Quantity, agree
from limpet.result.line import Estimate
from limpet.result.model import MethodResult
from limpet.words import CULPRITS, METHODS

#: What these say is shown beside the others; that they lie apart is what is to be expected of them.
SIDELONG = ("linear_voltage", "gauge", "route")


def least_uncertain(found: list[Estimate]) -> Estimate | None:
    """The estimate with the smallest relative standard uncertainty; None of none."""
    return min(found, key=lambda item: item.quantity.relative, default=None)


def widened(used: Estimate | None, others: list[Estimate]) -> Estimate | None:
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


def side_by_side(found: list[Estimate], used: Estimate | None) -> tuple[MethodResult, ...]:
    """All methods with the one used marked and the others judged against it (E_n ≤ 1)."""
    return tuple(
        MethodResult(
            method=item.method,
            quantity=item.quantity,
            used=item is used,
            agrees=used is None or agree(item.quantity, used.quantity),
            note=item.note,
        )
        for item in found
    )


def disagreements(what: str, methods: tuple[MethodResult, ...]) -> list[Notice]:
    """A sentence for every method that the one used cannot be reconciled with."""
    used = next((method for method in methods if method.used), None)
    if used is None:
        return []
    notices = []
    for method in methods:
        if method.agrees or method.method in SIDELONG:
            continue
        more = method.quantity.value / used.quantity.value - 1
        notices.append(
            Notice(
                f"{what}_methods_disagree",
                other=METHODS[method.method][1],
                share=abs(more),
                side="more" if more > 0 else "less",
                used=METHODS[used.method][1],
                culprit=CULPRITS[method.method],
            )
        )
    return notices
