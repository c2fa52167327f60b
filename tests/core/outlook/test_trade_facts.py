"""Riders' own figures lie within the forecast's band from start values alone.

All figures: handbook section 18, common practice, no source. What was not noted is left to the start
values; stops, and the motorway's speed of 105 km/h, are set to what such a ride usually is.
"""

from __future__ import annotations

import pytest

from limpet.files.tripfile import route_of
from limpet.outlook.forecast import forecast
from limpet.road import Leg
from limpet.trip import (
    Known,
    RouteSpec,
    SpeedSpec,
    Trip,
    TripConditions,
    TripPack,
    TripVehicle,
)

MILE = 1609.344


def ridden(kind, pack, *, temp_c, speed_mps, policy, stops_per_km, known_m) -> None:
    what = Trip(
        vehicle=TripVehicle(kind=kind),
        pack=pack,
        conditions=TripConditions(temp_c=Known(value=temp_c)),
        route=RouteSpec(legs=(Leg(length_m=5000.0, stops=5 * stops_per_km),), and_back=True),
        speed=SpeedSpec(policy=policy, target_mps=speed_mps),
    )
    band = forecast(what, route_of(what), swings=False).range_to_cutoff
    print(f"{kind} {temp_c} °C: {known_m / 1000:.0f} km in {band.low / 1000:.0f} … {band.value / 1000:.0f} … {band.high / 1000:.0f}")  # fmt: skip
    assert band.low <= known_m <= band.high
    # A band that holds everything would say nothing.
    assert band.high < 2.6 * band.low


def test_the_moped():
    # 3.04 kWh, 108.4 km down to 1%.
    pack = TripPack(chemistry="nmc", series=20, rated_ah=41.7, rated_wh=3040.0)
    ridden("moped", pack, temp_c=18, speed_mps=None, policy="with_traffic", stops_per_km=0.3,
           known_m=108_400)  # fmt: skip


def test_the_kick_scooter():
    # 540 Wh, ended near 22 mi at about 22 km/h mean.
    pack = TripPack(chemistry="nmc", series=13, rated_ah=11.5, rated_wh=540.0)
    ridden("kick_scooter", pack, temp_c=18, speed_mps=6.2, policy="with_traffic",
           stops_per_km=0.2, known_m=22 * MILE)  # fmt: skip


@pytest.mark.parametrize(("temp_c", "miles"), [(22, 107), (2, 90)])
def test_the_motorcycle_in_town(temp_c, miles):
    pack = TripPack(chemistry="nmc", series=28, rated_ah=70.0, rated_wh=7200.0)
    ridden("motorcycle", pack, temp_c=temp_c, speed_mps=None, policy="with_traffic",
           stops_per_km=1.0, known_m=miles * MILE)  # fmt: skip


@pytest.mark.parametrize(("temp_c", "miles"), [(22, 46.1), (2, 45.6)])
def test_the_motorcycle_on_the_motorway(temp_c, miles):
    pack = TripPack(chemistry="nmc", series=28, rated_ah=70.0, rated_wh=7200.0)
    ridden("motorcycle", pack, temp_c=temp_c, speed_mps=29.0, policy="fixed", stops_per_km=0.0,
           known_m=miles * MILE)  # fmt: skip
