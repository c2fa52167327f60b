"""What else could be done on the way, each with its chance: go on, slower, the pack in the bag, after a charge,
walking the last part, a lift."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import CHARGE_RATE_PER_H
from limpet.outlook.answer import SLOWEST_MPS, SlowTo
from limpet.read.charges import KEPT
from limpet.under_way.matter import MIGHT_NOT
from limpet.under_way.onward import Onward
from limpet.units import SECONDS_PER_HOUR

FloatArray = NDArray[np.float64]

#: Speeds beside the trip's own that are told, of it [-].
SLOWER = (0.85, 0.7)
#: Nobody pushes such a vehicle further than this [m] (assumption), and so finely is it told.
LONGEST_WALK_M, WALK_STEPS = 3000.0, 12
#: A charge longer than this is no charge on the way [s].
LONGEST_CHARGE_S = 12 * SECONDS_PER_HOUR

What = Literal["go_on", "slower", "pack", "charge", "walk", "lift", "lap"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice:
    """One way to go on.

    `arrives_probability` keeps the reserve, `reaches_probability` does not; `speed_mps` held,
    `charge_s` at the charger for `charge_wh`, `walk_m` pushed at the end, `laps` ridden in all;
    a `pack` from the bag is taken to be full. A `lift` needs no charge, and its chance is that of the way.
    """

    what: What
    arrives_probability: float
    reaches_probability: float
    speed_mps: float | None = None
    charge_s: float | None = None
    charge_wh: float | None = None
    walk_m: float | None = None
    laps: int | None = None


def choices_of(onward: Onward, rated_wh: float, slow: SlowTo | None) -> tuple[Choice, ...]:
    """The ways to go on, the plain one first; where that one likely fails, by their chance, the best first.

    Parameters
    ----------
    rated_wh : of all packs together, by which a charger's usual power is told
    slow : the speed that the way home asks for, where it asks for one
    """
    now = onward.now
    need = onward.need_wh(now.done_m)
    go_on = _choice("go_on", onward, need)
    found = [go_on]
    if now.course.repeats:
        found += _laps(onward)
        if go_on.arrives_probability >= onward.wanted:
            return tuple(found)
    left_m = onward.until_m - now.done_m
    if left_m <= 0 and not onward.goes_out:
        return (go_on,)
    found += _slower(onward, need, slow)
    if go_on.arrives_probability < onward.wanted:
        found += [*_pack(onward, need), *_charge(onward, need, rated_wh), *_walk(onward)]
    if go_on.reaches_probability < MIGHT_NOT:
        found.sort(key=lambda choice: -choice.reaches_probability)
        found.append(Choice(what="lift", arrives_probability=1.0, reaches_probability=1.0))
    return tuple(found)


def _choice(
    what: What, onward: Onward, need: FloatArray, more_wh: float = 0.0, **said: Any
) -> Choice:
    left = np.minimum(onward.now.left_wh + more_wh, onward.now.usable_wh)
    return _with(what, onward, need, left, **said)


def _with(what: What, onward: Onward, need: FloatArray, left: FloatArray, **said: Any) -> Choice:
    """A choice with so much to go on with [Wh]."""
    return Choice(
        what=what,
        arrives_probability=onward.chance(need <= left - onward.reserve_wh),
        reaches_probability=onward.chance(need <= left),
        **said,
    )


def _laps(onward: Onward) -> list[Choice]:
    """This lap, the next and the one after."""
    now = onward.now
    lap_m = now.course.length_m
    first = round(onward.until_m / lap_m)
    return [
        _choice("lap", onward, onward.need_wh(now.done_m, lap * lap_m), laps=lap)
        for lap in range(first, first + 3)
    ]


def _slower(onward: Onward, need: FloatArray, slow: SlowTo | None) -> list[Choice]:
    now = onward.now
    target = float(now.course.draws.columns.target_mps[0])
    speeds = [share * target for share in SLOWER if share * target > SLOWEST_MPS]
    begin, end = min(now.done_m, onward.until_m), onward.until_m
    if not speeds or end - begin < 1.0:
        return []
    if slow is not None:
        speeds = sorted({*speeds, slow.speed_mps}, reverse=True)
    ratios = now.course.at_speeds(speeds).over(begin, end)
    return [
        _choice("slower", onward, need * ratio, speed_mps=speed)
        for speed, ratio in zip(speeds, ratios, strict=True)
    ]


def _pack(onward: Onward, need: FloatArray) -> list[Choice]:
    """The packs in the bag, put in where this one ends; of how full they are nobody has said anything."""
    now = onward.now
    if now.in_bag == 0:
        return []
    left = now.left_wh + now.in_bag * now.one_pack_wh
    return [_with("pack", onward, need, left)]


def _charge(onward: Onward, need: FloatArray, rated_wh: float) -> list[Choice]:
    """The least charge after which the way is ridden with the wanted chance."""
    missing = need + onward.reserve_wh - onward.now.left_wh
    more = float(np.quantile(missing, onward.wanted))
    at_wall = more / KEPT
    seconds = at_wall / (CHARGE_RATE_PER_H.value * rated_wh) * SECONDS_PER_HOUR
    if more <= 0 or seconds > LONGEST_CHARGE_S:
        return []
    found = _choice("charge", onward, need, more, charge_s=seconds, charge_wh=at_wall)
    # A pack that is full takes no more, however long it hangs on the wall.
    return [found] if found.arrives_probability >= onward.wanted - 0.01 else []


def _walk(onward: Onward) -> list[Choice]:
    """The least walk at the end with which the rest is ridden with the wanted chance, reserve and all."""
    now = onward.now
    far = onward.until_m
    if onward.goes_out or far - now.done_m < 1.0:
        return []
    if onward.chance(onward.need_wh(now.done_m) <= now.left_wh) >= onward.wanted:
        return []
    for walk_m in np.linspace(0.0, min(LONGEST_WALK_M, far - now.done_m), WALK_STEPS + 1)[1:]:
        need = onward.need_wh(now.done_m, far - float(walk_m))
        found = _choice("walk", onward, need, walk_m=float(walk_m))
        # Walking is for getting home at all: the reserve is there to be used then.
        if found.reaches_probability >= onward.wanted:
            return [found]
    return []
