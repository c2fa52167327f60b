"""What the cold does to one vehicle: range and consumption against temperature, by speed."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from math import exp, expm1, sqrt
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from limpet.judge.answer import Run
from limpet.judge.carrying import Carried, Memo, carried
from limpet.judge.comparand import Comparand, Name
from limpet.judge.day import Day, Factor, body_of, day_of, pack_factor, wh_per_km, with_factors
from limpet.judge.log_figures import UNITS, relative, run_of
from limpet.judge.named_errors import few_draws_of_many, score
from limpet.judge.spread import POWER_SCORE, assumed_spread
from limpet.notices import Notice
from limpet.quantity import Quantity
from limpet.road.surface import TYRE_PER_C
from limpet.uncertain.student import student_quantile

FloatArray = NDArray[np.float64]

#: Tests that are looked at, the latest.
MOST_TESTS = 500
#: Tests of one band are at most so much faster than its slowest [-].
BAND = 1.35
#: Temperatures that lie closer together than this tell no season [°C].
LEAST_SPAN_C = 6.0
#: A test that is carried by more than this to stand beside the others was another ride, not another
#: season [log] (assumption).
MOST_CARRIED = 0.2
#: Of so many tests each is tried as the one that the others are brought to.
FEW_LEADS = 8
#: What is told is for so many degrees colder [°C].
STEP_C = 10.0
#: Tests that lie further apart than this are of a pack of different ages [days].
AGED_DAYS = 400
#: Points of a line as it is drawn.
LINE_POINTS = 15

Part = Literal["air", "pack", "tyres", "left"]
SeasonVerdict = Literal["shown", "no_difference_shown", "too_few"]
QUANTITIES: Final[tuple[Name, ...]] = ("range_to_cutoff", "wh_per_km")


@dataclass(frozen=True, slots=True, kw_only=True)
class PartOf:
    """What one cause changes the figure by for ten degrees colder, relative."""

    name: Part
    change: Quantity


@dataclass(frozen=True, slots=True, kw_only=True)
class SeasonPoint:
    """One test: its air temperature, and its figure as found and with all but the temperature alike."""

    temp_c: float
    run: Run


@dataclass(frozen=True, slots=True, kw_only=True)
class SeasonAt:
    """The figure at a temperature of the air, by the line."""

    temp_c: float
    figure: Quantity


@dataclass(frozen=True, slots=True, kw_only=True)
class SeasonBand:
    """Tests of about one speed. `change` is relative, for ten degrees colder; None of too few.

    `at` is the line as it is drawn, coldest first.
    """

    from_mps: float
    to_mps: float
    quantity: Name
    unit: str
    verdict: SeasonVerdict
    points: tuple[SeasonPoint, ...]
    change: Quantity | None
    smallest_seen: float | None
    parts: tuple[PartOf, ...]
    at: tuple[SeasonAt, ...]
    said: Notice


@dataclass(frozen=True, slots=True, kw_only=True)
class Seasons:
    """What the cold does to a vehicle; bands by quantity and speed, slowest first.

    `left_out` says how many tests lack a speed or a temperature or were pedalled, `unlike` which were ridden
    too differently to stand beside the others of their speed.
    """

    bands: tuple[SeasonBand, ...]
    left_out: int
    unlike: tuple[str, ...]
    warnings: tuple[Notice, ...]


def seasons(tests: Sequence[Comparand]) -> Seasons:
    """Range and consumption of one vehicle against the temperature of the air.

    Parameters
    ----------
    tests : of one vehicle, oldest first

    Notes
    -----
    Within a band of speed every test is carried to the conditions of the band's first but for the
    temperature, and the logarithm of the figure put on a line by weighted least squares in every draw: an
    error that all tests have in common moves the line and not its slope. The spread from run to run is
    what lies about the line, weighed with `run_carried` for eight runs, and the interval Student's.
    """
    with few_draws_of_many(len(tests)):
        return _seasons(tests)


def _seasons(tests: Sequence[Comparand]) -> Seasons:
    latest = list(tests)[-MOST_TESTS:]
    told = [
        test
        for test in latest
        if test.ridden.legs_known
        and test.ridden.temp_c is not None
        and test.ridden.speed_mps is not None
    ]
    bands: list[SeasonBand] = []
    warnings = []
    unlike: list[str] = []
    memo: Memo = {}
    held: frozenset[Factor] = frozenset({"temperature"})
    for quantity in QUANTITIES:
        usable = (
            _of_one_pack(_with(told, quantity))
            if quantity != "wh_per_km"
            else _with(told, quantity)
        )
        for group in _groups(usable):
            tried = [
                [carried(one, to, quantity, held, memo) for one in group] for to in _leads(group)
            ]
            # Beside the one that most can stand beside.
            runs = max(tried, key=lambda some: sum(_is_alike(run) for run in some))
            unlike += [run.test.title for run in runs if not _is_alike(run)]
            bands.append(_band([run for run in runs if _is_alike(run)], quantity))
            if quantity == "range_to_cutoff" and _aged(group):
                warnings.append(Notice("season_aged", speed_mps=_mean_mps(group)))
    return Seasons(
        bands=tuple(bands),
        left_out=len(latest) - len(told),
        unlike=tuple(dict.fromkeys(unlike)),
        warnings=tuple(warnings),
    )


def _with(tests: Sequence[Comparand], quantity: Name) -> list[Comparand]:
    found = ((test, test.figures.get(quantity)) for test in tests)
    return [test for test, figure in found if figure is not None and figure.value > 0]


def _of_one_pack(tests: Sequence[Comparand]) -> list[Comparand]:
    """Tests with the pack that most were ridden with: how far another goes is no season."""
    if not tests:
        return []
    usual, _ = Counter(test.pack for test in tests).most_common(1)[0]
    return [test for test in tests if test.pack == usual]


def _groups(tests: Sequence[Comparand]) -> list[list[Comparand]]:
    """Tests of about one speed each, slowest first; within a group in the order of the tests."""
    order = sorted(range(len(tests)), key=lambda k: tests[k].ridden.speed_mps or 0.0)
    groups: list[list[int]] = []
    for k in order:
        speed = tests[k].ridden.speed_mps or 0.0
        if groups and speed <= BAND * (tests[groups[-1][0]].ridden.speed_mps or 0.0):
            groups[-1].append(k)
        else:
            groups.append([k])
    return [[tests[k] for k in sorted(group)] for group in groups]


def _mean_mps(tests: Sequence[Comparand]) -> float:
    return float(np.mean([test.ridden.speed_mps or 0.0 for test in tests]))


def _aged(tests: Sequence[Comparand]) -> bool:
    # Days apart are days apart by any clock.
    days = [
        datetime.fromisoformat(test.started_at).replace(tzinfo=None)
        for test in tests
        if test.started_at
    ]
    return len(days) > 1 and (max(days) - min(days)).days > AGED_DAYS


def _leads(group: Sequence[Comparand]) -> Sequence[Comparand]:
    """Tests whose conditions the others may be brought to: each of a few, else one in the middle of them."""
    if len(group) <= FEW_LEADS:
        return group
    order = sorted(group, key=lambda test: test.ridden.climb_m_per_km or 0.0)
    return (order[len(order) // 2],)


def _is_alike(run: Carried) -> bool:
    return abs(float((run.log - run.found).mean())) <= MOST_CARRIED


def _band(runs: Sequence[Carried], quantity: Name) -> SeasonBand:
    """A band of runs that are carried to one of them."""
    tests = [run.test for run in runs]
    first = runs[0].to
    cold = np.array([-(test.ridden.temp_c or 0.0) / STEP_C for test in tests])
    speeds = [test.ridden.speed_mps or 0.0 for test in tests]
    points = tuple(
        SeasonPoint(temp_c=test.ridden.temp_c or 0.0, run=run_of(run, "first"))
        for test, run in zip(tests, runs, strict=True)
    )
    blank = SeasonBand(
        from_mps=min(speeds),
        to_mps=max(speeds),
        quantity=quantity,
        unit=UNITS[quantity],
        verdict="too_few",
        points=points,
        change=None,
        smallest_seen=None,
        parts=(),
        at=(),
        said=Notice("season_too_few", speed_mps=_mean_mps(tests), tests=len(tests)),
    )
    if len(tests) < 2 or np.ptp(cold) * STEP_C < LEAST_SPAN_C:
        return blank
    line = _line(runs, cold)
    change = relative(line.slope, line.slope_se, line.t)
    shown = change.low > 0 or change.high < 0
    seen = expm1((line.t + POWER_SCORE) * line.slope_se)
    return replace(
        blank,
        verdict="shown" if shown else "no_difference_shown",
        change=change,
        smallest_seen=seen,
        parts=_parts(first, quantity, -STEP_C * cold, line),
        at=_drawn(line, cold, quantity),
        said=_said(quantity, change, shown, seen, _mean_mps(tests)),
    )


@dataclass(frozen=True, slots=True)
class _Line:
    """log figure = at_mean + slope·(x − mean), x in ten degrees colder; draws and the runs' own spread."""

    mean: float
    at_mean: FloatArray
    slopes: FloatArray
    slope: float
    slope_se: float
    level_variance: float
    slope_variance: float
    t: float


