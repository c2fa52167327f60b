"""What a counter's display leaves away: it truncates, so that a count from zero reads up to a step low."""

from __future__ import annotations

from typing import Final

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]

#: A tenth of a mile and of a kilometre [m]: what displays of one decimal count by. Finer ones leave away
#: less than a metre or five, and whole numbers may be the rider's own rounding.
STEPS_M: Final[tuple[float, ...]] = (160.9344, 100.0)
#: How far a reading may lie off its step, as some files are rounded to a metre [m].
OFF_STEP_M = 0.6
#: As many steps make a whole mile or kilometre.
STEPS_OF_A_WHOLE = 10


def display_step_m(readings_m: FloatArray) -> float | None:
    """The step that a display of distance counts by, as its readings themselves show it.

    Parameters
    ----------
    readings_m : what was read [m], shape (n,)

    Returns
    -------
    the step [m]; None where the readings are finer, are none, or are all whole miles or kilometres
    """
    read = readings_m[readings_m > OFF_STEP_M]
    for step in STEPS_M:
        counted = np.round(read / step)
        if len(read) and (np.abs(read - counted * step) <= OFF_STEP_M).all():
            shows_a_decimal = (counted % STEPS_OF_A_WHOLE != 0).any()
            return step if shows_a_decimal else None
    return None


def left_away_m(
    readings_m: FloatArray, step_m: float, *, truncates: bool
) -> tuple[FloatArray, float]:
    """What is to be added to each reading's count since the first, and the u that stays.

    Parameters
    ----------
    readings_m : in their order [m], shape (n,), n >= 1
    step_m : of the display
    truncates : False for one that rounds

    Returns
    -------
    m, shape (n,), and one standard uncertainty of the whole [m]

    Notes
    -----
    What is left away is spread evenly over a step (GUM 4.3.7): half of it on average, u = step/√12. It
    falls out between two readings of one count, and stays where the count began at an exact zero: at a
    first reading of zero, and after each reset.
    """
    from_zero = bool(readings_m[0] <= OFF_STEP_M)
    resets = np.concatenate([[0], np.cumsum(np.diff(readings_m) < 0)])
    added = step_m / 2 * (resets + from_zero) if truncates else np.zeros(len(readings_m))
    if from_zero:
        added[0] = 0.0
    read_off = 1 + int(resets[-1]) + (not from_zero)
    return added, step_m * float(np.sqrt(read_off / 12))
