"""Readings that cannot all be true: then no number is told, but which of them stands out."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

import numpy as np

from limpet.notices import Notice
from limpet.read.readings import Reading
from limpet.state.remaining import Remaining

#: From this Birge ratio on, or with fewer draws settled than this share, readings contradict each other
#: (handbook section 4).
MOST_BIRGE, LEAST_SETTLED = 3.0, 0.1
#: Codes of a notice that says so.
CONTRADICTIONS: Final = ("readings_contradict", "end_contradicts", "past_what_it_holds")
#: What a reading is called.
_NAMES = {
    "rest": "resting volts",
    "load": "volts under load",
    "gauge": "gauge",
    "shown": "range on the display",
}


def contradiction(remaining: Remaining, readings: Sequence[Reading]) -> Notice | None:
    """That the readings of a ride contradict each other, and which fits the others least; None where they do not.

    Parameters
    ----------
    remaining : the pack's state as the readings leave it
    readings : of the ride, in time

    Notes
    -----
    The search has been begun at several places by then (`uncertain.posterior`): what is left is no false
    minimum, but a reading that is mistyped, or a sheet of another pack.
    """
    posterior = remaining.posterior
    settled = posterior.effective / posterior.scores.shape[1]
    if posterior.birge <= MOST_BIRGE and settled >= LEAST_SETTLED:
        return None
    # In the order in which the model looks at them: volts, the gauge, what the display promises, the ends.
    volts = [item for item in readings if item.kind in ("rest", "load")]
    gauges = [item for item in readings if item.kind == "gauge"]
    ride = remaining.model.ride
    promised = [item for item in readings if item.kind == "shown"] if len(ride.shown.knot) else []
    looked_at = [*volts, *gauges, *promised]
    off = np.abs(posterior.residual)
    worst = int(np.argmax(off))
    if worst >= len(looked_at):
        number = worst - len(looked_at)
        code = "past_what_it_holds" if ride.ended[number] == "running" else "end_contradicts"
        return Notice(code, time_s=float(remaining.times[ride.last_knots[number]]))
    item = looked_at[worst]
    return Notice("readings_contradict", what=_NAMES[item.kind], time_s=item.time_s)
