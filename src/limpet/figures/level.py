"""Range on level roads, beside the range on rides like this one, whose climbs it keeps."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from limpet.carry.road import LOST_OF_CLIMB
from limpet.figures.climb import Climb
from limpet.figures.findings import Findings
from limpet.read.height_difference import climb_wh


@dataclass(frozen=True, slots=True, kw_only=True)
class OnTheLevel:
    """Range to cut-off on level roads [m], and what the ride's climbs lost, there and back [Wh]."""

    range_m: float
    lost_wh: float


def on_the_level(found: Findings, climb: Climb | None) -> OnTheLevel | None:
    """What the climbs of a ride cost its range; None where climb or range is not known.

    Parameters
    ----------
    found : the test's findings
    climb : of the ride

    Notes
    -----
    Of what a climb takes, m·g·h/η, its descent gives all back but `LOST_OF_CLIMB`; half of that is lost on
    the way up and half on the way down, so that a climb of which one way was ridden lost half of it.
    """
    drawn = found.drawn
    if climb is None or drawn.range_m is None or drawn.energy_wh is None:
        return None
    energy_wh = float(np.median(drawn.energy_wh))
    test = found.evidence.test
    lost_wh = LOST_OF_CLIMB / 2 * (climb_wh(test, climb.ascent_m) + climb_wh(test, climb.descent_m))
    stored_wh = climb_wh(test, climb.ascent_m - climb.descent_m) * (1 - LOST_OF_CLIMB / 2)
    flat_wh = energy_wh - stored_wh - lost_wh
    told_wh = energy_wh if drawn.measured else energy_wh - stored_wh
    if min(flat_wh, told_wh) <= 0.4 * energy_wh:
        return None
    return OnTheLevel(range_m=float(np.median(drawn.range_m)) * told_wh / flat_wh, lost_wh=lost_wh)
