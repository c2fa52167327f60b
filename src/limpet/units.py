"""Units at the edges: typed text in, SI inside; the exact constants that the core itself needs."""

from __future__ import annotations

import re
from functools import lru_cache
from math import isfinite
from typing import Literal

import pint

from limpet.errors import UnitError

#: International mile, exact: International Yard and Pound agreement, 1959; NIST SP 811 (2008), B.6.
METRES_PER_MILE = 1609.344
METRES_PER_KM = 1000.0
#: Exact by definition of the hour.
SECONDS_PER_HOUR = 3600.0
#: Standard acceleration of gravity [m/s²], exact by convention: 3rd CGPM (1901), Resolution 2.
STANDARD_GRAVITY_MPS2 = 9.80665

Kind = Literal[
    "mass",
    "distance",
    "length",
    "speed",
    "voltage",
    "current",
    "charge",
    "energy",
    "power",
    "pressure",
    "temperature",
    "air_pressure",
    "resistance",
]

#: What the core keeps each kind of quantity in: (the unit in pint's words, its short name,
#: an example that goes into every refusal).
CORE_UNITS: dict[str, tuple[str, str, str]] = {
    "mass": ("kilogram", "kg", "80 kg or 176 lb"),
    "distance": ("meter", "m", "12.4 mi or 20 km"),
    "length": ("meter", "m", "1720 m"),
    "speed": ("meter / second", "m/s", "20 km/h or 12 mph"),
    "voltage": ("volt", "V", "54.3 V"),
    "current": ("ampere", "A", "8.5 A"),
    "charge": ("ampere * hour", "Ah", "9.4 Ah"),
    "energy": ("watt * hour", "Wh", "480 Wh"),
    "power": ("watt", "W", "350 W"),
    "pressure": ("kilopascal", "kPa", "36 psi or 2.5 bar"),
    "temperature": ("degree_Celsius", "°C", "16 °C or 61 °F"),
    "resistance": ("ohm", "Ω", "0.03 Ω or 30 mΩ"),
    "air_pressure": ("hectopascal", "hPa", "1013 hPa"),
}

#: How riders write a unit, where that differs from pint's name for it.
_SPELLINGS = {
    "mph": "mile / hour",
    "mi/h": "mile / hour",
    "kmh": "kilometer / hour",
    "kph": "kilometer / hour",
    "km/h": "kilometer / hour",
    "m/s": "meter / second",
    "lbs": "pound",
    "st": "stone",
    "c": "degree_Celsius",
    "°c": "degree_Celsius",
    "degc": "degree_Celsius",
    "f": "degree_Fahrenheit",
    "°f": "degree_Fahrenheit",
    "degf": "degree_Fahrenheit",
    "k": "kelvin",
    "v": "volt",
    "mv": "millivolt",
    "a": "ampere",
    "ma": "milliampere",
    "ω": "ohm",
    "mω": "milliohm",
    "ohm": "ohm",
    "mohm": "milliohm",
    "ah": "ampere * hour",
    "mah": "milliampere * hour",
    "w": "watt",
    "kw": "kilowatt",
    "wh": "watt * hour",
    "kwh": "kilowatt * hour",
    "miles": "mile",
    "kpa": "kilopascal",
    "hpa": "hectopascal",
    "mbar": "hectopascal",
    "j": "joule",
    "kj": "kilojoule",
    "mi": "mile",
    "km": "kilometer",
    "m": "meter",
    "ft": "foot",
    "yd": "yard",
    "g": "gram",
    "kg": "kilogram",
    "lb": "pound",
    "psi": "psi",
    "bar": "bar",
}

_TYPED = re.compile(
    r"^\s*([+-]?(?:\d[\d \u00a0\u202f']*)?(?:[.,]\d+)?(?:[.,]\d+)*)\s*([^\d\s].*?)?\s*$"
)


@lru_cache(maxsize=1)
def _registry() -> pint.UnitRegistry[float]:
    # Building the registry takes a quarter of a second, so it waits until somebody types a unit.
    return pint.UnitRegistry(autoconvert_offset_to_baseunit=True)


def _read_number(digits: str, typed: str) -> float:
    """A number as people write it: point or comma decimals, spaces between thousands."""
    compact = re.sub(r"[ \u00a0\u202f']", "", digits)
    if compact.count(",") + compact.count(".") > 1:
        raise UnitError(
            f"'{typed.strip()}' holds more than one decimal mark; write it like 1234.5 or 1234,5"
        )
    try:
        return float(compact.replace(",", "."))
    except ValueError as cause:
        raise UnitError(f"'{typed.strip()}' is not a number; write it like 54.3") from cause


def parse_quantity(typed: str, kind: Kind) -> float:
    """Read a quantity as a rider types it and give it in the core's unit for its kind.

    Parameters
    ----------
    typed : such as "200 lb", "12.4mi", "54,3 V" or "36 psi"; without a unit, the core's own is meant
    kind : what sort of quantity the field takes

    Returns
    -------
    the value in the unit named in CORE_UNITS[kind], scalar

    Raises
    ------
    UnitError
        When there is no number, more than one decimal mark, an unknown unit, or a unit of another
        kind.

    Notes
    -----
    Conversion factors are pint's, which carries the exact definitions of NIST SP 811 (2008).
    """
    core_unit, _, example = CORE_UNITS[kind]
    match = _TYPED.match(typed)
    if match is None or not any(mark.isdigit() for mark in match.group(1)):
        raise UnitError(f"'{typed.strip()}' is not a quantity; write it like {example}")
    number = _read_number(match.group(1), typed)
    unit = (match.group(2) or "").strip()
    if not unit:
        return number
    spelled = _SPELLINGS.get(unit.lower().replace("\u2009", ""), unit)
    # "M" is mega and "m" is milli to pint; in this trade nobody means megavolts, so the table
    # above goes first and pint is asked only for what it does not hold.
    try:
        value = _registry().Quantity(number, spelled).to(core_unit).magnitude
    except (pint.UndefinedUnitError, pint.DimensionalityError, AttributeError, ValueError) as cause:
        raise UnitError(
            f"'{unit}' is not a unit of {kind.replace('_', ' ')}; write it like {example}"
        ) from cause
    except Exception as cause:  # pint's own parser raises bare tokenizer errors on stray marks
        raise UnitError(f"'{typed.strip()}' cannot be read; write it like {example}") from cause
    if not isfinite(value):
        raise UnitError(f"'{typed.strip()}' is not finite; write it like {example}")
    return float(value)
