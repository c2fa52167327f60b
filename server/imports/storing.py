"""What was looked at and accepted, stored: a ride of several instruments, old rides, a route. Whole or not at all."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import Any, Final
from uuid import UUID, uuid5

from django.contrib.auth.models import User
from django.db import transaction

from limpet.errors import BundleError, Fault
from limpet.evidence.model import Ending, RangeTest, Start, TestSheet
from limpet.files.sheet import sheet_adapter
from limpet.foreign.raw import read_raw
from limpet.foreign.records import RecordColumn, records_of
from limpet.foreign.stranger import sheet_for
from limpet.foreign.track import ReadTrack, as_gpx
from limpet.foreign.tracks import read_track
from server.imports.asked import cut_track, mapping_in, record_columns_in
from server.imports.held import SMALL_BYTES, Drop, told_stage
from server.imports.models import Brought
from server.imports.noting import keep_mapping, note, refuse_twice
from server.imports.opening import Part
from server.imports.reading import read_ride
from server.kit.services import import_route, pack_spec, rider_spec, vehicle_spec
from server.logbook import streams
from server.logbook.changes import locked, touch
from server.logbook.importing import store_intake
from server.logbook.intake import Intake, Make, StreamIntake, intake_of
from server.logbook.models import RangeTest as TestRow
from server.logbook.quotas import check_room
from server.logbook.ridden import ridden_kit
from server.logbook.rows import core_sheet
from server.results.services import beside_of
from server.wire.apart import apart
from server.wire.problems import ConflictError, FieldError
from server.wire.turns import by_turns

#: The space in which ids are made of an import's own.
SPACE: Final = UUID("5d8a6f0e-0c58-4b5e-9f0b-2f6d3f0f6a29")


def store(owner: User, drop: Drop, asked: Mapping[str, Any]) -> Brought:
    """Store what was accepted of a drop. A repeat under the same id changes nothing.

    Parameters
    ----------
    asked : `id` of the import, `title`, what was ridden, and `parts`: each with its `key`, `use`, mapping, offset, cut

    Raises
    ------
    BundleError
        When a part cannot be read as asked; nothing is stored then.
    ConflictError, FieldError
        When what is asked for cannot be.
    """
    brought_id = asked["id"]
    stored = Brought.objects.filter(owner=owner, pk=brought_id).first()
    if stored is not None:
        return stored
    wanted = [(drop.part(each["key"]), each) for each in asked["parts"] if each["use"] != "leave"]
    if not wanted:
        raise FieldError({"parts": "none is to be taken; choose at least one"})
    uses = {each["use"] for _, each in wanted}
    if "records" in uses:
        if len(wanted) > 1:
            raise FieldError({"parts": "a list of rides is taken alone; leave the others"})
        return _store_records(owner, drop, brought_id, asked, *wanted[0])
    if "route" in uses:
        if len(wanted) > 1:
            raise FieldError({"parts": "a route is taken alone; leave the others"})
        return _store_route(owner, drop, brought_id, asked, *wanted[0])
    return _store_ride(owner, drop, brought_id, asked, wanted)


def _sheet(owner: User, asked: Mapping[str, Any]) -> TestSheet:
    """What was ridden, out of the kit or in a few words."""
    title = asked.get("title") or "Ride"
    start = Start(full=asked["full"]) if asked.get("full") is not None else None
    ending = Ending(reason=asked["reason"]) if asked.get("reason") else None
    if asked.get("vehicle_id") and asked.get("pack_id"):
        vehicle, pack, rider = ridden_kit(
            owner, asked["vehicle_id"], asked["pack_id"], asked.get("rider_id")
        )
        return TestSheet(
            title=title,
            purpose=asked.get("purpose"),
            vehicle=vehicle_spec(vehicle),
            pack=pack_spec(pack),
            rider=rider_spec(rider) if rider else None,
            start=start,
            ending=ending,
        )
    sheet = sheet_for(title, kind=asked.get("kind") or "other", pack=asked.get("pack") or None)
    return replace(sheet, purpose=asked.get("purpose"), start=start, ending=ending)


def _store_ride(
    owner: User,
    drop: Drop,
    brought_id: UUID,
    asked: Mapping[str, Any],
    wanted: Sequence[tuple[Part, Mapping[str, Any]]],
) -> Brought:
    into: TestRow | None = None
    if asked.get("test_id"):
        into = TestRow.objects.owned_by(owner).get(pk=asked["test_id"])
        sheet = core_sheet(into)
    else:
        sheet = _sheet(owner, asked)
    document = sheet_adapter().dump_python(sheet, mode="json", exclude_none=True)
    specs = [
        {
            "file": str(drop.path(part)),
            "name": part.name,
            "form": part.form,
            "use": each["use"],
            "mapping": each.get("mapping"),
            "offset_s": float(each.get("offset_s") or 0.0),
            "cut": each.get("cut"),
            "span": each.get("span"),
        }
        for part, each in wanted
    ]
    for spec in specs:
        if spec["use"] == "log":
            # Faults of a mapping are told before a process is started.
            mapping_in(spec["mapping"] or {})
    beside = beside_of(owner) if into is None else None
    intake, readings = _read_ride(
        drop, specs, document, asked.get("zone"), beside.make if beside else None
    )
    refuse_twice(owner, readings.values(), asked)
    files = [_file_of(part, readings.get(part.name)) for part, _ in wanted]
    with transaction.atomic():
        if into is None:
            test_id = uuid5(SPACE, f"{brought_id}")
            test = store_intake(owner, test_id, intake, beside)
            made = {"tests": [str(test.pk)], "streams": []}
        else:
            made = {"tests": [], "streams": _add_streams(owner, into.pk, intake)}
        brought = note(owner, brought_id, sheet.title, files, made)
        if asked.get("keep_mappings", True):
            for spec in specs:
                if spec["use"] == "log":
                    keep_mapping(owner, mapping_in(spec["mapping"] or {}))
    return brought


@by_turns
def _read_ride(
    drop: Drop, specs: list[dict[str, Any]], document: dict[str, Any], zone: str | None, make: Make
) -> tuple[Intake, dict[str, str]]:
    """The ride read where it may take a while: here when it is small, else in a process of its own."""
    if sum(Path(spec["file"]).stat().st_size for spec in specs) <= SMALL_BYTES:
        return read_ride(specs, document, zone, make)
    return apart(read_ride, specs, document, zone, make, watch=partial(told_stage, drop.id))


def _add_streams(owner: User, test_id: UUID, intake: Intake) -> list[str]:
    """Put instruments' samples beside what a test has."""
    test = locked(owner, test_id)
    if test.streams.count() + len(intake.streams) > streams.MOST_STREAMS:
        raise ConflictError(f"A test takes samples of {streams.MOST_STREAMS} instruments at most.")
    size = sum(len(chunk["data"]) for part in intake.streams for chunk in part.chunks)
    check_room(owner, sample_bytes=size)
    added = []
    for part in intake.streams:
        offset = part.clock_offset_s
        added.append(
            str(
                streams.store_whole(
                    test, StreamIntake(part.instrument, offset, part.sign, part.chunks)
                ).pk
            )
        )
    touch(test)
    return added


