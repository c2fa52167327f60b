"""What the ride has shown of its consumption, and what that means for another piece of road."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, sqrt

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import PER_KM
from limpet.figures.drawn import LEAST_WH
from limpet.figures.findings import Findings

FloatArray = NDArray[np.float64]

#: u of the road model's consumption is no less than this, relative: on a way that somebody planned, and
#: where its hills, stops and winds are guessed (assumption).
LEAST_STD, GUESSED_STD = 0.10, 0.25
#: Shorter than this a piece of road says nothing of its consumption [m].
LEAST_M = 30.0


@dataclass(frozen=True, slots=True)
class Rate:
    """Consumption over the ridden part, as drawn before the ride and as the ride leaves it.

    `modelled` log of Wh/m by the road model, shape (I,); `shown` the same in each draw of the ride,
    shape (J,); `pairs` which draw of the day each draw of the ride is ridden on, shape (J,); `common` the
    part of `modelled` that the road model knows nothing of, and that every piece of road shares, shape (I,).
    """

    modelled: FloatArray
    shown: FloatArray
    pairs: NDArray[np.intp]
    common: FloatArray

    def carried(self, need_wh: FloatArray) -> FloatArray:
        """What another piece of road takes, given what the ridden one took.

        Parameters
        ----------
        need_wh : by the road model, shape (…, I)

        Returns
        -------
        [Wh], shape (…, J)

        Notes
        -----
        Each draw is shifted along the regression of the log of the need on that of the ridden part's
        consumption (a linear update of an ensemble; Kalman's gain with one observation): what both
        share, mass and tyres and air, goes with it; what only one of them has, a wind that turns, does
        not. A piece that gives as much as it takes has no log, and its shift is that of the ridden
        part's own Wh/m on a level of the same length.
        """
        need_wh = need_wh * np.exp(self.common)
        x = self.modelled - self.modelled.mean()
        moved = self.shown - self.modelled[self.pairs]
        variance = float(x @ x)
        paired = need_wh[..., self.pairs]
        sure = need_wh.min(axis=-1, keepdims=True) > 0.05 * np.abs(need_wh).mean(
            axis=-1, keepdims=True
        )
        logs = np.log(np.maximum(need_wh, LEAST_WH))
        slope = (logs @ x / variance)[..., None]
        by_log = paired * np.exp(np.clip(slope * moved, -2.0, 2.0))
        slope = (need_wh @ x / variance)[..., None]
        plainly = paired + slope * np.clip(moved, -1.0, 1.0)
        return np.asarray(np.where(sure, by_log, plainly))


def log_rate(energy_wh: FloatArray, metres: float) -> FloatArray:
    """Log of a consumption [Wh/m], no less than a hundredth of the draws' mean."""
    mean = max(float(energy_wh.mean()), LEAST_WH)
    return np.log(np.maximum(energy_wh, 0.01 * mean) / max(metres, 1.0))


def rate_of(
    found: Findings,
    modelled: FloatArray,
    common: FloatArray,
    metres: float,
    unknown_wh: float,
    used_wh: FloatArray,
    seed: int = 3,
) -> Rate:
    """Join the road model's consumption with what the ride shows.

    Parameters
    ----------
    modelled : log of Wh/m over the ridden part by the road model, shape (I,), as wide as it is sure
    common : what of it is `unmodelled`, shape (I,)
    metres : ridden so far
    unknown_wh : what a difference of height that nobody noted may have taken [Wh]
    used_wh : what the pack gave by its own state [Wh], shape (J,), where no meter counts energy: the
        same capacity is in it that is in what is left

    Notes
    -----
    Where distance is all the progress there is, the draws of the ride already had the model's
    consumption among their inputs. Where a meter ran, it reads this ride's consumption to within its
    own error and the scatter of so much road (`PER_KM`).
    """
    count = found.remaining.posterior.scores.shape[1]
    pairs = np.random.default_rng(seed).permutation(np.resize(np.arange(len(modelled)), count))
    if found.evidence.progress.basis == "distance":
        return Rate(modelled, np.log(found.remaining.value("consumption")), pairs, common)
    drawn = found.drawn
    metered = found.evidence.meter is not None and bool(found.evidence.meter.gains)
    energy_wh = drawn.energy_wh if metered and drawn.energy_wh is not None else used_wh
    energy_wh = np.maximum(energy_wh, LEAST_WH)
    if found.evidence.progress.basis == "time" or drawn.distance_m is None or metres < LEAST_M:
        return Rate(modelled, modelled[pairs], pairs, common)
    seen = log_rate(energy_wh, 1.0) - np.log(np.maximum(drawn.distance_m, 1.0))
    form = hypot(
        PER_KM.std / sqrt(metres / 1000), unknown_wh / max(float(energy_wh.mean()), LEAST_WH)
    )
    # A road model that is that far off is not as sure as it says.
    apart = float(np.median(seen)) - float(modelled.mean())
    prior = max(float(modelled.var()), apart**2 - form**2)
    gain = prior / (prior + form**2 + float(seen.var()))
    scatter = form * np.random.default_rng(seed + 1).standard_normal(count)
    shown = modelled[pairs] + gain * (seen + scatter - modelled[pairs])
    return Rate(modelled, shown, pairs, common)


def unmodelled(logs: FloatArray, stated: bool, seed: int = 5) -> FloatArray:
    """What has to come to the road model's draws so that they are no closer together than it is sure.

    Parameters
    ----------
    logs : log of Wh/m by the road model, shape (I,)
    stated : whether somebody planned the way, or earlier rides taught what the vehicle takes

    Returns
    -------
    log of a factor, shape (I,), uncorrelated with the draws: a vehicle or a rider that takes more than the
    model thinks takes more of it on the way home, too, which a headwind does not
    """
    least = LEAST_STD if stated else GUESSED_STD
    missing = sqrt(max(least**2 - float(logs.var()), 0.0))
    score = np.random.default_rng(seed).standard_normal(len(logs))
    off, score = logs - logs.mean(), score - score.mean()
    score -= off * float(score @ off) / max(float(off @ off), 1e-12)
    return np.asarray(missing * score / max(float(score.std()), 1e-9))
