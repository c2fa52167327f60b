"""A plain step-by-step ride: road load, pack, controller, rider. The truth that instruments see.

It stands in for a real ride in the demo and the tests. It shares the cells' voltage curves with the
core and nothing else, so that the core's arithmetic is checked against something that does not
use it.
"""

from __future__ import annotations

from bisect import bisect_left
from dataclasses import dataclass
from math import atan2, cos, degrees, exp, pi, radians, sqrt

import numpy as np
from numpy.typing import NDArray

from limpet.pack import PackSpec, capacity_factor, ocv_curve
from limpet.units import STANDARD_GRAVITY_MPS2

FloatArray = NDArray[np.float64]
METRES_PER_DEGREE = 111_320.0
#: How slowly the volts of a pack come back after a load [s].
SLOW_TAU_S = 150.0


@dataclass(frozen=True, slots=True, kw_only=True)
class VehicleModel:
    """What moves: loads in SI, power limits in watts at the pack."""

    mass_kg: float
    cda_m2: float
    crr: float
    efficiency: float
    aux_w: float
    max_power_w: float
    regeneration: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Course:
    """A road as points: distance, height and position; closed courses repeat.

    All of shape (n,); `crr_factor` is the surface's; `stops_m` are where one must stop.
    """

    distance_m: FloatArray
    altitude_m: FloatArray
    east_m: FloatArray
    north_m: FloatArray
    crr_factor: float
    stops_m: tuple[float, ...]
    closed: bool

    @property
    def length_m(self) -> float:
        """Length of one lap, or of the whole road [m]."""
        return float(self.distance_m[-1])


@dataclass(frozen=True, slots=True, kw_only=True)
class Weather:
    """Air over the island."""

    temp_c: float
    wind_mps: float
    wind_from_deg: float
    density_kgpm3: float = 1.22


@dataclass(frozen=True, slots=True, kw_only=True)
class RidePlan:
    """How it is ridden, and what ends it."""

    rider_kg: float
    target_mps: float
    speed_spread: float = 0.06
    stop_at_m: float | None = None
    start_charge: float = 1.0
    rest_before_s: int = 20
    rest_after_s: int = 120
    pause_at_m: float | None = None
    pause_s: int = 0


@dataclass(frozen=True, slots=True, kw_only=True)
class Truth:
    """What really happened, second by second; all of shape (n,).

    `settled_v` is what the pack would show after a long rest, `lag_v` what of it is still missing right
    after the load is gone; it comes back with `SLOW_TAU_S`.
    """

    time_s: FloatArray
    distance_m: FloatArray
    speed_mps: FloatArray
    altitude_m: FloatArray
    east_m: FloatArray
    north_m: FloatArray
    voltage_v: FloatArray
    current_a: FloatArray
    charge: FloatArray
    pack_temp_c: FloatArray
    settled_v: FloatArray
    lag_v: FloatArray
    reached_cutoff: bool

    def row_at_distance(self, metres: float) -> int:
        """The first second at or beyond a distance."""
        return min(int(np.searchsorted(self.distance_m, metres)), len(self.distance_m) - 1)


def ellipse(length_m: float, rise_m: float, *, crr_factor: float = 1.0, stops: int = 0) -> Course:
    """A closed loop of a given length that rises and falls once."""
    angle = np.linspace(0, 2 * pi, 361)
    east, north = np.cos(angle) * 1.6 - 1.6, np.sin(angle)
    scale = length_m / np.hypot(np.diff(east), np.diff(north)).sum()
    east, north = east * scale, north * scale
    distance = np.concatenate([[0], np.cumsum(np.hypot(np.diff(east), np.diff(north)))])
    return Course(
        distance_m=distance,
        altitude_m=4 + rise_m * (1 - np.cos(angle)) / 2,
        east_m=east,
        north_m=north,
        crr_factor=crr_factor,
        stops_m=tuple(length_m * (k + 0.5) / stops for k in range(stops)) if stops else (),
        closed=True,
    )


