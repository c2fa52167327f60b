"""Where a pack under load is at its cut-off, and what of its energy lies above: for a ride and a forecast alike."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from limpet.pack.chemistry import Chemistry
from limpet.pack.family import Curves

FloatArray = NDArray[np.float64]

#: Charge left below which resistance grows, and voltage falls away under load [-], and by how much of
#: itself at empty, with its relative u (assumption).
LOW_CHARGE = 0.08
LOW_CHARGE_OHM, LOW_CHARGE_STD = 2.2, 0.8
#: Peukert's exponent of lead-acid with its u, and the hours of its label (assumption: handbook section 5 has
#: 1.1 to 1.3; labels say 20 h, common practice).
PEUKERT, PEUKERT_STD, PEUKERT_H = 1.15, 0.05, 20.0
#: A cut-off lies at least so far under full [-].
LEAST_WINDOW = 0.05


def low_charge_factor(charge: FloatArray, growth: FloatArray) -> FloatArray:
    """Resistance at a charge over that in the middle [-]: 1 + growth·exp(−z/0.08), shape (…, J).

    Parameters
    ----------
    charge : z, any shape (…, J) [-]
    growth : of each draw, shape (J,) [-]
    """
    return 1 + growth * np.exp(-np.clip(charge, -0.1, 1.0) / LOW_CHARGE)


def cut_charge(
    curves: Curves,
    cutoff_v: FloatArray | float,
    *,
    sag_v: FloatArray,
    growth: FloatArray,
    lag_v: FloatArray | float = 0.0,
    full: FloatArray | float = 1.0,
) -> FloatArray:
    """Charge left where the loaded voltage of a cell is at cut-off [-], shape (J,).

    Parameters
    ----------
    cutoff_v : of a cell [V]
    sag_v : current times 10-s resistance of a cell [V], shape (J,)
    growth : of the resistance towards empty [-], shape (J,)
    lag_v : polarisation beyond that [V]
    full : charge of a full pack [-]
    """
    shape = np.zeros_like(sag_v)
    found = curves.charge_at_voltage(cutoff_v + shape, sag_v + lag_v, growth * sag_v, LOW_CHARGE)
    return np.minimum(found, full - LEAST_WINDOW)


def is_lead(chemistry: Chemistry) -> bool:
    """Whether a pack gives less the faster it is drawn from."""
    return chemistry.startswith("lead")


def peukert_factor(
    current_a: FloatArray, rated_ah: FloatArray | float, exponent: FloatArray | float
) -> FloatArray:
    """Share of the rated charge that lead-acid gives at a current [-], never more than all of it.

    Parameters
    ----------
    current_a : mean current of one pack [A], shape (J,)
    exponent : k

    Notes
    -----
    t = H·(C/(I·H))^k with H = 20 h, so the charge I·t is C·(C/(I·H))^(k − 1).

    References
    ----------
    W. Peukert, "Über die Abhängigkeit der Kapazität von der Entladestromstärke bei
    Bleiakkumulatoren", Elektrotechnische Zeitschrift 20 (1897); from memory.
    """
    rate = rated_ah / (np.maximum(current_a, 1e-3) * PEUKERT_H)
    return np.asarray(np.minimum(rate ** (exponent - 1.0), 1.0))
