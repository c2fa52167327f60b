"""When a test may end early: how sure the range would be if the ride stopped now."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, sqrt

import numpy as np

from limpet.assumptions import INSTRUMENT_PCT, PER_KM, RETAINED
from limpet.evidence.model import Instruments
from limpet.notices import Notice
from limpet.quantity import rectangular

#: What is wanted of a range, ± of its 95% interval [-] (handbook section 11).
WANTED = 0.05
#: u of a share of charge that settled volts tell, and near full (assumption, handbook section 4) [-].
CURVE_STD, CURVE_STD_AT_ENDS = 0.03, 0.015


@dataclass(frozen=True, slots=True, kw_only=True)
class Enough:
    """Where a test has told enough. `distance_m` None: not before the pack is empty.

    `at_end` is the relative 95% half-width that the whole plan would reach; `curve` is
    (distance [m], half-width [-]).
    """

    distance_m: float | None
    wanted: float
    at_end: float
    curve: tuple[tuple[float, float], ...]
    notice: Notice


def enough(
    range_m: float,
    *,
    instruments: Instruments | None = None,
    capacity_std: float = RETAINED.std,
    counts_charge: bool = True,
    wanted: float = WANTED,
) -> Enough:
    """The distance at which a range estimate reaches a wanted precision.

    Parameters
    ----------
    range_m : likely range to cut-off [m]
    instruments : what measures, for its accuracies
    capacity_std : relative u of the pack's usable energy [-]; small once a test went to cut-off
    counts_charge : whether amp-hours or watt-hours are read, or volts alone
    wanted : 95% half-width, relative [-]

    Notes
    -----
    Range = distance / share of energy used. The share comes from volts, u² = u_curve(full)² +
    u_curve(now)² over the share, or from counted energy over the pack's capacity, whichever is
    the surer; to it come the meter, the trip meter and the road's own scatter, √km. A ride to
    cut-off needs no share at all.
    """
    meter = rectangular(
        _accuracy(instruments, ("charge", "energy", "current"), INSTRUMENT_PCT["charge"].value)
        / 100
    )
    trip = rectangular(
        _accuracy(instruments, ("trip", "gps", "lap"), INSTRUMENT_PCT["trip"].value) / 100
    )
    places = np.linspace(0.02, 1.0, 99)
    widths = []
    for share in places.tolist():
        by_volts = hypot(CURVE_STD_AT_ENDS, CURVE_STD) / share
        by_counter = hypot(meter, capacity_std)
        one_share = min(by_volts, by_counter) if counts_charge else by_volts
        if share >= 1:
            one_share = 0.0
        scatter = PER_KM.std / sqrt(max(share * range_m / 1000, 0.1))
        widths.append(2 * sqrt(one_share**2 + trip**2 + scatter**2))
    good = [k for k, width in enumerate(widths) if width <= wanted]
    curve = tuple(zip((places * range_m).tolist(), widths, strict=True))
    if good and good[0] < len(places) - 1:
        at = float(places[good[0]] * range_m)
        notice = Notice("enough_from", from_m=at, wanted=wanted)
        return Enough(distance_m=at, wanted=wanted, at_end=widths[-1], curve=curve, notice=notice)
    limit = "the pack’s capacity" if counts_charge else "what volts can tell"
    notice = Notice("never_enough", wanted=wanted, limit=limit, best=min(widths[:-1]))
    return Enough(distance_m=None, wanted=wanted, at_end=widths[-1], curve=curve, notice=notice)


def _accuracy(instruments: Instruments | None, names: tuple[str, ...], otherwise: float) -> float:
    found = []
    for name in names:
        item = getattr(instruments, name, None)
        if item is not None and item.accuracy_pct is not None:
            found.append(item.accuracy_pct)
    return min(found, default=otherwise)
