"""Entries of a test and the pictures that they show: noted, changed, taken out and brought back, each once."""

from __future__ import annotations

from base64 import b64decode
from binascii import Error as BinasciiError
from typing import Any, NamedTuple
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction

from limpet.evidence.checks import questions, refused_readings
from limpet.evidence.columns import ENTRY_COLUMNS
from limpet.evidence.model import Entry as CoreEntry
from limpet.files.photos import MOST_PHOTOS, plain_jpeg
from limpet.notices import Notice
from server.logbook.changes import locked, touch
from server.logbook.models import Entry, EntryRevision, Photo, RangeTest
from server.logbook.quotas import check_room
from server.logbook.rows import core_entry, core_sheet, entry_values
from server.wire.problems import ConflictError, FieldError
from server.wire.room import check_disk


class Recorded(NamedTuple):
    """An entry that was stored, whether it is new, what may be a slip, and the evidence that it made."""

    entry: Entry
    created: bool
    questions: list[Notice]
    revision: int


def record_entry(
    owner: User, test_id: UUID, entry_id: UUID, values: dict[str, Any], read_at: int | None = None
) -> Recorded:
    """Store one entry. A repeat changes nothing, whatever came after the first time.

    An entry that is there already with other values is changed, and what it said before is kept. One that
    was taken out stays out: `restore_entry` brings it back.

    Parameters
    ----------
    read_at : how many changes it had seen when it was read to be changed; None for one that is noted

    Raises
    ------
    ConflictError
        When somebody else changed it since, or took it out; nothing is changed.
    """
    check_disk()
    with transaction.atomic():
        test = locked(owner, test_id)
        stored = Entry.objects.filter(pk=entry_id).select_related("test").first()
        if stored is not None and stored.test_id != test.pk:
            raise ConflictError("That entry belongs to another test. Add it once more.")
        _check_entry(test, values)
        created = stored is None
        if stored is None:
            check_room(owner, entries=1)
            position = test.entries.count()
            stored = Entry.objects.create(id=entry_id, test=test, position=position, **values)
            touch(test)
        elif (stored.removed or entry_values(stored) != values) and not (
            read_at is None and _said_before(stored, values)
        ):
            _change(stored, values, read_at)
            touch(test)
        asked = _questions(test, stored) if not stored.removed else []
    return Recorded(stored, created, asked, test.revision)


def _said_before(stored: Entry, values: dict[str, Any]) -> bool:
    """Whether an entry said just this once: then it was noted already, and its answer was lost."""
    said = entry_values(stored)
    return values == said or any(
        {name: revision.values.get(name) for name in said} == values
        for revision in stored.revisions.all()
    )


def _change(stored: Entry, values: dict[str, Any], read_at: int | None) -> None:
    if stored.removed:
        raise ConflictError(
            "This entry was removed on another device. Bring it back there first, or note it again."
        )
    if read_at is not None and stored.revisions.count() != read_at:
        raise ConflictError(
            "This entry was changed on another device. Look at both versions and keep one."
        )
    EntryRevision.objects.create(entry=stored, values=_kept(stored))
    for name, value in values.items():
        setattr(stored, name, value)
    stored.save()


def keep_photo(owner: User, test_id: UUID, photo_id: UUID, jpeg: str) -> Photo:
    """Keep a picture of a display, without what its camera said beside it. A repeat changes nothing.

    Parameters
    ----------
    jpeg : base64

    Raises
    ------
    FieldError
        When it is no picture, or too large.
    ConflictError
        When the id is another test's, or the test has as many as it may have.
    """
    try:
        data = plain_jpeg(b64decode(jpeg, validate=True))
    except (ValueError, BinasciiError) as cause:
        said = str(cause) if not isinstance(cause, BinasciiError) else "is not base64"
        raise FieldError({"jpeg": said}) from cause
    check_disk()
    with transaction.atomic():
        test = locked(owner, test_id)
        stored = Photo.objects.filter(pk=photo_id).first()
        if stored is not None:
            if stored.test_id == test.pk:
                return stored
            raise ConflictError("That picture belongs to another test. Take it once more.")
        if test.photos.count() >= MOST_PHOTOS:
            raise ConflictError(f"A test holds {MOST_PHOTOS} pictures at most.")
        check_room(owner, photo_bytes=len(data))
        return Photo.objects.create(
            id=photo_id, test=test, name=f"photos/{photo_id}.jpg", data=data, bytes=len(data)
        )


def remove_entry(owner: User, test_id: UUID, entry_id: UUID, act: UUID | None = None) -> int:
    """Take an entry out of the test; what it said is kept in its history. The revision of what is left.

    Parameters
    ----------
    act : of this removal: sent again under it, it changes nothing, though the entry was brought back since
    """
    return _stand(owner, test_id, entry_id, act, removed=True)[0].revision


def restore_entry(owner: User, test_id: UUID, entry_id: UUID, act: UUID) -> Recorded:
    """Bring an entry back that was taken out, with all that it said.

    Parameters
    ----------
    act : of this; sent again under it, it changes nothing, though the entry was taken out again since
    """
    test, entry = _stand(owner, test_id, entry_id, act, removed=False)
    asked = _questions(test, entry) if not entry.removed else []
    return Recorded(entry, False, asked, test.revision)


def _stand(
    owner: User, test_id: UUID, entry_id: UUID, act: UUID | None, *, removed: bool
) -> tuple[RangeTest, Entry]:
    """Have an entry stand or not, unless this act had it so before."""
    with transaction.atomic():
        test = locked(owner, test_id)
        entry: Entry = test.entries.get(pk=entry_id)
        done = act is not None and entry.revisions.filter(act=act).exists()
        if entry.removed != removed and not done:
            EntryRevision.objects.create(entry=entry, values=_kept(entry), act=act)
            entry.removed = removed
            entry.save(update_fields=["removed"])
            touch(test)
    return test, entry


def _kept(entry: Entry) -> dict[str, Any]:
    return {**entry_values(entry), "removed": entry.removed}


def _check_entry(test: RangeTest, values: dict[str, Any]) -> None:
    """What a bundle would be refused for is refused here, beside its field."""
    faults = refused_readings(ENTRY_COLUMNS, values, core_sheet(test).pack)
    if faults:
        raise FieldError(faults)


def _questions(test: RangeTest, entry: Entry) -> list[Notice]:
    sheet = core_sheet(test)
    earlier = test.entries.standing().filter(time_s__lte=entry.time_s).exclude(pk=entry.pk)
    previous: Entry | None = earlier.last()
    before: CoreEntry | None = core_entry(previous) if previous is not None else None
    packs = sheet.packs_used or 1
    return questions(sheet.pack, packs, core_entry(entry), before)
