"""The line of energy left: all readings of the pack's state, brought together along the ride."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import hypot, sqrt

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import PER_KM
from limpet.evidence.model import RangeTest
from limpet.pack import Chemistry, CurveFamily, PackSpec, resistance_factor, voltage_limits
from limpet.read.charges import Charges, charges_of
from limpet.read.evidence import Evidence
from limpet.read.progress import between_std, form_std
from limpet.read.readings import Reading, gauge_steps
from limpet.read.stated import pack_temp_c
from limpet.read.window import RideWindow
from limpet.state.priors import Priors
from limpet.state.state_model import Ended, Gauges, Ride, ShownRanges, State, StateModel, Volts
from limpet.state.uncertain_inputs import LAG_V_PER_RATE, metres_of_height, world_inputs
from limpet.uncertain.input import Input
from limpet.uncertain.isotonic import isotonic
from limpet.uncertain.posterior import Posterior, infer

FloatArray = NDArray[np.float64]

#: Draws and seed; the seed is fixed so that a result repeats.
DRAWS = 1000
SEED = 20260514
#: What a settled cell shows beside its curve for reasons of its own, how much more where it has not
#: settled, and under load, where one number of the ride does not tell it all [V] (assumption).
OWN_STD_V, UNSETTLED_STD_V, LOADED_STD_V = 0.003, 0.010, 0.014
#: Volts that have not settled show what pulled last, and that is not the mean of the ride: u of it, relative to
#: the mean's lag; more of iron phosphate, on whose plateau it is worth a fifth of the pack (assumption; PyBaMM's
#: stops of ten seconds).
LAST_PULL_STD, LFP_LAST_PULL_STD = 0.35, 0.6
#: No pack is ridden empty faster than in a quarter of an hour [1/h].
MOST_RATE = 4.0
#: u of a gauge against a smooth map of what is left [-], and of a hand-read current, relative. One that goes by
#: the volts of iron phosphate stands near two thirds over most of the pack and falls at its end: no smooth map
#: is near it (PyBaMM, Prada 2013).
GAUGE_STD, LEARNED_GAUGE_STD, PLATEAU_GAUGE_STD, AMPS_STD = 0.035, 0.03, 0.20, 0.08
#: A gauge that rises without a charge goes by volts, and swings with the throttle: u over the scatter about
#: the nearest falling line, which runs through some of it (assumption; simulated rides of 4 to 8 readings).
SWING_GAIN = 1.5
#: u of the log of what a display promises beside its own factor: it goes by the last few kilometres
#: (assumption).
SHOWN_STD = 0.15
#: Readings of one instrument go wrong together: of so many each is worth its number, more are worth less (assumption).
WORTH: dict[str, int] = {"gauge": 3, "shown_range_m": 2}
#: Where in its step a gauge stands, and u of that [steps]: rounded down, up or off (assumption).
STEP_LAG, STEP_STD = 0.25, 0.35
#: The same of a current that nobody read, of about half the 1-hour one, relative.
UNREAD_STD = 0.4


@dataclass(frozen=True, slots=True, kw_only=True)
class Remaining:
    """Energy left along the ride, in draws; `times` are those of the knots [s], shape (K,)."""

    model: StateModel
    posterior: Posterior
    state: State
    times: FloatArray

    def value(self, name: str) -> FloatArray:
        """An input's draws, shape (J,)."""
        return self.model.value(name, self.posterior.scores)

    def at_ends(self, along: FloatArray, at_cutoff: FloatArray) -> FloatArray:
        """What a quantity of the knots (K, J) is at the end of each pack's part, shape (W, J).

        Where the drive was cut off it is that of the cut-off (J,), by definition.
        """
        ride = self.model.ride
        cut = np.array([ended == "cutoff" for ended in ride.ended])
        return np.where(cut[:, None], at_cutoff, along[ride.last_knots])


