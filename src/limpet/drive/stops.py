"""What a stop costs over riding past: energy, time, and volts while gathering way."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.drive.block import Block
from limpet.drive.draws import Columns
from limpet.drive.limits import PackLimits
from limpet.road.load import ROTATING, air_force_n

FloatArray = NDArray[np.float64]

#: How long the volts must stay under the cut-off before a drive stops [s] (assumption).
CUT_AFTER_S = 5.0


@dataclass(frozen=True, slots=True, kw_only=True)
class StopCost:
    """Of the steps with stops, shape (k, J): energy at the terminals beyond riding past and while
    standing [J], time [s], charge [A·s]; the volts of the mean pull and those that last through the
    end of gathering way; of the first column alone, shape (k,): the hardest pull [W], its volts."""

    energy_j: FloatArray
    idle_j: FloatArray
    seconds: FloatArray
    charge_as: FloatArray
    loaded_v: FloatArray
    lasting_v: FloatArray
    hardest_w: FloatArray
    hardest_v: FloatArray


def stop_cost(
    columns: Columns,
    limits: PackLimits,
    block: Block,
    rows: NDArray[np.intp],
    most_w: FloatArray,
    takes: FloatArray,
) -> StopCost:
    """The cost of stopping and starting again at a steady rate.

    Parameters
    ----------
    block, rows : the steps that have stops or slowings, the latter without a wait, shape (k,)
    most_w : the most power there is [W], (J,)
    takes : share of what it could take that the pack takes back [-], (J,)

    Notes
    -----
    Kinetic energy ½·1.03·m·v² over η, less what the air saves while gathering way (half) and what
    air and rolling save while braking (all of it: the motor rests), less what comes back.
    """
    v, open_v = block.speed_mps[rows], block.open_v[rows]
    stops = block.stops[rows, None] * columns.stopping
    both = stops + block.slowings[rows, None] * columns.stopping
    drag = air_force_n(columns.drag, v + block.headwind_mps[rows])
    against = np.maximum(drag, 0.0)
    roll = np.maximum(block.resisting_n[rows], 0.0)
    inertia = ROTATING * columns.mass_kg
    kinetic = 0.5 * inertia * v**2
    start_m, brake_m = v**2 / (2 * limits.accel_mps2), v**2 / (2 * limits.brake_mps2)
    gross = np.maximum(kinetic - 0.5 * drag * start_m - (roll + against) * brake_m, 0.0)
    returned = np.maximum(kinetic - (roll + 0.5 * against) * brake_m, 0.0)
    net = (gross * columns.inverse_efficiency - columns.regeneration * takes * returned) * both
    longer_s = v / (2 * limits.accel_mps2) + v / (2 * limits.brake_mps2)
    seconds = longer_s * both + limits.wait_s * stops
    idle = columns.aux_w * seconds
    pull = np.minimum(kinetic * columns.inverse_efficiency * limits.accel_mps2 / v, most_w)

    squared, four_r = open_v**2, 4 * block.resistance_ohm

    def loaded(power_w: FloatArray, of: slice = slice(None)) -> FloatArray:
        root = np.sqrt(np.maximum(squared[:, of] - four_r[of] * power_w, 0.0))
        return np.asarray((open_v[:, of] + root) * 0.5)

    def pulling_at(gathered_mps: FloatArray, of: slice = slice(None)) -> FloatArray:
        part = gathered_mps / v[:, of]
        force = roll[:, of] + inertia[of] * limits.accel_mps2 + against[:, of] * part * part
        wheel = force * gathered_mps
        power = wheel * columns.inverse_efficiency[of] + columns.aux_w[of]
        return np.asarray(np.minimum(power, most_w[of]))

    # The drive stops when the volts stay low, not when they dip: what counts is the pull that the
    # last seconds of gathering way exceed throughout. Short of power they last longer.
    drive = (most_w - columns.aux_w) / columns.inverse_efficiency
    last_mps2 = np.clip((drive / v - roll - drag) / inertia, 0.0, limits.accel_mps2)
    first = slice(0, 1)
    hardest = pulling_at(v[:, first], first)
    mean_v = loaded(pull)
    return StopCost(
        energy_j=net,
        idle_j=idle,
        seconds=seconds,
        charge_as=net / mean_v + idle / open_v,
        loaded_v=mean_v,
        lasting_v=loaded(pulling_at(np.maximum(v - last_mps2 * CUT_AFTER_S, 0.0))),
        hardest_w=hardest[:, 0],
        hardest_v=loaded(hardest, first)[:, 0],
    )
