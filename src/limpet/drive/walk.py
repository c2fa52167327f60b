"""The walk along a route: every draw at once, a block of steps at a time.

Within a block the open-circuit voltage runs in a straight line from its start to where the
block's demand will take it; everything else is computed step by step. The blocks are short
beside the range, so the line is as good as the curve (tests: `solve_ivp`, 0.5 %).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.drive.draws import Columns
from limpet.drive.ledger import Book, Ledger
from limpet.drive.limits import PackLimits
from limpet.drive.steps import Steps
from limpet.drive.stops import stop_cost
from limpet.road import speed_at_power_mps
from limpet.units import SECONDS_PER_HOUR, STANDARD_GRAVITY_MPS2

FloatArray = NDArray[np.float64]

END_NONE, END_CUTOFF, END_FLOOR = 0, 1, 2
#: Elements of a block's table: it should stay in the processor's second cache.
BLOCK_ELEMENTS = 12_000
#: Share of the most power a pack can give, U²/4R, that is ever asked of it [-].
MOST_OF_PEAK = 0.98
#: A pack this full takes nothing back; below it takes a share that grows over the next 3 %
#: of charge (assumption: handbook section 16, start a descent below 90 %).
TAKES_NOTHING_ABOVE = 0.97
TAPER = 0.03
#: Charging by regeneration is held to this rate [1/h] (assumption).
CHARGE_RATE_PER_H = 0.5
#: What is left of the voltage of a pack that is long empty [V]: draws past their end go on being
#: computed, and nothing may be divided by nothing.
LEAST_OPEN_V = 0.01
#: Open-circuit voltage falls so steeply below empty that every drive stops there [V per z].
EMPTY_SLOPE = 200.0


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
        part = (metres - self.at_m[k - 1]) / (self.at_m[k] - self.at_m[k - 1])
        part = float(np.clip(part, 0.0, 1.0))
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
    return _Walker(steps, columns, limits, start_charge, ends, with_ledger).run(rows, longest_m)


class _Walker:
    """The state of a walk; one block after the other changes it."""

    def __init__(
        self,
        steps: Steps,
        columns: Columns,
        limits: PackLimits,
        start_charge: FloatArray,
        ends: bool,
        with_ledger: bool,
    ) -> None:
        self.steps, self.columns, self.limits, self.ends = steps, columns, limits, ends
        count = len(columns)
        weight = columns.mass_kg * STANDARD_GRAVITY_MPS2
        cos_grade = np.sqrt(1 - steps.grade**2)
        self.load_basis = np.stack(
            [steps.surface * cos_grade, steps.surface_std * cos_grade, steps.grade], axis=1
        )
        self.load = np.stack(
            [
                columns.rolling * weight,
                columns.rolling * weight * columns.surface,
                weight * columns.hills,
            ]
        )
        self.wind_basis = np.stack([steps.sin_bearing, steps.cos_bearing, steps.unknown], axis=1)
        self.wind = np.stack([columns.wind_east, columns.wind_north, columns.wind_unknown])
        self.own_speed = bool(np.isnan(steps.speed_mps).all())
        # Loaded volts (u + √(u² − 4RP))/2: the pack's answer to a power.
        self.four_r = 4 * columns.resistance_ohm
        self.half_per_r = 0.5 / columns.resistance_ohm
        self.per_capacity = 1 / columns.capacity_as
        self.regenerates = bool((columns.regeneration > 0).any())
        z, volts = limits.curve.state_of_charge, limits.curve.ocv_v
        self.table_z = np.concatenate([[-1.0], z])
        self.table_v = np.concatenate([[volts[0] - EMPTY_SLOPE], volts]) * limits.series
        self.charge = start_charge.astype(np.float64, copy=True)
        self.full = start_charge.astype(np.float64, copy=True)
        self.spare = np.full(count, limits.packs_in_sequence - 1)
        self.time = np.zeros(count)
        self.terminal = np.zeros(count)
        self.alive = np.ones(count, dtype=bool)
        self.end_m = np.full(count, np.inf)
        self.end_reason = np.full(count, END_NONE, dtype=np.int8)
        self.end_terminal = np.full(count, np.nan)
        self.end_time = np.full(count, np.nan)
        self.cap = np.full(count, np.inf)
        self.at = 0.0
        self.peak_power = self.peak_current = 0.0
        self.least_volts = np.inf
        self.book = Book() if with_ledger else None

    def run(self, rows: int, longest_m: float) -> Walk:
        marks = [0.0]
        charge, spare = [np.maximum(self.charge, 0.0)], [self.spare.copy()]
        terminal, time = [self.terminal], [self.time]
        speed, volts = [], []
        # Dead draws go on being counted in the block, so that all arrays keep one shape; what
        # they show then is nobody's.
        with np.errstate(invalid="ignore", over="ignore"):
            for block in _blocks(self.steps, rows, longest_m):
                seen = self._block(block)
                marks.append(self.at)
                charge.append(np.maximum(self.charge, 0.0))
                spare.append(self.spare.copy())
                terminal.append(self.terminal)
                time.append(self.time)
                speed.append(seen[0])
                volts.append(seen[1])
                if self.ends and not self.alive.any():
                    break
        return Walk(
            at_m=np.array(marks),
            charge=np.array(charge),
            spare=np.array(spare, dtype=np.float64),
            terminal_j=np.array(terminal),
            time_s=np.array(time),
            end_m=self.end_m,
            end_reason=self.end_reason,
            end_terminal_j=self.end_terminal,
            end_time_s=self.end_time,
            speed_mps=np.array(speed),
            loaded_v=np.array(volts),
            peak_power_w=self.peak_power,
            peak_current_a=self.peak_current,
            least_loaded_v=self.least_volts,
            ledger=self.book.closed() if self.book is not None else None,
        )

    def _open_v(self, z: FloatArray) -> FloatArray:
        volts = np.interp(z, self.table_z, self.table_v)
        return np.asarray(np.maximum(volts, LEAST_OPEN_V))

    def _block(self, block: slice) -> tuple[float, float]:
        columns, limits = self.columns, self.limits
        length = self.steps.length_m[block, None]
        first_pass = self.at < self.steps.total_m - 1e-6
        ceiling = np.minimum(columns.target_mps, self.cap)
        if self.own_speed:
            speed = np.broadcast_to(ceiling, (length.shape[0], len(columns)))
        else:
            own = self.steps.speed_mps[block, None]
            # A leg's speed is held as well or badly as the ride's: the same draw of the rider.
            held = columns.target_mps / columns.target_mps[0]
            speed = np.where(np.isnan(own), ceiling, np.minimum(own * held, self.cap))
        headwind = self.wind_basis[block] @ self.wind
        resisting = self.load_basis[block] @ self.load
        air = speed + headwind
        wheel = np.abs(air)
        wheel *= air
        wheel *= columns.drag
        wheel += resisting
        wheel *= speed
        open_start = self._open_v(self.charge)
        power = self._pack_power(wheel, open_start)
        seconds = length / speed
        used = (power * seconds).sum(axis=0) / open_start
        open_end = self._open_v(self.charge - used * self.per_capacity)
        part = ((np.arange(length.shape[0]) + 0.5) / length.shape[0])[:, None]
        open_v = open_start + (open_end - open_start) * part
        # A drive whose pack rests under its cut-off has stopped: lower there is nothing to ask of.
        most = self._most_power(np.maximum(np.minimum(open_start, open_end), limits.cutoff_v))
        limited = power > most
        if self.ends:
            limited &= self.alive
        if limited.any():
            speed, wheel, power = self._slowed(
                limited, most, speed, headwind, resisting, wheel, power
            )
            seconds = length / speed
        root = np.sqrt(np.maximum(open_v * open_v - self.four_r * power, 0.0))
        loaded = (open_v + root) * 0.5
        charge_used = (open_v - root) * self.half_per_r
        charge_used *= seconds
        energy = power * seconds
        if self.book is not None and self.alive[0]:
            self.book.add(
                columns,
                length_m=self.steps.length_m[block],
                climb_n=self.load_basis[block, 2] * self.load[2, 0],
                resisting_n=resisting[:, 0],
                air_mps=speed[:, 0] + headwind[:, 0],
                wheel_w=wheel[:, 0],
                power_w=power[:, 0],
                seconds=seconds[:, 0],
                loaded_v=loaded[:, 0],
                pedal_w=limits.pedal_w,
            )
        lowest = loaded
        stops = self.steps.stops[block] + self.steps.slowings[block]
        if stops.any():
            charge_used, energy, seconds, lowest = self._with_stops(
                block,
                speed,
                headwind,
                resisting,
                open_v,
                most,
                charge_used,
                energy,
                seconds,
                loaded,
            )
        if first_pass and self.alive[0]:
            k = int(np.argmax(power[:, 0]))
            self.peak_power = max(self.peak_power, float(power[k, 0]))
            self.peak_current = max(self.peak_current, float(power[k, 0] / loaded[k, 0]))
            self.least_volts = min(self.least_volts, float(loaded[:, 0].min()))
        if self.ends:
            self._end(block, lowest, speed, charge_used, energy, seconds)
        spent = charge_used.sum(axis=0) * self.per_capacity
        self.charge = np.minimum(self.charge - spent, 1.0)
        self.terminal = self.terminal + energy.sum(axis=0)
        self.time = self.time + seconds.sum(axis=0)
        self.at += float(length.sum())
        if limits.step_down:
            self._step_down(loaded)
        return float(length.sum() / (length[:, 0] / speed[:, 0]).sum()), float(loaded[:, 0].mean())

    def _pack_power(self, wheel: FloatArray, open_v: FloatArray) -> FloatArray:
        columns = self.columns
        power = np.maximum(wheel - self.limits.pedal_w, 0.0)
        power *= columns.inverse_efficiency
        if self.regenerates:
            takes = self._takes()
            most = CHARGE_RATE_PER_H * columns.capacity_as / SECONDS_PER_HOUR * open_v
            power += np.maximum(np.minimum(wheel, 0.0) * (columns.regeneration * takes), -most)
        power += columns.aux_w
        return power

    def _most_power(self, open_v: FloatArray) -> FloatArray:
        """The most that motor, controller and pack give at an open-circuit voltage [W]."""
        resistance = self.columns.resistance_ohm
        volts = np.maximum(open_v, 1e-3)
        most = np.minimum(self.columns.max_power_w, MOST_OF_PEAK * volts**2 / (4 * resistance))
        if self.limits.current_limit_a is not None:
            amps = np.minimum(self.limits.current_limit_a, 0.49 * volts / resistance)
            most = np.minimum(most, amps * (volts - amps * resistance))
        return most

    def _slowed(
        self,
        limited: NDArray[np.bool_],
        most: FloatArray,
        speed: FloatArray,
        headwind: FloatArray,
        resisting: FloatArray,
        wheel: FloatArray,
        power: FloatArray,
    ) -> tuple[FloatArray, FloatArray, FloatArray]:
        """Where the power does not reach: the speed that it holds."""
        columns = self.columns
        rows, draws = np.nonzero(limited)
        drive = np.maximum(most[draws] - columns.aux_w[draws], 1.0)
        drive /= columns.inverse_efficiency[draws]
        drive += self.limits.pedal_w
        slower = speed_at_power_mps(
            drive,
            resisting[rows, draws],
            columns.drag[draws],
            headwind[rows, draws],
            speed[rows, draws],
        )
        speed, power = np.array(speed), power.copy()
        speed[rows, draws] = np.maximum(slower, 0.05)
        wheel[rows, draws] = drive
        power[rows, draws] = np.minimum(most[draws], power[rows, draws])
        return speed, wheel, power

    def _with_stops(
        self,
        block: slice,
        speed: FloatArray,
        headwind: FloatArray,
        resisting: FloatArray,
        open_v: FloatArray,
        most: FloatArray,
        charge_used: FloatArray,
        energy: FloatArray,
        seconds: FloatArray,
        riding_v: FloatArray,
    ) -> tuple[FloatArray, FloatArray, FloatArray, FloatArray]:
        """What stopping and starting again add to riding past, and the volts while gathering way."""
        steps = self.steps
        rows = np.flatnonzero(steps.stops[block] + steps.slowings[block])
        cost = stop_cost(
            self.columns,
            self.limits,
            stops=steps.stops[block][rows, None] * self.columns.stopping,
            slowings=steps.slowings[block][rows, None] * self.columns.stopping,
            speed_mps=speed[rows],
            headwind_mps=headwind[rows],
            resisting_n=resisting[rows],
            open_v=open_v[rows],
            most_w=most,
            takes=self._takes(),
        )
        lowest = riding_v.copy()
        lowest[rows] = np.where(
            steps.stops[block][rows, None] > 0,
            np.minimum(lowest[rows], cost.lasting_v),
            lowest[rows],
        )
        energy, seconds, charge_used = energy.copy(), seconds.copy(), charge_used.copy()
        energy[rows] += cost.energy_j + cost.idle_j
        seconds[rows] += cost.seconds
        charge_used[rows] += cost.charge_as
        if self.alive[0] and self.at < steps.total_m - 1e-6:
            self.peak_power = max(self.peak_power, float(cost.hardest_w.max()))
            amps = cost.hardest_w / cost.hardest_v
            self.peak_current = max(self.peak_current, float(amps.max()))
            self.least_volts = min(self.least_volts, float(cost.hardest_v.min()))
        if self.book is not None and self.alive[0]:
            self.book.add_stops(
                cost.energy_j[:, 0],
                cost.idle_j[:, 0],
                cost.loaded_v[:, 0],
                open_v[rows, 0],
                float(self.columns.inverse_efficiency[0]),
            )
        return charge_used, energy, seconds, lowest

    def _takes(self) -> FloatArray:
        """The share of what it could take that a pack takes back, by its charge."""
        return np.clip((TAKES_NOTHING_ABOVE - self.charge) / TAPER, 0.0, 1.0)

    def _end(
        self,
        block: slice,
        loaded: FloatArray,
        speed: FloatArray,
        charge_used: FloatArray,
        energy: FloatArray,
        seconds: FloatArray,
    ) -> None:
        """Who cannot go on, where, and why; a spare pack is put in."""
        limits = self.limits
        out = loaded <= limits.cutoff_v
        stuck = speed < limits.minimum_mps
        over = (out | stuck).any(axis=0) & self.alive
        if not over.any():
            return
        along = np.cumsum(self.steps.length_m[block])
        for draw in np.flatnonzero(over):
            row = int(np.argmax(out[:, draw] | stuck[:, draw]))
            by_cutoff = bool(out[row, draw])
            if by_cutoff and self.spare[draw] > 0:
                # From here on the fresh pack gives; what the step before took is the old one's.
                before = float(charge_used[:row, draw].sum() * self.per_capacity[draw])
                # The same power takes less charge at a full pack's voltage.
                fresh_v = float(self._open_v(self.full[draw : draw + 1])[0])
                charge_used[row:, draw] *= loaded[row:, draw] / fresh_v
                self.charge[draw] = self.full[draw] + before
                self.spare[draw] -= 1
                self.cap[draw] = np.inf
                continue
            self.alive[draw] = False
            self.end_m[draw] = self.at + along[row] - 0.5 * self.steps.length_m[block][row]
            self.end_reason[draw] = END_CUTOFF if by_cutoff else END_FLOOR
            share = energy[: row + 1, draw].sum() - 0.5 * energy[row, draw]
            self.end_terminal[draw] = self.terminal[draw] + share
            gone = seconds[: row + 1, draw].sum() - 0.5 * seconds[row, draw]
            self.end_time[draw] = self.time[draw] + gone

    def _step_down(self, loaded: FloatArray) -> None:
        """A controller that has stepped down stays there until the pack is changed."""
        shown = loaded.mean(axis=0)
        for below_v, speed_mps in self.limits.step_down:
            self.cap = np.where(shown < below_v, np.minimum(self.cap, speed_mps), self.cap)
