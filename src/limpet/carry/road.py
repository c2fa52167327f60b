"""What a kilometre takes at the pack under conditions: the one kernel that rides are carried by."""

from __future__ import annotations

from typing import Final

import numpy as np
from numpy.typing import NDArray

from limpet.road.load import ROTATING
from limpet.units import METRES_PER_KM, SECONDS_PER_HOUR, STANDARD_GRAVITY_MPS2

FloatArray = NDArray[np.float64]

#: Of what carrying changes by the road model so much may be wrong, relative (assumption).
CARRYING: Final = 0.25
#: What an unknown speed may have done to a consumption, relative (assumption).
NO_SPEED: Final = 0.15
#: What another way, of hills and stops that one of two rides did not note, does to a consumption, relative (assumption).
OTHER_WAY: Final = 0.06
#: Of a climb's energy on a round, what the brakes and the motor lose; of a stop's, what is not saved while
#: slowing [-] (assumption).
LOST_OF_CLIMB: Final = 0.10
LOST_OF_STOP: Final = 0.75
#: However hard legs push, the motor gives this share of what the road asks [-] (assumption).
LEAST_MOTOR: Final = 0.05


def road_wh_per_km(
    *,
    speed_mps: FloatArray,
    mass_kg: FloatArray,
    crr: FloatArray,
    cda_m2: FloatArray,
    density_kgpm3: FloatArray,
    efficiency: FloatArray,
    aux_w: FloatArray,
    against_m2ps2: FloatArray | None = None,
    climb_m_per_km: FloatArray | float = 0.0,
    stops_per_km: FloatArray | float = 0.0,
    legs_w: FloatArray | None = None,
) -> FloatArray:
    """What a kilometre takes at the pack [Wh/km], all arrays of one shape or such as go with it.

    Parameters
    ----------
    speed_mps : v [m/s]
    mass_kg : all that moves [kg]
    crr : rolling resistance of the surface and tyres as they are [-]
    cda_m2, density_kgpm3 : drag area [m²] and density of the air [kg/m³]
    efficiency : from the pack to the wheel [-]
    aux_w : what runs beside the drive [W]
    against_m2ps2 : mean square of the air's speed against the rider [m²/s²]; v² when None
    climb_m_per_km, stops_per_km : climbs [m/km] and stops [1/km]
    legs_w : what legs give at the wheel [W]; nothing when None

    Notes
    -----
    Handbook section 10: rolling, air, the share of climbs and of stops that does not come back, less what
    legs give, and what runs beside the drive.
    """
    weight = mass_kg * STANDARD_GRAVITY_MPS2
    against = speed_mps**2 if against_m2ps2 is None else against_m2ps2
    force = (
        weight * crr
        + 0.5 * density_kgpm3 * cda_m2 * against
        + LOST_OF_CLIMB * weight * climb_m_per_km / METRES_PER_KM
        + LOST_OF_STOP * 0.5 * ROTATING * mass_kg * speed_mps**2 * stops_per_km / METRES_PER_KM
    )
    if legs_w is not None and legs_w.any():
        force = np.maximum(force - legs_w / speed_mps, LEAST_MOTOR * force)
    return np.asarray(METRES_PER_KM * (force / efficiency + aux_w / speed_mps) / SECONDS_PER_HOUR)
