"""The mean curve of a chemistry: what a settled voltage says of charge and energy left, on the whole."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from limpet.pack.chemistry import Chemistry
from limpet.pack.family import GRID, curve_family

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class OcvCurve:
    """One cell's open-circuit voltage over its state of charge.

    Parameters
    ----------
    state_of_charge : z [-], shape (n,), from 0 to 1, increasing
    ocv_v : U [V], shape (n,), increasing
    """

    state_of_charge: FloatArray
    ocv_v: FloatArray
    _energy: FloatArray

    @classmethod
    def of(cls, z: FloatArray, ocv_v: FloatArray) -> OcvCurve:
        """A curve with its energy integral ε(z) = ∫₀ᶻ U dz / ∫₀¹ U dz."""
        steps = np.diff(z) * (ocv_v[1:] + ocv_v[:-1]) / 2
        return cls(z, ocv_v, np.concatenate([[0.0], np.cumsum(steps)]))

    @property
    def mean_v(self) -> float:
        """Mean voltage over the whole charge [V]: rated energy = rated Ah × S × this."""
        return float(self._energy[-1])

    def charge_left(self, cell_v: FloatArray) -> FloatArray:
        """State of charge z at a settled cell voltage [V]; 0 and 1 beyond the curve's ends."""
        return np.asarray(np.interp(cell_v, self.ocv_v, self.state_of_charge))

    def energy_left(self, z: FloatArray) -> FloatArray:
        """Share of energy ε [-] at a state of charge z [-]."""
        shares: FloatArray = self._energy / self._energy[-1]
        return np.asarray(np.interp(z, self.state_of_charge, shares))

    def voltage(self, z: FloatArray) -> FloatArray:
        """Settled cell voltage [V] at a state of charge z [-]."""
        return np.asarray(np.interp(z, self.state_of_charge, self.ocv_v))


@lru_cache(maxsize=8)
def ocv_curve(chemistry: Chemistry) -> OcvCurve:
    """The mean curve of a chemistry's family at 25 °C, between empty and full."""
    inside = (GRID >= -1e-9) & (GRID <= 1 + 1e-9)
    return OcvCurve.of(GRID[inside], curve_family(chemistry).volts[0, inside])
