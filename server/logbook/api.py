"""The logbook over HTTP."""

from __future__ import annotations

import json
import re
from dataclasses import asdict
from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router, Status
from ninja.files import UploadedFile
from pydantic import Field

from limpet.bounds import MOST_NAME
from limpet.evidence.columns import ENTRY_COLUMNS
from limpet.evidence.model import Purpose
from server.logbook import listing, results, services
from server.logbook.models import RangeTest
from server.logbook.schemas import (
    EndIn,
    EntryIn,
    NowOut,
    RideIn,
    StoredEntry,
    TestDetail,
    TestFound,
    TestPage,
    TestRow,
    TracesOut,
    detail_of,
    entry_of,
    found_of,
    row_of,
)
from server.wire.owned import owner_of
from server.wire.problems import ConflictError, Problem
from server.wire.reader import reader_units
from server.wire.removal import removable
from server.wire.typed import Held, Line

router = Router(tags=["logbook"])
#: Parts of one import: a bundle's files and its photos.
MOST_FILES = 200


@router.get("", operation_id="listTests", response=TestPage)
def list_tests(
    request: HttpRequest,
    after: Annotated[Line, Field(max_length=80)] = "",
    most: Annotated[int, Field(ge=1, le=listing.MOST_ROWS)] = 50,
    vehicle: Annotated[Line, Field(max_length=MOST_NAME)] = "",
    purpose: Purpose | None = None,
    words: Annotated[Line, Field(max_length=100)] = "",
) -> TestPage:
    """The logbook, newest first; `after` is what the page before gave as `next`."""
    found = listing.page_of(
        owner_of(request),
        after=after,
        most=most,
        vehicle=vehicle,
        purpose=purpose or "",
        words=words,
    )
    return TestPage(
        items=[row_of(test) for test in found.tests],
        next=found.next,
        count=found.count,
        summary=None if after else asdict(listing.summary(owner_of(request))),
    )


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


@router.post(
    "/import", operation_id="importBundle", response={201: TestRow, 413: Problem, 422: Problem}
)
def import_bundle(
    request: HttpRequest,
    id: Form[UUID],
    files: Annotated[list[UploadedFile], File(min_length=1, max_length=MOST_FILES)],
) -> Status[TestRow]:
    """A zipped bundle as one file, or a bundle's files."""
    return Status(201, row_of(services.import_uploads(owner_of(request), id, files)))


@router.put(
    "/{test_id}", operation_id="startRide", response={200: TestDetail, 409: Problem, 422: Problem}
)
def start_ride(request: HttpRequest, test_id: UUID, payload: RideIn) -> TestDetail:
    return detail_of(services.start_ride(owner_of(request), test_id, **payload.model_dump()))


@router.get("/{test_id}", operation_id="getTest", response={200: TestDetail, 404: Problem})
def get_test(request: HttpRequest, test_id: UUID) -> TestDetail:
    return detail_of(_own(request, test_id))


removable(router, "/{test_id}", RangeTest, "Test")


@router.get(
    "/{test_id}/traces", operation_id="getTraces", response={200: TracesOut | None, 404: Problem}
)
def get_traces(
    request: HttpRequest,
    test_id: UUID,
    from_s: Annotated[float | None, Held(ENTRY_COLUMNS["time_s"].field)] = None,
    to_s: Annotated[float | None, Held(ENTRY_COLUMNS["time_s"].field)] = None,
) -> dict[str, Any] | None:
    return results.traces(_own(request, test_id), from_s, to_s)


@router.get("/{test_id}/result.json", operation_id="getResultJson", response={404: Problem})
def get_result_json(request: HttpRequest, test_id: UUID) -> HttpResponse:
    """The result exactly as `./limpet analyse --json` prints it."""
    kept = results.current(_own(request, test_id))
    if kept.fault:
        raise ConflictError(kept.fault)
    text = json.dumps(results.detail_of(kept)["result"], indent=2, ensure_ascii=False)
    return HttpResponse(text + "\n", content_type="application/json; charset=utf-8")


@router.get("/{test_id}/bundle.zip", operation_id="exportBundle", response={404: Problem})
def export_bundle(request: HttpRequest, test_id: UUID) -> HttpResponse:
    test = _own(request, test_id)
    slug = re.sub(r"[^a-z0-9]+", "-", test.title.lower()).strip("-")[:60] or "test"
    response = HttpResponse(services.export_zip(test), content_type="application/zip")
    response["Content-Disposition"] = f'attachment; filename="{slug}.limpet.zip"'
    return response


@router.put(
    "/{test_id}/entries/{entry_id}",
    operation_id="putEntry",
    response={200: StoredEntry, 201: StoredEntry, 404: Problem, 409: Problem, 422: Problem},
)
def put_entry(
    request: HttpRequest, test_id: UUID, entry_id: UUID, payload: EntryIn
) -> Status[StoredEntry]:
    entry, created, questions = services.record_entry(
        owner_of(request), test_id, entry_id, payload.model_dump()
    )
    body = StoredEntry(
        entry=entry_of(entry), questions=[notice.said(reader_units()) for notice in questions]
    )
    return Status(201 if created else 200, body)


@router.delete(
    "/{test_id}/entries/{entry_id}", operation_id="deleteEntry", response={204: None, 404: Problem}
)
def delete_entry(request: HttpRequest, test_id: UUID, entry_id: UUID) -> Status[None]:
    services.remove_entry(owner_of(request), test_id, entry_id)
    return Status(204, None)


@router.put(
    "/{test_id}/ending",
    operation_id="endRide",
    response={200: TestDetail, 404: Problem, 409: Problem, 422: Problem},
)
def end_ride(request: HttpRequest, test_id: UUID, payload: EndIn) -> TestDetail:
    return detail_of(services.end_ride(owner_of(request), test_id, payload.reason, payload.note))


def _own(request: HttpRequest, test_id: UUID) -> RangeTest:
    queryset = RangeTest.objects.owned_by(owner_of(request))
    test: RangeTest = queryset.select_related("kept_result").get(pk=test_id)
    return test
