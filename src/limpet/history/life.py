"""The life of a vehicle and of a pack: what all of its tests say together."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from itertools import pairwise

import numpy as np

from limpet.assumptions import LOST_PER_MONTH
from limpet.history.facts import Facts, Spread
from limpet.history.gauge import pooled_gauge
from limpet.history.learn import learn_from
from limpet.history.pool import pooled
from limpet.history.trend import Trend, trend_of
from limpet.notices import Notice
from limpet.quantity import Quantity
from limpet.result.legs import SPEED_EDGES, band_name
from limpet.result.priors import LESSONS, PooledStep
from limpet.units import METRES_PER_KM, SECONDS_PER_HOUR

SECONDS_PER_MONTH = 365.25 / 12 * 24 * SECONDS_PER_HOUR
#: A pack is worn at these shares of what it gave fresh (handbook 14; common practice, no source), and its
#: first test tells what that was when it had no more than so many cycles.
WORN, FRESH_CYCLES = (0.8, 0.7), 20.0
#: A pack is tested again after no less and no more than so many months.
SOONEST, LATEST = 1.0, 12.0
#: Of an instrument's factor over several tests, u at least [-].
FACTOR_FLOOR = 0.01
#: Points of a trend as it is drawn.
TREND_POINTS = 25


@dataclass(frozen=True, slots=True, kw_only=True)
class Dated:
    """What one test teaches, when it was ridden, and what its page is called by."""

    key: str
    at: datetime
    facts: Facts


@dataclass(frozen=True, slots=True, kw_only=True)
class LifePoint:
    """What one test says of a pack; None is what it cannot tell.

    `months` since the first test; `cycles` are equivalent full cycles: what was stated last, and what
    the tests since then took.
    """

    key: str
    title: str
    months: float
    cycles: float | None
    capacity_ah: Quantity | None
    retained_fraction: Quantity | None
    resistance_ohm: Quantity | None


@dataclass(frozen=True, slots=True, kw_only=True)
class TrendLine:
    """A trend as it is drawn: x, the line and its 95 % interval, equally long."""

    x: tuple[float, ...]
    value: tuple[float, ...]
    low: tuple[float, ...]
    high: tuple[float, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class PackLife:
    """A pack over its tests, oldest first; trends are None where they cannot be told.

    `fresh_fraction` of the label is what it gave fresh: by the trend's beginning where the first test was
    of a fresh pack (`fresh_by_test`), else all of it. `worn_at` are the shares of that at which it is worn.
    """

    points: tuple[LifePoint, ...]
    retained_by_month: TrendLine | None
    retained_by_cycle: TrendLine | None
    resistance_by_month: TrendLine | None
    resistance_by_cycle: TrendLine | None
    fresh_fraction: float
    fresh_by_test: bool
    worn_at: tuple[float, ...]
    again: tuple[Notice, ...]
    gauge: tuple[PooledStep, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeedBand:
    """Consumption while a speed was held, over all tests that tell it; bounds in m/s, None is open."""

    from_mps: float | None
    to_mps: float | None
    distance_m: float
    wh_per_km: Quantity
    tests: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Taught:
    """A number that its tests taught, under the name that it is used by; `of` names an instrument.

    `lesson` is the name of `LESSONS` that it is switched off by.
    """

    name: str
    lesson: str
    of: str | None
    value: Quantity
    tests: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class VehicleLife:
    """A vehicle over its tests."""

    bands: tuple[SpeedBand, ...]
    taught: tuple[Taught, ...]
    gauge: tuple[PooledStep, ...]


def pack_life(tests: Sequence[Dated], rated_ah: float, now: datetime) -> PackLife:
    """What tests say of one pack's life.

    Parameters
    ----------
    tests : of the pack, oldest first
    now : from when on it is said when to test again
    """
    points = _points(tests, rated_ah)
    retained = _trends(points, lambda point: point.retained_fraction)
    resistance = _trends(points, lambda point: point.resistance_ohm)
    by_test = _first_was_fresh(points)
    fresh = retained[0].at(retained[0].first)[0] if by_test and retained[0] is not None else 1.0
    return PackLife(
        points=points,
        fresh_fraction=fresh,
        fresh_by_test=by_test and retained[0] is not None,
        worn_at=WORN,
        retained_by_month=_drawn(retained[0]),
        retained_by_cycle=_drawn(retained[1]),
        resistance_by_month=_drawn(resistance[0]),
        resistance_by_cycle=_drawn(resistance[1]),
        again=_again(tests, points, retained[0], fresh, now),
        gauge=pooled_gauge([item.facts for item in tests]),
    )


def vehicle_life(tests: Sequence[Dated], vehicle: str) -> VehicleLife:
    """What tests say of one vehicle, by the same rules that teach the next test.

    Parameters
    ----------
    tests : of the vehicle, oldest first
    vehicle : what it is called in their facts
    """
    facts = [item.facts for item in tests]
    return VehicleLife(
        bands=_bands(facts),
        taught=(*_instruments(facts), *_learned(facts, vehicle)),
        gauge=pooled_gauge(facts),
    )


def _points(tests: Sequence[Dated], rated_ah: float) -> tuple[LifePoint, ...]:
    found: list[LifePoint] = []
    cycles: float | None = None
    for item in tests:
        facts = item.facts
        if facts.cycles is not None:
            cycles = max(facts.cycles, cycles or 0.0)
        found.append(
            LifePoint(
                key=item.key,
                title=facts.title,
                months=(item.at - tests[0].at).total_seconds() / SECONDS_PER_MONTH,
                cycles=cycles,
                capacity_ah=_quantity(facts.capacity_ah, "Ah"),
                retained_fraction=_quantity(facts.retained, "1"),
                resistance_ohm=_quantity(facts.resistance_ohm, "ohm"),
            )
        )
        if cycles is not None and facts.charge_ah is not None:
            # A lower bound: what was ridden between the tests is in no book.
            cycles += facts.charge_ah / rated_ah
    return tuple(found)


def _first_was_fresh(points: Sequence[LifePoint]) -> bool:
    told = [point for point in points if point.retained_fraction is not None]
    return bool(told) and told[0].cycles is not None and told[0].cycles <= FRESH_CYCLES


def _quantity(found: Spread | None, unit: str) -> Quantity | None:
    return None if found is None else Quantity.of(found[0], unit, found[1])


def _trends(
    points: Sequence[LifePoint], of: Callable[[LifePoint], Quantity | None]
) -> tuple[Trend | None, Trend | None]:
    """A trend by months and one by cycles."""
    told = [(point, found) for point in points if (found := of(point)) is not None]
    counted = [(point, found) for point, found in told if point.cycles is not None]
    by_month = trend_of(
        [point.months for point, _ in told],
        [found.value for _, found in told],
        [found.standard_uncertainty for _, found in told],
    )
    by_cycle = trend_of(
        [point.cycles or 0.0 for point, _ in counted],
        [found.value for _, found in counted],
        [found.standard_uncertainty for _, found in counted],
    )
    return by_month, by_cycle


def _drawn(trend: Trend | None) -> TrendLine | None:
    if trend is None:
        return None
    x = np.linspace(trend.first, trend.last, TREND_POINTS)
    rows = [trend.at(float(place)) for place in x]
    return TrendLine(
        x=tuple(float(place) for place in x),
        value=tuple(value for value, _, _ in rows),
        low=tuple(low for _, low, _ in rows),
        high=tuple(high for _, _, high in rows),
    )


def _again(
    tests: Sequence[Dated],
    points: Sequence[LifePoint],
    trend: Trend | None,
    fresh: float,
    now: datetime,
) -> tuple[Notice, ...]:
    """When to test again, and what the trend says of the pack's end."""
    told = [point for point in points if point.retained_fraction is not None]
    if not told:
        return (Notice("again_no_capacity"),)
    share = 2 * min(
        point.retained_fraction.standard_uncertainty for point in told if point.retained_fraction
    )
    lost = max(-trend.slope, 0.0) if trend is not None and trend.falls else 0.0
    pause = min(max(share / max(lost, LOST_PER_MONTH.value), SOONEST), LATEST)
    age = (now - tests[0].at).total_seconds() / SECONDS_PER_MONTH - told[-1].months
    due = (
        Notice("again_in", months=max(round(pause - age), 1), share=share)
        if age < pause
        else Notice("again_now", months=round(age), share=share)
    )
    if trend is None:
        return due, Notice("again_trend", tests=len(told))
    if not trend.falls:
        return due, Notice("again_steady")
    ends = (_crossing(trend, share, fresh) for share in WORN)
    return due, *(notice for notice in ends if notice is not None)


