"""Every figure of a test as a column over the draws, and the quantities made of them at the end."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import PER_KM
from limpet.carry.road import LOST_OF_CLIMB
from limpet.evidence.model import RangeTest
from limpet.quantity import Quantity
from limpet.read.evidence import Evidence
from limpet.read.height_difference import UNKNOWN_END_M, Heights, climb_wh
from limpet.read.line import Estimate
from limpet.state.remaining import Remaining
from limpet.uncertain.input import Input

FloatArray = NDArray[np.float64]

#: Below this share of usable energy an extrapolation is a guess (handbook section 7).
GUESS_BELOW = 0.15
#: A share is never taken for less than this: what is extrapolated from nothing has no end [-].
LEAST_SHARE = 0.005
#: A pack that nobody measured and of whose cycles nobody knows may have lost so much [-] (assumption).
UNSEEN_AGE_STD = 0.20
#: How far off a capacity is that was brought to 25 °C and to a low rate: shares of what the cold and the load took,
#: and what is always left [-] (assumption; PyBaMM's rides of one cell from 5 to 30 °C).
BROUGHT_COLD, BROUGHT_RATE, BROUGHT_LEAST = 0.5, 0.6, 0.012
#: Less than a meter's last digit [Wh].
LEAST_WH = 1e-6
#: A range beyond this many times what was ridden is not told as a number [-].
MOST_TIMES = 100.0


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnFigures:
    """Columns over the draws, each of shape (J,), or None where the evidence cannot give it.

    `energy_value_wh` is the best value where no meter told it: the label's, of a pack not worn;
    `packs` that `share` is of, one where they are used together; `share` of all packs' usable energy; `started` with so much of the first pack's; `usable_wh` and `range_m` of
    all packs used; `warm_ah` is the capacity at 25 °C, `gentle_ah` the same of a pack that
    is emptied so slowly that nothing sags.
    """

    share: FloatArray
    energy_wh: FloatArray | None
    energy_value_wh: float
    distance_m: FloatArray | None
    usable_wh: FloatArray | None
    range_m: FloatArray | None
    capacity_ah: FloatArray | None
    warm_ah: FloatArray | None
    gentle_ah: FloatArray | None
    started: FloatArray
    packs: int
    measured: bool


def more_inputs(evidence: Evidence) -> list[Input]:
    """Inputs of the figures that no reading of the pack's state sees."""
    known = "assumption" if evidence.heights is None else "samples"
    age = UNSEEN_AGE_STD if evidence.test.sheet.pack.equivalent_full_cycles is None else 0.0
    energy, distance = evidence.energy_used, evidence.distance_used
    found = [
        Input(
            name="unseen_age",
            value=1.0,
            standard_uncertainty=age,
            source="assumption",
            shape="shortfall",
        ),
        Input(name="way_ahead", value=0.0, standard_uncertainty=1.0, source="assumption"),
        Input(name="height", value=0.0, standard_uncertainty=1.0, source=known),
    ]
    if evidence.metered.charge is not None:
        found.append(
            Input(name="brought_to_25", value=0.0, standard_uncertainty=1.0, source="assumption")
        )
    for name, item in (("energy_read", energy), ("distance_read", distance)):
        if item is not None:
            found.append(
                Input(name=name, value=0.0, standard_uncertainty=1.0, source="filled in or rounded")
            )
    return found


def read_total(item: Estimate, remaining: Remaining, name: str) -> FloatArray:
    """What an instrument's total may truly be, shape (J,): its gains and all that is independent."""
    read = item.line.span - item.filled
    gain = np.ones(remaining.posterior.scores.shape[1])
    for instrument, power in item.gains:
        # Shown is true times the gain; where it divides, too high a reading makes too little.
        gain = gain * remaining.value(instrument) ** (-1.0 if power > 0 else 1.0)
    total = read * gain + item.filled + item.other_std * remaining.value(name)
    return np.asarray(np.maximum(total, 1e-3 * item.line.span))


def began_full(remaining: Remaining) -> bool:
    """Whether each pack of a ride was said, read or taken to be full when it was begun."""
    starts = [item for item in remaining.model.inputs if item.name.startswith("start_")]
    return all(item.shape == "shortfall" for item in starts)


