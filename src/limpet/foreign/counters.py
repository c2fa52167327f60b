"""Amp-hours and watt-hours: in which unit, and which way they count."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from limpet.foreign.candidate import TRIED, Candidate, Chosen, FloatArray
from limpet.foreign.checks import running, slope_of
from limpet.foreign.quantities import IN_AH, IN_WH, LEFT_AH, LEFT_WH, POWER
from limpet.notices import Notice
from limpet.units import SECONDS_PER_HOUR


def settle_counters(of: Chosen, time_s: FloatArray, unsure: list[Notice]) -> None:
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
    item: Candidate, base: str, summed: FloatArray | None, unsure: list[Notice]
) -> None:
    named = item.meaning.unit
    tries = ((named, 1.0),) if named else TRIED[item.quantity]
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
