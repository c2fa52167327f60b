"""`compare(first, second) -> Comparison`: which uses less, by how much, and whether that is shown."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import exp, expm1, log1p, sqrt
from typing import Final

import numpy as np
from numpy.typing import NDArray

from limpet.judge import log_figures
from limpet.judge.along import arising
from limpet.judge.answer import Change, Comparison, Question, Side, Verdict
from limpet.judge.carrying import Carried, carried
from limpet.judge.comparand import Comparand, Name
from limpet.judge.day import FACTORS, Factor, held_by
from limpet.judge.pairs import pairs_of
from limpet.judge.spread import (
    POWER_SCORE,
    Spread,
    comparable,
    learned_spread,
    spread_of,
)
from limpet.judge.summary import beside_the_question, reasons_of, warnings_of
from limpet.notices import Notice
from limpet.quantity import Quantity
from limpet.uncertain.scatter import Scatter
from limpet.uncertain.student import student_quantile

FloatArray = NDArray[np.float64]

#: Tests of one side at most.
MOST_RUNS = 30
#: A difference of this is wanted when nobody names another [-].
WANTED = 0.05
#: More further runs than this nobody rides.
MOST_FURTHER = 30
#: Rides of each side that are worth riding anew, alike: so many at least and at most; more like these no more either.
LEAST_ALIKE, MOST_ALIKE = 2, 6
#: What a question is answered in, the surest of what both have.
ANSWERED_IN: Final[dict[str, tuple[Name, ...]]] = {
    "pack": ("retained_fraction", "range_to_cutoff", "wh_per_km"),
    "temperature": ("range_to_cutoff", "wh_per_km"),
}


def compare(
    first: Sequence[Comparand],
    second: Sequence[Comparand],
    question: Question | None = None,
    wanted: float = WANTED,
    others: Sequence[Comparand] = (),
) -> Comparison:
    """Judge two tests, or two groups of repeated tests.

    Parameters
    ----------
    first, second : the tests of each side, in the order of the ride
    question : what differs on purpose; what the tests themselves say when None
    wanted : the relative difference that is to be shown [-]
    others : further tests, oldest first: those of the same vehicles and kinds of test teach the spread

    Returns
    -------
    Comparison; "not_comparable" with its reason where nothing can be said

    Notes
    -----
    In logarithms. Every error is drawn once by its name (`drawn`), so that what both sides have in common
    goes out; conditions are carried to those of the first test (`carry`). The spread from run to run is
    what the repeats, the pairs and earlier runs show, weighed with `run_carried` for eight runs (`spread`),
    and the interval Student's by the effective freedom of Welch and Satterthwaite (GUM annex G.4).
    """
    asked = question or (_question(first[0], second[0]) if first and second else "repeat")
    refused = _refused(first, second, asked)
    if refused is not None:
        return Comparison(verdict="not_comparable", question=asked, reasons=(refused,))
    held = held_by(asked)
    known, learned_runs = learned_spread(comparable(others, (*first, *second)))
    best: tuple[float, Name, Spread, list[Carried], list[Carried]] | None = None
    for quantity in _quantities(asked, first, second):
        ones = [carried(test, first[0], quantity, held) for test in first]
        twos = [carried(test, first[0], quantity, held) for test in second]
        spread = spread_of(ones, twos, known)
        if best is None or spread.variance() < best[0]:
            best = (spread.variance(), quantity, spread, ones, twos)
    if best is None:
        reason = Notice("compare_no_figure", title=_lacking(asked, first, second).title)
        return Comparison(verdict="not_comparable", question=asked, reasons=(reason,))
    _, quantity, spread, ones, twos = best
    se, t = sqrt(spread.variance()), spread.student()
    low, high = spread.value - t * se, spread.value + t * se
    verdict: Verdict = "no_difference_shown"
    if low > 0:
        verdict = "first_less"
    elif high < 0:
        verdict = "second_less"
    wished = max(wanted, abs(expm1(spread.value))) if verdict == "no_difference_shown" else wanted
    needed = 0 if verdict != "no_difference_shown" else _needed(spread, log1p(wished))
    alike = (None, None) if verdict != "no_difference_shown" else _alike(log1p(wished), known)
    settle = needed if needed is not None and needed <= MOST_ALIKE else alike[0]
    base = exp(float(np.mean([one.log.mean() for one in ones])))
    found = np.mean([b.found for b in twos], axis=0) - np.mean([a.found for a in ones], axis=0)
    relative = log_figures.relative(spread.value, se, t)
    single = len(first) == len(second) == 1
    answer = Comparison(
        verdict=verdict,
        question=asked,
        quantity=quantity,
        unit=log_figures.UNITS[quantity],
        difference=relative.scaled(base, log_figures.UNITS[quantity]),
        relative_difference=relative,
        as_found=Quantity.from_draws(
            np.expm1(found) * base,
            log_figures.UNITS[quantity],
            float(np.expm1(found.mean())) * base,
        ),
        corrections=(
            *_changes("first", ones, log_figures.UNITS[quantity]),
            *_changes("second", twos, log_figures.UNITS[quantity]),
        ),
        runs=(
            *(log_figures.run_of(one, "first") for one in ones),
            *(log_figures.run_of(two, "second") for two in twos),
        ),
        # Half as much and twice as much are as far apart: what is less is told as less.
        smallest_seen=expm1(spread.reach()) if spread.value >= 0 else -expm1(-spread.reach()),
        wanted=wished,
        runs_needed=needed,
        alike_runs=alike[0],
        alike_seen=alike[1],
        settle_runs=settle if verdict == "no_difference_shown" else None,
        judged_by=spread.by,
        run_spread=expm1(known.std),
        learned_runs=learned_runs,
        pairs=pairs_of(first[0], second[0]) if single else (),
        along=arising(first[0].way, second[0].way) if single else None,
    )
    verdict_said, *others_said = reasons_of(answer, first, second, float(found.mean()))
    return replace(
        answer,
        reasons=(verdict_said, *beside_the_question(answer, first, second), *others_said),
        warnings=warnings_of(answer, first, second),
    )


def _refused(
    first: Sequence[Comparand], second: Sequence[Comparand], asked: Question
) -> Notice | None:
    """Why nothing can be said."""
    if not first or not second:
        return Notice("compare_too_few")
    most = max(len(first), len(second))
    if most > MOST_RUNS:
        return Notice("compare_too_many", count=most, most=MOST_RUNS)
    keys = {test.key for test in first}
    twice = next((test for test in second if test.key in keys), None)
    if twice is not None:
        return Notice("compare_same", title=twice.title)
    everyone = (*first, *second)
    unknown = next((test for test in everyone if not test.ridden.legs_known), None)
    throttle = next((test for test in everyone if not test.ridden.assisted), None)
    # What a pack keeps is told whoever pushed.
    kept = asked == "pack" and all(_tells(test, "retained_fraction") for test in everyone)
    if unknown is not None and throttle is not None and asked != "pedalling" and not kept:
        return Notice("compare_assisted", assisted=unknown.title, throttle=throttle.title)
    return None


def _question(one: Comparand, two: Comparand) -> Question:
    """What two tests differ in on purpose, as far as their sheets say."""
    if one.vehicle != two.vehicle or one.kind != two.kind:
        return "vehicle"
    if one.pack != two.pack or one.purpose == two.purpose == "ageing":
        return "pack"
    if one.purpose == two.purpose == "temperature":
        return "temperature"
    return "repeat"


def _quantities(
    asked: Question, first: Sequence[Comparand], second: Sequence[Comparand]
) -> list[Name]:
    """The figures that all tests have and that answer the question."""
    everyone = (*first, *second)
    names = ANSWERED_IN.get(asked, ("wh_per_km", "range_to_cutoff"))
    if len({test.pack for test in everyone}) > 1 and asked != "pack":
        # How far another pack carries says nothing of the vehicle.
        names = ("wh_per_km",)
    there = [name for name in names if all(_tells(test, name) for test in everyone)]
    return there[:1] if asked == "pack" else there


def _lacking(asked: Question, first: Sequence[Comparand], second: Sequence[Comparand]) -> Comparand:
    """The test for whose sake nothing can be compared: it tells least of what the question asks for."""
    names = ANSWERED_IN.get(asked, ("wh_per_km", "range_to_cutoff"))
    return min((*second, *first), key=lambda test: sum(_tells(test, name) for name in names))


def _tells(test: Comparand, name: Name) -> bool:
    figure = test.figures.get(name)
    return figure is not None and figure.value > 0


def _needed(spread: Spread, wanted: float) -> int | None:
    """How many more runs of each show a difference [log]; None where no number does."""
    for further in range(1, MOST_FURTHER + 1):
        if spread.reach(further) <= wanted:
            return further
    return None


def _alike(wanted: float, known: Scatter) -> tuple[int, float]:
    """How many rides of each, on one way with one meter in turns, show a difference [log], and what they show.

    What such rides have in common goes out: the spread from run to run is left, judged in pairs.
    """
    for each in range(LEAST_ALIKE, MOST_ALIKE + 1):
        t = student_quantile(0.975, known.freedom + each - 1)
        seen = (t + POWER_SCORE) * sqrt(2 * known.variance / each)
        if seen <= wanted:
            break
    return each, expm1(seen)


def _changes(side: Side, items: list[Carried], unit: str) -> tuple[Change, ...]:
    """What each condition was worth, the mean over a side's tests; the lines add up to the whole change."""
    base = exp(float(np.mean([item.found.mean() for item in items])))
    found: dict[Factor, list[FloatArray]] = {}
    for item in items:
        for correction in item.corrections:
            found.setdefault(correction.name, []).append(correction.log)
    logs = {name: np.sum(found[name], axis=0) / len(items) for name in FACTORS if name in found}
    whole = float(sum(log.mean() for log in logs.values()))
    each = base * (expm1(whole) / whole if abs(whole) > 1e-9 else 1.0)
    return tuple(
        Change(
            name=name,
            applied_to=side,
            change=Quantity.from_draws(log * each, unit, float(log.mean()) * each),
        )
        for name, log in logs.items()
    )
