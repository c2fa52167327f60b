"""What each column of a stranger's log is taken for, why, and how sure that is."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.checks import counts_backwards
from limpet.foreign.checks import (
    mean_over,
    middle_of,
    path_m,
    product_ratio,
    running,
    slope_of,
)
from limpet.foreign.clock import Settled
from limpet.foreign.figures import numbers, unit_of_cells
from limpet.foreign.quantities import (
    CELL,
    IN_AH,
    IN_WH,
    KINDS,
    LEFT_AH,
    LEFT_WH,
    POWER,
    Meaning,
    meaning_of,
)
from limpet.foreign.raw import RawTable
from limpet.foreign.recipe import ColumnRead, LogMapping, TimeRead
from limpet.foreign.taken import times_of
from limpet.foreign.timing import time_read_of
from limpet.foreign.units import unit_of
from limpet.notices import Notice
from limpet.pack import PackSpec, knows_series
from limpet.units import SECONDS_PER_HOUR, factor_and_zero

if TYPE_CHECKING:
    import polars as pl

FloatArray = NDArray[np.float64]
#: A guess that is as sure as this is not asked about.
SURE: Final = 0.8
#: Volts of a small vehicle's pack, and of a cell in use [V] (common practice, no source).
_PACK_V, _CELL_V = (9.0, 130.0), (1.5, 4.6)
#: Amps that such a vehicle mostly draws while it draws any [A] (assumption).
_AMPS: Final = (0.02, 400.0)
#: Watt-hours a kilometre of anything that Limpet is for, with room (assumption).
_WH_PER_KM: Final = (1.5, 250.0)
#: What a meter's sum may differ from its own readings' [-] (assumption: a logger's row is a moment).
_NEAR: Final = 0.12
#: What is tried where a heading names no unit: the units, or the parts of one that a logger counts in.
_TRIED: Final[dict[str, tuple[tuple[str, float], ...]]] = {
    "voltage_v": (("", 1.0), ("", 0.1), ("", 0.01), ("mV", 1.0)),
    "current_a": (("", 1.0), ("", 0.1), ("", 0.01), ("mA", 1.0)),
    POWER: (("", 1.0), ("kW", 1.0)),
    "charge_ah": (("", 1.0), ("mAh", 1.0)),
    LEFT_AH: (("", 1.0), ("mAh", 1.0)),
    IN_AH: (("", 1.0), ("mAh", 1.0)),
    "energy_wh": (("", 1.0), ("kWh", 1.0)),
    LEFT_WH: (("", 1.0), ("kWh", 1.0)),
    IN_WH: (("", 1.0), ("kWh", 1.0)),
    "speed_mps": (("km/h", 1.0), ("mph", 1.0), ("m/s", 1.0)),
    "distance_m": (("km", 1.0), ("mi", 1.0), ("m", 1.0)),
    CELL: (("", 1.0), ("mV", 1.0)),
    "cell_min_v": (("", 1.0), ("mV", 1.0)),
}


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


@dataclass(slots=True)
class _Candidate:
    number: int
    source: str
    meaning: Meaning
    values: FloatArray
    unit: str = ""
    factor: float = 1.0
    sign: int = 1
    sure: float = 0.0
    why: list[Notice] = field(default_factory=list)

    @property
    def quantity(self) -> str:
        return self.meaning.quantity or ""

    def si(self) -> FloatArray:
        """In the core's unit."""
        kind = KINDS[self.quantity]
        factor, zero = (
            (1.0, 0.0) if kind is None or not self.unit else _unit_factor(self.unit, kind)
        )
        return self.sign * (self.factor * (factor * self.values + zero))


