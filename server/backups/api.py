"""When the last good backup was made."""

from __future__ import annotations

from datetime import datetime

from django.http import HttpRequest
from ninja import Router

from server.backups import services
from server.wire.schema import Schema

router = Router(tags=["backups"])


class LastBackupOut(Schema):
    """The newest backup that came back whole; None where there is none."""

    made_at: datetime | None


@router.get("/last", operation_id="getLastBackup", response=LastBackupOut)
def get_last(request: HttpRequest) -> LastBackupOut:
    """When all of this Limpet was last backed up, tried and whole."""
    found = services.last()
    return LastBackupOut(made_at=None if found is None else found.made_at)
