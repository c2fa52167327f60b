"""A pack under load warms itself, which in the cold gives back some of what the cold took."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from limpet.pack.chemistry import Chemistry, capacity_factors

FloatArray = NDArray[np.float64]

#: Energy of a pack per kilogram of its cells [Wh/kg] (assumption: common cells of each kind).
ENERGY_WH_PER_KG: dict[Chemistry, float] = {
    "nmc": 180.0,
    "nca": 190.0,
    "lmo": 120.0,
    "lfp": 110.0,
    "lead_acid_agm": 35.0,
    "lead_acid_flooded": 35.0,
}
#: Specific heat of cells [J/(kg·K)] (from memory, typical of lithium cells; assumption for lead).
SPECIFIC_HEAT_JPKGK = 1000.0
#: How fast a pack in its case takes the air's temperature, time constant [s] (assumption).
COOLING_S = 5400.0
#: Resistance doubles from 25 °C to 0 °C (handbook section 5).
REFERENCE_TEMP_C = 25.0
RESISTANCE_DOUBLES_C = 25.0
#: Rounds of the fixed point between temperature and resistance; each halves what is off.
ROUNDS = 14
#: A pack does not go beyond this unnoticed: its BMS stops it [°C] (handbook section 16).
HOTTEST_C = 60.0


def resistance_factor(temp_c: FloatArray) -> FloatArray:
    """Resistance at a temperature over that at 25 °C [-]; 1 above it (*assumption*).

    Parameters
    ----------
    temp_c : of the pack, any shape [°C]

    Returns
    -------
    of the same shape [-]
    """
    return np.asarray(2.0 ** (np.maximum(REFERENCE_TEMP_C - temp_c, 0.0) / RESISTANCE_DOUBLES_C))


def mean_pack_temp_c(
    air_c: FloatArray,
    *,
    chemistry: Chemistry,
    current_a: FloatArray,
    warm_ohm: FloatArray,
    full_wh: FloatArray,
    mean_v: float,
    warming: FloatArray,
) -> FloatArray:
    """Mean temperature of a pack over the ride that empties it.

    Parameters
    ----------
    air_c : of the air, and of the pack at the start [°C], shape (J,)
    current_a : mean current [A], shape (J,)
    warm_ohm : resistance at 25 °C [Ω], shape (J,)
    full_wh : energy at 25 °C [Wh], shape (J,)
    mean_v : mean open-circuit voltage [V]
    warming : factor on the heat, for what the assumptions may be off [-], shape (J,)

    Returns
    -------
    T [°C], shape (J,)

    Notes
    -----
    One lump: C·dT/dt = I²R − C·(T − T_air)/τ, whose mean over a ride of t is
    I²R·τ/C·(1 − (1 − e^(−t/τ))·τ/t); R and the energy that sets t are those at T, so it is
    found by repetition. All constants are *assumptions*.
    """
    heat_capacity = full_wh / ENERGY_WH_PER_KG[chemistry] * SPECIFIC_HEAT_JPKGK
    temp = air_c
    for _ in range(ROUNDS):
        ohm = warm_ohm * resistance_factor(temp)
        seconds = full_wh * capacity_factors(chemistry, temp) / (current_a * mean_v) * 3600
        part = 1 - (1 - np.exp(-seconds / COOLING_S)) * COOLING_S / seconds
        rise = warming * current_a**2 * ohm * COOLING_S / heat_capacity * part
        temp = np.minimum(air_c + 0.5 * (rise + temp - air_c), np.maximum(HOTTEST_C, air_c))
    return np.asarray(temp)
