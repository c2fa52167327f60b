"""A ride second by second in plain Python: independent of the core's walk, for its forecasts.

It shares the inputs' names, the chemistry's curves and table of cold with the core, and nothing
else: it brakes, stands, gathers way and climbs in time, where the core walks in distance.
"""

from __future__ import annotations

from math import cos, exp, log1p, radians, sqrt

import numpy as np

from limpet.drive.inputs import Inputs
from limpet.pack import capacity_factor, curve_family, ocv_curve
from limpet.pack.family import GRID
from limpet.road import Leg, Route
from limpet.trip import Trip

Drawn = dict[str, float]


def drawn(inputs: Inputs, rng: np.random.Generator) -> Drawn:
    """One day: every input from its own distribution, one number after the other."""
    found = {}
    for name, item in inputs.by_name.items():
        score = rng.normal()
        if item.shape == "any_direction":
            found[name] = rng.uniform(0, 360)
        elif item.shape == "lognormal":
            spread = sqrt(log1p((item.standard_uncertainty / (item.value or 1.0)) ** 2))
            found[name] = item.value * exp(spread * score) if item.value else 0.0
        elif item.shape == "rectangular":
            found[name] = item.value + item.standard_uncertainty * sqrt(3) * rng.uniform(-1, 1)
        elif item.shape == "shortfall":
            found[name] = item.value - item.standard_uncertainty * max(score, 0.0)
        else:
            found[name] = item.value + item.standard_uncertainty * score
    # The pack's own curve, as a sum of its family's shapes, and how its resistance grows towards empty.
    found |= {f"curve_{k}": rng.normal() for k in range(8)}
    found["low_charge"] = 2.2 * exp(sqrt(log1p(0.8**2)) * rng.normal())
    return found


def slopes(route: Route) -> list[tuple[float, float, float, Leg]]:
    """(begins at, ends at, grade, leg) along the route."""
    at, found = 0.0, []
    for leg in route.legs:
        hills = [(leg.climb_m / 2 / g, leg.climb_m / 2) for g in (0.035, 0.065)]
        falls = [(leg.descent_m / 2 / g, -leg.descent_m / 2) for g in (0.035, 0.065)]
        flat = leg.length_m - sum(length for length, _ in hills + falls)
        pieces = [*hills, (flat, 0.0), *falls]
        for length, rise in pieces:
            if length > 0:
                found.append((at, at + length, rise / length, leg))
                at += length
    return found


def stops_along(route: Route) -> list[float]:
    """Where one must stop, evenly within each leg."""
    at, found = 0.0, []
    for leg in route.legs:
        found += [at + leg.length_m * (k + 0.5) / leg.stops for k in range(int(leg.stops))]
        at += leg.length_m
    return found


