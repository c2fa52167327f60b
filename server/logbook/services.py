"""What can be done to a logbook, each in one transaction: import, ride, end. Entries have a file of their own."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime
from pathlib import Path
from tempfile import TemporaryFile
from typing import IO, Any, cast
from uuid import UUID, uuid4
from zipfile import ZIP_DEFLATED, ZipFile

from django.contrib.auth.models import User
from django.core.files.uploadedfile import TemporaryUploadedFile, UploadedFile
from django.db import transaction

from limpet.evidence.checks import refused_readings
from limpet.evidence.columns import ENTRY_COLUMNS
from limpet.evidence.model import (
    Ending,
    Instruments,
    LapInstrument,
    PackUse,
    Propulsion,
    Protocol,
    Purpose,
    RiderSpec,
    Start,
    TestSheet,
)
from limpet.evidence.model import (
    RangeTest as CoreTest,
)
from limpet.evidence.remembered import remembered
from limpet.files import write_zip
from limpet.files.archive import files_of_zip, is_read, refuse_large
from limpet.files.photos import is_photo
from limpet.files.write import bundle_files
from server.kit.models import Pack, Rider, Vehicle
from server.kit.services import pack_spec, rider_spec, vehicle_spec
from server.logbook import sheets, streams
from server.logbook.changes import locked, touch
from server.logbook.intake import Beside, Intake, intake_of, taken_in, taken_in_zip
from server.logbook.models import Entry, Photo, RangeTest
from server.logbook.named_kit import named_in
from server.logbook.quotas import check_room
from server.logbook.rows import (
    core_test,
    entry_values,
    sheet_columns,
)
from server.logbook.signals import evidence_changed, ride_ended
from server.wire.owned import create_once
from server.wire.problems import ConflictError, FieldError
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
    # Sparing the reading only: what decides is the constraint, in `_stored`.
    stored = RangeTest.objects.owned_by(owner).filter(pk=test_id).first()
    if stored is not None:
        return stored
    make = beside.make if beside is not None else None
    first = files[0]
    if len(files) == 1 and (first.name or "").lower().endswith(".zip"):
        if isinstance(first, TemporaryUploadedFile):
            path, name = Path(first.temporary_file_path()), first.name or "bundle.zip"
            return _stored(owner, test_id, taken_in_zip(path, name, make), beside)
        members = files_of_zip(first.read(), first.name or "bundle.zip")
        return _stored(owner, test_id, taken_in(members, make), beside)
    named = {(file.name or "").rsplit("/", 1)[-1]: file for file in files}
    refuse_large({name: file.size or 0 for name, file in named.items()})
    # A browser tells a file's own name, not its folder: a picture is one of the bundle's.
    named = {
        f"photos/{name}" if is_photo(f"photos/{name}") else name: f for name, f in named.items()
    }
    read = {name: f.read() if is_read(name) else b"" for name, f in named.items()}
    return _stored(owner, test_id, taken_in(read, make), beside)


def store_test(
    owner: User, test_id: UUID, evidence: CoreTest, beside: Beside | None = None
) -> RangeTest:
    """Store a whole test that the core has accepted."""
    return _stored(
        owner, test_id, intake_of(evidence, beside.make if beside is not None else None), beside
    )


def _stored(owner: User, test_id: UUID, intake: Intake, beside: Beside | None) -> RangeTest:
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
        sample_bytes=sum(len(chunk["data"]) for chunk in intake.chunks),
        photo_bytes=sum(len(data) for data in intake.photos.values()),
    )
    with transaction.atomic():
        test, created = create_once(RangeTest, owner, test_id, values)
        if not created:
            return test
        if intake.chunks:
            streams.store_whole(test, intake.chunks)
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


def export_zip(test: RangeTest) -> bytes:
    """The test as a zipped bundle."""
    return write_zip(core_test(test, photos=True))


def export_many(owner: User, test_ids: Sequence[UUID]) -> IO[bytes]:
    """Several tests in one archive, a bundle's folder each; they are written one after the other.

    Raises
    ------
    DoesNotExist
        When one of them is not there.
    """
    wanted = set(test_ids)
    tests = RangeTest.objects.owned_by(owner).filter(pk__in=list(wanted)).newest_first()
    if tests.count() != len(wanted):
        raise RangeTest.DoesNotExist
    found: IO[bytes] = TemporaryFile()  # noqa: SIM115 - whoever sends it closes it
    with ZipFile(found, "w", ZIP_DEFLATED) as archive:
        for number, test_id in enumerate(tests.values_list("pk", flat=True), start=1):
            test = RangeTest.objects.owned_by(owner).get(pk=test_id)
            folder = f"{number:02d}-{slug_of(test.title)}"
            for name, data in bundle_files(core_test(test, photos=True)).items():
                archive.writestr(f"{folder}/{name}", data)
    found.seek(0)
    return found


def slug_of(title: str) -> str:
    """A title as a file's name."""
    return re.sub(r"[^a-z0-9]+", "-", title.lower()).strip("-")[:60] or "test"


