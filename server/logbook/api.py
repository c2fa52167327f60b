"""The logbook over HTTP: what is recorded of tests."""

from __future__ import annotations

from hashlib import sha256
from typing import Annotated
from uuid import UUID

from django.http import FileResponse, HttpRequest, HttpResponse
from django.utils.cache import get_conditional_response
from ninja import Path, Query, Router, Status
from pydantic import Field

from limpet.bounds import MOST_NAME
from limpet.files.pasted import pasted
from server.logbook import entries, exporting, kept_kit, listing, rides, sheets, streams
from server.logbook.kept_kit import Shelf
from server.logbook.models import RangeTest
from server.logbook.schemas import (
    MOST_AT_ONCE,
    BatchIn,
    EndIn,
    EntryIn,
    ManyIn,
    NowOut,
    PastedIn,
    PastedOut,
    PhotoIn,
    PhotoOut,
    RevisionOut,
    RideIn,
    StoredEntry,
    StreamIn,
    StreamOut,
    TestFound,
    entry_of,
    found_of,
    stream_of,
)
from server.logbook.sheet_schemas import CarriedOut, CarryIn, CopyOut, SheetIn, copy_of, parts_in
from server.wire.files import as_file
from server.wire.owned import owner_of, remove, restore
from server.wire.problems import Problem
from server.wire.reader import reader_units
from server.wire.removal import removable
from server.wire.typed import Line

router = Router(tags=["logbook"])
#: Batches of one stream: a hundred days of one a minute, and more.
MOST_SEQUENCE = 1_000_000


@router.get("/find", operation_id="findTests", response=list[TestFound])
def find_tests(
    request: HttpRequest, words: Annotated[Line, Field(max_length=100)] = ""
) -> list[TestFound]:
    """Tests whose title or vehicle holds some words, newest first."""
    return [found_of(test) for test in listing.named(owner_of(request), words)]


@router.get("/now", operation_id="getNow", response=NowOut)
def get_now(request: HttpRequest) -> NowOut:
    """Rides under way, and the kit of the newest test."""
    under_way, newest, count = listing.now(owner_of(request))
    return NowOut(
        under_way=[found_of(test) for test in under_way],
        vehicle_name=newest.vehicle_name if newest else "",
        pack_name=newest.pack_name if newest else "",
        rider_name=newest.rider_name if newest else "",
        tests=count,
    )


@router.post("/pasted", operation_id="readPasted", response={200: PastedOut, 422: Problem})
def read_pasted(request: HttpRequest, payload: PastedIn) -> PastedOut:
    """A table out of a spreadsheet, its columns recognised; nothing is stored."""
    owner_of(request)
    return PastedOut.model_validate(pasted(payload.text))


@router.get(
    "/bundles.zip",
    operation_id="exportBundles",
    response={404: Problem, 409: Problem, 422: Problem},
    openapi_extra=as_file("application/zip"),
)
def export_bundles(
    request: HttpRequest,
    ids: Annotated[list[UUID], Query(min_length=1, max_length=MOST_AT_ONCE)],
) -> FileResponse:
    """Several tests in one archive, a folder each."""
    archive = exporting.export_many(owner_of(request), ids)
    return FileResponse(archive, as_attachment=True, filename="range-tests.zip")


@router.post("/remove", operation_id="removeTests", response={204: None, 404: Problem})
def remove_tests(request: HttpRequest, payload: ManyIn) -> Status[None]:
    """Remove several tests, all or none; each can be had back."""
    for test_id in payload.ids:
        remove(RangeTest, owner_of(request), test_id)
    return Status(204, None)


@router.post("/restore", operation_id="restoreTests", response={204: None, 404: Problem})
def restore_tests(request: HttpRequest, payload: ManyIn) -> Status[None]:
    """Bring several removed tests back, all or none."""
    for test_id in payload.ids:
        restore(RangeTest, owner_of(request), test_id)
    return Status(204, None)


