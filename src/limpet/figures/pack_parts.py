"""Packs used one after another: what each gave, and how far it would have taken the ride."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from limpet.figures.drawn import DrawnFigures, quantity
from limpet.quantity import Quantity
from limpet.read.line import Estimate, Line
from limpet.read.window import RideWindow
from limpet.state.remaining import Remaining

#: A pack of which less than this was used says little of itself [-] (handbook section 7).
TELLS = 0.15


@dataclass(frozen=True, slots=True, kw_only=True)
class PackPart:
    """One pack's part of the way [m], its energy, and the range of it alone, full to cut-off."""

    pack: int
    from_m: float
    to_m: float
    energy: Quantity | None
    range_to_cutoff: Quantity | None


def packs_of(
    ride: RideWindow,
    remaining: Remaining,
    figures: DrawnFigures,
    energy: Estimate | None,
    way: Line | None,
) -> tuple[PackPart, ...] | None:
    """Each pack's own figures; None where only one was used.

    Notes
    -----
    A pack that was hardly used says little of itself: what it would have given is its usable energy,
    of the same kind and age as the others', at the consumption of the whole ride.
    """
    if len(ride.packs) < 2 or way is None:
        return None
    state, model = remaining.state, remaining.model
    first = model.ride.first_knots
    ends = remaining.at_ends(state.stored, state.cut_stored)
    delivered = state.capacity_ah * model.ride.series * (1 - state.lost)
    whole = None
    if figures.range_m is not None:
        whole = quantity(figures.range_m / figures.packs, "m")
    found = []
    for number, (begin, end) in enumerate(ride.packs):
        at = way.at(np.array([begin, end]))
        used = np.maximum(state.stored[first[number]] - ends[number], 0.0)
        share = used / state.usable
        own = whole
        if float(np.median(share)) >= TELLS and figures.distance_m is not None:
            scale = figures.distance_m / max(way.span, 1e-9)
            own = quantity((at[1] - at[0]) * scale / share, "m")
        if energy is not None and energy.gains:
            metered = energy.line.between(begin, end)
            drawn = Quantity.of(metered, "Wh", energy.quantity.relative * abs(metered))
        else:
            drawn = quantity(used * delivered, "Wh")
        found.append(
            PackPart(
                pack=number + 1,
                from_m=float(at[0]),
                to_m=float(at[1]),
                energy=drawn,
                range_to_cutoff=own,
            )
        )
    return tuple(found)
