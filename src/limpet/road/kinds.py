"""The kinds of vehicle and of surface that the trade tells apart."""

from __future__ import annotations

from typing import Literal, get_args

VehicleKind = Literal[
    "kick_scooter",
    "bicycle",
    "fast_bicycle",
    "trike",
    "moped",
    "light_motorcycle",
    "motorcycle",
    "skateboard",
    "self_balancing",
    "conversion",
    "other",
]
#: How a speed is chosen on a ride.
SpeedPolicy = Literal["fixed", "flat_out", "with_traffic", "gentle"]
Surface = Literal["smooth_paved", "rough_paved", "gravel", "dirt", "grass", "mixed", "wet_paved"]
SURFACES: tuple[Surface, ...] = get_args(Surface)
