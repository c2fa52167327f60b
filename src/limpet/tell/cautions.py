"""When to warn: what a rider must hear because of what the log or the result shows."""

from __future__ import annotations

import numpy as np

from limpet.assumptions import is_plausible, plausible_span
from limpet.evidence.model import RangeTest
from limpet.notices import Notice
from limpet.pack import FACTS, FREEZING_C
from limpet.quantity import Quantity

#: Above this a lithium pack is to be left alone [°C] (handbook section 16, common practice).
HOT_PACK_C = 60.0


def stop_now(test: RangeTest) -> list[Notice]:
    """What the log shows that must not be repeated: cells under their floor, a hot pack."""
    notices = []
    pack = test.sheet.pack
    facts = FACTS[pack.chemistry]
    lowest = _lowest_cell_v(test)
    if lowest is not None and lowest < facts.floor_v:
        notices.append(
            Notice(
                "cell_below_floor", cell_v=lowest, floor_v=facts.floor_v, chemistry=pack.chemistry
            )
        )
    hottest = _hottest_c(test)
    if hottest is not None and hottest > HOT_PACK_C:
        notices.append(Notice("pack_hot", pack_c=hottest, limit_c=HOT_PACK_C))
    conditions = test.sheet.conditions
    cold = conditions.temp_end_c if conditions is not None else None
    if cold is not None and cold <= FREEZING_C and not pack.chemistry.startswith("lead"):
        notices.append(Notice("cold_charge", air_c=cold, limit_c=FREEZING_C))
    return notices


def _lowest_cell_v(test: RangeTest) -> float | None:
    """The lowest cell under load [V]: measured, or the pack's mean cell."""
    lowest: list[float] = []
    cells = test.column("cell_min_v")
    if cells is not None:
        lowest.append(float(np.nanmin(cells)))
    _, noted = test.readings("cell_min_v")
    if len(noted):
        lowest.append(float(noted.min()))
    volts = test.column("voltage_v")
    if volts is not None:
        under = (
            float(np.nanmin(volts))
            < FACTS[test.sheet.pack.chemistry].floor_v * test.sheet.pack.series
        )
        # A logger's single zero at power-off is not a cell at 0 V: take the 0.1% quantile then.
        least = np.nanquantile(volts, 0.001) if under else np.nanmin(volts)
        lowest.append(float(least) / test.sheet.pack.series)
    _, loaded = test.readings("voltage_load_v")
    if len(loaded):
        lowest.append(float(loaded.min()) / test.sheet.pack.series)
    return min(lowest, default=None)


def _hottest_c(test: RangeTest) -> float | None:
    hottest: list[float] = []
    column = test.column("battery_temp_c")
    if column is not None:
        hottest.append(float(np.nanmax(column)))
    _, noted = test.readings("battery_temp_c")
    if len(noted):
        hottest.append(float(noted.max()))
    return max(hottest, default=None)


def implausible(test: RangeTest, wh_per_mi: Quantity) -> list[Notice]:
    """A question when the consumption is far from what such vehicles use."""
    kind = test.sheet.vehicle.kind
    if is_plausible(kind, wh_per_mi.value):
        return []
    return [
        Notice(
            "implausible_consumption",
            vehicle=kind.replace("_", " "),
            **plausible_span(kind, wh_per_mi.value),
        )
    ]
