"""A stretch of steps as every draw rides it at once: what walks, stops and the ledger hand round."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from limpet.drive.draws import Columns
from limpet.drive.steps import Steps
from limpet.road.load import along_and_up, wheel_power_w
from limpet.units import STANDARD_GRAVITY_MPS2

FloatArray = NDArray[np.float64]

#: Downhill riders let it run, so much over the speed they hold, before they brake (assumption of the
#: handbook, a quarter).
LETS_RUN = 1.25


@dataclass(slots=True, kw_only=True)
class Block:
    """n steps of J draws; (n, J) where nothing else is said.

    `length_m`, `stops`, `slowings` are of the steps, shape (n,); `rows` is where they stand on the
    way. The road is there from the start, the pack's answer once it was asked: `lowest_v` is the
    least that lasts, `resistance_ohm` (J,) the packs' at this charge, `charge_as` what leaves the cells, `energy_j` what passes the terminals.
    """

    rows: slice
    length_m: FloatArray
    stops: FloatArray
    slowings: FloatArray
    speed_mps: FloatArray
    headwind_mps: FloatArray
    resisting_n: FloatArray
    wheel_w: FloatArray
    power_w: FloatArray = field(init=False)
    resistance_ohm: FloatArray = field(init=False)
    open_v: FloatArray = field(init=False)
    loaded_v: FloatArray = field(init=False)
    lowest_v: FloatArray = field(init=False)
    charge_as: FloatArray = field(init=False)
    energy_j: FloatArray = field(init=False)
    seconds: FloatArray = field(init=False)

    def __len__(self) -> int:
        return len(self.length_m)

    @property
    def total_m(self) -> float:
        """Its length [m]."""
        return float(self.length_m.sum())

    def timed(self) -> None:
        """How long riding it takes, at the speed that it has now."""
        self.seconds = self.length_m[:, None] / self.speed_mps


class Way:
    """The steps as the draws' masses, tyres, hills and winds make them."""

    def __init__(self, steps: Steps, columns: Columns) -> None:
        self.steps, self.columns = steps, columns
        weight = columns.mass_kg * STANDARD_GRAVITY_MPS2
        pressing, pulling = along_and_up(steps.grade)
        # What resists is linear in the draws, so that a block of it is one product of matrices.
        self.load_basis = np.stack(
            [steps.surface * pressing, steps.surface_std * pressing, pulling], axis=1
        )
        self.load = np.stack(
            [
                columns.rolling * weight,
                columns.rolling * weight * columns.surface,
                weight * columns.hills,
            ]
        )
        self.wind_basis = np.stack([steps.sin_bearing, steps.cos_bearing, steps.unknown], axis=1)
        self.wind = np.stack([columns.wind_east, columns.wind_north, columns.wind_unknown])
        self.falls = steps.grade < 0
        self.own_speed = bool(np.isnan(steps.speed_mps).all())

    def ridden(self, rows: slice, cap_mps: FloatArray) -> Block:
        """A block at the speed that each draw wants, no faster than a cap, shape (J,)."""
        speed = self._speed(rows, cap_mps)
        headwind = self.wind_basis[rows] @ self.wind
        resisting = self.load_basis[rows] @ self.load
        if self.falls[rows].any():
            speed = self._running(speed, resisting, headwind)
        return Block(
            rows=rows,
            length_m=self.steps.length_m[rows],
            stops=self.steps.stops[rows],
            slowings=self.steps.slowings[rows],
            speed_mps=speed,
            headwind_mps=headwind,
            resisting_n=resisting,
            wheel_w=wheel_power_w(resisting, self.columns.drag, speed, headwind),
        )

    def _running(
        self, speed: FloatArray, resisting: FloatArray, headwind: FloatArray
    ) -> FloatArray:
        """The speed that a descent gives of itself, from the one held to a quarter over it."""
        rolling = np.sqrt(np.maximum(-resisting, 0.0) / self.columns.drag) - headwind
        return np.asarray(np.clip(rolling, speed, LETS_RUN * speed))

    def climb_n(self, block: Block) -> FloatArray:
        """What of the first column's resistance is the grade, shape (n,)."""
        return np.asarray(self.load_basis[block.rows, 2] * self.load[2, 0])

    def _speed(self, rows: slice, cap_mps: FloatArray) -> FloatArray:
        columns = self.columns
        ceiling = np.minimum(columns.target_mps, cap_mps)
        if self.own_speed:
            return np.broadcast_to(ceiling, (rows.stop - rows.start, len(columns)))
        own = self.steps.speed_mps[rows, None]
        # A leg's speed is held as well or badly as the ride's: the same draw of the rider.
        held = columns.target_mps / columns.target_mps[0]
        return np.where(np.isnan(own), ceiling, np.minimum(own * held, cap_mps))
