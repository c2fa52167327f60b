"""The logbook over HTTP."""

from __future__ import annotations

import json
import re
from typing import Any
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router, Status
from ninja.errors import HttpError
from ninja.files import UploadedFile

from limpet.bundle.archive import files_of_zip
from server.logbook import results, services
from server.logbook.models import RangeTest
from server.logbook.schemas import (
    EndIn,
    EntryIn,
    RideIn,
    StoredEntry,
    TestDetail,
    TestRow,
    TracesOut,
    detail_of,
    entry_of,
    row_of,
)
from server.problems import Problem

router = Router(tags=["logbook"])


@router.get("", operation_id="listTests", response=list[TestRow])
def list_tests(request: HttpRequest) -> list[TestRow]:
    return [row_of(test) for test in RangeTest.objects.owned_by(request.user).for_list()]


@router.post(
    "/import", operation_id="importBundle", response={201: TestRow, 413: Problem, 422: Problem}
)
def import_bundle(
    request: HttpRequest, id: Form[UUID], files: File[list[UploadedFile]]
) -> Status[TestRow]:
    """A zipped bundle as one file, or a bundle's files."""
    if sum(file.size or 0 for file in files) > settings.MOST_UPLOAD_BYTES:
        raise HttpError(413, "That is over 512 MiB. Split the log, or import a zip.")
    first = files[0]
    if len(files) == 1 and (first.name or "").lower().endswith(".zip"):
        named = files_of_zip(first.read(), first.name or "bundle.zip")
    else:
        named = {(file.name or "").rsplit("/", 1)[-1]: file.read() for file in files}
    test = services.import_files(request.user, id, named)
    return Status(201, row_of(test))


@router.put(
    "/{test_id}", operation_id="startRide", response={200: TestDetail, 409: Problem, 422: Problem}
)
def start_ride(request: HttpRequest, test_id: UUID, payload: RideIn) -> TestDetail:
    return detail_of(services.start_ride(request.user, test_id, **payload.model_dump()))


@router.get("/{test_id}", operation_id="getTest", response={200: TestDetail, 404: Problem})
def get_test(request: HttpRequest, test_id: UUID) -> TestDetail:
    return detail_of(_own(request, test_id))


@router.delete("/{test_id}", operation_id="deleteTest", response={204: None, 404: Problem})
def delete_test(request: HttpRequest, test_id: UUID) -> Status[None]:
    services.remove_test(request.user, test_id)
    return Status(204, None)


@router.get(
    "/{test_id}/traces", operation_id="getTraces", response={200: TracesOut | None, 404: Problem}
)
def get_traces(
    request: HttpRequest, test_id: UUID, from_s: float | None = None, to_s: float | None = None
) -> dict[str, Any] | None:
    return results.traces(_own(request, test_id), from_s, to_s)


@router.get("/{test_id}/result.json", operation_id="getResultJson", response={404: Problem})
def get_result_json(request: HttpRequest, test_id: UUID) -> HttpResponse:
    """The result exactly as `./limpet analyse --json` prints it."""
    result = results.cached(_own(request, test_id)).result
    text = json.dumps(result, indent=2, ensure_ascii=False)
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
        request.user, test_id, entry_id, payload.model_dump()
    )
    body = StoredEntry(entry=entry_of(entry), questions=[notice.message for notice in questions])
    return Status(201 if created else 200, body)


@router.delete(
    "/{test_id}/entries/{entry_id}", operation_id="deleteEntry", response={204: None, 404: Problem}
)
def delete_entry(request: HttpRequest, test_id: UUID, entry_id: UUID) -> Status[None]:
    services.remove_entry(request.user, test_id, entry_id)
    return Status(204, None)


@router.put(
    "/{test_id}/ending",
    operation_id="endRide",
    response={200: TestDetail, 404: Problem, 409: Problem, 422: Problem},
)
def end_ride(request: HttpRequest, test_id: UUID, payload: EndIn) -> TestDetail:
    return detail_of(services.end_ride(request.user, test_id, payload.reason, payload.note))


def _own(request: HttpRequest, test_id: UUID) -> RangeTest:
    queryset = RangeTest.objects.owned_by(request.user)
    test: RangeTest = queryset.select_related("cached_result").get(pk=test_id)
    return test
