"""Energy by each kind of evidence of the pack's state alone, beside what a meter says."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from math import hypot, sqrt

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.notices.remarks import Remark, remark
from limpet.pack import voltage_limits
from limpet.pack.family import PUBLISHED
from limpet.quantity import Quantity
from limpet.read.evidence import Evidence
from limpet.read.line import EnergyMethod, Estimate, Line
from limpet.read.readings import Reading, gauge_steps
from limpet.read.window import RideWindow
from limpet.state.remaining import (
    OWN_STD_V,
    Remaining,
    gauge_share,
    gauge_std,
    unsettled,
    window_of,
)
from limpet.state.state_model import State

FloatArray = NDArray[np.float64]

#: So many draws tell a check's width.
CHECK_DRAWS = 500
#: A pack with less than this between full and cut-off has no share to read [-].
LEAST_WINDOW = 0.05


def lone_estimates(evidence: Evidence, remaining: Remaining, shape: Line) -> list[Estimate]:
    """By resting volts, by a straight line between full and cut-off, by the gauge, by the label.

    Parameters
    ----------
    shape : how energy ran up along the ride; each method knows only the whole
    """
    if remaining.model.ride.added_wh.any():
        # What a charge put in between two readings is none of theirs.
        return []
    ride = evidence.ride
    before = remaining.posterior.before[:, :CHECK_DRAWS]
    state = remaining.model.state(before)
    check = _Check(evidence.test, ride, remaining, state, before)
    by_window = [
        [item for item in evidence.readings if window_of(ride, item) == number]
        for number in range(len(ride.packs))
    ]
    told = {
        "rest_voltage": _summed(check.by_rest(items) for items in by_window),
        "linear_voltage": _summed(check.by_line(items) for items in by_window),
        "gauge": _summed(check.by_gauge(items) for items in by_window),
        "rated": check.by_label() if ride.reached_end else None,
    }
    names: tuple[EnergyMethod, ...] = ("rest_voltage", "linear_voltage", "gauge", "rated")
    estimates = []
    for name in names:
        energy = told[name]
        if energy is None or float(np.median(energy)) <= 0:
            continue
        middle = float(np.median(energy))
        factor = middle / shape.span if shape.span > 0 else 0.0
        estimates.append(
            Estimate(
                method=name,
                quantity=Quantity.from_draws(energy, "Wh", middle),
                line=Line(time_s=shape.time_s, total=shape.total * factor),
                remarks=_remarks(name, check, by_window),
            )
        )
    return estimates


def _summed(parts: Iterable[FloatArray | None]) -> FloatArray | None:
    total: FloatArray | None = None
    for part in parts:
        if part is None:
            return None
        total = part if total is None else total + part
    return total


class _Check:
    """Energies as one kind of evidence tells them, in draws from the inputs alone."""

    def __init__(
        self,
        test: RangeTest,
        ride: RideWindow,
        remaining: Remaining,
        state: State,
        before: FloatArray,
    ) -> None:
        self.test, self.ride, self.remaining = test, ride, remaining
        self.state, self.before = state, before
        self._series = test.sheet.pack.series
        self._rng = np.random.default_rng(1)
        full_v, cutoff_v, _ = voltage_limits(test.sheet.pack)
        self._full_v, self._cutoff_v = full_v, cutoff_v
        self._delivered = state.capacity_ah * self._series * (1 - state.lost)

    def _value(self, name: str) -> FloatArray:
        return self.remaining.model.value(name, self.before)

    def by_rest(self, items: Sequence[Reading]) -> FloatArray | None:
        """E_full·(ε(V₁) − ε(V₂)) less the I²R loss."""
        ends = _ends(items, "rest")
        if ends is None:
            return None
        lag = self._value("lag") * self.state.current_a / self.state.capacity_ah
        stored = []
        for item in ends:
            part = unsettled(item)
            std = hypot(
                OWN_STD_V,
                self.remaining.model.ride.volts.unsettled_std_v * part,
                item.step / sqrt(12) / self._series,
            )
            cell = item.value / self._value("voltage") / self._series + part * lag
            cell = cell + std * self._rng.standard_normal(len(cell))
            charge = self.state.curves.charge_at_voltage(cell)
            stored.append(self.state.curves.energy(charge[None])[0])
        return np.asarray((stored[0] - stored[1]) * self._delivered)

    def by_line(self, items: Sequence[Reading]) -> FloatArray | None:
        """(V₁ − V₂)/(V_full − V_cut): what many riders do."""
        ends = _ends(items, "rest")
        if ends is None or self._full_v <= self._cutoff_v:
            return None
        share = (ends[0].value - ends[1].value) / (self._full_v - self._cutoff_v)
        return np.asarray(share * self.state.usable * self._delivered)

    def by_gauge(self, items: Sequence[Reading]) -> FloatArray | None:
        """What the gauge fell by, through what such gauges show."""
        ends = _ends(items, "gauge")
        if ends is None:
            return None
        gauges = [item for item in items if item.kind == "gauge"]
        steps = gauge_steps(self.test, gauges)
        bottom, bend = self._value("gauge_bottom"), self._value("gauge_bend")
        lefts = []
        for item in ends:
            std = gauge_std(item, steps, self.remaining.model.ride.gauges.map_std)
            shown = gauge_share(item, steps) + std * self._rng.standard_normal(len(bend))
            lefts.append(bottom + (1 - bottom) * np.clip(shown, 1e-3, 1.2) ** (1 / bend))
        return np.asarray(
            np.maximum(lefts[0] - lefts[1], 0.0) * self.state.usable * self._delivered
        )

    def by_label(self) -> FloatArray | None:
        """From what it began with to cut-off, as the label has it."""
        if float(np.median(self.state.full_charge - self.state.cut_charge)) < LEAST_WINDOW:
            return None
        began = [item for item in self.remaining.model.inputs if item.name.startswith("start_")]
        if any(item.shape != "shortfall" for item in began):
            return None
        shares = [
            np.clip(self._value(f"start_{number + 1}"), 0.0, 1.0)
            for number in range(len(self.ride.packs))
        ]
        return np.asarray(sum(shares) * self.state.usable * self._delivered)


def _ends(items: Sequence[Reading], kind: str) -> tuple[Reading, Reading] | None:
    """The first and the last reading of a kind, where they fell."""
    mine = [item for item in items if item.kind == kind]
    if len(mine) < 2 or mine[0].value <= mine[-1].value:
        return None
    return mine[0], mine[-1]


def _remarks(
    name: EnergyMethod, check: _Check, by_window: list[list[Reading]]
) -> tuple[Remark, ...]:
    pack = check.test.sheet.pack
    if name == "rated":
        return (remark("label"),)
    if name == "gauge":
        return (remark("gauge"),)
    ends = _ends(by_window[0], "rest")
    if ends is None:
        return ()
    volts = {"from_v": ends[0].value, "to_v": ends[1].value}
    if name == "linear_voltage":
        return (remark("straight_line", **volts),)
    lost = 100 * float(np.median(check.state.lost))
    through = remark("through_curves", **volts, chemistry=pack.chemistry, percent=lost)
    source = check.remaining.model.family.source
    return (through,) if source == PUBLISHED else (through, remark("own_curve", source=source))