def _unit_factor(unit: str, kind: str) -> tuple[float, float]:
    found = unit_of(unit, kind)  # type: ignore[arg-type]
    return factor_and_zero(found[1], found[0]) if found is not None else (1.0, 0.0)


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
    rows = found.rows
    candidates: list[_Candidate] = []
    for at, meaning in enumerate(meanings):
        if raw.names[at] in timed.read.sources or meaning.quantity in (
            None,
            "clock",
            "date",
            "elapsed",
        ):
            continue
        values, odd = numbers(raw.column(at), raw.decimal)
        if np.isnan(values[rows]).all() or odd > 0.5 * len(values):
            continue
        candidate = _Candidate(at, raw.names[at], meaning, values[rows])
        candidate.why.append(
            Notice("look_by_unit", unit=meaning.unit) if meaning.by_unit else Notice("look_by_name")
        )
        candidate.sure = max(meaning.plain, 0.85) if meaning.plain >= 0.7 else meaning.plain
        candidates.append(candidate)
    unsure: list[Notice] = list(timed.unsure)
    if not raw.headed:
        candidates = _by_values(raw, timed.read, rows, found.time_s, pack)
        unsure.append(Notice("look_no_heading"))
    chosen = _chosen(candidates, unsure)
    _settle_units(chosen, found.time_s, pack, unsure)
    if raw.decimal_unsure:
        unsure.append(Notice("look_decimal", mark="comma"))
    guesses = []
    kept = {item.number: item for item in chosen}
    for at, name in enumerate(raw.names):
        item = kept.get(at)
        if item is None:
            guesses.append(Guess(number=at, source=name, read=None, sure=1.0))
            continue
        read = ColumnRead(
            source=name,
            quantity=item.quantity,  # type: ignore[arg-type]
            unit=item.unit,
            factor=item.factor,
            sign=1 if item.sign > 0 else -1,
            pack=item.meaning.pack,
            cell=item.meaning.cell,
        )
        guesses.append(
            Guess(number=at, source=name, read=read, sure=item.sure, why=tuple(item.why))
        )
    if not any(guess.read is not None for guess in guesses):
        unsure.append(Notice("look_nothing"))
    return Look(
        time=timed.read,
        time_sure=timed.sure,
        time_why=timed.why,
        columns=tuple(guesses),
        unsure=tuple(dict.fromkeys(unsure)),
        settled=found,
    )


_OWN: Final = re.compile(r"batt|pack|akku|bms|accu|total|gesamt|bateria|batteri|sum\b|bus|input|trip|wheel|used|consumed|discharged|verbrauch|entladen", re.I)  # fmt: skip
_SECOND: Final = re.compile(r"gps|odo|total km|kilometerstand|shunt|raw|filtered|2\b", re.I)


def _chosen(candidates: Sequence[_Candidate], unsure: list[Notice]) -> list[_Candidate]:
    """One column for each quantity (and each pack or cell), the plainest and most lively."""
    places: dict[tuple[str, int | None, int | None], list[_Candidate]] = {}
    for item in candidates:
        places.setdefault((item.quantity, item.meaning.pack, item.meaning.cell), []).append(item)
    chosen = []
    for rivals in places.values():
        if len(rivals) == 1:
            chosen.append(rivals[0])
            continue
        ranked = sorted(rivals, key=_rank, reverse=True)
        best, second = ranked[:2]
        if _rank(best) - _rank(second) < 0.04 and not _alike(best.values, second.values):
            best.sure = min(best.sure, 0.6)
            unsure.append(Notice("look_two", name=best.source, other=second.source))
        best.why.append(Notice("look_of_several", count=len(rivals)))
        chosen.append(best)
    return _packs_or_whole(chosen)


def _rank(item: _Candidate) -> float:
    known = item.values[~np.isnan(item.values)]
    lively = 0.0 if len(known) == 0 or np.ptp(known) == 0 else 0.3
    own = 0.1 if _OWN.search(item.source) else 0.0
    second = 0.15 if _SECOND.search(item.source) else 0.0
    filled = 0.1 * len(known) / max(len(item.values), 1)
    return item.meaning.plain + lively + own - second + filled


def _alike(one: FloatArray, other: FloatArray) -> bool:
    both = ~(np.isnan(one) | np.isnan(other))
    if both.sum() < 2:
        return False
    size = float(np.max(np.abs(one[both]))) or 1.0
    return float(np.mean(np.abs(one[both] - other[both]))) < 0.02 * size


