"""A table pasted from a spreadsheet or typed with spaces: its columns recognised, its cells as they stand."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from limpet.evidence.columns import ENTRY_COLUMNS
from limpet.units import UNITS

#: What is read of a paste: characters, rows, columns, characters of a cell.
MOST_TEXT, MOST_ROWS, MOST_PASTED_COLUMNS, MOST_CELL = 200_000, 500, 40, 300
#: The column that a clock is noted in; what follows are columns of entries.csv.
CLOCK: Final = "clock"

#: What riders head their columns with; the first that fits counts (common practice, no source).
_HEADINGS: Final = tuple(
    (re.compile(pattern, re.IGNORECASE), name)
    for pattern, name in (
        (r"\b(clock|time|when|o'?clock)\b", CLOCK),
        (r"\b(note|notes|remark|comment)s?\b", "note"),
        (r"\b(place|where|checkpoint)\b", "place"),
        (r"\bodo(meter)?\b", "odometer_m"),
        (r"\b(gps|track(er)?|phone)\b", "gps_m"),
        (r"\blaps?\b", "laps"),
        (r"\b(shown|promised|displayed)\b.*\brange\b|\brange\b", "shown_range_m"),
        (r"\bspeedo", "speedometer_mps"),
        (r"\b(amp[- ]?hours?|ah|mah)\b", "charge_ah"),
        (r"\b(watt[- ]?hours?|k?wh)\b", "energy_wh"),
        (r"\b(load(ed)?|pull(ing)?|sag(ged)?|under)\b", "voltage_load_v"),
        (r"\b(rest(ing)?|volts?|voltage|v)\b", "voltage_rest_v"),
        (r"\b(speed|mph|km/?h|kph)\b", "speed_mps"),
        (r"\b(amps?|current|a)\b", "current_a"),
        (r"\b(gauge|bars?|dots?|percent|charge|battery|soc)\b|%", "gauge"),
        (r"\b(air|outside)\b", "air_temp_c"),
        (r"\b(temp|temperature|pack)\b", "battery_temp_c"),
        (r"\b(climb|ascent)\b", "ascent_m"),
        (r"\b(trip|dist(ance)?|ridden|mi|miles?|km|kilomet)", "trip_m"),
        (r"\bmode\b", "mode"),
    )
)
_UNIT: Final = re.compile(r"[(\[,]\s*([^()\[\],]{1,12}?)\s*[)\]]?\s*$|\b([a-zA-Z°%/]{1,6})\s*$")


@dataclass(frozen=True, slots=True, kw_only=True)
class PastedColumn:
    """A column as it was headed, the column of an entry that it is taken for, and the unit it names."""

    heading: str
    name: str | None
    unit: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Pasted:
    """Columns, and the cells under them as text, shape (rows, columns)."""

    columns: tuple[PastedColumn, ...]
    rows: tuple[tuple[str, ...], ...]
    #: Rows that were more than are read.
    left_out: int


def pasted(text: str) -> Pasted:
    """The table of a text: cells between tabs, or semicolons, or commas that are no decimal commas, or
    several spaces; a first row without figures is its heading.

    Notes
    -----
    What is not recognised keeps its cells and has no name: whoever pasted it says what it is.
    """
    lines = [line for line in text[:MOST_TEXT].splitlines() if line.strip()]
    cut = _cutter(lines)
    rows = [
        [cell.strip()[:MOST_CELL] for cell in cut(line)][:MOST_PASTED_COLUMNS] for line in lines
    ]
    width = max((len(row) for row in rows), default=0)
    rows = [row + [""] * (width - len(row)) for row in rows]
    headings = [""] * width
    if rows and not any(_is_figure(cell) for cell in rows[0]):
        headings, *rows = rows
    found: list[PastedColumn] = []
    for heading in headings:
        taken = {column.name for column in found}
        name = _name_of(heading)
        found.append(
            PastedColumn(
                heading=heading, name=None if name in taken else name, unit=_unit_of(heading, name)
            )
        )
    return Pasted(
        columns=tuple(found),
        rows=tuple(tuple(row) for row in rows[:MOST_ROWS]),
        left_out=max(len(rows) - MOST_ROWS, 0),
    )


def _cutter(lines: list[str]) -> Callable[[str], list[str]]:
    for mark in ("\t", ";"):
        if any(mark in line for line in lines):
            return lambda line: line.split(mark)
    # A comma between figures may be a decimal comma: "54,3" in most rows is one number.
    commas = [line for line in lines if "," in line]
    if commas and not all(re.search(r"\d,\d", line) for line in commas):
        return lambda line: line.split(",")
    if commas and sum(line.count(",") for line in commas) >= 3 * len(commas):
        return lambda line: line.split(",")
    return lambda line: re.split(r"\s{2,}|\t", line.strip())


def _is_figure(cell: str) -> bool:
    return bool(re.match(r"^[+\-−]?\d", cell))


def _name_of(heading: str) -> str | None:
    """The column that a heading means."""
    if heading.strip() in ENTRY_COLUMNS:
        return heading.strip()
    words = re.sub(r"[_\[\]()]", " ", heading)
    return next((name for pattern, name in _HEADINGS if pattern.search(words)), None)


def _unit_of(heading: str, name: str | None) -> str:
    """The unit that a heading names, if it is one of the column's kind."""
    column = ENTRY_COLUMNS.get(name or "")
    if column is None or column.kind is None or heading.strip() == name:
        return ""
    found = _UNIT.search(heading.strip())
    unit = (found[1] or found[2] or "") if found else ""
    return unit if unit.lower() in UNITS[column.kind] else ""