def ride(
    trip: Trip, route: Route, day: Drawn, *, accel=0.7, brake=1.1, wait_s=15.0, dt=1.0
) -> float:
    """How far a drawn day's ride goes until the drive stops [m], going round and round."""
    pack = trip.pack
    curve = ocv_curve(pack.chemistry)
    mass = day["vehicle_mass_kg"] + day["rider_mass_kg"] + day["gear_kg"]
    rated = day["rated_energy_wh"] / (pack.series * curve.mean_v)
    warm_as = 3600 * rated * day["retained_fraction"]
    warm_ohm = day["resistance_ohm"]
    if pack.resistance_ohm is None:
        warm_ohm *= 1 + 3 * max(1 - day["retained_fraction"], 0)
    temp = day["temp_c"]
    heat_capacity = warm_as * pack.series * curve.mean_v / 3600 / 180 * 1000
    capacity_as, cool_ohm = warm_as, warm_ohm
    seconds = 0
    # Dry-ish air by the ideal gas law: within half a percent of the core's formula.
    rho = 101_325 / (287.05 * (day["temp_c"] + 273.15)) * 0.996
    drag = 0.5 * rho * day["cda_m2"] * day["riding"]
    rolling = day["crr"] * day["riding"]
    road, stops = slopes(route), stops_along(route)
    family = curve_family(pack.chemistry)
    own = family.volts[0] + sum(
        day[f"curve_{k}"] * shape for k, shape in enumerate(family.volts[1:])
    )
    z_table, v_table = GRID, own * pack.series
    inside = GRID >= -1e-9
    stored = np.concatenate(
        [[0.0], np.cumsum(np.diff(GRID[inside]) * (own[inside][1:] + own[inside][:-1]) / 2)]
    )
    stored /= np.interp(1.0, GRID[inside], stored)
    lap = route.length_m
    x = v = joules = 0.0
    full_z = float(np.interp(day["start_energy_fraction"], stored, GRID[inside]))
    z, k, next_stop, laps, waiting, low_s = full_z, 0, 0, 0, 0.0, 0.0
    target = day["target_speed_mps"]
    while low_s < 5:
        along = x - laps * lap
        if along >= lap:
            laps, k, next_stop, along = laps + 1, 0, 0, along - lap
        while along >= road[k][1] and k < len(road) - 1:
            k += 1
        _, _, grade, leg = road[k]
        head = day["wind_mps"] * cos(radians(day["wind_from_deg"] - (leg.bearing_deg or 0.0)))
        wanted = target
        if waiting > 0:
            waiting -= dt
            wanted = 0.0
        elif (
            next_stop < len(stops) and stops[next_stop] - along <= v * v / (2 * brake) + v * dt / 2
        ):
            wanted = 0.0
            if v < 0.3:
                waiting, next_stop = wait_s, next_stop + 1
        a = min(max((wanted - v) / dt, -brake), accel)
        if wanted == target and (v > target or (grade < 0 and v > 0.9 * target)):
            # Let run, up to a quarter over the speed held, and roll out again.
            free = drag * (v + head) * abs(v + head) + mass * 9.80665 * (rolling + grade)
            a = min(max(a, -free / (1.03 * mass)), max(1.25 * target - v, -brake) / dt)
        air = v + head
        resisting = mass * 9.80665 * (rolling * sqrt(1 - grade * grade) + grade) + drag * air * abs(
            air
        )
        middle = v + a * dt / 2
        wheel = (resisting + 1.03 * mass * a) * middle
        power = (wheel / day["drivetrain_efficiency"] if wheel > 0 else 0.0) + day["aux_w"]
        open_v = float(np.interp(z, z_table, v_table))
        ohm = cool_ohm * (1 + day["low_charge"] * exp(-z / 0.08))
        most = min(day["max_power_w"], 0.98 * open_v * open_v / (4 * ohm))
        if seconds > 120:
            cut = 1.001 * (pack.cutoff_v or 0.0)
            most = min(most, max(cut * (open_v - cut) / ohm, joules / seconds))
        if power > most:
            drive = (most - day["aux_w"]) * day["drivetrain_efficiency"]
            a = (drive / max(middle, 0.5) - resisting) / (1.03 * mass)
            power = most
        if seconds % 60 == 0:
            capacity_as = warm_as * capacity_factor(pack.chemistry, temp)
            cool_ohm = warm_ohm * 2 ** (max(25 - temp, 0) / 25)
        seconds += 1
        amps = (open_v - sqrt(open_v * open_v - 4 * ohm * power)) / (2 * ohm)
        loaded = open_v - amps * ohm
        joules += power * dt
        temp += (
            day["pack_warming"] * amps**2 * ohm / heat_capacity - (temp - day["temp_c"]) / 5400
        ) * dt
        low_s = low_s + dt if loaded <= (pack.cutoff_v or 0) else 0.0
        if z <= 0 or (v < trip.minimum_speed_mps and wanted > 0 and a < 0.02 and x > 50):
            break
        new = max(v + a * dt, 0.0)
        x += (v + new) / 2 * dt
        v = new
        z -= amps * dt / capacity_as
    return x
