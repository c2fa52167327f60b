"""What a test's sheet says of mass, of packs side by side and of their warmth, or what is taken for it."""

from __future__ import annotations

from typing import Final

from limpet.assumptions import AIR_HUMIDITY, AIR_PRESSURE_PA, AIR_TEMP_C, load_kg
from limpet.evidence.model import RangeTest
from limpet.road import air_density

#: Uses of several packs in which one at a time carries the current.
IN_TURN: Final = ("in_sequence", "spare")
#: The air where nobody says, for the pack [°C] (assumption).
PACK_TEMP_C = 20.0
#: Air that is noted colder or hotter is taken as at these [°C].
COLDEST_C, HOTTEST_C = -40.0, 50.0


def packs_together(test: RangeTest) -> int:
    """Packs that share the current; those used one after another do not, nor one in the bag."""
    return 1 if test.sheet.packs_use in IN_TURN else test.sheet.packs_used or 1


def pack_temp_c(test: RangeTest) -> float:
    """Of the pack as far as is known: the mean of the noted air temperatures [°C]."""
    temps = _noted_temps_c(test)
    return sum(temps) / len(temps) if temps else PACK_TEMP_C


def pack_temp_known(test: RangeTest) -> bool:
    """Whether anybody noted how warm the air was."""
    return bool(_noted_temps_c(test))


def _noted_temps_c(test: RangeTest) -> list[float]:
    air = test.sheet.conditions
    temps = [] if air is None else [t for t in (air.temp_start_c, air.temp_end_c) if t is not None]
    return temps or [entry.air_temp_c for entry in test.entries if entry.air_temp_c is not None]


def mass_kg(test: RangeTest) -> float:
    """All that moves [kg], as noted or assumed."""
    rider, vehicle = test.sheet.rider, test.sheet.vehicle.mass_kg
    load, _ = load_kg(*((None, None) if rider is None else (rider.mass_kg, rider.gear_kg)))
    return load + (25.0 if vehicle is None else vehicle)


def air_density_of(test: RangeTest) -> float:
    """Of the air that was ridden in, as noted or assumed [kg/m³]."""
    air = test.sheet.conditions
    temps = [] if air is None else [t for t in (air.temp_start_c, air.temp_end_c) if t is not None]
    temp = min(max(sum(temps) / len(temps), COLDEST_C), HOTTEST_C) if temps else AIR_TEMP_C.value
    pressure, humidity = AIR_PRESSURE_PA.value, AIR_HUMIDITY.value
    if air is not None and air.pressure_hpa is not None:
        pressure = 100 * air.pressure_hpa
    if air is not None and air.humidity_pct is not None:
        humidity = air.humidity_pct / 100
    return air_density(temp, pressure, humidity)
