"""The same inputs and readings through a sampler of another kind: emcee's ensemble of walkers."""

from __future__ import annotations

from dataclasses import dataclass, replace

import emcee
import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.figures.drawn import drawn_figures
from limpet.figures.findings import Findings, find
from limpet.pack import curve_family

FloatArray = NDArray[np.float64]

#: Walkers per input, and the share of the steps that is thrown away.
PER_INPUT, BURNT = 3, 0.4


@dataclass(frozen=True, slots=True, kw_only=True)
class Beside:
    """Range to cut-off by the core and by the sampler [m]: medians, half-widths of 95%, and the core's Birge ratio."""

    core_m: float
    sampled_m: float
    core_half_m: float
    sampled_half_m: float
    birge: float

    @property
    def apart(self) -> float:
        """How far the medians lie apart, in the sampler's own standard uncertainties [-]."""
        return abs(self.core_m - self.sampled_m) / (self.sampled_half_m / 1.96)

    @property
    def wider(self) -> float:
        """The core's half-width over the sampler's [-]."""
        return self.core_half_m / self.sampled_half_m


def beside(test: RangeTest, *, steps: int = 1500, seed: int = 1) -> Beside:
    """A ride's range by both.

    Parameters
    ----------
    test : a ride that tells a range
    steps : of the walkers
    seed : of the sampler
    """
    found = find(test, family=curve_family(test.sheet.pack.chemistry))
    ours = found.drawn.range_m
    assert ours is not None
    theirs = _range_m(found, _scores(found, steps, seed), seed)
    return Beside(
        core_m=float(np.median(ours)),
        sampled_m=float(np.median(theirs)),
        core_half_m=_half(ours),
        sampled_half_m=_half(theirs),
        birge=found.remaining.posterior.birge,
    )


def _half(draws: FloatArray) -> float:
    low, high = np.quantile(draws, [0.025, 0.975])
    return float(high - low) / 2


def _scores(found: Findings, steps: int, seed: int) -> FloatArray:
    """Scores of the inputs by the walkers, shape (P, draws)."""
    model, posterior = found.remaining.model, found.remaining.posterior
    inputs = len(model.inputs)
    rng = np.random.default_rng(seed)
    walkers = PER_INPUT * inputs // 2 * 2
    start = posterior.scores[:, rng.integers(1, posterior.scores.shape[1], walkers)].T
    start = start + 0.3 * rng.standard_normal(start.shape)

    def log_probability(at: FloatArray) -> FloatArray:
        missed = model.look(at.T).residual
        return np.asarray(-0.5 * ((missed**2).sum(axis=0) + (at**2).sum(axis=1)))

    moves = [
        (emcee.moves.DEMove(), 0.7),
        (emcee.moves.DESnookerMove(), 0.1),
        (emcee.moves.StretchMove(), 0.2),
    ]
    sampler = emcee.EnsembleSampler(walkers, inputs, log_probability, moves=moves, vectorize=True)
    sampler.random_state = np.random.RandomState(seed).get_state()
    sampler.run_mcmc(start, steps, skip_initial_state_check=True)
    return np.asarray(sampler.get_chain(discard=int(BURNT * steps), thin=10, flat=True)).T


def _range_m(found: Findings, scores: FloatArray, seed: int) -> FloatArray:
    """Range of every draw [m]; a meter that tells the energy keeps what it states, as in the core."""
    remaining = found.remaining
    model, meter = remaining.model, found.evidence.meter
    if meter is not None:
        rows = [model.rows[name] for name, _ in meter.gains]
        scores[rows] = np.random.default_rng(seed).standard_normal((len(rows), scores.shape[1]))
    posterior = replace(remaining.posterior, scores=scores, before=scores)
    again = replace(remaining, posterior=posterior, state=model.state(scores))
    drawn = drawn_figures(found.evidence, again).range_m
    assert drawn is not None
    return drawn
