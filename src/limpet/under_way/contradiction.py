"""Readings that cannot all be true: then no number is told, but which of them stands out."""

from __future__ import annotations

import numpy as np

from limpet.notices import Notice
from limpet.under_way.now import Now

#: From this Birge ratio on, or with fewer draws settled than this share, readings contradict each other
#: (handbook section 4).
MOST_BIRGE, LEAST_SETTLED = 3.0, 0.1
#: What a reading is called.
_NAMES = {
    "rest": "volts at rest",
    "load": "volts under load",
    "gauge": "gauge",
    "shown": "range on the display",
}


def contradiction(now: Now) -> Notice | None:
    """That the readings of a ride contradict each other, and which fits the others least; None where they do not.

    Notes
    -----
    The search has been begun at several places by then (`uncertain.posterior`): what is left is no false
    minimum, but a reading that is mistyped, or a sheet of another pack.
    """
    posterior = now.found.remaining.posterior
    settled = posterior.effective / posterior.scores.shape[1]
    if posterior.birge <= MOST_BIRGE and settled >= LEAST_SETTLED:
        return None
    # In the order in which the model looks at them: volts, the gauge, what the display promises.
    volts = [item for item in now.found.evidence.readings if item.kind in ("rest", "load")]
    others = [
        [item for item in now.found.evidence.readings if item.kind == kind]
        for kind in ("gauge", "shown")
    ]
    looked_at = [*volts, *others[0], *others[1]][: len(posterior.residual)]
    if not looked_at:
        return None
    worst = looked_at[int(np.argmax(np.abs(posterior.residual[: len(looked_at)])))]
    return Notice("readings_contradict", what=_NAMES[worst.kind], time_s=worst.time_s)
