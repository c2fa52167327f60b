"""Tests of one account against each other, out of what is kept of their results."""

from __future__ import annotations

import logging
from collections.abc import Sequence
from dataclasses import replace
from typing import cast
from uuid import UUID

from django.contrib.auth.models import User
from django.db.models import QuerySet
from pydantic import ValidationError

from limpet.assumptions import as_assumed
from limpet.judge import Comparand, Comparison, Question, comparand_from_json, compare
from limpet.judge.along import Way, way_from_json
from limpet.judge.offers import MOST_TESTS, Offer, offers
from limpet.judge.terms import MOST_TRIPS, Terms, TripAsked, terms_of
from limpet.notices import Notice
from server.accounts.assumed import assumed_by
from server.kit.models import Route
from server.logbook.models import RangeTest
from server.results import services
from server.results.models import TestResult
from server.results.signals import ways_wanted
from server.wire.kept import Kept
from server.wire.stored import unwrapped

#: Further tests of the vehicles of a comparison that teach how their runs differ, the latest.
MOST_OTHERS = 40

logger = logging.getLogger(__name__)


def compared(
    owner: User, first: Sequence[UUID], second: Sequence[UUID], question: Question | None
) -> tuple[Comparison, Terms | None, list[RangeTest]]:
    """Judge an account's tests; both sides in the rider's terms; and the tests in the order that was asked for.

    Raises
    ------
    RangeTest.DoesNotExist
        When one of them is not the account's.
    """
    ids = list(dict.fromkeys((*first, *second)))
    rows = RangeTest.objects.owned_by(owner).select_related("kept_result").in_bulk(ids)
    if len(rows) < len(ids):
        raise RangeTest.DoesNotExist
    tests = [rows[one] for one in ids]
    seen = {}
    for test in tests:
        found = _seen(test)
        if found is None:
            reason = Notice("compare_no_figure", title=test.title)
            asked = question or "repeat"
            return (
                Comparison(verdict="not_comparable", question=asked, reasons=(reason,)),
                None,
                tests,
            )
        seen[test.pk] = found
    with as_assumed(lambda: assumed_by(owner.pk)):
        sides = [seen[one] for one in first], [seen[one] for one in second]
        others = _others(owner, tests)
        answer = compare(*sides, question, others=others)
        terms = (
            None
            if answer.quantity is None
            else terms_of(*sides, _trips(owner), question=answer.question, others=others)
        )
    return answer, terms, tests


def _others(owner: User, tests: Sequence[RangeTest]) -> list[Comparand]:
    """Further tests of the same vehicles, oldest first."""
    names = {test.vehicle_name for test in tests if test.vehicle_name}
    alike = RangeTest.objects.owned_by(owner).filter(vehicle_name__in=names)
    return newest_seen(alike.exclude(pk__in=[test.pk for test in tests]), MOST_OTHERS)


#: Offers of the questions that are asked, five pairs each.
MOST_OFFERED = 128
_offered: Kept[tuple[Offer, ...]] = Kept(MOST_OFFERED)


def offered(owner: User, question: Question) -> tuple[Offer, ...]:
    """Which of an account's tests can tell what is asked."""
    keys = _newest(RangeTest.objects.owned_by(owner), MOST_TESTS)
    kept = TestResult.objects.filter(test__in=[UUID(key) for key in keys])
    # What offers hang on: which tests, when each was computed last, and what the account assumes.
    computed = tuple(sorted(kept.values_list("test_id", "computed_at", "core")))
    assumed = tuple(sorted(assumed_by(owner.pk).items()))

    def made() -> tuple[Offer, ...]:
        with as_assumed(lambda: dict(assumed)):
            return offers(seen_of_each(keys), question)

    return _offered.of((question, tuple(keys), computed, assumed), made)


def newest_seen(tests: QuerySet[RangeTest], most: int) -> list[Comparand]:
    """What comparing asks of the newest of some tests that have ended, oldest first."""
    return seen_of_each(_newest(tests, most))


def _newest(tests: QuerySet[RangeTest], most: int) -> list[str]:
    ended = tests.filter(state=RangeTest.State.ENDED).order_by("-sorted_at", "-pk")
    keys = [str(one) for one in ended.values_list("pk", flat=True)[:most]]
    return keys[::-1]


def _trips(owner: User) -> list[TripAsked]:
    """The ways that an account keeps, its plans' first; a lap is no trip."""
    told = [cast(list[TripAsked], ways) for _, ways in ways_wanted.send(None, owner=owner)]
    wanted = [way for ways in told for way in ways]
    routes = Route.objects.owned_by(owner).exclude(kind=Route.Kind.LOOP).order_by("-created_at")
    kept = routes.values_list("name", "length_m", "ascent_m")[:MOST_TRIPS]
    return [
        *wanted,
        *(TripAsked(name=name, length_m=length, climb_m=ascent) for name, length, ascent in kept),
    ][:MOST_TRIPS]


def seen_of_each(keys: Sequence[str]) -> list[Comparand]:
    """What comparing asks of some tests, in their order; those that were not computed yet are left out."""
    rows = TestResult.objects.filter(test__in=[UUID(key) for key in keys]).values_list(
        "test_id", "seen"
    )
    kept = {str(test_id): seen for test_id, seen in rows}
    read = (_read(kept.get(key), key) for key in keys)
    return [seen for seen in read if seen is not None]


def _seen(test: RangeTest) -> Comparand | None:
    """What comparing asks of a test, computed first where it was not; None where it came to nothing."""
    kept = services.current(test)
    seen = _read(kept.seen, str(test.pk))
    return None if seen is None else replace(seen, way=_way(kept))


def _way(kept: TestResult) -> Way | None:
    try:
        return None if kept.way is None else way_from_json(unwrapped(kept.way))
    except ValidationError:
        logger.info("the kept way of test %s is of another version", kept.test_id)
        return None


def _read(kept: object, key: str) -> Comparand | None:
    try:
        return comparand_from_json(unwrapped(kept), key)
    except ValidationError:
        logger.info("what is kept of test %s tells nothing to compare", key)
        return None
