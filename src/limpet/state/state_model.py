"""The state of the pack along a ride: one model, and what every reading says of it.

Shapes: n readings, K knots (moments between which the pack was used), W windows (packs used one after
another), J draws.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import InstrumentName
from limpet.pack import cut_charge, low_charge_factor, peukert_factor
from limpet.pack.family import CurveFamily, Curves
from limpet.read.progress import Basis
from limpet.uncertain.input import Input
from limpet.uncertain.posterior import Observation

FloatArray = NDArray[np.float64]
#: How a pack's part of the ride ended: at its cut-off, by a limit that lies near it, or not at all.
Ended = Literal["cutoff", "stopped", "running"]

#: What is lost as heat is that of a current somewhat above the mean, since it goes with its square.
#: From so many σ on a reading's say grows no faster than its error (pseudo-Huber).
SOFT = 1.5
#: How near its cut-off a pack is where the drive stopped, where another limit stopped it, and how far
#: below it may still run [-] (assumption).
AT_CUTOFF_STD, NEAR_CUTOFF_STD, RUNNING_STD = 0.008, 0.06, 0.01
FORM_FACTOR = 1.2
MOST_LOST = 0.4


@dataclass(frozen=True, slots=True, kw_only=True)
class Volts:
    """Pack voltages: where they were read, what they show [V] and how far they may be off [V].

    `knot` indexes the moments; `share_unsettled` is the part of the ride's lag that is still there
    (1 under load, 0 long after); `current_a` is 0 at rest, NaN where it has to be told from the ride.
    All of shape (n,). `unsettled_std_v` is how far one may be off at once after a pull [V a cell].
    """

    knot: NDArray[np.intp]
    shown_v: FloatArray
    std_v: FloatArray
    share_unsettled: FloatArray
    current_a: FloatArray
    unsettled_std_v: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Gauges:
    """Shares that the vehicle's gauge shows [0 to 1], and how far they may be off; shape (n,).

    `of_all` where it shows what is left of all packs together, and not of the one in use; `swing` by how
    much it goes up and down with the throttle, u of a reading while it is ridden [-]; `map_std` how far its
    map is from a smooth one [-].
    """

    knot: NDArray[np.intp]
    shown: FloatArray
    std: FloatArray
    map_std: float
    swing: float = 0.0
    of_all: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownRanges:
    """What a display promised to be left [m], and how far its log may be off beside its own factor; shape (n,)."""

    knot: NDArray[np.intp]
    shown_m: FloatArray
    std: FloatArray


@dataclass(frozen=True, slots=True, kw_only=True)
class Ride:
    """What the model needs to know of a ride, in numbers.

    Parameters
    ----------
    basis : what progress is counted in: Ah, Wh, metres or seconds
    knot_window : which pack each knot is of, shape (K,)
    step : progress from the knot before it of the same pack, shape (K,)
    step_std : how far a step's use may lie beside its progress, relative, shape (K,)
    hours : of driving; `gain` names the instrument of a metered progress; `metered_a` the mean current of it [A], None when not metered
    amps_per_mean : current at cut-off over the mean one, None when not logged
    added_wh : charged since the knot before [Wh], shape (K,)
    """

    basis: Basis
    series: int
    knot_window: NDArray[np.intp]
    step: FloatArray
    step_std: FloatArray
    hours: float
    gain: InstrumentName | None
    metered_a: float | None
    full_z: float
    cutoff_v: float
    added_wh: FloatArray
    volts: Volts
    gauges: Gauges
    shown: ShownRanges
    ended: tuple[Ended, ...]
    #: What it would be ridden with [W], of a ride that nothing was ridden of yet; None asks the progress.
    cruise_w: float | None = None

    @property
    def windows(self) -> int:
        """How many packs were used one after another."""
        return int(self.knot_window[-1]) + 1

    @property
    def first_knots(self) -> NDArray[np.intp]:
        """Where each pack's part begins, shape (W,)."""
        return np.searchsorted(self.knot_window, np.arange(self.windows))

    @property
    def last_knots(self) -> NDArray[np.intp]:
        """Where it ends, shape (W,)."""
        return np.searchsorted(self.knot_window, np.arange(self.windows), side="right") - 1


