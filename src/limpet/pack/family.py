"""The curves that a pack of a chemistry may have: a family spanned by published sets."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Final

import numpy as np
from numpy.typing import NDArray

from limpet.pack.chemistry import Chemistry
from limpet.pack.sets import read_set

FloatArray = NDArray[np.float64]

#: The published sets of each family. A label says "NMC" of any layered oxide, so all of them span it.
LAYERED = (
    "nmc811_chen2020",
    "nmc532_mohtat2020",
    "nca_kim2011",
    "nmc811_oregan2022",
)
SETS: dict[Chemistry, tuple[str, ...]] = {
    "nmc": LAYERED,
    "nca": LAYERED,
    "lfp": ("lfp_prada2013",),
    "lmo": ("lmo_doyle1996",),
    "lead_acid_agm": ("lead_agm_bode1977",),
    "lead_acid_flooded": ("lead_flooded_bode1977",),
}
#: Between these settled volts a cell's charge counts from 0 to 1, whatever limits a set was published with.
BOTTOM_TOP_V: dict[Chemistry, tuple[float, float]] = {
    "nmc": (2.8, 4.2),
    "nca": (2.8, 4.2),
    "lfp": (2.0, 3.6),
    "lmo": (3.0, 4.2),
    "lead_acid_agm": (1.93, 2.14),
    "lead_acid_flooded": (1.93, 2.12),
}
#: What a cell may be off its family: evenly [V], as a tilt from empty to full and as one and two bends
#: between [V] (5 to 8 mV, assumption of the handbook, section 5; tilt and bends: assumption). Of spinel there is
#: one fit of the nineties, and what is sold as LMO is mostly blended with layered oxide.
OFFSET_STD_V, TILT_STD_V, BEND_STD_V = 0.008, 0.012, 0.012
_OTHERS: dict[Chemistry, tuple[float, float, float]] = {
    "lmo": (0.030, 0.040, 0.030),
    "lead_acid_agm": (0.012, 0.012, 0.006),
    "lead_acid_flooded": (0.012, 0.012, 0.006),
}
#: Where a chemistry's curves are from.
PUBLISHED: Final = "published sets"
#: No cell is quite like a published set: the family is taken this much wider than its sets.
WIDER = 1.15
#: The grid reaches a little beyond full and empty, steeply, so that no reading falls off it.
_LOW, _HIGH, STEP = -0.02, 1.06, 0.005
_BELOW_V, _ABOVE_V = 40.0, 1.5
GRID = np.round(np.arange(_LOW, _HIGH + STEP / 2, STEP), 6)
#: Slopes are taken so far to both sides [-], so that no corner of a table decides.
CORNER = 0.02
_ZERO = int(np.argmin(abs(GRID)))
#: Where a voltage is looked up backwards: densest where curves are steep.
_PLACES = np.unique(
    np.concatenate([[_LOW], np.linspace(0, 0.1, 9), np.linspace(0.1, 1.0, 25), [1.03, _HIGH]])
)
#: Even a flat curve falls a little [V], so that it can be read backwards.
_LEAST_SLOPE_V = 0.004


@dataclass(frozen=True, kw_only=True)
class CurveFamily:
    """Open-circuit curves U(z) = mean + Σ a·mode, with a a standard normal number for each mode.

    `volts` and `integral` [V] are tables over `GRID`, shape (1 + modes, G): the first row is the mean,
    the others what one of each `a` adds; `integral` is ∫U dz from 0.
    """

    volts: FloatArray
    integral: FloatArray
    #: Where it is from.
    source: str = PUBLISHED

    @property
    def modes(self) -> int:
        """How many numbers tell one curve of the family from the others."""
        return len(self.volts) - 1

    @cached_property
    def at_places(self) -> FloatArray:
        """`volts` at the places where a voltage is looked for, shape (places, 1 + modes)."""
        return np.stack([np.interp(_PLACES, GRID, row) for row in self.volts], axis=1)

    @property
    def mean_v(self) -> float:
        """Mean voltage of the mean curve [V]."""
        inside = (GRID >= -1e-9) & (GRID <= 1 + 1e-9)
        return float(np.trapezoid(self.volts[0, inside], GRID[inside]))

    def narrowed(self, mean: FloatArray, covariance: FloatArray, source: str) -> CurveFamily:
        """The curves of one pack: a family about what its own numbers were found to be.

        Parameters
        ----------
        mean, covariance : of the numbers a, shapes (m,) and (m, m), the latter positive definite
        source : where that is from
        """
        spread = np.linalg.cholesky(covariance).T

        def about(table: FloatArray) -> FloatArray:
            return np.vstack([table[0] + mean @ table[1:], spread @ table[1:]])

        return CurveFamily(volts=about(self.volts), integral=about(self.integral), source=source)

    def drawn(self, modes: FloatArray) -> Curves:
        """Curves of the family, one for each column of modes, shape (m, J)."""
        return Curves(family=self, modes=modes)


@dataclass(frozen=True, kw_only=True)
class Curves:
    """One open-circuit curve a draw: a family and the numbers that pick from it, shape (m, J)."""

    family: CurveFamily
    modes: FloatArray

    def voltage(self, z: FloatArray) -> FloatArray:
        """Settled volts of a cell [V] at z, shape (n, J)."""
        return self._at(self._volts, z)

    def energy(self, z: FloatArray) -> FloatArray:
        """∫U dz from empty [V] at z, shape (n, J): energy for each amp-hour of a cell's charge."""
        return self._at(self._integral, z)

    def slope(self, z: FloatArray) -> FloatArray:
        """dU/dz [V] about z, shape (n, J), taken over ±0.02 so that no corner decides; 0 or more."""
        rise = self._at(self._volts, z + CORNER) - self._at(self._volts, z - CORNER)
        return np.maximum(rise / (2 * CORNER), 0.0)

    # Each draw's own curve, (J, G): one product of matrices, where every look at it would be one
    # for each mode.
    @cached_property
    def _volts(self) -> FloatArray:
        return self._table(self.family.volts)

    @cached_property
    def _integral(self) -> FloatArray:
        return self._table(self.family.integral)

    def _table(self, table: FloatArray) -> FloatArray:
        found = self.modes.T @ table[1:]
        found += table[0]
        return np.asarray(found)

    def _at(self, table: FloatArray, z: FloatArray) -> FloatArray:
        place = (np.clip(z, _LOW, _HIGH - 1e-9) - _LOW) * (1 / STEP)
        row = place.astype(np.intp)
        place -= row
        row += np.arange(len(table)) * table.shape[1]
        curves = table.ravel()
        found: FloatArray = curves.take(row)
        place *= curves.take(row + 1) - found
        found += place
        return found

    def charge_at_energy(self, energy: FloatArray) -> FloatArray:
        """z at which ∫U dz is given [V], shape (n, J): the inverse of `energy`, by Newton's steps."""
        z = energy / self.energy(np.ones((1, energy.shape[1])))
        for _ in range(3):
            z = z - (self.energy(z) - energy) / np.maximum(self.voltage(z), 0.5)
            np.clip(z, _LOW, _HIGH, out=z)
        return np.asarray(z)

    def charge_at_voltage(
        self,
        cell_v: FloatArray,
        sag_v: FloatArray | float = 0.0,
        more_v: FloatArray | float = 0.0,
        more_z: float = 0.06,
    ) -> FloatArray:
        """z at which a cell under load shows a voltage, shape (J,), the highest where a flat curve dips.

        Parameters
        ----------
        cell_v : what it shows [V], shape (J,)
        sag_v : what the load takes [V]
        more_v, more_z : what low charge adds to it, more·exp(−z/more_z) [V]
        """
        places = _PLACES[:, None]
        at = self.family.at_places
        shown = at[:, :1] + at[:, 1:] @ self.modes
        shown -= sag_v + more_v * np.exp(-np.clip(places, 0.0, None) / more_z)
        above = shown >= cell_v
        # The last place that is still under it, and the one after.
        under = np.where(above.all(axis=0), 0, len(_PLACES) - 1 - np.argmax(~above[::-1], axis=0))
        under = np.minimum(under, len(_PLACES) - 2)
        column = np.arange(len(cell_v))
        low, high = shown[under, column], shown[under + 1, column]
        part = np.clip((cell_v - low) / np.maximum(high - low, 1e-6), 0.0, 1.0)
        return np.asarray(_PLACES[under] + part * (_PLACES[under + 1] - _PLACES[under]))


