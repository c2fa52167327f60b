"""Units as loggers write them, beside those that riders type."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Final

from limpet.units import UNITS, Kind

#: How loggers spell what riders type otherwise (common practice, no source).
_SPELLED: Final[dict[str, tuple[Kind, str]]] = {
    "vdc": ("voltage", "v"), "v dc": ("voltage", "v"), "millivolt": ("voltage", "mv"), "millivolts": ("voltage", "mv"),
    "adc": ("current", "a"), "ampere": ("current", "a"), "amperes": ("current", "a"), "milliamps": ("current", "ma"),
    "amp-hours": ("charge", "ah"), "amp hours": ("charge", "ah"), "amphours": ("charge", "ah"), "a·h": ("charge", "ah"),
    "watt-hours": ("energy", "wh"), "watt hours": ("energy", "wh"), "w·h": ("energy", "wh"),
    "km/u": ("speed", "km/h"), "kmph": ("speed", "km/h"), "k/h": ("speed", "km/h"), "m/sec": ("speed", "m/s"),
    "m s-1": ("speed", "m/s"), "m·s⁻¹": ("speed", "m/s"), "miles/h": ("speed", "mph"), "kts": ("speed", "knots"),
    "kt": ("speed", "knots"), "℃": ("temperature", "°c"), "deg c": ("temperature", "°c"), "º c": ("temperature", "°c"),
    "ºc": ("temperature", "°c"), "grad c": ("temperature", "°c"), "deg f": ("temperature", "°f"), "ºf": ("temperature", "°f"),
    "℉": ("temperature", "°f"), "ms": ("time", "ms"), "msec": ("time", "ms"), "millis": ("time", "ms"),
    "milliseconds": ("time", "ms"), "us": ("time", "us"), "µs": ("time", "us"), "μs": ("time", "us"), "sek": ("time", "s"),
    "secs": ("time", "s"), "second": ("time", "s"), "hr": ("time", "h"), "hrs": ("time", "h"), "std": ("time", "h"), "mins": ("time", "min"),
    "metros": ("length", "m"), "mètres": ("length", "m"), "decimal degrees": ("angle", "deg"),
}  # fmt: skip
#: Factors of units that only clocks have [s].
CLOCK_UNITS: Final = {"ms": 1e-3, "us": 1e-6, "ns": 1e-9, "s": 1.0, "min": 60.0, "h": 3600.0, "d": 86_400.0}  # fmt: skip
#: What a row of units may hold beside units.
_NO_UNIT: Final = frozenset({"", "-", "--", "none", "n/a", "bool", "#", "text", "string", "state", "date", "time", "datetime", "hh:mm:ss", "hh:mm:ss.000", "yyyy-mm-dd", "dd.mm.yyyy", "utc", "1"})  # fmt: skip
_ORDER: Final[tuple[Kind, ...]] = (
    "voltage", "current", "charge", "energy", "power", "speed", "temperature", "time", "distance", "angle", "share", "resistance",
    "consumption",
)  # fmt: skip


def unit_of(text: str, kind: Kind | None = None) -> tuple[Kind, str] | None:
    """A unit as it is written: the kind of quantity that it measures, and how Limpet spells it.

    Parameters
    ----------
    text : such as "km/h", "[V]" or "°C"
    kind : only of this kind, any when None
    """
    spelled = text.strip().strip("[](){}").strip()
    # Mega and milli are told apart by the letter's size alone, and no meter counts megavolts.
    low = spelled.lower()
    if low in _SPELLED:
        found, unit = _SPELLED[low]
        return (
            (found, unit)
            if kind in (None, found) or {kind, found} == {"length", "distance"}
            else None
        )
    for each in (kind,) if kind is not None else _ORDER:
        if each is not None and low.replace(" ", "") in UNITS[each]:
            if each == "temperature" and low in ("k",):
                continue
            return each, low.replace(" ", "")
    return None


def is_unit_row(row: Sequence[str]) -> bool:
    """Whether a row below the names holds their units."""
    filled = [cell.strip() for cell in row if cell.strip()]
    if not filled:
        return False
    known = sum(
        unit_of(cell) is not None or cell.lower().strip("[]() ") in _NO_UNIT for cell in filled
    )
    return known >= 0.6 * len(filled) and any(unit_of(cell) is not None for cell in filled)


_IN_NAME: Final = re.compile(r"[\[({<]\s*([^\[\](){}<>]{1,20}?)\s*[\])}>]")
_AFTER: Final = re.compile(
    r"(?:[,/:]\s*|\s+in\s+|[\s_.]+)([^\s,/:_.]{1,8}(?:/[^\s,/:_]{1,4})?)\s*$"
)


def unit_in(name: str) -> tuple[str, str]:
    """The unit that a heading names, "" where it names none, and the heading without it."""
    if unit_of(name) is not None:
        return name.strip(), name.strip()
    for found in reversed(list(_IN_NAME.finditer(name))):
        if unit_of(found[1]) is not None or found[1].lower() in CLOCK_UNITS:
            rest = (name[: found.start()] + " " + name[found.end() :]).strip()
            return found[1], rest
    after = _AFTER.search(name)
    if after is not None and after.start() > 0:
        unit = unit_of(after[1])
        # "Trip A" is the first of two trip meters and no current.
        if unit is not None and (len(after[1]) > 1 or name[: after.start()].rstrip()[-1:] in ",/:"):
            return after[1], name[: after.start()].strip(" ,/:_.")
        if unit is not None and after[1] in ("V", "A", "W", "m", "s", "h", "C", "F", "v", "a", "w"):
            return after[1], name[: after.start()].strip(" ,/:_.")
    return "", name.strip()
