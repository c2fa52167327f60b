"""Results are derived: computed by the core, cached under what they were derived from."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from limpet import CORE_VERSION
from limpet.evidence.model import RangeTest as CoreTest
from limpet.result import Result, analyse, strip_of, traces_of
from server.logbook.evidence import core_test
from server.logbook.models import CachedResult, RangeTest


def cache_key(test: RangeTest) -> str:
    """The inputs' version and the core's."""
    return f"{test.revision}:{CORE_VERSION}"


def cached(test: RangeTest) -> CachedResult:
    """The result of a test, computed now unless it already was."""
    stored = getattr(test, "cached_result", None)
    if stored is not None and stored.key == cache_key(test):
        return stored
    evidence = core_test(test)
    return store(test, evidence, analyse(evidence))


def store(test: RangeTest, evidence: CoreTest, result: Result) -> CachedResult:
    """Keep a result that was just computed."""
    values = {
        "key": cache_key(test),
        "result": result.to_json(),
        "strip": asdict(strip_of(evidence, result)),
        "figures": _figures(result),
    }
    stored, _ = CachedResult.objects.update_or_create(test=test, defaults=values)
    test.cached_result = stored
    return stored


def traces(test: RangeTest, from_s: float | None, to_s: float | None) -> dict[str, Any] | None:
    """Binned traces of a test or a part of it; None without samples."""
    if not test.chunks.exists():
        return None
    evidence = core_test(test)
    found = traces_of(evidence, analyse(evidence), from_s, to_s)
    return asdict(found) if found is not None else None


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