def _line(runs: Sequence[Carried], x: FloatArray) -> _Line:
    logs = np.array([run.log for run in runs])
    own = _own(logs)
    known = assumed_spread()
    weight = 1 / (own + known.variance)
    mean = float(weight @ x / weight.sum())
    away = x - mean
    lever = weight * away / float(weight @ away**2)
    level = weight / weight.sum()
    slopes, at_mean = lever @ logs, level @ logs
    best = logs.mean(axis=1)
    left = best - at_mean.mean() - slopes.mean() * away
    freedom = max(len(runs) - 2, 0)
    # What lies about the line beyond the runs' own errors is the spread from run to run.
    spread = known.moved_by(float(left @ left), float(own.mean()), freedom)
    variance = spread.variance
    of_runs = variance * float(lever @ lever)
    whole = float(slopes.var()) + of_runs
    effective = spread.freedom * (whole / max(of_runs, 1e-12)) ** 2
    return _Line(
        mean=mean,
        at_mean=at_mean,
        slopes=slopes,
        slope=float(slopes.mean()),
        slope_se=sqrt(whole),
        level_variance=variance * float(level @ level),
        slope_variance=of_runs,
        t=student_quantile(0.975, min(effective, 1e6)),
    )


def _own(logs: FloatArray) -> FloatArray:
    """Each run's own variance, shape (N,): what it does not have in common with the others."""
    away = logs - logs.mean(axis=1, keepdims=True)
    whole = (away**2).mean(axis=1)
    together = (away.sum(axis=0) * away).mean(axis=1) - whole
    return np.asarray(np.maximum(whole - together / (len(logs) - 1), 1e-8))


