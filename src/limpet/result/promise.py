"""What the label promises at this load: rated energy from full to this ride's cut-off."""

from __future__ import annotations

from math import hypot

import numpy as np

from limpet.assumptions import LABEL, RETAINED
from limpet.evidence.model import RangeTest
from limpet.pack import (
    NoCurveError,
    capacity_factor,
    full_energy_wh,
    ocv_curve,
)
from limpet.quantity import Quantity
from limpet.result.rest import Resistance
from limpet.result.share import usable_floor


def promised_energy(test: RangeTest, resistance: Resistance, mean_current_a: float) -> Quantity:
    """Rated energy × packs × usable share × cold, less the I²R loss [Wh].

    Parameters
    ----------
    mean_current_a : I of the ride [A]

    Notes
    -----
    The handbook's section 4 takes the whole label. A pack that is cut off at 3.3 V a cell never
    gives a tenth of it, so the curve's share under cut-off is left out here (decision 0003).
    Standard uncertainty from the label and from age, both *assumptions*.
    """
    pack = test.sheet.pack
    promised = full_energy_wh(pack) * (test.sheet.packs_used or 1)
    try:
        curve = ocv_curve(pack.chemistry)
        z_cut, _ = usable_floor(curve, pack, mean_current_a, resistance)
        promised *= 1 - float(curve.energy_left(np.array([z_cut]))[0])
        mean_v = curve.mean_v * pack.series
        promised *= 1 - min(mean_current_a * resistance.ohm / mean_v, 0.5)
    except NoCurveError:
        pass
    promised *= cold_factor(test)
    return Quantity.of(promised, "Wh", promised * hypot(LABEL.std, RETAINED.std))


def cold_factor(test: RangeTest) -> float:
    """Share of capacity left by the cold, at the mean of the noted temperatures [-]; 1 if none."""
    conditions = test.sheet.conditions
    if conditions is None:
        return 1.0
    temps = [t for t in (conditions.temp_start_c, conditions.temp_end_c) if t is not None]
    if not temps:
        return 1.0
    return capacity_factor(test.sheet.pack.chemistry, sum(temps) / len(temps))
