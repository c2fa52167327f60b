"""From range tests to what a fit reads of them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import load_kg
from limpet.evidence.model import RangeTest
from limpet.evidence.noted import conditions_noted
from limpet.fitting.fit import RideTotals, SampledRide
from limpet.read.stated import air_density_of
from limpet.road import SURFACE_FACTOR, bearings_deg, headwind_mps
from limpet.road.heights import SMOOTHING_M, smoothed
from limpet.tell import Result

FloatArray = NDArray[np.float64]

#: Distance grid on which logged heights are smoothed before grades are taken [m].
GRID_M = 5.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Usable:
    """What a test can give to a fit, or why it cannot."""

    ride: SampledRide | RideTotals | None
    why_not: str


def usable_for_fit(test: RangeTest, result: Result) -> Usable:
    """A test as a fit reads it: its samples where they suffice, else its totals.

    Parameters
    ----------
    test : as recorded
    result : what `analyse` made of it
    """
    mass = _mass_kg(test)
    if mass is None:
        return Usable(ride=None, why_not="the vehicle's mass is not known")
    propulsion = test.sheet.protocol.propulsion if test.sheet.protocol else None
    if propulsion in ("assist", "mixed"):
        return Usable(ride=None, why_not="the rider pedalled")
    sampled = _sampled(test, result, mass)
    if sampled is not None:
        return Usable(ride=sampled, why_not="")
    energy, distance = result.energy, result.distance
    if energy is None or distance is None or distance.value < 1000:
        return Usable(ride=None, why_not="energy or distance is not known")
    seconds = result.ride.end_s - result.ride.start_s - _standing_s(test)
    if seconds <= 0 or distance.value / seconds > 40:
        return Usable(ride=None, why_not="its times do not give a speed")
    return Usable(
        ride=RideTotals(
            energy_wh=energy.value,
            energy_std_wh=energy.standard_uncertainty,
            distance_m=distance.value,
            moving_s=seconds,
            climb_m=0.0,
            density_kgpm3=air_density_of(test),
            mass_kg=mass,
            wind2=_wind2(test),
            surface=_surface(test),
        ),
        why_not="",
    )


def _mass_kg(test: RangeTest) -> float | None:
    vehicle, rider = test.sheet.vehicle.mass_kg, test.sheet.rider
    if vehicle is None:
        return None
    noted = (None, None) if rider is None else (rider.mass_kg, rider.gear_kg)
    return vehicle + load_kg(*noted)[0]


def _wind2(test: RangeTest) -> float:
    """Half the square of the noted wind: on a way that comes back, what it adds to the air."""
    air = conditions_noted(test)
    return 0.0 if air is None or air.wind_mps is None else 0.5 * air.wind_mps**2


def _surface(test: RangeTest) -> tuple[float, float]:
    air = test.sheet.conditions
    return SURFACE_FACTOR["smooth_paved" if air is None or air.surface is None else air.surface]


def _standing_s(test: RangeTest) -> float:
    """Seconds between stop and resume entries."""
    total, since = 0.0, None
    for entry in test.entries:
        if entry.kind == "stop":
            since = entry.time_s
        elif entry.kind == "resume" and since is not None:
            total, since = total + entry.time_s - since, None
    return total


def _sampled(test: RangeTest, result: Result, mass: float) -> SampledRide | None:
    columns = [test.column(name) for name in ("time_s", "voltage_v", "current_a")]
    time, volts, amps = columns
    if time is None or volts is None or amps is None or len(time) < 100:
        return None
    speed = test.column("speed_mps")
    if speed is None:
        return None
    riding = (time >= result.ride.start_s) & (time <= result.ride.end_s)
    known = riding & np.isfinite(volts) & np.isfinite(amps) & np.isfinite(speed)
    if known.sum() < 100:
        return None
    time, power, speed = time[known], (volts * amps)[known], speed[known]
    # The speed's own integral is as good as any distance for the steepness of a hill.
    along = np.concatenate([[0.0], np.cumsum(0.5 * (speed[1:] + speed[:-1]) * np.diff(time))])
    if result.distance is not None and along[-1] > 0:
        factor = result.distance.value / along[-1]
        if 0.85 < factor < 1.15:
            speed, along = speed * factor, along * factor
    heights = test.column("altitude_m")
    grade = np.zeros_like(along)
    if heights is not None and np.isfinite(heights[known]).mean() > 0.9:
        grade = _grades(along, heights[known])
    headwind, wind2 = _winds(test, known, len(along))
    return SampledRide(
        time_s=time,
        speed_mps=speed,
        power_w=power,
        grade=grade,
        headwind_mps=headwind,
        density_kgpm3=air_density_of(test),
        mass_kg=mass,
        wind2=wind2,
        surface=_surface(test),
    )


def _grades(along: FloatArray, heights: FloatArray) -> FloatArray:
    """sin θ at each sample from smoothed heights over the distance."""
    known = np.isfinite(heights)
    cells = max(int(along[-1] / GRID_M), 2)
    grid = np.linspace(0.0, along[-1], cells + 1)
    moved, first = np.unique(along[known], return_index=True)
    if len(moved) < 3 or along[-1] < 10 * SMOOTHING_M:
        return np.zeros_like(along)
    clean = smoothed(grid, np.interp(grid, moved, heights[known][first]), along[-1] / cells)
    slope = np.gradient(clean, grid)
    return np.clip(np.interp(along, grid, slope), -0.4, 0.4)


def _winds(test: RangeTest, known: NDArray[np.bool_], count: int) -> tuple[FloatArray, float]:
    """The headwind along a track, or nothing and what a wind from all sides adds."""
    air = conditions_noted(test)
    latitude, longitude = test.column("latitude_deg"), test.column("longitude_deg")
    calm = np.zeros(count)
    if air is None or air.wind_mps is None:
        return calm, 0.0
    if air.wind_from_deg is None or latitude is None or longitude is None:
        return calm, 0.5 * air.wind_mps**2
    lat, lon = latitude[known], longitude[known]
    good = np.isfinite(lat) & np.isfinite(lon)
    if good.mean() < 0.8:
        return calm, 0.5 * air.wind_mps**2
    rows = np.arange(count)
    lat, lon = np.interp(rows, rows[good], lat[good]), np.interp(rows, rows[good], lon[good])
    # Over ten samples or so a track's direction is the road's and not the receiver's jitter.
    stride = 10
    coarse = bearings_deg(lat[::stride], lon[::stride])
    if len(coarse) == 0:
        return calm, 0.5 * air.wind_mps**2
    bearing = np.repeat(coarse, stride)
    bearing = np.concatenate([bearing, np.full(max(count - len(bearing), 0), coarse[-1])])[:count]
    return headwind_mps(air.wind_mps, air.wind_from_deg, bearing), 0.0
