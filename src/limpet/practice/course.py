"""The truth of the practice ride: one way out, and a way home from each stone where one can turn.

`tools/make_practice.py` has it ridden by the stand-in, which shares no model of a pack with the core.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import VehicleSpec
from limpet.pack import PackSpec

FloatArray = NDArray[np.float64]

#: Its columns: what of the file's whole numbers makes the unit that the name ends in.
_ROWS = {
    "distance_m": ("distance_m", 1.0),
    "speed_mps": ("speed_dmps", 0.1),
    "voltage_v": ("voltage_cv", 0.01),
    "settled_v": ("settled_cv", 0.01),
    "lag_v": ("lag_cv", 0.01),
    "used_wh": ("used_dwh", 0.1),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """What is true at one moment of riding.

    `voltage_v` is under load; `settled_v` what it comes to after a long rest, `lag_v` what of that is
    missing right after the throttle is closed; `used_wh` since the start.
    """

    distance_m: float
    speed_mps: float
    voltage_v: float
    settled_v: float
    lag_v: float
    used_wh: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Rows:
    """A stretch as it was ridden: `time_s` of riding, without stops, shape (n,), and what was true then."""

    time_s: FloatArray
    values: Mapping[str, FloatArray]

    def at(self, moving_s: float) -> Place:
        """Between its rows; before and after it, its ends."""
        return Place(
            **{
                name: float(np.interp(moving_s, self.time_s, row))
                for name, row in self.values.items()
            }
        )

    def when(self, distance_m: float) -> float:
        """After how long a ride [s] a distance is reached."""
        return float(np.interp(distance_m, self.values["distance_m"], self.time_s))


@dataclass(frozen=True, slots=True, kw_only=True)
class WayHome:
    """From a stone home, or to where the drive cut off."""

    turn_m: float
    home: bool
    rows: Rows

    @property
    def used_wh(self) -> float:
        """Since the start, at its end."""
        return float(self.rows.values["used_wh"][-1])


@dataclass(frozen=True, slots=True, kw_only=True)
class PracticeRide:
    """A practice ride: who and what rides, and all that can happen.

    `usable_wh` down to the cut-off, as it is ridden; `pace` how much faster than a real ride it goes;
    `said` the file itself, for whoever shows the ride.
    """

    name: str
    pace: float
    vehicle: VehicleSpec
    pack: PackSpec
    rider_kg: float
    temp_c: float
    bars: int
    usable_wh: float
    trip_scale: float
    back_s: FloatArray
    back_left: FloatArray
    out: Rows
    ways: tuple[WayHome, ...]
    said: Mapping[str, Any]

    def rest_v(self, place: Place, stood_s: float) -> float:
        """What the display shows at a place after standing for so long [s]."""
        left = float(np.interp(stood_s, self.back_s, self.back_left))
        return place.settled_v - place.lag_v * left

    def left(self, place: Place) -> float:
        """What is left of the usable energy, a share."""
        return max(1.0 - place.used_wh / self.usable_wh, 0.0)


@cache
def practice_ride() -> PracticeRide:
    """The ride that is shipped."""
    text = files("limpet.practice").joinpath("ride.json").read_text(encoding="utf-8")
    said = json.loads(text)
    return PracticeRide(
        name=said["name"],
        pace=said["pace"],
        vehicle=VehicleSpec(**said["vehicle"]),
        pack=PackSpec(**said["pack"]),
        rider_kg=said["rider_kg"],
        temp_c=said["temp_c"],
        bars=len(said["bars_v"]),
        usable_wh=said["usable_wh"],
        trip_scale=said["trip_scale"],
        back_s=np.array(said["back"]["seconds"], dtype=np.float64),
        back_left=np.array(said["back"]["left"], dtype=np.float64),
        out=_rows(said["out"], said["step_s"]),
        ways=tuple(
            WayHome(turn_m=way["turn_m"], home=way["home"], rows=_rows(way["rows"], said["step_s"]))
            for way in said["ways"]
        ),
        said=said,
    )


def _rows(kept: Mapping[str, Any], step_s: float) -> Rows:
    n = len(kept["distance_m"])
    # The last row is of the last second, whenever that was.
    time = np.minimum(kept["begins_s"] + step_s * np.arange(n), kept["ends_s"])
    return Rows(
        time_s=time,
        values={
            name: np.array(kept[of], dtype=np.float64) * factor
            for name, (of, factor) in _ROWS.items()
        },
    )
