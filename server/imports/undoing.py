"""An import taken back whole: what it made is removed as any test is, and can be had back as long."""

from __future__ import annotations

from contextlib import suppress
from uuid import UUID

from django.contrib.auth.models import User
from django.core.exceptions import ObjectDoesNotExist
from django.db import transaction

from server.imports.models import Brought
from server.kit.models import Route
from server.logbook.changes import touch
from server.logbook.models import RangeTest, Stream
from server.wire.owned import remove


def undo(owner: User, brought_id: UUID) -> int:
    """Take an import back: its tests and routes are removed, the streams that it added are gone.

    Returns
    -------
    how many things were removed; 0 when it was undone before

    Raises
    ------
    ObjectDoesNotExist
        When there is no such import.
    """
    with transaction.atomic():
        brought = Brought.objects.select_for_update().get(pk=brought_id, owner=owner)
        if not brought.alive:
            return 0
        gone = 0
        for model, ids in ((RangeTest, brought.tests), (Route, brought.routes)):
            for each in ids:
                # What its rider removed already stays removed.
                with suppress(ObjectDoesNotExist):
                    remove(model, owner, UUID(each))
                    gone += 1
        for stream in Stream.objects.filter(
            pk__in=brought.streams, test__owner=owner
        ).select_related("test"):
            test = RangeTest.objects.select_for_update().get(pk=stream.test_id)
            stream.delete()
            touch(test)
            gone += 1
        remove(Brought, owner, brought.pk)
        return gone
