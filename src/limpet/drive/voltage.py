"""Open-circuit voltage for a forecast: the chemistry's curve, or a straight line for want of one."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from limpet.pack import Chemistry, NoCurveError, OcvCurve, ocv_curve

#: Resting volts of a cell, empty and full, where there is no curve (common practice, no source):
#: a 12-V lead-acid battery rests at 11.6 V empty and 12.8 V full; LMO as a layered oxide.
_LINES: dict[Chemistry, tuple[float, float]] = {
    "lead_acid_agm": (1.93, 2.14),
    "lead_acid_flooded": (1.93, 2.12),
    "lmo": (3.3, 4.18),
}


@lru_cache(maxsize=8)
def voltage_curve(chemistry: Chemistry) -> OcvCurve:
    """The curve of a chemistry, or a line between its resting voltages (*assumption*)."""
    try:
        return ocv_curve(chemistry)
    except NoCurveError:
        empty, full = _LINES[chemistry]
        z = np.linspace(0.0, 1.0, 101)
        return OcvCurve.of(z, empty + (full - empty) * z, np.zeros_like(z))


def is_line(chemistry: Chemistry) -> bool:
    """Whether `voltage_curve` had to make do with a straight line."""
    return chemistry in _LINES
