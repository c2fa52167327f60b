"""What runs of one kind differ by: from repeats, from rides in pairs, and from earlier runs of the vehicle."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from math import log, sqrt
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import RUN_CARRIED
from limpet.judge.carrying import Carried, carried
from limpet.judge.comparand import Comparand
from limpet.judge.named_errors import FEW, draws_of
from limpet.uncertain.scatter import Scatter
from limpet.uncertain.student import student_quantile

FloatArray = NDArray[np.float64]

#: Runs that what is assumed of the spread counts for (assumption).
ASSUMED_RUNS = 8
#: A difference is "seen" when four of five such comparisons show it: the quantile of that chance.
POWER_SCORE = 0.8416
#: Two rides make a pair when the second began so long after the first at most (assumption).
PAIR_WITHIN = timedelta(days=1)
#: Earlier runs of one vehicle that its spread is learned from, the latest.
MOST_LEARNED = 12

By = Literal["interval", "welch", "paired"]


def assumed_spread() -> Scatter:
    """`run_carried`, for eight runs."""
    return Scatter(variance=log(1 + RUN_CARRIED.std) ** 2, freedom=ASSUMED_RUNS)


def learned_spread(
    groups: Sequence[Sequence[Comparand]], assumed: Scatter | None = None
) -> tuple[Scatter, int]:
    """What is assumed, moved by what other runs of the same vehicle and kind of test show.

    Parameters
    ----------
    groups : runs of one vehicle and kind each, oldest first; none of them is a side of the comparison
    assumed : `run_carried` where nothing else is

    Returns
    -------
    The spread, and how many runs taught it

    Notes
    -----
    A scaled inverse χ²: each group's squares about its own mean, all carried to its first run's conditions,
    with their own errors and those of the carrying taken off.
    """
    found = assumed or assumed_spread()
    runs = 0
    for group in groups:
        latest = [test for test in group if _tells(test)][-MOST_LEARNED:]
        if len(latest) < 2:
            continue
        with draws_of(FEW):
            logs = [carried(test, latest[0], "wh_per_km", frozenset()) for test in latest]
            own = own_variance(*logs)
        found = shown_by(np.array([item.log.mean() for item in logs]), own, found)
        runs += len(logs)
    return found, runs


def comparable(others: Sequence[Comparand], sides: Sequence[Comparand]) -> list[list[Comparand]]:
    """Other metered runs of the vehicles of a comparison and of its kinds of test, a group of each."""
    taken = {test.key for test in sides}
    kinds = dict.fromkeys((test.vehicle, test.purpose) for test in sides if test.vehicle)
    return [
        [
            test
            for test in others
            if (test.vehicle, test.purpose) == kind and test.metered and test.key not in taken
        ]
        for kind in kinds
    ]


def _tells(test: Comparand) -> bool:
    figure = test.figures.get("wh_per_km")
    return figure is not None and figure.value > 0 and test.ridden.legs_known


@dataclass(frozen=True, slots=True)
class Spread:
    """A difference of means of logarithms: value, what is common, what each run adds, and how it is judged.

    `runs` and `of_runs` are those of each side; of rides in pairs those of the pairs, `each` then being a
    pair's too.
    """

    value: float
    common: float
    each: float
    runs: tuple[int, ...]
    of_runs: tuple[Scatter, ...]
    by: By

    def variance(self, further: int = 0) -> float:
        """With so many more runs of each."""
        sides = zip(self.runs, self.of_runs, strict=True)
        return self.common + sum((self.each + side.variance) / (n + further) for n, side in sides)

    def freedom(self, further: int = 0) -> float:
        """Welch and Satterthwaite: only the spread from run to run is estimated from few."""
        estimated = sum(
            (side.variance / (n + further)) ** 2 / (side.freedom + further)
            for n, side in zip(self.runs, self.of_runs, strict=True)
        )
        return self.variance(further) ** 2 / max(estimated, 1e-24)

    def student(self, further: int = 0) -> float:
        """Half of the 95% interval, in standard uncertainties."""
        return student_quantile(0.975, min(self.freedom(further), 1e6))

    def reach(self, further: int = 0) -> float:
        """What the difference has to be to be seen in four of five."""
        return (self.student(further) + POWER_SCORE) * sqrt(self.variance(further))


def spread_of(ones: Sequence[Carried], twos: Sequence[Carried], known: Scatter) -> Spread:
    """The difference of the means of two sides, and what it is known by.

    Parameters
    ----------
    known : what is known of the spread from run to run beside these runs

    Notes
    -----
    Rides that were ridden in turns, two by two within a day, are compared in pairs: what the day did to
    both goes out, and what a pair differs from the next by is the spread. That is decided by how they were
    ridden and not by which gives the smaller interval. Else each side has a spread of its own (Welch), for
    each of which half of what was known before counts.
    """
    difference = np.mean([item.log for item in twos], axis=0) - np.mean(
        [item.log for item in ones], axis=0
    )
    each = own_variance(*ones, *twos)
    logs = [np.array([item.log.mean() for item in side]) for side in (ones, twos)]
    pairs = pairs_in_time([one.test for one in ones], [two.test for two in twos])
    if pairs:
        each *= 2
        gaps = np.array([logs[1][k] - logs[0][i] for i, k in pairs])
        pair = Scatter(variance=2 * known.variance, freedom=known.freedom)
        runs: tuple[int, ...] = (len(pairs),)
        of_runs: tuple[Scatter, ...] = (shown_by(gaps, each, pair),)
    else:
        half = Scatter(variance=known.variance, freedom=known.freedom / 2)
        runs = (len(ones), len(twos))
        of_runs = tuple(shown_by(side, each, half) for side in logs)
    single = len(ones) == len(twos) == 1
    return Spread(
        value=float(difference.mean()),
        common=max(float(difference.var()) - sum(each / n for n in runs), 0.0),
        each=each,
        runs=runs,
        of_runs=of_runs,
        by="paired" if pairs else "interval" if single else "welch",
    )


def shown_by(logs: FloatArray, each: float, known: Scatter) -> Scatter:
    """What runs, or pairs, scatter by beyond their own errors, weighed with what was known before.

    Parameters
    ----------
    logs : one figure of each, shape (n,)
    each : the variance of one by its own errors
    """
    return known.moved_by(float(((logs - logs.mean()) ** 2).sum()), each, len(logs) - 1)


def own_variance(*items: Carried) -> float:
    """What one more run of the same kind would bring of its own: half of what it differs from this one by."""
    again = [item.again for item in items]
    found = [(item.found - other.found).var() / 2 for item, other in zip(items, again, strict=True)]
    changes = [
        ((item.log - item.found) - (other.log - other.found)).var() / 2
        for item, other in zip(items, again, strict=True)
        if item.corrections
    ]
    return float(np.mean(found) + (np.mean(changes) if changes else 0.0))


def pairs_in_time(first: Sequence[Comparand], second: Sequence[Comparand]) -> list[tuple[int, int]]:
    """Rides that were ridden two by two, one of each side within a day of the other, as places in the sides.

    Returns
    -------
    At least two pairs that hold every ride; else none
    """
    if len(first) != len(second) or len(first) < 2:
        return []
    begun = []
    for side, tests in enumerate((first, second)):
        for place, test in enumerate(tests):
            if test.started_at is None:
                return []
            begun.append((datetime.fromisoformat(test.started_at), side, place))
    if len({when.tzinfo is not None for when, _, _ in begun}) > 1:
        # A time with a zone and one without cannot be put in order.
        return []
    begun.sort()
    found = []
    for (when, side, place), (later, other, theirs) in zip(begun[::2], begun[1::2], strict=True):
        if side == other or later - when > PAIR_WITHIN:
            return []
        found.append((place, theirs) if side == 0 else (theirs, place))
    return sorted(found)
