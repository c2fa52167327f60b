"""The practice ride: a made-up road of Skerrow, ridden by the stand-in once for each place to turn.

`python -m tools.make_practice` writes `src/limpet/practice/ride.json`. Seeded: it writes the same every time.
"""

from __future__ import annotations

import json
from math import exp
from pathlib import Path
from typing import Any

import numpy as np

from demo.island import VEHICLES
from limpet.pack import PackSpec
from standins.ride_generator import (
    SLOW_TAU_S,
    Course,
    RidePlan,
    Truth,
    VehicleModel,
    Weather,
    ride,
)

FILE = Path(__file__).resolve().parents[1] / "src/limpet/practice/ride.json"
SEED = 20261127
#: A row of the way out and of each way home is so long [s].
STEP_S = 4
#: At these stones one can turn; the road ends at the last.
STONES_M = tuple(1000.0 * k for k in range(1, 15))
PACK = PackSpec(
    name="Sandpiper 36", chemistry="nmc", series=10, parallel=3, rated_ah=7.8,
    full_v=42.0, cutoff_v=31.0,
)  # fmt: skip
#: The pack is not quite what its label says.
RETAINED = 0.94
SPEC = VEHICLES["Turnstone"]
MODEL: VehicleModel = SPEC.model
WEATHER = Weather(temp_c=13.0, wind_mps=1.5, wind_from_deg=270.0)
RIDER_KG = 78.0
TARGET_MPS = 5.8
#: From so many volts on under load the gauge shows one bar, two, and so on: it lies on every hill.
BARS_V = (31.0, 33.6, 35.4, 36.9, 38.6)
#: How much of the lag is left so long after the throttle is closed.
BACK_S = (0, 10, 20, 30, 45, 60, 90, 120, 180, 240, 300, 450, 600, 900)


def road(turn_m: float) -> Course:
    """Eastward to a stone and back: a little down on the way out, so up on the way home."""
    along = np.arange(0.0, turn_m + 1, 25.0)
    height = 62 - 3.2 * along / 1000 + 7 * np.sin(along / 900) ** 2
    distance = np.concatenate([along, turn_m + along[1:]])
    return Course(
        distance_m=distance,
        altitude_m=np.concatenate([height, height[-2::-1]]),
        east_m=np.concatenate([along, along[-2::-1]]),
        north_m=np.zeros(len(distance)),
        crr_factor=1.1,
        stops_m=(),
        closed=False,
    )


def ridden(turn_m: float) -> Truth:
    """What happened, seen from the first metre."""
    plan = RidePlan(
        rider_kg=RIDER_KG, target_mps=TARGET_MPS, rest_before_s=0, rest_after_s=0,
        stop_at_m=2 * turn_m,
    )  # fmt: skip
    return ride(MODEL, PACK, road(turn_m), WEATHER, plan, retained=RETAINED, seed=SEED)


def columns(truth: Truth, begin: int, end: int) -> dict[str, Any]:
    """Rows of a truth from one second to another, in whole small units."""
    rows = np.unique(np.append(np.arange(begin, end, STEP_S), end - 1))
    used_wh = np.cumsum(truth.voltage_v * truth.current_a) / 3600
    shown = {
        "distance_m": truth.distance_m,
        "speed_dmps": 10 * truth.speed_mps,
        "voltage_cv": 100 * truth.voltage_v,
        "settled_cv": 100 * truth.settled_v,
        "lag_cv": 100 * truth.lag_v,
        "used_dwh": 10 * used_wh,
    }
    found = {name: np.round(values[rows]).astype(int).tolist() for name, values in shown.items()}
    return {"begins_s": begin, "ends_s": end - 1, **found}


def made() -> dict[str, Any]:
    """The file's object."""
    truths = [ridden(stone) for stone in STONES_M]
    longest = truths[-1]
    ways: list[dict[str, Any]] = []
    for stone, truth in zip(STONES_M, truths, strict=True):
        turns = truth.row_at_distance(stone - 1)
        ways.append(
            {
                "turn_m": round(stone),
                "home": not truth.reached_cutoff,
                "rows": columns(truth, turns, len(truth.time_s)),
            }
        )
    empty_wh = [way["rows"]["used_dwh"][-1] / 10 for way in ways if not way["home"]]
    return {
        "name": "peat-road",
        "title": "Peat road with the wind",
        "step_s": STEP_S,
        "pace": 30,
        "vehicle": {"name": "Turnstone", "kind": "kick_scooter", "mass_kg": MODEL.mass_kg},
        "pack": {
            "name": PACK.name, "chemistry": PACK.chemistry, "series": PACK.series,
            "parallel": PACK.parallel, "rated_ah": PACK.rated_ah, "full_v": PACK.full_v,
            "cutoff_v": PACK.cutoff_v,
        },
        "rider_kg": RIDER_KG,
        "temp_c": WEATHER.temp_c,
        "trip_scale": SPEC.trip_scale,
        "bars_v": list(BARS_V),
        "back": {
            "seconds": list(BACK_S),
            "left": [round(exp(-second / SLOW_TAU_S), 4) for second in BACK_S],
        },
        "usable_wh": round(float(np.mean(empty_wh)), 1),
        "out": columns(longest, 0, longest.row_at_distance(STONES_M[-1] - 1) + 1),
        "ways": ways,
    }  # fmt: skip


if __name__ == "__main__":
    FILE.write_text(json.dumps(made(), separators=(",", ":")) + "\n")
