"""A small table of a ride under way, made for a device that is about to lose its signal.

It holds figures only; whoever reads it interpolates and applies no rule of its own. Axes: how far the
ride has come, the energy that is left there and how surely it is known, and the speed.
"""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import RegularGridInterpolator

from limpet.evidence.model import RangeTest
from limpet.follow.answer import Following
from limpet.follow.course import Slower
from limpet.follow.now import Now
from limpet.follow.onward import AT_THE_LINE, Onward
from limpet.follow.reads import Reads
from limpet.follow.seeing import Sight, sights_of
from limpet.forecast.answer import SLOWEST_MPS
from limpet.result.choose import least_uncertain
from limpet.uncertain.normal import normal_probability, normal_quantile

FloatArray = NDArray[np.float64]

#: Places along the way that is left, where it bends most, and speeds over the trip's own; the slowest that
#: is worth riding comes after them.
PLACES = 11
#: What the rest of the way takes is told at so many places: hills make it run less straight than all else.
FINE_PLACES = 61
SPEEDS: Final = (1.0, 0.8, 0.6)
#: Shares of usable energy left, and how surely they are known (one standard uncertainty).
LEFT: Final = (0.0, 0.12, 0.27, 0.48, 0.75, 1.0)
SURE: Final = (0.01, 0.04, 0.09, 0.18)
#: No chance is told from further out than this [σ].
MOST_SCORE = 8.0
#: A turn that was missed is told back so many steps of the search [-].
LONGEST_BACK = 25.0
#: Shares of the draws that their width is told by, and how many σ out these are of normal ones.
_TAILS: Final = (0.05, 0.20)
_TAIL_SCORES: Final = (1.6449, 0.8416)


