"""Tests that come in whole: a bundle that was uploaded, or a ride that its rider remembers."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.core.files.uploadedfile import TemporaryUploadedFile, UploadedFile
from django.db import transaction

from limpet.evidence.model import RangeTest as CoreTest
from limpet.files.archive import files_of_zip, is_read, refuse_large
from limpet.files.photos import is_photo
from server.logbook import streams
from server.logbook.intake import Beside, Intake, intake_of, taken_in, taken_in_zip
from server.logbook.models import Entry, Photo, RangeTest
from server.logbook.named_kit import named_in
from server.logbook.quotas import check_room
from server.logbook.rows import entry_values, sheet_columns
from server.logbook.signals import evidence_changed
from server.wire.owned import create_once
from server.wire.room import check_disk


def import_uploads(
    owner: User, test_id: UUID, files: Sequence[UploadedFile], beside: Beside | None = None
) -> RangeTest:
    """Store a bundle that was uploaded: one zip, or its files. A repeat changes nothing.

    Raises
    ------
    BundleError
        With every fault; nothing is stored.
    """
    # Sparing the reading only: what decides is the constraint, in `store_intake`.
    stored = RangeTest.objects.owned_by(owner).filter(pk=test_id).first()
    if stored is not None:
        return stored
    make = beside.make if beside is not None else None
    first = files[0]
    if len(files) == 1 and (first.name or "").lower().endswith(".zip"):
        if isinstance(first, TemporaryUploadedFile):
            path, name = Path(first.temporary_file_path()), first.name or "bundle.zip"
            return store_intake(owner, test_id, taken_in_zip(path, name, make), beside)
        members = files_of_zip(first.read(), first.name or "bundle.zip")
        return store_intake(owner, test_id, taken_in(members, make), beside)
    named = {(file.name or "").rsplit("/", 1)[-1]: file for file in files}
    refuse_large({name: file.size or 0 for name, file in named.items()})
    # A browser tells a file's own name, not its folder: a picture is one of the bundle's.
    named = {
        f"photos/{name}" if is_photo(f"photos/{name}") else name: f for name, f in named.items()
    }
    read = {name: f.read() if is_read(name) else b"" for name, f in named.items()}
    return store_intake(owner, test_id, taken_in(read, make), beside)


def store_test(
    owner: User, test_id: UUID, evidence: CoreTest, beside: Beside | None = None
) -> RangeTest:
    """Store a whole test that the core has accepted."""
    return store_intake(
        owner, test_id, intake_of(evidence, beside.make if beside is not None else None), beside
    )


def store_intake(owner: User, test_id: UUID, intake: Intake, beside: Beside | None) -> RangeTest:
    """Store what was read of a bundle. The constraint decides between two clients at once."""
    sheet = intake.sheet
    values = {
        "state": RangeTest.State.ENDED,
        "extra": intake.extra,
        "notices": intake.notices,
        "route_gpx": intake.route_gpx,
        **named_in(owner, sheet),
        **sheet_columns(sheet),
    }
    check_disk()
    check_room(
        owner,
        tests=1,
        entries=len(intake.entries),
        sample_bytes=sum(len(chunk["data"]) for part in intake.streams for chunk in part.chunks),
        photo_bytes=sum(len(data) for data in intake.photos.values()),
    )
    with transaction.atomic():
        test, created = create_once(RangeTest, owner, test_id, values)
        if not created:
            return test
        for part in intake.streams:
            streams.store_whole(test, part)
        Entry.objects.bulk_create(
            Entry(id=uuid4(), test=test, position=k, extra=dict(entry.extra), **entry_values(entry))
            for k, entry in enumerate(intake.entries)
        )
        Photo.objects.bulk_create(
            Photo(test=test, name=name, data=data, bytes=len(data))
            for name, data in intake.photos.items()
        )
        if beside is not None and intake.beside is not None:
            beside.keep(test, intake.beside)
        else:
            transaction.on_commit(lambda: evidence_changed.send(RangeTest))
    return test