def start_ride(
    owner: User,
    test_id: UUID,
    *,
    title: str,
    purpose: str | None,
    started_at: datetime,
    vehicle_id: UUID,
    pack_id: UUID,
    rider_id: UUID | None,
    reserve: float | None,
    lap_length_m: float | None,
    target_speed_mps: float | None = None,
    gear_kg: float | None = None,
    propulsion: Propulsion | None = None,
    charge: str | None = None,
    packs_used: int | None = None,
    packs_use: PackUse | None = None,
) -> RangeTest:
    """Begin a test that nobody planned. Sent again, it changes nothing."""
    return begin_ride(
        owner,
        test_id,
        title=title,
        purpose=cast(Purpose | None, purpose),
        started_at=started_at,
        vehicle_id=vehicle_id,
        pack_id=pack_id,
        rider_id=rider_id,
        protocol=Protocol(
            reserve=reserve, target_speed_mps=target_speed_mps, propulsion=propulsion
        ),
        start=start_of(charge),
        gear_kg=gear_kg,
        packs_used=packs_used or 1,
        packs_use=packs_use,
        instruments=Instruments(lap=LapInstrument(length_m=lap_length_m)) if lap_length_m else None,
    )


def start_of(charge: str | None) -> Start | None:
    """What a rider says of the charge before the first metre; None is not known."""
    if charge is None:
        return None
    return Start(full=charge == "just_charged", just_charged=charge == "just_charged")


def ridden_kit(
    owner: User, vehicle_id: UUID | str, pack_id: UUID | str, rider_id: UUID | str | None
) -> tuple[Vehicle, Pack, Rider | None]:
    """What a ride is ridden with.

    Raises
    ------
    FieldError
        With what is not in the account's kit.
    """
    vehicle = Vehicle.objects.owned_by(owner).filter(pk=vehicle_id).first()
    pack = Pack.objects.owned_by(owner).filter(pk=pack_id).first()
    rider = Rider.objects.owned_by(owner).filter(pk=rider_id).first() if rider_id else None
    missing = {}
    if vehicle is None:
        missing["vehicle_id"] = "is not in your kit; choose another"
    if pack is None:
        missing["pack_id"] = "is not in your kit; choose another"
    if rider_id is not None and rider is None:
        missing["rider_id"] = "is not in your kit; choose another"
    if vehicle is None or pack is None or missing:
        raise FieldError(missing)
    return vehicle, pack, rider


