"""A trip with what the vehicle's and the pack's own tests taught, where nobody states it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Literal

from limpet.state.priors import Learned, Priors
from limpet.trip import Known, KnownAt, Trip
from limpet.words import named_tests

#: What tests teach a trip.
TaughtTrip = Literal["road", "consumption", "capacity", "resistance"]


def taught_by(trip: Trip, priors: Priors) -> Mapping[TaughtTrip, tuple[str, ...]]:
    """What of a trip its own tests teach: the titles of those that each is from.

    Parameters
    ----------
    trip : as it is asked
    priors : what earlier tests taught

    Notes
    -----
    What is stated stays, and so does a road-load fit: it knows more than the consumption of some rides.
    A fit that the trip has already is told too.
    """
    learned, found = priors.learned, dict[TaughtTrip, tuple[str, ...]]()
    if trip.known_consumption_wh_per_km is None:
        fit = trip.vehicle.fit or priors.road
        if fit is not None:
            found["road"] = fit.titles
        elif priors.rides is not None:
            found["consumption"] = priors.rides.wh_per_km.tests
    if trip.pack.retained_fraction is None and "capacity_factor" in learned:
        found["capacity"] = learned["capacity_factor"].tests
    if trip.pack.resistance_ohm is None and "resistance_ohm" in learned:
        found["resistance"] = learned["resistance_ohm"].tests
    return found


def informed(trip: Trip, priors: Priors) -> Trip:
    """Fill in what is not stated: road load or consumption of such rides, the pack's capacity and resistance.

    Parameters
    ----------
    trip : as it is asked
    priors : what earlier tests taught

    Returns
    -------
    a trip in which nothing that was stated has changed
    """
    taught = taught_by(trip, priors)
    pack, rides = trip.pack, priors.rides
    if "capacity" in taught:
        pack = replace(pack, retained_fraction=_known(priors.learned["capacity_factor"]))
    if "resistance" in taught:
        pack = replace(pack, resistance_ohm=_known(priors.learned["resistance_ohm"]))
    trip = replace(trip, pack=pack)
    if priors.road is not None and trip.vehicle.fit is None:
        trip = replace(trip, vehicle=replace(trip.vehicle, fit=priors.road))
    if rides is None or "consumption" not in taught:
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
