"""The inputs of a test as the ride leaves them, for the reader."""

from __future__ import annotations

import numpy as np

from limpet.figures.budget import group_of
from limpet.figures.parts import InputResult
from limpet.state.remaining import Remaining


def listed_inputs(remaining: Remaining) -> tuple[InputResult, ...]:
    """Every input that is a number of its own: pieces of the way and of the curve are not."""
    found = []
    for item in remaining.model.inputs:
        if group_of(item.name) in ("curve", "way", "height", "way_ahead") or item.name.endswith(
            "_read"
        ):
            continue
        draws = remaining.value(item.name)
        found.append(
            InputResult(
                name=item.name,
                value=float(np.median(draws)),
                standard_uncertainty=float(draws.std()),
                source=item.source,
            )
        )
    # One number of a pack, since only the product of the two was ever measured.
    factor = remaining.value("label") * remaining.value("retained")
    found.append(
        InputResult(
            name="capacity_factor",
            value=float(np.median(factor)),
            standard_uncertainty=float(factor.std()),
            source="label and age",
        )
    )
    return tuple(found)
