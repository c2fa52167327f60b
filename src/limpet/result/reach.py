"""From the part ridden to the whole pack: usable energy and range, by share of energy used."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot

import numpy as np

from limpet.assumptions import FULL_WITHIN_V, SAID_FULL, load_kg
from limpet.evidence.model import RangeTest
from limpet.notices import Notice
from limpet.pack import (
    NoCurveError,
    ocv_curve,
    voltage_limits,
)
from limpet.quantity import Quantity, ratio
from limpet.result.rest import Resistance, RestReading
from limpet.result.share import (
    DRAWS,
    LEAST_WINDOW,
    SEED,
    EnergyShare,
    usable_floor,
)
from limpet.result.window import RideWindow
from limpet.units import SECONDS_PER_HOUR, STANDARD_GRAVITY_MPS2

#: Below this share of usable energy an extrapolation is a guess (handbook section 7).
GUESS_BELOW = 0.15
#: Wheel energy per pack energy on a climb, start value (assumption, handbook section 10).
CLIMB_EFFICIENCY = 0.80
#: A smaller difference of height between start and end is not corrected [m] (assumption).
LEAST_HEIGHT_M = 5.0


@dataclass(frozen=True, slots=True, kw_only=True)
class UsedShare:
    """Share of usable energy that the ride used [1], and whether it was measured to the end."""

    share: Quantity
    measured: bool
    notices: tuple[Notice, ...]


def used_share(
    test: RangeTest,
    ride: RideWindow,
    energy: Quantity | None,
    first: RestReading | None,
    volts: EnergyShare | None,
    promised: Quantity,
    resistance: Resistance,
    mean_current_a: float,
) -> UsedShare | None:
    """The share of usable energy used: to the end by definition, else from volts or the label."""
    if ride.reached_end:
        share, notices = _from_start(test, first, resistance, mean_current_a)
        return UsedShare(share=share, measured=True, notices=tuple(notices))
    # A current that sags the pack to cut-off at once leaves nothing to promise.
    by_label = ratio(energy, promised, "1") if energy is not None and promised.value > 0 else None
    candidates = [item for item in (volts.used if volts else None, by_label) if item is not None]
    if not candidates:
        return None
    share = min(candidates, key=lambda item: item.relative)
    notices = []
    if first is None:
        notices.append(Notice("assumed_full"))
        share = _widened(share, SAID_FULL.std)
    if share.value > 1:
        notices.append(Notice("more_than_label", share=share.value))
        share = Quantity.of(1.0, "1", share.standard_uncertainty)
    return UsedShare(share=share, measured=False, notices=tuple(notices))


def _widened(share: Quantity, std: float) -> Quantity:
    return Quantity.of(share.value, "1", hypot(share.standard_uncertainty, std))


def _from_start(
    test: RangeTest, first: RestReading | None, resistance: Resistance, mean_current_a: float
) -> tuple[Quantity, list[Notice]]:
    """1 for a ride from full to its end, less for one that began part empty."""
    if first is None:
        return Quantity.of(1.0, "1", SAID_FULL.std), [Notice("assumed_full")]
    pack = test.sheet.pack
    full_v, _, _ = voltage_limits(pack)
    if first.voltage_v >= full_v - FULL_WITHIN_V.value * pack.series:
        return Quantity.of(1.0, "1", 0.0), []
    try:
        curve = ocv_curve(pack.chemistry)
    except NoCurveError:
        return Quantity.of(1.0, "1", 0.10), [Notice("assumed_full")]
    z_cut, _ = usable_floor(curve, pack, mean_current_a, resistance)
    z = curve.charge_left(np.array([first.voltage_v, full_v]) / pack.series)
    if z[1] - z_cut < LEAST_WINDOW or z[0] <= z_cut:
        return Quantity.of(1.0, "1", 0.10), [Notice("assumed_full")]
    eps = curve.energy_left(np.array([z[0], z[1], z_cut]))
    share = float((eps[0] - eps[2]) / (eps[1] - eps[2]))
    notice = Notice("began_part_empty", voltage_v=first.voltage_v, share=share)
    return Quantity.of(share, "1", curve.charge_std(float(z[0]))), [notice]


@dataclass(frozen=True, slots=True, kw_only=True)
class Reach:
    """Range [m] and usable energy [Wh], all packs used together."""

    range_to_cutoff: Quantity | None
    range_to_reserve: Quantity | None
    usable_energy_wh: Quantity | None
    notices: tuple[Notice, ...]


def reach(
    test: RangeTest,
    ride: RideWindow,
    energy: Quantity | None,
    distance: Quantity | None,
    used: UsedShare | None,
    reserve: float,
) -> Reach:
    """Range to cut-off D/f and to reserve (1 − r)·D/f, usable energy E/f, by Monte Carlo.

    Notes
    -----
    A ride that ended lower than it began is first brought to the level, ΔE = m·g·Δh/η (handbook
    section 7). A quotient by an uncertain share is skewed, so the interval comes from draws
    (JCGM 101:2008).
    """
    # A ride that used nothing measurable of the pack says nothing of the rest of it.
    if used is None or used.share.value <= 0:
        return Reach(range_to_cutoff=None, range_to_reserve=None, usable_energy_wh=None, notices=())
    rng = np.random.default_rng(SEED + 1)
    share = used.share
    drawn_share = share.value + share.standard_uncertainty * rng.standard_normal(DRAWS)
    least = max(0.2 * share.value, 0.01)
    drawn_share = np.clip(drawn_share, least, 1.0 if not used.measured else 1.2)
    notices: list[Notice] = []
    cutoff = reserved = usable = None
    if energy is not None and energy.value > 0:
        drawn = energy.value + energy.standard_uncertainty * rng.standard_normal(DRAWS)
        usable = Quantity.from_draws(drawn / drawn_share, "Wh", energy.value / share.value)
    if distance is not None:
        level, notice = _level_factor(test, ride, energy)
        if notice is not None:
            notices.append(notice)
        drawn = distance.value + distance.standard_uncertainty * rng.standard_normal(DRAWS)
        value = distance.value / share.value * level
        cutoff = Quantity.from_draws(drawn / drawn_share * level, "m", value)
        reserved = cutoff.scaled(1 - reserve, "m")
    return Reach(
        range_to_cutoff=cutoff,
        range_to_reserve=reserved,
        usable_energy_wh=usable,
        notices=tuple(notices),
    )


def _level_factor(
    test: RangeTest, ride: RideWindow, energy: Quantity | None
) -> tuple[float, Notice | None]:
    """E / (E − m·g·Δh/η): how much further the same energy goes on the level."""
    height, time = test.column("altitude_m"), test.column("time_s")
    rider, vehicle = test.sheet.rider, test.sheet.vehicle
    if height is None or time is None or energy is None or ride.reached_end:
        return 1.0, None
    if vehicle.mass_kg is None or rider is None or rider.mass_kg is None:
        return 1.0, None
    known = ~np.isnan(height) & (time <= ride.end_s)
    if known.sum() < 20:
        return 1.0, None
    ends = height[known]
    climbed = float(np.median(ends[-10:]) - np.median(ends[:10]))
    if abs(climbed) < LEAST_HEIGHT_M:
        return 1.0, None
    mass = vehicle.mass_kg + load_kg(rider.mass_kg, rider.gear_kg)[0]
    climb_wh = mass * STANDARD_GRAVITY_MPS2 * climbed / CLIMB_EFFICIENCY / SECONDS_PER_HOUR
    if abs(climb_wh) > 0.5 * energy.value:
        return 1.0, None
    notice = Notice(
        "height_corrected",
        height_m=abs(climbed),
        side="above" if climbed > 0 else "below",
        set_aside_wh=abs(climb_wh),
    )
    return energy.value / (energy.value - climb_wh), notice