@lru_cache(maxsize=32)
def curve_family(chemistry: Chemistry | None, without: str = "") -> CurveFamily:
    """The family of a chemistry at 25 °C; a layered oxide when it is not known.

    Parameters
    ----------
    without : leave this published set out, to see how the rest stands in for it

    Notes
    -----
    The sets' own main components stand for the curve of a cell (as an ensemble stands for a
    distribution), widened by `WIDER`, with an even offset and a tilt added in volts.
    """
    z = GRID
    known = chemistry or "nmc"
    stems = [stem for stem in SETS[known] if stem != without] or list(SETS[known])
    table = np.stack([_even(stem, BOTTOM_TOP_V[known], z) for stem in stems])
    mean = table.mean(axis=0)
    offset, tilt, bend = _OTHERS.get(known, (OFFSET_STD_V, TILT_STD_V, BEND_STD_V))
    inside = np.clip(z, 0.0, 1.0)
    modes = [np.full_like(z, offset), tilt * (2 * z - 1)]
    modes += [bend * np.sin(k * np.pi * inside) for k in (1, 2)]
    if len(table) > 1:
        _, size, shape = np.linalg.svd(table - mean, full_matrices=False)
        weight = WIDER * size / np.sqrt(len(table) - 1)
        modes = [*(weight[:, None] * shape)[: len(table) - 1], *modes]
    volts = np.stack([mean + _LEAST_SLOPE_V * z, *modes])
    steps = (volts[:, 1:] + volts[:, :-1]) * (STEP / 2)
    integral = np.concatenate([np.zeros((len(volts), 1)), np.cumsum(steps, axis=1)], axis=1)
    integral -= integral[:, [_ZERO]]
    return CurveFamily(volts=volts, integral=integral)


def _even(stem: str, limits: tuple[float, float], z: FloatArray) -> FloatArray:
    """A published set with its charge counted anew between two settled voltages."""
    at, volts = read_set(stem)
    bottom, top = np.interp(limits, volts, at)
    inside = np.interp(bottom + z * (top - bottom), at, volts)
    inside = np.where(z < 0, limits[0] + _BELOW_V * z, inside)
    return np.asarray(np.where(z > 1, limits[1] + _ABOVE_V * (z - 1), inside))
