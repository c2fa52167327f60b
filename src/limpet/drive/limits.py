"""What a drive does as its pack fades, and how it is stopped and started."""

from __future__ import annotations

from dataclasses import dataclass

from limpet.pack import CurveFamily


@dataclass(frozen=True, slots=True, kw_only=True)
class PackLimits:
    """What the drive does as the pack fades.

    `step_down` is (below loaded pack volts, speed) by falling voltage, `step_at_charge` (share of charge,
    speed); `packs_in_sequence` are
    ridden one after the other; `pedal_w` is what the rider gives at the wheel while driving; `current_limit_a` is the controller's, at the pack.
    """

    family: CurveFamily
    series: int
    cutoff_v: float
    minimum_mps: float
    current_limit_a: float | None = None
    step_down: tuple[tuple[float, float], ...] = ()
    step_at_charge: tuple[tuple[float, float], ...] = ()
    packs_in_sequence: int = 1
    pedal_w: float = 0.0
    accel_mps2: float = 0.8
    brake_mps2: float = 1.2
    wait_s: float = 15.0
