"""Lists of tests: some rows at a time, found again by what the rows before ended with."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from django.contrib.auth.models import AnonymousUser, User
from django.db.models import Count, F, Max, Q

from limpet.version import core_digest
from server.logbook.models import RangeTest
from server.results.queries import with_rows
from server.wire.problems import FieldError

#: Rows of one page of a list.
MOST_ROWS = 100
#: Vehicles to choose from.
MOST_VEHICLES = 200

Account = User | AnonymousUser


@dataclass(frozen=True, slots=True, kw_only=True)
class Page:
    """Some tests, what gives the next ones, and how many fit the filters."""

    tests: list[RangeTest]
    next: str | None
    count: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Summary:
    """All of an account's tests together."""

    tests: int
    measured: int
    waiting: int
    reach_m: float
    vehicles: list[str]


def page_of(
    user: Account, *, after: str, most: int, vehicle: str = "", purpose: str = "", words: str = ""
) -> Page:
    """A page of an account's tests, newest first, in two queries however many there are.

    Raises
    ------
    FieldError
        When `after` is nothing that a page before gave.
    """
    owned = RangeTest.objects.owned_by(user)
    if vehicle:
        owned = owned.filter(vehicle_name=vehicle)
    if purpose:
        owned = owned.filter(purpose=purpose)
    owned = owned.naming(words)
    rows = with_rows(owned)
    if after:
        moment, test_id = _place(after)
        rows = rows.filter(Q(sorted_at__lt=moment) | Q(sorted_at=moment, pk__lt=test_id))
    found = list(rows[: most + 1])
    last = found[most - 1] if len(found) > most else None
    return Page(
        tests=found[:most],
        next=f"{last.sorted_at.isoformat()}_{last.pk}" if last is not None else None,
        count=owned.count(),
    )


def _place(after: str) -> tuple[datetime, UUID]:
    moment, _, test_id = after.rpartition("_")
    try:
        found = datetime.fromisoformat(moment)
        if found.tzinfo is None:
            raise ValueError(moment)
        return found, UUID(test_id)
    except ValueError as cause:
        raise FieldError({"after": "is not what a page of the list gave as next"}) from cause


def summary(user: Account) -> Summary:
    """What the logbook's first line and its scale need, in two queries."""
    owned = RangeTest.objects.owned_by(user)
    fresh = Q(kept_result__revision=F("revision"), kept_result__core=core_digest())
    found = owned.aggregate(
        tests=Count("pk"),
        measured=Count("pk", filter=Q(kept_result__measured=True)),
        fresh=Count("pk", filter=fresh),
        reach=Max("kept_result__reach_m"),
    )
    names = owned.exclude(vehicle_name="").values_list("vehicle_name", flat=True).distinct()
    return Summary(
        tests=found["tests"],
        measured=found["measured"],
        waiting=found["tests"] - found["fresh"],
        reach_m=found["reach"] or 0.0,
        vehicles=sorted(names.order_by("vehicle_name")[:MOST_VEHICLES]),
    )
