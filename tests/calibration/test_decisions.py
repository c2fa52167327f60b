"""Decisions on the way, against rides whose truth a porous-electrode model knows and the core does not.

At a stop somebody asks whether what is left brings them home. Of those that were told 90 to 97 %, as
many should get there; and whoever turns where it says "turn by" should hardly ever be stranded.
"""

from __future__ import annotations

import numpy as np
import pytest

from limpet.follow import WayAhead, advise
from limpet.follow.so_far import last_record_s
from tests.calibration.cells import FOREIGN, cell_rides
from tests.calibration.riders import KINDS, Kind, told

#: What a rider at the roadside has.
ASKED: tuple[Kind, ...] = (
    "counters and volts in part",
    "volts at every stop",
    "percent",
)
#: The answers that are looked at, and how many of those may and must get home.
SAID, HELD = (0.90, 0.97), (0.85, 0.99)
#: More often stranded than this nobody may be who turns in time.
MOST_STRANDED = 0.05
#: When the turn is asked about, of what was recorded [-].
EARLY = 0.4


def stops():
    """A stop of each ride and each kind of rider, with what is true of it."""
    for number, ride in enumerate(cell_rides()):
        if ride.parameters in FOREIGN:
            continue
        for kind in ASKED:
            item = told(ride, kind, np.random.default_rng([11, number, KINDS.index(kind)]))
            if item is not None and item.distance_m > 500:
                yield item


@pytest.fixture(scope="module")
def decided():
    """What was said of a way that is about as long as is just safe, and whether it was; and the turns."""
    home, stranded = [], []
    for item in stops():
        done_m, left_m = item.distance_m, item.range_to_cutoff_m - item.distance_m
        first = advise(item.test)
        on = first.following.range_left_to_cutoff
        # So long a way that the chance is about what is asked of: one and a half σ less than the middle.
        length_m = max(on.value - 1.5 * on.standard_uncertainty, 0.3 * on.value)
        ahead = WayAhead(onward="given", from_m=done_m, until_m=done_m + length_m)
        way = advise(item.test, ahead=ahead).following.way
        assert way is not None
        if SAID[0] <= way.reaches_probability <= SAID[1]:
            home.append(left_m >= length_m)
        # A quarter of the way into the ride there is something to turn on yet.
        early = advise(item.test, until_s=EARLY * last_record_s(item.test))
        turn = early.following.way
        if early.onward == "back" and turn is not None and turn.turn_by_m is not None:
            stranded.append(2 * turn.turn_by_m > item.range_to_cutoff_m)
    return np.array(home), np.array(stranded)


def test_of_those_who_are_told_that_they_get_home_so_many_do(decided):
    home, _ = decided
    assert len(home) >= 40
    assert HELD[0] <= home.mean() <= HELD[1]


def test_whoever_turns_in_time_is_hardly_ever_stranded(decided):
    _, stranded = decided
    assert len(stranded) >= 60
    assert stranded.mean() <= MOST_STRANDED