def _packs_or_whole(chosen: list[_Candidate]) -> list[_Candidate]:
    """Columns of single packs are left where one of the whole says the same; a lone pack is the whole."""
    of_whole = {item.quantity for item in chosen if item.meaning.pack is None}
    packs: dict[str, set[int]] = {}
    for item in chosen:
        if item.meaning.pack is not None:
            packs.setdefault(item.quantity, set()).add(item.meaning.pack)
    kept = []
    for item in chosen:
        if item.meaning.pack is not None:
            if item.quantity in of_whole and item.quantity != CELL:
                continue
            if len(packs[item.quantity]) == 1:
                item.meaning = replace(item.meaning, pack=None)
        kept.append(item)
    return kept


def _settle_units(
    chosen: list[_Candidate], time_s: FloatArray, pack: PackSpec | None, unsure: list[Notice]
) -> None:
    """Units, parts of units and signs, each by its name and held against the others."""
    of = _Of(chosen)
    for item in chosen:
        item.unit = item.meaning.unit
    _settle_cells(of, pack, unsure)
    _settle_volts(of, pack, unsure)
    _settle_amps(of, time_s, unsure)
    _settle_counters(of, time_s, unsure)
    _settle_way(of, time_s, unsure)
    _settle_rest(of, unsure)
    _settle_whole(of, time_s, unsure)


def pack_doubt(samples: pl.DataFrame, pack: PackSpec | None) -> Notice | None:
    """What is to be asked where a log's volts are none of the pack's; None where they may be."""
    if pack is None or not knows_series(pack) or "voltage_v" not in samples.columns:
        return None
    middle = middle_of(samples["voltage_v"].to_numpy().astype(np.float64))
    if _CELL_V[0] * pack.series <= middle <= _CELL_V[1] * pack.series or np.isnan(middle):
        return None
    return Notice("look_other_pack", series=pack.series, voltage_v=middle)


class _Of:
    """The chosen columns by what they are."""

    def __init__(self, chosen: list[_Candidate]) -> None:
        self.all = chosen

    def __call__(self, quantity: str) -> list[_Candidate]:
        return [item for item in self.all if item.quantity == quantity]

    def total(self, quantity: str) -> FloatArray | None:
        """The sum over packs, in the core's unit."""
        items = self(quantity)
        return np.sum([item.si() for item in items], axis=0) if items else None

    def volts(self) -> FloatArray | None:
        """The mean over packs."""
        items = self("voltage_v")
        return mean_over([item.si() for item in items]) if items else None


def _middle(values: FloatArray) -> float:
    known = np.abs(values[~np.isnan(values)])
    known = known[known > 0]
    return float(np.median(known)) if len(known) else 0.0


def _in_span(item: _Candidate, span: tuple[float, float]) -> bool:
    return span[0] <= _middle(item.si()) <= span[1]


def _try_sizes(item: _Candidate, span: tuple[float, float]) -> list[tuple[str, float]]:
    """The units and parts under which a column's middle lies within a span, the named one first."""
    found = []
    named = [(item.meaning.unit, 1.0), (item.meaning.unit, 0.1), (item.meaning.unit, 0.01)]
    tried = _TRIED[item.quantity]
    for unit, factor in (*named, *tried) if item.meaning.unit else tried:
        item.unit, item.factor = unit, factor
        if _in_span(item, span) and (unit, factor) not in found:
            found.append((unit, factor))
    return found


def _settle_cells(of: _Of, pack: PackSpec | None, unsure: list[Notice]) -> None:
    for item in (*of(CELL), *of("cell_min_v")):
        fits = _try_sizes(item, _CELL_V)
        if not fits:
            item.unit, item.factor, item.sure = item.meaning.unit, 1.0, 0.4
            unsure.append(Notice("look_odd_size", name=item.source, value=_middle(item.values)))
            continue
        item.unit, item.factor = fits[0]
        item.why.append(Notice("look_cell"))


