"""How long a loop is, from several readings of it."""

from __future__ import annotations

from math import hypot, sqrt

import numpy as np

from limpet.errors import OutOfRangeError
from limpet.quantity import COVERAGE, Quantity, rectangular
from limpet.uncertain.student import student_quantile

#: A reading further from the median than this share asks for another look [-] (handbook
#: section 17: a lap 20% off its fellows).
ODD_SHARE = 0.20


def loop_length(readings_m: list[float], accuracy_pct: float = 0.0) -> Quantity:
    """Length of a loop from several readings of it.

    Parameters
    ----------
    readings_m : one per lap or instrument [m]
    accuracy_pct : the maker's "± x %" that all readings share [%]

    Returns
    -------
    mean [m] with u² = s²/n + (accuracy/√3)², and its 95% interval: Student's t for the scatter,
    2u for the accuracy

    Raises
    ------
    OutOfRangeError
        Without readings, with a length of 0 or less, or with one 20% off the others' median.

    Notes
    -----
    One reading has no scatter of its own; 1% is *assumed*.

    References
    ----------
    JCGM 100:2008 (GUM), 4.2.3 and G.3.2; a shared error does not average out, 5.2.4.
    """
    if not readings_m:
        raise OutOfRangeError("loop_length: no readings; ride the loop once and note the distance")
    values = np.array(readings_m, dtype=np.float64)
    if not (np.isfinite(values).all() and (values > 0).all()):
        worst = values[~(np.isfinite(values) & (values > 0))][0]
        raise OutOfRangeError(f"loop_length: a reading is {worst:g} m; expected lengths above 0")
    middle = float(np.median(values))
    off = np.abs(values / middle - 1)
    if len(values) > 2 and off.max() > ODD_SHARE:
        odd = float(values[int(np.argmax(off))])
        raise OutOfRangeError(
            f"loop_length: {odd:.0f} m is {100 * off.max():.0f}% off the others' {middle:.0f} m; "
            "was a lap missed or mistyped? Leave it out or correct it"
        )
    mean = float(values.mean())
    count = len(values)
    scatter = float(values.std(ddof=1)) / sqrt(count) if count > 1 else 0.01 * mean
    shared = rectangular(accuracy_pct / 100) * mean
    coverage = student_quantile((1 + COVERAGE) / 2, count - 1) if count > 1 else 2.0
    half = hypot(coverage * scatter, 2 * shared)
    return Quantity(
        value=mean,
        unit="m",
        standard_uncertainty=hypot(scatter, shared),
        low=mean - half,
        high=mean + half,
    )
