"""Results over HTTP: the logbook's list, a test's page, its traces; and imports, which bring theirs."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, Status
from ninja.files import UploadedFile
from pydantic import Field

from limpet.bounds import MOST_NAME, MOST_TAG
from limpet.evidence.columns import ENTRY_COLUMNS
from limpet.evidence.model import EndReason, Purpose
from limpet.figures.traces import MOST_CHANNELS
from server.logbook.exporting import slug_of
from server.logbook.models import RangeTest
from server.logbook.remembering import remembered_test
from server.logbook.schemas import RememberedIn
from server.results import changed, listing, saving, services, traces
from server.results.schemas import TestDetail, TestPage, TestRow, TracesOut, detail_of, row_of
from server.wire.files import as_file
from server.wire.owned import owner_of
from server.wire.problems import ConflictError, Problem
from server.wire.schema import Sent
from server.wire.typed import Held, Line

router = Router(tags=["results"])

#: Parts of one import: a bundle's files and its photos.
MOST_FILES = 200


_Name = Annotated[Line, Field(max_length=MOST_NAME)]


class LogbookIn(Sent):
    """Which tests of the logbook, in which order, and which page of them."""

    after: Annotated[Line, Field(max_length=800)] = ""
    most: Annotated[int, Field(ge=1, le=listing.MOST_ROWS)] = 50
    vehicle: _Name = ""
    pack: _Name = ""
    rider: _Name = ""
    purpose: Purpose | None = None
    ended: EndReason | None = None
    season: listing.Season | None = None
    tag: Annotated[Line, Field(max_length=MOST_TAG)] = ""
    words: Annotated[Line, Field(max_length=100)] = ""
    sort: listing.Sort = "newest"

    def wanted(self) -> listing.Wanted:
        """Which tests, without the page."""
        return listing.Wanted(**self.model_dump(exclude={"after", "most"}))


@router.get("", operation_id="listTests", response=TestPage)
def list_tests(request: HttpRequest, asked: Query[LogbookIn]) -> TestPage:
    """The logbook; `after` is what the page before gave as `next`, in the same order."""
    owner = owner_of(request)
    found = listing.page_of(owner, asked.wanted(), after=asked.after, most=asked.most)
    return TestPage(
        items=[row_of(test) for test in found.tests],
        next=found.next,
        count=found.count,
        summary=None if asked.after else asdict(listing.summary(owner)),
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
    "/{test_id}/remembered",
    operation_id="putRemembered",
    response={200: TestRow, 409: Problem, 422: Problem},
)
def put_remembered(request: HttpRequest, test_id: UUID, payload: RememberedIn) -> TestRow:
    """A ride that was ridden already, from memory. Sent again, it changes nothing."""
    owner = owner_of(request)
    evidence = remembered_test(owner, payload.model_dump())
    return row_of(services.store_test(owner, test_id, evidence))


@router.get("/{test_id}", operation_id="getTest", response={200: TestDetail, 404: Problem})
def get_test(request: HttpRequest, test_id: UUID, kept: bool = False) -> TestDetail:
    """A test with its entries and its result; with `kept` the result is given as it is kept, of whichever
    revision, and nothing is computed for it."""
    return detail_of(_own(request, test_id), kept=kept)


@router.post(
    "/{test_id}/changed/seen", operation_id="seeChanged", response={204: None, 404: Problem}
)
def see_changed(request: HttpRequest, test_id: UUID) -> Status[None]:
    """Its rider has seen that a result changed because Limpet learned. Sent again, it changes nothing."""
    changed.seen(owner_of(request), test_id)
    return Status(204, None)


@router.get(
    "/{test_id}/traces",
    operation_id="getTraces",
    response={200: TracesOut | None, 404: Problem, 409: Problem},
)
def get_traces(
    request: HttpRequest,
    test_id: UUID,
    from_s: Annotated[float | None, Held(ENTRY_COLUMNS["time_s"].field)] = None,
    to_s: Annotated[float | None, Held(ENTRY_COLUMNS["time_s"].field)] = None,
    channels: Annotated[Line, Field(max_length=200)] = "",
) -> HttpResponse:
    """Channels of the log in bins, the whole ride or a part; `channels` names them, with commas between."""
    named = [name.strip() for name in channels.split(",") if name.strip()]
    found = traces.traces(_own(request, test_id), from_s, to_s, named[:MOST_CHANNELS])
    # As it is: a look at each of ten thousand numbers takes longer than drawing them.
    text = json.dumps(found, separators=(",", ":"), allow_nan=False)
    return HttpResponse(text, content_type="application/json; charset=utf-8")


@router.get(
    "/{test_id}/result.json",
    operation_id="getResultJson",
    response={404: Problem},
    openapi_extra=as_file("application/json"),
)
def get_result_json(request: HttpRequest, test_id: UUID) -> HttpResponse:
    """The result as `./limpet analyse --json` prints it, taught by the earlier tests of its kit."""
    kept = services.current(_own(request, test_id))
    if kept.fault:
        raise ConflictError(kept.fault)
    detail = services.detail_of(kept)
    if "result" not in detail:
        raise ConflictError("The result is being worked out. Ask again in a moment.")
    text = json.dumps(detail["result"], indent=2, ensure_ascii=False)
    return HttpResponse(text + "\n", content_type="application/json; charset=utf-8")


@router.get(
    "/{test_id}/file/{form}",
    operation_id="getTestFile",
    response={404: Problem, 409: Problem},
    openapi_extra=as_file("application/octet-stream"),
)
def get_test_file(request: HttpRequest, test_id: UUID, form: saving.Form) -> HttpResponse:
    """The samples, the track, or all of it as a workbook, in a format that others read."""
    test = _own(request, test_id)
    response = HttpResponse(saving.saved_as(test, form), content_type=saving.TYPES[form])
    name = f"{slug_of(test.title)}.{form}"
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


def _own(request: HttpRequest, test_id: UUID) -> RangeTest:
    queryset = RangeTest.objects.owned_by(owner_of(request))
    test: RangeTest = queryset.select_related("kept_result").get(pk=test_id)
    return test
