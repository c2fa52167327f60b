"""How a pack ages: a falling course with a step in it or none, and when it comes down to a share.

A straight line through capacities is surer of the future than anybody can be: packs lose fast and then
slowly, or slowly and then fast, and a parallel group may die at once. Here the courses that are thinkable
are weighed by what the tests say of each.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import log
from typing import Final

import numpy as np
from numpy.typing import NDArray

from limpet.pack.wearing import POWERS

FloatArray = NDArray[np.float64]

#: Of a pack that was in use before its first test the early, fast part has gone.
LATER_POWERS: Final = ((0.75, 1.5), (1.0, 3.0), (1.35, 1.5), (1.8, 0.5))
#: The points' scatter over what their u says: a part of u may be common to all, and tests have faults of
#: their own that no u names (assumption).
SCATTERS: Final = ((0.35, 1.0), (0.6, 2.0), (1.0, 3.0), (1.6, 1.0))
#: What two tests of one pack differ by whatever they say [-] (assumption).
FROM_TEST_TO_TEST = 0.006
#: What a pack gives when it is fresh over its label, and its u; what it has lost by the time that is usual
#: for 80%, and u; what a step takes, and u [-] (assumptions).
FRESH, LOST, STEP = (1.0, 0.08), (0.2, 0.2), (0.12, 0.08)
#: The chance that a pack has had a step at all (assumption).
STEP_CHANCE = 0.08
#: A step is told from this chance on.
STEP_TOLD = 0.9
#: Places that a step is looked for at, and tests that a course is told from, the latest.
MOST_STEPS, MOST_POINTS = 60, 500
#: Draws of a course.
DRAWS = 4000
#: A slower loss than this is none, in the time that is usual for 80% [-].
LEAST_LOST = 0.004
#: By its tests and not by what is usual: the loss is known to this share of what it was before [-].
TOLD_BY_TESTS = 0.6
#: Nobody keeps a pack for longer than so many times what is usual for 80%: some twenty years.
LONGEST = 5.0


@dataclass(frozen=True, slots=True)
class Level:
    """A best value and its 95% interval."""

    value: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Step:
    """Between which two points, by index, a pack lost so much at once [-], and how sure that is."""

    before: int
    after: int
    lost: Level
    chance: float


@dataclass(frozen=True, slots=True)
class Course:
    """How a pack ages, in draws of what is thinkable: fresh − lost·(x/usual)^power − step.

    Arrays have the shape (DRAWS,). `by_tests` is False while the loss is still what is usual rather than
    what was seen; `falls` once a loss is shown by the tests.
    """

    first: float
    last: float
    #: Points that it is told from, the latest.
    count: int
    usual: float
    fresh: FloatArray
    lost: FloatArray
    power: FloatArray
    step: FloatArray
    step_x: FloatArray
    known_step: Step | None
    by_tests: bool
    falls: bool

    def draws(self, x: float) -> FloatArray:
        """The course at x, shape (DRAWS,)."""
        lost = self.lost * (max(x, 0.0) / self.usual) ** self.power
        return np.asarray(self.fresh - lost - np.where(x > self.step_x, self.step, 0.0))

    def at(self, x: float) -> Level:
        """The course at x."""
        return _level(self.draws(x))

    @property
    def per_unit(self) -> Level:
        """What is lost in one unit of x at the last point [-]."""
        place = max(self.last, 0.05 * self.usual) / self.usual
        return _level(self.lost * self.power * place ** (self.power - 1) / self.usual)

    def crosses(self, share: float, of_fresh: bool) -> Level:
        """Where it comes down to a share of what it gave fresh, or of the label.

        Returns
        -------
        Level in x; what lies beyond `LONGEST` is told as that
        """
        level = share * self.fresh if of_fresh else np.full_like(self.fresh, share)
        room = self.fresh - level
        before = self._reaches(room)
        # A draw whose step comes first is down when the step or what follows it takes it there.
        after = np.maximum(self._reaches(room - self.step), self.step_x)
        return _level(np.where(before <= self.step_x, before, after))

    def _reaches(self, room: FloatArray) -> FloatArray:
        share = np.maximum(room, 0.0) / self.lost
        return np.minimum(self.usual * share ** (1 / self.power), LONGEST * self.usual)


def course_of(
    x: Sequence[float],
    y: Sequence[float],
    std: Sequence[float],
    *,
    usual: float,
    from_fresh: bool,
) -> Course | None:
    """The courses that points allow, weighed.

    Parameters
    ----------
    x : months or equivalent full cycles, rising
    y, std : share of the label or of what it gave first, and u
    usual : x at which such a pack is usually down to 80%
    from_fresh : whether it was new at x = 0

    Returns
    -------
    Course; None of fewer than two points, or of points at one place

    Raises
    ------
    ValueError
        When the three are of different lengths.

    Notes
    -----
    For each exponent, scatter and place of a step the rest is a linear model with normal priors: its
    posterior and its evidence are closed forms (C. M. Bishop, Pattern Recognition and Machine Learning,
    2006, section 3.3 and 3.5). The draws are from all of them by evidence, so that the interval of a
    crossing holds what is not known of the shape as well.
    """
    if not len(x) == len(y) == len(std):
        raise ValueError("course_of: x, y and std must be equally long")
    places = np.asarray(x, dtype=np.float64)[-MOST_POINTS:]
    values = np.asarray(y, dtype=np.float64)[-MOST_POINTS:]
    stds = np.asarray(std, dtype=np.float64)[-MOST_POINTS:]
    if len(places) < 2 or np.ptp(places) <= 1e-9:
        return None
    gaps = _gaps(places)
    means, covs, weights, labels = [], [], [], []
    for power, of_power in POWERS if from_fresh else LATER_POWERS:
        basis = (np.maximum(places, 0.0) / usual) ** power
        for scatter, of_scatter in SCATTERS:
            variance = (scatter * stds) ** 2 + FROM_TEST_TO_TEST**2
            mean, cov, evidence = _posteriors(basis, values, variance, gaps)
            means.append(mean)
            covs.append(cov)
            weights.append(evidence + log(of_power) + log(of_scatter))
            labels += [(power, gap) for gap in (-1, *gaps)]
    mean, cov = np.concatenate(means), np.concatenate(covs)
    weight = np.concatenate(weights)
    weight = np.exp(weight - weight.max())
    weight /= weight.sum()
    powers = np.array([power for power, _ in labels])
    after = np.array([gap for _, gap in labels])
    return _drawn(places, usual, mean, cov, weight, powers, after)


def _gaps(places: FloatArray) -> list[int]:
    """After which points a step may lie."""
    there = [k for k in range(len(places) - 1) if places[k + 1] > places[k]]
    every = max(-(-len(there) // MOST_STEPS), 1)
    return there[::every]


def _posteriors(
    basis: FloatArray, values: FloatArray, variance: FloatArray, gaps: list[int]
) -> tuple[FloatArray, FloatArray, FloatArray]:
    """Means (K, 3), covariances (K, 3, 3) and log evidence (K,) of no step and of one after each gap."""
    weight = 1 / variance
    one = [np.full(1 + len(gaps), item.sum()) for item in _moments(weight, basis, values)]
    # What lies after a step is the same sums over the points after it; without one there are none.
    then = [
        np.concatenate([[0.0], item.sum() - np.cumsum(item)[gaps]])
        for item in _moments(weight, basis, values)
    ]
    prior_mean = np.array([FRESH[0], LOST[0], STEP[0]])
    prior_precision = np.diag([1 / spread[1] ** 2 for spread in (FRESH, LOST, STEP)])
    (w, wb, wbb, wy, wby), (sw, swb, _, swy, _) = one, then
    rows = ((w, -wb, -sw), (-wb, wbb, swb), (-sw, swb, sw))
    precision = np.array(rows).transpose(2, 0, 1) + prior_precision
    right = np.stack([wy, -wby, -swy], axis=1) + prior_precision @ prior_mean
    cov = np.linalg.inv(precision)
    mean = np.einsum("kij,kj->ki", cov, right)
    fit = (values**2 / variance).sum() + prior_mean @ prior_precision @ prior_mean
    fit = fit - np.einsum("ki,kij,kj->k", mean, precision, mean)
    evidence = -0.5 * (
        fit
        + np.log(variance).sum()
        + np.linalg.slogdet(precision)[1]
        - np.linalg.slogdet(prior_precision)[1]
    )
    chance = np.full(len(evidence), log(STEP_CHANCE / max(len(gaps), 1)))
    chance[0] = log(1 - STEP_CHANCE) if gaps else 0.0
    return mean, cov, np.asarray(evidence + chance)


def _moments(weight: FloatArray, basis: FloatArray, values: FloatArray) -> tuple[FloatArray, ...]:
    """What a weighted line through points is made of, point by point."""
    by = weight * basis
    return weight, by, by * basis, weight * values, by * values


def _drawn(
    places: FloatArray,
    usual: float,
    mean: FloatArray,
    cov: FloatArray,
    weight: FloatArray,
    powers: FloatArray,
    after: NDArray[np.int64],
) -> Course:
    rng = np.random.default_rng(len(places))
    # Three times as many as are kept: a pack does not grow, and a step does not give back.
    picked = rng.choice(len(weight), size=3 * DRAWS, p=weight)
    half = np.linalg.cholesky(cov)
    drawn = mean[picked] + np.einsum(
        "dij,dj->di", half[picked], rng.standard_normal((len(picked), 3))
    )
    stepped = after[picked] >= 0
    fits = (drawn[:, 1] > LEAST_LOST) & (~stepped | (drawn[:, 2] > 0))
    order = np.argsort(~fits, kind="stable")[:DRAWS]
    fresh, lost, step = drawn[order].T
    lost = np.maximum(lost, LEAST_LOST)
    gap = after[picked][order]
    # Nobody saw the step: it lies anywhere between its two tests.
    then = places[np.minimum(gap + 1, len(places) - 1)]
    between = places[gap] + rng.random(DRAWS) * (then - places[gap])
    step_x = np.where(gap >= 0, between, np.inf)
    spread = float(np.sqrt(weight @ (cov[:, 1, 1] + (mean[:, 1] - weight @ mean[:, 1]) ** 2)))
    return Course(
        first=float(places[0]),
        last=float(places[-1]),
        count=len(places),
        usual=usual,
        fresh=fresh,
        lost=lost,
        power=powers[picked][order],
        step=np.where(gap >= 0, np.maximum(step, 0.0), 0.0),
        step_x=step_x,
        known_step=_step(weight, after, mean, cov, len(places)),
        by_tests=spread < TOLD_BY_TESTS * LOST[1],
        falls=_falls(places, mean, cov, weight, powers, after, usual),
    )


def _step(
    weight: FloatArray,
    after: NDArray[np.int64],
    mean: FloatArray,
    cov: FloatArray,
    count: int,
) -> Step | None:
    """The step that is all but sure; None where none is.

    It has two points before it and two after, or it is one odd test: such a one is thinkable, and not told.
    """
    between = (after >= 1) & (after < count - 2)
    chance = float(weight[between].sum())
    if chance < STEP_TOLD:
        return None
    of_gap = {int(gap): float(weight[after == gap].sum()) for gap in set(after[between])}
    gap = max(of_gap, key=lambda one: of_gap[one])
    here = after == gap
    share = weight[here] / weight[here].sum()
    value = float(share @ mean[here, 2])
    std = float(np.sqrt(share @ (cov[here, 2, 2] + (mean[here, 2] - value) ** 2)))
    return Step(gap, gap + 1, Level(value, value - 1.96 * std, value + 1.96 * std), chance)


def _falls(
    places: FloatArray,
    mean: FloatArray,
    cov: FloatArray,
    weight: FloatArray,
    powers: FloatArray,
    after: NDArray[np.int64],
    usual: float,
) -> bool:
    """Whether the last point lies below the first by more than chance, before a pack is held to only fall."""
    span = (max(places[-1], 0.0) / usual) ** powers - (max(places[0], 0.0) / usual) ** powers
    row = np.stack([np.zeros_like(span), span, np.where(after >= 0, 1.0, 0.0)], axis=1)
    lost = np.einsum("ki,ki->k", row, mean)
    of_each = np.einsum("ki,kij,kj->k", row, cov, row)
    value = float(weight @ lost)
    std = float(np.sqrt(weight @ (of_each + (lost - value) ** 2)))
    return value > 1.96 * std


def _level(draws: FloatArray) -> Level:
    low, middle, high = np.quantile(draws, (0.025, 0.5, 0.975))
    return Level(float(middle), float(low), float(high))