def _settle_volts(of: _Of, pack: PackSpec | None, unsure: list[Notice]) -> None:
    span = _PACK_V
    known = pack is not None and knows_series(pack)
    if pack is not None and known:
        span = (_CELL_V[0] * pack.series, _CELL_V[1] * pack.series)
    cells = of(CELL)
    for item in of("voltage_v"):
        fits = _try_sizes(item, span)
        if item.meaning.unit and not fits and not known:
            fits = _try_sizes(item, (4.0, 800.0))
        if not fits:
            item.unit, item.factor, item.sure = item.meaning.unit, 1.0, 0.4
            unsure.append(Notice("look_odd_size", name=item.source, value=_middle(item.values)))
            continue
        item.unit, item.factor = fits[0]
        if known and pack is not None:
            item.why.append(Notice("look_pack", series=pack.series))
        if len(cells) > 3:
            summed = np.sum([cell.si() for cell in cells], axis=0)
            for unit, factor in fits:
                item.unit, item.factor = unit, factor
                ratio = middle_of(summed / np.where(item.si() > 0, item.si(), np.nan))
                if abs(ratio - 1) < 0.03:
                    item.why.append(Notice("look_cells_sum", count=len(cells)))
                    item.sure = 0.99
                    break
            else:
                item.unit, item.factor = fits[0]
        elif len(fits) > 1 and not item.meaning.unit:
            # A bare 120 may be volts, or tenths of a volt.
            item.sure = min(item.sure, 0.9 if fits[0] == ("", 1.0) else 0.7)
        if (item.unit, item.factor) != (item.meaning.unit, 1.0):
            item.why.append(Notice("look_size", value=_middle(item.values)))
            if not known and len(cells) < 4 and len(fits) > 1:
                unsure.append(Notice("look_unit_unsure", name=item.source))
                item.sure = min(item.sure, 0.7)


def _settle_amps(of: _Of, time_s: FloatArray, unsure: list[Notice]) -> None:
    """Amps and watts, by each other and by the amp-hours."""
    volts = of.volts()
    powers = of(POWER)
    for power in powers:
        if (
            not power.unit
            and power.values.size
            and _middle(power.values) < 12
            and np.nanmax(np.abs(power.values)) < 30
        ):
            power.unit = "kW"
    for item in of("current_a"):
        named = bool(item.meaning.unit)
        tries = (
            [(item.meaning.unit, 1.0), (item.meaning.unit, 0.1), (item.meaning.unit, 0.01)]
            if named
            else _TRIED["current_a"]
        )
        settled = False
        beside = next((p for p in powers if p.meaning.pack == item.meaning.pack), None)
        if beside is not None and volts is not None:
            for unit, factor in tries:
                item.unit, item.factor = unit, factor
                for power_unit in dict.fromkeys(
                    [beside.unit, *([] if beside.meaning.unit else ["", "kW"])]
                ):
                    beside.unit = power_unit
                    ratio, near = product_ratio(beside.si(), volts, item.si())
                    if not (_AMPS[0] < _middle(item.si()) < _AMPS[1]):
                        continue
                    if abs(abs(ratio) - 1) < _NEAR and near > 0.6:
                        settled = True
                        break
                if settled:
                    break
            if settled:
                item.why.append(Notice("look_product"))
                beside.why.append(Notice("look_product"))
                item.sure = beside.sure = max(item.sure, 0.97)
            else:
                item.unit, item.factor = tries[0]
                beside.unit = beside.meaning.unit
                beside.sure = min(beside.sure, 0.7)
        if not settled:
            settled = _amps_by_charge(of, item, tries, time_s)
        if not settled:
            item.unit, item.factor = tries[0]
            high = float(np.nanmax(np.abs(item.si()), initial=0.0))
            if not named and high > 500:
                item.unit, item.factor = ("mA", 1.0) if high > 5000 else ("", 0.1)
                item.sure = min(item.sure, 0.6)
                unsure.append(Notice("look_unit_unsure", name=item.source))
            elif high > 2000:
                item.sure = 0.4
                unsure.append(Notice("look_odd_size", name=item.source, value=high))
    amps = of.total("current_a")
    if amps is not None and counts_backwards(time_s, amps):
        for item in of("current_a"):
            item.sign = -1
            item.why.append(Notice("look_backwards"))
    elif amps is None and powers and counts_backwards(time_s, of.total(POWER)):  # type: ignore[arg-type]
        for item in powers:
            item.sign = -1
            item.why.append(Notice("look_backwards"))


