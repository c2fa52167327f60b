"""Which tests have a result, which wait for one, and who computes it."""

from __future__ import annotations

from datetime import timedelta
from uuid import UUID

from django.db import IntegrityError, transaction
from django.db.models import Exists, F, OuterRef, QuerySet
from django.utils import timezone

from limpet.version import core_digest
from server.logbook.models import NAMED, RangeTest, Stream
from server.results.models import TestResult

#: How long a claim holds when whoever made it says nothing more: longer than any test takes.
CLAIM = timedelta(minutes=3)

_SHOWN = ("revision", "core", "fault", "strip", "figures", "claimed_until")


def with_rows(tests: QuerySet[RangeTest]) -> QuerySet[RangeTest]:
    """Tests newest first with what a row of a list shows, in one query."""
    shown = (f"kept_result__{name}" for name in _SHOWN)
    return tests.select_related("kept_result").only(*NAMED, *shown).order_by("-sorted_at", "-id")


def due() -> QuerySet[RangeTest]:
    """Tests whose result is missing, or was derived from other evidence or another core.

    A ride whose instruments are still sending is computed when somebody asks, and at its end: its
    sums go on without it. Oldest first: what a test teaches is known before the next is computed.
    """
    sending = Stream.objects.filter(test=OuterRef("pk"))
    live = RangeTest.objects.filter(alive=True).with_evidence()
    live = live.exclude(Exists(sending), state=RangeTest.State.RIDING)
    fresh = {
        "kept_result__revision": F("revision"),
        "kept_result__core": core_digest(),
        "kept_result__lessons_due": False,
    }
    waiting = live.exclude(**fresh).exclude(kept_result__claimed_until__gt=timezone.now())
    return waiting.order_by("sorted_at", "pk")


def claim(test_id: UUID) -> bool:
    """Say that a test's result is being computed; False when somebody else is at it.

    One statement, which the database decides between several servers.
    """
    until = timezone.now() + CLAIM
    rows = TestResult.objects.filter(test_id=test_id)
    if rows.free().update(claimed_until=until):
        return True
    if rows.exists():
        return False
    try:
        with transaction.atomic():
            TestResult.objects.create(test_id=test_id, revision=0, core="", claimed_until=until)
    except IntegrityError:
        return False
    return True
