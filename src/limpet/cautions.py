"""When to warn, and in which words: what a rider must hear because of what the log shows."""

from __future__ import annotations

import numpy as np

from limpet.assumptions import PLAUSIBLE_WH_PER_MI, is_plausible
from limpet.evidence.model import Entry, Notice, RangeTest
from limpet.pack import FACTS, PackSpec
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
                code="cell_below_floor",
                message=f"Stop now next time: a cell was at {lowest:.2f} V under load, below the "
                f"{facts.floor_v:g} V floor of {pack.chemistry}. Charge gently, attended, and have the pack "
                "checked by a qualified person if it happens again.",
            )
        )
    hottest = _hottest_c(test)
    if hottest is not None and hottest > HOT_PACK_C:
        notices.append(
            Notice(
                code="pack_hot",
                message=f"Stop now next time: the pack reached {hottest:.0f} °C. Above {HOT_PACK_C:.0f} °C "
                "stop, let it cool in the open and do not charge it hot.",
            )
        )
    conditions = test.sheet.conditions
    cold = conditions.temp_end_c if conditions is not None else None
    if cold is not None and cold <= 0 and not pack.chemistry.startswith("lead"):
        notices.append(
            Notice(
                code="cold_charge",
                message=f"It was {cold:g} °C at the end: do not charge a lithium pack below 0 °C; let it "
                "warm up indoors first.",
            )
        )
    return notices


def _lowest_cell_v(test: RangeTest) -> float | None:
    """The lowest cell under load [V]: measured, or the pack's mean cell."""
    lowest: list[float] = []
    cells = test.column("cell_min_v")
    if cells is not None:
        lowest.append(float(np.nanmin(cells)))
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
    span = PLAUSIBLE_WH_PER_MI[kind]
    return [
        Notice(
            code="implausible_consumption",
            message=f"{wh_per_mi.value:.1f} Wh/mi is far from the {span[0]:g} to {span[1]:g} that a "
            f"{kind.replace('_', ' ')} uses. Was a distance, a volt or an amp-hour mistyped?",
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
    at = f"{entry.time_s / 60:.0f} min"
    found: list[tuple[str, str]] = []
    for volts in (entry.voltage_rest_v, entry.voltage_load_v):
        if volts is not None and not low <= volts <= high:
            found.append(
                (
                    "voltage_outside",
                    f"{volts:g} V at {at} is outside {low:.0f} to {high:.0f} V for {pack.series} cells "
                    f"of {pack.chemistry}. Was it mistyped?",
                )
            )
    rest, load = entry.voltage_rest_v, entry.voltage_load_v
    pulling = entry.current_a is None or entry.current_a > 0
    if rest is not None and load is not None and rest < load and pulling:
        found.append(
            (
                "rest_below_load",
                f"At {at} the resting {rest:g} V is below the loaded {load:g} V. Were they swapped?",
            )
        )
    limit_ah = 1.3 * pack.rated_ah * packs_used
    if entry.charge_ah is not None and entry.charge_ah > limit_ah:
        found.append(
            (
                "charge_beyond_rating",
                f"{entry.charge_ah:g} Ah at {at} is over 1.3 times the rated {pack.rated_ah:g} Ah. "
                "Was it mistyped?",
            )
        )
    if previous is not None:
        found += _against_previous(entry, previous, at)
    return [Notice(code=code, message=message) for code, message in found]


def _against_previous(entry: Entry, previous: Entry, at: str) -> list[tuple[str, str]]:
    found = []
    seconds = entry.time_s - previous.time_s
    for name, label in (("trip_m", "trip meter"), ("odometer_m", "odometer"), ("gps_m", "track")):
        now, before = getattr(entry, name), getattr(previous, name)
        if now is None or before is None:
            continue
        if now < before:
            found.append(
                (
                    "distance_backwards",
                    f"The {label} at {at} is {(before - now) / 1000:.2f} km below the reading before it. "
                    "Was it mistyped, or reset?",
                )
            )
        elif seconds > 0 and (now - before) / seconds > FASTEST_MPS:
            found.append(
                (
                    "distance_too_far",
                    f"The {label} at {at} means {(now - before) / seconds * 3.6:.0f} km/h since the "
                    "reading before it. Kilometres for miles, or a digit too many?",
                )
            )
    return found