def _amps_by_charge(
    of: _Of, item: _Candidate, tries: Sequence[tuple[str, float]], time_s: FloatArray
) -> bool:
    """Whether the amp-hours, where their unit is named, say what the amps are counted in."""
    charges = [c for c in (*of("charge_ah"), *of(LEFT_AH)) if c.meaning.pack == item.meaning.pack]
    for charge in charges:
        if not (charge.meaning.unit or item.meaning.unit):
            continue
        for unit, factor in tries:
            item.unit, item.factor = unit, factor
            summed = running(time_s, item.si()) / SECONDS_PER_HOUR
            slope, straight = slope_of(charge.si(), summed)
            if abs(abs(slope) - 1) < _NEAR and straight > 0.9:
                item.why.append(Notice("look_sum", of=charge.source))
                item.sure = max(item.sure, 0.95)
                return True
    return False


def _settle_counters(of: _Of, time_s: FloatArray, unsure: list[Notice]) -> None:
    """Amp-hours and watt-hours as the running sums of amps and watts: unit, and which way they count."""
    volts, amps, power = of.volts(), of.total("current_a"), of.total(POWER)
    watts = volts * amps if volts is not None and amps is not None else power
    sums = {
        "charge_ah": None if amps is None else running(time_s, amps) / SECONDS_PER_HOUR,
        "energy_wh": None if watts is None else running(time_s, watts) / SECONDS_PER_HOUR,
    }
    for base, others in (("charge_ah", (LEFT_AH, IN_AH)), ("energy_wh", (LEFT_WH, IN_WH))):
        for item in (*of(base), *(each for name in others for each in of(name))):
            _settle_counter(item, base, sums[base], unsure)


def _settle_counter(
    item: _Candidate, base: str, summed: FloatArray | None, unsure: list[Notice]
) -> None:
    named = item.meaning.unit
    tries = ((named, 1.0),) if named else _TRIED[item.quantity]
    item.unit, item.factor = tries[0]
    gained = _gained(item.values)
    returned = item.quantity in (IN_AH, IN_WH)
    if summed is not None and not returned and np.any(gained):
        for unit, factor in tries:
            item.unit, item.factor = unit, factor
            slope, straight = slope_of(item.si(), summed)
            if straight > 0.85 and abs(abs(slope) - 1) < (0.3 if named else 0.25):
                item.why.append(Notice("look_sum", of="amps" if base == "charge_ah" else "watts"))
                item.sure = max(item.sure, 0.95)
                falls = slope < 0
                if falls and item.quantity in ("charge_ah", "energy_wh"):
                    item.meaning = replace(
                        item.meaning, quantity=LEFT_AH if base == "charge_ah" else LEFT_WH
                    )
                    item.why.append(Notice("look_falls"))
                return
        item.unit, item.factor = tries[0]
        slope, _ = slope_of(item.si(), summed)
        if abs(item.si()[~np.isnan(item.si())]).max(initial=0.0) > 0:
            item.sure = 0.5
            unsure.append(Notice("look_not_the_sum", name=item.source))
    elif not named:
        high = float(np.nanmax(np.abs(item.values), initial=0.0))
        if base == "charge_ah" and high > 300:
            item.unit, item.sure = "mAh", min(item.sure, 0.85)
        elif base == "energy_wh" and 0 < high < 12 and not float(high).is_integer():
            item.unit, item.sure = "kWh", 0.5
            unsure.append(Notice("look_unit_unsure", name=item.source))
    if summed is None and item.quantity in ("charge_ah", "energy_wh") and _falls(item.values):
        item.meaning = replace(item.meaning, quantity=LEFT_AH if base == "charge_ah" else LEFT_WH)
        item.why.append(Notice("look_falls"))


def _gained(values: FloatArray) -> FloatArray:
    known = values[~np.isnan(values)]
    return known - known[0] if len(known) else known


def _falls(values: FloatArray) -> bool:
    known = values[~np.isnan(values)]
    steps = np.diff(known)
    return len(known) > 3 and known[-1] < known[0] and bool((steps <= 0).mean() > 0.8)


