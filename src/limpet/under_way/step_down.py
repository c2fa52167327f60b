"""A vehicle's own steps in speed by volts or gauge: whether one holds now, and where the next will come."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import Entry, RangeTest, StepDown
from limpet.notices import Notice
from limpet.read.readings import gauge_steps
from limpet.under_way.now import Now
from limpet.under_way.onward import Onward
from limpet.under_way.own_limits import relieved_s
from limpet.under_way.seeing import LEFT, sights_of

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """A step of the vehicle's as its rider reads it.

    `name` of the reading that tells, `at` or under which it holds [of that reading], `what` in words, and
    the speed that is left.
    """

    name: str
    at: float
    what: str
    speed_mps: float

    def passed(self, read: float) -> bool:
        """Whether it holds at a reading: a gauge stands on its step, volts have to be under theirs."""
        return read <= self.at if self.name == "gauge" else read < self.at


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
    last = {name: _last(entries, name) for name in ("voltage_load_v", "gauge")}
    passed = [
        step
        for step in steps_of(seen, now)
        if (read := last[step.name]) is not None and step.passed(read)
    ]
    if not passed:
        return None
    slowest = min(passed, key=lambda step: step.speed_mps)
    return Notice("at_a_step", what=slowest.what, speed_mps=slowest.speed_mps)


def steps_of(seen: RangeTest, now: Now) -> tuple[Step, ...]:
    """The vehicle's own steps, each on the scale of the reading that tells it."""
    rules = seen.sheet.vehicle.step_down
    if not rules:
        return ()
    full = gauge_steps(seen, [item for item in now.found.evidence.readings if item.kind == "gauge"])
    return tuple(_step(rule, full) for rule in rules)


def _step(rule: StepDown, full: float) -> Step:
    if rule.below_v is not None:
        what, name, at = f"{rule.below_v:g} V under load", "voltage_load_v", rule.below_v
    else:
        share = rule.gauge or 0.0
        what, name, at = f"{100 * share:.0f}% of its gauge", "gauge", share * full
    return Step(name=name, at=at, what=what, speed_mps=rule.max_speed_mps)


def step_ahead(seen: RangeTest, onward: Onward) -> Notice | None:
    """The next step of the vehicle that is likely to come before the way's end; None of none.

    Notes
    -----
    The place is the median over the draws of what is left, whose volts under load and gauge are those that
    a device is told to expect (`sights_of`). That it takes less at the lower speed is left aside.
    """
    now = onward.now
    steps = steps_of(seen, now)
    if not steps or not now.way.leads:
        return None
    rows = np.arange(len(now.left_wh))
    sights = {sight.name: sight.shown for sight in sights_of(seen, now, rows)}
    share = now.left_wh / now.usable_wh
    at_end = share - onward.need_wh(now.done_m) / now.usable_wh
    found = []
    for step in steps:
        shown = sights.get(step.name)
        if shown is None:
            continue
        limit = _share_at(shown, step.at)
        chance = float((at_end < limit).mean())
        on_m = float(np.median((share - limit) * now.usable_wh / now.per_m))
        if chance >= LIKELY and on_m > 0:
            found.append((on_m, step, chance))
    if not found:
        return None
    on_m, step, chance = min(found, key=lambda item: item[0])
    return Notice(
        "step_ahead",
        at_m=now.done_m + on_m,
        what=step.what,
        speed_mps=step.speed_mps,
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
