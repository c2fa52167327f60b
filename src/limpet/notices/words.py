"""The one place where a notice becomes a sentence, in the units of whoever reads it."""

from __future__ import annotations

from collections.abc import Mapping
from string import Formatter
from typing import Any, Final, cast

from limpet.notices.catalogue import Catalogue, Function
from limpet.notices.codes import CODES
from limpet.readers import ReaderUnits, chance, number, shown
from limpet.units import Kind

#: What may follow the colon of a field for a quantity, beside Python's own forms; with # the number
#: alone, with ! the unit in words.
_QUANTITIES: Final = frozenset(
    {"distance", "length", "speed", "consumption", "temperature", "mass", "pressure"}
)

_IN_WORDS: Final = {
    "km": "kilometres",
    "mi": "miles",
    "km/h": "kilometres an hour",
    "mph": "miles an hour",
    "Wh/km": "watt-hours a kilometre",
    "Wh/mi": "watt-hours a mile",
}


#: What a gap of the samples was filled from.
_FILLED_FROM: Final = {
    "energy_counter": "the meter’s own watt-hours",
    "charge_counter": "the meter’s own amp-hours",
    "distance": "the distance and the miles around it",
    "mean_power": "the mean power around it",
}
#: What two distances that lie so far apart look like.
_SLIPS: Final = {
    "km_mi": "One of them looks like kilometres noted as miles, or the other way round.",
    "km_m": "One of them looks like kilometres noted as metres.",
    "mi_m": "One of them looks like miles noted as metres.",
    "misread": "Was one misread, or not running all the way?",
}
#: Chemistries as a sentence calls them.
_CHEMISTRIES: Final = {
    "nmc": "NMC",
    "nca": "NCA",
    "lfp": "LFP",
    "lmo": "LMO",
    "lead_acid_agm": "lead-acid (AGM)",
    "lead_acid_flooded": "flooded lead-acid",
}
#: A side of a comparison that nothing names; what is named is called by its name.
_SIDES: Final = {"side:first": "the first", "side:second": "the second"}


def _times(count: float) -> str:
    return "once" if count == 1 else f"{count:,.0f} times"


#: Shares between these are told to a tenth of a per cent [-].
LEAST, LITTLE = 0.0005, 0.005


class _Words(Formatter):
    """str.format with the kinds above, `percent`, `chance`, `chance_of`, `times`, `degrees`, `minutes`, `filled`, `slip` and `side`."""

    def __init__(self, units: ReaderUnits) -> None:
        self.units = units

    def format_field(self, value: Any, format_spec: str) -> str:
        name = format_spec.partition(".")[0]
        kind = name.rstrip("#!")
        if kind in _QUANTITIES:
            text = shown(cast(Kind, kind), value, self.units)
            figure, _, unit = text.rpartition(" ")
            if name.endswith("#"):
                return figure
            return f"{figure} {_IN_WORDS.get(unit, unit)}" if name.endswith("!") else text
        if name == "percent":
            # A share that is little is not nought.
            return f"{number(100 * value, 1 if LEAST <= abs(value) < LITTLE else 0)}%"
        if name == "chance":
            return chance(value)
        if name == "chance_of":
            return f"{chance(100 * value)}%"
        if name == "times":
            return _times(value)
        if name == "degrees":
            # A difference: 10 °C are 18 °F, and not 50.
            in_f = self.units.temperature == "°F"
            return f"{value * 9 / 5 if in_f else value:.0f} {'°F' if in_f else '°C'}"
        if name == "minutes":
            return f"{value / 60:.0f} min"
        if name == "filled":
            # A version before this one kept the words themselves.
            return _FILLED_FROM.get(value, str(value))
        if name == "slip":
            return _SLIPS.get(value, str(value))
        if name == "side":
            return _SIDES.get(value, str(value))
        if name == "first":
            value = _SIDES.get(value, value)
            return str(value)[:1].upper() + str(value)[1:]
        return str(format(value, format_spec))


def filled(template: str, values: Mapping[str, Any], units: ReaderUnits) -> str:
    """A template with its values, in a reader's units. KeyError for a missing value.

    Parameters
    ----------
    template : with fields such as {distance_m:distance}
    values : in the core's units, by name
    units : the reader's
    """
    return _Words(units).format(template, **values)


def _plain(value: Any) -> str:
    return f"{value:g}"


def _fixed(value: Any, digits: Any = 0) -> str:
    return number(float(value), int(digits))


def _quantity(kind: Kind, units: ReaderUnits) -> Function:
    def said(value: Any, unit: str = "short") -> str:
        text = shown(kind, float(value), units)
        figure, _, short = text.rpartition(" ")
        if unit == "no":
            return figure
        if unit == "hyphen":
            return f"{figure}-{_IN_WORDS[short].removesuffix('s')}"
        return f"{figure} {_IN_WORDS.get(short, short)}" if unit == "words" else text

    return said


def functions_for(units: ReaderUnits) -> dict[str, Function]:
    """What sentences call, for somebody who reads in these units.

    Parameters
    ----------
    units : the reader's

    Returns
    -------
    by name: the quantities (with `unit: "no"` the number alone, `"words"` the unit in words, `"hyphen"` as in "22-mile"),
    FIXED and PLAIN numbers, PERCENT of a share, CHANCE of 100 and CHANCE_OF a share, TIMES, STEP of temperature,
    MINUTES of seconds, FIRST with a capital, and the words of codes: FILLED, SLIP, SIDE, CHEMISTRY
    """
    words = _Words(units)

    def of(spec: str) -> Function:
        return lambda value: str(words.format_field(value, spec))

    return {
        **{kind.upper(): _quantity(cast(Kind, kind), units) for kind in sorted(_QUANTITIES)},
        "FIXED": _fixed,
        "PLAIN": _plain,
        "PERCENT": of("percent"),
        "CHANCE": of("chance"),
        "CHANCE_OF": of("chance_of"),
        "TIMES": of("times"),
        "STEP": of("degrees"),
        "MINUTES": of("minutes"),
        "FIRST": of("first"),
        "FILLED": of("filled"),
        "SLIP": of("slip"),
        "SIDE": of("side"),
        "CHEMISTRY": lambda code: _CHEMISTRIES.get(str(code), str(code)),
        "PER_DISTANCE": lambda: "per mile" if units.distance == "mi" else "per kilometre",
    }


_NOTICES: Final = Catalogue({code: kind.text for code, kind in CODES.items()}, functions_for)


def sentence(code: str, values: Mapping[str, Any], units: ReaderUnits) -> str:
    """A notice in words. KeyError for an unknown code or a missing value."""
    return _NOTICES.say(code, values, units)