def out_and_back(
    one_way_m: float, rise_m: float, *, crr_factor: float = 1.0, stops: int = 3
) -> Course:
    """A road whose climb lies at its far end, ridden there and back."""
    along = np.linspace(0, 1, 241)
    height = 6 + 10 * np.sin(along * 9) ** 2 + rise_m / (1 + np.exp(-(along - 0.8) * 22))
    bend = 0.10 * one_way_m * np.sin(along * 5)
    east, north = along * one_way_m * 0.97, bend
    # As long as it is called, or every track of it would be longer than every wheel's count.
    scale = one_way_m / np.hypot(np.diff(east), np.diff(north)).sum()
    east, north = east * scale, north * scale
    distance = np.concatenate([[0], np.cumsum(np.hypot(np.diff(east), np.diff(north)))])
    halves = [one_way_m * (k + 1) / (stops + 1) for k in range(stops)]
    return Course(
        distance_m=np.concatenate([distance, one_way_m + distance[1:]]),
        altitude_m=np.concatenate([height, height[-2::-1]]),
        east_m=np.concatenate([east, east[-2::-1]]),
        north_m=np.concatenate([north, north[-2::-1]]),
        crr_factor=crr_factor,
        stops_m=tuple(halves + [2 * one_way_m - at for at in reversed(halves)]),
        closed=True,
    )


def ride(
    vehicle: VehicleModel,
    pack: PackSpec,
    course: Course,
    weather: Weather,
    plan: RidePlan,
    *,
    retained: float = 1.0,
    seed: int,
) -> Truth:
    """Ride a course until it ends, the pack is at cut-off for 3 s, or the plan says stop."""
    rng = np.random.default_rng(seed)
    curve = ocv_curve(pack.chemistry)
    cold = capacity_factor(pack.chemistry, weather.temp_c)
    capacity_as = pack.rated_ah * retained * 3600 * cold
    warm_r = 0.12 * pack.series / pack.rated_ah * (1 + 0.6 * (1 - retained) / 0.2)
    resistance = warm_r * 2 ** (max(25 - weather.temp_c, 0) / 25)
    slow_r = 0.5 * resistance
    mass = vehicle.mass_kg + plan.rider_kg
    charge, polarisation_v, speed, distance = plan.start_charge, 0.0, 0.0, 0.0
    pack_temp = weather.temp_c
    rows: list[tuple[float, ...]] = []
    under_s = 0
    mood = 0.0
    waiting = plan.rest_before_s
    ended: int | None = None
    paused = False
    next_stop = 0
    stops = _stops(course, plan)
    road = _Road(course)
    charges, open_v = curve.state_of_charge.tolist(), curve.ocv_v.tolist()
    time_s = 0
    reached = False
    while time_s < 12 * 3600:
        along = distance % course.length_m if course.closed else min(distance, course.length_m)
        here = road.at(along)
        ocv_v = _between(charge, charges, open_v) * pack.series
        mood = 0.98 * mood + rng.normal(0, plan.speed_spread * 0.2)
        target = max(plan.target_mps * (1 + mood), 1.0)
        if ended is not None or waiting > 0:
            target = 0.0
            waiting -= 1
        elif next_stop < len(stops) and stops[next_stop] - distance < speed**2 / 2.4 + 1:
            target = 0.0
            if speed < 0.3:
                waiting, next_stop = int(rng.integers(6, 25)), next_stop + 1
        if plan.pause_at_m is not None and not paused and distance >= plan.pause_at_m:
            paused, waiting = True, plan.pause_s
        accel = min(max((target - speed) / 4.0, -1.2), 0.8)
        bearing = here[3]
        head = weather.wind_mps * cos(radians(weather.wind_from_deg - bearing))
        air = speed + head
        force = (
            vehicle.crr * course.crr_factor * mass * STANDARD_GRAVITY_MPS2
            + mass * STANDARD_GRAVITY_MPS2 * here[2]
            + 0.5 * weather.density_kgpm3 * vehicle.cda_m2 * air * abs(air)
            + 1.03 * mass * accel
        )
        wheel_w = force * speed if speed > 0.1 or accel > 0 else 0.0
        wheel_w = max(wheel_w, 1.03 * mass * accel * 0.5) if accel > 0 and speed < 0.1 else wheel_w
        aux = vehicle.aux_w if ended is None else 0.3 * vehicle.aux_w
        if wheel_w > 0:
            power = wheel_w / vehicle.efficiency + aux
        else:
            power = vehicle.regeneration * wheel_w * (0.0 if charge > 0.97 else 1.0) + aux
        power *= 1 + rng.normal(0, 0.03)
        limited = min(
            power, vehicle.max_power_w, (ocv_v - polarisation_v) ** 2 / (4.2 * resistance)
        )
        if limited < power and speed > 0.1:
            accel -= (power - limited) * vehicle.efficiency / (1.03 * mass * speed)
        internal = ocv_v - polarisation_v
        current = (internal - sqrt(max(internal**2 - 4 * resistance * limited, 0.0))) / (
            2 * resistance
        )
        voltage = internal - current * resistance
        rows.append(
            (
                time_s, distance, speed, here[1], here[4], here[5],
                voltage, current, charge, pack_temp, ocv_v, polarisation_v,
            )
        )  # fmt: skip
        under_s = under_s + 1 if pack.cutoff_v is not None and voltage <= pack.cutoff_v else 0
        if ended is None and (under_s >= 5 or _arrived(course, plan, distance)):
            ended, reached = time_s, under_s >= 5
        if ended is not None and time_s - ended >= plan.rest_after_s:
            break
        charge = max(charge - current / capacity_as, 0.0)
        polarisation_v += (current * slow_r - polarisation_v) * (1 - exp(-1 / SLOW_TAU_S))
        pack_temp += (current**2 * resistance - (pack_temp - weather.temp_c) * 1.2) / (pack.rated_ah * pack.series * 42)  # fmt: skip
        if ended is not None:
            accel = -min(speed, 2.5)
        new_speed = max(speed + accel, 0.0)
        distance += (speed + new_speed) / 2
        speed = new_speed
        time_s += 1
    table = np.array(rows)
    return Truth(*(), **dict(zip(_FIELDS, table.T, strict=True)), reached_cutoff=reached)


