"""The rules that answer each of the eight questions, filled in before anybody asks."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import ceil, sqrt
from typing import Literal

from limpet.assumptions import CHARGE_RATE_PER_H, CHARGE_TAPER, RESERVE, RUN_TO_RUN
from limpet.errors import require_range
from limpet.evidence.model import EndRule, Propulsion, Purpose
from limpet.road.kinds import SpeedPolicy
from limpet.uncertain.student import student_quantile
from limpet.words import QUESTIONS, SAFETY

RouteKind = Literal["measured_loop", "out_and_back", "mixed_roads", "the_trip_itself"]

#: Runs beyond this are nobody's weekend.
MOST_RUNS = 30
#: Power of the comparison: the chance of seeing a difference that is there [-] (convention).
POWER = 0.80


@dataclass(frozen=True, slots=True, kw_only=True)
class Rules:
    """How a test is to be ridden so that it answers its question."""

    purpose: Purpose
    question: str
    end_rule: EndRule
    reserve: float
    speed_policy: SpeedPolicy
    propulsion: Propulsion
    route_kind: RouteKind
    stops: str
    runs: int
    wanted: float
    why: str
    series: tuple[str, ...]
    equipment: tuple[str, ...]
    cautions: tuple[str, ...]


_LOG = ("voltmeter or display", "trip meter or a measured lap", "clock", "thermometer")
_ALWAYS = (f"{SAFETY['law']} {SAFETY['standing']}", SAFETY["hours"])
_TO_END = (SAFETY["fading"], SAFETY["draining"])


def rules_for(purpose: Purpose, *, wanted: float | None = None) -> Rules:
    """The rules of a question.

    Parameters
    ----------
    purpose : one of the eight
    wanted : the precision of the answer, ± relative at 95%; for comparisons the difference to be
        seen [-]; by default what the question needs

    Raises
    ------
    OutOfRangeError
        For a precision of 0.5% or finer, or coarser than one half.
    """
    precision = {"floor": 0.10, "compare": 0.10, "ageing": 0.10}.get(purpose, 0.08)
    if wanted is not None:
        require_range("rules", "wanted", wanted, 0.005, 0.5, "write 0.05 for ±5%")
        precision = wanted
    answer = _ANSWERS[purpose]
    return Rules(
        purpose=purpose,
        question=QUESTIONS[purpose],
        end_rule=answer.end_rule,
        reserve=RESERVE.value,
        speed_policy=answer.speed_policy,
        # Whoever pedals tests the legs as well; the figure would not carry over.
        propulsion="throttle_only",
        route_kind=answer.route_kind,
        stops=answer.stops,
        runs=answer.runs if isinstance(answer.runs, int) else answer.runs(precision),
        wanted=precision,
        why=answer.why,
        series=answer.series,
        equipment=(*_LOG, *answer.equipment),
        cautions=(*_ALWAYS, *answer.cautions),
    )


def runs_for_mean(wanted: float, scatter: float = RUN_TO_RUN.std) -> int:
    """Runs until the mean's 95% interval is within ± wanted: n with t·s/√n ≤ wanted."""
    for runs in range(2, MOST_RUNS + 1):
        if student_quantile(0.975, runs - 1) * scatter / sqrt(runs) <= wanted:
            return runs
    return MOST_RUNS


def runs_for_difference(wanted: float, scatter: float = RUN_TO_RUN.std) -> int:
    """Runs of each until a difference is seen four times in five (Welch, two-sided 5%).

    References
    ----------
    NIST/SEMATECH e-Handbook of Statistical Methods, 7.3.1.2: n = 2·(t_α/2 + t_β)²·(s/δ)² with
    the t of the n that comes out.
    """
    for runs in range(2, MOST_RUNS + 1):
        freedom = 2 * runs - 2
        factor = student_quantile(0.975, freedom) + student_quantile(POWER, freedom)
        if 2 * (factor * scatter / wanted) ** 2 <= runs:
            return runs
    return MOST_RUNS


def charge_time_s(
    rated_wh: float, from_share: float = 0.0, charger_w: float | None = None
) -> float:
    """How long a full charge takes beforehand [s], the tapering end included."""
    power = charger_w if charger_w is not None else CHARGE_RATE_PER_H.value * rated_wh
    require_range("charge_time_s", "charger_w", power, 1.0, 1e6, "watts of the charger")
    return rated_wh * (1 - from_share) / power * CHARGE_TAPER.value * 3600


