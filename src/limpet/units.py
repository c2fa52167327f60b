"""Units at the edges: typed text in, SI inside; the exact constants that the core itself needs."""

from __future__ import annotations

from math import isfinite
from typing import Literal

from limpet.errors import UnitError

#: International mile, exact: International Yard and Pound agreement, 1959; NIST SP 811 (2008), B.6.
METRES_PER_MILE = 1609.344
METRES_PER_KM = 1000.0
#: Exact by definition of the hour.
SECONDS_PER_HOUR = 3600.0
#: Standard acceleration of gravity [m/s²], exact by convention: 3rd CGPM (1901), Resolution 2.
STANDARD_GRAVITY_MPS2 = 9.80665

#: International pound [kg], foot [m] and inch [m], exact: the same agreement.
_POUND_KG = 0.45359237
_FOOT_M = 0.3048
_PSI_KPA = _POUND_KG * STANDARD_GRAVITY_MPS2 / (_FOOT_M / 12) ** 2 / 1000

#: Characters of a typed quantity. "1 234,5 kilometres per hour" has 28.
LONGEST_TYPED = 60

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
    "area",
    "share",
    "consumption",
    "angle",
    "time",
]

#: What the core keeps each kind of quantity in: (its short name, an example for every refusal).
CORE_UNITS: dict[Kind, tuple[str, str]] = {
    "mass": ("kg", "80 kg or 176 lb"),
    "distance": ("m", "12.4 mi or 20 km"),
    "length": ("m", "1720 m"),
    "speed": ("m/s", "20 km/h or 12 mph"),
    "voltage": ("V", "54.3 V"),
    "current": ("A", "8.5 A"),
    "charge": ("Ah", "9.4 Ah"),
    "energy": ("Wh", "480 Wh"),
    "power": ("W", "350 W"),
    "pressure": ("kPa", "36 psi or 2.5 bar"),
    "temperature": ("°C", "16 °C or 61 °F"),
    "resistance": ("Ω", "0.03 Ω or 30 mΩ"),
    "air_pressure": ("hPa", "1013 hPa"),
    "area": ("m²", "0.6 m²"),
    "share": ("1", "0.8 or 80%"),
    "consumption": ("Wh/km", "9.3 Wh/km or 15 Wh/mi"),
    "angle": ("deg", "240 deg"),
    "time": ("s", "90 s or 1.5 min"),
}

_LENGTHS = {
    "m": 1.0,
    "metre": 1.0,
    "metres": 1.0,
    "meter": 1.0,
    "meters": 1.0,
    "km": METRES_PER_KM,
    "kms": METRES_PER_KM,
    "kilometre": METRES_PER_KM,
    "kilometres": METRES_PER_KM,
    "kilometer": METRES_PER_KM,
    "kilometers": METRES_PER_KM,
    "cm": 0.01,
    "mm": 0.001,
    "mi": METRES_PER_MILE,
    "mile": METRES_PER_MILE,
    "miles": METRES_PER_MILE,
    "ft": _FOOT_M,
    "foot": _FOOT_M,
    "feet": _FOOT_M,
    "yd": 3 * _FOOT_M,
    "yard": 3 * _FOOT_M,
    "yards": 3 * _FOOT_M,
    "in": _FOOT_M / 12,
}
_PRESSURES_PA = {
    "pa": 1.0,
    "hpa": 100.0,
    "kpa": 1000.0,
    "mpa": 1e6,
    "mbar": 100.0,
    "bar": 1e5,
    "psi": 1000 * _PSI_KPA,
    "inhg": 3386.389,  # conventional inch of mercury, NIST SP 811 (2008), B.8
}