@router.put(
    "/{test_id}", operation_id="startRide", response={200: TestFound, 409: Problem, 422: Problem}
)
def start_ride(request: HttpRequest, test_id: UUID, payload: RideIn) -> TestFound:
    """Begin a ride that nobody planned. Sent again, it changes nothing."""
    return found_of(rides.begin_ride(owner_of(request), test_id, payload.start()))


removable(router, "/{test_id}", RangeTest, "Test")


@router.get(
    "/{test_id}/bundle.zip",
    operation_id="exportBundle",
    response={404: Problem, 409: Problem},
    openapi_extra=as_file("application/zip"),
)
def export_bundle(request: HttpRequest, test_id: UUID) -> HttpResponse:
    """The test as a zipped bundle."""
    test = _own(request, test_id)
    response = HttpResponse(exporting.export_zip(test), content_type="application/zip")
    name = f"{exporting.slug_of(test.title)}.limpet.zip"
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


@router.put(
    "/{test_id}/entries/{entry_id}",
    operation_id="putEntry",
    response={200: StoredEntry, 201: StoredEntry, 404: Problem, 409: Problem, 422: Problem},
)
def put_entry(
    request: HttpRequest, test_id: UUID, entry_id: UUID, payload: EntryIn
) -> Status[StoredEntry]:
    """Keep an entry under its id; what it said before stays in its history."""
    values = payload.model_dump()
    read_at = values.pop("from_changes")
    done = entries.record_entry(owner_of(request), test_id, entry_id, values, read_at)
    return Status(201 if done.created else 200, _stored(done))


def _stored(done: entries.Recorded) -> StoredEntry:
    return StoredEntry(
        entry=entry_of(done.entry),
        removed=done.entry.removed,
        questions=[notice.said(reader_units()) for notice in done.questions],
        revision=done.revision,
    )


@router.put(
    "/{test_id}/entries/{entry_id}/restored/{act}",
    operation_id="restoreEntry",
    response={200: StoredEntry, 404: Problem},
)
def restore_entry(request: HttpRequest, test_id: UUID, entry_id: UUID, act: UUID) -> StoredEntry:
    """Bring an entry back that was taken out. Sent again under its id, it changes nothing."""
    return _stored(entries.restore_entry(owner_of(request), test_id, entry_id, act))


@router.delete(
    "/{test_id}/entries/{entry_id}",
    operation_id="deleteEntry",
    response={200: RevisionOut, 404: Problem},
)
def delete_entry(
    request: HttpRequest, test_id: UUID, entry_id: UUID, act: UUID | None = None
) -> RevisionOut:
    """Take an entry out; what it said is kept in its history. Sent again with its `act`, it changes nothing."""
    return RevisionOut(revision=entries.remove_entry(owner_of(request), test_id, entry_id, act))


@router.put(
    "/{test_id}/photos/{photo_id}",
    operation_id="putPhoto",
    response={200: PhotoOut, 404: Problem, 409: Problem, 422: Problem},
)
def put_photo(request: HttpRequest, test_id: UUID, photo_id: UUID, payload: PhotoIn) -> PhotoOut:
    """Keep a picture of the display; what its camera said of place and device is left away."""
    kept = entries.keep_photo(owner_of(request), test_id, photo_id, payload.jpeg)
    return PhotoOut(id=kept.pk, name=kept.name)


@router.get(
    "/{test_id}/photo",
    operation_id="getPhoto",
    response={404: Problem},
    openapi_extra=as_file("image/jpeg"),
)
def get_photo(
    request: HttpRequest, test_id: UUID, name: Annotated[Line, Field(max_length=MOST_NAME)]
) -> HttpResponse:
    """A picture by its name in the bundle."""
    photo = bytes(_own(request, test_id).photos.get(name=name).data)
    etag = f'"{sha256(photo).hexdigest()[:32]}"'
    same = get_conditional_response(request, etag=etag)
    response = same or HttpResponse(photo, content_type="image/jpeg")
    response["ETag"] = etag
    # Kept on its rider's device, and asked for anew: whoever signs in there next is not shown it.
    response["Cache-Control"] = "private, no-cache"
    return response


