"""What a ride's events mean for its figures: where the drive held back, a mode's consumption, rain,
a puncture, a fall, a night."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

import numpy as np

from limpet.evidence.model import Entry, RangeTest
from limpet.notices import Notice
from limpet.read.line import Line
from limpet.read.window import RideWindow

#: The drive's own ways to say that it gives less, and how a sentence calls them.
HOLDS_BACK: Final = {
    "warning": "the warning light",
    "power_cut": "the power cut",
    "tilt_back": "the tilt-back",
}
#: What makes a ride another one from where it was noted, and the notice that says so.
MARKS: Final = {
    "overheated": "overheated",
    "puncture": "punctured",
    "fall": "fell",
    "rain": "rained",
    "overnight": "stood_overnight",
}
#: A stretch of a mode shorter than this tells nothing of it [m]; so many are told, the longest first.
LEAST_MODE_M, MOST_MODES = 500.0, 4


def happened(
    test: RangeTest,
    ride: RideWindow,
    way: Line | None,
    energy: Line | None,
    range_m: float | None,
) -> list[Notice]:
    """Notices of what was noted as an event.

    Parameters
    ----------
    way, energy : distance [m] and energy [Wh] over time, where they are known
    range_m : to cut-off, where it is known
    """
    if way is None:
        return []
    return [
        *_held_back(test, way, range_m),
        *_spoiled(test, way),
        *_modes(test, ride, way, energy),
    ]


def _at(way: Line, entry: Entry) -> float:
    return float(way.at(np.array([entry.time_s]))[0])


def _held_back(test: RangeTest, way: Line, range_m: float | None) -> Iterator[Notice]:
    for what, said in HOLDS_BACK.items():
        # The first of its kind is where one has to reckon with it.
        first = next((one for one in test.entries if one.what == what), None)
        if first is None:
            continue
        at_m = _at(way, first)
        if range_m is None or range_m <= at_m:
            yield Notice("held_back", what=said, at_m=at_m)
        else:
            yield Notice("held_back_before", what=said, at_m=at_m, share=1 - at_m / range_m)


def _spoiled(test: RangeTest, way: Line) -> Iterator[Notice]:
    for what, code in MARKS.items():
        first = next((one for one in test.entries if one.what == what), None)
        if first is not None:
            yield Notice(code, at_m=_at(way, first))


def _modes(test: RangeTest, ride: RideWindow, way: Line, energy: Line | None) -> Iterator[Notice]:
    """What each mode took, where more than one was ridden and the energy is known along the way."""
    if energy is None:
        return
    changes = [one for one in test.entries if one.mode is not None]
    names = {str(one.mode) for one in changes}
    if len(names) < 2:
        return
    ends = [*(one.time_s for one in changes[1:]), ride.end_s]
    ridden: dict[str, float] = dict.fromkeys(names, 0.0)
    took: dict[str, float] = dict.fromkeys(names, 0.0)
    for change, end_s in zip(changes, ends, strict=True):
        name = str(change.mode)
        ridden[name] += way.between(change.time_s, end_s)
        took[name] += energy.between(change.time_s, end_s)
    longest = sorted((name for name in names), key=lambda name: -ridden[name])[:MOST_MODES]
    for name in longest:
        if ridden[name] >= LEAST_MODE_M:
            yield Notice(
                "mode_took",
                mode=name,
                length_m=ridden[name],
                wh_per_km=1000 * took[name] / ridden[name],
            )
