"""How a gauge and the instruments changed over the tests of a vehicle."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, sqrt

import numpy as np

from limpet.history.dated import Dated
from limpet.history.gauge import PART, RIDE_STD
from limpet.history.trend import Trend, trend_of
from limpet.notices import Notice
from limpet.quantity import Quantity
from limpet.units import SECONDS_PER_HOUR

SECONDS_PER_YEAR = 365.25 * 24 * SECONDS_PER_HOUR
#: Over less time than this nothing drifts [years].
LEAST_YEARS = 0.25
#: An instrument's factor differs from ride to ride by this whatever it says [-] (assumption).
FACTOR_STD = 0.005


@dataclass(frozen=True, slots=True, kw_only=True)
class FactorPoint:
    """What one test found an instrument to show over what was true."""

    key: str
    title: str
    years: float
    factor: Quantity


@dataclass(frozen=True, slots=True, kw_only=True)
class Drift:
    """How much a gauge's or an instrument's meaning changes in a year; `of` is an instrument's own name.

    For the gauge it is the energy left at the same step, of a full pack; for an instrument its factor.
    `points` are an instrument's factors test by test, and empty for the gauge.
    """

    name: str
    of: str | None
    per_year: Quantity
    shown: bool
    tests: int
    said: Notice
    points: tuple[FactorPoint, ...] = ()


def drifts_of(tests: Sequence[Dated]) -> tuple[Drift, ...]:
    """The gauge first, then instruments, of which three tests or more over a season tell.

    Parameters
    ----------
    tests : of one vehicle, oldest first
    """
    found = []
    gauge = _gauge(tests)
    if gauge is not None:
        found.append(gauge)
    kinds = dict.fromkeys(
        (kind, item.facts.names.get(kind)) for item in tests for kind in item.facts.factors
    )
    for kind, called in kinds:
        told = _instrument(tests, kind, called)
        if told is not None:
            found.append(told)
    return tuple(found)


def _gauge(tests: Sequence[Dated]) -> Drift | None:
    """Each test's steps against the mean of all tests at the same step, over time."""
    steps: dict[float, list[float]] = {}
    for item in tests:
        for shown, share, _ in item.facts.gauge:
            steps.setdefault(_level(item, shown), []).append(share)
    mean = {level: float(np.mean(shares)) for level, shares in steps.items() if len(shares) > 1}
    x, y, std = [], [], []
    for item in tests:
        own = [
            (share - mean[_level(item, shown)], u)
            for shown, share, u in item.facts.gauge
            if _level(item, shown) in mean
        ]
        if own:
            x.append(_years(tests, item))
            y.append(float(np.mean([off for off, _ in own])))
            # What a ride's gauge is off by is common to all of its steps.
            std.append(hypot(RIDE_STD, sqrt(float(np.mean([u**2 for _, u in own])))))
    trend = _trend(x, y, std)
    if trend is None:
        return None
    return _drift("gauge", None, trend, len(x), ())


def _instrument(tests: Sequence[Dated], kind: str, called: str | None) -> Drift | None:
    points = [
        FactorPoint(
            key=item.key,
            title=item.facts.title,
            years=_years(tests, item),
            factor=Quantity.of(item.facts.factors[kind][0], "1", item.facts.factors[kind][1]),
        )
        for item in tests
        if kind in item.facts.factors and item.facts.names.get(kind) == called
    ]
    trend = _trend(
        [point.years for point in points],
        [point.factor.value for point in points],
        [hypot(point.factor.standard_uncertainty, FACTOR_STD) for point in points],
    )
    return None if trend is None else _drift(kind, called, trend, len(points), tuple(points))


def _level(item: Dated, shown: float) -> float:
    level = round(shown / PART) * PART if item.facts.gauge_percent else shown
    return round(level, 4)


def _years(tests: Sequence[Dated], item: Dated) -> float:
    return (item.at - tests[0].at).total_seconds() / SECONDS_PER_YEAR


def _trend(x: list[float], y: list[float], std: list[float]) -> Trend | None:
    if not x or max(x) - min(x) < LEAST_YEARS:
        return None
    return trend_of(x, y, std)


def _drift(
    name: str, called: str | None, trend: Trend, tests: int, points: tuple[FactorPoint, ...]
) -> Drift:
    std = sqrt(trend.covariance[1][1])
    low, high = trend.slope - trend.factor * std, trend.slope + trend.factor * std
    shown = low > 0 or high < 0
    code = f"drift_{'gauge' if name == 'gauge' else 'factor'}" + ("" if shown else "_none")
    per_year = Quantity(value=trend.slope, unit="1", standard_uncertainty=std, low=low, high=high)
    values = {
        "share": abs(trend.slope), "low": min(abs(low), abs(high)), "high": max(abs(low), abs(high)),
        "way": "more" if trend.slope > 0 else "less",
    } if shown else {"seen": max(abs(low), abs(high))}  # fmt: skip
    return Drift(
        name=name,
        of=called,
        per_year=per_year,
        shown=shown,
        tests=tests,
        said=Notice(code, **values),
        points=points,
    )
