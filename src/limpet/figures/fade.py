"""Where the speed that can be held begins to fall."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.figures.climb import Profile
from limpet.read.line import Line
from limpet.read.window import RideWindow

FloatArray = NDArray[np.float64]

#: Flat is less than this [-]; the speed held is a mean over this long [s]; fading is under this share
#: of the reference (handbook section 8).
FLAT, HELD_S, FADED = 0.01, 60.0, 0.95
#: A first half in which the speed held varies more than this is no reference [-] (assumption).
STEADY = 0.06
#: A fade that begins in the last stretch shorter than this is the stop itself [s] (assumption).
LEAST_FADE_S = 60.0
#: So many speeds noted at full throttle at least tell a fade.
LEAST_NOTED = 4


@dataclass(frozen=True, slots=True, kw_only=True)
class Fade:
    """Where it began [m], the loaded pack voltage [V] and the gauge there, and the speed before [m/s]."""

    onset_distance_m: float
    onset_voltage_v: float | None
    onset_gauge: float | None
    reference_speed_mps: float


def fade_of(
    test: RangeTest, ride: RideWindow, way: Line | None, profile: Profile | None
) -> Fade | None:
    """From samples, else from the speeds that were noted; None where none is shown.

    Notes
    -----
    Only the speed at full throttle fades. A policy of riding flat out says that it was; else a first
    half that is steady does.
    """
    if way is None:
        return None
    policy = test.sheet.protocol.speed_policy if test.sheet.protocol else None
    held = _held(test, ride, way, profile) or _noted(test, ride)
    if held is None:
        return None
    time, speed = held
    first = speed[time <= ride.start_s + 0.5 * (ride.end_s - ride.start_s)]
    if len(first) < 2:
        return None
    reference = float(np.median(first))
    spread = float(np.subtract(*np.quantile(first, [0.75, 0.25])) / max(reference, 1e-6))
    if policy != "flat_out" and spread > STEADY:
        return None
    under = speed < FADED * reference
    if not under[-1]:
        return None
    above = np.flatnonzero(~under)
    onset = int(above[-1]) + 1 if len(above) else 0
    at = float(time[onset])
    if ride.end_s - at < LEAST_FADE_S or onset == 0:
        return None
    return Fade(
        onset_distance_m=float(way.at(np.array([at]))[0]),
        onset_voltage_v=_near(test, at, ("voltage_v",), ("voltage_load_v",)),
        onset_gauge=_near(test, at, ("gauge",), ("gauge",)),
        reference_speed_mps=reference,
    )


def _held(
    test: RangeTest, ride: RideWindow, way: Line, profile: Profile | None
) -> tuple[FloatArray, FloatArray] | None:
    """Times [s] and the speed held on the flat over a minute [m/s]."""
    logged = test.log.thinned("speed_mps", from_s=ride.start_s, until_s=ride.end_s)
    if logged is None or len(logged[0]) < 60:
        return None
    time, speed = logged
    moving = (
        speed > 0.5 * float(np.median(speed[speed > 0.5])) if (speed > 0.5).any() else speed > 0
    )
    if profile is not None:
        at = (profile.distance_m[1:] + profile.distance_m[:-1]) / 2
        moving &= np.abs(np.interp(way.at(time), at, profile.grade())) < FLAT
    if moving.sum() < 60:
        return None
    time, speed = time[moving], speed[moving]
    slot = np.floor((time - time[0]) / HELD_S).astype(np.intp)
    counts, sums = np.bincount(slot), np.bincount(slot, speed)
    full = np.flatnonzero(counts >= 0.5 * np.median(counts[counts > 0]))
    return time[0] + (full + 0.5) * HELD_S, sums[full] / counts[full]


def _noted(test: RangeTest, ride: RideWindow) -> tuple[FloatArray, FloatArray] | None:
    time, speed = test.readings("speed_mps")
    inside = (time >= ride.start_s) & (time <= ride.end_s)
    return (time[inside], speed[inside]) if inside.sum() >= LEAST_NOTED else None


def _near(
    test: RangeTest, at_s: float, columns: tuple[str, ...], fields: tuple[str, ...]
) -> float | None:
    """A reading about a moment: the median of half a minute of samples, else the next entry's."""
    for name in columns:
        logged = test.log.known(name, from_s=at_s - 15, until_s=at_s + 15)
        if logged is not None and len(logged[1]):
            return float(np.median(logged[1]))
    for name in fields:
        times, values = test.readings(name)
        later = np.flatnonzero(times >= at_s)
        if len(later):
            return float(values[later[0]])
    return None
