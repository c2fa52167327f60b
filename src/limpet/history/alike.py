"""What one ride took, brought to the speed, load, road and air of another."""

from __future__ import annotations

from math import hypot, log

import numpy as np

from limpet.assumptions import AIR_HUMIDITY, AIR_PRESSURE_PA, AIR_TEMP_C, load_kg
from limpet.carry.road import CARRYING, NO_SPEED, road_wh_per_km
from limpet.carry.start_values import START_VALUES
from limpet.history.facts import Facts, Spread
from limpet.road import SURFACE_FACTOR, VehicleKind, air_density


def carried(found: Facts, here: Facts, kind: VehicleKind, mass_kg: float | None) -> Spread | None:
    """Consumption of a ride as it would be under another's conditions [Wh/km], with u; None without one.

    Parameters
    ----------
    found, here : the ride that it is known of, and the one that it is wanted for
    kind, mass_kg : of the vehicle, which is the same

    Notes
    -----
    By the ratio of the steady road loads that the start values of the kind give: what is common to
    both rides goes out. Where only one of the two noted something, it changes nothing.
    """
    if found.wh_per_km is None:
        return None
    value, std = found.wh_per_km
    ratio = _steady(here, found, kind, mass_kg) / _steady(found, here, kind, mass_kg)
    unknown = 0.0 if found.speed_mps is not None and here.speed_mps is not None else NO_SPEED
    relative = hypot(std / value, CARRYING * abs(log(ratio)), unknown) if value > 0 else 0.0
    return value * ratio, value * ratio * relative


def _steady(of: Facts, other: Facts, kind: VehicleKind, mass_kg: float | None) -> float:
    """Consumption [Wh/km] of a typical vehicle of the kind, as far as both rides tell how they were ridden."""
    start = START_VALUES[kind]

    def known(name: str, otherwise: float) -> float:
        one, two = getattr(of, name), getattr(other, name)
        return otherwise if one is None or two is None else float(one)

    speed = max(known("speed_mps", start.usual_mps), 0.5)
    mass = (mass_kg or start.mass_kg[0]) + known("load_kg", load_kg(None, None)[0])
    temp = known("temp_c", AIR_TEMP_C.value)
    surface = of.surface if of.surface is not None and other.surface is not None else "smooth_paved"
    found = road_wh_per_km(
        speed_mps=np.array([speed]),
        mass_kg=np.array([mass]),
        crr=np.array([start.crr[0] * SURFACE_FACTOR[surface][0]]),
        cda_m2=np.array([start.cda_m2[0]]),
        density_kgpm3=np.array([air_density(temp, AIR_PRESSURE_PA.value, AIR_HUMIDITY.value)]),
        efficiency=np.array([start.drivetrain_efficiency[0]]),
        aux_w=np.array([start.aux_w[0]]),
        climb_m_per_km=known("climb_m_per_km", 0.0),
    )
    return float(found[0])