def _settle_way(of: _Of, time_s: FloatArray, unsure: list[Notice]) -> None:
    """Speed and distance by each other, and by the track where there is one."""
    lat, lon = next(iter(of("latitude_deg")), None), next(iter(of("longitude_deg")), None)
    for place in (lat, lon):
        if place is not None and _middle(place.values) > 400:
            place.factor = 1e-7
            place.why.append(Notice("look_size", value=_middle(place.values)))
    track = path_m(lat.si(), lon.si()) if lat is not None and lon is not None else None
    speed, distance = next(iter(of("speed_mps")), None), next(iter(of("distance_m")), None)
    if distance is not None:
        tries = (
            [(distance.meaning.unit, 1.0)] if distance.meaning.unit else list(_TRIED["distance_m"])
        )
        _fit_to(distance, tries, track, "the track", 0.15)
    if speed is not None:
        tries = [(speed.meaning.unit, 1.0)] if speed.meaning.unit else list(_TRIED["speed_mps"])
        come = (
            distance.si()
            if distance is not None and (distance.meaning.unit or distance.sure > 0.9)
            else track
        )
        _fit_speed(
            speed, tries, come, time_s, distance.source if distance is not None else "the track"
        )
    if distance is not None and not distance.meaning.unit and distance.sure < 0.9:
        if speed is not None and (speed.meaning.unit or speed.sure > 0.9):
            summed = running(time_s, speed.si())
            _fit_to(distance, list(_TRIED["distance_m"]), summed, speed.source, 0.15)
        else:
            _by_size_of_way(distance, speed, time_s)
    for item in (speed, distance):
        if item is not None and not item.meaning.unit and item.sure < 0.9:
            item.sure = min(item.sure, 0.6)
            unsure.append(Notice("look_unit_unsure", name=item.source))
        elif item is not None and item.sure < SURE:
            unsure.append(Notice("look_way_apart", name=item.source))


def _fit_to(
    item: _Candidate,
    tries: Sequence[tuple[str, float]],
    come: FloatArray | None,
    called: str,
    near: float,
) -> None:
    """The unit under which a distance gains what another way of measuring it does."""
    item.unit, item.factor = tries[0]
    if come is None or come[-1] - come[0] < 200:
        return
    for unit, factor in tries:
        item.unit, item.factor = unit, factor
        slope, straight = slope_of(item.si(), come)
        if abs(slope - 1) < near and straight > 0.95:
            item.sure = max(item.sure, 0.95)
            item.why.append(Notice("look_slope", of=called))
            return
    item.unit, item.factor = tries[0]
    item.sure = min(item.sure, 0.5)


def _fit_speed(
    item: _Candidate,
    tries: Sequence[tuple[str, float]],
    come: FloatArray | None,
    time_s: FloatArray,
    called: str,
) -> None:
    item.unit, item.factor = tries[0]
    if come is None or np.nanmax(come) - np.nanmin(come) < 200:
        return
    for unit, factor in tries:
        item.unit, item.factor = unit, factor
        slope, straight = slope_of(come, running(time_s, item.si()))
        if abs(slope - 1) < 0.2 and straight > 0.95:
            item.sure = max(item.sure, 0.95)
            item.why.append(Notice("look_slope", of=called))
            return
    item.unit, item.factor = tries[0]
    item.sure = min(item.sure, 0.5)


def _by_size_of_way(distance: _Candidate, speed: _Candidate | None, time_s: FloatArray) -> None:
    """Metres, where the mean speed in kilometres would be no vehicle's."""
    gained = float(np.nanmax(distance.values) - np.nanmin(distance.values))
    hours = float(time_s[-1] - time_s[0]) / SECONDS_PER_HOUR
    if hours > 0 and gained / hours > 400:
        distance.unit, distance.factor = "m", 1.0
        distance.sure = max(distance.sure, 0.9)
        distance.why.append(Notice("look_size", value=gained))
        if speed is not None and not speed.meaning.unit:
            _fit_speed(speed, list(_TRIED["speed_mps"]), distance.si(), time_s, distance.source)


