"""What a vehicle takes at each speed on a level road in calm air, by the road load that its tests gave."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from limpet.carry.road import road_wh_per_km
from limpet.carry.start_values import START_VALUES
from limpet.fitting.fit import NAMES
from limpet.quantity import COVERAGE_FACTOR
from limpet.road.air import STANDARD_PRESSURE_PA, air_density
from limpet.road.kinds import VehicleKind
from limpet.trip import RoadFit
from limpet.units import METRES_PER_KM, SECONDS_PER_HOUR, STANDARD_GRAVITY_MPS2

FloatArray = NDArray[np.float64]

#: The curve is drawn at so many speeds, from this share of the kind's usual one to this [-].
SPEEDS: Final = 25
FROM_SHARE, TO_SHARE = 0.4, 1.7
#: A mild day at the sea's level: °C, Pa, share.
DAY: Final = (20.0, STANDARD_PRESSURE_PA, 0.6)


@dataclass(frozen=True, slots=True, kw_only=True)
class LevelCurve:
    """Consumption [Wh/km] with its interval over speed held [m/s], all of shape (n,); the mass that moves [kg] and the
    air [°C] that it is of."""

    speed_mps: tuple[float, ...]
    wh_per_km: tuple[float, ...]
    low: tuple[float, ...]
    high: tuple[float, ...]
    mass_kg: float
    temp_c: float


def level_curve(road: RoadFit, kind: VehicleKind, mass_kg: float) -> LevelCurve | None:
    """A vehicle's curve on a level road in calm air on a mild day.

    Parameters
    ----------
    road : what its tests gave, with its covariance
    kind : of the vehicle: how fast such are ridden
    mass_kg : all that moves [kg]

    Returns
    -------
    None where the fit lacks one of rolling, air, drive and what runs beside it

    Notes
    -----
    Uncertainty is carried to first order (JCGM 100:2008, 5.2.2, correlated inputs): with F the force at the wheel,
    E = k·(F/η + P/v), the gradient is k·(W/η, ½ρv²/η, −F/η², 1/v).
    """
    if not set(NAMES) <= set(road.names):
        return None
    rows = [road.names.index(name) for name in NAMES]
    crr, cda, efficiency, aux = (road.values[row] for row in rows)
    covariance = np.array(road.covariance)[np.ix_(rows, rows)]
    usual = START_VALUES[kind].usual_mps
    v = np.linspace(FROM_SHARE * usual, TO_SHARE * usual, SPEEDS)
    density = air_density(*DAY)
    each = np.ones_like(v)
    value = road_wh_per_km(
        speed_mps=v,
        mass_kg=mass_kg * each,
        crr=crr * each,
        cda_m2=cda * each,
        density_kgpm3=density * each,
        efficiency=efficiency * each,
        aux_w=aux * each,
    )
    k = METRES_PER_KM / SECONDS_PER_HOUR
    weight = mass_kg * STANDARD_GRAVITY_MPS2
    pressed = 0.5 * density * v**2
    force = weight * crr + pressed * cda
    gradient = k * np.stack(
        [weight / efficiency * each, pressed / efficiency, -force / efficiency**2, 1 / v]
    )
    half = COVERAGE_FACTOR * np.sqrt(
        np.maximum(np.einsum("in,ij,jn->n", gradient, covariance, gradient), 0.0)
    )
    return LevelCurve(
        speed_mps=_plain(v),
        wh_per_km=_plain(value),
        low=_plain(np.maximum(value - half, 0.0)),
        high=_plain(value + half),
        mass_kg=round(mass_kg, 1),
        temp_c=DAY[0],
    )


def _plain(values: FloatArray) -> tuple[float, ...]:
    return tuple(round(float(value), 3) for value in values)
