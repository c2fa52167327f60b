"""What an account may keep, and how much of it is kept: refused with words before the disk is full.

What was removed and can still be had back counts, for it lies on the disk.
"""

from __future__ import annotations

from dataclasses import dataclass

from django.conf import settings
from django.contrib.auth.models import User
from django.db.models import Sum

from server.logbook.models import Entry, Photo, RangeTest, Stream
from server.wire.problems import FullError


@dataclass(frozen=True, slots=True)
class Quota:
    """How much of one thing an account keeps, and the most that it may."""

    name: str
    used: int
    most: int


def used_by(owner: User) -> list[Quota]:
    """What an account keeps of everything that has a limit."""
    return [Quota(name, _used(owner, name), most) for name, most in settings.QUOTAS.items()]


def check_room(owner: User, **more: int) -> None:
    """See that an account may keep this much more, by the names of `settings.QUOTAS`.

    Raises
    ------
    FullError
        With what there is too much of, and what to do.
    """
    for name, wanted in more.items():
        most = settings.QUOTAS[name]
        if wanted and _used(owner, name) + wanted > most:
            raise FullError(
                f"Your account holds {_said(name, most)} at most, and this would be more, so nothing was stored. "
                "Remove what you no longer need and empty it under Account, or ask whoever runs this Limpet."
            )


def _used(owner: User, name: str) -> int:
    if name == "tests":
        return RangeTest.objects.filter(owner=owner).count()
    if name == "entries":
        return Entry.objects.filter(test__owner=owner).count()
    kept = Stream if name == "sample_bytes" else Photo
    return kept.objects.filter(test__owner=owner).aggregate(sum=Sum("bytes"))["sum"] or 0


def _said(name: str, most: int) -> str:
    if name == "sample_bytes":
        return f"{most / 2**20:,.0f} MiB of samples"
    if name == "photo_bytes":
        return f"{most / 2**20:,.0f} MiB of pictures"
    return f"{most:,} {name}"
