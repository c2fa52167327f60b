"""Changing what was recorded of a test: under its lock, with a new revision."""

from __future__ import annotations

from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction

from server.logbook.models import RangeTest
from server.logbook.signals import evidence_changed


def locked(owner: User, test_id: UUID, *columns: str) -> RangeTest:
    """A test of an account, locked until the transaction ends; with columns, no others are read.

    Raises
    ------
    DoesNotExist
        When the account has no such test.
    """
    found = RangeTest.objects.owned_by(owner).select_for_update()
    test: RangeTest = (found.only(*columns) if columns else found).get(pk=test_id)
    return test


def touch(test: RangeTest, *, call: bool = True) -> None:
    """Its evidence has changed: whatever was derived from it is stale.

    Parameters
    ----------
    call : whether results are looked after at once. An instrument that sends every second would have that
        done all the time; what it changes is found at the next look that is taken anyway.
    """
    test.revision += 1
    test.save(update_fields=["revision"])
    if call:
        transaction.on_commit(lambda: evidence_changed.send(RangeTest))