@dataclass(frozen=True, slots=True, kw_only=True)
class Axes:
    """How finely a table is made: so many places, these shares left, these uncertainties of them."""

    places: int = PLACES
    left: tuple[float, ...] = LEFT
    sure: tuple[float, ...] = SURE
    #: These places and no others [m].
    at: tuple[float, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Base:
    """What an instrument of the way showed where the ride had come `at_m` by the chosen distance."""

    name: str
    shown: float
    at_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class FollowTable:
    """The table. `over` is what is left at the end of the way as a share of usable energy, below nought
    where it falls short, as of `_spread`, shape (5, speeds, places, left, sure); `over_next` the same at
    the end of the lap after, shape (5, places, left, sure).
    `to_turn_m` is how far on one may go and turn, below nought where it is too late, NaN where there is
    nothing to turn on; shape (places, left, sure).

    `over` stands beside what is left less what the rest `takes`, which is told at finer places, at the
    trip's own speed; `slower` is how that changes with the speed, shape (speeds, places).
    `foreseen` is the share left at each place as it is foreseen, value and u; `range_m` what a whole
    usable charge covers in this kind of riding.
    """

    at_s: float
    done_m: float
    until_m: float
    lap_m: float | None
    turn_until_m: float
    half: float | None
    reserve: float
    wanted: float
    shows_charge: bool
    reads: Reads | None
    speeds_mps: tuple[float, ...]
    axes: Axes
    places_m: FloatArray
    foreseen: FloatArray
    range_m: tuple[float, float]
    fine_m: FloatArray
    takes: FloatArray
    takes_next: FloatArray | None
    slower: FloatArray
    over: FloatArray
    over_next: FloatArray | None
    to_turn_m: FloatArray
    sights: tuple[Sight, ...]
    bases: tuple[Base, ...]

    def to_json(self) -> dict[str, Any]:
        """The table as it goes to a device: numbers with no more digits than they are worth."""

        def few(values: FloatArray, digits: int) -> Any:
            rounded = np.round(values, digits).astype(object)
            rounded[np.isnan(values)] = None
            return rounded.tolist()

        return {
            "follow_table": 1,
            "at_s": self.at_s,
            "done_m": round(self.done_m, 1),
            "until_m": round(self.until_m, 1),
            "lap_m": self.lap_m,
            "half": self.half,
            "reserve": self.reserve,
            "wanted": self.wanted,
            "shows_charge": self.shows_charge,
            "reads": None if self.reads is None else asdict(self.reads),
            "wanted_score": round(float(normal_quantile(np.array([self.wanted]))[0]), 4),
            "speeds_mps": [round(speed, 3) for speed in self.speeds_mps],
            "places_m": few(self.places_m, 1),
            "left": list(self.axes.left),
            "sure": list(self.axes.sure),
            "foreseen": few(self.foreseen, 4),
            "range_m": [round(value, 1) for value in self.range_m],
            "fine_m": few(self.fine_m, 0),
            "takes": few(self.takes, 4),
            "takes_next": None if self.takes_next is None else few(self.takes_next, 4),
            "slower": few(self.slower, 4),
            "over": few(self.over, 4),
            "over_next": None if self.over_next is None else few(self.over_next, 4),
            "to_turn_m": few(self.to_turn_m, 0),
            "turn_until_m": round(self.turn_until_m, 1),
            "sights": [sight.to_json() for sight in self.sights],
            "bases": [asdict(base) for base in self.bases],
        }


def table_of(
    seen: RangeTest,
    onward: Onward,
    answer: Following,
    half: float | None = None,
    axes: Axes | None = None,
) -> FollowTable:
    """Make the table of a ride.

    Parameters
    ----------
    seen : what was recorded so far, its instruments set right
    answer : the ride as it stands
    half : how well the range is known, where that is well enough and was asked
    axes : how finely

    Notes
    -----
    At each place the draws of what is left and of what the rest needs are taken together: with another
    amount left, known otherwise, the need moves along their regression, as it would if a reading had
    said so (the linear update of an ensemble; exact for normal draws).
    """
    axes = axes or Axes()
    now = onward.now
    target = float(now.course.draws.columns.target_mps[0])
    shares = (*SPEEDS, float(np.clip(SLOWEST_MPS / max(target, 0.1), 0.2, 0.5)))
    fine = _fine(onward)
    takes = np.array([_takes(onward, at, 0) for at in fine])
    places = np.array(axes.at) if axes.at else bends(fine, takes, axes.places)
    shape = (len(shares), len(places), len(axes.left), len(axes.sure))
    over, over_next = np.zeros((5, *shape)), np.zeros((5, *shape[1:]))
    slower = np.ones((len(shares), len(places)))
    to_turn = np.full(shape[1:], np.nan)
    wanted_score = float(normal_quantile(np.array([onward.wanted]))[0])
    foreseen = np.zeros((len(places), 2))
    repeats = now.course.repeats and now.way.trip.route.laps is None
    slow = now.course.at_speeds([share * target for share in shares[1:]])
    for p, place in enumerate(places.tolist()):
        left = onward.left_wh(place)
        share = left / now.usable_wh
        foreseen[p] = float(share.mean()), float(share.std())
        end = onward.end_m(place)
        need = onward.need_wh(place)
        slope = _slope(need, left)
        slower[:, p] = ratios = _ratios(onward, place, slow)
        homes = onward.out_and_home_wh(place)
        lap_more = onward.need_wh(place, end + now.course.length_m) if repeats else None
        # Every amount left with every sureness of it at once: shape (left, sure, J).
        here = _moved(share, axes) * now.usable_wh
        shift = here - left
        told = need + slope * shift
        for v, ratio in enumerate(ratios):
            over[:, v, p] = _spread((here - told * ratio) / now.usable_wh)
        if homes is not None:
            to_reserve = here - onward.reserve_wh
            to_turn[p] = _to_turn(homes, left, shift, to_reserve, wanted_score)
        if lap_more is not None:
            more = lap_more + _slope(lap_more, left) * shift
            over_next[:, p] = _spread((here - more) / now.usable_wh)
    takes_next = np.array([_takes(onward, at, 1) for at in fine]) if repeats else None
    # Apart from what the rest takes all runs straight.
    plain = np.array(axes.left)[None, :, None]
    own = np.array([_takes(onward, at, 0) for at in places])
    for v in range(len(shares)):
        over[0, v] -= plain - (own * slower[v])[:, None, None]
    if repeats:
        own = np.array([_takes(onward, at, 1) for at in places])
        over_next[0] -= plain - own[:, None, None]
    reach = now.usable_wh / now.per_m
    return FollowTable(
        at_s=answer.at_s,
        done_m=now.done_m,
        until_m=onward.until_m,
        lap_m=now.course.length_m if repeats else None,
        turn_until_m=onward.turn_until_m,
        half=half,
        reserve=now.way.trip.reserve,
        wanted=onward.wanted,
        shows_charge=answer.shows_charge,
        reads=answer.reads,
        speeds_mps=tuple(share * target for share in shares),
        axes=axes,
        places_m=places,
        foreseen=foreseen,
        range_m=(float(np.median(reach)), float(np.quantile(reach, 1 - onward.wanted))),
        fine_m=fine,
        takes=takes,
        takes_next=takes_next,
        slower=slower,
        over=over,
        over_next=over_next if repeats else None,
        to_turn_m=to_turn,
        sights=sights_of(seen, onward, places),
        bases=bases_of(seen, now),
    )


def _fine(onward: Onward) -> FloatArray:
    """Places at which it is told what the rest takes; a lap's end stands between two of them [m]."""
    first_m, last_m = onward.now.done_m, onward.furthest_m
    fine = np.linspace(first_m, last_m, FINE_PLACES)
    if not onward.now.course.repeats:
        return fine
    lap_m = onward.now.course.length_m
    laps = np.arange(int(first_m / lap_m), int(last_m / lap_m) + 2)
    lines = (laps - AT_THE_LINE) * lap_m
    inside = lines[(lines > first_m + 1) & (lines < last_m - 1)]
    return np.sort(np.concatenate([fine, inside - 1.0, inside + 1.0]))


def bends(at_m: FloatArray, values: FloatArray, most: int) -> FloatArray:
    """So many places that a line through the values there stays closest to all of them.

    The first and the last, and then, one after the other, where the line is furthest off (D. H. Douglas
    and T. K. Peucker, Cartographica 10 (1973) 112-122, from memory).
    """
    chosen = [0, len(at_m) - 1]
    while len(chosen) < min(most, len(at_m)):
        off = np.abs(values - np.interp(at_m, at_m[chosen], values[chosen]))
        worst = int(np.argmax(off))
        if worst in chosen or off[worst] < 1e-4:
            # A straight line is cut in its longest piece.
            gaps = np.diff(at_m[chosen])
            longest = int(np.argmax(gaps))
            worst = (chosen[longest] + chosen[longest + 1]) // 2
            if worst in chosen:
                break
        chosen = sorted([*chosen, worst])
    return at_m[chosen]


def _takes(onward: Onward, at_m: float, laps_more: int) -> float:
    """What the rest of the way takes at the trip's own speed, as a share of usable energy: the middle."""
    end = onward.end_m(at_m) + laps_more * onward.now.course.length_m
    need = onward.need_wh(at_m) if laps_more == 0 else onward.need_wh(at_m, end)
    return float(np.median(need / onward.now.usable_wh))


def _ratios(onward: Onward, place: float, slow: Slower) -> list[float]:
    """What the rest takes at each of the speeds, over what it takes at the trip's own."""
    end = onward.until_m
    if onward.goes_out or end - place < 1.0:
        # On the way out the way home is the one that was ridden.
        begin, end = max(onward.now.course.length_m - 1000.0, 0.0), onward.now.course.length_m
    else:
        begin = place
    return [1.0, *slow.over(begin, end).tolist()]


def _moved(share: FloatArray, axes: Axes) -> FloatArray:
    """The draws of what is left about each other value, as close as it is known; shape (left, sure, J)."""
    about = (share - share.mean()) / max(float(share.std()), 1e-6)
    left, sure = np.array(axes.left)[:, None, None], np.array(axes.sure)[None, :, None]
    return np.asarray(np.clip(left + about * sure, 0.0, 1.0))


def _slope(need: FloatArray, left: FloatArray) -> float:
    """How what the rest needs goes with what is left, over the draws [-]."""
    about = left - left.mean()
    variance = float(about @ about)
    return 0.0 if variance < 1e-9 else float(about @ (need - need.mean())) / variance


def _spread(margin: FloatArray) -> FloatArray:
    """Middle of draws, the last axis, and how far from it their quantiles `_TAILS` lie; one more axis in front.

    All run nearly straight from one place of the table to the next, as a chance does not.
    """
    far, near = _TAILS
    found = np.quantile(margin, (0.5, near, far, 1 - near, 1 - far), axis=-1)
    middle = found[0]
    return np.stack([middle, *(middle - found[1:3]), *(found[3:] - middle)])


def over_at(
    table: FollowTable, at_m: float, left: float, sure: float, speed: int = 0
) -> FloatArray:
    """What is left over at the end of the way for a ride at a place of the table, as of `_spread`.

    As a device reads it: linearly between the table's figures.
    """
    point = (at_m, left, sure)
    axes = (table.places_m, np.array(table.axes.left), np.array(table.axes.sure))
    found = np.array(
        [float(RegularGridInterpolator(axes, table.over[k, speed])(point)) for k in range(5)]
    )
    takes = float(np.interp(at_m, table.fine_m, table.takes))
    slower = float(np.interp(at_m, table.places_m, table.slower[speed]))
    found[0] += left - takes * slower
    return found


def chance_over(spread: FloatArray, least: float) -> FloatArray:
    """The chance that more than a share is left over."""
    score = score_over(spread, least)
    return normal_probability(score.ravel()).reshape(score.shape)


def score_over(spread: FloatArray, least: float) -> FloatArray:
    """The score of the chance that more than a share is left over: straight between the quantiles, in scores.

    Parameters
    ----------
    spread : as of `_spread`, first axis 5
    """
    off = spread[0] - least
    near = np.maximum(np.where(off > 0, spread[1], spread[3]), 1e-6)
    far = np.maximum(np.where(off > 0, spread[2], spread[4]), near + 1e-6)
    size = np.abs(off)
    first, second = _TAIL_SCORES[1], _TAIL_SCORES[0]
    beyond = first + (size - near) * (second - first) / (far - near)
    score = np.where(size < near, size / near * first, beyond)
    return np.asarray(np.sign(off) * np.minimum(score, MOST_SCORE))


def _to_turn(
    homes: tuple[FloatArray, FloatArray],
    left: FloatArray,
    shift: FloatArray,
    to_reserve: FloatArray,
    wanted_score: float,
) -> FloatArray:
    """How far on one may go and still be back [m], shape (left, sure); below nought where it is too late,
    by so much as the turn should have come earlier, so that it runs straight through that moment."""
    places, needs = homes
    about = left - left.mean()
    variance = max(float(about @ about), 1e-9)
    slopes = (needs - needs.mean(axis=1, keepdims=True)) @ about / variance
    scores = np.stack(
        [
            score_over(_spread(to_reserve - need - slope * shift), 0.0)
            for need, slope in zip(needs, slopes.tolist(), strict=True)
        ]
    )
    found = np.zeros(shift.shape[:2])
    for i, k in np.ndindex(*found.shape):
        found[i, k] = _crossing(places, scores[:, i, k], wanted_score) - places[0]
    return found


def _crossing(places: FloatArray, scores: FloatArray, wanted: float) -> float:
    """Where falling scores pass what is wanted; before the first place, or at the last, where they do not."""
    below = np.flatnonzero(scores < wanted)
    if len(below) == 0:
        return float(places[-1])
    first = max(int(below[0]), 1)
    fall = max(float(scores[first - 1] - scores[first]), 1e-3)
    step = float(places[first] - places[first - 1])
    back = float(scores[first - 1] - wanted) / fall * step
    return float(places[first - 1]) + max(back, -LONGEST_BACK * step)


def bases_of(seen: RangeTest, now: Now) -> tuple[Base, ...]:
    """The last reading of each instrument of the way, and where that was."""
    chosen = least_uncertain(now.found.distances)
    if chosen is None:
        return ()
    found = []
    for name in ("laps", "trip_m", "gps_m", "odometer_m"):
        last = next((e for e in reversed(seen.entries) if getattr(e, name) is not None), None)
        if last is not None:
            at_m = float(chosen.line.at(np.array([last.time_s]))[0])
            found.append(Base(name=name, shown=float(getattr(last, name)), at_m=at_m))
    return tuple(found)
