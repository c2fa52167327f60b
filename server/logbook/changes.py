"""Changing what was recorded of a test: under its lock, with a new revision."""

from __future__ import annotations

from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction

from server.logbook.models import RangeTest
from server.logbook.signals import evidence_changed


def locked(owner: User, test_id: UUID) -> RangeTest:
    """A test of an account, locked until the transaction ends. DoesNotExist when there is none."""
    test: RangeTest = RangeTest.objects.owned_by(owner).select_for_update().get(pk=test_id)
    return test


def touch(test: RangeTest) -> None:
    """Its evidence has changed: whatever was derived from it is stale."""
    test.revision += 1
    test.save(update_fields=["revision"])
    transaction.on_commit(lambda: evidence_changed.send(RangeTest))
