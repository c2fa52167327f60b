"""What one ride took, brought to the speed, load, road and air of another."""

from __future__ import annotations

from dataclasses import replace
from math import hypot, log

import numpy as np

from limpet.assumptions import (
    AIR_HUMIDITY,
    AIR_PRESSURE_PA,
    AIR_TEMP_C,
    HIDDEN_STANDING,
    load_kg,
)
from limpet.carry.road import CARRYING, NO_SPEED, road_wh_per_km
from limpet.carry.start_values import START_VALUES
from limpet.history.facts import Facts, Spread
from limpet.road import SURFACE_FACTOR, VehicleKind, air_density

#: Speeds of one vehicle's rides differ by this, u of the logarithm; and of what is not known of standing so much is
#: another on the next ride of the same rider [-] (assumptions).
SPEEDS_DIFFER, SAME_LIGHTS = 0.15, 0.6


def carried(found: Facts, here: Facts, kind: VehicleKind, mass_kg: float | None) -> Spread | None:
    """Consumption of a ride as it would be under another's conditions [Wh/km], with u; None without one.

    Parameters
    ----------
    found, here : the ride that it is known of, and the one that it is wanted for
    kind, mass_kg : of the vehicle, which is the same

    Notes
    -----
    By the ratio of the steady road loads that the start values of the kind give: what is common to
    both rides goes out. Where only one of the two noted something, it changes nothing. Speeds are brought
    near each other first (`_speeds`), and what that leaves open counts.
    """
    if found.wh_per_km is None:
        return None
    value, std = found.wh_per_km
    if value <= 0:
        return value, std
    here, found, unsure = _speeds(here, found)
    before = _steady(found, here, kind, mass_kg)
    ratio = _steady(here, found, kind, mass_kg) / before
    unknown = 0.0
    if found.speed_mps is None or here.speed_mps is None:
        unknown = NO_SPEED
    elif unsure > 0:
        faster = replace(here, speed_mps=here.speed_mps * (1 + unsure))
        unknown = abs(log(_steady(faster, found, kind, mass_kg) / before / ratio))
    relative = hypot(std / value, CARRYING * abs(log(ratio)), unknown)
    return value * ratio, value * ratio * relative


def _speeds(here: Facts, found: Facts) -> tuple[Facts, Facts, float]:
    """Both rides at speeds that they were ridden at, and u of one over the other, relative.

    Notes
    -----
    A speed between entries holds the standing that nobody noted: by `HIDDEN_STANDING` it was ridden faster, by
    how much is not known, e. One rider's rides on one vehicle differ by s: of what the two speeds are apart
    s²/(s² + e²) is taken for a difference (the mean of a normal distribution given a noisy reading).
    """
    if here.speed_mps is None or found.speed_mps is None:
        return here, found, 0.0
    over, std = HIDDEN_STANDING.spread
    speeds = [
        item.speed_mps * (1.0 if item.speed_logged else over)
        for item in (here, found)
        if item.speed_mps
    ]
    if len(speeds) < 2:
        return here, found, 0.0
    # Who stands at the same lights on every ride does so on both.
    alike = here.speed_logged == found.speed_logged
    error = (
        0.0 if here.speed_logged and found.speed_logged else (SAME_LIGHTS if alike else 1.0) * std
    )
    kept = SPEEDS_DIFFER**2 / (SPEEDS_DIFFER**2 + error**2)
    brought = speeds[1] * (speeds[0] / speeds[1]) ** kept
    return (
        replace(here, speed_mps=brought),
        replace(found, speed_mps=speeds[1]),
        float(np.sqrt(kept)) * error,
    )


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