def remaining_energy(
    evidence: Evidence,
    more: list[Input],
    *,
    family: CurveFamily,
    priors: Priors,
    draws: int = DRAWS,
    under_way: bool = False,
    cruise_w: float | None = None,
) -> Remaining:
    """Draw the pack's state along the ride as the readings leave it.

    Parameters
    ----------
    evidence : what was read of the test
    more : further inputs, drawn with the others, that no reading of the pack's state sees
    family : of curves that the cells' is drawn from
    priors : what earlier tests taught
    under_way, cruise_w : the ride goes on; see `world_inputs` and `Ride`
    """
    times, window = _knots(evidence.ride, evidence.readings)
    charges = charges_of(evidence.test, evidence.ride)
    inputs = world_inputs(evidence, priors, under_way=under_way)
    if charges is not None:
        inputs.append(
            Input(
                name="charged",
                value=1.0,
                standard_uncertainty=charges.std,
                source="charged on the way",
                shape="lognormal",
            )
        )
    usual = next(item.value for item in inputs if item.name == "consumption")
    of_ride = _ride(evidence, family, priors, times, window, charges, usual)
    model = StateModel(
        ride=replace(of_ride, cruise_w=cruise_w),
        family=family,
        inputs=[*inputs, *more],
    )
    posterior = infer(model.look, len(model.inputs), draws, SEED)
    if evidence.meter is not None:
        posterior = _as_stated(posterior, [model.rows[name] for name, _ in evidence.meter.gains])
    return Remaining(
        model=model, posterior=posterior, state=model.state(posterior.scores), times=times
    )


def _as_stated(posterior: Posterior, rows: list[int]) -> Posterior:
    """The same with the gains of the meter that tells the energy as they were drawn from what it states: the
    pack's fit may check a meter, not move it (handbook section 4)."""
    scores = posterior.scores.copy()
    scores[rows] = posterior.before[rows]
    return replace(posterior, scores=scores)


def _knots(ride: RideWindow, found: Sequence[Reading]) -> tuple[FloatArray, NDArray[np.intp]]:
    """Moments at which the state is followed, and which of the packs each is of."""
    times: list[FloatArray] = []
    window: list[int] = []
    for number, (begin, end) in enumerate(ride.packs):
        inside = [
            min(max(item.time_s, begin), end) for item in found if window_of(ride, item) == number
        ]
        here = np.unique([begin, *inside, max(end, begin)])
        if len(here) == 1:
            here = np.array([begin, begin])
        times.append(here)
        window += [number] * len(here)
    return np.concatenate(times), np.array(window, dtype=np.intp)


def window_of(ride: RideWindow, item: Reading) -> int:
    """Which of the packs used one after another a reading is of.

    Parameters
    ----------
    ride : the window, with its swaps
    item : a reading with its time [s]
    """
    if item.pack is not None and 1 <= item.pack <= len(ride.packs):
        return item.pack - 1
    last = 0
    for number, (begin, _) in enumerate(ride.packs):
        if item.time_s > begin or (number == 0 or (item.time_s == begin and item.fresh)):
            last = number
    return last


