"""The units that somebody reads in: one table of what each kind of quantity is shown in.

The page reads the same table from `web/src/api/core.json`, which `./limpet types` writes.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Final, Literal

from limpet.units import CORE_UNITS, Kind, factor_and_zero

Distance = Literal["km", "mi"]
Mass = Literal["kg", "lb", "st"]
Temperature = Literal["°C", "°F"]
Pressure = Literal["kPa", "psi", "bar"]


@dataclass(frozen=True, slots=True, kw_only=True)
class ReaderUnits:
    """What somebody has chosen to read in."""

    distance: Distance = "km"
    mass: Mass = "kg"
    temperature: Temperature = "°C"
    pressure: Pressure = "kPa"


METRIC: Final = ReaderUnits()

#: (unit, decimals); no decimals given means one below a hundred and none from there on.
Shown = tuple[str, int | None]

#: kind → (the choice that decides, unit by what was chosen). Stone is read as pounds where one unit
#: must do.
CHOSEN: Final[dict[Kind, tuple[str, dict[str, Shown]]]] = {
    "distance": ("distance", {"km": ("km", None), "mi": ("mi", None)}),
    "length": ("distance", {"km": ("m", 0), "mi": ("ft", 0)}),
    "speed": ("distance", {"km": ("km/h", 0), "mi": ("mph", 0)}),
    "consumption": ("distance", {"km": ("Wh/km", None), "mi": ("Wh/mi", None)}),
    "mass": ("mass", {"kg": ("kg", 0), "lb": ("lb", 0), "st": ("lb", 0)}),
    "temperature": ("temperature", {"°C": ("°C", 0), "°F": ("°F", 0)}),
    "pressure": ("pressure", {"kPa": ("kPa", 0), "psi": ("psi", 0), "bar": ("bar", 1)}),
}
#: Kinds that everybody reads in one unit, with its decimals where it has its own.
_DECIMALS: Final[dict[Kind, int]] = {"area": 2, "resistance": 3, "voltage": 1}


def shown_in(kind: Kind, units: ReaderUnits) -> Shown:
    """The unit that a kind is shown in, and its decimals.

    Parameters
    ----------
    kind : of quantity
    units : the reader's
    """
    if kind in CHOSEN:
        choice, by_choice = CHOSEN[kind]
        return by_choice[getattr(units, choice)]
    short = "" if kind == "share" else CORE_UNITS[kind][0]
    return short, _DECIMALS.get(kind)


def in_unit(kind: Kind, value: float, unit: str) -> float:
    """A value of the core's in a unit of its kind.

    Parameters
    ----------
    kind : of quantity
    value : in the core's unit
    unit : one of that kind

    Returns
    -------
    the value in that unit
    """
    if unit in ("", CORE_UNITS[kind][0]):
        return value
    factor, zero = factor_and_zero(unit, kind)
    return (value - zero) / factor


def number(value: float, decimals: int | None = None) -> str:
    """A number as a sentence holds it: one decimal below a hundred, none from there on.

    Parameters
    ----------
    value : in the unit that is shown
    decimals : None for the usual ones
    """
    if decimals is None:
        decimals = 0 if abs(value) >= 100 else 1
    text = f"{value:,.{decimals}f}"
    return text.lstrip("-") if float(text.replace(",", "")) == 0 else text.replace("-", "−")


def shown(kind: Kind, value: float, units: ReaderUnits, decimals: int | None = None) -> str:
    """A quantity in the reader's unit, such as "12.4 mi" for a distance in metres.

    Parameters
    ----------
    kind, value : a quantity in the core's unit
    units : the reader's
    decimals : None for those of its kind
    """
    unit, usual = shown_in(kind, units)
    text = number(in_unit(kind, value, unit), usual if decimals is None else decimals)
    return f"{text} {unit}".rstrip()


def reader_table() -> dict[str, Any]:
    """The table as the page reads it: by kind the choice that decides, and unit, factor, zero."""
    kinds: dict[str, Any] = {}
    for kind in CORE_UNITS:
        if kind not in CHOSEN:
            unit, decimals = shown_in(kind, METRIC)
            kinds[kind] = {"choice": None, "units": {"": _line(kind, unit, decimals)}}
            continue
        choice, by_choice = CHOSEN[kind]
        lines = {chosen: _line(kind, *line) for chosen, line in by_choice.items()}
        kinds[kind] = {"choice": choice, "units": lines}
    return kinds


def _line(kind: Kind, unit: str, decimals: int | None) -> dict[str, Any]:
    factor, zero = (1.0, 0.0) if unit in ("", CORE_UNITS[kind][0]) else factor_and_zero(unit, kind)
    return {"unit": unit, "factor": factor, "zero": zero, "decimals": decimals}


def chance(percent: float) -> str:
    """A chance in percent as it is said: nothing is ever certain, nor ruled out.

    Draws that all succeed show that the chance is high, not that it is 100%.

    Parameters
    ----------
    percent : 0 to 100
    """
    if percent > 99.5:
        return "over 99"
    return "under 1" if percent < 0.5 else f"{percent:.0f}"
