"""The walk along a route: every draw at once, a block of steps at a time.

Within a block the open-circuit voltage runs in a straight line from its start to where the
block's demand will take it; everything else is computed step by step. The blocks are short
beside the range, so the line is as good as the curve (tests: `solve_ivp`, 0.5%).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.drive.battery import Battery
from limpet.drive.block import Block, Way
from limpet.drive.draws import Columns
from limpet.drive.ledger import Book, Ledger
from limpet.drive.limits import PackLimits
from limpet.drive.steps import Steps
from limpet.drive.stops import stop_cost

FloatArray = NDArray[np.float64]

END_NONE, END_CUTOFF, END_FLOOR = 0, 1, 2
#: Elements of a block's table: it should stay in the processor's second cache.
BLOCK_ELEMENTS = 12_000


@dataclass(frozen=True, slots=True, kw_only=True)
class Walk:
    """What became of each draw; m marks along the way, J draws.

    `at_m` (m,) with 0 first; `charge` (m, J) z of the pack in use; `spare` (m, J) packs not yet
    begun; `terminal_j`, `time_s` (m, J); `end_m`, `end_reason`, `end_terminal_j`, `end_time_s`
    (J,), end_m infinite where the draw was still riding at the last mark. `speed_mps`, `loaded_v`
    (m - 1,) are the first column's between marks; peaks are over its steps on the first pass.
    """

    at_m: FloatArray
    charge: FloatArray
    spare: FloatArray
    terminal_j: FloatArray
    time_s: FloatArray
    end_m: FloatArray
    end_reason: NDArray[np.int8]
    end_terminal_j: FloatArray
    end_time_s: FloatArray
    speed_mps: FloatArray
    loaded_v: FloatArray
    peak_power_w: float
    peak_current_a: float
    least_loaded_v: float
    ledger: Ledger | None

    def at(self, values: FloatArray, metres: float) -> FloatArray:
        """A row of marks, between marks where need be; (J,)."""
        k = int(np.clip(np.searchsorted(self.at_m, metres), 1, len(self.at_m) - 1))
        span_m = float(self.at_m[k] - self.at_m[k - 1])
        # Beyond the last mark, and where a mark stands on the one before it, it is as at the mark.
        part = float(np.clip((metres - self.at_m[k - 1]) / span_m, 0.0, 1.0)) if span_m > 0 else 1.0
        return np.asarray(values[k - 1] + part * (values[k] - values[k - 1]))


def _blocks(steps: Steps, rows: int, longest_m: float) -> Iterator[slice]:
    """Slices of steps, again from the start for as far as the walk may go."""
    walked = 0.0
    total = steps.total_m
    while walked < longest_m - 1e-6:
        for first in range(0, len(steps), rows):
            yield slice(first, min(first + rows, len(steps)))
        walked += total


def walk(
    steps: Steps,
    columns: Columns,
    limits: PackLimits,
    *,
    start_charge: FloatArray,
    longest_m: float,
    block_m: float,
    ends: bool = True,
    with_ledger: bool = False,
) -> Walk:
    """Ride the steps, again and again, until every draw has ended or the distance is reached.

    Parameters
    ----------
    start_charge : z of each draw's pack (all packs the same) [-], shape (J,)
    longest_m : the walk stops at the end of the pass in which this is reached [m]
    block_m : length over which the open-circuit voltage is taken as a straight line [m]
    ends : False walks on through cut-off, for the energy that a way would need
    with_ledger : whether to keep the energy ledger of the first column

    Returns
    -------
    Walk
    """
    rows = max(1, min(BLOCK_ELEMENTS // len(columns), int(block_m / steps.length_m.max())))
    walker = _Walker(Way(steps, columns), Battery(columns, limits), start_charge, ends=ends)
    return walker.run(rows, longest_m, Book() if with_ledger else None)


class _Riders:
    """What becomes of each draw along the way; arrays of shape (J,)."""

    def __init__(self, start_charge: FloatArray, packs: int) -> None:
        count = len(start_charge)
        self.charge = start_charge.astype(np.float64, copy=True)
        self.full = start_charge.astype(np.float64, copy=True)
        self.spare = np.full(count, packs - 1)
        self.time_s = np.zeros(count)
        self.terminal_j = np.zeros(count)
        self.alive = np.ones(count, dtype=bool)
        self.cap_mps = np.full(count, np.inf)
        self.end_m = np.full(count, np.inf)
        self.end_reason = np.full(count, END_NONE, dtype=np.int8)
        self.end_terminal_j = np.full(count, np.nan)
        self.end_time_s = np.full(count, np.nan)

    def stop(self, draw: int, reason: int, at_m: float, block: Block, row: int) -> None:
        """A draw ends in the middle of a block's step."""
        self.alive[draw] = False
        self.end_m[draw] = at_m
        self.end_reason[draw] = reason
        energy, seconds = block.energy_j[: row + 1, draw], block.seconds[: row + 1, draw]
        self.end_terminal_j[draw] = self.terminal_j[draw] + energy.sum() - 0.5 * energy[-1]
        self.end_time_s[draw] = self.time_s[draw] + seconds.sum() - 0.5 * seconds[-1]


