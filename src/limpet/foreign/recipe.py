"""How a log's columns are read: what is kept of an instrument, and written as a mapping file."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Any, Final, Literal, get_args

from pydantic import Field

from limpet.bounds import MOST_NAME
from limpet.foreign.layout import MOST_COLUMNS
from limpet.foreign.moments import Form

Quantity = Literal[
    "voltage_v", "current_a", "power_w", "charge_ah", "charge_left_ah", "charged_ah", "energy_wh", "energy_left_wh",
    "charged_wh", "speed_mps", "distance_m", "latitude_deg", "longitude_deg", "altitude_m", "battery_temp_c",
    "motor_temp_c", "controller_temp_c", "cell_v", "cell_min_v", "gauge",
]  # fmt: skip
#: Each by its own name.
QUANTITIES: Final[dict[str, Quantity]] = {name: name for name in get_args(Quantity)}
_Heading = Annotated[str, Field(min_length=1, max_length=120)]
_Unit = Annotated[str, Field(max_length=20)]


@dataclass(frozen=True, slots=True, kw_only=True)
class ColumnRead:
    """One column: `value = sign × factor × (in its unit, made the core's)`.

    `source` is the column's heading in the file, "column 3" where it has none. `pack` and `cell` count from 1.
    """

    source: _Heading
    quantity: Quantity
    unit: _Unit = ""
    factor: Annotated[float, Field(gt=0, le=1e9, allow_inf_nan=False)] = 1.0
    sign: Literal[1, -1] = 1
    pack: Annotated[int, Field(ge=1, le=8)] | None = None
    cell: Annotated[int, Field(ge=0, le=64)] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class TimeRead:
    """Where the time stands: in one column, or a date's and a clock's.

    `form` is how it is written (`moments.Form`), `format` its pattern where it is text, `zone` the time zone of
    a clock that says none, `date` the day of a clock without one, or when a counter of seconds began.
    """

    sources: Annotated[tuple[_Heading, ...], Field(min_length=1, max_length=2)]
    form: Form
    unit: Literal["ns", "us", "ms", "s", "min", "h", "d"] = "s"
    format: Annotated[str, Field(max_length=60)] = ""
    zoned: bool = False
    zone: Annotated[str, Field(max_length=60)] | None = None
    date: Annotated[str, Field(max_length=40)] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class LogMapping:
    """How one instrument's tables are read. `headings` are those of the file that it was made from."""

    limpet_mapping: Literal[1] = 1
    instrument: Annotated[str, Field(min_length=1, max_length=MOST_NAME)]
    time: TimeRead
    columns: Annotated[tuple[ColumnRead, ...], Field(max_length=MOST_COLUMNS)]
    headings: Annotated[tuple[_Heading, ...], Field(max_length=MOST_COLUMNS)] = ()
    unit_row: Annotated[tuple[_Unit, ...], Field(max_length=MOST_COLUMNS)] = ()
    decimal: Literal[".", ","] | None = None


def heading_digest(names: Sequence[str], units: Sequence[str] = ()) -> str:
    """The same for every table with the same headings, in the same order."""
    text = "\x1f".join((*names, *units))
    return hashlib.sha256(text.encode("utf-8")).hexdigest()


#: The mapping as JSON is read and written.
FILE: Final = "mapping.json"


def mapping_faults(mapping: LogMapping) -> list[tuple[tuple[str | int, ...], str]]:
    """What no single field can show: a column twice, a unit of another kind."""
    from limpet.foreign.quantities import KINDS
    from limpet.foreign.units import unit_of

    faults: list[tuple[tuple[str | int, ...], str]] = []
    seen: set[tuple[Any, ...]] = set()
    for number, item in enumerate(mapping.columns):
        key = (item.quantity, item.pack, item.cell)
        if key in seen:
            faults.append(
                (
                    ("columns", number, "quantity"),
                    f"is {item.quantity} a second time; choose one column for it",
                )
            )
        seen.add(key)
        kind = KINDS[item.quantity]
        if item.unit and (kind is None or unit_of(item.unit, kind) is None):
            faults.append(
                (
                    ("columns", number, "unit"),
                    f"'{item.unit}' is no unit of {item.quantity}; leave it empty for the core's own",
                )
            )
    return faults
