"""Resistance of the pack: from steps of a logged current, from an entry's pair of volts, or assumed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import RESISTANCE_OHM_AH
from limpet.evidence.model import RangeTest
from limpet.evidence.trapezoid import running
from limpet.pack import assumed_resistance_ohm
from limpet.read.stated import packs_together
from limpet.read.window import RideWindow

FloatArray = NDArray[np.float64]

#: Steps of current over this long tell resistance [s] (handbook section 8).
SHORTEST_S, LONGEST_S = 0.5, 10.0
#: A step below this share of the 1-hour current tells noise [-] (assumption).
LEAST_STEP = 0.15
#: u of one hand-read triple of volts, volts and amps, relative (assumption): an unsteady current.
NOTED_STD = 0.25
#: u of what steps held for ten seconds give, relative (assumption).
LOGGED_STD = 0.15
#: Where no current was held so long, steps over two seconds lack some of it: factor and u (assumption; PyBaMM's
#: cells: 0.6 to 0.95 of the 10-s resistance after two to five seconds).
QUICK_S, QUICK_LACKS = 2.0, (1.25, 0.25)
#: A current is held when its mean over the lag is this near to where it ends, of the step [-] (assumption).
HELD = 0.35


@dataclass(frozen=True, slots=True, kw_only=True)
class Resistance:
    """Resistance of all packs together as ridden [Ω], its u [Ω] and where it came from.

    `packs` share the current: one of them has so many times the resistance.
    """

    ohm: float
    std_ohm: float
    source: Literal["samples", "entries", "assumed"]
    packs: int = 1

    @property
    def measured(self) -> bool:
        """Whether the ride told it."""
        return self.source != "assumed"


def pack_resistance(test: RangeTest, ride: RideWindow) -> Resistance:
    """Resistance as ridden.

    Notes
    -----
    From samples: R = −ΔV/ΔI over steps of current held for 10 s, the median weighted by the size of
    the step, which no single slip moves; else over steps of 2 s and a quarter more. From entries: the median of (resting − loaded)/I. Else
    0.12 Ω·Ah per cell group ±40%, all *assumptions*.
    """
    packs = _together(test)
    logged = _logged_ohm(test, ride)
    if logged is not None:
        ohm, relative = logged
        return Resistance(ohm=ohm, std_ohm=relative * ohm, source="samples", packs=packs)
    found = [
        (entry.voltage_rest_v - entry.voltage_load_v) / entry.current_a
        for entry in test.entries
        if entry.voltage_rest_v is not None
        and entry.voltage_load_v is not None
        and entry.current_a is not None
        and entry.current_a > 0
        and entry.voltage_rest_v > entry.voltage_load_v
    ]
    if found:
        ohm = float(np.median(found))
        return Resistance(
            ohm=ohm, std_ohm=NOTED_STD * ohm / len(found) ** 0.25, source="entries", packs=packs
        )
    ohm = assumed_resistance_ohm(test.sheet.pack) / packs
    relative = RESISTANCE_OHM_AH.std / RESISTANCE_OHM_AH.value
    return Resistance(ohm=ohm, std_ohm=relative * ohm, source="assumed", packs=packs)


def _together(test: RangeTest) -> int:
    """Packs that share the current: by the sheet, but one at a time where somebody swapped them."""
    swapped = any(entry.kind == "swap" for entry in test.entries)
    return 1 if swapped else packs_together(test)


def _logged_ohm(test: RangeTest, ride: RideWindow) -> tuple[float, float] | None:
    """10-s resistance by the samples [Ω], and its relative u."""
    logged = test.log.thinned("voltage_v", "current_a", until_s=ride.end_s)
    if logged is None or len(logged[0]) < 20:
        return None
    time, volts, amps = logged
    least = LEAST_STEP * test.sheet.pack.rated_ah
    slow = _slopes(time, volts, amps, LONGEST_S, least, held=True)
    if slow is not None:
        return slow, LOGGED_STD
    quick = _slopes(time, volts, amps, QUICK_S, least, held=False)
    return None if quick is None else (QUICK_LACKS[0] * quick, QUICK_LACKS[1])


def _slopes(
    time: FloatArray,
    volts: FloatArray,
    amps: FloatArray,
    lag_s: float,
    least_a: float,
    *,
    held: bool,
) -> float | None:
    """The median of −ΔV/ΔI between samples about a lag apart, weighted by ΔI [Ω]; None of few.

    Parameters
    ----------
    held : only steps whose new current was held for most of the lag, and the old one as long before
    """
    rows = np.arange(len(time))
    ago = np.searchsorted(time, time - lag_s, side="right") - 1
    ago = np.where(ago == rows, ago - 1, ago)
    later = np.flatnonzero(ago >= 0)
    before = ago[later]
    seconds = time[later] - time[before]
    by_a, by_v = amps[later] - amps[before], volts[later] - volts[before]
    use = (seconds >= SHORTEST_S) & (seconds <= 1.5 * LONGEST_S) & (np.abs(by_a) > least_a)
    if held:
        charge = running(amps, np.diff(time))
        mean = (charge[later] - charge[before]) / np.maximum(seconds, 1e-9)
        earlier = np.maximum(ago[before], 0)
        span = np.maximum(time[before] - time[earlier], 1e-9)
        old = np.where(before > earlier, (charge[before] - charge[earlier]) / span, amps[before])
        step = np.where(by_a == 0, 1.0, by_a)
        use &= (seconds >= 0.7 * lag_s) & (abs((amps[later] - mean) / step) < HELD)
        use &= abs((amps[before] - old) / step) < HELD
    if use.sum() < 10:
        return None
    slopes, weight = -by_v[use] / by_a[use], np.abs(by_a[use])
    order = np.argsort(slopes)
    heaped = np.cumsum(weight[order])
    ohm = float(slopes[order][np.searchsorted(heaped, heaped[-1] / 2)])
    return ohm if ohm > 0 else None
