"""A ride under way: its evidence, the way that is left, and what earlier tests taught, asked of the core."""

from __future__ import annotations

import logging
from typing import Any
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone
from pydantic import ValidationError

from limpet.assumptions import as_assumed
from limpet.evidence.model import RangeTest as CoreTest
from limpet.follow import Advice, WayAhead, advise
from limpet.result.model import plain
from limpet.result.priors import NOTHING, Priors
from limpet.road import Route
from limpet.trip import Trip
from server.accounts.assumed import assumed_by
from server.logbook.models import RangeTest
from server.logbook.rows import core_test
from server.plans.models import Plan
from server.plans.schemas import PlanIn
from server.plans.services import start_planned
from server.plans.trips import trip_of
from server.results.lessons import lessons_of
from server.wire.problems import FieldError
from server.wire.stored import unwrapped
from server.wire.turns import by_turns

logger = logging.getLogger(__name__)


@by_turns
def follow_ride(
    owner: User, test_id: UUID, ahead: WayAhead | None, *, table: bool
) -> dict[str, Any]:
    """What a rider on the way is told; with the table for a device where it is asked for.

    Parameters
    ----------
    ahead : the way as the rider says it; None is the plan's, the rest of the lap, or back as it came
    """
    test: RangeTest = RangeTest.objects.owned_by(owner).get(pk=test_id)
    evidence = core_test(test)
    with as_assumed(lambda: assumed_by(owner.pk)):
        trip, route = _planned(owner, test) if ahead is None else (None, None)
        found = advise(
            evidence, trip, route, ahead=ahead, priors=_taught(owner, test, trip, evidence)
        )
        made = found.table() if table else None
    return {**told(found), "table": None if made is None else made.to_json()}


@by_turns
def follow_plan(owner: User, plan_id: UUID) -> dict[str, Any]:
    """How a ride of a plan would stand before its first metre, with the table for a device that may have
    no signal there.

    Raises
    ------
    ConflictError
        When it is being ridden already.
    """
    with transaction.atomic():
        # It is begun as any other and taken back, so that the two can never differ.
        test = start_planned(owner, plan_id, uuid4(), timezone.now())
        evidence = core_test(test)
        with as_assumed(lambda: assumed_by(owner.pk)):
            trip, route = _planned(owner, test)
            priors = _taught(owner, test, trip, evidence)
        transaction.set_rollback(True)
    with as_assumed(lambda: assumed_by(owner.pk)):
        found = advise(evidence, trip, route, priors=priors)
        made = found.table()
    return {**told(found), "table": None if made is None else made.to_json()}


def told(found: Advice) -> dict[str, Any]:
    """What the core advises, as it goes out; without a table."""
    answer = {name: plain(getattr(found.following, name)) for name in _OF_FOLLOWING}
    return {
        **answer,
        "matter": {"code": found.matter.code, "values": dict(found.matter.values)},
        "choices": plain(found.choices),
        "more": plain(found.more),
        "onward": found.onward,
        "wanted": found.wanted,
    }


_OF_FOLLOWING = (
    "at_s", "distance", "energy_left_fraction", "range_left_to_cutoff", "range_left_to_reserve",
    "reserve", "way", "enough", "warnings",
)  # fmt: skip


def _planned(owner: User, test: RangeTest) -> tuple[Trip | None, Route | None]:
    """The trip of the plan that a ride was begun from, as kit and tests are now."""
    plan = Plan.objects.owned_by(owner).filter(test=test).first()
    if plan is None:
        return None, None
    try:
        asked = PlanIn.model_validate(unwrapped(plan.asked)).model_dump()
        found = trip_of(owner, {**asked, "quick": True})
    except (ValidationError, FieldError):
        # Its kit or its route is gone, or it was kept in another shape: the way back serves.
        logger.info("the plan of ride %s cannot be asked any more", test.pk)
        return None, None
    return found.trip, found.route


def _taught(owner: User, test: RangeTest, trip: Trip | None, evidence: CoreTest) -> Priors:
    if test.vehicle is None or test.pack is None:
        return NOTHING
    speed = trip.speed.target_mps if trip is not None else None
    return lessons_of(owner, test.vehicle, test.pack, speed, evidence)