class _Peaks:
    """The most that the first column's way asks, on the first pass."""

    power_w = current_a = 0.0
    least_v = np.inf

    def see(self, power_w: FloatArray, loaded_v: FloatArray) -> None:
        """A block's powers and the volts under them, shape (k,)."""
        k = int(np.argmax(power_w))
        self.power_w = max(self.power_w, float(power_w[k]))
        self.current_a = max(self.current_a, float(power_w[k] / loaded_v[k]))
        self.least_v = min(self.least_v, float(loaded_v.min()))


class _Walker:
    """The state of a walk; one block after the other changes it."""

    def __init__(self, way: Way, battery: Battery, start_charge: FloatArray, *, ends: bool) -> None:
        self.way, self.battery, self.limits, self.ends = way, battery, battery.limits, ends
        self.riders = _Riders(start_charge, battery.limits.packs_in_sequence)
        self.peaks = _Peaks()
        self.at_m = 0.0

    def run(self, rows: int, longest_m: float, book: Book | None) -> Walk:
        riders = self.riders
        marks: list[tuple[float, FloatArray, NDArray[np.int64], FloatArray, FloatArray]] = []
        seen: list[tuple[float, float]] = []

        def mark() -> None:
            charge = np.maximum(riders.charge, 0.0)
            marks.append((self.at_m, charge, riders.spare.copy(), riders.terminal_j, riders.time_s))

        mark()
        # Dead draws go on being counted in the block, so that all arrays keep one shape; what
        # they show then is nobody's.
        with np.errstate(invalid="ignore", over="ignore"):
            for part in _blocks(self.way.steps, rows, longest_m):
                seen.append(self._ride(part, book))
                mark()
                if self.ends and not riders.alive.any():
                    break
        at_m, charge, spare, terminal, time = zip(*marks, strict=True)
        speed, volts = zip(*seen, strict=True)
        return Walk(
            at_m=np.array(at_m),
            charge=np.array(charge),
            spare=np.array(spare, dtype=np.float64),
            terminal_j=np.array(terminal),
            time_s=np.array(time),
            end_m=riders.end_m,
            end_reason=riders.end_reason,
            end_terminal_j=riders.end_terminal_j,
            end_time_s=riders.end_time_s,
            speed_mps=np.array(speed),
            loaded_v=np.array(volts),
            peak_power_w=self.peaks.power_w,
            peak_current_a=self.peaks.current_a,
            least_loaded_v=self.peaks.least_v,
            ledger=book.closed() if book is not None else None,
        )

    def _ride(self, part: slice, book: Book | None) -> tuple[float, float]:
        """One block; gives the first column's mean speed [m/s] and loaded voltage [V]."""
        riders, columns = self.riders, self.way.columns
        book = book if riders.alive[0] else None
        first_pass = bool(riders.alive[0]) and self.at_m < self.way.steps.total_m - 1e-6
        block = self.way.ridden(part, riders.cap_mps)
        usual = None
        if self.ends and self.at_m > 0:
            usual = riders.terminal_j / np.maximum(riders.time_s, 1.0)
        held = riders.alive if self.ends else None
        most = self.battery.answer(block, riders.charge, held, usual)
        if book is not None:
            book.add(columns, block, self.way.climb_n(block), self.limits.pedal_w)
        if (block.stops + block.slowings).any():
            self._stop_and_go(block, most, book, first_pass)
        if first_pass:
            self.peaks.see(block.power_w[:, 0], block.loaded_v[:, 0])
        swapped = self._end(block) if self.ends else []
        spent = block.charge_as.sum(axis=0) * self.battery.per_capacity
        riders.charge = np.minimum(riders.charge - spent, 1.0)
        riders.terminal_j = riders.terminal_j + block.energy_j.sum(axis=0)
        riders.time_s = riders.time_s + block.seconds.sum(axis=0)
        self.at_m += block.total_m
        if self.limits.step_down or self.limits.step_at_charge:
            self._step_down(block.loaded_v, swapped)
        riding_s = float((block.length_m / block.speed_mps[:, 0]).sum())
        return block.total_m / riding_s, float(block.loaded_v[:, 0].mean())

    def _stop_and_go(
        self, block: Block, most_w: FloatArray, book: Book | None, first_pass: bool
    ) -> None:
        """Add what stopping and starting again costs, and the volts while gathering way."""
        columns = self.way.columns
        rows = np.flatnonzero(block.stops + block.slowings)
        cost = stop_cost(
            columns, self.limits, block, rows, most_w, self.battery.takes(self.riders.charge)
        )
        block.lowest_v = block.loaded_v.copy()
        block.lowest_v[rows] = np.where(
            block.stops[rows, None] > 0,
            np.minimum(block.lowest_v[rows], cost.lasting_v),
            block.lowest_v[rows],
        )
        block.energy_j[rows] += cost.energy_j + cost.idle_j
        block.seconds[rows] += cost.seconds
        block.charge_as[rows] += cost.charge_as
        if first_pass:
            self.peaks.see(cost.hardest_w, cost.hardest_v)
        if book is not None:
            inverse = float(columns.inverse_efficiency[0])
            book.add_stops(cost, block.open_v[rows, 0], inverse)

    def _end(self, block: Block) -> list[int]:
        """Who cannot go on, where, and why; a spare pack is put in for those that are given back."""
        riders, limits = self.riders, self.limits
        out = block.lowest_v <= limits.cutoff_v
        stuck = block.speed_mps < limits.minimum_mps
        over = (out | stuck).any(axis=0) & riders.alive
        swapped: list[int] = []
        if not over.any():
            return swapped
        along = self.at_m + np.cumsum(block.length_m) - 0.5 * block.length_m
        for draw in np.flatnonzero(over):
            row = int(np.argmax(out[:, draw] | stuck[:, draw]))
            by_cutoff = bool(out[row, draw])
            if by_cutoff and riders.spare[draw] > 0:
                self._swap(block, int(draw), row)
                swapped.append(int(draw))
            else:
                reason = END_CUTOFF if by_cutoff else END_FLOOR
                riders.stop(int(draw), reason, float(along[row]), block, row)
        return swapped

    def _swap(self, block: Block, draw: int, row: int) -> None:
        """From here on a fresh pack gives; what the step before took is the old one's."""
        riders, battery = self.riders, self.battery
        before = float(block.charge_as[:row, draw].sum() * battery.per_capacity[draw])
        # The same power takes less charge at a full pack's voltage.
        fresh_v = battery.fresh_v(float(riders.full[draw]), draw)
        block.charge_as[row:, draw] *= block.lowest_v[row:, draw] / fresh_v
        riders.charge[draw] = riders.full[draw] + before
        riders.spare[draw] -= 1
        riders.cap_mps[draw] = np.inf

    def _step_down(self, loaded_v: FloatArray, swapped: list[int]) -> None:
        """A controller that has stepped down stays there until the pack is changed."""
        riders, shown = self.riders, loaded_v.mean(axis=0)
        # What a block showed of a pack that was taken out in it says nothing of the one put in.
        shown[swapped] = np.inf
        for below_v, speed_mps in self.limits.step_down:
            slower = np.minimum(riders.cap_mps, speed_mps)
            riders.cap_mps = np.where(shown < below_v, slower, riders.cap_mps)
        for share, speed_mps in self.limits.step_at_charge:
            slower = np.minimum(riders.cap_mps, speed_mps)
            riders.cap_mps = np.where(riders.charge <= share, slower, riders.cap_mps)
