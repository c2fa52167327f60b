"""A result that is another than it was though nothing new was noted: what it was, until its rider has seen it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User

from limpet.notices import Notice
from limpet.tell.learned import LEARNED, bearings, why_changed
from limpet.version import core_digest
from server.logbook.models import RangeTest
from server.results.models import TestResult
from server.wire.stored import unwrapped, wrapped

#: A figure that moved by less than this is the same to a rider [-].
SAME = 0.01
#: And one whose interval became so much wider or narrower [-].
SAME_WIDTH = 0.15
_FIGURES = ("wh_per_km", "wh_per_mi", "range_to_cutoff")


def changed_by_learning(test: RangeTest, columns: dict[str, Any]) -> dict[str, Any]:
    """The columns that say how many lessons a result knows, and what it was before, for whoever did not see it.

    Parameters
    ----------
    test : as it was read
    columns : of the new result
    """
    knows: dict[str, Any] = {"lessons": len(LEARNED), "changed": None}
    rows = TestResult.objects.filter(test_id=test.pk)
    row = rows.values("revision", "core", "fault", "changed", "lessons").first()
    # New evidence is why a result is another: nobody asks further.
    if row is None or row["revision"] != test.revision or row["fault"] or columns.get("fault"):
        return knows
    before = unwrapped(row["changed"])
    if not isinstance(before, dict) or not isinstance(before.get("was"), dict):
        if row["core"] == core_digest():
            return knows
        # The whole result is read only where it is asked for: it may be large.
        was = rows.values("figures", "detail").first()
        if was is None or was["figures"] is None:
            return knows
        before = {"since": row["lessons"], "was": _shown(was)}
    # What its rider saw last is held against what it is now, however often it moved in between.
    if not moved(before["was"], _shown(columns)):
        return knows
    return {**knows, "changed": wrapped(before)}


def _shown(columns: Mapping[str, Any]) -> dict[str, Any]:
    """The figures at the head of a result's page."""
    figures, detail = unwrapped(columns.get("figures")), unwrapped(columns.get("detail"))
    figures = figures if isinstance(figures, dict) else {}
    result = detail.get("result") if isinstance(detail, dict) else None
    plan = result.get("plan_on") if isinstance(result, dict) else None
    return {
        **{name: _figure(figures.get(name)) for name in _FIGURES},
        "plan_on_m": _number(plan.get("distance_m")) if isinstance(plan, dict) else None,
    }


def _figure(kept: Any) -> dict[str, Any] | None:
    """A quantity as any version kept it; None where it has not what is asked of it."""
    there = isinstance(kept, dict) and all(
        _number(kept.get(name)) is not None for name in ("value", "low", "high")
    )
    return kept if there else None


def _number(kept: Any) -> float | None:
    return float(kept) if isinstance(kept, int | float) else None


def moved(was: dict[str, Any], now: dict[str, Any]) -> bool:
    """Whether a rider would see another figure, or another interval."""
    pairs = [(was.get(name), now.get(name)) for name in ("wh_per_km", "range_to_cutoff")]
    if any((one is None) != (two is None) for one, two in pairs):
        return True
    if _apart(was.get("plan_on_m"), now.get("plan_on_m")):
        return True
    return any(
        _apart(one["value"], two["value"]) or _apart(_width(one), _width(two), SAME_WIDTH)
        for one, two in pairs
        if one is not None and two is not None
    )


def _width(figure: dict[str, Any]) -> float:
    return float(figure["high"] - figure["low"])


def _apart(one: float | None, two: float | None, most: float = SAME) -> bool:
    if one is None or two is None:
        return (one is None) != (two is None)
    return abs(one - two) > most * max(abs(one), abs(two))


def change_of(kept: TestResult, chemistry: str) -> dict[str, Any] | None:
    """What a kept result was before Limpet learned, and why it is another; None where it is not, or was seen."""
    before = unwrapped(kept.changed)
    if not isinstance(before, dict) or not isinstance(before.get("was"), dict):
        return None
    since = _number(before.get("since"))
    return {**before["was"], "why": _why(kept, int(since or 0), chemistry)}


def _why(kept: TestResult, since: int, chemistry: str) -> tuple[Notice, ...]:
    detail = unwrapped(kept.detail)
    found = detail.get("result") if isinstance(detail, dict) else None
    result: dict[str, Any] = found if isinstance(found, dict) else {}

    def used(name: str) -> list[str]:
        return [str(item.get("method")) for item in result.get(name) or () if item.get("used")]

    return why_changed(
        since,
        bearings(
            chemistry=chemistry,
            energy_methods=used("energy_methods"),
            distance_methods=used("distance_methods"),
            climbs=result.get("climb") is not None,
            promises=result.get("plan_on") is not None,
        ),
    )


def seen(owner: User, test_id: UUID) -> None:
    """Its rider has seen that a result changed: it is not told again.

    Raises
    ------
    ObjectDoesNotExist
        When there is no such test of theirs.
    """
    test = RangeTest.objects.owned_by(owner).only("pk").get(pk=test_id)
    TestResult.objects.filter(test_id=test.pk).update(changed=None)
