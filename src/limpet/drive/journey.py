"""A trip ridden by all its draws: what the questions of a forecast are asked of."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import GAUGE_BEND
from limpet.carry.start_values import POLICIES
from limpet.drive.draws import (
    Columns,
    at_temperature,
    columns_of,
    drawn_inputs,
    waits_s,
)
from limpet.drive.inputs import Inputs, inputs_of
from limpet.drive.limits import PackLimits
from limpet.drive.steps import Steps, steps_of
from limpet.drive.walk import Walk, walk
from limpet.pack import Curves, curve_family, cut_charge, voltage_limits
from limpet.road import Route
from limpet.road.load import along_and_up, pack_power_w, wheel_power_w
from limpet.trip import Trip
from limpet.uncertain.input import Input
from limpet.units import SECONDS_PER_HOUR, STANDARD_GRAVITY_MPS2

FloatArray = NDArray[np.float64]

#: A step is at most this part of the likely range, and a block that.
STEPS_PER_RANGE = 500
BLOCKS_PER_RANGE = 120
#: A look with few draws, such as a slider's, needs no finer blocks than its draws are.
QUICK_DRAWS, QUICK_BLOCKS = 250, 50
#: Steps of a way, and steps times draws, that are walked at most; a leg adds a few of its own.
MOST_STEPS, MOST_CELLS = 3000, 4_000_000
SHORTEST_STEP_M, LONGEST_STEP_M = 10.0, 2000.0
#: A walk ends at this many likely ranges, for ways that give more than they take.
MOST_RANGES = 6.0
#: Steps looked at for the mean power.
MEAN_STEPS = 200

#: Inputs that swing, and the span of those that a rider chooses, relative to the best value;
#: the others swing over ±2 u (assumptions).
CHOSEN_SPAN = {
    "target_speed_mps": (0.8, 1.2),
    "tyre_kpa": (0.7, 1.1),
    "climb_factor": (0.5, 1.5),
    "stops_factor": (0.5, 1.5),
}
#: Seasons, weathers and loads that the same trip may see, about the best value.
LIKELY_SPAN = {"temp_c": (-10.0, 10.0), "gear_kg": (-5.0, 15.0)}
#: A windy day for want of a worse one [m/s].
WINDY_MPS = 6.0
#: Not swung: how a day differs, which nobody can set.
NOT_SWUNG = frozenset({"riding", "surface", "wind_from_deg", "pack_warming", "speed_cv", "peukert"})


@dataclass(frozen=True, slots=True, kw_only=True)
class Draws:
    """A trip's inputs as columns: the best values, `count` draws, then two swings per input.

    `likely_m` is about the range with all packs [m].
    """

    inputs: Inputs
    columns: Columns
    limits: PackLimits
    start_charge: FloatArray
    empty_share: FloatArray
    count: int
    swings: tuple[tuple[str, float, float], ...]
    likely_m: float

    @property
    def curves(self) -> Curves:
        """The open-circuit curve of each draw's pack."""
        return self.limits.family.drawn(self.columns.modes)


@dataclass(frozen=True, slots=True, kw_only=True)
class Ridden:
    """A walk with the share of usable energy left at its marks (m, J)."""

    walk: Walk
    left: FloatArray
    reserve_m: FloatArray
    reserve_j: FloatArray


def draws_of(trip: Trip, route: Route, *, swings: bool) -> Draws:
    """Everything that is drawn once for a trip.

    Parameters
    ----------
    trip : its values with their uncertainties
    route : legs or a track
    swings : whether the road's own scatter is drawn too
    """
    inputs = inputs_of(trip, route)
    table = drawn_inputs(trip, inputs, trip.draws, trip.seed)
    spans = _spans(inputs) if swings else ()
    if spans:
        for name, values in table.items():
            best = np.full(2 * len(spans), values[0])
            for k, (swung, low, high) in enumerate(spans):
                if swung == name:
                    best[2 * k : 2 * k + 2] = low, high
            table[name] = np.concatenate([values, best])
    columns = columns_of(trip, inputs, table)
    limits = limits_of(trip)
    steps = steps_of(route, 1000.0)
    power, mean_speed = _mean_power(steps, columns, trip.rider.pedal_power_w)
    mid_v = limits.family.mean_v * limits.series
    current = power / mid_v
    columns = at_temperature(trip, columns, table, current)
    curves = limits.family.drawn(columns.modes)
    empty_z = cut_charge(
        curves,
        limits.cutoff_v / limits.series,
        sag_v=current * columns.resistance_ohm / limits.series,
        growth=columns.low_charge,
    )
    whole = curves.energy(np.ones((1, len(columns))))
    share = np.clip(table["start_energy_fraction"], 0.01, 1.0)
    start_z = curves.charge_at_energy(share * whole)[0]
    empty_share = np.clip(curves.energy(empty_z[None]) / whole, 0.0, 0.95)[0]
    energy_j = float(columns.capacity_as[0] * mid_v) * limits.packs_in_sequence
    likely = energy_j / max(float(power[0]), 5.0) * float(mean_speed[0])
    return Draws(
        inputs=inputs,
        columns=columns,
        limits=limits,
        start_charge=start_z,
        empty_share=empty_share,
        count=trip.draws,
        swings=spans,
        likely_m=max(likely, 100.0),
    )


