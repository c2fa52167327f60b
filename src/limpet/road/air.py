"""The air that a vehicle pushes aside: density of moist air, pressure at a height."""

from __future__ import annotations

from math import exp

import numpy as np
from numpy.typing import NDArray

from limpet.errors import require_range

FloatArray = NDArray[np.float64]

#: 0 °C [K].
ZERO_C_K = 273.15
#: Standard atmosphere at sea level, ISO 2533:1975, table 1 and clause 2.
STANDARD_PRESSURE_PA = 101_325.0
STANDARD_TEMP_K = 288.15
STANDARD_LAPSE_KPM = 0.0065
#: Exponent g·M/(R·L) of the standard troposphere, ISO 2533:1975, from its constants.
STANDARD_EXPONENT = 5.25588


def air_density(temp_c: float, pressure_pa: float, relative_humidity: float) -> float:
    """Density of moist air by CIPM-2007 [1]_.

    Parameters
    ----------
    temp_c : t, of the air [°C], scalar
    pressure_pa : p, at the vehicle, not reduced to sea level [Pa], scalar
    relative_humidity : h, 0 to 1 [-], scalar

    Returns
    -------
    ρ [kg/m³], scalar

    Raises
    ------
    OutOfRangeError
        Outside -40 to 50 °C, 50 to 110 kPa or 0 to 1.

    Notes
    -----
    Published for 15 to 27 °C and 60 to 110 kPa, there with u(ρ)/ρ = 2.2e-5. In the wider range
    allowed here it stays within 0.2% of the ideal-gas value of MetPy (tests). CO₂ is *assumed*
    400 µmol/mol. The coefficients were copied from memory and checked against OIML R 111-1.

    References
    ----------
    .. [1] A. Picard, R. S. Davis, M. Gläser and K. Fujii, "Revised formula for the density of
       moist air (CIPM-2007)", Metrologia 45 (2008) 149-155, doi:10.1088/0026-1394/45/2/004.
    """
    require_range("air_density", "temp_c", temp_c, -40, 50, "kelvin or °F?")
    require_range("air_density", "pressure_pa", pressure_pa, 50e3, 110e3, "multiply hPa by 100")
    require_range("air_density", "relative_humidity", relative_humidity, 0, 1, "divide % by 100")
    t, temp_k, p = temp_c, temp_c + ZERO_C_K, pressure_pa
    saturation_pa = exp(
        1.2378847e-5 * temp_k**2 - 1.9121316e-2 * temp_k + 33.93711047 - 6343.1645 / temp_k
    )
    vapour = relative_humidity * (1.00062 + 3.14e-8 * p + 5.6e-7 * t**2) * saturation_pa / p
    a = 1.58123e-6 - 2.9331e-8 * t + 1.1043e-10 * t**2
    b, c, q = 5.707e-6 - 2.051e-8 * t, 1.9898e-4 - 2.376e-6 * t, p / temp_k
    z = 1 - q * (a + b * vapour + c * vapour**2) + q**2 * (1.83e-11 - 7.65e-9 * vapour**2)
    return 3.483740e-3 * q / z * (1 - 0.3780 * vapour)


def density_ratio(temp_c: FloatArray | float, than_c: float) -> FloatArray:
    """Density of air at a temperature over that at another, at one pressure [-].

    Parameters
    ----------
    temp_c : of the air, any shape [°C]; beyond −60 to 70 it is taken as at these
    than_c : the other [°C]

    Notes
    -----
    Of an ideal gas it goes with 1/T; what moisture adds is below a hundredth.
    """
    return np.asarray((ZERO_C_K + than_c) / (ZERO_C_K + np.clip(temp_c, -60.0, 70.0)))


def standard_pressure_pa(height_m: float) -> float:
    """Pressure of the standard atmosphere at a height, for a place without a barometer.

    Parameters
    ----------
    height_m : geopotential height above the sea [m], scalar, -500 to 9000

    Returns
    -------
    p [Pa], scalar

    Raises
    ------
    OutOfRangeError
        Outside the heights where anybody rides.

    References
    ----------
    ISO 2533:1975, "Standard Atmosphere", clause 2.
    """
    require_range("standard_pressure_pa", "height_m", height_m, -500, 9000, "feet for metres?")
    ratio = 1 - STANDARD_LAPSE_KPM * height_m / STANDARD_TEMP_K
    return STANDARD_PRESSURE_PA * float(ratio**STANDARD_EXPONENT)