def _crossing(trend: Trend, share: float, fresh: float) -> Notice | None:
    """When a pack is worn; None of one that was when it was first tested, which says nothing of when."""
    found = trend.crosses(share * fresh)
    if found is None or found[0] < trend.first:
        return None
    months, low, high = (round(value) for value in found)
    code = "again_crosses" if months > trend.last else "again_crossed"
    of = "its label" if fresh == 1.0 else "what it gave first"
    return Notice(code, share=share, of=of, months=months, low_months=max(low, 0), high_months=high)


def _bands(facts: Sequence[Facts]) -> tuple[SpeedBand, ...]:
    """Consumption by speed, slowest first: each test's word by 1/u², their spread counting."""
    edges = (None, *SPEED_EDGES, None)
    found = []
    for low, high in pairwise(edges):
        name = band_name(low, high)
        mine = [
            (item.title, metres, value, std)
            for item in facts
            if not item.assisted
            for band, metres, value, std in item.bands
            if band == name
        ]
        told = pooled([((value, std), title) for title, _, value, std in mine], 0.0)
        if told is not None:
            found.append(
                SpeedBand(
                    from_mps=low,
                    to_mps=high,
                    distance_m=sum(metres for _, metres, _, _ in mine),
                    wh_per_km=Quantity.of(told.value, "Wh/km", told.standard_uncertainty),
                    tests=told.tests,
                )
            )
    return tuple(found)