@dataclass(frozen=True, slots=True, kw_only=True)
class State:
    """The pack in each draw; columns of shape (J,), at knots (K, J), of windows (W, J).

    `stored` is ∫U dz [V]: energy per amp-hour of a cell, `usable` from full to cut-off; `lost` the share
    that becomes heat; `added_stored` and `added_charge` what was charged on the way in all.
    """

    curves: Curves
    capacity_ah: FloatArray
    charge: FloatArray
    cut_charge: FloatArray
    full_charge: float
    stored: FloatArray
    usable: FloatArray
    cut_stored: FloatArray
    added_stored: FloatArray
    added_charge: FloatArray
    current_a: FloatArray
    resistance_ohm: FloatArray
    lost: FloatArray


@dataclass(slots=True)
class StateModel:
    """Inputs, their scores and what follows of them."""

    ride: Ride
    family: CurveFamily
    inputs: list[Input]
    rows: dict[str, int] = field(init=False)
    seen: NDArray[np.intp] = field(init=False)

    def __post_init__(self) -> None:
        self.inputs = [
            *self.inputs,
            *(_unit(f"curve_{k + 1}", self.family.source) for k in range(self.family.modes)),
        ]
        # A step's own scatter is drawn only where there is some.
        self.seen = np.flatnonzero(self.ride.step_std * self.ride.step > 0)
        self.inputs += [_unit(f"way_{k}", "assumption") for k in self.seen]
        self.rows = {item.name: k for k, item in enumerate(self.inputs)}

    def value(self, name: str, scores: FloatArray) -> FloatArray:
        """An input at its scores, shape (J,)."""
        row = self.rows[name]
        return self.inputs[row].drawn(scores[row])

    def _block(self, name: str, count: int, scores: FloatArray) -> FloatArray:
        first = self.rows[name]
        return scores[first : first + count]

    def state(self, scores: FloatArray) -> State:
        """The pack of each draw, along the ride."""
        ride, value = self.ride, self.value
        curves = self.family.drawn(self._block("curve_1", self.family.modes, scores))
        count = scores.shape[1]
        capacity = value("rated_ah", scores) * value("label", scores) * value("retained", scores)
        capacity = capacity * value("cold", scores)
        ohm = value("resistance_ohm", scores)
        mean_v = ride.series * self.family.mean_v
        # What a meter shows too much of was not drawn.
        rate = value("consumption", scores) if ride.gain is None else 1 / value(ride.gain, scores)
        steps = ride.step[:, None] * np.ones((1, count))
        if len(self.seen):
            steps[self.seen] *= np.exp(
                ride.step_std[self.seen, None]
                * scores[self.rows[f"way_{self.seen[0]}"] :][: len(self.seen)]
            )
        gone = np.cumsum(steps, axis=0)
        gone -= gone[ride.first_knots][ride.knot_window]
        hours = max(ride.hours, 1e-3)
        if ride.metered_a is not None:
            current = rate * ride.metered_a
        else:
            current = rate * float(ride.step.sum()) / mean_v / hours
            if ride.cruise_w is not None and not ride.step.any():
                current = np.full(count, ride.cruise_w / mean_v)
        if "peukert" in self.rows:
            rated = value("rated_ah", scores) * value("label", scores)
            capacity = capacity * peukert_factor(current, rated, value("peukert", scores))
        lag = value("lag", scores) * current / np.maximum(capacity, 1e-6)
        sag = FORM_FACTOR * current * ohm + ride.series * lag
        lost = np.minimum(sag / mean_v, MOST_LOST)
        end_a = current * value("end_current", scores)
        cut_v = ride.cutoff_v * value("cutoff", scores) / ride.series
        low = value("low_charge_resistance", scores)
        cut = cut_charge(
            curves, cut_v, sag_v=end_a * ohm / ride.series, growth=low, lag_v=lag, full=ride.full_z
        )
        share = np.stack([value(f"start_{w + 1}", scores) for w in range(ride.windows)])
        start = cut + (ride.full_z - cut) * np.clip(share, 0.0, 1.0)
        start_stored = curves.energy(start)
        per = rate / capacity
        cut_stored = curves.energy(cut[None])[0]
        full_stored = curves.energy(np.full((1, count), ride.full_z))[0]
        added = self._added(scores, capacity)
        if ride.basis == "charge":
            charge = start[ride.knot_window] - gone * per
            charge, added_charge = _filled(charge, added / self.family.mean_v, ride.full_z)
            stored = curves.energy(charge)
            added_stored = added_charge * self.family.mean_v
        else:
            stored = start_stored[ride.knot_window] - gone * per / ride.series / (1 - lost)
            stored, added_stored = _filled(stored, added, full_stored)
            charge = curves.charge_at_energy(stored)
            added_charge = added_stored / self.family.mean_v
        return State(
            curves=curves,
            capacity_ah=capacity,
            charge=charge,
            cut_charge=cut,
            full_charge=ride.full_z,
            stored=stored,
            usable=full_stored - cut_stored,
            cut_stored=cut_stored,
            added_stored=added_stored,
            added_charge=added_charge,
            current_a=current,
            resistance_ohm=ohm,
            lost=lost,
        )

    def gentle_cut_charge(self, scores: FloatArray, state: State) -> FloatArray:
        """Charge at the cut-off of a pack that is emptied in a day, shape (J,) [-]."""
        cut_v = self.ride.cutoff_v * self.value("cutoff", scores) / self.ride.series
        nothing = np.zeros_like(cut_v)
        low = self.value("low_charge_resistance", scores)
        return cut_charge(
            state.curves, cut_v, sag_v=nothing, growth=low, lag_v=nothing, full=self.ride.full_z
        )

    def _added(self, scores: FloatArray, capacity: FloatArray) -> FloatArray:
        """What had been charged by each knot, per amp-hour of a cell [V], shape (K, J) or (K, 1)."""
        ride = self.ride
        if not ride.added_wh.any():
            return np.zeros((len(ride.step), 1))
        so_far = np.cumsum(ride.added_wh)[:, None]
        so_far -= so_far[ride.first_knots][ride.knot_window]
        return np.asarray(so_far * self.value("charged", scores) / (capacity * ride.series))

    def gauge_left(self, state: State) -> FloatArray:
        """Share of usable energy left of what the gauge watches where it was read, shape (n, J)."""
        gauges, ride = self.ride.gauges, self.ride
        left = (state.stored[gauges.knot] - state.cut_stored) / state.usable
        if not gauges.of_all:
            return left
        # Packs that were not begun are as full as a fresh one (assumption); those taken out are spent.
        spare = ride.windows - 1 - ride.knot_window[gauges.knot]
        return (left + spare[:, None]) / ride.windows

    def range_left_m(self, state: State, knot: NDArray[np.intp], scores: FloatArray) -> FloatArray:
        """How far what is left would go at the ride's own consumption [m], shape (n, J)."""
        left = np.maximum(state.stored[knot] - state.cut_stored, 0.0)
        left_wh = left * state.capacity_ah * self.ride.series * (1 - state.lost)
        return np.asarray(left_wh / self.value("consumption", scores))

    def look(self, scores: FloatArray) -> Observation:
        """What every reading sees at scores of shape (P, J)."""
        ride, state = self.ride, self.state(scores)
        count = scores.shape[1]
        found: list[FloatArray] = []
        places: list[FloatArray] = []
        slopes: list[FloatArray] = []
        volts = ride.volts
        if len(volts.knot):
            charge = state.charge[volts.knot]
            open_v = state.curves.voltage(charge)
            lag = self.value("lag", scores) * state.current_a / state.capacity_ah
            told = np.isnan(volts.current_a)
            amps = np.where(told, 0.0, volts.current_a)[:, None] + told[:, None] * (
                state.current_a * self.value("pull", scores)
            )
            low = low_charge_factor(charge, self.value("low_charge_resistance", scores))
            shown = ride.series * (open_v - volts.share_unsettled[:, None] * lag)
            shown = shown - amps * state.resistance_ohm * low
            shown = shown * self.value("voltage", scores)
            found.append((shown - volts.shown_v[:, None]) / volts.std_v[:, None])
            places.append(charge)
            slopes.append(ride.series * state.curves.slope(charge) / volts.std_v[:, None])
        gauges = ride.gauges
        if len(gauges.knot):
            left = self.gauge_left(state)
            bottom = self.value("gauge_bottom", scores)
            if "gauge_leads" in self.rows:
                left = led(left, self.value("gauge_leads", scores))
            shown = (np.clip((left - bottom) / (1 - bottom), 1e-3, 1.2)) ** self.value(
                "gauge_bend", scores
            )
            if "gauge_drop" in self.rows:
                # Before the first metre nothing pulls.
                ridden = ~np.isin(gauges.knot, ride.first_knots)
                shown = shown - ridden[:, None] * self.value("gauge_drop", scores)
            found.append((shown - gauges.shown[:, None]) / gauges.std[:, None])
        promised = ride.shown
        if len(promised.knot):
            on_m = self.range_left_m(state, promised.knot, scores)
            came = self.value("came_of_shown", scores)
            off = np.log(np.maximum(on_m, 1.0) / (promised.shown_m[:, None] * came))
            found.append(off / promised.std[:, None])
        if ride.step.any():
            over = state.charge[ride.last_knots] - state.cut_charge
            for row, ended in zip(over, ride.ended, strict=True):
                found.append(_past_end(row, ended)[None])
        if not found:
            nothing = np.zeros((0, count))
            return Observation(residual=nothing, place=nothing, slope=nothing)
        residual = np.concatenate(found)
        direct = np.zeros((len(residual) - len(volts.knot), count))
        return Observation(
            residual=softened(residual),
            place=np.concatenate([*places, direct]),
            slope=np.concatenate([*slopes, direct]) * softening(residual),
        )