@dataclass(frozen=True, slots=True, kw_only=True)
class _Answer:
    """What answers one question; `runs` a number, or how it follows from the wanted precision."""

    end_rule: EndRule
    speed_policy: SpeedPolicy
    route_kind: RouteKind
    stops: str
    runs: int | Callable[[float], int]
    why: str
    series: tuple[str, ...] = ()
    equipment: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()


_ANSWERS: dict[Purpose, _Answer] = {
    "floor": _Answer(
        end_rule="cutoff",
        speed_policy="flat_out",
        route_kind="measured_loop",
        stops="As few as the loop allows; each one is noted.",
        runs=3,
        why="Ride to cut-off three times at full throttle. One ride in twenty falls below the floor.",
        equipment=("amp-hour meter, if there is one", "a way to get home from the last lap"),
        cautions=_TO_END,
    ),
    "everyday": _Answer(
        end_rule="route_end",
        speed_policy="with_traffic",
        route_kind="mixed_roads",
        stops="As they come; note each stop.",
        runs=runs_for_mean,
        why="Real roads differ from day to day, so the average of several days is the answer.",
    ),
    "economy": _Answer(
        end_rule="gauge_reserve",
        speed_policy="gentle",
        route_kind="measured_loop",
        stops="Only rests, and note them.",
        runs=1,
        why="One gentle ride to the reserve, worked out to cut-off, shows the best case.",
    ),
    "claim": _Answer(
        end_rule="cutoff",
        speed_policy="fixed",
        route_kind="measured_loop",
        stops="None; makers don’t stop either.",
        runs=1,
        why="Copy the maker’s load, speed, mode and tyre pressure. One ride to cut-off then settles it.",
        equipment=("scales, to make up the maker’s load", "tyre gauge"),
        cautions=_TO_END,
    ),
    "compare": _Answer(
        end_rule="route_end",
        speed_policy="fixed",
        route_kind="measured_loop",
        stops="The same for both.",
        runs=runs_for_difference,
        why="Ride one after the other, then in the other order, so that wind and a warming day favour "
        "neither.",
        series=("A", "B", "B", "A"),
    ),
    "ageing": _Answer(
        end_rule="cutoff",
        speed_policy="fixed",
        route_kind="measured_loop",
        stops="Only rests, and note them.",
        runs=1,
        why="Fresh and worn pack on one loop, within a few days, at the same temperature.",
        series=("fresh", "worn"),
        equipment=("amp-hour meter, if there is one",),
        cautions=_TO_END,
    ),
    "temperature": _Answer(
        end_rule="route_end",
        speed_policy="fixed",
        route_kind="out_and_back",
        stops="The same in both seasons.",
        runs=2,
        why="The same route, load, pressure and speed, once warm and once cold; start with a pack "
        "that has taken the outdoor temperature.",
        series=("warm", "cold"),
        cautions=("Don’t charge a lithium pack below 0 °C; let it warm up first.",),
    ),
    "commute": _Answer(
        end_rule="route_end",
        speed_policy="with_traffic",
        route_kind="the_trip_itself",
        stops="As on the trip.",
        runs=2,
        why="Ride the trip itself, on the worst kind of day it must cope with.",
    ),
}


def alternating(pairs: int) -> tuple[Literal["A", "B"], ...]:
    """A B B A A B B A …: the order is swapped with every pair, so that what drifts goes out."""
    return tuple(side for k in range(pairs) for side in (("A", "B") if k % 2 == 0 else ("B", "A")))


def days_of(rules: Rules) -> tuple[str, ...]:
    """The rides of a session by name, in order: the series as often as the runs ask."""
    if not rules.series:
        return tuple(f"run {k + 1}" for k in range(rules.runs)) if rules.runs > 1 else ("run",)
    if rules.purpose == "compare":
        order = alternating(ceil(rules.runs))
        return tuple(f"{name}, pair {k // 2 + 1}" for k, name in enumerate(order))
    return tuple(
        f"{name}, run {k + 1}" if rules.runs > 1 else name
        for name in rules.series
        for k in range(rules.runs)
    )
