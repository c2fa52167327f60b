"""Which tests have a result, which wait for one, and who computes it."""

from __future__ import annotations

from datetime import timedelta
from uuid import UUID

from django.db import IntegrityError, transaction
from django.db.models import Exists, F, OuterRef, Q, QuerySet, Subquery
from django.utils import timezone

from limpet.version import core_digest
from server.logbook.models import NAMED, RangeTest, Stream
from server.results.models import TestResult

#: How long a claim holds when whoever made it says nothing more: longer than any test takes.
CLAIM = timedelta(minutes=3)

#: A ride under way is computed for the lists this often at most.
UNDER_WAY = timedelta(minutes=3)

_SHOWN = ("revision", "core", "fault", "strip", "figures", "claimed_until")


def with_rows(tests: QuerySet[RangeTest]) -> QuerySet[RangeTest]:
    """Tests newest first with what a row of a list shows, in one query."""
    shown = (f"kept_result__{name}" for name in _SHOWN)
    return tests.select_related("kept_result").only(*NAMED, *shown).order_by("-sorted_at", "-id")


def due() -> QuerySet[RangeTest]:
    """Tests whose result is missing, or was derived from other evidence or another core.

    A ride whose instruments are still sending is computed when somebody asks, and at its end: its
    sums go on without it. One that is noted by hand is computed every few minutes at most: who rides
    is told by `plans.riding`, and the processor is theirs. Oldest first: what a test teaches is known
    before the next is computed.
    """
    sending = Stream.objects.filter(test=OuterRef("pk"))
    live = RangeTest.objects.filter(alive=True).with_evidence()
    since = timezone.now() - UNDER_WAY
    lately = Q(
        kept_result__computed_at__gt=since, kept_result__revision__gt=0, kept_result__fault=""
    )
    live = live.exclude(Exists(sending) | lately, state=RangeTest.State.RIDING)
    fresh = {
        "kept_result__revision": F("revision"),
        "kept_result__core": core_digest(),
        "kept_result__lessons_due": False,
    }
    # What failed is tried again, later each time, though its evidence is the same.
    again = Q(kept_result__again_at__lte=timezone.now())
    waiting = live.filter(again | ~Q(**fresh))
    waiting = waiting.exclude(kept_result__claimed_until__gt=timezone.now())
    return waiting.order_by("sorted_at", "pk")


def claim(test_id: UUID) -> bool:
    """Say that a test's result is being computed; False when somebody else is at it, or has done it.

    One statement, which the database decides between several servers: that nobody is at it, and that it
    is still due. A list that was read a minute ago knows neither.
    """
    now = timezone.now()
    until = now + CLAIM
    rows = TestResult.objects.filter(test_id=test_id)
    revision = RangeTest.objects.filter(pk=OuterRef("test_id")).values("revision")
    of_today = Q(revision=Subquery(revision), core=core_digest(), lessons_due=False)
    # What a bundle was stored with has no detail until its own page is asked for.
    whole = Q(detail__isnull=False) | ~Q(fault="")
    again = Q(again_at__lte=now)
    if rows.free().filter(again | ~(of_today & whole)).update(claimed_until=until):
        return True
    if rows.exists():
        return False
    try:
        with transaction.atomic():
            TestResult.objects.create(test_id=test_id, revision=0, core="", claimed_until=until)
    except IntegrityError:
        return False
    return True
