"""How often something may be tried, counted in the database: all server processes count together."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import timedelta
from hashlib import sha256

from django.conf import settings
from django.db import IntegrityError, transaction
from django.db.models import F
from django.http import HttpRequest
from django.utils import timezone
from ninja.throttling import BaseThrottle

from server.accounts.models import RateCount

#: Counts that are older than any rate's time go, so many at once.
KEPT, MOST_PURGED = timedelta(days=2), 500


@dataclass(frozen=True)
class Rate:
    """So many times within `per_s` seconds, for each of whoever is counted."""

    name: str
    most: int
    per_s: float

    def taken(self, who: str) -> int:
        """Count one more; how many that makes in this stretch of time."""
        key, now = self.key(who), timezone.now()
        within = RateCount.objects.filter(key=key, since__gt=now - timedelta(seconds=self.per_s))
        if within.update(count=F("count") + 1) == 0:
            self._begun(key)
        return RateCount.objects.filter(key=key).values_list("count", flat=True).first() or 1

    def reached(self, who: str) -> bool:
        """Whether no more may be tried now; counts nothing."""
        since = timezone.now() - timedelta(seconds=self.per_s)
        return RateCount.objects.filter(
            key=self.key(who), since__gt=since, count__gte=self.most
        ).exists()

    def _begun(self, key: str) -> None:
        now = timezone.now()
        old = RateCount.objects.filter(since__lt=now - KEPT).values_list("key", flat=True)
        RateCount.objects.filter(key__in=list(old[:MOST_PURGED])).delete()
        if RateCount.objects.filter(key=key).update(since=now, count=1) == 0:
            try:
                with transaction.atomic():
                    RateCount.objects.create(key=key, since=now, count=1)
            except IntegrityError:
                # Another request began it at the same moment.
                RateCount.objects.filter(key=key).update(count=F("count") + 1)

    def key(self, who: str) -> str:
        """Under what it is counted: a digest, that a list of names is nowhere."""
        return sha256(f"{self.name}\0{who}".encode()).hexdigest()


#: Who a request is counted for; None is counted for nobody.
Who = Callable[[HttpRequest], str | None]


class Throttle(BaseThrottle):
    """Holds an operation of the API to a rate, for each of whoever asks."""

    def __init__(self, rate: Rate, who: Who) -> None:
        """A throttle of a rate, by an address of the network, an account or a device."""
        self._rate, self._who = rate, who

    def allow_request(self, request: HttpRequest) -> bool:
        """Whether it may be tried once more; counts it."""
        who = self._who(request)
        return who is None or self._rate.taken(who) <= self._rate.most

    def wait(self) -> float | None:
        """At most so long it takes until it may be tried again [s]."""
        return self._rate.per_s


def account_of(request: HttpRequest) -> str | None:
    """The account that asks; None where nobody is signed in."""
    return str(request.user.pk) if request.user.is_authenticated else None


def address_of(request: HttpRequest) -> str:
    """Where a request comes from: what a forwarded header says is believed of one's own proxies alone."""
    direct = str(request.META.get("REMOTE_ADDR", ""))
    said = str(request.META.get("HTTP_X_FORWARDED_FOR", ""))
    if settings.PROXIES == 0 or not said:
        return direct
    # Each proxy adds the address that it was called from at the end.
    passed = [part.strip() for part in said.split(",")]
    return passed[-min(settings.PROXIES, len(passed))] or direct
