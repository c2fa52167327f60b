"""A series of rides that settles a comparison: one plan for each, alternating, with one calendar."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Any, Literal
from uuid import UUID, uuid5

from django.contrib.auth.models import User
from django.db import transaction

from limpet.bounds import MOST_TITLE
from limpet.evidence.model import Purpose, TestSheet
from limpet.judge import Question
from limpet.planning.rules import alternating
from limpet.planning.schedule import calendar, days_between
from limpet.readers import in_unit
from server.accounts.reader import units_of
from server.logbook.models import RangeTest
from server.logbook.rows import core_sheet
from server.plans import services
from server.plans.models import Plan
from server.plans.schemas import PlanIn, PreviewOut
from server.results import services as results
from server.wire.owned import create_once
from server.wire.problems import ConflictError, FieldError
from server.wire.stored import readable, unwrapped, wrapped

#: More rides of each side than this nobody makes; a comparison that needs more needs a meter instead.
MOST_EACH = 6
#: What a question of Compare is a plan's question as.
PURPOSES: dict[str, Purpose] = {"temperature": "temperature", "pack": "ageing"}
#: A ride whose length nobody knows is planned as long [m].
USUAL_M = 10_000.0
Side = Literal["A", "B"]


def settle(
    owner: User,
    series_id: UUID,
    first: Sequence[UUID],
    second: Sequence[UUID],
    question: Question | None,
    runs: int,
) -> list[Plan]:
    """Plan `runs` more rides of each side, alternating. Sent again, it changes nothing.

    Each is planned as its side's newest test was ridden: by that test's own plan where it had one.

    Raises
    ------
    RangeTest.DoesNotExist
        When one of the tests is not the account's.
    FieldError
        Where a side's kit is not kept, or more rides are asked for than anybody makes.
    """
    if not 1 <= runs <= MOST_EACH:
        raise FieldError({"runs": f"must be 1 to {MOST_EACH}"})
    there = series_of(owner, series_id)
    if there:
        return there
    purpose = PURPOSES.get(question or "", "compare")
    asked: dict[Side, PlanIn] = {
        "A": _as_ridden(owner, first, purpose),
        "B": _as_ridden(owner, second, purpose),
    }
    answers = {
        side: services.preview(owner, {**form.model_dump(), "quick": False})
        for side, form in asked.items()
    }
    names = _names(asked["A"].title, asked["B"].title)
    order = alternating(runs)
    found = []
    with transaction.atomic():
        for place, side in enumerate(order, start=1):
            form = asked[side]
            values = {
                "title": f"{names[side]}, ride {place} of {len(order)}"[:MOST_TITLE],
                "purpose": purpose,
                "asked": wrapped(form.model_dump(mode="json", exclude={"quick"})),
                "answer": wrapped(answers[side]),
                "series": series_id,
                "series_place": place,
                "series_side": side,
                "series_sides": {
                    "first": [str(one) for one in first],
                    "second": [str(one) for one in second],
                    "question": question,
                },
            }
            plan, _ = create_once(Plan, owner, uuid5(series_id, str(place)), values)
            found.append(plan)
    return found


def series_of(owner: User, series_id: UUID) -> list[Plan]:
    """The rides of a series that are still planned, in their order."""
    plans = Plan.objects.owned_by(owner).filter(series=series_id).select_related("test")
    return list(plans.order_by("series_place")[: 2 * MOST_EACH])


def calendar_of(plans: Sequence[Plan], first: datetime) -> bytes:
    """The rides of a series as one iCalendar file.

    Raises
    ------
    ConflictError
        When what a plan came to cannot be read any more.
    """
    answers = [readable(plan.answer, PreviewOut) for plan in plans]
    told = [answer for answer in answers if answer is not None]
    if len(told) < len(plans) or not plans or plans[0].series is None:
        raise ConflictError(services.UNREADABLE_PLAN)
    cautions = dict.fromkeys(text for answer in told for text in answer.rules.cautions)
    return calendar(
        plans[0].series,
        "Settle it",
        tuple(plan.title for plan in plans),
        first=first,
        total_s=max(answer.schedule.total_s for answer in told),
        days_apart=days_between(plans[0].purpose),
        note=" ".join(cautions),
    )


def compared_by(plans: Sequence[Plan]) -> str:
    """The address of the comparison that a series settles, with the rides that were made of it."""
    kept = unwrapped(plans[0].series_sides) if plans else None
    sides = kept if isinstance(kept, dict) else {}
    ridden: dict[str, list[str]] = {
        "A": list(sides.get("first") or ()),
        "B": list(sides.get("second") or ()),
    }
    for plan in plans:
        test = services.ride_of(plan)
        if test is not None and plan.series_side in ridden:
            ridden[plan.series_side].append(str(test))
    asked = f"&question={sides['question']}" if sides.get("question") else ""
    return f"/compare?first={','.join(ridden['A'])}&second={','.join(ridden['B'])}{asked}"


def _names(one: str, two: str) -> dict[Side, str]:
    return {"A": f"A: {one}"[: MOST_TITLE - 20], "B": f"B: {two}"[: MOST_TITLE - 20]}


def _as_ridden(owner: User, ids: Sequence[UUID], purpose: Purpose) -> PlanIn:
    """A plan's form as the newest of some tests was ridden."""
    tests = (
        RangeTest.objects.owned_by(owner).select_related("plan", "kept_result").in_bulk(list(ids))
    )
    if not ids or len(tests) < len(set(ids)):
        raise RangeTest.DoesNotExist
    test = max(tests.values(), key=lambda one: (one.sorted_at, str(one.pk)))
    if test.vehicle_id is None or test.pack_id is None:
        raise FieldError(
            {
                "tests": f"“{test.title}” has no vehicle and pack of your kit; choose them on its sheet first"
            }
        )
    sheet = core_sheet(test)
    planned = getattr(test, "plan", None)
    way = _way_of(unwrapped(planned.asked)) if planned is not None else {}
    if not way:
        way = {"legs": [_leg(test, sheet)]}
    protocol = sheet.protocol
    typed: dict[str, Any] = {
        "title": f"{test.vehicle_name} on {test.pack_name}"
        if test.pack_name
        else test.vehicle_name,
        "purpose": purpose,
        "vehicle_id": test.vehicle_id,
        "pack_id": test.pack_id,
        "rider_id": test.rider_id,
        "packs_count": sheet.packs_used or 1,
        "packs_use": "single" if (sheet.packs_used or 1) == 1 else sheet.packs_use,
        "end_rule": (protocol.end_rule if protocol is not None else None) or "route_end",
        "policy": (protocol.speed_policy if protocol is not None else None) or "with_traffic",
        "target_mps": protocol.target_speed_mps if protocol is not None else None,
        "tyre_kpa": sheet.tyres.pressure_kpa if sheet.tyres is not None else None,
        **way,
    }
    return PlanIn(**{name: value for name, value in typed.items() if value is not None})


def _way_of(asked: Any) -> dict[str, Any]:
    """The way of a plan's form: its route or its legs; empty where it has none."""
    names = ("route_id", "legs", "and_back", "reversed", "laps")
    kept = asked if isinstance(asked, dict) else {}
    way = {name: kept[name] for name in names if kept.get(name)}
    return way if "route_id" in way or "legs" in way else {}


def _leg(test: RangeTest, sheet: TestSheet) -> dict[str, Any]:
    """As far as the test went, to a tenth of what its owner reads in, on its surface."""
    result = results.detail_of(results.current(test)).get("result") or {}
    distance = result.get("distance") or {}
    surface = sheet.conditions.surface if sheet.conditions is not None else None
    tenth_m = 0.1 / in_unit("distance", 1.0, units_of(test.owner).distance)
    length_m = max(round((distance.get("value") or USUAL_M) / tenth_m), 1) * tenth_m
    return {"length_m": length_m, "surface": surface or "smooth_paved"}
