"""The pack's answer to a block: volts, power within its limits, charge."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from limpet.drive.block import Block
from limpet.drive.draws import Columns
from limpet.drive.limits import PackLimits
from limpet.pack import low_charge_factor
from limpet.road.load import pack_power_w, speed_at_power_mps
from limpet.units import SECONDS_PER_HOUR

FloatArray = NDArray[np.float64]

#: Share of the most power a pack can give, U²/4R, that is ever asked of it [-].
MOST_OF_PEAK = 0.98
#: A pack this full takes nothing back; below it takes a share that grows over the next 3%
#: of charge (assumption: handbook section 16, start a descent below 90%).
TAKES_NOTHING_ABOVE = 0.97
TAPER = 0.03
#: Charging by regeneration is held to this rate [1/h] (assumption).
CHARGE_RATE_PER_H = 0.5
#: What is left of the voltage of a pack that is long empty [V]: draws past their end go on being
#: computed, and nothing may be divided by nothing.
LEAST_OPEN_V = 0.01
#: Volts that easing a pack keeps it at, over its cut-off [-].
EASED_OVER = 1.001
#: Open-circuit voltage falls so steeply below empty that every drive stops there [V per z].
EMPTY_SLOPE = 200.0


class Battery:
    """The packs of all draws, each of which has its own capacity and resistance."""

    def __init__(self, columns: Columns, limits: PackLimits) -> None:
        self.columns, self.limits = columns, limits
        self.per_capacity = 1 / columns.capacity_as
        self.regenerates = bool((columns.regeneration > 0).any())
        self.curves = limits.family.drawn(columns.modes)

    def open_v(self, z: FloatArray) -> FloatArray:
        """Open-circuit voltage of each draw's pack [V], shape (J,) as z."""
        cell_v = self.curves.voltage(z) - EMPTY_SLOPE * np.maximum(-z, 0.0)
        return np.asarray(np.maximum(cell_v * self.limits.series, LEAST_OPEN_V))

    def fresh_v(self, z: float, draw: int) -> float:
        """The same of one draw's pack."""
        one = self.limits.family.drawn(self.columns.modes[:, draw : draw + 1])
        return float(one.voltage(np.array([z]))[0]) * self.limits.series

    def takes(self, charge: FloatArray) -> FloatArray:
        """The share of what it could take that a pack takes back, by its charge [-]."""
        return np.clip((TAKES_NOTHING_ABOVE - charge) / TAPER, 0.0, 1.0)

    def answer(
        self,
        block: Block,
        charge: FloatArray,
        held: NDArray[np.bool_] | None,
        usual_w: FloatArray | None = None,
    ) -> FloatArray:
        """Fill in what the pack makes of a block; gives the most power that there is [W], (J,).

        Parameters
        ----------
        charge : z of each draw at the block's start [-], (J,)
        usual_w : mean power of the ride so far [W], (J,); nothing slows for the cut-off when None
        held : the draws that slow down where the power does not reach, (J,); all when None
        """
        open_start = self.open_v(charge)
        ohm = self.columns.resistance_ohm * low_charge_factor(charge, self.columns.low_charge)
        block.resistance_ohm = ohm
        block.power_w = self._power(block.wheel_w, charge, open_start)
        block.timed()
        used = (block.power_w * block.seconds).sum(axis=0) / open_start
        open_end = self.open_v(charge - used * self.per_capacity)
        part = ((np.arange(len(block)) + 0.5) / len(block))[:, None]
        open_v = open_start + (open_end - open_start) * part
        # A drive whose pack rests under its cut-off has stopped: lower there is nothing to ask of.
        resting = np.maximum(np.minimum(open_start, open_end), self.limits.cutoff_v)
        most = np.minimum(self._most(resting, ohm), self._above_cutoff(resting, ohm, usual_w))
        limited = block.power_w > most
        if held is not None:
            limited &= held
        if limited.any():
            self._slow(block, limited, most)
        # Loaded volts (u + √(u² − 4RP))/2: the pack's answer to a power.
        root = np.sqrt(np.maximum(open_v * open_v - 4 * ohm * block.power_w, 0.0))
        block.open_v = open_v
        block.loaded_v = block.lowest_v = (open_v + root) * 0.5
        block.charge_as = (open_v - root) * (0.5 / ohm)
        block.charge_as *= block.seconds
        block.energy_j = block.power_w * block.seconds
        return most

    def _power(self, wheel_w: FloatArray, charge: FloatArray, open_v: FloatArray) -> FloatArray:
        columns = self.columns
        returned: FloatArray | float = 0.0
        most = None
        if self.regenerates:
            returned = columns.regeneration * self.takes(charge)
            most = CHARGE_RATE_PER_H * columns.capacity_as / SECONDS_PER_HOUR * open_v
        return pack_power_w(
            wheel_w,
            inverse_efficiency=columns.inverse_efficiency,
            aux_w=columns.aux_w,
            pedal_w=self.limits.pedal_w,
            returned=returned,
            most_returned_w=most,
        )

    def _above_cutoff(
        self, open_v: FloatArray, ohm: FloatArray, usual_w: FloatArray | None
    ) -> FloatArray:
        """The most that keeps the loaded volts at cut-off, and never less than the ride's usual power.

        A rider, or the controller, eases a sagging pack up the last hills; what ends the drive is
        that it cannot be ridden on as it was.
        """
        if usual_w is None:
            return np.full_like(open_v, np.inf)
        cut = EASED_OVER * self.limits.cutoff_v
        return np.maximum(cut * (open_v - cut) / ohm, usual_w)

    def _most(self, open_v: FloatArray, resistance: FloatArray) -> FloatArray:
        """The most that motor, controller and pack give at an open-circuit voltage [W]."""
        volts = np.maximum(open_v, 1e-3)
        most = np.minimum(self.columns.max_power_w, MOST_OF_PEAK * volts**2 / (4 * resistance))
        if self.limits.current_limit_a is not None:
            amps = np.minimum(self.limits.current_limit_a, 0.49 * volts / resistance)
            most = np.minimum(most, amps * (volts - amps * resistance))
        return most

    def _slow(self, block: Block, limited: NDArray[np.bool_], most: FloatArray) -> None:
        """Where the power does not reach: the speed that it holds."""
        columns = self.columns
        rows, draws = np.nonzero(limited)
        drive = np.maximum(most[draws] - columns.aux_w[draws], 1.0)
        drive /= columns.inverse_efficiency[draws]
        drive += self.limits.pedal_w
        slower = speed_at_power_mps(
            drive,
            block.resisting_n[rows, draws],
            columns.drag[draws],
            block.headwind_mps[rows, draws],
            block.speed_mps[rows, draws],
        )
        block.speed_mps = np.array(block.speed_mps)
        block.speed_mps[rows, draws] = np.maximum(slower, 0.05)
        block.wheel_w[rows, draws] = drive
        block.power_w[rows, draws] = np.minimum(most[draws], block.power_w[rows, draws])
        block.timed()