def remembered_test(owner: User, asked: dict[str, Any]) -> CoreTest:
    """A ride that was ridden already, out of what its rider remembers.

    Raises
    ------
    FieldError
        With every fault, rows by `entries.row.field`.
    """
    vehicle, pack, rider = ridden_kit(
        owner, asked["vehicle_id"], asked["pack_id"], asked["rider_id"]
    )
    lap_m = asked["lap_length_m"]
    rows = [
        {name: value for name, value in row.items() if value is not None and value != ""}
        for row in asked["entries"]
    ]
    entries, faults = remembered(rows, lap_m)
    spec = pack_spec(pack)
    for index, row in enumerate(rows):
        odd = refused_readings(ENTRY_COLUMNS, row, spec)
        faults = {**{f"{index}.{name}": text for name, text in odd.items()}, **faults}
    if faults:
        raise FieldError({f"entries.{name}": text for name, text in faults.items()})
    started = asked["started_at"]
    sheet = TestSheet(
        title=asked["title"],
        purpose=asked["purpose"],
        started_at=started,
        vehicle=vehicle_spec(vehicle),
        pack=spec,
        rider=rider_spec(rider) if rider else None,
        start=Start(full=asked["full"]) if asked["full"] is not None else None,
        instruments=Instruments(lap=LapInstrument(length_m=lap_m)) if lap_m else None,
        ending=Ending(reason=asked["reason"]) if asked["reason"] else None,
    )
    return CoreTest(sheet=sheet, entries=entries)


def begin_ride(
    owner: User,
    test_id: UUID,
    *,
    title: str,
    purpose: str | None,
    started_at: datetime,
    vehicle_id: UUID | str,
    pack_id: UUID | str,
    rider_id: UUID | str | None,
    packs_used: int = 1,
    gear_kg: float | None = None,
    **beside: Any,
) -> RangeTest:
    """Begin a test that is logged by hand. Sent again, it changes nothing.

    Parameters
    ----------
    gear_kg : carried this time beside the rider; what the rider usually carries when None
    beside : further parts of the sheet (protocol, conditions, tyres, instruments)
    """
    # A repeat is answered before the kit is looked for, which may be gone by now.
    stored = RangeTest.objects.owned_by(owner).filter(pk=test_id).first()
    if stored is not None:
        return stored
    check_disk()
    check_room(owner, tests=1)
    vehicle, pack, rider = ridden_kit(owner, vehicle_id, pack_id, rider_id)
    load = rider_spec(rider) if rider else None
    if gear_kg is not None:
        load = replace(load or RiderSpec(), gear_kg=gear_kg)
    sheet = TestSheet(
        title=title,
        purpose=cast(Purpose | None, purpose),
        started_at=started_at,
        vehicle=vehicle_spec(vehicle),
        pack=pack_spec(pack),
        packs_used=packs_used,
        rider=load,
        **beside,
    )
    test, _ = create_once(
        RangeTest,
        owner,
        test_id,
        {
            "state": RangeTest.State.RIDING,
            "vehicle": vehicle,
            "pack": pack,
            "rider": rider,
            **sheet_columns(sheet),
        },
    )
    return test


def end_ride(owner: User, test_id: UUID, reason: str, note: str) -> RangeTest:
    """Say why the ride stopped; from here the test has a result. Sent again, it changes nothing."""
    with transaction.atomic():
        test = locked(owner, test_id)
        if not test.entries.standing().exists() and not test.streams.filter(rows__gt=0).exists():
            raise ConflictError("Nothing is noted yet: add an entry before you end the ride.")
        changed = sheets.change(test, owner, {"ending": {"reason": reason, "note": note}})
        if test.state == RangeTest.State.ENDED and not changed:
            return test
        test.state = RangeTest.State.ENDED
        test.save()
        touch(test)
        ride_ended.send(RangeTest, test=test)
    return test


def resume_ride(owner: User, test_id: UUID) -> RangeTest:
    """Take an ended ride up again; how it ends is said anew. Sent again, it changes nothing."""
    with transaction.atomic():
        test = locked(owner, test_id)
        if test.state == RangeTest.State.RIDING:
            return test
        sheets.change(test, owner, {"ending": {"reason": None, "note": None}})
        test.state = RangeTest.State.RIDING
        test.save()
        touch(test)
    return test