def led(left: FloatArray, leads: FloatArray) -> FloatArray:
    """What a gauge before several packs goes by, of what is left of all: `leads` 0 their mean, n − 1 the
    fuller of n that run down one after the other [-].

    Parameters
    ----------
    left : share left of all packs, any shape [-]
    leads : by how many packs the gauge's own goes ahead [-]

    Returns
    -------
    of the same shape [-]
    """
    return np.asarray(np.minimum(left * (1 + leads), np.maximum(left, 1.0)))


def _filled(
    along: FloatArray, added: FloatArray, full: FloatArray | float
) -> tuple[FloatArray, FloatArray]:
    """A quantity of the knots with what was added to it, and that in all: a full pack takes no more."""
    if not added.any():
        return along, np.zeros(along.shape[1])
    along = along + added
    spilt = np.maximum.accumulate(np.maximum(along - full, 0.0), axis=0)
    return along - spilt, added[-1] - spilt[-1]


def _past_end(over: FloatArray, ended: Ended) -> FloatArray:
    """Residual of the charge left over cut-off at the end of a pack's part, shape (J,)."""
    if ended == "cutoff":
        return over / AT_CUTOFF_STD
    if ended == "stopped":
        return over / NEAR_CUTOFF_STD
    # A drive that still pulled was not below it.
    return np.minimum(over, 0.0) / RUNNING_STD


def softened(residual: FloatArray) -> FloatArray:
    """Residuals whose square grows only in proportion beyond `SOFT` [σ]: no slip rules all others."""
    scaled = residual / SOFT
    return np.asarray(np.sign(residual) * SOFT * np.sqrt(2 * (np.sqrt(1 + scaled**2) - 1)))


def softening(residual: FloatArray) -> FloatArray:
    """How fast a softened residual grows with the plain one, 0 to 1."""
    root = np.sqrt(1 + (residual / SOFT) ** 2)
    return np.asarray(np.sqrt((root + 1) / 2) / root)


def _unit(name: str, source: str) -> Input:
    return Input(name=name, value=0.0, standard_uncertainty=1.0, source=source)
