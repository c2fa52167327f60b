"""What can be done to a logbook, each in one transaction: import, ride, note, change, end, remove."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime
from typing import Any
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.db import transaction

from limpet import cautions
from limpet.bundle import read_files, write_zip
from limpet.bundle.tables import ABSURD_CELL_V
from limpet.evidence.model import (
    Ending,
    Instruments,
    LapInstrument,
    Notice,
    Protocol,
    TestSheet,
)
from limpet.evidence.model import (
    Entry as CoreEntry,
)
from limpet.evidence.model import (
    RangeTest as CoreTest,
)
from limpet.result import analyse
from server.kit.models import Pack, Rider, Vehicle
from server.kit.services import pack_spec, rider_spec, vehicle_spec
from server.logbook import results
from server.logbook.evidence import (
    chunk_rows,
    core_entry,
    core_sheet,
    core_test,
    entry_values,
    sheet_columns,
)
from server.logbook.models import Entry, EntryRevision, RangeTest
from server.problems import ConflictError, FieldError


def import_files(owner: User, test_id: UUID, files: dict[str, bytes]) -> RangeTest:
    """Store a bundle's test and its result. Sent again under the same id, it changes nothing.

    Raises
    ------
    BundleError
        With every fault; nothing is stored.
    """
    stored = RangeTest.objects.owned_by(owner).filter(pk=test_id).first()
    if stored is not None:
        return stored
    return store_test(owner, test_id, read_files(files))


def store_test(owner: User, test_id: UUID, evidence: CoreTest) -> RangeTest:
    """Store a whole test that the core has accepted, and its result with it."""
    if RangeTest.objects.filter(pk=test_id).exists():
        raise ConflictError("That id is in use. Load the page again and import it once more.")
    result = analyse(evidence)
    sheet = evidence.sheet
    with transaction.atomic():
        test = RangeTest.objects.create(
            id=test_id,
            owner=owner,
            state=RangeTest.State.ENDED,
            extra=dict(evidence.extra),
            notices=[{"code": n.code, "message": n.message} for n in evidence.notices],
            route_gpx=evidence.route_gpx,
            vehicle=_by_name(Vehicle, owner, sheet.vehicle.name),
            pack=_by_name(Pack, owner, sheet.pack.name),
            rider=_by_name(Rider, owner, sheet.rider.name if sheet.rider else None),
            **sheet_columns(sheet),
        )
        if evidence.samples is not None:
            for chunk in chunk_rows(test, evidence.samples):
                chunk.save(force_insert=True)
        Entry.objects.bulk_create(
            Entry(id=uuid4(), test=test, position=k, extra=dict(entry.extra), **entry_values(entry))
            for k, entry in enumerate(evidence.entries)
        )
        results.store(test, evidence, result)
    return test


def export_zip(test: RangeTest) -> bytes:
    """The test as a zipped bundle."""
    return write_zip(core_test(test))


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
) -> RangeTest:
    """Begin a test that nobody planned. Sent again, it changes nothing."""
    return begin_ride(
        owner,
        test_id,
        title=title,
        purpose=purpose,
        started_at=started_at,
        vehicle_id=vehicle_id,
        pack_id=pack_id,
        rider_id=rider_id,
        protocol=Protocol(reserve=reserve) if reserve is not None else None,
        instruments=Instruments(lap=LapInstrument(length_m=lap_length_m)) if lap_length_m else None,
    )


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
    **beside: Any,
) -> RangeTest:
    """Begin a test that is logged by hand. Sent again, it changes nothing.

    Parameters
    ----------
    beside : further parts of the sheet (protocol, conditions, tyres, instruments)
    """
    stored = RangeTest.objects.owned_by(owner).filter(pk=test_id).first()
    if stored is not None:
        return stored
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
    sheet = TestSheet(
        title=title,
        purpose=purpose,
        started_at=started_at,
        vehicle=vehicle_spec(vehicle),
        pack=pack_spec(pack),
        packs_used=packs_used,
        rider=rider_spec(rider) if rider else None,
        **beside,
    )
    if RangeTest.objects.filter(pk=test_id).exists():
        raise ConflictError("That id is in use. Load the page again and start once more.")
    return RangeTest.objects.create(
        id=test_id,
        owner=owner,
        state=RangeTest.State.RIDING,
        vehicle=vehicle,
        pack=pack,
        rider=rider,
        **sheet_columns(sheet),
    )


def record_entry(
    owner: User, test_id: UUID, entry_id: UUID, values: dict[str, Any]
) -> tuple[Entry, bool, list[Notice]]:
    """Store one entry; says whether it is new, and what may be a slip. A repeat changes nothing.

    An entry that is there already with other values is changed, and what it said before is kept.
    """
    with transaction.atomic():
        test = RangeTest.objects.owned_by(owner).select_for_update().get(pk=test_id)
        stored = Entry.objects.filter(pk=entry_id).select_related("test").first()
        if stored is not None and stored.test_id != test.pk:
            raise ConflictError("That entry belongs to another test. Add it once more.")
        _check_entry(test, values)
        created = stored is None
        if stored is None:
            position = test.entries.count()
            stored = Entry.objects.create(id=entry_id, test=test, position=position, **values)
            _touch(test)
        elif stored.removed or entry_values(stored) != values:
            EntryRevision.objects.create(entry=stored, values=_kept(stored))
            for name, value in values.items():
                setattr(stored, name, value)
            stored.removed = False
            stored.save()
            _touch(test)
        questions = _questions(test, stored)
    return stored, created, questions


def remove_entry(owner: User, test_id: UUID, entry_id: UUID) -> None:
    """Take an entry out of the test; what it said is kept in its history."""
    with transaction.atomic():
        test = RangeTest.objects.owned_by(owner).select_for_update().get(pk=test_id)
        entry = test.entries.get(pk=entry_id)
        if entry.removed:
            return
        EntryRevision.objects.create(entry=entry, values=_kept(entry))
        entry.removed = True
        entry.save(update_fields=["removed"])
        _touch(test)


def end_ride(owner: User, test_id: UUID, reason: str, note: str) -> RangeTest:
    """Say why the ride stopped; from here the test has a result. Sent again, it changes nothing."""
    with transaction.atomic():
        test = RangeTest.objects.owned_by(owner).select_for_update().get(pk=test_id)
        if not test.entries.standing().exists() and not test.chunks.exists():
            raise ConflictError("Nothing is noted yet: add an entry before you end the ride.")
        ending = Ending(reason=reason, note=note)
        sheet = core_sheet(test)
        if test.state == RangeTest.State.ENDED and sheet.ending == ending:
            return test
        for name, value in sheet_columns(replace(sheet, ending=ending)).items():
            setattr(test, name, value)
        test.state = RangeTest.State.ENDED
        test.save()
        _touch(test)
    return test


def remove_test(owner: User, test_id: UUID) -> None:
    """Remove a test with all that hangs on it."""
    with transaction.atomic():
        RangeTest.objects.owned_by(owner).get(pk=test_id).delete()


def _touch(test: RangeTest) -> None:
    test.revision += 1
    test.save(update_fields=["revision"])


def _kept(entry: Entry) -> dict[str, Any]:
    return {**entry_values(entry), "removed": entry.removed}


def _check_entry(test: RangeTest, values: dict[str, Any]) -> None:
    """What a bundle would be refused for is refused here, beside its field."""
    absurd_v = ABSURD_CELL_V * core_sheet(test).pack.series
    faults = {
        name: f"is {values[name]:g} V; expected volts of this pack, not millivolts"
        for name in ("voltage_rest_v", "voltage_load_v")
        if values.get(name) is not None and values[name] > absurd_v
    }
    if faults:
        raise FieldError(faults)


def _questions(test: RangeTest, entry: Entry) -> list[Notice]:
    sheet = core_sheet(test)
    earlier = test.entries.standing().filter(time_s__lte=entry.time_s).exclude(pk=entry.pk)
    previous: Entry | None = earlier.last()
    before: CoreEntry | None = core_entry(previous) if previous is not None else None
    packs = sheet.packs_used or 1
    return cautions.entry_questions(sheet.pack, packs, core_entry(entry), before)


def _by_name(model: type[Any], owner: User, name: str | None) -> Any:
    return model.objects.owned_by(owner).filter(name=name).first() if name else None
