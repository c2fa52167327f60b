"""Imports over HTTP: drop, look, take, undo."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import FileResponse, HttpRequest
from ninja import File, Form, Path, Router, Status
from ninja.files import UploadedFile

from limpet.foreign.mapping_file import mapping_document
from limpet.foreign.ride import Recorded, rides_in
from server.imports import held, looking, matching, noting, storing, undoing, whole
from server.imports.held import Drop
from server.imports.models import Brought, Home
from server.imports.schemas import (
    MOST_PARTS,
    BroughtOut,
    DropOut,
    DroppedPartOut,
    LookIn,
    LookOut,
    MatchIn,
    MatchOut,
    PlaceIn,
    SeenOut,
    StageOut,
    StoreIn,
    TakeIn,
)
from server.kit.models import Pack
from server.kit.services import pack_spec
from server.wire.files import as_file
from server.wire.owned import owner_of
from server.wire.problems import ConflictError, Problem

router = Router(tags=["imports"])
#: Imports that are listed, the newest first.
MOST_LISTED = 50
_CHANGE = {404: Problem, 409: Problem, 422: Problem}


@router.post("", operation_id="dropFiles", response={200: DropOut, 413: Problem, **_CHANGE})
def drop_files(
    request: HttpRequest,
    id: Form[UUID],
    files: Annotated[list[UploadedFile], File(min_length=1, max_length=MOST_PARTS)],
) -> DropOut:
    """Hold files to be looked at: nothing of them is stored. Sent again, it gives what is held."""
    owner = owner_of(request)
    return _said(request, held.hold(owner, id, files))


def _said(request: HttpRequest, drop: Drop) -> DropOut:
    owner = owner_of(request)
    seen = noting.seen_before(owner, [part.sha256 for part in drop.parts])
    parts = []
    for part in drop.parts:
        before = seen.get(part.sha256)
        parts.append(
            DroppedPartOut(
                key=part.key,
                name=part.name,
                what=part.what,
                form=part.form,
                size=part.size,
                fault=part.fault,
                seen=SeenOut(
                    id=before.pk, name=before.name, tests=[UUID(each) for each in before.tests]
                )
                if before
                else None,
            )
        )
    return DropOut(id=drop.id, parts=parts, rides=[])


@router.get("", operation_id="listImports", response=list[BroughtOut])
def list_imports(request: HttpRequest) -> list[BroughtOut]:
    """What was imported, the newest first; what was undone is not there."""
    rows = Brought.objects.owned_by(owner_of(request)).order_by("-created_at")[:MOST_LISTED]
    return [_brought(row) for row in rows]


@router.get("/account.zip", operation_id="exportAccount", openapi_extra=as_file("application/zip"))
def export_account(request: HttpRequest) -> FileResponse:
    """All of an account: its kit, routes, tests and how its instruments are read."""
    archive = whole.account_zip(owner_of(request))
    return FileResponse(archive, as_attachment=True, filename="limpet-account.zip")


@router.post(
    "/{drop_id}/account/{brought_id}",
    operation_id="takeAccount",
    response={200: BroughtOut, **_CHANGE},
)
def take_account(request: HttpRequest, drop_id: UUID, brought_id: UUID) -> BroughtOut:
    """Take the zip of an account in, whole or not at all. Sent again, it changes nothing."""
    owner = owner_of(request)
    drop = held.held(owner, drop_id)
    part = next((part for part in drop.parts if part.form == "account"), None)
    if part is None:
        raise ConflictError("There is no account’s zip in this import.")
    return _brought(whole.take_account(owner, brought_id, part.name, drop.data(part)))


@router.get("/home", operation_id="getHome", response={200: PlaceIn, 204: None})
def get_home(request: HttpRequest) -> Status[Any]:
    """Where this account lives, as it was said when a track was cut; nothing where it was not."""
    home = Home.objects.filter(owner=owner_of(request)).first()
    return Status(204, None) if home is None else Status(200, _home(home))


@router.put("/home", operation_id="putHome", response=PlaceIn)
def put_home(request: HttpRequest, payload: PlaceIn) -> PlaceIn:
    """Keep where this account lives."""
    home, _ = Home.objects.update_or_create(owner=owner_of(request), defaults=payload.model_dump())
    return _home(home)


@router.delete("/home", operation_id="forgetHome", response={204: None})
def forget_home(request: HttpRequest) -> Status[None]:
    """Forget where this account lives."""
    Home.objects.filter(owner=owner_of(request)).delete()
    return Status(204, None)


def _home(home: Home) -> PlaceIn:
    return PlaceIn(**{name: getattr(home, name) for name in PlaceIn.model_fields})


@router.get("/{drop_id}", operation_id="getDrop", response={200: DropOut, **_CHANGE})
def get_drop(request: HttpRequest, drop_id: UUID) -> DropOut:
    """What is held under an id."""
    return _said(request, held.held(owner_of(request), drop_id))


@router.delete("/{drop_id}", operation_id="forgetDrop", response={204: None, 404: Problem})
def forget_drop(request: HttpRequest, drop_id: UUID) -> Status[None]:
    """Let go of held files; what is being stored of them is stopped."""
    held.forget(owner_of(request), drop_id)
    return Status(204, None)


@router.get("/{drop_id}/stage", operation_id="getStage", response={200: StageOut, **_CHANGE})
def get_stage(request: HttpRequest, drop_id: UUID) -> StageOut:
    """How far the storing is."""
    return StageOut(stage=held.stage_of(owner_of(request), drop_id))


@router.post(
    "/{drop_id}/parts/{key}/look", operation_id="lookAtPart", response={200: LookOut, **_CHANGE}
)
def look_at_part(
    request: HttpRequest,
    drop_id: UUID,
    key: Annotated[int, Path(ge=0, lt=MOST_PARTS)],
    payload: LookIn,
) -> LookOut:
    """What a part would become, drawn. Nothing is stored."""
    owner = owner_of(request)
    drop = held.held(owner, drop_id)
    pack = (
        Pack.objects.owned_by(owner).filter(pk=payload.pack_id).first() if payload.pack_id else None
    )
    asked: dict[str, Any] | None = None
    if payload.mapping is not None:
        asked = mapping_document(payload.mapping)
    elif payload.record_columns is not None:
        asked = {"record_columns": [column.model_dump() for column in payload.record_columns]}
    found = looking.look(
        owner,
        drop,
        drop.part(key),
        asked=asked,
        use=payload.use,
        zone=payload.zone,
        pack=pack_spec(pack) if pack is not None else None,
        cut=payload.cut.model_dump() if payload.cut is not None else None,
    )
    return LookOut.model_validate(found)


@router.post("/{drop_id}/match", operation_id="matchParts", response={200: MatchOut, **_CHANGE})
def match_parts(request: HttpRequest, drop_id: UUID, payload: MatchIn) -> MatchOut:
    """How two recordings of one ride lie on one clock. Nothing is stored."""
    owner = owner_of(request)
    asked = {
        "first": take_of(payload.first),
        "second": take_of(payload.second),
        "zone": payload.zone,
    }
    return MatchOut.model_validate(matching.match(owner, held.held(owner, drop_id), asked))


@router.post(
    "/{drop_id}/rides", operation_id="partRides", response={200: list[list[int]], **_CHANGE}
)
def part_rides(request: HttpRequest, drop_id: UUID, payload: StoreIn) -> list[list[int]]:
    """Which parts are of one ride, by their clocks."""
    owner = owner_of(request)
    drop = held.held(owner, drop_id)
    takes = [take_of(take) for take in payload.parts]
    recorded: list[Recorded] = [matching.recorded_part(drop, take, sample=True) for take in takes]
    return [[takes[at]["key"] for at in ride] for ride in rides_in(recorded, payload.zone)]


def take_of(take: TakeIn) -> dict[str, Any]:
    """What becomes of a part, as the services read it."""
    columns = take.record_columns
    return {
        "key": take.key,
        "use": take.use,
        "mapping": mapping_document(take.mapping) if take.mapping is not None else None,
        "columns": {"record_columns": [c.model_dump() for c in columns]}
        if columns is not None
        else None,
        "skip": take.skip,
        "offset_s": take.offset_s,
        "span": take.span.model_dump() if take.span is not None else None,
        "cut": take.cut.model_dump() if take.cut is not None else None,
    }


@router.post(
    "/{drop_id}/store",
    operation_id="storeDrop",
    response={200: BroughtOut, 429: Problem, **_CHANGE},
)
def store_drop(request: HttpRequest, drop_id: UUID, payload: StoreIn) -> BroughtOut:
    """Take what was looked at. Sent again under its id, it changes nothing."""
    owner = owner_of(request)
    done = Brought.objects.owned_by(owner).filter(pk=payload.id).first()
    if done is not None:
        return _brought(done)
    asked = payload.model_dump(exclude={"parts"})
    asked["parts"] = [take_of(take) for take in payload.parts]
    return _brought(storing.store(owner, held.held(owner, drop_id), asked))


@router.post("/{brought_id}/undo", operation_id="undoImport", response={204: None, 404: Problem})
def undo_import(request: HttpRequest, brought_id: UUID) -> Status[None]:
    """Take an import back whole. Sent again, it changes nothing."""
    undoing.undo(owner_of(request), brought_id)
    return Status(204, None)


def _brought(row: Brought) -> BroughtOut:
    return BroughtOut(
        id=row.pk,
        name=row.name,
        created_at=row.created_at.isoformat(),
        files=[str(file.get("name", "")) for file in row.files],
        tests=[UUID(each) for each in row.tests],
        routes=[UUID(each) for each in row.routes],
        streams=len(row.streams),
    )
