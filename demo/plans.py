"""What the post office plans: its routes, two makers' claims, a test that waits, the bets on it."""

from __future__ import annotations

from typing import Any

import numpy as np

from demo.island import ORIGIN, QUAY_LOOP_M, lighthouse_road
from standins.ride_generator import position


def _leg(**values: Any) -> dict[str, Any]:
    usual: dict[str, Any] = {
        "climb_m": 0.0,
        "descent_m": 0.0,
        "bearing_deg": None,
        "surface": "smooth_paved",
        "stops": 0.0,
        "speed_mps": None,
        "winding": False,
    }
    return {**usual, **values}


def _readings(length_m: float, seed: int) -> list[float]:
    """Four wheels were rolled round the loop, none of them quite right."""
    rng = np.random.default_rng(seed)
    return [round(float(length_m * (1 + rng.normal(0, 0.0035))), 0) for _ in range(4)]


LOOPS: dict[str, dict[str, Any]] = {
    "Quay loop": {
        "legs": [_leg(length_m=QUAY_LOOP_M, climb_m=3.0, stops=1.0)],
        "readings_m": _readings(QUAY_LOOP_M, 11),
        "note": "Round the harbour, past the fish sheds.",
    },
    "Peat track": {
        "legs": [_leg(length_m=6400.0, climb_m=24.0, surface="gravel")],
        "readings_m": [],
        "note": "Gravel across the moor and round again.",
    },
}
ROADS: dict[str, dict[str, Any]] = {
    "Farm round": {
        "legs": [
            _leg(length_m=3200.0, climb_m=28.0, descent_m=6.0, bearing_deg=40.0, stops=4.0),
            _leg(
                length_m=2600.0, descent_m=14.0, bearing_deg=95.0, surface="rough_paved", stops=3.0
            ),
            _leg(length_m=4100.0, climb_m=36.0, descent_m=22.0, bearing_deg=150.0, stops=5.0),
        ],
        "note": "Letters to the three farms.",
    },
}

CLAIMS: dict[str, dict[str, Any]] = {
    "Turnstone's maker": {
        "note": "From the box.",
        "rated_wh": 473.0,
        "distance_m": 40_000.0,
        "speed_mps": 4.2,
        "load_kg": 75.0,
        "vehicle_kind": "kick_scooter",
        "vehicle_mass_kg": 16.5,
    },
    "A flyer at the ferry": {
        "note": "120 km on one charge, it says, at 25 km/h.",
        "rated_wh": 468.0,
        "distance_m": 120_000.0,
        "speed_mps": 6.94,
        "load_kg": 75.0,
        "vehicle_kind": "kick_scooter",
        "vehicle_mass_kg": 15.0,
    },
}

PLANS: dict[str, dict[str, Any]] = {
    "Lighthouse and back before the frost": {
        "purpose": "commute",
        "end_rule": "route_end",
        "vehicle_id": "Sandpiper",
        "pack_id": "Eider-3",
        "rider_id": "Tobias",
        "route_id": "Lighthouse road",
        "and_back": True,
        "policy": "with_traffic",
        "target_mps": 5.3,
        "temp_c": 4.0,
        "wind_mps": 5.0,
        "wind_from_deg": 250.0,
        "pressure_hpa": 1009.0,
        "humidity_pct": 82.0,
        "tyre_kpa": 300.0,
        "reserve": 0.2,
    },
}
#: Planned before it was ridden: what was forecast then, against what the ride gave.
RIDDEN: dict[str, dict[str, Any]] = {
    "sandpiper-lighthouse": {
        "purpose": "commute",
        "end_rule": "route_end",
        "vehicle_id": "Sandpiper",
        "pack_id": "Eider-2",
        "rider_id": "Tobias",
        "route_id": "Lighthouse road",
        "and_back": True,
        "policy": "with_traffic",
        "target_mps": 5.3,
        "temp_c": 9.0,
        "wind_mps": 4.0,
        "wind_from_deg": 90.0,
        "tyre_kpa": 300.0,
        "reserve": 0.15,
    },
}
GUESSES = (("Ines", 52_000.0), ("Tobias", 61_000.0), ("Maren", 44_000.0))


def lighthouse_gpx() -> bytes:
    """The way out to the light as a receiver recorded it, heights wandering by a metre or so."""
    course = lighthouse_road()
    half = len(course.distance_m) // 2 + 1
    rng = np.random.default_rng(21)
    along = np.arange(0.0, course.distance_m[half - 1], 25.0)
    east = np.interp(along, course.distance_m[:half], course.east_m[:half])
    north = np.interp(along, course.distance_m[:half], course.north_m[:half])
    height = np.interp(along, course.distance_m[:half], course.altitude_m[:half])
    latitude, longitude = position(east, north, ORIGIN)
    height = height + rng.normal(0, 0.8, len(height))
    points = "".join(
        f'<trkpt lat="{lat:.6f}" lon="{lon:.6f}"><ele>{up:.1f}</ele></trkpt>\n'
        for lat, lon, up in zip(latitude, longitude, height, strict=True)
    )
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        '<gpx version="1.1" creator="Skerrow" xmlns="http://www.topografix.com/GPX/1/1">\n'
        f"<trk><name>Lighthouse road</name><trkseg>\n{points}</trkseg></trk></gpx>\n"
    ).encode()
