"""What to say of methods that cannot be reconciled with the one used."""

from __future__ import annotations

from limpet.figures.parts import MethodResult
from limpet.notices import Notice
from limpet.words import CULPRITS, METHODS

#: What these say is shown beside the others; that they lie apart is what is to be expected of them.
SIDELONG = ("linear_voltage", "gauge", "route")


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