_FIELDS = (
    "time_s", "distance_m", "speed_mps", "altitude_m", "east_m", "north_m",
    "voltage_v", "current_a", "charge", "pack_temp_c",
    "settled_v", "lag_v",
)  # fmt: skip


def _stops(course: Course, plan: RidePlan) -> list[float]:
    laps = 200 if course.closed else 1
    every = [lap * course.length_m + at for lap in range(laps) for at in course.stops_m]
    return [at for at in every if plan.stop_at_m is None or at < plan.stop_at_m - 30]


def _arrived(course: Course, plan: RidePlan, distance: float) -> bool:
    if plan.stop_at_m is not None:
        return distance >= plan.stop_at_m
    return not course.closed and distance >= course.length_m


class _Road:
    """A course as plain lists: one place of it is asked for each second of a ride."""

    def __init__(self, course: Course) -> None:
        self.distance_m: list[float] = course.distance_m.tolist()
        self.altitude_m: list[float] = course.altitude_m.tolist()
        self.east_m: list[float] = course.east_m.tolist()
        self.north_m: list[float] = course.north_m.tolist()

    def at(self, along: float) -> tuple[float, float, float, float, float, float]:
        """Distance, height, grade, bearing [deg], east and north at a place."""
        k = min(max(bisect_left(self.distance_m, along) - 1, 0), len(self.distance_m) - 2)
        step = self.distance_m[k + 1] - self.distance_m[k]
        part = (along - self.distance_m[k]) / step
        rise = self.altitude_m[k + 1] - self.altitude_m[k]
        east, north = self.east_m[k + 1] - self.east_m[k], self.north_m[k + 1] - self.north_m[k]
        return (
            along,
            self.altitude_m[k] + part * rise,
            rise / step,
            degrees(atan2(east, north)) % 360,
            self.east_m[k] + part * east,
            self.north_m[k] + part * north,
        )


def _between(x: float, xs: list[float], ys: list[float]) -> float:
    """A value between the rows of a table; at its ends the ends'."""
    k = bisect_left(xs, x)
    if k == 0:
        return ys[0]
    if k == len(xs):
        return ys[-1]
    slope = (ys[k] - ys[k - 1]) / (xs[k] - xs[k - 1])
    return slope * (x - xs[k - 1]) + ys[k - 1]


def position(
    east_m: FloatArray, north_m: FloatArray, origin: tuple[float, float]
) -> tuple[FloatArray, FloatArray]:
    """Latitude and longitude [deg] of places near an origin, on a sphere: a made-up island's map."""
    latitude = origin[0] + north_m / METRES_PER_DEGREE
    longitude = origin[1] + east_m / (METRES_PER_DEGREE * cos(radians(origin[0])))
    return latitude, longitude
