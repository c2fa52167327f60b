"""What progress along a ride is counted in: charge or energy where a meter ran, else distance, else time."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import InstrumentName
from limpet.evidence.model import RangeTest
from limpet.read.line import Estimate, Line, Metered
from limpet.read.window import RideWindow

FloatArray = NDArray[np.float64]
Basis = Literal["charge", "energy", "distance", "time"]

#: A meter that is worse than this says no more of progress than distance does [-].
WORST_METER = 0.15
#: Current at cut-off over the mean while driving, where no log shows it (assumption): the drive
#: stops on a pull, not on the mean.
PULL_AT_END = (1.6, 0.5)
#: A log's pulls reach this quantile of its driving current when the drive stops, ±20% (assumption).
PULL_QUANTILE, PULL_STD = 0.93, 0.20
#: A pull is no more than so many times the mean [-]: beyond it the log's mean is nearly nothing.
MOST_PULL = 8.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Progress:
    """Progress along the ride.

    Parameters
    ----------
    line : Ah, Wh, m or s over time
    gain, gain_std : the instrument, and u of what it reads, relative
    filled_std : how far pieces that nobody read may be off, running total [unit of the line]
    hours : of driving
    metered_a : mean current of it [A], None where no meter tells
    amps_per_mean : current at cut-off over the mean one, value and u
    """

    basis: Basis
    line: Line
    gain: InstrumentName | None
    gain_std: float
    filled_std: Line | None
    hours: float
    metered_a: float | None
    amps_per_mean: tuple[float, float]


def progress_of(
    test: RangeTest,
    ride: RideWindow,
    charge: Metered | None,
    energy: Metered | None,
    distance: Estimate | None,
    nominal_v: float,
    hours: float,
) -> Progress:
    """The best line of progress there is."""
    hours = max(hours, 1 / 60)
    if charge is not None and charge.quantity.relative < WORST_METER and charge.line.span > 0:
        return Progress(
            basis="charge",
            line=charge.line,
            gain=charge.gain,
            gain_std=charge.gain_std,
            filled_std=charge.filled_std,
            hours=hours,
            metered_a=(mean_a := charge.line.span / hours),
            amps_per_mean=_pull_in_log(test, ride, mean_a) or PULL_AT_END,
        )
    if energy is not None and energy.quantity.relative < WORST_METER and energy.line.span > 0:
        return Progress(
            basis="energy",
            line=energy.line,
            gain=energy.gain,
            gain_std=energy.gain_std,
            filled_std=energy.filled_std,
            hours=hours,
            metered_a=(mean_a := energy.line.span / hours / nominal_v),
            amps_per_mean=_pull_in_log(test, ride, mean_a) or PULL_AT_END,
        )
    if distance is not None and distance.line.span > 0:
        return Progress(
            basis="distance",
            line=distance.line,
            gain=None,
            gain_std=0.0,
            filled_std=None,
            hours=hours,
            metered_a=None,
            amps_per_mean=_pull_in_log(test, ride) or PULL_AT_END,
        )
    times = np.array([ride.start_s, max(ride.end_s, ride.start_s + 1.0)])
    return Progress(
        basis="time",
        line=Line(time_s=times, total=times - times[0]),
        gain=None,
        gain_std=0.0,
        filled_std=None,
        hours=hours,
        metered_a=None,
        amps_per_mean=_pull_in_log(test, ride) or PULL_AT_END,
    )


def _pull_in_log(
    test: RangeTest, ride: RideWindow, mean_a: float | None = None
) -> tuple[float, float] | None:
    """A log's pull over the mean current that it is set against, with its u [-]; None without a log.

    Parameters
    ----------
    mean_a : what the drive took on balance [A]: rolling without power and what came back lower it, and the pull
        stays; the log's own mean of its pulls when None
    """
    logged = test.log.thinned("current_a", until_s=ride.end_s)
    if logged is None or len(logged[0]) < 20:
        return None
    time, here = logged
    steps = np.diff(time, append=time[-1])
    pulls = here > 0.1 * float(np.quantile(here, 0.9))
    total = float(here[pulls] @ steps[pulls])
    seconds = float(steps[pulls].sum())
    if total <= 0 or seconds <= 0:
        return None
    order = np.argsort(here[pulls])
    running = np.cumsum(steps[pulls][order])
    at = np.searchsorted(running, PULL_QUANTILE * running[-1])
    pull = float(here[pulls][order][min(at, len(order) - 1)])
    mean = total / seconds if mean_a is None else mean_a
    ratio = float(np.clip(pull / max(mean, 1e-6), 1.0, MOST_PULL))
    return ratio, PULL_STD * ratio


def between_std(progress: Progress, times: FloatArray) -> FloatArray:
    """u of what was filled in between each time and the one before it, shape (n,) [unit].

    Parameters
    ----------
    progress : filled in between readings
    times : shape (n,) [s]
    """
    if progress.filled_std is None:
        return np.zeros(len(times))
    at = progress.filled_std.at(times)
    return np.diff(at, prepend=at[0])


def form_std(step_m: FloatArray, per_km: float, height_m: float) -> FloatArray:
    """How far a stretch's energy may lie beside its length, relative, shape (n,).

    Parameters
    ----------
    step_m : lengths [m]
    per_km : u of one kilometre against the next, relative
    height_m : metres of way that an unknown difference of height is worth
    """
    length = np.maximum(step_m, 50.0)
    return np.asarray(
        np.minimum(np.sqrt(per_km**2 * 1000 / length + (height_m / length) ** 2), 0.8)
    )
