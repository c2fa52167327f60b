"""The ground of Skerrow: its coast, roads and a few names, drawn from the roads that the demo rides.

Writes what the page's map lies on:  .venv/bin/python -m demo.ground
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from demo.island import ORIGIN, lighthouse_road, peat_track, quay_loop
from standins.ride_generator import Course, position

FILE = Path(__file__).resolve().parents[1] / "web" / "public" / "ground" / "skerrow.json"
FloatArray = NDArray[np.float64]
#: The island is the same whenever it is drawn.
SEED = 1909
#: Half of the island's length and breadth, and its middle, from the harbour [m].
HALF_M, MIDDLE_M = (7100.0, 2400.0), (2950.0, -100.0)
#: Points of a coast, and how far its bays and heads reach, as a share.
COAST_POINTS, RAGGED = 220, 0.07
#: Five decimals of a degree: a metre.
DECIMALS = 5


def written(east_m: FloatArray, north_m: FloatArray) -> list[list[float]]:
    """Places as GeoJSON has them: longitude first [deg]."""
    latitude, longitude = position(east_m, north_m, ORIGIN)
    return [
        [round(float(lon), DECIMALS), round(float(lat), DECIMALS)]
        for lon, lat in zip(longitude, latitude, strict=True)
    ]


def blob(
    rng: np.random.Generator,
    middle_m: tuple[float, float],
    half_m: tuple[float, float],
    points: int,
) -> list[list[float]]:
    """A closed shore about a place, ragged by a few waves of its own."""
    angle = np.linspace(0, 2 * np.pi, points, endpoint=False)
    reach = np.ones(points)
    for wave in range(2, 14):
        size = RAGGED / np.sqrt(wave)
        reach = reach + size * rng.normal() * np.cos(wave * angle + rng.uniform(0, 2 * np.pi))
    east = middle_m[0] + half_m[0] * reach * np.cos(angle)
    north = middle_m[1] + half_m[1] * reach * np.sin(angle)
    shore = written(east, north)
    return [*shore, shore[0]]


def road(course: Course, name: str) -> dict[str, Any]:
    """A road as it is ridden, every so often a point."""
    keep = np.unique(np.linspace(0, len(course.east_m) - 1, 160).round().astype(int))
    line = written(np.asarray(course.east_m)[keep], np.asarray(course.north_m)[keep])
    return feature("road", {"type": "LineString", "coordinates": line}, name)


def feature(kind: str, geometry: dict[str, Any], name: str = "") -> dict[str, Any]:
    """A feature of the ground."""
    return {"type": "Feature", "properties": {"kind": kind, "name": name}, "geometry": geometry}


def area(kind: str, shore: list[list[float]], name: str = "") -> dict[str, Any]:
    """A piece of land or water."""
    return feature(kind, {"type": "Polygon", "coordinates": [shore]}, name)


def place(east_m: float, north_m: float, name: str) -> dict[str, Any]:
    """A name on the ground."""
    at = written(np.array([east_m]), np.array([north_m]))[0]
    return feature("place", {"type": "Point", "coordinates": at}, name)


def ground() -> dict[str, Any]:
    """The island as a GeoJSON feature collection (RFC 7946)."""
    rng = np.random.default_rng(SEED)
    light, peat, quay = lighthouse_road(), peat_track(), quay_loop()
    far = int(np.argmax(np.asarray(light.east_m)))
    west = int(np.argmin(np.asarray(peat.east_m)))
    coast = blob(rng, MIDDLE_M, HALF_M, COAST_POINTS)
    return {
        "type": "FeatureCollection",
        "features": [
            area("land", coast),
            area("peat", blob(rng, (-1750.0, 350.0), (900.0, 620.0), 48)),
            area("water", blob(rng, (4300.0, -950.0), (620.0, 260.0), 40), "Loch of the terns"),
            road(light, "Lighthouse road"),
            road(peat, "Peat track"),
            road(quay, "Quay loop"),
            place(0.0, 0.0, "Harbour"),
            place(float(light.east_m[far]), float(light.north_m[far]), "Lighthouse"),
            place(float(peat.east_m[west]), float(peat.north_m[west]), "Peat banks"),
            place(4300.0, -950.0, "Loch of the terns"),
        ],
    }  # fmt: skip


def main() -> None:
    FILE.parent.mkdir(parents=True, exist_ok=True)
    FILE.write_text(json.dumps(ground(), ensure_ascii=False, separators=(",", ":")) + "\n")


if __name__ == "__main__":
    main()
