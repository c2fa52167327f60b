"""Units, parts of units and signs of volts, amps and watts, each by its name and held against the others."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product
from typing import Final

import numpy as np

from limpet.evidence.checks import counts_backwards
from limpet.foreign.candidate import (
    CELL_V,
    NEAR,
    TRIED,
    Candidate,
    Chosen,
    FloatArray,
    middle,
    sizes_within,
    span_of,
)
from limpet.foreign.checks import middle_of, product_ratio, running, slope_of
from limpet.foreign.quantities import CELL, LEFT_AH, POWER
from limpet.notices import Notice
from limpet.pack import PackSpec, knows_series
from limpet.units import SECONDS_PER_HOUR

#: Amps that such a vehicle mostly draws while it draws any [A] (assumption).
AMPS: Final = (0.02, 400.0)


def settle_cells(of: Chosen, pack: PackSpec | None, unsure: list[Notice]) -> None:
    """Volts of single cells, by their size."""
    for item in (*of(CELL), *of("cell_min_v")):
        fits = sizes_within(item, CELL_V)
        if not fits:
            item.unit, item.factor, item.sure = item.meaning.unit, 1.0, 0.4
            unsure.append(Notice("look_odd_size", name=item.source, value=middle(item.values)))
            continue
        item.unit, item.factor = fits[0]
        item.why.append(Notice("look_cell"))


def settle_volts(of: Chosen, pack: PackSpec | None, unsure: list[Notice]) -> None:
    """Volts of the pack, by its cells in series, by the cells' sum, by their size."""
    span = span_of(pack)
    known = pack is not None and knows_series(pack)
    cells = of(CELL)
    for item in of("voltage_v"):
        fits = sizes_within(item, span)
        if item.meaning.unit and not fits and not known:
            fits = sizes_within(item, (4.0, 800.0))
        if not fits:
            item.unit, item.factor, item.sure = item.meaning.unit, 1.0, 0.4
            unsure.append(Notice("look_odd_size", name=item.source, value=middle(item.values)))
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
            item.why.append(Notice("look_size", value=middle(item.values)))
            if not known and len(cells) < 4 and len(fits) > 1:
                unsure.append(Notice("look_unit_unsure", name=item.source))
                item.sure = min(item.sure, 0.7)


def settle_amps(of: Chosen, time_s: FloatArray, unsure: list[Notice]) -> None:
    """Amps and watts, by each other and by the amp-hours."""
    volts = of.volts()
    for power in of(POWER):
        if not power.unit and 0 < middle(power.values) < 12 and _largest(power.values) < 30:
            power.unit = "kW"
    for item in of("current_a"):
        named = item.meaning.unit
        tries = ((named, 1.0), (named, 0.1), (named, 0.01)) if named else TRIED["current_a"]
        beside = next((p for p in of(POWER) if p.meaning.pack == item.meaning.pack), None)
        settled = (
            beside is not None and volts is not None and _amps_by_watts(item, beside, volts, tries)
        ) or _amps_by_charge(of, item, tries, time_s)
        if not settled:
            item.unit, item.factor = tries[0]
            _amps_by_size(item, unsure)
    _turn_round(of("current_a") or of(POWER), time_s)


def _largest(values: FloatArray) -> float:
    return float(np.nanmax(np.abs(values), initial=0.0))


def _amps_by_watts(
    item: Candidate, beside: Candidate, volts: FloatArray, tries: Sequence[tuple[str, float]]
) -> bool:
    """Whether the watts beside it say what the amps are counted in; both are set if so."""
    powers = dict.fromkeys([beside.unit, *([] if beside.meaning.unit else ["", "kW"])])
    for (item.unit, item.factor), beside.unit in product(tries, powers):
        ratio, near = product_ratio(beside.si(), volts, item.si())
        if AMPS[0] < middle(item.si()) < AMPS[1] and abs(abs(ratio) - 1) < NEAR and near > 0.6:
            item.why.append(Notice("look_product"))
            beside.why.append(Notice("look_product"))
            item.sure = beside.sure = max(item.sure, 0.97)
            return True
    beside.unit = beside.meaning.unit
    beside.sure = min(beside.sure, 0.7)
    return False


def _amps_by_size(item: Candidate, unsure: list[Notice]) -> None:
    """Parts of an ampere, where nothing else says so and they would be more than any vehicle draws."""
    high = _largest(item.si())
    if not item.meaning.unit and high > 500:
        item.unit, item.factor = ("mA", 1.0) if high > 5000 else ("", 0.1)
        item.sure = min(item.sure, 0.6)
        unsure.append(Notice("look_unit_unsure", name=item.source))
    elif high > 2000:
        item.sure = 0.4
        unsure.append(Notice("look_odd_size", name=item.source, value=high))


def _turn_round(items: Sequence[Candidate], time_s: FloatArray) -> None:
    """Change the sign of what was mostly negative on the way."""
    if items and counts_backwards(time_s, np.sum([item.si() for item in items], axis=0)):
        for item in items:
            item.sign = -1
            item.why.append(Notice("look_backwards"))


def _amps_by_charge(
    of: Chosen, item: Candidate, tries: Sequence[tuple[str, float]], time_s: FloatArray
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
            if abs(abs(slope) - 1) < NEAR and straight > 0.9:
                item.why.append(Notice("look_sum", of=charge.source))
                item.sure = max(item.sure, 0.95)
                return True
    return False
