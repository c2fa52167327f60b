"""A forecast's 95% band holds 95% of rides that know nothing of it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from limpet.drive.inputs import inputs_of
from limpet.outlook.forecast import forecast
from limpet.road import Leg
from limpet.trip import Known, RouteSpec, TripConditions, TripVehicle
from tests.plain_ride import drawn, ride
from tests.trips import PACK, rng, routed, trip

RIDES = 160
#: 160 rides, 95% in the band: the count is binomial with a deviation of 1.7%, so that two
#: deviations and the little that the two models differ in make 91 to 99%.
LOW, HIGH = 0.91, 0.99

ROADS = {
    "hills and stops, start values": trip(
        pack=replace(PACK, rated_ah=9.0),
        route=RouteSpec(
            legs=(
                Leg(length_m=2200, climb_m=24, descent_m=4, bearing_deg=90, stops=2),
                Leg(length_m=1300, descent_m=8, bearing_deg=160),
            ),
            and_back=True,
        ),
        draws=4000,
    ),
    "flat and cold, a moped": trip(
        vehicle=TripVehicle(kind="moped"),
        pack=replace(PACK, series=20, rated_ah=16.0, cutoff_v=62.0),
        conditions=TripConditions(temp_c=Known(value=2.0), wind_mps=Known(value=4.0), wind_from_deg=20.0),
        route=RouteSpec(legs=(Leg(length_m=3000, bearing_deg=20, stops=1),), and_back=True),
        draws=4000,
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", ROADS)
def test_the_band_holds_what_it_says(name):
    what, route = routed(ROADS[name])
    answer = forecast(what, route, swings=False)
    inputs = inputs_of(what)
    generator = rng(20)
    far = np.array([ride(what, route, drawn(inputs, generator)) for _ in range(RIDES)])
    band = answer.range_to_cutoff
    inside = float(((far >= band.low) & (far <= band.high)).mean())
    print(f"{name}: {100 * inside:.1f}% of {RIDES} rides in the band")
    assert LOW <= inside <= HIGH
    # The value is at the best inputs, the median over all: they differ by the curvature between.
    assert np.median(far) == pytest.approx(band.value, rel=0.04)
    # The floor at the chosen probability is one that 95 of 100 rides reach.
    reserve_share = answer.floor_m / answer.range_to_reserve.value
    reached = float((far >= reserve_share * band.value).mean())
    assert LOW <= reached <= HIGH
