"""Energy and charge from a logger's samples: E = ∫V·I dt, gaps filled from the best there is."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.gaps import gap_threshold_s
from limpet.evidence.model import RangeTest
from limpet.evidence.trapezoid import integral, pieces, running, seconds_between
from limpet.notices import Notice
from limpet.notices.remarks import remark
from limpet.quantity import Quantity
from limpet.read.accuracy import accuracy
from limpet.read.line import FILL_STD, Estimate, Line, Metered, completed, estimate
from limpet.read.window import RideWindow
from limpet.units import SECONDS_PER_HOUR

FloatArray = NDArray[np.float64]

#: Offset of a current sensor whose accuracy nobody stated [A], standard (assumption). A stated
#: accuracy is of the reading (bundle.md) and leaves none.
OFFSET_STD_A = 0.02
#: Neighbouring stretch whose consumption fills a gap [s] (handbook section 4).
NEIGHBOUR_S = 600.0
#: u of a gap filled from the meter's own amp-hours times the mean of the voltages either side.
CHARGE_FILL_STD = 0.03
#: u of a gap filled from the mean power alone, when not even the distance is known (assumption).
BLIND_FILL_STD = 0.60
#: Gaps that are told one by one.
MOST_GAPS_TOLD = 5
#: What a gap is filled from, the surest first.
FilledFrom = Literal["energy_counter", "charge_counter", "distance", "mean_power"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Integral:
    """Trapezoid integrals over uneven samples, with nothing counted across gaps.

    `energy_wh`, `charge_ah` are cumulative, shape (n,); `gap` marks steps, shape (n - 1,).
    """

    energy_wh: FloatArray
    charge_ah: FloatArray
    returned_wh: float
    volt_hours: float
    step_error_wh: float
    gap: NDArray[np.bool_]


def integrate(time_s: FloatArray, voltage_v: FloatArray, current_a: FloatArray) -> Integral:
    """E = ∫V·I dt and Q = ∫I dt by the trapezoidal rule.

    Parameters
    ----------
    time_s : t, strictly increasing [s], shape (n,), n >= 2
    voltage_v : V [V], shape (n,), without NaN
    current_a : I, positive when discharging [A], shape (n,), without NaN

    Returns
    -------
    Integral; `returned_wh` is the regenerated part, 0 or more [Wh]; `volt_hours` is ∫V dt [V·h];
    `step_error_wh` estimates the rule's own error from the integral over every second sample.

    Notes
    -----
    The half-rate difference is three times the rule's error on a smooth signal (Richardson); on a
    rough one it shows what lies between the samples. It is taken whole, as a standard uncertainty.
    """
    threshold_s = gap_threshold_s(time_s)
    hours = seconds_between(time_s, threshold_s) / SECONDS_PER_HOUR
    power = voltage_v * current_a
    steps = pieces(power, hours)
    back = np.minimum(power, 0.0)
    pairs = len(hours) // 2 * 2
    first, second = hours[:pairs:2], hours[1:pairs:2]
    whole = (first > 0) & (second > 0)
    coarse = (power[: pairs - 1 : 2] + power[2 : pairs + 1 : 2]) * ((first + second) / 2)
    fine = steps[:pairs:2] + steps[1:pairs:2]
    return Integral(
        energy_wh=np.concatenate([[0.0], np.cumsum(steps)]),
        charge_ah=running(current_a, hours),
        returned_wh=-integral(back, hours) if back.any() else 0.0,
        volt_hours=integral(voltage_v, hours),
        step_error_wh=abs(float(np.dot(coarse - fine, whole))),
        gap=np.diff(time_s) > threshold_s,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class LoggedEnergy:
    """What the samples make of energy, charge and regeneration over the ride proper."""

    energy: Estimate
    charge: Metered
    returned_wh: float
    drawn_wh: float
    notices: tuple[Notice, ...]


def logged_energy(test: RangeTest, ride: RideWindow, distance: Line | None) -> LoggedEnergy | None:
    """Energy by `sampled`; None without a pair of samples that hold both volts and amps."""
    logged = test.log.known("voltage_v", "current_a", from_s=ride.start_s, until_s=ride.end_s)
    if logged is None or len(logged[0]) < 2:
        return None
    time, volts, amps = logged
    whole = integrate(time, volts, amps)
    if whole.energy_wh[-1] == 0 and not whole.gap.any():
        return None
    energy, charge, fills = whole.energy_wh, whole.charge_ah, _NO_FILLS
    if whole.gap.any():
        fills = _GapFiller(test, time, volts, whole, distance).fill()
        energy = energy + _steps_after(fills.rows, fills.wh, len(time))
        charge = charge + _steps_after(fills.rows, fills.ah, len(time))
    line, lead_wh, lead_std = completed(
        Line(time_s=time, total=energy), ride.start_s, ride.end_s, distance
    )
    if lead_wh < 0.002 * abs(line.span):
        line, lead_wh, lead_std = Line(time_s=time, total=energy), 0.0, 0.0
    notices = [*fills.notices]
    if lead_wh > 0:
        share = 1 - lead_wh / line.span
        notices.append(Notice("samples_incomplete", share=share, filled_wh=lead_wh))
    offset_std = OFFSET_STD_A if accuracy(test, "current").assumed else 0.0
    filled_wh = float(fills.wh.sum()) + lead_wh
    remarks = [remark("samples", count=len(time))]
    if filled_wh > 0:
        remarks.append(remark("filled_in", energy_wh=filled_wh))
    found = estimate(
        "sampled",
        line,
        "Wh",
        gains={
            "current": accuracy(test, "current").relative_std,
            "voltage": accuracy(test, "voltage").relative_std,
        },
        dividing=frozenset({"voltage"}),
        extra_std=hypot(offset_std * whole.volt_hours, whole.step_error_wh),
        filled=filled_wh,
        filled_std=hypot(fills.std_wh, lead_std),
        remarks=tuple(remarks),
    )
    return LoggedEnergy(
        energy=found,
        charge=_charge(test, line, energy, charge, time, whole, fills, lead_std, offset_std),
        returned_wh=whole.returned_wh,
        drawn_wh=float(line.span) + whole.returned_wh,
        notices=tuple(notices),
    )


def _charge(
    test: RangeTest,
    line: Line,
    energy: FloatArray,
    charge: FloatArray,
    time: FloatArray,
    whole: Integral,
    fills: _Fills,
    lead_std: float,
    offset_std: float,
) -> Metered:
    """Charge over the ride proper [Ah], and how far what was filled in may be off."""
    # What lies before and after the samples was drawn at their own mean voltage.
    per_wh = float(charge[-1]) / float(energy[-1]) if energy[-1] > 0 else 0.0
    total = np.interp(line.time_s, time, charge)
    before, after = line.time_s < time[0], line.time_s > time[-1]
    lead = float(np.interp(time[0], line.time_s, line.total)) * per_wh
    total = np.where(before, line.total * per_wh, total + lead)
    if after.any():
        end = float(np.interp(time[-1], line.time_s, line.total))
        total[after] = lead + charge[-1] + (line.total[after] - end) * per_wh
    gain_std = accuracy(test, "current").relative_std
    hours = (time[-1] - time[0]) / SECONDS_PER_HOUR
    filled_ah = np.concatenate([[0.0], np.cumsum(_std_steps(fills, len(time)))]) * per_wh
    other = hypot(offset_std * hours, per_wh * hypot(fills.std_wh, lead_std, whole.step_error_wh))
    span = float(total[-1] - total[0])
    return Metered(
        line=Line(time_s=line.time_s, total=total - total[0]),
        quantity=Quantity.of(span, "Ah", hypot(gain_std * span, other)),
        gain="current",
        gain_std=gain_std,
        filled_std=Line(time_s=time, total=filled_ah) if filled_ah[-1] > 0 else None,
    )


def _std_steps(fills: _Fills, length: int) -> FloatArray:
    steps = np.zeros(length - 1)
    steps[fills.rows] = fills.std
    return steps


def _steps_after(rows: NDArray[np.int64], amounts: FloatArray, length: int) -> FloatArray:
    """Cumulative amounts that come in with the sample after each gap, shape (length,)."""
    steps = np.zeros(length)
    steps[rows + 1] = amounts
    return np.cumsum(steps)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Fills:
    rows: NDArray[np.int64]
    wh: FloatArray
    ah: FloatArray
    std: FloatArray
    notices: list[Notice]

    @property
    def std_wh(self) -> float:
        """Of all together: the same neighbours and the same counters fill every gap, so they add up."""
        return float(self.std.sum())


_NO_FILLS = _Fills(
    rows=np.zeros(0, dtype=np.int64), wh=np.zeros(0), ah=np.zeros(0), std=np.zeros(0), notices=[]
)


class _GapFiller:
    """Fills each gap from the best evidence across it: the meter's counters, then the distance."""

    def __init__(
        self,
        test: RangeTest,
        time: FloatArray,
        volts: FloatArray,
        whole: Integral,
        distance: Line | None,
    ) -> None:
        self._time, self._volts, self._whole, self._distance = time, volts, whole, distance
        # What was ridden and how long it took while the logger ran: a neighbourhood may hold
        # other gaps, whose energy is not known either.
        self._logged_s = self._without_gaps(time)
        self._logged_m = None if distance is None else self._without_gaps(distance.at(time))
        self._energy_wh = self._counter(test, "energy_wh")
        self._charge_ah = self._counter(test, "charge_ah")
        self._charge_std = accuracy(test, "charge").relative_std
        self._energy_std = accuracy(test, "energy").relative_std

    def _counter(self, test: RangeTest, name: str) -> FloatArray | None:
        logged = test.log.known(name)
        if logged is None:
            return None
        time, values = logged
        rows = np.searchsorted(time, self._time, side="right") - 1
        return np.where(rows >= 0, values[np.maximum(rows, 0)], np.nan)

    def _without_gaps(self, values: FloatArray) -> FloatArray:
        steps = np.where(self._whole.gap, 0.0, np.diff(values))
        return np.concatenate([[0.0], np.cumsum(steps)])

    def fill(self) -> _Fills:
        rows = np.flatnonzero(self._whole.gap)
        pieces = [self._piece(int(row)) for row in rows]
        notices = []
        for row, (wh, _, _, how) in zip(rows, pieces, strict=True):
            begins, ends = self._time[row], self._time[row + 1]
            notices.append(
                Notice(
                    "sample_gap",
                    gap_s=float(ends - begins),
                    time_s=float(begins),
                    filled_wh=wh,
                    source=how,
                )
            )
        if len(notices) > MOST_GAPS_TOLD:
            total = sum(piece[0] for piece in pieces)
            seconds = float(np.diff(self._time)[rows].sum())
            notices = [Notice("sample_gaps", gaps=len(rows), gap_s=seconds, filled_wh=total)]
        return _Fills(
            rows=rows,
            wh=np.array([piece[0] for piece in pieces]),
            ah=np.array([piece[1] for piece in pieces]),
            std=np.array([piece[2] for piece in pieces]),
            notices=notices,
        )

    def _piece(self, row: int) -> tuple[float, float, float, FilledFrom]:
        """Energy [Wh], charge [Ah] and u [Wh] of one gap, and what they came from."""
        mean_v = float(self._volts[row] + self._volts[row + 1]) / 2
        begins, ends = float(self._time[row]), float(self._time[row + 1])
        moved = self._distance.between(begins, ends) if self._distance is not None else None
        if (wh := self._ran_on(self._energy_wh, row, moved)) is not None:
            return wh, wh / mean_v, self._energy_std * wh, "energy_counter"
        if (ah := self._ran_on(self._charge_ah, row, moved)) is not None:
            wh = ah * mean_v
            return (
                wh,
                ah,
                hypot(self._charge_std, CHARGE_FILL_STD) * wh,
                "charge_counter",
            )
        near = self._near(begins, ends)
        near_wh = sum(self._between(self._whole.energy_wh, a, b) for a, b in near)
        if self._logged_m is not None and moved is not None:
            near_m = sum(self._between(self._logged_m, a, b) for a, b in near)
            if near_m > 0:
                wh = near_wh / near_m * moved
                return wh, wh / mean_v, FILL_STD * abs(wh), "distance"
        near_s = sum(self._between(self._logged_s, a, b) for a, b in near)
        wh = near_wh / near_s * (ends - begins) if near_s > 0 else 0.0
        return wh, wh / mean_v, BLIND_FILL_STD * abs(wh), "mean_power"

    def _ran_on(self, counter: FloatArray | None, row: int, moved: float | None) -> float | None:
        """What a counter gained across a gap; None when it stood still or was reset."""
        if counter is None:
            return None
        gained = float(counter[row + 1] - counter[row])
        if np.isnan(gained) or gained < 0:
            return None
        if gained == 0 and (moved is None or moved > 0):
            return None
        return gained

    def _near(self, begins: float, ends: float) -> list[tuple[float, float]]:
        """The ten minutes before and after a gap, as far as there are samples."""
        before = (max(begins - NEIGHBOUR_S, float(self._time[0])), begins)
        after = (ends, min(ends + NEIGHBOUR_S, float(self._time[-1])))
        return [(a, b) for a, b in (before, after) if b > a]

    def _between(self, running: FloatArray, begins: float, ends: float) -> float:
        values = np.interp([begins, ends], self._time, running)
        return float(values[1] - values[0])
