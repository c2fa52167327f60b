"""The difference of height between a ride's start and its end."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from limpet.evidence.model import RangeTest
from limpet.read.stated import mass_kg
from limpet.read.window import RideWindow
from limpet.units import SECONDS_PER_HOUR, STANDARD_GRAVITY_MPS2

#: What a climb costs at the pack, over what it stores [-] (assumption).
CLIMB_EFFICIENCY = 0.80
#: Logged heights at both ends are good to this [m] (assumption).
LOGGED_STD_M = 3.0
#: Climb that a display counted, relative u (assumption).
COUNTED_STD = 0.1
#: A smaller difference of height between start and end is not worth a sentence [m].
LEAST_HEIGHT_M = 5.0
#: A ride of unknown heights may end so much above or below its start [m] (assumption).
UNKNOWN_END_M = 10.0
#: So many heights at least tell.
LEAST_HEIGHTS = 20


@dataclass(frozen=True, slots=True, kw_only=True)
class Heights:
    """How far above its start a ride ended, and u of that [m]."""

    climbed_m: float
    std_m: float


def heights_of(test: RangeTest, ride: RideWindow) -> Heights | None:
    """From logged heights, or the climb and descent that were noted last; None where there are none."""
    logged = test.log.known("altitude_m", until_s=ride.end_s)
    if logged is None or len(logged[0]) < LEAST_HEIGHTS:
        return _noted(test, ride)
    _, ends = logged
    return Heights(
        climbed_m=float(np.median(ends[-10:]) - np.median(ends[:10])), std_m=LOGGED_STD_M
    )


def noted_climb_m(test: RangeTest, ride: RideWindow) -> tuple[float, float] | None:
    """Ascent and descent since the start as noted last [m]; None where both were not.

    Parameters
    ----------
    test : as recorded
    ride : the window
    """
    noted = [
        (entry.ascent_m, entry.descent_m)
        for entry in test.entries
        if entry.time_s <= ride.end_s + 1e-6
        and entry.ascent_m is not None
        and entry.descent_m is not None
    ]
    return (float(noted[-1][0] or 0.0), float(noted[-1][1] or 0.0)) if noted else None


def _noted(test: RangeTest, ride: RideWindow) -> Heights | None:
    climb = noted_climb_m(test, ride)
    if climb is None:
        return None
    up, down = climb
    return Heights(climbed_m=up - down, std_m=LOGGED_STD_M + COUNTED_STD * max(up, down))


def climb_wh(test: RangeTest, climbed_m: float) -> float:
    """m·g·Δh/η [Wh]: what a climb takes of the pack, or a descent spares it.

    Parameters
    ----------
    test : with the mass of all that moves
    climbed_m : end above start [m]; below is negative
    """
    force_n = mass_kg(test) * STANDARD_GRAVITY_MPS2
    return force_n * climbed_m / CLIMB_EFFICIENCY / SECONDS_PER_HOUR