@router.put(
    "/{test_id}/ending",
    operation_id="endRide",
    response={200: TestFound, 404: Problem, 409: Problem, 422: Problem},
)
def end_ride(request: HttpRequest, test_id: UUID, payload: EndIn) -> TestFound:
    """Say why the ride stopped; from here the test has a result."""
    return found_of(rides.end_ride(owner_of(request), test_id, payload.reason, payload.note))


@router.delete(
    "/{test_id}/ending", operation_id="resumeRide", response={200: TestFound, 404: Problem}
)
def resume_ride(request: HttpRequest, test_id: UUID) -> TestFound:
    """Take an ended ride up again."""
    return found_of(rides.resume_ride(owner_of(request), test_id))


@router.put(
    "/{test_id}/sheet",
    operation_id="putSheet",
    response={200: TestFound, 404: Problem, 409: Problem, 422: Problem},
)
def put_sheet(request: HttpRequest, test_id: UUID, payload: SheetIn) -> TestFound:
    """Change parts of what is said of a test; what they held is kept."""
    return found_of(sheets.put_sheet(owner_of(request), test_id, payload.base, parts_in(payload)))


@router.post(
    "/{test_id}/sheet/changes/{change_id}/undo",
    operation_id="undoSheetChange",
    response={200: TestFound, 404: Problem, 422: Problem},
)
def undo_sheet_change(
    request: HttpRequest, test_id: UUID, change_id: Annotated[int, Path(ge=1, le=2**62)]
) -> TestFound:
    """Put a part of a sheet back to what it was before a change."""
    return found_of(sheets.undo(owner_of(request), test_id, change_id))


@router.get(
    "/kit/{shelf}/{item_id}",
    operation_id="listKitCopies",
    response={200: list[CopyOut], 404: Problem},
)
def list_kit_copies(request: HttpRequest, shelf: Shelf, item_id: UUID) -> list[CopyOut]:
    """Tests that hold a piece of kit otherwise than it is now."""
    return [copy_of(copy) for copy in kept_kit.copies(owner_of(request), shelf, item_id)]


@router.post(
    "/kit/{shelf}/{item_id}",
    operation_id="carryKit",
    response={200: CarriedOut, 404: Problem, 422: Problem},
)
def carry_kit(request: HttpRequest, shelf: Shelf, item_id: UUID, payload: CarryIn) -> CarriedOut:
    """Carry a piece of kit as it is now into tests of it."""
    changed = kept_kit.carry(owner_of(request), shelf, item_id, payload.tests)
    return CarriedOut(tests=[test.id for test in changed])


_STREAM = {200: StreamOut, 404: Problem, 409: Problem, 422: Problem}


@router.get(
    "/{test_id}/streams",
    operation_id="listStreams",
    response={200: list[StreamOut], 404: Problem, 409: Problem},
)
def list_streams(request: HttpRequest, test_id: UUID) -> list[StreamOut]:
    """What instruments sent, and what it came to."""
    return [stream_of(stream) for stream in _own(request, test_id).streams.all()]


@router.put("/{test_id}/streams/{stream_id}", operation_id="openStream", response=_STREAM)
def open_stream(
    request: HttpRequest, test_id: UUID, stream_id: UUID, payload: StreamIn
) -> StreamOut:
    """Say which instrument will send samples."""
    values = payload.model_dump()
    return stream_of(streams.open_stream(owner_of(request), test_id, stream_id, **values))


@router.put(
    "/{test_id}/streams/{stream_id}/batches/{sequence}",
    operation_id="appendSamples",
    response=_STREAM,
)
def append_samples(
    request: HttpRequest,
    test_id: UUID,
    stream_id: UUID,
    sequence: Annotated[int, Path(ge=0, le=MOST_SEQUENCE)],
    payload: BatchIn,
) -> StreamOut:
    """One batch of samples, in order; sent again, it changes nothing."""
    values = payload.model_dump()
    return stream_of(streams.append(owner_of(request), test_id, stream_id, sequence, values))


def _own(request: HttpRequest, test_id: UUID) -> RangeTest:
    test: RangeTest = RangeTest.objects.owned_by(owner_of(request)).get(pk=test_id)
    return test
