"""What was removed can be had back for some weeks; then it goes. So does an account whose rider has left it."""

from __future__ import annotations

import logging
import time
from datetime import timedelta
from typing import Any

from django.contrib.auth.models import User
from django.core.management import call_command
from django.utils import timezone

from server.accounts.services import delete_due
from server.imports.models import Brought, KeptMapping
from server.kit.models import Pack, Rider, Route, Vehicle
from server.logbook.models import RangeTest
from server.plans.models import Claim, Followed, KeptTrip, Plan
from server.wire.owned import purge

logger = logging.getLogger(__name__)

KINDS = (Vehicle, Pack, Rider, Route, RangeTest, Plan, KeptTrip, Claim, Brought, KeptMapping)
#: An answer to a ride under way is kept for as long as one may be asked again.
FOLLOWED_FOR = timedelta(days=2)
#: How often a running server tidies up [s].
TIDY_EVERY_S = 3600.0

_tidied_at: list[float] = []


def purge_all() -> int:
    """Delete for good what was removed long ago, of every kind; says how many rows went."""
    return sum(purge(kind) for kind in KINDS)


def purge_own(owner: User) -> int:
    """Delete for good all that an account has removed; says how many rows went."""
    return sum(int(kind.objects.removed_by(owner).delete()[0]) for kind in KINDS)


def count_removed(owner: User) -> int:
    """How much an account has removed and can still have back."""
    return sum(kind.objects.removed_by(owner).count() for kind in KINDS)


def tidy(sender: Any = None, **more: Any) -> None:
    """Let go what is over, once an hour: a receiver of the worker's signal."""
    now = time.monotonic()
    if _tidied_at and now - _tidied_at[0] < TIDY_EVERY_S:
        return
    _tidied_at[:] = [now]
    rows, accounts = purge_all(), delete_due()
    call_command("clearsessions", verbosity=0)
    Followed.objects.filter(made_at__lt=timezone.now() - FOLLOWED_FOR).delete()
    if rows or accounts:
        logger.info("%d rows and %d accounts are gone for good", rows, accounts)