def limits_of(trip: Trip) -> PackLimits:
    """What the drive of a trip does as its pack fades."""
    accel, brake, wait = waits_s(trip)
    sequence = trip.packs.count if trip.packs.use == "in_sequence" else 1
    _, cutoff_v, _ = voltage_limits(trip.pack.label)
    return PackLimits(
        family=curve_family(trip.pack.chemistry),
        series=trip.pack.series,
        cutoff_v=cutoff_v,
        minimum_mps=trip.minimum_speed_mps,
        current_limit_a=trip.vehicle.controller_current_limit_a,
        step_down=tuple(
            (rule.below_v, rule.max_speed_mps)
            for rule in trip.vehicle.step_down
            if rule.below_v is not None
        ),
        # A gauge shows more than there is: where it shows a fifth, less than a fifth is left.
        step_at_charge=tuple(
            (rule.gauge ** (1 / GAUGE_BEND.value), rule.max_speed_mps)
            for rule in trip.vehicle.step_down
            if rule.gauge is not None
        ),
        packs_in_sequence=sequence,
        pedal_w=trip.rider.pedal_power_w,
        accel_mps2=accel,
        brake_mps2=brake,
        wait_s=wait,
    )


def trip_steps(trip: Trip, route: Route, likely_m: float) -> Steps:
    """The steps of a trip's route, fine beside its likely range.

    Parameters
    ----------
    trip, route : what is ridden, over and over
    likely_m : where the steps are fine [m]
    """
    longest = float(np.clip(likely_m / STEPS_PER_RANGE, SHORTEST_STEP_M, LONGEST_STEP_M))
    # A way of many ranges is cut no finer than can be walked: it ends long before its end.
    longest = max(longest, route.length_m / min(MOST_STEPS, MOST_CELLS // (trip.draws + 1)))
    return steps_of(route, longest, POLICIES[trip.speed.policy].slowings_per_km)


def ride_on(
    trip: Trip, draws: Draws, steps: Steps, *, until_m: float | None = None, ledger: bool = False
) -> Ridden:
    """Ride the steps over and over until every draw has ended, or to a distance.

    Parameters
    ----------
    trip : its rules and limits
    draws : what is drawn once, J of each
    steps : of one round
    until_m : where all stop [m]; None rides each to its end
    ledger : whether it is kept where the energy of the best values goes
    """
    quick = draws.count <= QUICK_DRAWS
    one_pack_m = draws.likely_m / draws.limits.packs_in_sequence
    block_m = one_pack_m / (QUICK_BLOCKS if quick else BLOCKS_PER_RANGE)
    longest = until_m
    if longest is None:
        longest = max(MOST_RANGES * draws.likely_m, steps.total_m)
        # A way much shorter than a block is ridden several times in one.
        if steps.total_m < block_m:
            steps = steps.times(ceil(block_m / steps.total_m))
    found = walk(
        steps,
        draws.columns,
        draws.limits,
        start_charge=draws.start_charge,
        longest_m=longest,
        block_m=block_m,
        with_ledger=ledger,
    )
    left = usable_left(draws, found)
    reserve_m, reserve_j = _crossing(found, left, trip.reserve)
    return Ridden(walk=found, left=left, reserve_m=reserve_m, reserve_j=reserve_j)


def usable_left(draws: Draws, found: Walk) -> FloatArray:
    """Share of usable energy left at each mark (m, J): 1 for full packs, 0 where the ride ended."""
    curves = draws.curves
    whole = curves.energy(np.ones((1, len(draws.columns))))

    def usable(z: FloatArray) -> FloatArray:
        share = (curves.energy(z) / whole - draws.empty_share) / (1 - draws.empty_share)
        return np.maximum(share, 0.0)

    left = usable(found.charge)
    if draws.limits.packs_in_sequence > 1:
        left = left + found.spare * usable(draws.start_charge[None])
    left = np.minimum.accumulate(left / draws.limits.packs_in_sequence, axis=0)
    return np.where(found.at_m[:, None] <= found.end_m, left, 0.0)


def usable_wh(draws: Draws) -> float:
    """Usable energy of all packs, full, at the best values [Wh]."""
    volts = draws.limits.family.mean_v * draws.limits.series
    full = float(draws.columns.capacity_as[0]) * volts / SECONDS_PER_HOUR
    return full * (1 - float(draws.empty_share[0])) * draws.limits.packs_in_sequence


def _crossing(found: Walk, left: FloatArray, level: float) -> tuple[FloatArray, FloatArray]:
    """Where each draw comes down to a level, or ends before it; and the energy drawn to there."""
    below = left <= level
    crossed = below.any(axis=0)
    k = np.where(crossed, np.argmax(below, axis=0), len(left) - 1)
    draws = np.arange(left.shape[1])
    before = np.maximum(k - 1, 0)
    high, low = left[before, draws], left[k, draws]
    ended_between = found.end_m <= found.at_m[k]
    part = np.where(high > low, (high - level) / np.where(high > low, high - low, 1.0), 0.0)
    part = np.clip(np.where(crossed, part, 1.0), 0.0, 1.0)
    along = found.at_m[before] + part * (found.at_m[k] - found.at_m[before])
    drawn = found.terminal_j[before, draws] + part * (
        found.terminal_j[k, draws] - found.terminal_j[before, draws]
    )
    # A pack that stops before it is at the reserve stops there.
    stopped = np.isfinite(found.end_m) & ((found.end_m < along) | ended_between)
    along = np.where(stopped, np.minimum(found.end_m, along), along)
    drawn = np.where(stopped, np.minimum(found.end_terminal_j, drawn), drawn)
    return along, drawn


def _mean_power(steps: Steps, columns: Columns, pedal_w: float) -> tuple[FloatArray, FloatArray]:
    """Time-averaged demand [W] and mean speed [m/s] of each draw, power limits aside."""
    rows = np.unique(np.linspace(0, len(steps) - 1, MEAN_STEPS).astype(int))
    speed = np.where(
        np.isnan(steps.speed_mps[rows, None]), columns.target_mps, steps.speed_mps[rows, None]
    )
    basis = np.stack([steps.sin_bearing, steps.cos_bearing, steps.unknown], axis=1)[rows]
    wind = np.stack([columns.wind_east, columns.wind_north, columns.wind_unknown])
    pressing, pulling = along_and_up(steps.grade[rows, None])
    surface = steps.surface[rows, None] + steps.surface_std[rows, None] * columns.surface
    weight = columns.mass_kg * STANDARD_GRAVITY_MPS2
    resisting = weight * (columns.rolling * surface * pressing + pulling * columns.hills)
    power = pack_power_w(
        wheel_power_w(resisting, columns.drag, speed, basis @ wind),
        inverse_efficiency=columns.inverse_efficiency,
        aux_w=columns.aux_w,
        pedal_w=pedal_w,
        returned=columns.regeneration,
    )
    power = np.minimum(power, columns.max_power_w)
    seconds = steps.length_m[rows, None] / speed
    stops = (steps.stops + steps.slowings)[rows, None] * columns.stopping
    kinetic = 0.5 * columns.mass_kg * speed**2 * columns.inverse_efficiency * stops * 0.8
    total_s = seconds.sum(axis=0)
    mean = ((power * seconds).sum(axis=0) + kinetic.sum(axis=0)) / total_s
    return np.maximum(mean, 1.0), steps.length_m[rows].sum() / total_s


def _spans(inputs: Inputs) -> tuple[tuple[str, float, float], ...]:
    return tuple(
        (item.name, *_span(item))
        for item in inputs.by_name.values()
        if item.name in CHOSEN_SPAN
        or (item.name not in NOT_SWUNG and item.standard_uncertainty > 0)
    )


def _span(item: Input) -> tuple[float, float]:
    if item.name in CHOSEN_SPAN:
        low, high = CHOSEN_SPAN[item.name]
        return low * item.value, high * item.value
    if item.name in LIKELY_SPAN:
        below, above = LIKELY_SPAN[item.name]
        least = 0.0 if item.name == "gear_kg" else -40.0
        return max(item.value + below, least), item.value + above
    if item.name == "wind_mps":
        return 0.0, max(2 * item.value, WINDY_MPS)
    half = 2 * item.standard_uncertainty
    if item.name == "start_energy_fraction":
        return max(item.value - half, 0.01), min(item.value + half, 1.0)
    if item.shape == "lognormal":
        factor = float(np.exp(2 * np.sqrt(np.log1p((half / 2 / item.value) ** 2))))
        return item.value / factor, item.value * factor
    return item.value - half, item.value + half
