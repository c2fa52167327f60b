"""When to warn, and in which words: what a rider must hear because of what the log shows."""

from __future__ import annotations

import numpy as np

from limpet.assumptions import is_plausible, plausible_span
from limpet.evidence.columns import label_of
from limpet.evidence.model import Entry, RangeTest
from limpet.notices import Notice
from limpet.pack import FACTS, FREEZING_C, PackSpec
from limpet.quantity import Quantity

#: Above this a lithium pack is to be left alone [°C] (handbook section 16, common practice).
HOT_PACK_C = 60.0

#: A mean speed between two entries above this is a slip [m/s] (assumption: 130 km/h).
FASTEST_MPS = 36.0


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
        # A logger's single zero at power-off is not a cell at 0 V: take the 0.1 % quantile then.
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


def odd_readings(test: RangeTest) -> list[Notice]:
    """Every question that the entries of a test raise."""
    packs = test.sheet.packs_used or 1
    previous: Entry | None = None
    notices: list[Notice] = []
    for entry in test.entries:
        notices += entry_questions(test.sheet.pack, packs, entry, previous)
        previous = entry
    return notices


def entry_questions(
    pack: PackSpec, packs_used: int, entry: Entry, previous: Entry | None
) -> list[Notice]:
    """Checks at entry: values that a slip of the finger would make ("did you mean?").

    Parameters
    ----------
    previous : the entry before it, None at the first

    Returns
    -------
    questions that the rider can overrule; nothing is changed
    """
    facts = FACTS[pack.chemistry]
    low, high = facts.lowest_v * pack.series, facts.highest_v * pack.series
    at = entry.time_s
    found: list[Notice] = []
    for volts in (entry.voltage_rest_v, entry.voltage_load_v):
        if volts is not None and not low <= volts <= high:
            found.append(
                Notice(
                    "voltage_outside",
                    voltage_v=volts,
                    time_s=at,
                    low_v=low,
                    high_v=high,
                    series=pack.series,
                    chemistry=pack.chemistry,
                )
            )
    rest, load = entry.voltage_rest_v, entry.voltage_load_v
    pulling = entry.current_a is None or entry.current_a > 0
    if rest is not None and load is not None and rest < load and pulling:
        found.append(Notice("rest_below_load", time_s=at, rest_v=rest, load_v=load))
    limit_ah = 1.3 * pack.rated_ah * packs_used
    if entry.charge_ah is not None and entry.charge_ah > limit_ah:
        found.append(
            Notice(
                "charge_beyond_rating",
                charge_ah=entry.charge_ah,
                time_s=at,
                rated_ah=pack.rated_ah,
            )
        )
    if previous is not None:
        found += _against_previous(entry, previous)
    return found


def _against_previous(entry: Entry, previous: Entry) -> list[Notice]:
    found = []
    seconds = entry.time_s - previous.time_s
    for name in ("trip_m", "odometer_m", "gps_m"):
        now, before = getattr(entry, name), getattr(previous, name)
        if now is None or before is None:
            continue
        reading = label_of(name)
        if now < before:
            back = before - now
            found.append(
                Notice("distance_backwards", reading=reading, time_s=entry.time_s, back_m=back)
            )
        elif seconds > 0 and (now - before) / seconds > FASTEST_MPS:
            speed = (now - before) / seconds
            found.append(
                Notice("distance_too_far", reading=reading, time_s=entry.time_s, speed_mps=speed)
            )
    return found
