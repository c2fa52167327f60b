"""A trip with what the vehicle's and the pack's own tests taught, where nobody states it."""

from __future__ import annotations

from dataclasses import replace

from limpet.result.priors import Learned, Priors
from limpet.trip import Known, KnownAt, Trip
from limpet.words import named_tests


def informed(trip: Trip, priors: Priors) -> Trip:
    """Fill in what is not stated: road load or consumption of such rides, the pack's capacity and resistance.

    Notes
    -----
    What is stated stays, and so does a road-load fit: it knows more than the consumption of some rides.
    """
    pack, learned, rides = trip.pack, priors.learned, priors.rides
    if pack.retained_fraction is None and "capacity_factor" in learned:
        pack = replace(pack, retained_fraction=_known(learned["capacity_factor"]))
    if pack.resistance_ohm is None and "resistance_ohm" in learned:
        pack = replace(pack, resistance_ohm=_known(learned["resistance_ohm"]))
    trip = replace(trip, pack=pack)
    if priors.road is not None and trip.vehicle.fit is None:
        trip = replace(trip, vehicle=replace(trip.vehicle, fit=priors.road))
    if (
        rides is None
        or trip.known_consumption_wh_per_km is not None
        or trip.vehicle.fit is not None
    ):
        return trip
    return replace(
        trip,
        known_consumption_wh_per_km=_known(rides.wh_per_km),
        known_at=KnownAt(
            speed_mps=rides.speed_mps,
            load_kg=rides.load_kg,
            temp_c=rides.temp_c,
            climb_m_per_km=rides.climb_m_per_km,
            surface=rides.surface,
        ),
    )


def _known(found: Learned) -> Known:
    return Known(
        value=found.value,
        standard_uncertainty=found.standard_uncertainty,
        source=named_tests(found.tests, len(found.tests)),
    )