def _drawn(line: _Line, cold: FloatArray, quantity: Name) -> tuple[SeasonAt, ...]:
    found = []
    for x in np.linspace(cold.max(), cold.min(), LINE_POINTS):
        away = float(x) - line.mean
        logs = line.at_mean + line.slopes * away
        std = sqrt(float(logs.var()) + line.level_variance + line.slope_variance * away**2)
        middle = float(logs.mean())
        figure = Quantity(
            value=exp(middle),
            unit=UNITS[quantity],
            standard_uncertainty=exp(middle) * std,
            low=exp(middle - line.t * std),
            high=exp(middle + line.t * std),
        )
        found.append(SeasonAt(temp_c=float(-STEP_C * x), figure=figure))
    return tuple(found)


def _parts(
    first: Comparand, quantity: Name, temps_c: FloatArray, line: _Line
) -> tuple[PartOf, ...]:
    """What the models say of each cause, between the coldest and the warmest test, and what is left."""
    cold_c, warm_c = float(temps_c.min()), float(temps_c.max())
    steps = (warm_c - cold_c) / STEP_C
    body, day = body_of(first), day_of(first, first)
    cold, warm = _at(day, cold_c), _at(day, warm_c)
    sign = -1.0 if quantity == "range_to_cutoff" else 1.0
    warm_log = np.log(wh_per_km(body, warm))
    air = (
        sign
        * (np.log(wh_per_km(body, with_factors(warm, cold, ("temperature",)))) - warm_log)
        / steps
    )
    stiffer = 1 + np.maximum(
        TYRE_PER_C[0] + TYRE_PER_C[1] * score("tyre cold", first.vehicle or first.kind), 0.0
    ) * (warm_c - cold_c)
    tyres = (
        sign
        * (np.log(wh_per_km(body, replace(warm, tyres=warm.tyres * stiffer))) - warm_log)
        / steps
    )
    found: dict[Part, FloatArray] = {"air": air, "tyres": tyres}
    if quantity == "range_to_cutoff":
        found["pack"] = np.log(pack_factor(first, cold) / pack_factor(first, warm)) / steps
    told = [
        PartOf(name=name, change=relative(float(part.mean()), float(part.std()), 1.96))
        for name, part in found.items()
    ]
    models = sum(found.values(), np.zeros_like(air))
    rest = line.slope - float(models.mean())
    unsure = sqrt(line.slope_se**2 + float(models.var()))
    return (*told, PartOf(name="left", change=relative(rest, unsure, line.t)))


def _at(day: Day, temp_c: float) -> Day:
    return replace(day, temp_c=np.full_like(day.temp_c, temp_c))


def _said(quantity: Name, change: Quantity, shown: bool, seen: float, speed_mps: float) -> Notice:
    if not shown:
        return Notice("season_none", seen=seen, speed_mps=speed_mps, step_c=STEP_C)
    low, high = sorted((abs(change.low), abs(change.high)))
    if quantity == "range_to_cutoff":
        code = "season_less_range" if change.value < 0 else "season_more_range"
    else:
        code = "season_more_energy" if change.value > 0 else "season_less_energy"
    return Notice(
        code, share=abs(change.value), low=low, high=high, speed_mps=speed_mps, step_c=STEP_C
    )