def _ride(
    evidence: Evidence,
    family: CurveFamily,
    priors: Priors,
    times: FloatArray,
    window: NDArray[np.intp],
    charges: Charges | None,
    usual: float,
) -> Ride:
    test, ride, progress, found = (
        evidence.test, evidence.ride, evidence.progress, evidence.readings
    )  # fmt: skip
    pack = test.sheet.pack
    at = progress.line.at(times)
    step = np.maximum(np.diff(at, prepend=at[0]), 0.0)
    step[np.diff(window, prepend=0) > 0] = 0.0
    step_std = np.zeros(len(step))
    if progress.basis == "distance":
        step_std = form_std(step, PER_KM.std, metres_of_height(test))
    elif progress.basis == "time":
        step_std = np.full(len(step), 0.3)
    elif progress.filled_std is not None:
        step_std = between_std(progress, times) / np.maximum(step, 1e-9)
        step_std = np.where(step_std > 0.002, np.minimum(step_std, 0.8), 0.0)
    full_v, cutoff_v, _ = voltage_limits(pack)
    middle = family.drawn(np.zeros((family.modes, 1)))
    full_z = float(middle.charge_at_voltage(np.array([full_v / pack.series + 0.004]))[0])
    mean_a = progress.metered_a
    if mean_a is None:
        mean_a = (
            usual * float(step.sum()) / (pack.series * family.mean_v) / max(progress.hours, 1e-3)
        )
    slower = float(resistance_factor(np.array([pack_temp_c(test)]))[0])
    lag_v = LAG_V_PER_RATE * slower * min(mean_a / pack.rated_ah, MOST_RATE)
    volts = [item for item in found if item.kind in ("rest", "load")]
    gauges = [item for item in found if item.kind == "gauge"]
    # Beside a meter the consumption is the meter's, and what a display promises adds nothing.
    by_way = progress.basis == "distance"
    shown = [item for item in found if item.kind == "shown" and by_way]
    added_wh = _added_wh(charges, times)

    def knots(items: Sequence[Reading]) -> NDArray[np.intp]:
        rows = []
        for item in items:
            number = window_of(ride, item)
            begin, end = ride.packs[number]
            mine = np.flatnonzero(window == number)
            rows.append(mine[int(np.argmin(abs(times[mine] - min(max(item.time_s, begin), end))))])
        return np.array(rows, dtype=np.intp)

    return Ride(
        basis=progress.basis,
        series=pack.series,
        knot_window=window,
        step=step,
        step_std=step_std,
        hours=progress.hours,
        gain=progress.gain,
        metered_a=progress.metered_a,
        full_z=min(full_z, 1.0),
        cutoff_v=cutoff_v,
        added_wh=added_wh,
        volts=_volts(volts, knots(volts), pack, evidence.resistance.ohm, lag_v),
        gauges=_gauges(
            test,
            ride,
            gauges,
            knots(gauges),
            window,
            added_wh,
            map_std(pack.chemistry, "gauge_bend" in priors.learned),
        ),
        shown=ShownRanges(
            knot=knots(shown),
            shown_m=np.array([item.value for item in shown]),
            std=np.full(len(shown), SHOWN_STD * less_worth("shown_range_m", len(shown))),
        ),
        ended=_ended(test, ride),
    )


def _added_wh(charges: Charges | None, times: FloatArray) -> FloatArray:
    """What was charged before each knot and after the one before it [Wh], shape (K,)."""
    added = np.zeros(len(times))
    if charges is not None:
        rows = np.minimum(np.searchsorted(times, charges.time_s - 1e-6), len(times) - 1)
        np.add.at(added, rows, charges.energy_wh)
    return added


def _ended(test: RangeTest, ride: RideWindow) -> tuple[Ended, ...]:
    before: list[Ended] = ["cutoff" if cut else "running" for cut in ride.cut_before]
    reason = test.sheet.ending.reason if test.sheet.ending else None
    if not ride.reached_end:
        return (*before, "running")
    # Protection, or a speed that fell too low, comes near cut-off, not at it.
    return (
        *before,
        "cutoff" if reason in ("cutoff", None) or ride.cutoff_s is not None else "stopped",
    )


def _volts(
    volts: Sequence[Reading], knot: NDArray[np.intp], pack: PackSpec, ohm: float, lag_v: float
) -> Volts:
    last_pull = LFP_LAST_PULL_STD if pack.chemistry == "lfp" else LAST_PULL_STD
    unsettled_v = hypot(UNSETTLED_STD_V, last_pull * lag_v)
    lag = np.array([unsettled(item) for item in volts])
    std = [
        hypot(
            item.step / sqrt(12),
            pack.series
            * (LOADED_STD_V if item.kind == "load" else hypot(OWN_STD_V, unsettled_v * part)),
            _sag_std_v(item, pack, ohm),
        )
        for item, part in zip(volts, lag, strict=True)
    ]
    amps = [
        0.0 if item.kind == "rest" else np.nan if item.current_a is None else item.current_a
        for item in volts
    ]
    return Volts(
        knot=knot,
        shown_v=np.array([item.value for item in volts]),
        std_v=np.array(std),
        share_unsettled=lag,
        current_a=np.array(amps),
        unsettled_std_v=unsettled_v,
    )


def _sag_std_v(item: Reading, pack: PackSpec, ohm: float) -> float:
    """What a reading under load is off because its current was read by hand, or not at all [V]."""
    if item.kind == "rest" or item.source == "samples":
        return 0.0
    if item.current_a is not None:
        return AMPS_STD * abs(item.current_a) * ohm
    return UNREAD_STD * 0.5 * pack.rated_ah * ohm


