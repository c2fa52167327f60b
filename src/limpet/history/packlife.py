"""The life of a pack: what it lost over its tests, when it is worn, and when to test it again."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from math import hypot
from typing import Literal

import numpy as np

from limpet.assumptions import LOST_PER_MONTH
from limpet.history.ageing import Course, Level, course_of
from limpet.history.dated import Dated
from limpet.history.facts import Spread
from limpet.history.gauge import pooled_gauge
from limpet.history.trend import Trend, trend_of
from limpet.notices import Notice
from limpet.pack.wearing import usual_cycles, usual_months
from limpet.quantity import Quantity
from limpet.state.priors import PooledStep
from limpet.units import SECONDS_PER_HOUR

SECONDS_PER_MONTH = 365.25 / 12 * 24 * SECONDS_PER_HOUR
#: A pack is worn at these shares of what it gave fresh (handbook 14; common practice, no source), and its
#: first test tells what that was when it had no more than so many cycles.
WORN, FRESH_CYCLES = (0.8, 0.7), 20.0
#: A pack is tested again after no less and no more than so many months.
SOONEST, LATEST = 1.0, 12.0
#: Points of a trend as it is drawn.
TREND_POINTS = 25

#: What tells how much of a pack is left: the capacity that was counted, or how far it went.
ToldBy = Literal["capacity", "range"]


@dataclass(frozen=True, slots=True, kw_only=True)
class LifePoint:
    """What one test says of a pack; None is what it cannot tell.

    `months` since the first test; `cycles` are equivalent full cycles: what was stated last, and what
    the tests since then took. `retained_fraction` of the label is as ridden. `range_m` is at the conditions of the pack's first test that told one, and
    `range_fraction` of what it was then.
    """

    key: str
    title: str
    months: float
    cycles: float | None
    capacity_ah: Quantity | None
    retained_fraction: Quantity | None
    retained_at_25c: Quantity | None
    resistance_ohm: Quantity | None
    range_m: Quantity | None
    range_fraction: Quantity | None


@dataclass(frozen=True, slots=True, kw_only=True)
class TrendLine:
    """A trend as it is drawn: x, the line and its 95% interval, equally long."""

    x: tuple[float, ...]
    value: tuple[float, ...]
    low: tuple[float, ...]
    high: tuple[float, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class WornAt:
    """When a pack is down to a share, each with its 95% interval, and how far it goes then.

    In months after its first test and, where cycles are counted, in equivalent full cycles. `is_past` once
    its last test lies beyond it; `range_m` as the first test was ridden.
    """

    share: float
    months: Quantity
    cycles: Quantity | None
    is_past: bool
    range_m: Quantity | None


@dataclass(frozen=True, slots=True, kw_only=True)
class LostAtOnce:
    """A step between two tests, of what the pack gave fresh, and how sure it is that there is one."""

    before: str
    after: str
    lost_fraction: Quantity
    chance: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PackLife:
    """A pack over its tests, oldest first; trends are None where they cannot be told.

    `fresh_fraction` of the label is what it gave fresh: by the trend's beginning where the first test was
    of a fresh pack (`fresh_by_test`), else all of it. `worn_at` are the shares of that at which it is worn.
    `falls` says whether the tests show a loss; `per_100_cycles` what is lost of the label, or of what it gave first,
    by a hundred cycles at its last test (below zero). `told_by` says what the retained trend goes by; `by_tests` is False while its end is what is usual of
    packs rather than what was seen of this one. `left` says in a sentence what it gives now.
    """

    points: tuple[LifePoint, ...]
    told_by: ToldBy | None
    by_tests: bool
    retained_by_month: TrendLine | None
    retained_by_cycle: TrendLine | None
    resistance_by_month: TrendLine | None
    resistance_by_cycle: TrendLine | None
    falls: bool
    per_100_cycles: Quantity | None
    fresh_fraction: float
    fresh_by_test: bool
    worn_at: tuple[float, ...]
    left: Notice | None
    ends: tuple[WornAt, ...]
    step: LostAtOnce | None
    again: tuple[Notice, ...]
    gauge: tuple[PooledStep, ...]


def pack_life(tests: Sequence[Dated], rated_ah: float, now: datetime) -> PackLife:
    """What tests say of one pack's life.

    Parameters
    ----------
    tests : of the pack, oldest first
    now : from when on it is said when to test again

    Notes
    -----
    Capacity tells most. Where fewer than two tests counted it, how far the pack went tells: laps and a
    distance are enough, brought to one set of conditions.
    """
    points = _points(tests, rated_ah)
    told_by = _told_by(points)
    mine = _told(points, told_by)
    by_test = told_by == "range" or (bool(mine) and _was_fresh(mine[0][0]))
    course = _course(mine, "months", by_test)
    by_cycle = _course(mine, "cycles", by_test)
    resistance = _trends(points, lambda point: point.resistance_ohm)
    fresh = course.at(course.first).value if by_test and course is not None else 1.0
    return PackLife(
        points=points,
        told_by=told_by,
        by_tests=course is not None and course.by_tests,
        fresh_fraction=fresh,
        fresh_by_test=by_test and course is not None,
        worn_at=WORN,
        retained_by_month=_course_drawn(course),
        retained_by_cycle=_course_drawn(by_cycle),
        resistance_by_month=_drawn(resistance[0]),
        resistance_by_cycle=_drawn(resistance[1]),
        falls=course is not None and course.falls,
        per_100_cycles=_per_100(by_cycle),
        left=_left(course, by_test),
        ends=_ends(points, course, by_cycle, by_test),
        step=_step(mine, course),
        again=_again(tests, points, mine, course, by_test, now),
        gauge=pooled_gauge([item.facts for item in tests]),
    )


def _points(tests: Sequence[Dated], rated_ah: float) -> tuple[LifePoint, ...]:
    found: list[LifePoint] = []
    cycles: float | None = None
    first_m = next((item.range_m[0] for item in tests if item.range_m is not None), 1.0)
    for item in tests:
        facts = item.facts
        if facts.cycles is not None:
            cycles = max(facts.cycles, cycles or 0.0)
        far = item.range_m
        found.append(
            LifePoint(
                key=item.key,
                title=facts.title,
                months=(item.at - tests[0].at).total_seconds() / SECONDS_PER_MONTH,
                cycles=cycles,
                capacity_ah=_quantity(facts.capacity_ah, "Ah"),
                retained_fraction=_quantity(facts.retained, "1"),
                retained_at_25c=_quantity(facts.retained_at_25c, "1"),
                resistance_ohm=_quantity(facts.resistance_ohm, "ohm"),
                range_m=_quantity(far, "m"),
                range_fraction=None
                if far is None
                else Quantity.of(far[0] / first_m, "1", far[1] / first_m),
            )
        )
        if cycles is not None and facts.charge_ah is not None:
            # A lower bound: what was ridden between the tests is in no book.
            cycles += facts.charge_ah / rated_ah
    return tuple(found)


def _quantity(found: Spread | None, unit: str) -> Quantity | None:
    return None if found is None else Quantity.of(found[0], unit, found[1])


def _told_by(points: Sequence[LifePoint]) -> ToldBy | None:
    """The witness that at least two tests have; else what one has."""
    counted = sum(point.retained_at_25c is not None for point in points)
    ridden = sum(point.range_fraction is not None for point in points)
    if counted >= 2 or (counted and ridden < 2):
        return "capacity"
    return "range" if ridden else None


def _told(points: Sequence[LifePoint], told_by: ToldBy | None) -> list[tuple[LifePoint, Quantity]]:
    """The points that tell what is left, with that."""
    if told_by is None:
        return []
    name = "retained_at_25c" if told_by == "capacity" else "range_fraction"
    return [(point, found) for point in points if (found := getattr(point, name)) is not None]


def _was_fresh(point: LifePoint) -> bool:
    return point.cycles is not None and point.cycles <= FRESH_CYCLES


def _course(
    mine: Sequence[tuple[LifePoint, Quantity]], along: Literal["months", "cycles"], fresh: bool
) -> Course | None:
    there = [(getattr(point, along), found) for point, found in mine]
    told = [(at, found) for at, found in there if at is not None]
    return course_of(
        [at for at, _ in told],
        [found.value for _, found in told],
        [found.standard_uncertainty for _, found in told],
        usual=usual_months() if along == "months" else usual_cycles(),
        from_fresh=fresh,
    )


def _trends(
    points: Sequence[LifePoint], of: Callable[[LifePoint], Quantity | None]
) -> tuple[Trend | None, Trend | None]:
    """A straight trend by months and one by cycles."""
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


def _per_100(by_cycle: Course | None) -> Quantity | None:
    if by_cycle is None:
        return None
    lost = by_cycle.per_unit
    return _spanned(Level(value=-100 * lost.value, low=-100 * lost.high, high=-100 * lost.low), "1")


def _drawn(trend: Trend | None) -> TrendLine | None:
    if trend is None:
        return None
    x = np.linspace(trend.first, trend.last, TREND_POINTS)
    return _line(x, [Level(*trend.at(float(place))) for place in x])


def _course_drawn(course: Course | None) -> TrendLine | None:
    if course is None:
        return None
    x = np.linspace(course.first, course.last, TREND_POINTS)
    return _line(x, [course.at(float(place)) for place in x])


def _line(x: np.ndarray[tuple[int], np.dtype[np.float64]], rows: Sequence[Level]) -> TrendLine:
    return TrendLine(
        x=tuple(float(place) for place in x),
        value=tuple(row.value for row in rows),
        low=tuple(row.low for row in rows),
        high=tuple(row.high for row in rows),
    )


def _left(course: Course | None, by_test: bool) -> Notice | None:
    """What it gives at its last test, of what it gave first or of the label."""
    if course is None:
        return None
    last = course.draws(course.last)
    share = last / course.draws(course.first) if by_test else last
    low, value, high = (float(one) for one in np.quantile(share, (0.025, 0.5, 0.975)))
    of = "what it gave first" if by_test else "its label"
    code = "life_left" if course.falls or not by_test else "life_left_level"
    return Notice(code, share=value, low=low, high=high, of=of)


def _ends(
    points: Sequence[LifePoint], course: Course | None, by_cycle: Course | None, by_test: bool
) -> tuple[WornAt, ...]:
    """When it is worn; a share below which it was at its first test is left out: nobody knows since when."""
    if course is None:
        return ()
    found = []
    for share in WORN:
        months = course.crosses(share, by_test)
        if months.value <= course.first:
            continue
        cycles = None if by_cycle is None else by_cycle.crosses(share, by_test)
        found.append(
            WornAt(
                share=share,
                months=_spanned(months, "month"),
                cycles=None if cycles is None else _spanned(cycles, "1"),
                is_past=months.value <= course.last,
                range_m=_range_at(points, course, share, by_test),
            )
        )
    return tuple(found)


def _range_at(
    points: Sequence[LifePoint], course: Course, share: float, by_test: bool
) -> Quantity | None:
    """How far it goes at a share: what each test says of a whole one, weighed [m]."""
    told = [(point.months, point.range_m) for point in points if point.range_m is not None]
    if not told:
        return None
    left = np.array([course.at(months).value for months, _ in told])
    whole = course.at(course.first).value if by_test else 1.0
    far = np.array([found.value for _, found in told]) / left * whole
    std = np.array([found.standard_uncertainty for _, found in told]) / left * whole
    weight = 1 / np.maximum(std, 1.0) ** 2
    value, inner = float(far @ weight / weight.sum()), float(1 / np.sqrt(weight.sum()))
    return Quantity.of(share * value, "m", share * hypot(inner, 0.02 * value))


def _spanned(level: Level, unit: str) -> Quantity:
    return Quantity(
        value=level.value,
        unit=unit,
        standard_uncertainty=(level.high - level.low) / 3.92,
        low=level.low,
        high=level.high,
    )


def _step(mine: Sequence[tuple[LifePoint, Quantity]], course: Course | None) -> LostAtOnce | None:
    found = None if course is None else course.known_step
    if found is None:
        return None
    # A long life is told from its latest tests alone: indices count from there.
    used = mine[-course.count :] if course is not None else mine
    return LostAtOnce(
        before=used[found.before][0].title,
        after=used[found.after][0].title,
        lost_fraction=_spanned(found.lost, "1"),
        chance=found.chance,
    )


def _again(
    tests: Sequence[Dated],
    points: Sequence[LifePoint],
    mine: Sequence[tuple[LifePoint, Quantity]],
    course: Course | None,
    by_test: bool,
    now: datetime,
) -> tuple[Notice, ...]:
    """When to test again, and what the tests say of the pack's end."""
    if not mine:
        return (Notice("again_no_capacity"),)
    share = 2 * min(found.standard_uncertainty for _, found in mine)
    shown = course is not None and course.falls and course.by_tests
    lost = course.per_unit.value if course is not None and shown else LOST_PER_MONTH.value
    pause = min(max(share / lost, SOONEST), LATEST)
    age = (now - tests[0].at).total_seconds() / SECONDS_PER_MONTH - mine[-1][0].months
    due = (
        Notice("again_in", months=max(round(pause - age), 1), share=share)
        if age < pause
        else Notice("again_now", months=round(age), share=share)
    )
    if course is None:
        return due, Notice("again_trend", tests=len(mine))
    said = [due]
    step = _step(mine, course)
    if step is not None:
        said.append(
            Notice(
                "again_step",
                share=step.lost_fraction.value, before=step.before, after=step.after,
            )
        )  # fmt: skip
    if not course.falls:
        said.append(Notice("again_steady"))
    of = "what it gave first" if by_test else "its label"
    for end in _ends(points, course, None, by_test):
        code = "again_crossed" if end.is_past else "again_crosses"
        if not course.by_tests and not (end.is_past and course.falls):
            if end.share != WORN[0]:
                continue
            said.append(
                Notice("again_usual", share=end.share, of=of, high_months=round(end.months.high))
            )
            continue
        said.append(
            Notice(
                code,
                share=end.share, of=of, months=round(end.months.value),
                low_months=round(end.months.low), high_months=round(end.months.high),
            )
        )  # fmt: skip
    return tuple(said)