def drawn_figures(
    evidence: Evidence, remaining: Remaining, *, contradicted: bool = False
) -> DrawnFigures:
    """All figures in draws.

    Parameters
    ----------
    evidence : what was read of the test
    remaining : the pack's state as the readings leave it
    contradicted : they cannot all be true: of a ride from full to its end the share is what was begun with

    Notes
    -----
    Range D/f and usable energy E/f, f the share used. Range is of rides like this one, their climb per mile
    in it and back at the start's height: a ride that ended higher or lower is first brought there
    (handbook section 7). What lies beyond the ridden part scatters as one kilometre does against the next.
    """
    test, ride, heights = evidence.test, evidence.ride, evidence.heights
    energy, distance = evidence.energy_used, evidence.distance_used
    charge = evidence.metered.charge
    state, model = remaining.state, remaining.model
    first = model.ride.first_knots
    packs = max(test.sheet.packs_used or 1, 1)
    windows = len(ride.packs)
    spare = test.sheet.packs_use == "spare"
    in_turn = windows > 1 or spare or test.sheet.packs_use == "in_sequence"
    counted = windows if windows > 1 else 1
    end = remaining.at_ends(state.stored, state.cut_stored)
    charged = bool(model.ride.added_wh.any())
    used = np.maximum((state.stored[first] - end).sum(axis=0) + state.added_stored, 0.0)
    usable = state.usable.copy()
    if model.ride.ended[-1] == "stopped":
        # Another limit than the voltage ended the ride: what it left is not usable in such a ride.
        usable = np.maximum(usable - (end[-1] - state.cut_stored), 0.05 * usable)
    # Packs that were not used yet count as full ones.
    every = max(counted, packs if in_turn and not spare else 1)
    share = np.maximum(used / (every * usable), LEAST_SHARE)
    ended = ride.reached_end
    if not ended and not charged:
        share = np.minimum(share, 1.0)
    if contradicted and ended and not charged and began_full(remaining):
        before = remaining.posterior.before
        begun = [model.value(f"start_{number + 1}", before) for number in range(windows)]
        share = np.clip(np.mean(begun, axis=0), 0.5, 1.0) * counted / every
    delivered = state.capacity_ah * model.ride.series * (1 - state.lost)
    # The label's energy holds for a pack of unknown age: it must not judge age or season.
    by_label = used * delivered * np.clip(remaining.value("unseen_age"), 0.2, 1.0)
    metered = energy is not None and (bool(energy.gains) or charge is not None)
    at_end = remaining.at_ends(state.charge, state.cut_charge)
    gone = np.maximum((state.charge[first] - at_end).sum(axis=0) + state.added_charge, LEAST_SHARE)
    energy_wh = used * delivered if metered else by_label
    if charge is not None:
        # Amp-hours were counted: what they were worth is the mean voltage, whatever the pack holds.
        counted_ah = charge.quantity.value / remaining.value(charge.gain)
        energy_wh = counted_ah * model.ride.series * (1 - state.lost) * used / gone
    best_wh = float(np.median(used * delivered if charge is None else energy_wh))
    if energy is not None and energy.gains:
        energy_wh = read_total(energy, remaining, "energy_read")
    energy_wh = np.maximum(energy_wh, LEAST_WH)
    distance_m = read_total(distance, remaining, "distance_read") if distance is not None else None
    usable_wh = energy_wh / share
    range_m = None
    if distance_m is not None:
        level = np.ones_like(share)
        if not ended:
            set_aside = _height_wh(test, remaining, heights)
            level = energy_wh / np.maximum(energy_wh - set_aside, 0.4 * energy_wh)
        whole = distance_m / share * level
        ahead = np.maximum(whole - distance_m, 0.0)
        scatter = PER_KM.std / np.sqrt(np.maximum(ahead / 1000, 0.2)) * remaining.value("way_ahead")
        range_m = np.minimum(whole, distance_m) + ahead * np.exp(np.clip(scatter, -1.0, 1.0))
        range_m = np.minimum(range_m, MOST_TIMES * distance_m)
    capacity_ah = warm_ah = gentle_ah = None
    if charge is not None:
        drawn = gone
        if contradicted:
            # What was counted from full to the end is what the pack holds.
            drawn = share * every * (state.full_charge - state.cut_charge)
        whole_ah = charge.quantity.value / remaining.value(charge.gain)
        capacity_ah = whole_ah * (state.full_charge - state.cut_charge) / drawn
        capacity_ah = capacity_ah / (1 if in_turn else packs)
        warm_ah, gentle_ah = _brought(remaining, capacity_ah)
    return DrawnFigures(
        share=share,
        energy_wh=energy_wh,
        energy_value_wh=max(best_wh, LEAST_WH),
        distance_m=distance_m,
        usable_wh=usable_wh,
        range_m=range_m,
        capacity_ah=capacity_ah,
        warm_ah=warm_ah,
        gentle_ah=gentle_ah,
        started=(state.stored[0] - state.cut_stored) / state.usable,
        packs=every,
        # What was charged on the way took the ride further than the pack does.
        measured=ended and not charged,
    )


def _brought(remaining: Remaining, capacity_ah: FloatArray) -> tuple[FloatArray, FloatArray]:
    """A capacity at 25 °C, and at a low rate as well; what is put back is off by a share of itself."""
    # No reading sees it: it is as wide as it was, however much the readings scatter.
    state, before = remaining.state, remaining.posterior.before
    off = remaining.model.value("brought_to_25", before)
    cold = remaining.value("cold")
    for_cold = np.hypot(BROUGHT_COLD * (1 - cold), BROUGHT_LEAST)
    gentle = remaining.model.gentle_cut_charge(remaining.posterior.scores, state)
    window = np.maximum(state.full_charge - state.cut_charge, LEAST_SHARE)
    more = np.maximum((state.full_charge - gentle) / window, 1.0)
    both = np.hypot(for_cold, BROUGHT_RATE * (more - 1))
    return capacity_ah / cold * np.exp(for_cold * off), capacity_ah / cold * more * np.exp(
        both * off
    )


def _height_wh(test: RangeTest, remaining: Remaining, heights: Heights | None) -> FloatArray:
    """What the way back to the start's height gives [Wh], shape (J,): not all that the climb took."""
    climbed = 0.0 if heights is None else heights.climbed_m
    std = UNKNOWN_END_M if heights is None else heights.std_m
    stored = climb_wh(test, climbed) + climb_wh(test, std) * remaining.value("height")
    return stored * (1 - LOST_OF_CLIMB / 2)


def quantity(draws: FloatArray, unit: str, value: float | None = None) -> Quantity:
    """A quantity of draws: their median, or a value that was read, with their 95% interval.

    Parameters
    ----------
    draws : shape (J,), in the unit
    unit : of the quantity
    value : as it was read; the draws' median when None
    """
    return Quantity.from_draws(draws, unit, float(np.median(draws)) if value is None else value)
