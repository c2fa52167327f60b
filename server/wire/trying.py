"""Work on a row that failed: kept with why, and tried again later each time, so that no row holds up the others."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.db import models
from django.utils import timezone

#: The first pause, four times as long each time, and the longest.
FIRST_PAUSE, LONGEST_PAUSE = timedelta(minutes=1), timedelta(days=1)
#: What is kept of why.
MOST_TROUBLE = 500


class Tried(models.Model):
    """A row on which work is done behind its owner's back, and what came of the last try."""

    #: Why the last try failed; empty when it did not.
    trouble = models.CharField(max_length=MOST_TROUBLE, blank=True, default="")
    #: How many tries failed one after the other, and when the next one is due.
    tries = models.PositiveSmallIntegerField(default=0)
    again_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        abstract = True


def may_be_tried() -> models.Q:
    """Rows that wait for no later time."""
    return models.Q(again_at=None) | models.Q(again_at__lte=timezone.now())


def next_try(tries: int) -> datetime:
    """When it is tried again after so many failures."""
    pause = min(FIRST_PAUSE * 4 ** min(tries - 1, 10), LONGEST_PAUSE)
    return timezone.now() + pause


def failed(row: Tried, why: str) -> None:
    """Keep that a try failed; what else is in the row stays as it is."""
    row.trouble = why[:MOST_TROUBLE]
    row.tries = min(row.tries + 1, 1000)
    row.again_at = next_try(row.tries)
    type(row)._default_manager.filter(pk=row.pk).update(
        trouble=row.trouble, tries=row.tries, again_at=row.again_at
    )


def succeeded(row: Tried) -> None:
    """Forget what earlier tries came to."""
    if row.tries:
        row.trouble, row.tries, row.again_at = "", 0, None
        type(row)._default_manager.filter(pk=row.pk).update(trouble="", tries=0, again_at=None)
