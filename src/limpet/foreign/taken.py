"""A stranger's table as samples: its columns under Limpet's names, in the core's units, on the ride's time."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import datetime
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from limpet.errors import BundleError, Fault
from limpet.evidence.checks import outside
from limpet.evidence.columns import SAMPLE_COLUMNS
from limpet.foreign.checks import middle_of, running
from limpet.foreign.clock import Settled, settled
from limpet.foreign.figures import numbers
from limpet.foreign.moments import Written, offset_in, seconds_of
from limpet.foreign.quantities import CELL, IN_AH, IN_WH, KINDS, LEFT_AH, LEFT_WH, POWER
from limpet.foreign.raw import RawTable
from limpet.foreign.recipe import ColumnRead, LogMapping, TimeRead
from limpet.foreign.units import unit_of
from limpet.notices import Notice
from limpet.pack import PackSpec, knows_series
from limpet.units import SECONDS_PER_HOUR, factor_and_zero

if TYPE_CHECKING:
    import polars as pl

FloatArray = NDArray[np.float64]
#: Packs whose volts lie as near as this are side by side [-] (assumption).
_PARALLEL: Final = 0.06
#: Rows of values that no ride can have are left out up to this share; more, and the column is another's.
_MOST_ODD: Final = 0.02


@dataclass(frozen=True, slots=True, kw_only=True)
class Taken:
    """Samples as `evidence.streams.Stream` has them, when they began, and what was done to them."""

    samples: pl.DataFrame
    started_at: datetime | None
    notices: tuple[Notice, ...]
    began_anew: tuple[int, ...] = ()


def times_of(raw: RawTable, read: TimeRead) -> Settled:
    """The times of a table's rows.

    Raises
    ------
    BundleError
        When its column is not there, or holds no times.
    """
    import polars as pl

    cells = [_cells(raw, source) for source in read.sources]
    form = read.format.removeprefix("elapsed ")
    written = Written(form=read.form, unit=read.unit, format=form, zoned=read.zoned)
    if len(cells) == 2:
        first, second = (column.str.strip_chars() for column in cells)
        joined = pl.select(
            pl.concat_str([pl.lit(first), pl.lit(second)], separator=" ")
        ).to_series()
        seconds = seconds_of(joined, written, raw.decimal)
    else:
        seconds = seconds_of(cells[0], written, raw.decimal)
    repeats = None
    # Rows of one time tell a clock of whole seconds, where most rows share theirs with another.
    if (np.diff(seconds) <= 0).any() and len(np.unique(seconds)) > 0.7 * len(seconds):
        # Only rows of one time can say the same; of those the first stays.
        first = raw.cells.select(pl.struct(pl.all()).is_first_distinct()).to_series()
        repeats = ~first.to_numpy()
    elapsed = read.format.startswith("elapsed ")
    dated = read.form in ("epoch", "days", "text") and (
        read.form != "text" or "%d" in form or "%Y" in form
    )
    found = settled(
        raw.file,
        seconds,
        dated=dated,
        zoned=read.zoned or read.form == "epoch",
        of_day=read.form in ("clock", "day_share") and not elapsed,
        zone=read.zone,
        date=_day(read.date, whole=read.form in ("clock", "day_share") and not elapsed),
        repeats=repeats,
    )
    if read.zoned and read.form == "text" and found.started_at is not None:
        # As the first row says it, and not as UTC has it.
        own = offset_in(str(cells[-1][int(found.rows[0])] or ""))
        found = replace(found, started_at=found.started_at.astimezone(own))
    return found


def taken(raw: RawTable, mapping: LogMapping, pack: PackSpec | None = None) -> Taken:
    """Read a table as a mapping says.

    Parameters
    ----------
    raw : the table, or a sample of its rows
    mapping : which column is what
    pack : narrows volts to what its cells can have; None when not known

    Raises
    ------
    BundleError
        When a column is not there, holds no numbers, or holds what no ride can have.
    """
    with np.errstate(all="ignore"):
        return _taken(raw, mapping, pack)


def _taken(raw: RawTable, mapping: LogMapping, pack: PackSpec | None) -> Taken:
    import polars as pl

    if mapping.decimal is not None and mapping.decimal != raw.decimal:
        raw = replace(raw, decimal=mapping.decimal)
    found = times_of(raw, mapping.time)
    columns: dict[tuple[str, int | None, int | None], FloatArray] = {}
    faults: list[Fault] = []
    notices = [*raw.notices, *found.notices]
    for item in mapping.columns:
        values, odd = numbers(_cells(raw, item.source), raw.decimal)
        if np.isnan(values).all():
            faults.append(
                Fault(
                    raw.file,
                    0,
                    0,
                    f"{item.source} holds no numbers; leave it out, or choose another column",
                )
            )
            continue
        if odd:
            notices.append(Notice("words_for_numbers", file=raw.file, name=item.source, count=odd))
        columns[item.quantity, item.pack, item.cell] = _in_core(item, values)[found.rows]
    if faults:
        raise BundleError(faults)
    values_of = _joined(raw.file, columns, found.time_s, pack, notices)
    _leave_out_odd(raw.file, values_of, pack, notices)
    aside = [
        name
        for name in raw.names
        if name not in {c.source for c in mapping.columns} and name not in mapping.time.sources
    ]
    if aside:
        listed = ", ".join(aside[:12]) + ("…" if len(aside) > 12 else "")
        notices.append(Notice("columns_aside", file=raw.file, names=listed))
    frame = pl.DataFrame(
        {"time_s": found.time_s}
        | {name: values_of[name] for name in SAMPLE_COLUMNS if name in values_of}
    )
    frame = frame.with_columns(pl.col(name).fill_nan(None) for name in frame.columns[1:])
    return Taken(
        samples=frame,
        started_at=found.started_at,
        notices=tuple(notices),
        began_anew=found.began_anew,
    )


def _cells(raw: RawTable, source: str) -> pl.Series:
    if source not in raw.names:
        raise BundleError([Fault(raw.file, 0, 0, f"has no column '{source}'; choose another")])
    return raw.column(raw.names.index(source))


def _day(text: str | None, *, whole: bool) -> datetime | None:
    if text is None:
        return None
    try:
        day = datetime.fromisoformat(text)
    except ValueError:
        return None
    return day.replace(hour=0, minute=0, second=0, microsecond=0) if whole else day


def _in_core(item: ColumnRead, values: FloatArray) -> FloatArray:
    kind = KINDS[item.quantity]
    found = unit_of(item.unit, kind) if item.unit and kind is not None else None
    factor, zero = factor_and_zero(found[1], found[0]) if found is not None else (1.0, 0.0)
    scaled = item.sign * item.factor
    return (
        values if (scaled, factor, zero) == (1.0, 1.0, 0.0) else scaled * (factor * values + zero)
    )


def _joined(
    file: str,
    columns: Mapping[tuple[str, int | None, int | None], FloatArray],
    time_s: FloatArray,
    pack: PackSpec | None,
    notices: list[Notice],
) -> dict[str, FloatArray]:
    """One column for each name: packs together, cells summed, what is left turned into what was used."""
    by_name: dict[str, list[FloatArray]] = {}
    for (quantity, _, cell), values in columns.items():
        if quantity != CELL or cell is None:
            by_name.setdefault(quantity, []).append(values)
    cells = [values for (quantity, _, _), values in columns.items() if quantity == CELL]
    found: dict[str, FloatArray] = {}
    side_by_side = _side_by_side(by_name.get("voltage_v", []))
    for name, parts in by_name.items():
        if len(parts) == 1:
            found[name] = parts[0]
        elif name in ("voltage_v", "gauge", "speed_mps") or name.endswith("_c"):
            adds = name == "voltage_v" and not side_by_side
            found[name] = np.sum(parts, axis=0) if adds else np.mean(parts, axis=0)
        elif name == "cell_min_v":
            found[name] = np.min(parts, axis=0)
        else:
            in_row = not side_by_side and name in ("current_a", "charge_ah", LEFT_AH, IN_AH)
            found[name] = np.mean(parts, axis=0) if in_row else np.sum(parts, axis=0)
    if len(by_name.get("voltage_v", [])) > 1:
        notices.append(Notice("packs_together", file=file, count=len(by_name["voltage_v"])))
    if cells:
        stacked = np.stack(cells)
        found.setdefault("cell_min_v", np.min(stacked, axis=0))
        spread_v = middle_of(np.max(stacked, axis=0) - np.min(stacked, axis=0))
        notices.append(Notice("cells_logged", file=file, count=len(cells), spread_v=spread_v))
        complete = pack is None or not knows_series(pack) or pack.series == len(cells)
        if "voltage_v" not in found and complete and len(cells) > 2:
            found["voltage_v"] = np.sum(stacked, axis=0)
            notices.append(Notice("volts_from_cells", file=file, count=len(cells)))
    _from_power(file, found, time_s, notices)
    for base, left, back in (("charge_ah", LEFT_AH, IN_AH), ("energy_wh", LEFT_WH, IN_WH)):
        remaining, returned = found.pop(left, None), found.pop(back, None)
        if remaining is not None and base not in found:
            known = remaining[~np.isnan(remaining)]
            found[base] = (known[0] if len(known) else 0.0) - remaining
        if returned is not None and base in found:
            found[base] = found[base] - np.abs(returned - _first(returned))
            notices.append(Notice("returned_taken_off", file=file, name=base))
    return found


def _first(values: FloatArray) -> float:
    known = values[~np.isnan(values)]
    return float(known[0]) if len(known) else 0.0


def _side_by_side(volts: list[FloatArray]) -> bool:
    if len(volts) < 2:
        return True
    middles = [middle_of(each) for each in volts]
    return max(middles) - min(middles) < _PARALLEL * max(middles)


def _from_power(
    file: str, found: dict[str, FloatArray], time_s: FloatArray, notices: list[Notice]
) -> None:
    """Amps where volts and watts were logged; the sum of the watts where they stand alone."""
    power = found.pop(POWER, None)
    if power is None:
        return
    if "current_a" not in found and "voltage_v" in found:
        volts = found["voltage_v"]
        found["current_a"] = np.where(volts > 1, power / np.where(volts > 1, volts, 1.0), np.nan)
        notices.append(Notice("amps_from_watts", file=file))
    elif "current_a" not in found and "energy_wh" not in found and LEFT_WH not in found:
        found["energy_wh"] = running(time_s, power) / SECONDS_PER_HOUR
        notices.append(Notice("energy_from_watts", file=file))


def _leave_out_odd(
    file: str, found: dict[str, FloatArray], pack: PackSpec | None, notices: list[Notice]
) -> None:
    """Single values that no ride can have are dropped and counted; a column full of them is refused."""
    if "latitude_deg" in found and "longitude_deg" in found:
        # Without a fix a receiver says 0, 0.
        nowhere = (found["latitude_deg"] == 0) & (found["longitude_deg"] == 0)
        for name in ("latitude_deg", "longitude_deg"):
            found[name] = np.where(nowhere, np.nan, found[name])
    faults = []
    for odd in list(outside(SAMPLE_COLUMNS, found, pack)):
        size = len(found[odd.name])
        if len(odd.rows) > _MOST_ODD * size and len(odd.rows) > 5:
            faults.append(
                Fault(
                    file,
                    0,
                    0,
                    f"{odd.name} {odd.says(0)}; is its unit right? {len(odd.rows):,} rows are like it",
                )
            )
            continue
        values = found[odd.name].copy()
        values[odd.rows] = np.nan
        found[odd.name] = values
        notices.append(Notice("odd_values", file=file, name=odd.name, count=len(odd.rows)))
    if faults:
        raise BundleError(faults)
