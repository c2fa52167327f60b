"""What surface and tyre pressure do to rolling resistance."""

from __future__ import annotations

from typing import Final

import numpy as np
from numpy.typing import NDArray

from limpet.errors import require_range
from limpet.road.kinds import Surface

#: C_rr on a surface over that on smooth paving, and its standard uncertainty. Gravel and dirt
#: × 2 to 3 and grass more: handbook section 10, from memory; the others an *assumption*.
SURFACE_FACTOR: dict[Surface, tuple[float, float]] = {
    "smooth_paved": (1.0, 0.0),
    "wet_paved": (1.1, 0.05),
    "rough_paved": (1.3, 0.10),
    "mixed": (1.4, 0.20),
    "gravel": (2.2, 0.35),
    "dirt": (2.5, 0.35),
    "grass": (3.5, 0.6),
}
#: C_rr ∝ pressure^-0.4: half the pressure adds 32%, amid the 20 to 40% that low pressure adds
#: (handbook section 10, from memory; the law is an *assumption*).
PRESSURE_EXPONENT = -0.4
#: Rolling resistance rises by so much for each degree colder, and u: K_t of ISO 28580 for car tyres, from
#: memory; what small tyres do is not published (assumption).
TYRE_PER_C: Final = (0.008, 0.004)


def tyre_factor(pressure_kpa: float, reference_kpa: float) -> float:
    """C_rr at a tyre pressure over that at the pressure where C_rr was found [-].

    Raises
    ------
    OutOfRangeError
        For pressures that no tyre on the road has.
    """
    for name, value in (("pressure_kpa", pressure_kpa), ("reference_kpa", reference_kpa)):
        require_range("tyre_factor", name, value, 20, 1500, "bar for kPa? 1 bar is 100 kPa")
    return float(tyre_factors(np.array([pressure_kpa]), reference_kpa)[0])


def tyre_factors(pressure_kpa: NDArray[np.float64], reference_kpa: float) -> NDArray[np.float64]:
    """`tyre_factor` for an array of pressures [kPa], unchecked.

    Parameters
    ----------
    pressure_kpa : shape (n,) [kPa]
    reference_kpa : at which the rolling resistance is known [kPa]

    Returns
    -------
    factors on C_rr, shape (n,) [-]
    """
    return np.asarray((pressure_kpa / reference_kpa) ** PRESSURE_EXPONENT)
