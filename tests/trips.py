"""Trips for tests: one to change, strategies over them, and plain simulations to hold against."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from hypothesis import strategies as st

from limpet.files.tripfile import route_of
from limpet.road import Leg, Route
from limpet.trip import (
    Known,
    RouteSpec,
    SpeedSpec,
    Trip,
    TripConditions,
    TripPack,
    TripRider,
    TripTyres,
    TripVehicle,
)

HILLS = (
    Leg(length_m=4200, climb_m=35, descent_m=10, bearing_deg=90, stops=6),
    Leg(length_m=2600, climb_m=0, descent_m=22, bearing_deg=160, surface="rough_paved"),
    Leg(length_m=3100, climb_m=58, bearing_deg=40),
)
PACK = TripPack(chemistry="nmc", series=13, parallel=4, rated_ah=14.0, cutoff_v=39.0)


def sure(value: float) -> Known:
    """A number without uncertainty."""
    return Known(value=value, standard_uncertainty=0.0)


def trip(**changes: Any) -> Trip:
    """A bicycle on a hilly road there and back."""
    values: dict[str, Any] = {
        "vehicle": TripVehicle(kind="bicycle", mass_kg=Known(value=31.0), max_power_w=Known(value=750.0)),
        "pack": PACK,
        "rider": TripRider(mass_kg=Known(value=82.0), gear_kg=Known(value=6.0)),
        "conditions": TripConditions(temp_c=Known(value=12.0), wind_mps=Known(value=3.0), wind_from_deg=250.0),
        "route": RouteSpec(legs=HILLS, and_back=True),
        "speed": SpeedSpec(policy="fixed", target_mps=5.8),
        "draws": 300,
    }  # fmt: skip
    return Trip(**{**values, **changes})


def certain(**changes: Any) -> Trip:
    """The same with every input that a person can state stated, and stated surely."""
    base = trip(
        start_energy_fraction=sure(1.0),
        vehicle=TripVehicle(
            kind="bicycle",
            mass_kg=sure(31.0),
            cda_m2=sure(0.55),
            crr=sure(0.010),
            drivetrain_efficiency=sure(0.8),
            aux_w=sure(9.0),
            max_power_w=sure(750.0),
        ),
        rider=TripRider(mass_kg=sure(82.0), gear_kg=sure(6.0)),
        pack=replace(PACK, resistance_ohm=sure(0.11), retained_fraction=sure(1.0)),
        conditions=TripConditions(temp_c=sure(25.0), wind_mps=sure(0.0), wind_from_deg=0.0),
    )
    return replace(base, **changes)


def routed(what: Trip) -> tuple[Trip, Route]:
    """A trip with its route."""
    return what, route_of(what)


@st.composite
def trips(draw: st.DrawFn) -> Trip:
    """Trips of many kinds, short of what no road or pack is."""
    kind = draw(st.sampled_from(("kick_scooter", "bicycle", "trike", "moped", "self_balancing")))
    count = draw(st.integers(1, 3))
    some = tuple(
        Leg(
            length_m=draw(st.floats(400, 6000)),
            climb_m=draw(st.floats(0, 12)),
            descent_m=draw(st.floats(0, 12)),
            bearing_deg=draw(st.one_of(st.none(), st.floats(0, 359))),
            surface=draw(st.sampled_from(("smooth_paved", "rough_paved", "gravel"))),
            stops=float(draw(st.integers(0, 3))),
        )
        for _ in range(count)
    )
    series = draw(st.sampled_from((10, 13, 16)))
    return Trip(
        vehicle=TripVehicle(kind=kind, regeneration=draw(st.sampled_from((0.0, 0.0, 0.4)))),
        pack=TripPack(
            chemistry=draw(st.sampled_from(("nmc", "nca", "lfp", "lmo", "lead_acid_agm"))),
            series=series,
            rated_ah=draw(st.floats(8, 40)),
        ),
        rider=TripRider(mass_kg=Known(value=draw(st.floats(50, 110)))),
        conditions=TripConditions(
            temp_c=Known(value=draw(st.floats(-5, 30))),
            wind_mps=Known(value=draw(st.floats(0, 6))),
            wind_from_deg=draw(st.one_of(st.none(), st.floats(0, 359))),
        ),
        tyres=TripTyres(pressure_kpa=draw(st.floats(150, 400))),
        route=RouteSpec(legs=some, and_back=draw(st.booleans())),
        speed=SpeedSpec(policy="fixed", target_mps=draw(st.floats(4.5, 6.5))),
        draws=60,
    )


def rng(seed: int) -> np.random.Generator:
    """A generator of its own for each test."""
    return np.random.default_rng(seed)
