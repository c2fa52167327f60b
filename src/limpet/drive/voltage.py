"""Open-circuit voltage for a forecast: the chemistry's curve, or a straight line for want of one."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from limpet.pack import Chemistry, NoCurveError, OcvCurve, ocv_curve
from limpet.pack.family import LINES


@lru_cache(maxsize=8)
def voltage_curve(chemistry: Chemistry) -> OcvCurve:
    """The curve of a chemistry, or a line between its resting voltages (*assumption*)."""
    try:
        return ocv_curve(chemistry)
    except NoCurveError:
        empty, full, _ = LINES[chemistry]
        z = np.linspace(0.0, 1.0, 101)
        return OcvCurve.of(z, empty + (full - empty) * z, np.zeros_like(z))


def is_line(chemistry: Chemistry) -> bool:
    """Whether `voltage_curve` had to make do with a straight line."""
    return chemistry in LINES