#: kind → how riders write a unit, in small letters → what one of it is in the core's unit. A closed
#: table: reading a unit takes one look, whatever was typed. Factors are the exact definitions of
#: NIST SP 811 (2008), B.8; the tests hold them against a unit library.
UNITS: dict[Kind, dict[str, float]] = {
    "mass": {
        "kg": 1.0,
        "kilo": 1.0,
        "kilos": 1.0,
        "kilogram": 1.0,
        "kilograms": 1.0,
        "g": 0.001,
        "gram": 0.001,
        "grams": 0.001,
        "t": 1000.0,
        "lb": _POUND_KG,
        "lbs": _POUND_KG,
        "pound": _POUND_KG,
        "pounds": _POUND_KG,
        "st": 14 * _POUND_KG,
        "stone": 14 * _POUND_KG,
        "oz": _POUND_KG / 16,
    },
    "distance": _LENGTHS,
    "length": _LENGTHS,
    "speed": {
        "m/s": 1.0,
        "mps": 1.0,
        "km/h": 1 / 3.6,
        "kmh": 1 / 3.6,
        "kph": 1 / 3.6,
        "mph": METRES_PER_MILE / SECONDS_PER_HOUR,
        "mi/h": METRES_PER_MILE / SECONDS_PER_HOUR,
        "kn": 1852 / SECONDS_PER_HOUR,
        "knot": 1852 / SECONDS_PER_HOUR,
        "knots": 1852 / SECONDS_PER_HOUR,
        "ft/s": _FOOT_M,
    },
    "voltage": {"v": 1.0, "volt": 1.0, "volts": 1.0, "mv": 0.001},
    "current": {"a": 1.0, "amp": 1.0, "amps": 1.0, "ampere": 1.0, "ma": 0.001},
    "charge": {"ah": 1.0, "mah": 0.001, "as": 1 / SECONDS_PER_HOUR, "c": 1 / SECONDS_PER_HOUR},
    "energy": {
        "wh": 1.0,
        "kwh": 1000.0,
        "j": 1 / SECONDS_PER_HOUR,
        "kj": 1000 / SECONDS_PER_HOUR,
        "mj": 1e6 / SECONDS_PER_HOUR,
    },
    "power": {"w": 1.0, "watt": 1.0, "watts": 1.0, "kw": 1000.0},
    "pressure": {name: pascal / 1000 for name, pascal in _PRESSURES_PA.items()},
    "air_pressure": {name: pascal / 100 for name, pascal in _PRESSURES_PA.items()},
    "temperature": {
        "°c": 1.0,
        "c": 1.0,
        "degc": 1.0,
        "celsius": 1.0,
        "k": 1.0,
        "kelvin": 1.0,
        "°f": 5 / 9,
        "f": 5 / 9,
        "degf": 5 / 9,
        "fahrenheit": 5 / 9,
    },
    "resistance": {"ω": 1.0, "ohm": 1.0, "ohms": 1.0, "mω": 0.001, "mohm": 0.001, "mohms": 0.001},
    "area": {"m²": 1.0, "m2": 1.0, "m^2": 1.0, "ft²": _FOOT_M**2, "ft2": _FOOT_M**2},
    "share": {"1": 1.0, "%": 0.01, "percent": 0.01},
    "consumption": {
        "wh/km": 1.0,
        "wh/mi": METRES_PER_KM / METRES_PER_MILE,
        "wh/mile": METRES_PER_KM / METRES_PER_MILE,
        "kwh/100km": 10.0,
        "wh/m": METRES_PER_KM,
    },
    "angle": {"°": 1.0, "deg": 1.0, "degrees": 1.0},
    "time": {
        "s": 1.0,
        "sec": 1.0,
        "seconds": 1.0,
        "min": 60.0,
        "minutes": 60.0,
        "h": SECONDS_PER_HOUR,
        "hours": SECONDS_PER_HOUR,
    },
}
#: Where zero of a unit lies in the core's [°C]: Celsius and kelvin by the SI brochure (9th ed.),
#: 2.3.1; Fahrenheit by NIST SP 811, B.8.
_ZERO_AT_C = {"k": -273.15, "kelvin": -273.15}
_ZERO_AT_F = dict.fromkeys(("°f", "f", "degf", "fahrenheit"), -32 * 5 / 9)

_DIGITS = frozenset("0123456789")
_SIGNS = {"+": 1.0, "-": -1.0, "\u2212": -1.0}
#: What people put between thousands.
_BETWEEN_THOUSANDS = " \u00a0\u202f\u2009'"
_MARKS = frozenset(".," + _BETWEEN_THOUSANDS)
_WITHOUT_SPACES = str.maketrans("", "", _BETWEEN_THOUSANDS)


def factor_and_zero(unit: str, kind: Kind) -> tuple[float, float]:
    """How a unit becomes the core's: value · factor + zero.

    Parameters
    ----------
    unit : as it is typed, such as "mi" or "°F"
    kind : the kind of quantity

    Returns
    -------
    (factor, zero) to the core's unit of the kind

    Raises
    ------
    UnitError
        When it is not a unit of that kind.
    """
    spelled = unit.strip().lower().translate(_WITHOUT_SPACES)
    factor = UNITS[kind].get(spelled)
    if factor is None:
        _, example = CORE_UNITS[kind]
        shown = unit.strip()[:20]
        raise UnitError(
            f"'{shown}' is not a unit of {kind.replace('_', ' ')}; write it like {example}"
        )
    if kind != "temperature":
        return factor, 0.0
    return factor, _ZERO_AT_C.get(spelled, 0.0) + _ZERO_AT_F.get(spelled, 0.0)


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
        When there is no number, more than one decimal mark, an unknown unit, a unit of another
        kind, or more than LONGEST_TYPED characters.

    Notes
    -----
    One pass over the text, character by character: the time is linear in a length that has a bound.
    """
    _, example = CORE_UNITS[kind]
    text = typed.strip()
    if len(text) > LONGEST_TYPED:
        raise UnitError(f"'{text[:20]}…' is {len(text):,} characters long; write it like {example}")
    sign = _SIGNS.get(text[:1])
    at = 0 if sign is None else 1
    while at < len(text) and (text[at] in _DIGITS or text[at] in _MARKS):
        at += 1
    digits = text[0 if sign is None else 1 : at].translate(_WITHOUT_SPACES).replace(",", ".")
    if not any(mark in _DIGITS for mark in digits):
        raise UnitError(f"'{text}' is not a quantity; write it like {example}")
    if digits.count(".") > 1:
        raise UnitError(
            f"'{text}' holds more than one decimal mark; write it like 1234.5 or 1234,5"
        )
    number = float(digits) * (1.0 if sign is None else sign)
    unit = text[at:].strip()
    if not unit:
        return number
    factor, zero = factor_and_zero(unit, kind)
    value = number * factor + zero
    if not isfinite(value):
        raise UnitError(f"'{text}' is not finite; write it like {example}")
    return value
