"""Decisions on the way, against rides whose truth a porous-electrode model knows and the core does not."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.follow import WayAhead
from limpet.follow.follow import riding
from limpet.follow.so_far import last_record_s
from tests.calibration.cells import FOREIGN, cell_rides
from tests.calibration.riders import KINDS, Kind, Told, told

#: What a rider at the roadside has.
ASKED: tuple[Kind, ...] = ("counters and volts in part", "volts at every stop", "percent")
#: The answers that are looked at, and how many of those may and must get home.
SAID, HELD = (0.90, 0.97), (0.85, 0.99)
#: More often stranded than this nobody may be who turns in time.
MOST_STRANDED = 0.05
#: When the turn is asked about, of what was recorded [-].
EARLY = 0.4


@dataclass(frozen=True)
class Decided:
    """Of those who were told that they get home, who did; of those who turned in time, who was stranded."""

    home: NDArray[np.bool_]
    stranded: NDArray[np.bool_]

    def __str__(self) -> str:
        return (
            f"told {SAID[0]:.0%} to {SAID[1]:.0%} to get home: {len(self.home)}, got home {self.home.mean():.1%}\n"
            f"turned by when it was said: {len(self.stranded)}, stranded {self.stranded.mean():.1%}"
        )


def _stops(every: int, riders: int) -> Iterator[Told]:
    """A stop of each ride and each kind of rider, by so many riders; of every so manieth of them."""
    asked = [(who, *ride) for who in range(riders) for ride in enumerate(cell_rides())]
    for who, number, ride in asked:
        if ride.parameters in FOREIGN:
            continue
        for turn, kind in enumerate(ASKED):
            if (number + turn) % every:
                continue
            item = told(ride, kind, np.random.default_rng([11 + who, number, KINDS.index(kind)]))
            if item is not None and item.distance_m > 500:
                yield item


def decide(every: int = 1, riders: int = 1) -> Decided:
    """Ask of a way that is about as long as is just safe, and by when to turn; see what came of it."""
    home, stranded = [], []
    for item in _stops(every, riders):
        done_m, left_m = item.distance_m, item.range_to_cutoff_m - item.distance_m
        on = riding(item.test).following.range_left_to_cutoff
        # So long a way that the chance is about what is asked of: one and a half σ less than the middle.
        length_m = max(on.value - 1.5 * on.standard_uncertainty, 0.3 * on.value)
        ahead = WayAhead(onward="given", from_m=done_m, until_m=done_m + length_m)
        way = riding(item.test, ahead=ahead).following.way
        assert way is not None
        if SAID[0] <= way.reaches_probability <= SAID[1]:
            home.append(left_m >= length_m)
        # Well before the end there is something to turn on yet.
        early = riding(item.test, until_s=EARLY * last_record_s(item.test))
        turn = early.following.way
        backs = early.onward.now.way.onward == "back"
        if backs and turn is not None and turn.turn_by_m is not None:
            stranded.append(2 * turn.turn_by_m > item.range_to_cutoff_m)
    return Decided(np.array(home), np.array(stranded))
