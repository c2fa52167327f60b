"""A ride under way: its evidence, the way that is left, and what earlier tests taught, asked of the core."""

from __future__ import annotations

import json
import logging
from dataclasses import dataclass
from hashlib import sha256
from typing import Any
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Count
from django.utils import timezone
from pydantic import ValidationError

from limpet.assumptions import as_assumed
from limpet.evidence.model import RangeTest as CoreTest
from limpet.figures.parts import plain
from limpet.road import Route
from limpet.state.priors import NOTHING, Priors
from limpet.trip import Trip
from limpet.under_way import Advice, WayAhead, advise
from limpet.under_way.answer import OF_WHAT_IS_LEFT
from limpet.version import core_digest
from server.accounts.assumed import assumed_by
from server.logbook.models import RangeTest
from server.logbook.rows import core_test, entry_values
from server.plans.following import digest_of, keep_answer, kept_answer, one_at_a_time
from server.plans.models import Plan
from server.plans.schemas import PlanIn
from server.plans.services import start_planned
from server.plans.trips import trip_of
from server.results.lessons import lessons_of
from server.wire.problems import FieldError
from server.wire.stored import unwrapped
from server.wire.turns import in_line, ride_turn

logger = logging.getLogger(__name__)

#: A test that changes while it is read is read again so often.
MOST_READINGS = 3


#: An answer is kept waiting so often by what is noted while it waits; then it is given of what was read.
MOST_OVERTAKEN = 3


def follow_ride(
    owner: User, test_id: UUID, ahead: WayAhead | None, *, table: bool
) -> dict[str, Any]:
    """What a rider on the way is told; with the table for a device where it is asked for.

    Parameters
    ----------
    ahead : the way as the rider says it; None is the plan's, the rest of the lap, or back as it came
    """
    with as_assumed(lambda: assumed_by(owner.pk)):
        asked = _asked(owner, test_id, ahead)
        kept = kept_answer(test_id, asked.digest, table=table)
        if kept is not None:
            return kept
        with in_line(), one_at_a_time(test_id), ride_turn():
            # Waiting takes time: what is overtaken is not computed, what another has told meanwhile is.
            for _ in range(MOST_OVERTAKEN):
                if _revision_of(test_id) == asked.read.revision:
                    break
                asked = _asked(owner, test_id, ahead)
            kept = kept_answer(test_id, asked.digest, table=table)
            if kept is not None:
                return kept
            found = advise(
                asked.read.test, asked.trip, asked.route, ahead=ahead, priors=asked.priors
            )
            made = None if found.following.contradicts else found.table().to_json()
            answer = {**told(found), "evidence": asked.read.told(), "table": made}
            keep_answer(test_id, asked.digest, answer)
    return answer if table else {**answer, "table": None}


@dataclass(frozen=True, slots=True)
class _Asked:
    """All that an answer is made from."""

    read: ReadEvidence
    trip: Trip | None
    route: Route | None
    priors: Priors
    digest: str


def _asked(owner: User, test_id: UUID, ahead: WayAhead | None) -> _Asked:
    test: RangeTest = RangeTest.objects.owned_by(owner).get(pk=test_id)
    read = read_evidence(test)
    trip, route = _planned(owner, test) if ahead is None else (None, None)
    priors = _taught(owner, test, trip, read.test)
    digest = digest_of(
        read.told(), trip, route, ahead, priors, sorted(assumed_by(owner.pk).items())
    )
    return _Asked(read, trip, route, priors, digest)


@dataclass(frozen=True, slots=True)
class ReadEvidence:
    """A test as it was read: whole at one revision, with the digest of what was read.

    `entries` are those that stood, with how often each had been changed.
    """

    test: CoreTest
    revision: int
    digest: str
    sheet_changes: int
    entries: tuple[tuple[UUID, int], ...]

    def told(self) -> dict[str, Any]:
        """As it goes out with an answer."""
        return {
            "revision": self.revision,
            "digest": self.digest,
            "core": core_digest(),
            "sheet_changes": self.sheet_changes,
            "entries": [{"id": id, "changes": changes} for id, changes in self.entries],
        }


def of_no_test(revision: int) -> dict[str, Any]:
    """The evidence of an answer about a ride that is not stored."""
    return {
        "revision": revision,
        "digest": "",
        "core": core_digest(),
        "sheet_changes": 0,
        "entries": [],
    }


def read_evidence(test: RangeTest) -> ReadEvidence:
    """Read a test whole: what was recorded while it was read is read again.

    Notes
    -----
    The digest is of the sheet's and every entry's values, removed ones too, and how far each stream has
    come: the same evidence has the same digest, whenever it is read.
    """
    for _ in range(MOST_READINGS):
        revision = _revision_of(test.pk)
        evidence = core_test(test)
        digest = _digest_of(test)
        standing = test.entries.standing().annotate(changes=Count("revisions"))
        entries = tuple(standing.values_list("pk", "changes"))
        changes = test.sheet_changes
        if _revision_of(test.pk) == revision:
            break
        test.refresh_from_db()
    # Of a test that never stands still the older number is told: never newer than what was read.
    return ReadEvidence(evidence, revision, digest, changes, entries)


def _revision_of(test_id: UUID) -> int:
    found: int = RangeTest.objects.values_list("revision", flat=True).get(pk=test_id)
    return found


def _digest_of(test: RangeTest) -> str:
    found = sha256(json.dumps(test.sheet, sort_keys=True, default=str).encode())
    for entry in test.entries.order_by("id"):
        values = {**entry_values(entry), "removed": entry.removed}
        found.update(f"{entry.pk} {json.dumps(values, sort_keys=True, default=str)}\n".encode())
    for stream in test.streams.order_by("id"):
        said = (stream.pk, stream.next_sequence, stream.clock_offset_s, stream.sign)
        found.update(repr(said).encode())
    return found.hexdigest()[:16]


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
    with in_line(), ride_turn(), as_assumed(lambda: assumed_by(owner.pk)):
        found = advise(evidence, trip, route, priors=priors)
        made = found.table()
    return {
        **told(found),
        "evidence": of_no_test(0),
        "table": made.to_json(),
    }


def told(found: Advice) -> dict[str, Any]:
    """What the core advises, as it goes out; without a table."""
    answer = {name: plain(getattr(found.following, name)) for name in _OF_FOLLOWING}
    left = {name: plain(found.following.left_told(name)) for name in OF_WHAT_IS_LEFT}
    return {
        **answer,
        **left,
        "matter": {"code": found.matter.code, "values": dict(found.matter.values)},
        "choices": plain(found.choices),
        "more": plain(found.more),
        "onward": found.onward,
        "wanted": found.wanted,
    }


_OF_FOLLOWING = (
    "at_s", "distance", "reads", "consumption", "strip", "shows_charge", "reserve", "way", "enough", "warnings",
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
