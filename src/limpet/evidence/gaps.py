"""What a pause between two samples is: the logger's own rhythm, or a gap."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

#: A pause between samples is a gap when longer than this and than five median steps [s].
LEAST_GAP_S = 10.0
GAP_STEPS = 5.0


def gap_threshold_s(time_s: NDArray[np.float64]) -> float:
    """The step [s] above which samples have a gap: max(5 × median step, 10 s).

    Parameters
    ----------
    time_s : increasing [s], shape (n,)

    Notes
    -----
    Handbook section 4; common practice, no source.
    """
    if len(time_s) < 2:
        return LEAST_GAP_S
    steps = np.diff(time_s)
    if float(steps.max()) <= LEAST_GAP_S:
        # No step can be a gap, whatever the median: it need not be found.
        return LEAST_GAP_S
    return max(GAP_STEPS * float(np.median(steps)), LEAST_GAP_S)