def unsettled(item: Reading) -> float:
    """Share of the ride's lag that is still in a reading [-] (assumption: a fast and a slow part)."""
    if item.settled_s is None:
        return 1.0
    return float(0.6 * np.exp(-item.settled_s / 120) + 0.4 * np.exp(-item.settled_s / 1500))


def less_worth(name: str, count: int) -> float:
    """By how much each of so many readings of an instrument is less sure than one [-]."""
    return sqrt(max(count, WORTH[name]) / WORTH[name])


#: A gauge rises by so much of its full when a fresh pack is put in behind it [-] (assumption).
FRESH_RISE = 0.1


def _gauges(
    test: RangeTest,
    ride: RideWindow,
    gauges: Sequence[Reading],
    knot: NDArray[np.intp],
    window: NDArray[np.intp],
    added_wh: FloatArray,
    off: float,
) -> Gauges:
    steps = gauge_steps(test, gauges)
    more = less_worth("gauge", len(gauges))
    shown = np.array([gauge_share(item, steps) for item in gauges])
    swing = _swing(shown, (window + np.cumsum(added_wh > 0))[knot])
    # What swings is new at every reading, and before the first metre nothing swings.
    first = np.isin(knot, np.flatnonzero(np.diff(window, prepend=-1) > 0))
    stated = [more * gauge_std(item, steps, off) for item in gauges]
    return Gauges(
        knot=knot,
        shown=shown,
        std=np.hypot(stated, swing * ~first),
        map_std=off,
        swing=swing,
        of_all=_of_all(ride, gauges, steps),
    )


def _swing(shown: FloatArray, stretch: NDArray[np.intp]) -> float:
    """By how much a gauge goes up and down with the throttle, u of one reading [-]; 0 where it only falls.

    Parameters
    ----------
    shown : shares of full, in time, shape (n,)
    stretch : which stretch between fresh packs and charges each was read in, shape (n,)
    """
    off: list[float] = []
    for number in np.unique(stretch):
        mine = shown[stretch == number]
        off += (mine + isotonic(-mine, np.ones(len(mine)))).tolist()
    return SWING_GAIN * float(np.sqrt(np.mean(np.square(off)))) if len(shown) > 2 else 0.0


def _of_all(ride: RideWindow, gauges: Sequence[Reading], steps: float) -> bool:
    """Whether one gauge watches all packs: it did not rise where a fresh one was put in."""
    seen = False
    for begin, _ in ride.packs[1:]:
        before = [item for item in gauges if item.time_s < begin - 1e-6]
        after = [item for item in gauges if item.time_s >= begin - 1e-6]
        if not before or not after:
            continue
        if after[0].value - before[-1].value > FRESH_RISE * steps:
            return False
        # A pack that was hardly used when it was taken out leaves nothing to rise by.
        seen = seen or before[-1].value < (1 - 2 * FRESH_RISE) * steps
    return seen


def gauge_share(item: Reading, steps: float) -> float:
    """What a gauge shows, of its full [-]: a step is shown from its upper end down (assumption).

    Parameters
    ----------
    item : a reading of the gauge
    steps : what it shows when full
    """
    return (item.value - STEP_LAG * item.step) / steps


def gauge_std(item: Reading, steps: float, off: float = GAUGE_STD) -> float:
    """u of that against a smooth map, with the step's own width [-].

    Parameters
    ----------
    item : a reading of the gauge
    steps : what it shows when full
    off : how far such a gauge is from a smooth map (`map_std`)
    """
    return hypot(off, STEP_STD * item.step / steps)


def map_std(chemistry: Chemistry, learned: bool) -> float:
    """How far a gauge is from a smooth map of what is left, u [-]; less of one that rides taught.

    Parameters
    ----------
    chemistry : of the cells whose volts it may go by
    learned : whether its map was learned from rides
    """
    if chemistry == "lfp":
        return PLATEAU_GAUGE_STD
    return LEARNED_GAUGE_STD if learned else GAUGE_STD