def _instruments(facts: Sequence[Facts]) -> tuple[Taught, ...]:
    """What each instrument showed over what was true, those of one kind apart by their names."""
    names = dict.fromkeys((kind, item.names.get(kind)) for item in facts for kind in item.factors)
    found = []
    for kind, called in names:
        told = pooled(
            [
                (item.factors[kind], item.title)
                for item in facts
                if kind in item.factors and item.names.get(kind) == called
            ],
            FACTOR_FLOOR,
        )
        if told is not None:
            value = Quantity.of(told.value, "1", told.standard_uncertainty)
            found.append(Taught(name=kind, lesson=kind, of=called, value=value, tests=told.tests))
    return tuple(found)


#: What else is learned of a vehicle, by name: the factor to its unit here, and the unit.
_UNITS = {
    "gauge_bend": (1.0, "1"),
    "gauge_bottom": (1.0, "1"),
    "consumption_wh_per_m": (METRES_PER_KM, "Wh/km"),
    "run_to_run": (1.0, "1"),
}


_LESSON_OF = {name: lesson for lesson, names in LESSONS.items() for name in names}


def _learned(facts: Sequence[Facts], vehicle: str) -> tuple[Taught, ...]:
    learned = learn_from(facts, vehicle, None).learned
    return tuple(
        Taught(
            name=name,
            lesson=_LESSON_OF[name],
            of=None,
            value=Quantity.of(
                learned[name].value * factor, unit, learned[name].standard_uncertainty * factor
            ),
            tests=learned[name].tests,
        )
        for name, (factor, unit) in _UNITS.items()
        if name in learned
    )
