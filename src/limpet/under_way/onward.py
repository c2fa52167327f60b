"""From any place of the way that is left: what it needs on to its end, and what is left by then."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.under_way.now import Now, scatter, unknown_height
from limpet.under_way.ways import MOST_WAY_M

FloatArray = NDArray[np.float64]

#: Places at which turning round is tried.
PLACES = 25
#: How much further than what is left such a ride is looked at.
MOST_RANGES = 1.5
#: Within this of its end a lap counts as ridden [-].
AT_THE_LINE = 0.03
#: Laps that are looked at from now on.
LAPS_AHEAD = 3


@dataclass(frozen=True)
class Onward:
    """A ride under way and its way, in draws of shape (J,); places in metres from the start."""

    now: Now
    until_m: float
    height_wh: FloatArray
    reserve_wh: FloatArray
    #: No chance is told as more than this.
    most: float = 1.0

    @property
    def wanted(self) -> float:
        """The chance that is wanted."""
        return self.now.way.trip.probability

    def chance(self, true: NDArray[np.bool_]) -> float:
        """The share of draws that something holds in, as far as it may be told."""
        return min(float(true.mean()), self.most)

    @property
    def goes_out(self) -> bool:
        """Whether it is still on its way out, so that the way home grows with every metre."""
        return self.now.way.onward == "back" and not self.now.way.turned

    @property
    def furthest_m(self) -> float:
        """How far it may come: to its end, or on the way out as far as a pack carries out and back."""
        now = self.now
        if now.course.repeats and now.way.trip.route.laps is None:
            return now.done_m + LAPS_AHEAD * now.course.length_m
        if not self.goes_out:
            return max(self.until_m, now.done_m + 1.0)
        reach = MOST_RANGES * float(np.median(now.left_wh / now.per_m)) / 2
        return now.done_m + max(reach, 100.0)

    @cached_property
    def home_ratio(self) -> FloatArray:
        """What a stretch takes on the way home over what it takes on the way out [-], shape (J,).

        A headwind or a climb on the way out helps on the way home, and the other way round; which it was is not known.
        """
        now, course = self.now, self.now.course
        out_m = course.length_m / 2 if course.out_m is None else course.out_m
        out = now.rate.carried(course.between_wh(0.0, out_m))
        back = now.rate.carried(course.between_wh(out_m, course.length_m))
        least = 0.05 * float(np.median(np.abs(out))) + 1e-9
        return np.asarray(np.clip(back / np.maximum(out, least), 0.3, 3.0))

    def takes_wh(self, at_m: float) -> FloatArray:
        """What it takes to go on to a place, as far as is known now [Wh]."""
        now, on_m = self.now, max(at_m - self.now.done_m, 0.0)
        if self.goes_out or on_m <= 0:
            return on_m * now.per_m
        taken = now.rate.carried(now.course.between_wh(now.done_m, at_m))
        return np.asarray(taken * scatter(now.found, on_m))

    def left_wh(self, at_m: float) -> FloatArray:
        """What is left at a place further on, as far as is known now [Wh]."""
        now = self.now
        return np.asarray(np.clip(now.left_wh - self.takes_wh(at_m), 0.0, now.usable_wh))

    def home_wh(self, at_m: float) -> FloatArray | None:
        """What the way home takes for whoever turns at a place [Wh]; None where there is nothing to turn on."""
        now, course = self.now, self.now.course
        if course.repeats or now.way.turned or now.way.onward == "given":
            return None
        if self.goes_out:
            back = now.rate.carried(course.between_wh(now.done_m, course.length_m))
            # Before there is a way home it is as long as the way out.
            further = max(at_m - now.done_m, 0.0) * now.per_m * self.home_ratio
            need = (back if now.way.leads else 0.0) + further
            return np.asarray(need * scatter(now.found, at_m) - 2 * self.height_wh)
        out_m = course.length_m if course.out_m is None else course.out_m
        way_home = course.home_wh(min(at_m, out_m))
        assert way_home is not None
        return np.asarray(
            now.rate.carried(way_home) * scatter(now.found, at_m) - 2 * self.height_wh
        )

    def end_m(self, at_m: float) -> float:
        """Where the way ends for a ride at a place: of a lap without a number, the end of that lap."""
        course = self.now.course
        if not course.repeats or self.now.way.trip.route.laps is not None:
            return self.until_m
        return (int(at_m / course.length_m + AT_THE_LINE) + 1) * course.length_m

    def need_wh(self, at_m: float, until_m: float | None = None) -> FloatArray:
        """What the way from a place to its end takes [Wh].

        Parameters
        ----------
        until_m : another end, such as that of the next lap
        """
        now = self.now
        if self.goes_out:
            back = now.rate.carried(now.course.between_wh(now.done_m, now.course.length_m))
            need = back + max(at_m - now.done_m, 0.0) * now.per_m * self.home_ratio
            return np.asarray(need * scatter(now.found, at_m) - 2 * self.height_wh)
        end = self.end_m(at_m) if until_m is None else until_m
        begin = min(at_m, end)
        need = now.rate.carried(now.course.between_wh(begin, end))
        return np.asarray(need * scatter(now.found, end - begin) - 2 * self.height_wh)

    def out_and_home_wh(self, at_m: float) -> tuple[FloatArray, FloatArray] | None:
        """Places at which to turn, shape (n,), and what it takes on to each and home [Wh], shape (n, J).

        None where there is nothing to turn on, or it is too late for it.
        """
        now, course = self.now, self.now.course
        if course.repeats or now.way.turned or now.way.onward == "given":
            return None
        if self.goes_out:
            places = np.linspace(at_m, self.furthest_m, PLACES)
            back = now.rate.carried(course.between_wh(now.done_m, course.length_m))
            further = (places - now.done_m)[:, None] * now.per_m * self.home_ratio
            needs = back + (places - at_m)[:, None] * now.per_m + further
        else:
            out_m = course.length_m if course.out_m is None else course.out_m
            if at_m >= out_m:
                return None
            places = np.linspace(at_m, out_m, PLACES)
            rows = []
            for place in places.tolist():
                home = course.home_wh(place)
                assert home is not None
                rows.append(course.between_wh(at_m, place) + home)
            needs = now.rate.carried(np.stack(rows))
        return places, needs * scatter(now.found, 2 * places - at_m) - 2 * self.height_wh

    def turn_by_m(self, at_m: float, to_reserve_wh: FloatArray) -> float | None:
        """How far out one may go from a place and still be back with the reserve [m from the start]."""
        found = self.out_and_home_wh(at_m)
        if found is None:
            return None
        places, needs = found
        return last_safe(places, (needs <= to_reserve_wh).mean(axis=1), self.wanted)

    @property
    def turn_until_m(self) -> float:
        """Up to where turning round can matter [m]: on a way out without end always, else to its own turn."""
        course = self.now.course
        if self.goes_out:
            return MOST_WAY_M
        if course.repeats or course.out_m is None or self.now.way.turned:
            return 0.0
        return course.out_m


def onward_of(seen: RangeTest, now: Now, most: float = 1.0) -> Onward:
    """The way that is left of a ride; no chance of it is told as more than `most`."""
    height = unknown_height(seen, now.found, now.way) * now.found.remaining.value("height")
    return Onward(
        now=now,
        until_m=until_m_of(now),
        height_wh=height,
        reserve_wh=now.way.trip.reserve * now.usable_wh,
        most=most,
    )


def until_m_of(now: Now) -> float:
    """Where the way ends, from its start [m]; on a lap without a number, at the end of the lap."""
    course = now.course
    if not course.repeats:
        return course.length_m
    laps = now.way.trip.route.laps
    if laps is None:
        laps = int(now.done_m / course.length_m + AT_THE_LINE) + 1
    return float(laps * course.length_m)


def last_safe(places: FloatArray, chances: FloatArray, wanted: float) -> float | None:
    """The furthest place up to which the chance never falls under what is wanted; None of none."""
    if chances[0] < wanted:
        return None
    rows = zip(places.tolist(), chances.tolist(), strict=True)
    for (before, high), (after, low) in pairwise(rows):
        if low < wanted:
            return float(before + (high - wanted) / max(high - low, 1e-9) * (after - before))
    return float(places[-1])
