"""A test carried to the conditions of another: each condition a line of its own, with what the carrying costs."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import compress
from typing import Final

import numpy as np
from numpy.typing import NDArray

from limpet.carry.road import CARRYING, NO_SPEED
from limpet.judge.comparand import Comparand, Name
from limpet.judge.day import (
    FACTORS,
    Body,
    Day,
    Factor,
    body_of,
    day_of,
    one_by_one,
    pack_factor,
    wh_per_km,
    with_factors,
)
from limpet.judge.measured import measured
from limpet.judge.named_errors import score

FloatArray = NDArray[np.float64]

#: A condition that changes less than this is no line [-].
LEAST_CHANGE = 0.0005


#: Which way a figure goes with what a kilometre takes; what a pack keeps does not.
_SIGN: Final[dict[Name, float]] = {
    "wh_per_km": 1.0,
    "range_to_cutoff": -1.0,
    "retained_fraction": 0.0,
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Correction:
    """What one condition was worth: the logarithm of the figure after it over that before, shape (J,)."""

    name: Factor
    test: Comparand
    log: FloatArray


@dataclass(frozen=True, slots=True)
class Carried:
    """A test at another's conditions.

    `found` and `log` are the logarithms of its figure as found and as carried, shape (J,): with its own
    errors and those of the carrying.
    """

    test: Comparand
    to: Comparand
    quantity: Name
    held: frozenset[Factor]
    found: FloatArray
    log: FloatArray
    corrections: tuple[Correction, ...]

    @property
    def again(self) -> Carried:
        """Another run just like it: what they have in common is the same, all else is drawn anew."""
        twin = replace(self.test, key=f"{self.test.key} again")
        if self.test.key == self.to.key:
            found = measured(twin, self.quantity)
            return replace(self, test=twin, found=found, log=found)
        return carried(twin, self.to, self.quantity, self.held)


#: What conditions do, by the keys of the two tests, kept while one question is answered.
Memo = dict[tuple[str, str], tuple[Day, Day, dict[Factor, FloatArray]]]


def carried(
    test: Comparand,
    to: Comparand,
    quantity: Name,
    held: frozenset[Factor],
    memo: Memo | None = None,
) -> Carried:
    """Bring a test to the conditions of another.

    Parameters
    ----------
    to : the test whose conditions count; for itself nothing is carried
    held : conditions that are the question: they stay as they were
    memo : where another figure of the same tests is carried as well; of one `held`

    Notes
    -----
    The total is the ratio of the road model under both conditions. A condition's part is the mean of what
    it does alone among the one's conditions and among the other's, scaled so that the parts make the
    total: no order of the conditions is better than another.
    """
    found = measured(test, quantity)
    if test.key == to.key:
        return Carried(test, to, quantity, held, found, found, ())
    corrections = []
    known = None if memo is None else memo.get((test.key, to.key))
    if known is None:
        own, like = day_of(test, to), day_of(to, test)
        known = own, like, _parts(body_of(test), own, like, held)
        if memo is not None:
            memo[test.key, to.key] = known
    own, like, parts = known
    names = list(parts)
    logs = _SIGN[quantity] * np.array(list(parts.values()))
    if quantity == "range_to_cutoff" and "temperature" in parts:
        lost = np.log(pack_factor(test, like) / pack_factor(test, own))
        logs[names.index("temperature")] += lost
    told = (np.abs(logs.mean(axis=1)) > LEAST_CHANGE) | (logs.std(axis=1) > LEAST_CHANGE)
    for name, log in zip(compress(names, told), logs[told], strict=True):
        # Each condition's own error, and the same one for every test of a vehicle.
        wrong = 1 + CARRYING * score("carrying", name, test.vehicle or test.kind)
        corrections.append(Correction(name=name, test=test, log=log * wrong))
    total = found + sum((item.log for item in corrections), np.zeros_like(found))
    if test.ridden.speed_mps is None or to.ridden.speed_mps is None:
        total = total + NO_SPEED * score("no speed", test.key)
    return Carried(test, to, quantity, held, found, total, tuple(corrections))


def _parts(body: Body, own: Day, like: Day, held: frozenset[Factor]) -> dict[Factor, FloatArray]:
    """What each condition does [log], shape (J,)."""
    free = [name for name in FACTORS if name not in held]
    there = with_factors(own, like, free)
    here_log, *forth = np.log(wh_per_km(body, one_by_one(own, like, free)))
    there_log, *back = np.log(wh_per_km(body, one_by_one(there, own, free)))
    parts = ((np.array(forth) - here_log) + (there_log - np.array(back))) / 2
    rest = there_log - here_log - parts.sum(axis=0)
    sizes = np.abs(parts)
    parts = parts + rest / np.maximum(sizes.sum(axis=0), 1e-12) * sizes
    return dict(zip(free, parts, strict=True))
