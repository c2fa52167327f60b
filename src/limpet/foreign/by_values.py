"""Columns of a table without a heading, told by their values alone."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from limpet.foreign.candidate import NEAR, Candidate, FloatArray, middle, span_of
from limpet.foreign.checks import product_ratio, running, slope_of
from limpet.foreign.figures import numbers
from limpet.foreign.quantities import POWER, Meaning
from limpet.foreign.raw import RawTable
from limpet.foreign.recipe import TimeRead
from limpet.notices import Notice
from limpet.pack import PackSpec
from limpet.units import SECONDS_PER_HOUR


def told_by_values(
    raw: RawTable,
    time: TimeRead,
    rows: NDArray[np.intp],
    time_s: FloatArray,
    pack: PackSpec | None,
) -> list[Candidate]:
    """Columns of a table without a heading, told by their values alone: volts, then what goes with them."""
    span = span_of(pack)
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
        if "voltage_v" not in found and steady and span[0] <= middle(values) <= span[1]:
            found["voltage_v"] = at
    volts = columns.get(found.get("voltage_v", -1))
    if volts is not None:
        for at, amps in columns.items():
            for power_at, power in columns.items():
                ratio, near = product_ratio(power, volts, amps)
                if (
                    at != power_at
                    and abs(ratio - 1) < NEAR
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
                    if at not in found.values() and abs(abs(slope) - 1) < NEAR and straight > 0.98:
                        found.setdefault(base, at)
    candidates = []
    for quantity, at in found.items():
        item = Candidate(at, raw.names[at], Meaning(quantity=quantity, plain=0.6), columns[at])
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
