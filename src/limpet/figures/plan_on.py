"""What to plan on: the distance that the next such ride keeps with a stated chance."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import RUN_TO_RUN
from limpet.notices.remarks import remark
from limpet.state.priors import Learned

FloatArray = NDArray[np.float64]

#: The chance with which the promise is kept [-].
PROBABILITY = 0.95


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanOn:
    """The promise for the next such ride [m], its chance, the runs it stands on, and why."""

    distance_m: float
    probability: float
    runs: int
    reason: str


def plan_on(to_reserve_m: FloatArray, learned: Learned | None = None, seed: int = 1) -> PlanOn:
    """The one-sided bound of the next ride's distance to the reserve.

    Parameters
    ----------
    to_reserve_m : draws of this ride's distance to the reserve [m], shape (J,)
    learned : the spread from run to run, where metered runs of the vehicle told it

    Notes
    -----
    An interval of a measurement is no promise: the next ride differs from this one as two runs do,
    √(1 + 1/n) of the spread from run to run, 8% for a single run (handbook section 12,
    *assumption*). Here n is 1: it is this ride that the next one is held against.
    """
    known = learned is not None and len(learned.tests) > 1
    one = learned.value if learned is not None and known else RUN_TO_RUN.std
    spread = one * sqrt(2.0)
    other = np.random.default_rng(seed).standard_normal(len(to_reserve_m))
    following = to_reserve_m * np.exp(spread * other)
    why = remark("one_run", percent=100 * one)
    if learned is not None and known:
        why = remark("several_runs", percent=100 * one, runs=len(learned.tests))
    return PlanOn(
        distance_m=float(np.quantile(following, 1 - PROBABILITY)),
        probability=PROBABILITY,
        runs=1 + (len(learned.tests) if learned is not None and known else 0),
        reason=why.said,
    )
