"""All methods of a figure side by side: the one used, and whether the others agree with it."""

from __future__ import annotations

from collections.abc import Sequence

from limpet.figures.parts import MethodResult
from limpet.notices.remarks import said
from limpet.quantity import agree
from limpet.read.line import Estimate


def side_by_side(found: Sequence[Estimate], used: Estimate | None) -> tuple[MethodResult, ...]:
    """All methods with the one used marked and the others judged against it (E_n ≤ 1)."""
    return tuple(
        MethodResult(
            method=item.method,
            quantity=item.quantity,
            used=item is used,
            agrees=used is None or agree(item.quantity, used.quantity),
            note=said(item.remarks),
        )
        for item in found
    )