def _settle_rest(of: _Of, unsure: list[Notice]) -> None:
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
            if not item.meaning.unit and _middle(item.values) > 1000:
                item.factor = 0.1
    for item in of("altitude_m"):
        if abs(_middle(item.values)) > 9000:
            item.sure = 0.4
            unsure.append(Notice("look_odd_size", name=item.source, value=_middle(item.values)))


def _settle_whole(of: _Of, time_s: FloatArray, unsure: list[Notice]) -> None:
    """The whole against what any ride is: watt-hours a kilometre."""
    volts, amps = of.volts(), of.total("current_a")
    way = next(iter(of("distance_m")), None)
    speed = next(iter(of("speed_mps")), None)
    if volts is None or amps is None or (way is None and speed is None):
        return
    energy_wh = float(running(time_s, volts * amps)[-1]) / SECONDS_PER_HOUR
    if way is not None:
        values = way.si()
        km = float(np.nanmax(values) - np.nanmin(values)) / 1000
    else:
        km = float(running(time_s, speed.si())[-1]) / 1000  # type: ignore[union-attr]
    if km > 0.3 and not _WH_PER_KM[0] <= energy_wh / km <= _WH_PER_KM[1]:
        unsure.append(Notice("look_odd_consumption", wh_per_km=energy_wh / km))


def _by_values(
    raw: RawTable,
    time: TimeRead,
    rows: NDArray[np.intp],
    time_s: FloatArray,
    pack: PackSpec | None,
) -> list[_Candidate]:
    """Columns of a table without a heading, told by their values alone: volts, then what goes with them."""
    span = _PACK_V
    if pack is not None and knows_series(pack):
        span = (_CELL_V[0] * pack.series, _CELL_V[1] * pack.series)
    columns = {}
    for at, name in enumerate(raw.names):
        if name in time.sources:
            continue
        values = numbers(raw.column(at), raw.decimal)[0][rows]
        if not np.isnan(values).all() and np.ptp(values[~np.isnan(values)]) > 0:
            columns[at] = values
    found: dict[str, int] = {}
    for at, values in columns.items():
        steady = float(np.nanstd(values)) < 0.15 * abs(float(np.nanmean(values)))
        if "voltage_v" not in found and steady and span[0] <= _middle(values) <= span[1]:
            found["voltage_v"] = at
    volts = columns.get(found.get("voltage_v", -1))
    if volts is not None:
        for at, amps in columns.items():
            for power_at, power in columns.items():
                ratio, near = product_ratio(power, volts, amps)
                if (
                    at != power_at
                    and abs(ratio - 1) < _NEAR
                    and near > 0.8
                    and "current_a" not in found
                ):
                    found["current_a"], found[POWER] = at, power_at
        if "current_a" not in found:
            left = [at for at in columns if at not in found.values()]
            sagging = [(at, _together(volts, columns[at])) for at in left]
            best = min(sagging, key=lambda pair: pair[1], default=None)
            if best is not None and best[1] < -0.3:
                found["current_a"] = best[0]
        if "current_a" in found:
            amps = columns[found["current_a"]]
            for base, rate in (("charge_ah", amps), ("energy_wh", amps * volts)):
                summed = running(time_s, rate) / SECONDS_PER_HOUR
                for at, values in columns.items():
                    slope, straight = slope_of(values, summed)
                    if at not in found.values() and abs(abs(slope) - 1) < _NEAR and straight > 0.98:
                        found.setdefault(base, at)
    candidates = []
    for quantity, at in found.items():
        item = _Candidate(at, raw.names[at], Meaning(quantity=quantity, plain=0.6), columns[at])
        item.sure = 0.6
        item.why.append(Notice("look_by_values"))
        candidates.append(item)
    return candidates


def _together(one: FloatArray, other: FloatArray) -> float:
    """How two columns go together row by row, slow drifts aside: -1 to 1."""
    known = ~(np.isnan(one) | np.isnan(other))
    if known.sum() < 10:
        return 0.0
    a, b = np.diff(one[known]), np.diff(other[known])
    size = float(np.std(a) * np.std(b))
    return float(np.mean((a - a.mean()) * (b - b.mean())) / size) if size > 0 else 0.0
