"""What a pause between two samples is: the logger's own rhythm, or a gap."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

#: A pause between samples is a gap when longer than this and than five usual steps [s].
LEAST_GAP_S = 10.0
GAP_STEPS = 5.0


def gap_threshold_s(time_s: NDArray[np.float64]) -> float:
    """The step [s] above which samples have a gap: max(5 × time-weighted median step, 10 s).

    Parameters
    ----------
    time_s : increasing [s], shape (n,)

    Notes
    -----
    Half of the logged time lies in steps longer than the time-weighted median: a logger that writes
    every second when busy and every minute when steady has no gaps. Handbook section 4; common
    practice, no source. A single pause may itself be most of the time: the longest step counts only
    where others of its kind stand beside it.
    """
    if len(time_s) < 2:
        return LEAST_GAP_S
    steps = np.diff(time_s)
    if float(steps.max()) <= LEAST_GAP_S:
        # No step can be a gap, whatever the median: it need not be found.
        return LEAST_GAP_S
    order = np.sort(steps)
    # What is longer than all but a hundredth of the steps, and than ten times the usual one, is the
    # exception whose weight is in question: it must not speak for itself.
    usual = float(np.median(order))
    rare = order > 10 * usual
    if 0 < rare.sum() <= max(0.01 * len(order), 2):
        order = order[~rare]
    running = np.cumsum(order)
    middle = float(order[np.searchsorted(running, running[-1] / 2)])
    return max(GAP_STEPS * middle, LEAST_GAP_S)
