"""The tide table: how far at a speed, in an air, on a terrain: floor, typical and best, to the reserve."""

from __future__ import annotations

from dataclasses import asdict, dataclass, replace
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from limpet.drive.draws import Columns
from limpet.drive.journey import draws_of, ride_on, trip_steps
from limpet.errors import LimpetError
from limpet.road import Route
from limpet.road.route import loop
from limpet.trip import Known, LoopSpec, RouteSpec, SpeedSpec, Trip

FloatArray = NDArray[np.float64]

#: Draws of each cell of the table, and the most of each axis.
CELL_DRAWS, MOST_OF_AXIS = 80, 8
#: Blocks and steps of a walk are so much coarser than a forecast's own: a table needs no profile.
BLOCK_SCALE, STEP_SCALE = 9.0, 6.0
#: Speeds over the trip's own, and air [°C], that a table has when nobody asks for others.
SPEEDS: Final = (0.6, 0.8, 1.0, 1.2, 1.4)
TEMPS_C: Final = (-5.0, 5.0, 12.0, 20.0, 28.0)
#: A lap of a terrain [m].
LAP_M = 4000.0
#: One such ride in twenty falls short of the floor, and one goes beyond the best: so many standard deviations
#: of the normal distribution out.
OUT = 1.6449
#: A draw further out than so many robust standard deviations counts as one that far out: few draws must not
#: hang on one of them.
FURTHEST = 3.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Terrain:
    """A kind of way: what goes up on it and comes down again, and how often one stands (assumptions)."""

    name: str
    climb_m_per_km: float
    stops_per_km: float

    @property
    def route(self) -> Route:
        """A lap of it."""
        km = LAP_M / 1000
        return loop(LAP_M, climb_m=self.climb_m_per_km * km, stops=self.stops_per_km * km)


