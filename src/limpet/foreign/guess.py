"""What each column of a stranger's log is taken for, why, and how sure that is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from limpet.foreign.by_values import told_by_values
from limpet.foreign.candidate import CELL_V, SURE, Candidate, Chosen, FloatArray, middle
from limpet.foreign.checks import middle_of, running
from limpet.foreign.choosing import chosen_of
from limpet.foreign.clock import Settled
from limpet.foreign.counters import settle_counters
from limpet.foreign.electric import settle_amps, settle_cells, settle_volts
from limpet.foreign.figures import numbers, unit_of_cells
from limpet.foreign.quantities import Meaning, meaning_of
from limpet.foreign.raw import RawTable
from limpet.foreign.recipe import QUANTITIES, ColumnRead, LogMapping, TimeRead
from limpet.foreign.taken import times_of
from limpet.foreign.timing import time_read_of
from limpet.foreign.way import settle_way
from limpet.notices import Notice
from limpet.pack import PackSpec, knows_series
from limpet.units import METRES_PER_KM, SECONDS_PER_HOUR

if TYPE_CHECKING:
    import polars as pl

#: Watt-hours a kilometre of anything that Limpet is for, with room (assumption).
_WH_PER_KM: Final = (1.5, 250.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Guess:
    """What a column is taken for, None where it is left aside; `sure` is from 0 to 1."""

    number: int
    source: str
    read: ColumnRead | None
    sure: float
    why: tuple[Notice, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Look:
    """What a table is taken for: its time, its columns, and what is not sure of them."""

    time: TimeRead
    time_sure: float
    time_why: tuple[Notice, ...]
    columns: tuple[Guess, ...]
    unsure: tuple[Notice, ...]
    settled: Settled

    @property
    def sure(self) -> bool:
        """Whether nothing of it needs to be asked about."""
        return not self.unsure

    def mapping(self, instrument: str, raw: RawTable) -> LogMapping:
        """The guesses as a mapping."""
        return LogMapping(
            instrument=instrument,
            time=self.time,
            columns=tuple(guess.read for guess in self.columns if guess.read is not None),
            headings=raw.names,
            unit_row=raw.units if any(raw.units) else (),
            decimal="," if raw.decimal == "," else ".",
        )


def look_at(
    raw: RawTable,
    *,
    pack: PackSpec | None = None,
    zone: str | None = None,
    day: datetime | None = None,
) -> Look:
    """Guess what a table's columns are.

    Parameters
    ----------
    raw : the table, or a sample of its rows
    pack : whose volts they may be
    zone : the time zone of a clock that says none
    day : of a clock without a date, where the rider or the file's name says it

    Raises
    ------
    BundleError
        When no column can be the time.
    """
    # Numbers that no logger writes overflow; what comes of them is odd, and is told so.
    with np.errstate(all="ignore"):
        return _looked_at(raw, pack=pack, zone=zone, day=day)


def _looked_at(
    raw: RawTable, *, pack: PackSpec | None, zone: str | None, day: datetime | None
) -> Look:
    meanings = [
        meaning_of(name, unit or unit_of_cells(raw.column(at)))
        for at, (name, unit) in enumerate(zip(raw.names, raw.units, strict=True))
    ]
    timed = time_read_of(raw, meanings, zone=zone, day=day)
    found = times_of(raw, timed.read)
    unsure: list[Notice] = list(timed.unsure)
    if raw.headed:
        candidates = _told_by_names(raw, meanings, timed.read, found.rows)
    else:
        candidates = told_by_values(raw, timed.read, found.rows, found.time_s, pack)
        unsure.append(Notice("look_no_heading"))
    chosen = chosen_of(candidates, unsure)
    _settle_units(chosen, found.time_s, pack, unsure)
    if raw.decimal_unsure:
        unsure.append(Notice("look_decimal", mark="comma"))
    if not chosen:
        unsure.append(Notice("look_nothing"))
    kept = {item.number: item for item in chosen}
    return Look(
        time=timed.read,
        time_sure=timed.sure,
        time_why=timed.why,
        columns=tuple(_guess(at, name, kept.get(at)) for at, name in enumerate(raw.names)),
        unsure=tuple(dict.fromkeys(unsure)),
        settled=found,
    )


def _told_by_names(
    raw: RawTable, meanings: Sequence[Meaning], time: TimeRead, rows: NDArray[np.intp]
) -> list[Candidate]:
    """The columns whose heading or unit says something, and whose cells are mostly numbers."""
    candidates = []
    for at, (name, meaning) in enumerate(zip(raw.names, meanings, strict=True)):
        if name in time.sources or meaning.quantity not in QUANTITIES:
            continue
        values, odd = numbers(raw.column(at), raw.decimal)
        if np.isnan(values[rows]).all() or odd > 0.5 * len(values):
            continue
        candidate = Candidate(at, name, meaning, values[rows])
        candidate.why.append(
            Notice("look_by_unit", unit=meaning.unit) if meaning.by_unit else Notice("look_by_name")
        )
        candidate.sure = max(meaning.plain, 0.85) if meaning.plain >= 0.7 else meaning.plain
        candidates.append(candidate)
    return candidates


def _guess(number: int, name: str, item: Candidate | None) -> Guess:
    if item is None:
        return Guess(number=number, source=name, read=None, sure=1.0)
    read = ColumnRead(
        source=name,
        quantity=QUANTITIES[item.quantity],
        unit=item.unit,
        factor=item.factor,
        sign=1 if item.sign > 0 else -1,
        pack=item.meaning.pack,
        cell=item.meaning.cell,
    )
    return Guess(number=number, source=name, read=read, sure=item.sure, why=tuple(item.why))


def _settle_units(
    chosen: list[Candidate], time_s: FloatArray, pack: PackSpec | None, unsure: list[Notice]
) -> None:
    """Units, parts of units and signs, each by its name and held against the others."""
    of = Chosen(chosen)
    for item in chosen:
        item.unit = item.meaning.unit
    settle_cells(of, pack, unsure)
    settle_volts(of, pack, unsure)
    settle_amps(of, time_s, unsure)
    settle_counters(of, time_s, unsure)
    settle_way(of, time_s, unsure)
    _settle_rest(of, unsure)
    _settle_whole(of, time_s, unsure)


def pack_doubt(samples: pl.DataFrame, pack: PackSpec | None) -> Notice | None:
    """What is to be asked where a log's volts are none of the pack's; None where they may be."""
    if pack is None or not knows_series(pack) or "voltage_v" not in samples.columns:
        return None
    middle = middle_of(samples["voltage_v"].to_numpy().astype(np.float64))
    if CELL_V[0] * pack.series <= middle <= CELL_V[1] * pack.series or np.isnan(middle):
        return None
    return Notice("look_other_pack", series=pack.series, voltage_v=middle)


def _settle_rest(of: Chosen, unsure: list[Notice]) -> None:
    for item in of("gauge"):
        high = float(np.nanmax(item.values, initial=0.0))
        item.unit = ""
        if 0 < high <= 1.0 and np.any(item.values[~np.isnan(item.values)] % 1):
            item.factor = 100.0
            item.why.append(Notice("look_size", value=high))
    for name in ("battery_temp_c", "motor_temp_c", "controller_temp_c"):
        for item in of(name):
            if item.meaning.plain < SURE:
                item.why.append(Notice("look_some_temperature"))
                item.sure = 0.85
            if not item.meaning.unit and middle(item.values) > 1000:
                item.factor = 0.1
    for item in of("altitude_m"):
        if abs(middle(item.values)) > 9000:
            item.sure = 0.4
            unsure.append(Notice("look_odd_size", name=item.source, value=middle(item.values)))


def _settle_whole(of: Chosen, time_s: FloatArray, unsure: list[Notice]) -> None:
    """The whole against what any ride is: watt-hours a kilometre."""
    volts, amps = of.volts(), of.total("current_a")
    way = next(iter(of("distance_m")), None)
    speed = next(iter(of("speed_mps")), None)
    if volts is None or amps is None:
        return
    if way is not None:
        values = way.si()
        km = float(np.nanmax(values) - np.nanmin(values)) / METRES_PER_KM
    elif speed is not None:
        km = float(running(time_s, speed.si())[-1]) / METRES_PER_KM
    else:
        return
    energy_wh = float(running(time_s, volts * amps)[-1]) / SECONDS_PER_HOUR
    if km > 0.3 and not _WH_PER_KM[0] <= energy_wh / km <= _WH_PER_KM[1]:
        unsure.append(Notice("look_odd_consumption", wh_per_km=energy_wh / km))
