"""The road: air, wind, surface, road load, and routes as legs."""

from limpet.road.air import air_density, density_ratio, standard_pressure_pa
from limpet.road.geodesic import bearings_deg, step_lengths_m
from limpet.road.heights import HYSTERESIS_BAROMETRIC_M, HYSTERESIS_GPS_M, ascent_m
from limpet.road.kinds import SURFACES, Surface, VehicleKind
from limpet.road.load import (
    ROTATING,
    pack_power_w,
    speed_at_power_mps,
    steady_wh_per_km,
    wheel_force_n,
)
from limpet.road.loop_length import loop_length
from limpet.road.route import Leg, Route, loop, route_faults
from limpet.road.smoothing import gaussian_smoothed
from limpet.road.surface import SURFACE_FACTOR, tyre_factor, tyre_factors
from limpet.road.track import Track, track_of
from limpet.road.wind import headwind_mps

__all__ = [
    "HYSTERESIS_BAROMETRIC_M",
    "HYSTERESIS_GPS_M",
    "ROTATING",
    "SURFACES",
    "SURFACE_FACTOR",
    "Leg",
    "Route",
    "Surface",
    "Track",
    "VehicleKind",
    "air_density",
    "ascent_m",
    "bearings_deg",
    "density_ratio",
    "gaussian_smoothed",
    "headwind_mps",
    "loop",
    "loop_length",
    "pack_power_w",
    "route_faults",
    "speed_at_power_mps",
    "standard_pressure_pa",
    "steady_wh_per_km",
    "step_lengths_m",
    "track_of",
    "tyre_factor",
    "tyre_factors",
    "wheel_force_n",
]
