"""A vehicle's road load out of its own tests."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from itertools import islice

from limpet.errors import OutOfRangeError
from limpet.evidence.model import RangeTest
from limpet.fitting.fit import FitResult, RideTotals, SampledRide, fit_road
from limpet.fitting.rides import usable_for_fit
from limpet.road import VehicleKind
from limpet.tell import Result
from limpet.trip import MOST_FIT_TESTS

NO_SAMPLES = "it has no samples"


@dataclass(frozen=True, slots=True, kw_only=True)
class RoadFound:
    """What was found, the titles of the tests it is from, and what each other test lacks.

    `found` is None, and `why` says so, where no test can tell anything.
    """

    found: FitResult | None
    used: tuple[str, ...]
    left_out: tuple[str, ...]
    why: str = ""


def road_of(
    kind: VehicleKind,
    tests: Iterable[tuple[RangeTest, Callable[[], Result]]],
    *,
    logged_only: bool = False,
) -> RoadFound:
    """Fit a vehicle's road load to its tests.

    Parameters
    ----------
    tests : with what gives their results when it is asked, newest first; the first `MOST_FIT_TESTS` are read: a vehicle changes, and
        a fit must not take all day
    logged_only : leave out rides that are known by their sums alone, whose results are not asked for: like
        rides tell of those
    """
    rides: list[SampledRide | RideTotals] = []
    used, left_out, pressures = [], [], []
    for test, result in islice(tests, MOST_FIT_TESTS):
        if logged_only and test.samples is None:
            left_out.append(f"{test.sheet.title}: {NO_SAMPLES}")
            continue
        usable = usable_for_fit(test, result())
        ride = usable.ride
        if ride is None or (logged_only and isinstance(ride, RideTotals)):
            left_out.append(f"{test.sheet.title}: {usable.why_not or NO_SAMPLES}")
            continue
        rides.append(ride)
        used.append(test.sheet.title)
        tyres = test.sheet.tyres
        if tyres is not None and tyres.pressure_kpa is not None:
            pressures.append(tyres.pressure_kpa)
    if not rides:
        why = "; ".join(left_out) or "it has no ended test yet"
        return RoadFound(found=None, used=(), left_out=tuple(left_out), why=why)
    mean_kpa = sum(pressures) / len(pressures) if pressures else None
    try:
        found = fit_road(kind, rides, tests=len(rides), tyre_kpa=mean_kpa)
    except OutOfRangeError as cause:
        why = str(cause).removeprefix("fit: ")
        return RoadFound(found=None, used=(), left_out=tuple(left_out), why=why)
    named = replace(found, fit=replace(found.fit, titles=tuple(used)))
    return RoadFound(found=named, used=tuple(used), left_out=tuple(left_out))