TERRAINS: Final = (
    Terrain(name="flat", climb_m_per_km=2.0, stops_per_km=0.2),
    Terrain(name="rolling", climb_m_per_km=8.0, stops_per_km=0.3),
    Terrain(name="hilly", climb_m_per_km=18.0, stops_per_km=0.3),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class TideTable:
    """Distances [m] to the reserve by terrain, air and speed, shape (terrains, temps, speeds).

    19 of 20 such rides go as far as `floor_m`, half of them as far as `typical_m`, one of 20 beyond `best_m`.
    """

    vehicle: str | None
    pack: str | None
    reserve: float
    speeds_mps: tuple[float, ...]
    temps_c: tuple[float, ...]
    terrains: tuple[Terrain, ...]
    floor_m: FloatArray
    typical_m: FloatArray
    best_m: FloatArray

    def to_json(self) -> dict[str, Any]:
        """The JSON of tidetable.md."""
        return {
            "limpet_tidetable": 1,
            "vehicle": self.vehicle,
            "pack": self.pack,
            "reserve": self.reserve,
            "speeds_mps": list(self.speeds_mps),
            "temps_c": list(self.temps_c),
            "terrains": [asdict(terrain) for terrain in self.terrains],
            **{
                name: np.round(getattr(self, name), 0).tolist()
                for name in ("floor_m", "typical_m", "best_m")
            },
        }

    def rows(self) -> list[tuple[str, float, float, float, float, float]]:
        """(terrain, °C, m/s, floor, typical, best [m]) of every cell."""
        return [
            (
                terrain.name, temp, speed, float(self.floor_m[t, c, s]),
                float(self.typical_m[t, c, s]), float(self.best_m[t, c, s]),
            )
            for t, terrain in enumerate(self.terrains)
            for c, temp in enumerate(self.temps_c)
            for s, speed in enumerate(self.speeds_mps)
        ]  # fmt: skip


def tide_table(
    trip: Trip,
    *,
    speeds_mps: tuple[float, ...] | None = None,
    temps_c: tuple[float, ...] = TEMPS_C,
    terrains: tuple[Terrain, ...] = TERRAINS,
) -> TideTable:
    """How far a vehicle, a pack and a rider go.

    Parameters
    ----------
    trip : who rides what; its way and its air are the table's, its wind stays
    speeds_mps : held; about the trip's own when None

    Raises
    ------
    LimpetError
        When an axis is empty or longer than `MOST_OF_AXIS`, or a speed is not above 0.

    Notes
    -----
    Every cell has the same draws of the day, so that the table is smooth; one walk of each terrain and
    speed carries all airs side by side (`drive`).
    """
    own = _own_speed(trip)
    speeds = speeds_mps or tuple(share * own for share in SPEEDS)
    for name, axis in (("speeds", speeds), ("temperatures", temps_c), ("terrains", terrains)):
        if not 0 < len(axis) <= MOST_OF_AXIS:
            raise LimpetError(f"a tide table has 1 to {MOST_OF_AXIS} {name}; here are {len(axis)}")
    if min(speeds) <= 0:
        raise LimpetError("a tide table's speeds are above 0")
    cells = np.array([_cells(trip, speeds, temps_c, terrain) for terrain in terrains])
    floor, typical, best = _bounds(cells)
    return TideTable(
        vehicle=trip.vehicle.name,
        pack=trip.pack.name,
        reserve=trip.reserve,
        speeds_mps=tuple(speeds),
        temps_c=tuple(temps_c),
        terrains=terrains,
        floor_m=floor,
        typical_m=typical,
        best_m=best,
    )


def _bounds(cells: FloatArray) -> FloatArray:
    """Floor, typical and best of draws, the last axis; one more axis in front.

    As of a lognormal distribution, which draws of a range are to 3%: of so few draws its bounds are steadier
    than their own twentieth.
    """
    logs = np.log(np.maximum(cells, 1.0))
    middle = np.median(logs, axis=-1, keepdims=True)
    robust = 1.4826 * np.median(np.abs(logs - middle), axis=-1, keepdims=True)
    near = np.clip(logs, middle - FURTHEST * robust, middle + FURTHEST * robust)
    mean, std = near.mean(axis=-1), near.std(axis=-1, ddof=1)
    return np.asarray(np.exp(np.stack([mean - OUT * std, mean, mean + OUT * std])))


def _own_speed(trip: Trip) -> float:
    """The speed that a trip would be ridden at [m/s]."""
    draws = draws_of(replace(trip, draws=1), TERRAINS[0].route, swings=False)
    return float(draws.columns.target_mps[0])


def _cells(
    trip: Trip, speeds: tuple[float, ...], temps_c: tuple[float, ...], terrain: Terrain
) -> FloatArray:
    """Distances to the reserve [m], shape (temps, speeds, draws)."""
    route = terrain.route
    found = []
    # One walk a speed: what is ridden slowly goes thrice as far, and all of a walk goes on to its last end.
    for speed in speeds:
        parts = []
        for temp in temps_c:
            asked = replace(
                trip,
                draws=CELL_DRAWS,
                conditions=replace(trip.conditions, temp_c=Known(value=temp)),
                route=RouteSpec(loop=LoopSpec(length_m=LAP_M)),
                speed=SpeedSpec(policy=trip.speed.policy, target_mps=speed),
            )
            parts.append(draws_of(asked, route, swings=False))
        together = replace(
            parts[0],
            columns=Columns.joined([part.columns for part in parts]),
            start_charge=np.concatenate([part.start_charge for part in parts]),
            empty_share=np.concatenate([part.empty_share for part in parts]),
            # A block is a part of this: the furthest of the cells asks for no more of them than one forecast.
            likely_m=BLOCK_SCALE * max(part.likely_m for part in parts),
        )
        steps = trip_steps(replace(trip, draws=CELL_DRAWS), route, STEP_SCALE * together.likely_m)
        ridden = ride_on(trip, together, steps)
        found.append(ridden.reserve_m.reshape(len(temps_c), -1)[..., 1:])
    return np.stack(found, axis=1)
