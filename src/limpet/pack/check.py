"""Packs that cannot be."""

from __future__ import annotations

from limpet.pack.chemistry import FACTS
from limpet.pack.spec import PackSpec


def pack_faults(pack: PackSpec) -> list[tuple[str, str]]:
    """What no single field of a pack can show: voltages at odds with the number of cells.

    Returns
    -------
    (name of the field, what is wrong and what would be right), empty when all is well
    """
    facts = FACTS[pack.chemistry]
    found: list[tuple[str, str]] = []
    for name, volts in (("full_v", pack.full_v), ("cutoff_v", pack.cutoff_v)):
        low = facts.lowest_v * pack.series * 0.8
        high = facts.highest_v * pack.series * 1.1
        if volts is not None and not low <= volts <= high:
            found.append(
                (
                    name,
                    f"is {volts:g} V, which {pack.series} cells of {pack.chemistry} in series "
                    f"cannot have ({low:.0f} to {high:.0f} V); check the volts and the series count",
                )
            )
    if pack.full_v is not None and pack.cutoff_v is not None and pack.cutoff_v >= pack.full_v:
        found.append(
            (
                "cutoff_v",
                f"is {pack.cutoff_v:g} V, not below full_v {pack.full_v:g} V; swap or correct them",
            )
        )
    return found
