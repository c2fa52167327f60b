"""Tests by their names: what the palette finds, and what a ride is begun from."""

from __future__ import annotations

from django.contrib.auth.models import AnonymousUser, User

from server.logbook.models import RangeTest

#: Rides under way that are named, tests that the palette finds.
MOST_UNDER_WAY, MOST_FOUND = 10, 12

Account = User | AnonymousUser


def named(user: Account, words: str) -> list[RangeTest]:
    """Tests whose title or vehicle holds some words."""
    return list(RangeTest.objects.owned_by(user).naming(words).newest_first()[:MOST_FOUND])


def now(user: Account) -> tuple[list[RangeTest], RangeTest | None, int]:
    """Rides under way, the newest test, and how many tests there are."""
    owned = RangeTest.objects.owned_by(user)
    under_way = owned.filter(state=RangeTest.State.RIDING).newest_first()[:MOST_UNDER_WAY]
    return list(under_way), owned.newest_first().first(), owned.count()
