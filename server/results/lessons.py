"""What an account's own tests taught of a vehicle and a pack, out of the kept results."""

from __future__ import annotations

import logging
from dataclasses import replace
from uuid import UUID

from django.contrib.auth.models import User
from django.db.models import Q, QuerySet
from pydantic import ValidationError

from limpet.evidence.model import RangeTest as CoreTest
from limpet.history import Facts, facts_from_json, learn_for, learn_from, learn_under_way
from limpet.history.dated import Dated
from limpet.history.learn import MOST_TESTS
from limpet.state.priors import LESSONS, NOTHING, Priors
from server.kit.models import Pack, Vehicle
from server.logbook.models import RangeTest, RangeTestQuerySet
from server.results.models import TestResult
from server.wire.stored import unwrapped

logger = logging.getLogger(__name__)


def lessons_of(
    owner: User,
    vehicle: Vehicle,
    pack: Pack,
    speed_mps: float | None,
    under_way: CoreTest | None = None,
) -> Priors:
    """What the newest ended tests of a vehicle and of a pack teach a trip, or a ride that is under way.

    Notes
    -----
    A vehicle and a pack are those of the kit, whatever they were called when they were ridden.
    """
    if not vehicle.learns:
        return NOTHING
    facts = _facts(RangeTest.objects.owned_by(owner), vehicle.pk, pack.pk)
    kit = (str(vehicle.pk), str(pack.pk))
    if under_way is None:
        found = learn_from(facts, *kit, speed_mps=speed_mps)
    else:
        found = learn_under_way(under_way, facts, *kit, speed_mps=speed_mps)
    return found.without(*aside_of(vehicle))


def lessons_for(test: RangeTest, evidence: CoreTest, alone: Facts) -> Priors:
    """What the tests before a test teach it; nothing where its vehicle is not to learn.

    Parameters
    ----------
    alone : what it came to by itself
    """
    vehicle: Vehicle | None = test.vehicle
    if (vehicle is not None and not vehicle.learns) or not _has_kit(test):
        return NOTHING
    facts = _facts(_teachers(test), test.vehicle_id, test.pack_id)
    here = replace(alone, vehicle=_key(test.vehicle_id), pack=_key(test.pack_id))
    found = learn_for(evidence, here, facts)
    return found if vehicle is None else found.without(*aside_of(vehicle))


def aside_of(vehicle: Vehicle) -> list[str]:
    """The learned numbers that are not to be used of a vehicle."""
    kept = vehicle.left_aside if isinstance(vehicle.left_aside, list) else []
    return [name for lesson in kept for name in LESSONS.get(lesson, ())]


def has_teachers(test: RangeTest) -> bool:
    """Whether there is an earlier test of the same vehicle or pack."""
    return _has_kit(test) and _alike(_teachers(test), test.vehicle_id, test.pack_id).exists()


def pass_on(test: RangeTest) -> int:
    """What a test teaches has changed: results of later tests of its kit are due; says how many."""
    if not _has_kit(test):
        return 0
    later = RangeTest.objects.filter(owner=test.owner_id, sorted_at__gt=test.sorted_at)
    return due_again(_alike(later, test.vehicle_id, test.pack_id))


def due_again(tests: QuerySet[RangeTest]) -> int:
    """What was taught to some tests has changed; says how many results are due."""
    return int(TestResult.objects.filter(test__in=tests).update(lessons_due=True))


def _has_kit(test: RangeTest) -> bool:
    return test.vehicle_id is not None or test.pack_id is not None


def _key(row_id: UUID | None) -> str | None:
    return None if row_id is None else str(row_id)


def _teachers(test: RangeTest) -> RangeTestQuerySet:
    """An account's tests from before a test."""
    return RangeTest.objects.filter(
        owner=test.owner_id, alive=True, sorted_at__lt=test.sorted_at
    ).exclude(pk=test.pk)


def _alike(
    tests: RangeTestQuerySet, vehicle_id: UUID | None, pack_id: UUID | None
) -> RangeTestQuerySet:
    """Ended tests of a vehicle or of a pack of which anything was recorded."""
    of = Q(pk=None)
    if vehicle_id is not None:
        of |= Q(vehicle=vehicle_id)
    if pack_id is not None:
        of |= Q(pack=pack_id)
    return tests.filter(of, state=RangeTest.State.ENDED).with_evidence()


def _facts(tests: RangeTestQuerySet, vehicle_id: UUID | None, pack_id: UUID | None) -> list[Facts]:
    """What the newest of some tests teach of a vehicle and a pack, oldest first."""
    rows = (
        TestResult.objects.filter(test__in=_alike(tests, vehicle_id, pack_id), facts__isnull=False)
        .order_by("-test__sorted_at", "-test_id")
        .values_list("test__vehicle_id", "test__pack_id", "facts")[:MOST_TESTS]
    )
    found = []
    for rode, gave, kept in reversed(rows):
        facts = _read(kept)
        if facts is not None:
            own = _key(rode) if rode == vehicle_id else None
            found.append(replace(facts, vehicle=own, pack=_key(gave) if gave == pack_id else None))
    return found


def dated_facts(tests: QuerySet[RangeTest], vehicle: UUID | None = None) -> list[Dated]:
    """What each of some ended tests teaches, the newest ones, oldest first, with its id and its time.

    Parameters
    ----------
    vehicle : what their facts are to call it
    """
    rows = (
        TestResult.objects.filter(
            test__in=tests.filter(state=RangeTest.State.ENDED), facts__isnull=False
        )
        .order_by("-test__sorted_at", "-test_id")
        .values_list("test_id", "test__title", "test__sorted_at", "facts")[:MOST_TESTS]
    )
    found = []
    for test_id, title, at, kept in reversed(rows):
        facts = _read(kept)
        if facts is not None:
            named = replace(facts, title=title, vehicle=_key(vehicle))
            found.append(Dated(key=str(test_id), at=at, facts=named))
    return found


def _read(kept: object) -> Facts | None:
    """Facts as kept; those of a core that knew others teach nothing until they are made anew."""
    try:
        return facts_from_json(unwrapped(kept))
    except ValidationError:
        logger.info("kept facts of another version are passed over")
        return None
