"""Ride cells of published parameter sets with PyBaMM, once, and keep what happened.

Run with the test requirements installed:  .venv/bin/python -m tools.make_cell_rides

These rides know nothing of the core's battery model: a porous-electrode model (SPMe, lumped heat)
answers the power that a simulated vehicle asks of each cell, second by second, until the voltage
limit, and then rests. Whoever measures the core against them has a truth that the core does not
share. Kept every five seconds: volts, amps, the integrals of power and current, distance, height.
"""

from __future__ import annotations

import os
import sys
from dataclasses import dataclass
from pathlib import Path

os.environ["PYBAMM_DISABLE_TELEMETRY"] = "true"

import numpy as np
import pybamm

HERE = Path(__file__).resolve().parent.parent / "tests" / "calibration"
FILE = HERE / "cell_rides.npz"
#: Rides in steep hills that give back much: kept apart, so that the others keep their places.
STEEP_FILE = HERE / "steep_rides.npz"
STEEP_SETS = ("OKane2022", "Chen2020", "NCA_Kim2011", "Prada2013")
STEEP_DAYS = ((22, 1.4), (15, 2.0), (8, 1.7), (27, 2.4))
#: Share of the wheel's work that comes back to the pack, in braking and downhill.
STEEP_REGEN = 0.6
#: PyBaMM's sets, and the chemistry that a rider would say.
SETS = {
    "Chen2020": "nmc",
    "Mohtat2020": "nmc",
    "OKane2022": "nmc",
    "ORegan2022": "nmc",
    "Ai2020": "nmc",
    "NCA_Kim2011": "nca",
    "Prada2013": "lfp",
    "Ecker2015": "nmc",
}
#: Temperature [°C] and about how many hours a pack lasts.
DAYS = (
    (22, 1.2), (22, 2.2), (5, 1.6), (30, 1.6), (12, 3.0), (18, 0.9),
    (20, 1.5), (8, 2.0), (25, 1.8), (15, 1.4), (20, 2.6),
)  # fmt: skip
#: Riders charge to this, whatever limit a set was published with [V].
MOST_V = 4.2
KEPT_EVERY_S = 5
REST_S = 1800
CYCLE_S = 4


@dataclass(frozen=True, slots=True, kw_only=True)
class Road:
    """What a vehicle does, second by second, all of shape (n,)."""

    speed_mps: np.ndarray
    altitude_m: np.ndarray
    wheel_w: np.ndarray
    mass_kg: float


def road(rng: np.random.Generator, seconds: int, steep: bool = False) -> Road:
    """A ride with hills, stops of some seconds, two or three pauses, and wind."""
    target = rng.uniform(4.5, 9.0)
    # Steep hills are short: where a long one happened to end would be most of the answer.
    length = rng.uniform(500, 1800) if steep else rng.uniform(1500, 9000)
    steepest = rng.uniform(0.04, 0.07) if steep else rng.uniform(0.005, 0.03)
    rise = steepest * length / np.pi
    stops_per_m = rng.uniform(0.3, 1.5) / 1000
    mass, crr, cda = rng.uniform(85, 130), rng.uniform(0.008, 0.016), rng.uniform(0.45, 0.7)
    wind = rng.normal(0, 2)
    speed = np.zeros(seconds)
    altitude = np.zeros(seconds)
    metres, v, wait, drift = 0.0, 0.0, 20, 0.0
    next_stop = rng.exponential(1 / stops_per_m)
    pauses = sorted(rng.uniform(0.15, 0.8, rng.integers(1, 4)) * seconds)
    wheel = np.zeros(seconds)
    for k in range(seconds):
        drift = 0.98 * drift + rng.normal(0, 0.12)
        grade = rise * 2 * np.pi / length * np.sin(2 * np.pi * metres / length)
        if pauses and k > pauses[0] and v == 0:
            pauses.pop(0)
            wait = int(rng.choice([40, 90, 180, 600]))
        stopping = metres > next_stop or (pauses and k > pauses[0])
        goal = 0.0 if stopping else max(target + drift, 1.5)
        if wait > 0:
            wait -= 1
            goal = 0.0
            if wait == 0:
                next_stop = metres + rng.exponential(1 / stops_per_m) + 40
        accel = np.clip(goal - v, -1.2, 0.7)
        v = max(v + accel, 0.0)
        if v < 0.05 and goal == 0.0:
            v = 0.0
            if metres > next_stop and wait == 0:
                wait = int(rng.integers(5, 30))
        air = v + wind
        force = mass * 9.80665 * (crr * (v > 0) + grade) + 0.6 * cda * air * abs(air) * (v > 0)
        wheel[k] = (force + 1.03 * mass * accel) * v
        metres += v
        speed[k] = v
        altitude[k] = rise * (1 - np.cos(2 * np.pi * metres / length))
    return Road(speed_mps=speed, altitude_m=altitude, wheel_w=wheel, mass_kg=float(mass))


def asked_w(way: Road, rng: np.random.Generator, steep: bool = False) -> np.ndarray:
    """What such a vehicle takes of its pack [W], shape (n,)."""
    regen = STEEP_REGEN if steep else float(rng.choice([0.0, 0.0, 0.15]))
    return np.maximum(way.wheel_w, 0) / 0.8 + np.minimum(way.wheel_w, 0) * regen + 4.0