def _store_records(
    owner: User,
    drop: Drop,
    brought_id: UUID,
    asked: Mapping[str, Any],
    part: Part,
    each: Mapping[str, Any],
) -> Brought:
    shared = _sheet(owner, {**asked, "title": "Ride"})
    columns = record_columns_in(each.get("columns") or {})
    skipped = {int(row) for row in each.get("skip") or []}
    tests = _record_tests(drop.data(part), part.name, columns, shared, skipped, asked.get("zone"))
    if not tests:
        raise BundleError(
            [Fault(part.name, 0, 0, "holds no row that is a ride; look at what each of them lacks")]
        )
    digest = hashlib.sha256(
        b"".join(repr((t.sheet.started_at, t.entries)).encode() for _, t in tests)
    ).hexdigest()
    refuse_twice(owner, [digest], asked)
    with transaction.atomic():
        made = []
        for row, test in tests:
            stored = store_intake(owner, uuid5(SPACE, f"{brought_id}:{row}"), intake_of(test), None)
            made.append(str(stored.pk))
        name = asked.get("title") or part.name
        return note(
            owner, brought_id, name, [_file_of(part, digest)], {"tests": made, "streams": []}
        )


def _record_tests(
    data: bytes,
    name: str,
    columns: Sequence[RecordColumn],
    shared: TestSheet,
    skipped: set[int],
    zone: str | None,
) -> list[tuple[int, RangeTest]]:
    records = records_of(read_raw(name, data), columns, shared, zone)
    return [(r.row, r.test) for r in records if r.test is not None and r.row + 1 not in skipped]


def _store_route(
    owner: User,
    drop: Drop,
    brought_id: UUID,
    asked: Mapping[str, Any],
    part: Part,
    each: Mapping[str, Any],
) -> Brought:
    track: ReadTrack = cut_track(read_track(part.name, drop.data(part), part.form), each.get("cut"))
    name = asked.get("title") or part.name.rsplit(".", 1)[0]
    with transaction.atomic():
        route_id = uuid5(SPACE, f"{brought_id}")
        route = import_route(owner, route_id, name[:100], part.name, as_gpx(track, name))
        return note(owner, brought_id, name, [_file_of(part, None)], {"routes": [str(route.pk)]})


def _file_of(part: Part, readings: str | None) -> dict[str, Any]:
    return {"name": part.name, "sha256": part.sha256, "readings": readings}
