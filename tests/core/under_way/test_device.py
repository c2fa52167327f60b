"""The device's own estimate against the core, on seeded rides of known kit, entry after entry without signal.

What runs is the page's own code, in Node.
"""

from __future__ import annotations

import json
import os
import subprocess
from pathlib import Path

import numpy as np

from launch.environment import node_environment
from limpet.evidence.model import Entry, Gauge, Instruments, Protocol, RangeTest, Start
from limpet.under_way import WayAhead, advise
from tests.calibration.cells import FOREIGN, cell_rides
from tools.make_follow_rides import entry, said, sheet, steps

WEB = Path(__file__).resolve().parents[3] / "web"
RIDES = int(os.environ.get("LIMPET_DEVICE_RIDES", "14"))
MOST_FURTHER = 6
#: Rides of layered-oxide cells that PyBaMM rode: their volts at stops are no curve of the core's own.
CELLS = [
    ride for ride in cell_rides() if ride.chemistry == "nmc" and ride.parameters not in FOREIGN
]


def at_rest(number: int) -> tuple[np.ndarray, np.ndarray]:
    """Shares of its energy that such a cell had left at its stops, rising, and its volts there."""
    ride = CELLS[number % len(CELLS)]
    rows = [0, *(last for _, last in ride.pauses()), len(ride.volts) - 1]
    left = 1.0 - ride.energy[rows] / ride.energy[-1]
    return left[::-1], ride.volts[rows][::-1]


def case(number: int) -> dict[str, object]:
    """A ride of a kind of evidence, its table, and what the core says after each further entry."""
    rng = np.random.default_rng([20261129, number])
    kind = ("volts", "percent", "meter", "bars")[number % 4]
    wh_per_km, pack_wh = rng.uniform(10, 16), rng.uniform(640, 720)
    steps_of = {"percent": 100, "bars": 5}.get(kind)
    tools = Instruments(
        gauge=Gauge(kind="bars" if kind == "bars" else "percent", steps=steps_of or 100)
    )
    bend = np.exp(-rng.uniform(0.1, 0.5))

    def read(km: float, kind_of: str = "checkpoint") -> Entry:
        left = max(1 - km * wh_per_km / pack_wh, 0.02)
        noted: dict[str, float] = {}
        if kind == "volts":
            noted["voltage_rest_v"] = round(13 * float(np.interp(left, *at_rest(number))), 1)
        elif kind == "meter":
            noted["charge_ah"] = round(km * wh_per_km / 47.5, 2)
        else:
            shown = float(steps_of or 100) * left**bend
            noted["gauge"] = float(np.ceil(shown) if kind == "bars" else np.round(shown))
        return entry(km, kind_of, **noted)

    begun = int(rng.integers(0, 4))
    end_km = rng.uniform(0.3, 0.8) * pack_wh / wh_per_km
    places = np.linspace(0, end_km, begun + MOST_FURTHER + 1)
    entries = [read(float(km), "checkpoint" if km else "start") for km in places]
    known, later = entries[: begun + 1], entries[begun + 1 :]
    test = RangeTest(
        sheet=sheet(
            instruments=tools, start=Start(full=True, just_charged=True),
            protocol=Protocol(target_speed_mps=5.6, speed_policy="fixed"),
        ),
        entries=tuple(known),
    )  # fmt: skip
    ahead = None
    if number % 2:
        until = 1000 * (end_km + rng.uniform(0.1, 0.6) * end_km)
        ahead = WayAhead(onward="given", from_m=1000 * float(places[begun]), until_m=until)
    return {
        "table": advise(test, ahead=ahead).table().to_json(),
        "known": [said(one) for one in known],
        "later": steps(test, later, ahead),
    }


def test_the_device_is_where_the_core_is_after_up_to_six_further_entries(tmp_path):
    cases = [case(number) for number in range(RIDES)]
    file = tmp_path / "cases.json"
    file.write_text(json.dumps(cases))
    # Not the aim (95% within 5 points, and 5% or 200 m) but what stands; docs/method.md tells where not.
    wanted = {
        "within10points": 0.95,
        "within5points": 0.88,
        "withinDistance": 0.86,
        "twiceDistance": 0.95,
    }
    environment = {
        **node_environment(),
        "LIMPET_DEVICE_CASES": str(file),
        "LIMPET_DEVICE_WANTED": json.dumps(wanted),
    }
    ran = subprocess.run(
        ["npx", "vitest", "run", "src/roadside/table.test.ts", "-t", "many rides"],
        cwd=WEB, env=environment, capture_output=True, text=True, check=False,
    )  # fmt: skip
    print(ran.stdout[-4000:])
    assert ran.returncode == 0, ran.stdout[-4000:] + ran.stderr[-2000:]
