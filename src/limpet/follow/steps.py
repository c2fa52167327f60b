"""A vehicle's own steps in speed by volts or gauge: whether one holds now, and where the next will come."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import Entry, RangeTest, StepDown
from limpet.follow.limits import relieved_s
from limpet.follow.now import Now
from limpet.follow.onward import Onward
from limpet.follow.seeing import LEFT, sights_of
from limpet.notices import Notice
from limpet.result.readings import gauge_steps

FloatArray = NDArray[np.float64]

#: A step that comes less likely than this before the way's end is not spoken of [-].
LIKELY = 0.2


def step_now(seen: RangeTest, now: Now) -> Notice | None:
    """The slowest of the vehicle's steps that its last readings have passed; None of none.

    Notes
    -----
    What was read before a charge or a fresh pack says nothing of now. A reading at rest is no loaded one.
    """
    since = relieved_s(seen)
    entries = [entry for entry in seen.entries if entry.time_s > since]
    volts = _last(entries, "voltage_load_v")
    gauge = _last(entries, "gauge")
    full = gauge_steps(seen, [item for item in now.found.found if item.kind == "gauge"])
    passed = [
        rule
        for rule in seen.sheet.vehicle.step_down
        if (rule.below_v is not None and volts is not None and volts < rule.below_v)
        or (rule.gauge is not None and gauge is not None and gauge <= rule.gauge * full)
    ]
    if not passed:
        return None
    slowest = min(passed, key=lambda rule: rule.max_speed_mps)
    return Notice("at_a_step", what=_what(slowest), speed_mps=slowest.max_speed_mps)


def step_ahead(seen: RangeTest, onward: Onward) -> Notice | None:
    """The next step of the vehicle that is likely to come before the way's end; None of none.

    Notes
    -----
    The place is the median over the draws of what is left, whose volts under load and gauge are those that
    a device is told to expect (`sights_of`). That it takes less at the lower speed is left aside.
    """
    now, rules = onward.now, seen.sheet.vehicle.step_down
    if not rules or not now.way.leads:
        return None
    rows = np.arange(len(now.left_wh))
    sights = {sight.name: sight.shown for sight in sights_of(seen, now, rows)}
    full = gauge_steps(seen, [item for item in now.found.found if item.kind == "gauge"])
    share = now.left_wh / now.usable_wh
    at_end = share - onward.need_wh(now.done_m) / now.usable_wh
    found = []
    for rule in rules:
        shown = sights.get("voltage_load_v" if rule.gauge is None else "gauge")
        if shown is None:
            continue
        limit = rule.below_v if rule.gauge is None else rule.gauge * full
        step = _share_at(shown, float(limit or 0.0))
        chance = float((at_end < step).mean())
        on_m = float(np.median((share - step) * now.usable_wh / now.per_m))
        if chance >= LIKELY and on_m > 0:
            found.append((on_m, rule, chance))
    if not found:
        return None
    on_m, rule, chance = min(found, key=lambda item: item[0])
    return Notice(
        "step_ahead",
        at_m=now.done_m + on_m,
        what=_what(rule),
        speed_mps=rule.max_speed_mps,
        chance=chance,
    )


def _share_at(shown: FloatArray, limit: float) -> FloatArray:
    """Share left at which an instrument shows so much, shape (J,); it shows the more, the more is left.

    Parameters
    ----------
    shown : at the shares `LEFT`, shape (S, J)
    """
    shares = np.asarray(LEFT)
    order = np.argsort(shares)
    rising = np.maximum.accumulate(shown[order], axis=0)
    return np.array([np.interp(limit, column, shares[order]) for column in rising.T])


def _last(entries: Sequence[Entry], name: str) -> float | None:
    read = [value for entry in entries if (value := getattr(entry, name)) is not None]
    return read[-1] if read else None


def _what(rule: StepDown) -> str:
    """Where a rule begins, in a rider's words."""
    if rule.below_v is not None:
        return f"{rule.below_v:g} V under load"
    return f"{100 * (rule.gauge or 0.0):.0f}\u00a0% of its gauge"