def ride(
    name: str, temp_c: float, hours: float, seed: int, steep: bool = False
) -> dict[str, np.ndarray] | None:
    """One cell from full to its limit at about so many hours, then at rest."""
    rng = np.random.default_rng(seed)
    values = pybamm.ParameterValues(name)
    low = values["Lower voltage cut-off [V]"]
    high = min(values["Upper voltage cut-off [V]"], MOST_V)
    nominal_ah = values["Nominal cell capacity [A.h]"]
    seconds = int(3600 * hours * 1.6)
    way = road(rng, seconds, steep)
    asked = asked_w(way, rng, steep)
    mean_w = nominal_ah * (low + high) / 2 / hours
    power = asked * mean_w / asked.mean()
    # What the cell is asked is the mean of some seconds: it cannot tell, and is solved sooner.
    coarse = power[: seconds // CYCLE_S * CYCLE_S].reshape(-1, CYCLE_S).mean(axis=1)
    cycle = np.column_stack([np.arange(len(coarse)) * float(CYCLE_S), coarse])
    values.update(
        {"Ambient temperature [K]": 273.15 + temp_c, "Initial temperature [K]": 273.15 + temp_c}
    )
    # Prada's set has no thermal part.
    heat = "isothermal" if name == "Prada2013" else "lumped"
    model = pybamm.lithium_ion.SPMe({"thermal": heat})
    # The rider's vehicle stops a little above the cell's own limit.
    cut = {"nmc": 3.0, "nca": 3.0, "lfp": 2.5}[SETS[name]]
    cut = max(cut, low + 0.02)
    experiment = pybamm.Experiment(
        [
            (
                pybamm.step.power(cycle, termination=f"< {cut}V"),
                pybamm.step.rest(REST_S, period=KEPT_EVERY_S),
            )
        ]
    )
    sim = pybamm.Simulation(model, experiment=experiment, parameter_values=values)
    try:
        found = sim.solve(initial_soc=f"{high} V")
    except Exception as error:
        print(name, temp_c, hours, "failed:", str(error)[:100], file=sys.stderr)
        return None
    t = found["Time [s]"].entries
    volts, amps = found["Terminal voltage [V]"].entries, found["Current [A]"].entries
    keep = np.concatenate([[True], np.diff(t) > 1e-6])
    t, volts, amps = t[keep], volts[keep], amps[keep]
    energy = (
        np.concatenate(
            [[0], np.cumsum((volts[1:] * amps[1:] + volts[:-1] * amps[:-1]) / 2 * np.diff(t))]
        )
        / 3600
    )
    charge = np.concatenate([[0], np.cumsum((amps[1:] + amps[:-1]) / 2 * np.diff(t))]) / 3600
    end_s = t[-1] - REST_S
    at = np.arange(0, t[-1], KEPT_EVERY_S)
    metres = np.concatenate([[0], np.cumsum(way.speed_mps)])
    ridden = np.minimum(at, end_s)
    return {
        "volts": np.round(np.interp(at, t, volts) * 1e4).astype(np.uint16),
        "amps": np.round(np.interp(at, t, amps) / nominal_ah * 1e4).astype(np.int32),
        "energy": np.interp(at, t, energy / nominal_ah).astype(np.float32),
        "charge": np.interp(at, t, charge / nominal_ah).astype(np.float32),
        "metres": np.interp(ridden, np.arange(seconds + 1), metres).astype(np.float32),
        "altitude": np.interp(ridden, np.arange(seconds), way.altitude_m).astype(np.float32),
        "speed": np.interp(ridden, np.arange(seconds), way.speed_mps).astype(np.float32)
        * (at <= end_s),
        # Amp-hours of such cells that the vehicle needs for its power, and what moves.
        "needs": np.array([asked.mean() / (mean_w / nominal_ah), way.mass_kg]),
        "about": np.array([temp_c, hours, nominal_ah, cut, high, end_s, float(t[-1])]),
    }


def keep(
    file: Path, names: list[str], days: tuple[tuple[int, float], ...], steep: bool = False
) -> None:
    """Ride what the file has not, and write it."""
    kept: dict[str, np.ndarray] = dict(np.load(file)) if file.is_file() else {}
    for name in names:
        place = list(SETS).index(name)
        for number, (temp_c, hours) in enumerate(days):
            # What is kept stays as it is: a new solver would move it a little.
            if f"{name}:{temp_c}:{hours}:about" in kept and (steep or name != "ORegan2022"):
                continue
            found = ride(name, temp_c, hours, 1006 * place + number + 1 + 500 * steep, steep)
            if found is None:
                continue
            about = found["about"]
            print(
                name,
                temp_c,
                hours,
                f"{about[5] / 3600:.2f} h, {found['charge'][-1]:.3f} of nominal",
                flush=True,
            )
            kept |= {f"{name}:{temp_c}:{hours}:{key}": value for key, value in found.items()}
    file.parent.mkdir(parents=True, exist_ok=True)
    np.savez_compressed(file, **kept)
    print(file, file.stat().st_size)


def main() -> None:
    if sys.argv[1:] == ["steep"]:
        keep(STEEP_FILE, list(STEEP_SETS), STEEP_DAYS, steep=True)
    else:
        keep(FILE, sys.argv[1:] or list(SETS), DAYS)


if __name__ == "__main__":
    main()
