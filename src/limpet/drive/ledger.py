"""Where the energy of a ride goes: every joule that leaves the cells is written down."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.drive.block import Block
from limpet.drive.draws import Columns
from limpet.drive.stops import StopCost
from limpet.road.load import air_force_n

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Ledger:
    """Where the energy of the first column went up to the route's end or the ride's [J].

    `drawn` is what left the cells; the rest adds up to it. `rider` is what was pedalled, negative.
    """

    drawn: float
    resistance: float
    rolling: float
    air: float
    climb: float
    stops: float
    drivetrain: float
    brakes: float
    auxiliary: float
    rider: float


class Book:
    """The ledger while it is written."""

    def __init__(self) -> None:
        self.sums = dict.fromkeys(
            (
                "drawn", "resistance", "rolling", "air", "climb",
                "stops", "drivetrain", "brakes", "auxiliary", "rider",
            ),
            0.0,
        )  # fmt: skip

    def add(self, columns: Columns, block: Block, climb_n: FloatArray, pedal_w: float) -> None:
        """A block's share: force by force over the way, then what the drive and the cells lost.

        Parameters
        ----------
        climb_n : what of the first column's resistance is the grade, shape (n,)
        pedal_w : what the rider gives at the wheel while driving [W]
        """
        sums, length = self.sums, block.length_m
        drag = air_force_n(columns.drag[0], block.speed_mps[:, 0] + block.headwind_mps[:, 0])
        p, s, w = block.power_w[:, 0], block.seconds[:, 0], block.wheel_w[:, 0]
        amps = p / block.loaded_v[:, 0]
        ohmic = amps**2 * block.resistance_ohm[0] * s
        driving, braking = np.maximum(w - pedal_w, 0.0), np.minimum(w, 0.0)
        sums["rider"] += float(((driving - np.maximum(w, 0.0)) * s).sum())
        sums["rolling"] += float(((block.resisting_n[:, 0] - climb_n) * length).sum())
        sums["climb"] += float((climb_n * length).sum())
        sums["air"] += float((drag * length).sum())
        sums["drivetrain"] += float((driving * (columns.inverse_efficiency[0] - 1) * s).sum())
        sums["auxiliary"] += float(columns.aux_w[0] * s.sum())
        returned = p - columns.aux_w[0] - driving * columns.inverse_efficiency[0]
        sums["brakes"] += float(((returned - braking) * s).sum())
        sums["resistance"] += float(ohmic.sum())
        sums["drawn"] += float((p * s + ohmic).sum())

    def add_stops(self, cost: StopCost, open_v: FloatArray, inverse_efficiency: float) -> None:
        """What the stops of a block took; `open_v` is the first column's there, shape (k,)."""
        sums = self.sums
        net, idle, loaded = cost.energy_j[:, 0], cost.idle_j[:, 0], cost.loaded_v[:, 0]
        sums["stops"] += float(net.sum()) / inverse_efficiency
        sums["drivetrain"] += float(net.sum()) * (1 - 1 / inverse_efficiency)
        sums["auxiliary"] += float(idle.sum())
        ohmic = float((net * (open_v / loaded - 1)).sum())
        sums["resistance"] += ohmic
        sums["drawn"] += float(net.sum() + idle.sum()) + ohmic

    def closed(self) -> Ledger:
        """The sums."""
        return Ledger(**self.sums)
