"""Open-circuit voltage curves: what a settled voltage says of charge and energy left."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from importlib import resources

import numpy as np
from numpy.typing import NDArray

from limpet.errors import LimpetError
from limpet.pack.chemistry import Chemistry

FloatArray = NDArray[np.float64]

#: The published sets behind each chemistry. "NMC" on a label may be any of three families, so
#: their mean is taken and their spread counts as uncertainty (handbook section 5).
_SETS: dict[Chemistry, tuple[str, ...]] = {
    "nmc": ("nmc811_chen2020", "nmc532_mohtat2020", "nca_kim2011"),
    "nca": ("nca_kim2011",),
    "lfp": ("lfp_prada2013",),
}

#: Least standard uncertainty of a curve in state of charge (assumption, handbook section 4),
#: and the smaller one near full and empty, where every curve is pinned by its definition.
CURVE_STD = 0.03
CURVE_STD_AT_ENDS = 0.015


class NoCurveError(LimpetError):
    """There is no open-circuit curve for a chemistry in this version."""


@dataclass(frozen=True, slots=True)
class OcvCurve:
    """One cell's open-circuit voltage over its state of charge.

    Parameters
    ----------
    state_of_charge : z [-], shape (n,), from 0 to 1, increasing
    ocv_v : U [V], shape (n,), increasing
    spread_v : standard deviation between the sets behind the curve [V], shape (n,)
    """

    state_of_charge: FloatArray
    ocv_v: FloatArray
    spread_v: FloatArray
    _energy: FloatArray

    @classmethod
    def of(cls, z: FloatArray, ocv_v: FloatArray, spread_v: FloatArray) -> OcvCurve:
        """A curve with its energy integral ε(z) = ∫₀ᶻ U dz / ∫₀¹ U dz."""
        steps = np.diff(z) * (ocv_v[1:] + ocv_v[:-1]) / 2
        energy = np.concatenate([[0.0], np.cumsum(steps)])
        return cls(z, ocv_v, spread_v, energy)

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

    def slope_v(self, z: float) -> float:
        """dU/dz [V] around z, over ±0.02 so that a table's corners do not decide."""
        low, high = max(z - 0.02, 0.0), min(z + 0.02, 1.0)
        volts = self.voltage(np.array([low, high]))
        return float((volts[1] - volts[0]) / (high - low))

    def charge_std(self, z: float) -> float:
        """Standard uncertainty of the curve itself, in state of charge [-], at z.

        Notes
        -----
        The larger of the spread of the sets behind it and an *assumption*: 0.03 between 0.2
        and 0.9, 0.015 beyond.
        """
        least = CURVE_STD if 0.2 <= z <= 0.9 else CURVE_STD_AT_ENDS
        spread = float(np.interp(z, self.state_of_charge, self.spread_v)) / self.slope_v(z)
        return max(least, spread if 0.1 <= z <= 0.95 else 0.0)


@lru_cache(maxsize=8)
def read_set(stem: str) -> tuple[FloatArray, FloatArray]:
    """State of charge [-] and settled volts [V] of a published set, as it is kept."""
    file = resources.files("limpet.pack") / "data" / f"ocv_{stem}.csv"
    lines = file.read_text(encoding="utf-8").splitlines()
    rows = [line.split(",") for line in lines if line[:1].isdigit()]
    table = np.array(rows, dtype=np.float64)
    return table[:, 0], table[:, 1]


@lru_cache(maxsize=8)
def ocv_curve(chemistry: Chemistry) -> OcvCurve:
    """The open-circuit curve of a chemistry at 25 °C.

    Raises
    ------
    NoCurveError
        For a chemistry whose curve is not in this version (LMO and lead-acid).

    References
    ----------
    The papers and PyBaMM sets named in the first lines of pack/data/ocv_*.csv.
    """
    if chemistry not in _SETS:
        known = ", ".join(_SETS)
        raise NoCurveError(
            f"there is no voltage curve for {chemistry} yet; log amp-hours instead "
            f"(curves are here for {known})"
        )
    tables = [read_set(stem) for stem in _SETS[chemistry]]
    z = tables[0][0]
    volts = np.stack([table[1] for table in tables])
    spread = volts.std(axis=0, ddof=1) if len(tables) > 1 else np.zeros_like(z)
    return OcvCurve.of(z, volts.mean(axis=0), spread)
