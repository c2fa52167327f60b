"""A result as the columns of its row. Knows no database, so that a process apart can make them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict, replace
from typing import Any

from limpet.assumptions import Changes, as_assumed
from limpet.evidence.model import RangeTest
from limpet.figures.strip import Strip, Tide, sagging, strip_of
from limpet.figures.traces import path_of
from limpet.history import Facts, facts_of
from limpet.judge import comparand_of
from limpet.state.priors import NOTHING, Priors
from limpet.tell import Result, analyse
from server.wire.stored import wrapped

#: Points of the tideline in a list's row, which is a few hundred pixels wide and has no marks.
ROW_POINTS = 40
#: A band that says "anything up to ten times as far" must not squeeze the other rows to nothing.
MOST_BEYOND = 1.35
#: Points of the way over time that traces are read against.
WAY_POINTS = 1000


def derived(
    evidence: RangeTest, lessons: Callable[[Facts], Priors] = lambda facts: NOTHING
) -> dict[str, Any]:
    """A test's result as the columns of its row.

    Parameters
    ----------
    lessons : what earlier tests teach one with such facts. What it teaches itself is what it shows without them, or one
        test's word would be heard again from all that came after it.
    """
    alone = analyse(evidence)
    facts = facts_of(evidence, alone)
    priors = lessons(facts)
    result = analyse(evidence, priors) if priors.tell else alone
    return {**columns_of(evidence, result), "facts": wrapped(asdict(facts))}


def derived_assuming(changes: Changes, evidence: RangeTest) -> dict[str, Any]:
    """The same of a test that is read in a process apart, with what its account assumes otherwise."""
    with as_assumed(lambda: changes):
        return derived(evidence)


def columns_of(evidence: RangeTest, result: Result) -> dict[str, Any]:
    """A result as the columns of its row, without what it teaches."""
    strip = strip_of(evidence, result)
    sag = sagging(evidence, result)
    path = path_of(evidence.samples, result.distance_line)
    per_km = result.consumption.wh_per_km if result.consumption else None
    reach = result.range_to_cutoff
    seen = comparand_of(evidence, result, "")
    return {
        "wh_per_km": per_km.value if per_km else None,
        "wh_per_km_std": per_km.standard_uncertainty if per_km else None,
        "range_to_cutoff_m": reach.value if reach else None,
        "range_to_cutoff_std_m": reach.standard_uncertainty if reach else None,
        "reach_m": _reach_m(strip),
        "measured": result.range_measured,
        "figures": wrapped(_figures(result)),
        "strip": wrapped(_thinned(strip)),
        "seen": wrapped(asdict(replace(seen, way=None))),
        "way": None if seen.way is None else wrapped(asdict(seen.way)),
        "detail": wrapped(
            {
                "result": result.to_json(),
                "strip": asdict(strip),
                "way": _way(result),
                "path": asdict(path) if path is not None else None,
                "sag": asdict(sag) if sag is not None else None,
            }
        ),
    }


def _figures(result: Result) -> dict[str, Any]:
    """What a row of the logbook says."""
    consumption = result.consumption
    return {
        "wh_per_km": consumption.wh_per_km.to_json() if consumption else None,
        "wh_per_mi": consumption.wh_per_mi.to_json() if consumption else None,
        "range_to_cutoff": result.range_to_cutoff.to_json() if result.range_to_cutoff else None,
        "range_to_reserve": result.range_to_reserve.to_json() if result.range_to_reserve else None,
        "range_measured": result.range_measured,
        "reserve": result.reserve,
        "reserve_assumed": result.reserve_assumed,
    }


def _way(result: Result) -> dict[str, list[float]] | None:
    """The distance over time, thinned: a trace is drawn over it without the analysis."""
    line = result.distance_line
    if line is None:
        return None
    points = _evenly(len(line.time_s), WAY_POINTS)
    return {
        "time_s": [round(float(line.time_s[k]), 2) for k in points],
        "distance_m": [round(float(line.total[k]), 1) for k in points],
    }


def _reach_m(strip: Strip) -> float:
    """How far a tideline reaches: what was ridden, or the far end of its band."""
    ridden = strip.ridden_m or 0.0
    if strip.cutoff_m is None:
        return ridden
    _, value, high = strip.cutoff_m
    return max(ridden, min(high, MOST_BEYOND * value))


def _thinned(strip: Strip) -> dict[str, Any]:
    """A tideline with as many points as a row can show, its ends among them."""
    points = _evenly(len(strip.distance_m), ROW_POINTS)
    return {
        **asdict(strip),
        "distance_m": [round(strip.distance_m[k], 1) for k in points],
        "energy_left": [round(strip.energy_left[k], 4) for k in points],
        "marks": [],
        "tides": [_thin_tide(tide) for tide in strip.tides],
    }


def _thin_tide(tide: Tide) -> dict[str, Any]:
    points = _evenly(len(tide.distance_m), ROW_POINTS // 2)
    return {
        "pack": tide.pack,
        "distance_m": [round(tide.distance_m[k], 1) for k in points],
        "energy_left": [round(tide.energy_left[k], 4) for k in points],
    }


def _evenly(count: int, most: int) -> list[int]:
    if count <= most:
        return list(range(count))
    return [round(k * (count - 1) / (most - 1)) for k in range(most)]
