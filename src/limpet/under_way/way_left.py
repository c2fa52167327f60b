"""The way that is left, asked of the ride's draws: whether it is reached, by when to turn, how slowly."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from limpet.figures.drawn import quantity
from limpet.outlook.answer import SLOWEST_MPS, SlowTo
from limpet.under_way.answer import Way
from limpet.under_way.now import Now
from limpet.under_way.onward import Onward

FloatArray = NDArray[np.float64]

#: Speeds that are tried.
SPEEDS = 9


def way_left(onward: Onward, to_reserve: FloatArray) -> Way:
    """Whether the way that is left can be ridden; by when to turn; how slowly.

    Parameters
    ----------
    to_reserve : what may be used of what is left [Wh], shape (J,)
    """
    now, until_m = onward.now, onward.until_m
    need = onward.need_wh(now.done_m)
    arrives = onward.chance(need <= to_reserve)
    left_m = max(until_m - now.done_m, 0.0)
    slow = None
    if arrives < onward.wanted and left_m > 0:
        slow = slow_to(now, min(now.done_m, until_m), until_m, need, to_reserve)
        if slow is not None:
            slow = replace(slow, probability=min(slow.probability, onward.most))
    return Way(
        left_m=left_m,
        arrives_probability=arrives,
        reaches_probability=onward.chance(need <= now.left_wh),
        energy_left_fraction=quantity(
            np.clip(now.left_wh - need, 0.0, now.usable_wh) / now.usable_wh, "1"
        ),
        turn_by_m=onward.turn_by_m(now.done_m, to_reserve),
        slow_to=slow,
    )


def slow_to(
    now: Now,
    begin_m: float,
    until_m: float,
    need: FloatArray,
    to_reserve: FloatArray,
) -> SlowTo | None:
    """The highest speed at which the rest of the way is ridden with the wanted chance."""
    course = now.course
    target = float(course.draws.columns.target_mps[0])
    if target <= SLOWEST_MPS:
        return None
    speeds = np.linspace(SLOWEST_MPS, target, SPEEDS)[:-1]
    needs = need * course.at_speeds(speeds.tolist()).over(begin_m, until_m)[:, None]
    chances = (needs <= to_reserve).mean(axis=1)
    wanted = now.way.trip.probability
    good = np.flatnonzero(chances >= wanted)
    if len(good) == 0:
        return None
    best = int(good[-1])
    speed, chance = float(speeds[best]), float(chances[best])
    if best + 1 < len(speeds):
        step = (chance - wanted) / max(chance - float(chances[best + 1]), 1e-9)
        return SlowTo(
            speed_mps=speed + step * float(speeds[best + 1] - speeds[best]), probability=wanted
        )
    return SlowTo(speed_mps=speed, probability=chance)
