"""What tests came to: derived rows, each of one revision of the evidence and one core."""

from __future__ import annotations

from typing import Self

from django.db import models
from django.utils import timezone

from server.logbook.models import RangeTest
from server.wire.trying import Tried


class ResultQuerySet(models.QuerySet["TestResult"]):
    def free(self) -> Self:
        """Rows that nobody computes just now; a claim that ran out counts as none."""
        return self.filter(
            models.Q(claimed_until=None) | models.Q(claimed_until__lt=timezone.now())
        )


class TestResult(Tried):
    """What a test came to, under the evidence and the core that it was derived from.

    Lists read rows and compute nothing; a row whose evidence or core has moved on is computed anew
    by `worker`, of which `claimed_until` says that somebody is at it. `figures`, `strip`, `detail`,
    `facts` and `seen` are kept as `wire.stored` does.
    """

    __test__ = False  # not a pytest class, whatever its name begins with

    test = models.OneToOneField(RangeTest, on_delete=models.CASCADE, related_name="kept_result")
    #: 0 until it was computed for the first time.
    revision = models.PositiveIntegerField()
    core = models.CharField(max_length=32)
    #: Why it could not be computed, as its rider reads it; empty when it could. Of `Tried` it has the times.
    fault = models.CharField(max_length=500, blank=True)
    wh_per_km = models.FloatField(null=True, blank=True)
    wh_per_km_std = models.FloatField(null=True, blank=True)
    range_to_cutoff_m = models.FloatField(null=True, blank=True)
    range_to_cutoff_std_m = models.FloatField(null=True, blank=True)
    #: How far its tideline reaches, and whether it was ridden to the end of the pack.
    reach_m = models.FloatField(null=True, blank=True)
    measured = models.BooleanField(default=False)
    figures = models.JSONField(null=True)
    #: The tideline thinned to what a row of a list can show.
    strip = models.JSONField(null=True)
    #: The whole result, and the tideline and the way as the test's own page draws them.
    detail = models.JSONField(null=True)
    #: What the test teaches of its vehicle and its pack (`limpet.history.facts`).
    facts = models.JSONField(null=True)
    #: What comparing asks of it (`limpet.judge.comparand`).
    seen = models.JSONField(null=True)
    #: Its way with what it took (`limpet.judge.along`), apart: only a pair of tests asks for it.
    way = models.JSONField(null=True)
    computed_at = models.DateTimeField(default=timezone.now)
    claimed_until = models.DateTimeField(null=True)
    #: How many lessons it was worked out with (`limpet.tell.learned`), and what it was before those that are
    #: new since its rider looked (`results.changed`); null where there is nothing to say.
    lessons = models.PositiveSmallIntegerField(default=0)
    changed = models.JSONField(null=True)
    #: What earlier tests teach it has changed since, or was not asked yet: it is computed again, and
    #: is read as it is until then.
    lessons_due = models.BooleanField(default=False)

    objects = ResultQuerySet.as_manager()

    class Meta:
        indexes = (
            models.Index(fields=("core", "revision"), name="result_by_core"),
            models.Index(fields=("wh_per_km",), name="result_by_consumption"),
            models.Index(fields=("range_to_cutoff_m",), name="result_by_range"),
        )

    @property
    def is_claimed(self) -> bool:
        """Whether somebody computes it just now."""
        return self.claimed_until is not None and self.claimed_until > timezone.now()


class Looked(models.Model):
    """When results were last looked after, by whichever process: one row, which all of them write."""

    looked_at = models.DateTimeField()
    #: Why the last look ended before it was through; empty when it did not.
    trouble = models.CharField(max_length=500, blank=True, default="")
