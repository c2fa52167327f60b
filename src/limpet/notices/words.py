"""The one place where a notice becomes a sentence, in the units of whoever reads it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cache
from string import Formatter
from typing import Any, Literal

from limpet.notices.codes import CODES
from limpet.units import METRES_PER_KM, METRES_PER_MILE, UNITS

Distance = Literal["km", "mi"]
Mass = Literal["kg", "lb", "st"]
Temperature = Literal["°C", "°F"]
Pressure = Literal["kPa", "psi", "bar"]


@dataclass(frozen=True, slots=True, kw_only=True)
class ReaderUnits:
    """The units that somebody reads in."""

    distance: Distance = "km"
    mass: Mass = "kg"
    temperature: Temperature = "°C"
    pressure: Pressure = "kPa"


METRIC = ReaderUnits()
MILES = ReaderUnits(distance="mi")


def number(value: float, decimals: int | None = None) -> str:
    """A number as a sentence holds it: one decimal below a hundred, none from there on."""
    if decimals is None:
        decimals = 0 if abs(value) >= 100 else 1
    text = f"{value:,.{decimals}f}"
    return text.lstrip("-") if float(text.replace(",", "")) == 0 else text.replace("-", "−")


def _distance(metres: float, units: ReaderUnits) -> tuple[float, str, int | None]:
    per = METRES_PER_KM if units.distance == "km" else METRES_PER_MILE
    return metres / per, units.distance, None


def _length(metres: float, units: ReaderUnits) -> tuple[float, str, int | None]:
    if units.distance == "km":
        return metres, "m", 0
    return metres / UNITS["length"]["ft"], "ft", 0


def _speed(mps: float, units: ReaderUnits) -> tuple[float, str, int | None]:
    name = "km/h" if units.distance == "km" else "mph"
    return mps / UNITS["speed"][name], name, 0


def _consumption(wh_per_km: float, units: ReaderUnits) -> tuple[float, str, int | None]:
    if units.distance == "km":
        return wh_per_km, "Wh/km", None
    return wh_per_km * METRES_PER_MILE / METRES_PER_KM, "Wh/mi", None


def _temperature(celsius: float, units: ReaderUnits) -> tuple[float, str, int | None]:
    if units.temperature == "°C":
        return celsius, "°C", 0
    return celsius * 9 / 5 + 32, "°F", 0


def _mass(kg: float, units: ReaderUnits) -> tuple[float, str, int | None]:
    unit = "kg" if units.mass == "kg" else "lb"
    return kg / UNITS["mass"][unit], unit, 0


def _percent(share: float, units: ReaderUnits) -> tuple[float, str, int | None]:
    return 100 * share, "%", 0


#: What may follow the colon of a field, beside Python's own forms; with # the number alone.
_KINDS: dict[str, Callable[[float, ReaderUnits], tuple[float, str, int | None]]] = {
    "distance": _distance,
    "length": _length,
    "speed": _speed,
    "consumption": _consumption,
    "temperature": _temperature,
    "mass": _mass,
    "percent": _percent,
}


def shown(kind: str, value: float, units: ReaderUnits, decimals: int | None = None) -> str:
    """A quantity in the reader's unit of a kind, such as "12.4 mi" for a distance in metres."""
    size, unit, usual = _KINDS[kind](value, units)
    return f"{number(size, usual if decimals is None else decimals)} {unit}"


def per_core(kind: str, units: ReaderUnits) -> tuple[float, str]:
    """What one of the core's unit is in the reader's, and that unit's name; not for temperatures."""
    size, unit, _ = _KINDS[kind](1.0, units)
    return size, unit


def _times(count: float) -> str:
    return "once" if count == 1 else f"{count:,.0f} times"


class _Words(Formatter):
    """str.format with the kinds above, `times`, `minutes`, `many.<word>` and `plus.<word>`."""

    def __init__(self, units: ReaderUnits) -> None:
        self.units = units

    def format_field(self, value: Any, format_spec: str) -> str:
        name, _, word = format_spec.partition(".")
        kind = _KINDS.get(name.removesuffix("#"))
        if kind is not None:
            size, unit, decimals = kind(value, self.units)
            text = number(size, decimals)
            return text if name.endswith("#") else f"{text} {unit}"
        if name == "times":
            return _times(value)
        if name == "minutes":
            return f"{value / 60:.0f} min"
        if name == "many":
            return f"{value:,.0f} {word}{'' if value == 1 else 's'}"
        if name == "first":
            return str(value)[:1].upper() + str(value)[1:]
        return str(format(value, format_spec))


@cache
def fields_of(template: str) -> frozenset[str]:
    """The names of the values that a template holds."""
    return frozenset(name for _, name, _, _ in Formatter().parse(template) if name is not None)


def sentence(code: str, values: Mapping[str, Any], units: ReaderUnits) -> str:
    """A notice in words. KeyError for an unknown code or a missing value."""
    return _Words(units).vformat(CODES[code].template, (), values)


def sentence_of(kept: Mapping[str, Any], units: ReaderUnits) -> str:
    """A notice as it was kept, in words; what an older version kept in words stays as it was."""
    try:
        return sentence(str(kept["code"]), kept["values"], units)
    except (KeyError, TypeError, ValueError, AttributeError):
        return str(kept.get("message", ""))
