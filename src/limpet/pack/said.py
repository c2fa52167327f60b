"""A pack in a rider's own words, such as "52 V 24 Ah", "2.7 kWh" or "10s3p of 3.0 Ah cells"."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any, Final

from limpet.bounds import (
    CELLS_IN_PARALLEL,
    CELLS_IN_SERIES,
    PACK_CHARGE,
    PACK_ENERGY,
    PACK_VOLTAGE,
    Span,
)
from limpet.pack.labelled import USUAL_CHEMISTRY, is_full_voltage, with_what_is_taken
from limpet.pack.spec import PackSpec

#: Characters of such a text.
LONGEST_SAID: Final = 200
#: A cell of less is not in such packs: amp-hours beside "3p" are then of one cell (common practice, no
#: source).
LEAST_CELL_AH: Final = 1.5

#: What riders call the chemistries; the first that is found counts.
_CHEMISTRIES: Final = (
    (r"li\s*fe\s*po\s*4|lfp|iron", "lfp"),
    (r"\bnca\b", "nca"),
    (r"\bnmc\b|\bnca/nmc\b|li-?\s*ion|lithium", "nmc"),
    (r"\blmo\b|mangan", "lmo"),
    (r"\bagm\b|\bgel\b|sealed", "lead_acid_agm"),
    (r"flooded|\blead\b|\bsla\b", "lead_acid_flooded"),
)
_NUMBER: Final = r"(\d{1,6}(?:[.,]\d{1,3})?)"
_CELLS: Final = re.compile(r"\b(\d{1,3})\s*s\s*(?:(?:x\s*)?(\d{1,4})\s*p)?\b", re.IGNORECASE)
_VALUES: Final = {
    "energy": re.compile(rf"{_NUMBER}\s*(k?)\s*wh\b", re.IGNORECASE),
    "charge": re.compile(
        rf"{_NUMBER}\s*(m?)\s*ah\b(\s*(?:per\s+|each\b)?\s*cells?)?", re.IGNORECASE
    ),
    "volts": re.compile(rf"{_NUMBER}\s*v(?:olts?)?\b", re.IGNORECASE),
}
#: Words that say nothing of the pack, and those that say that nobody knows.
_PLAIN: Final = frozenset(
    [
        "a",
        "an",
        "and",
        "at",
        "battery",
        "cell",
        "cells",
        "each",
        "full",
        "nominal",
        "not",
        "of",
        "pack",
        "per",
        "rated",
        "the",
        "with",
        "x",
        "known",
        "unknown",
        "none",
        "ion",
    ]
)


@dataclass(frozen=True, slots=True, kw_only=True)
class PackSaid:
    """What was understood: fields of `PackSpec` by name; the words that were not."""

    values: dict[str, Any]
    left: tuple[str, ...]

    @property
    def spec(self) -> PackSpec:
        """The pack, with what was not said taken and named in `taken`."""
        return PackSpec(**with_what_is_taken(self.values))


def understood(text: str) -> PackSaid:
    """A rider's words as fields of a pack; of an empty text, or "not known", nothing.

    Parameters
    ----------
    text : a rider's words, 200 characters at most

    Returns
    -------
    what was understood, each field or None

    Notes
    -----
    Amp-hours of a cell are multiplied by the cells in parallel: those that are said to be a cell's, and
    those that would leave less than `LEAST_CELL_AH` for one.
    """
    rest = text[:LONGEST_SAID]
    values: dict[str, Any] = {}
    rest, cells = _taken_out(_CELLS, rest)
    if cells is not None:
        _keep(values, "series", int(cells[1]), CELLS_IN_SERIES)
        if cells[2]:
            _keep(values, "parallel", int(cells[2]), CELLS_IN_PARALLEL)
    rest, energy = _taken_out(_VALUES["energy"], rest)
    if energy is not None:
        _keep(values, "rated_wh", _plain(energy[1]) * (1000 if energy[2] else 1), PACK_ENERGY)
    rest, charge = _taken_out(_VALUES["charge"], rest)
    if charge is not None:
        amp_hours = _plain(charge[1]) / (1000 if charge[2] else 1)
        parallel = values.get("parallel", 1)
        if parallel > 1 and (charge[3] or amp_hours / parallel < LEAST_CELL_AH):
            amp_hours *= parallel
        _keep(values, "rated_ah", round(amp_hours, 3), PACK_CHARGE)
    rest, volts = _taken_out(_VALUES["volts"], rest)
    for pattern, chemistry in _CHEMISTRIES:
        if re.search(pattern, rest, re.IGNORECASE):
            values["chemistry"] = chemistry
            rest = re.sub(pattern, " ", rest, flags=re.IGNORECASE)
            break
    if volts is not None:
        said = _plain(volts[1])
        full = is_full_voltage(said, values.get("chemistry", USUAL_CHEMISTRY))
        _keep(values, "full_v" if full else "nominal_v", said, PACK_VOLTAGE)
    words = re.findall(r"[^\s,;:/×+()-]+", rest)
    return PackSaid(values=values, left=tuple(word for word in words if word.lower() not in _PLAIN))


def _taken_out(pattern: re.Pattern[str], text: str) -> tuple[str, re.Match[str] | None]:
    found = pattern.search(text)
    if found is None:
        return text, None
    return f"{text[: found.start()]} {text[found.end() :]}", found


def _plain(number: str) -> float:
    return float(number.replace(",", "."))


def _keep(values: dict[str, Any], name: str, value: float, span: Span) -> None:
    """A value that no pack has is not understood at all."""
    if span.holds(value):
        values[name] = value
