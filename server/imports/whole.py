"""All of an account as one zip, and back: its kit, its routes, its tests as bundles, its plans, how its instruments are read."""

from __future__ import annotations

import io
import json
from collections.abc import Iterable, Iterator, Mapping, Sequence
from tempfile import TemporaryFile
from typing import IO, Any, Final
from uuid import UUID, uuid5
from zipfile import ZIP_DEFLATED, ZipFile

from django.contrib.auth.models import User
from django.db import transaction

from limpet.errors import BundleError, Fault
from limpet.files import read_files
from limpet.files.archive import MAX_RATIO, MAX_UNPACKED_BYTES, is_read
from limpet.files.jsonfile import parse_json
from limpet.files.write import bundle_files
from limpet.foreign.mapping_file import mapping_document
from server.imports.asked import mapping_in
from server.imports.checked import checked
from server.imports.desk import take_desk, write_desk
from server.imports.models import Brought, KeptMapping
from server.imports.noting import keep_mapping, note
from server.imports.storing import SPACE
from server.imports.ways import take_ways, write_ways
from server.kit import services as kit
from server.kit.models import Named, Pack, Rider, Route, Vehicle
from server.kit.schemas import PackIn, RiderIn, RouteIn, RouteLeg, VehicleIn
from server.logbook.exporting import slug_of
from server.logbook.importing import store_intake
from server.logbook.intake import intake_of
from server.logbook.models import RangeTest
from server.logbook.rows import core_test
from server.wire.problems import ConflictError, FieldError
from server.wire.schema import Sent
from server.wire.stored import unwrapped

#: The file that tells a zip of an account, and its version.
ABOUT: Final = "account.json"
VERSION: Final = 1
#: Tests of one zip, and the files of all of them.
MOST_TESTS, MOST_FILES = 2000, 20_000
_SHELVES: Final[tuple[tuple[str, type[Named], type[Sent]], ...]] = (
    ("vehicles", Vehicle, VehicleIn),
    ("packs", Pack, PackIn),
    ("riders", Rider, RiderIn),
)


def account_zip(owner: User) -> IO[bytes]:
    """Everything that an account keeps and that is its own; written piece by piece.

    Notes
    -----
    What was removed, and what can be worked out again (results, fits), is not in it.
    """
    found: IO[bytes] = TemporaryFile()  # noqa: SIM115 - whoever sends it closes it
    with ZipFile(found, "w", ZIP_DEFLATED) as archive:
        tests, under_way = [], []
        ids = list(
            RangeTest.objects.owned_by(owner)
            .order_by("sorted_at", "id")
            .values_list("pk", flat=True)
        )
        for number, test_id in enumerate(ids, start=1):
            test = RangeTest.objects.owned_by(owner).get(pk=test_id)
            folder = f"tests/{number:04d}-{slug_of(test.title)}"
            for name, data in bundle_files(core_test(test, photos=True)).items():
                archive.writestr(f"{folder}/{name}", data)
            tests.append(folder)
            if test.state == RangeTest.State.RIDING:
                under_way.append(folder)
        about: dict[str, Any] = {"limpet_account": VERSION, "tests": tests, "under_way": under_way}
        places = dict(_places("tests", ids))
        for shelf, model, asked in _SHELVES:
            rows = list(model.objects.owned_by(owner).order_by("created_at"))
            about[shelf] = [_as_asked(row, asked) for row in rows]
            places |= _places(shelf, [row.pk for row in rows])
        routes = [
            row
            for row in Route.objects.owned_by(owner).order_by("created_at")
            if row.gpx is not None or isinstance(row.legs, list)
        ]
        about["routes"] = list(_routes(routes, archive))
        places |= _places("routes", [row.pk for row in routes])
        about |= write_desk(owner, archive, places)
        about |= write_ways(owner)
        about["mappings"] = [
            mapping_document(mapping_in(unwrapped(row.mapping)))
            for row in KeptMapping.objects.owned_by(owner).order_by("created_at")
        ]
        archive.writestr(ABOUT, json.dumps(about, indent=2, ensure_ascii=False))
    found.seek(0)
    return found


def _as_asked(row: Named, asked: type[Sent]) -> dict[str, Any]:
    """A row as it would be typed in again; what was guessed of a pack is left out."""
    guessed = set(getattr(row, "taken", None) or ())
    values = {
        name: getattr(row, name)
        for name in asked.model_fields
        if hasattr(row, name) and name not in guessed
    }
    return {name: value for name, value in values.items() if value not in (None, "", [])}


def _places(kind: str, ids: Iterable[UUID]) -> dict[str, str]:
    """Where each of a kind stands in the zip, such as "packs:3", by its id."""
    return {str(one): f"{kind}:{number}" for number, one in enumerate(ids)}


def _routes(rows: Sequence[Route], archive: ZipFile) -> Iterator[dict[str, Any]]:
    for number, row in enumerate(rows, start=1):
        if row.gpx is not None:
            name = f"routes/{number:04d}.gpx"
            archive.writestr(name, bytes(row.gpx))
            yield {"name": row.name, "gpx": name, "note": row.note}
        else:
            yield {
                "name": row.name,
                "kind": row.kind,
                "legs": [_known(leg) for leg in row.legs],
                "readings_m": row.readings_m,
                "note": row.note,
            }


def _known(leg: Any) -> dict[str, Any]:
    """A leg without what this form of it never asks."""
    return {
        name: value
        for name, value in dict(leg).items()
        if name in RouteLeg.model_fields and value is not None
    }


def take_account(owner: User, brought_id: UUID, name: str, data: bytes) -> Brought:
    """Take all of an account's zip in, whole or not at all. Sent again, it changes nothing.

    Raises
    ------
    BundleError
        With every fault of it; nothing is stored.
    ConflictError
        When a piece of kit has a name that is taken.
    """
    stored = Brought.objects.filter(owner=owner, pk=brought_id).first()
    if stored is not None:
        return stored
    try:
        archive = ZipFile(io.BytesIO(data))
    except Exception as cause:  # whatever bytes do to it, it is no zip
        raise BundleError(
            [Fault(name, 0, 0, "is a damaged zip; export the account again")]
        ) from cause
    with archive:
        files = _files_of(name, archive, len(data))
        about = _about(name, files)
        ids: dict[str, str] = {}
        made: dict[str, list[str]] = {"tests": [], "routes": []}
        with transaction.atomic():
            for shelf, model, asked in _SHELVES:
                for number, row in enumerate(about.get(shelf) or []):
                    item_id = uuid5(SPACE, f"{brought_id}:{shelf}:{number}")
                    _store(owner, model, asked, row, item_id, f"{shelf} {number + 1}")
                    ids[f"{shelf}:{number}"] = str(item_id)
            for number, row in enumerate(about.get("routes") or []):
                item_id = uuid5(SPACE, f"{brought_id}:route:{number}")
                made["routes"].append(_take_route(owner, row, files, item_id))
                ids[f"routes:{number}"] = made["routes"][-1]
            under_way = set(about.get("under_way") or [])
            for number, folder in enumerate(about.get("tests") or []):
                item_id = uuid5(SPACE, f"{brought_id}:{folder}")
                test_id = str(_take_test(owner, folder, files, item_id).pk)
                made["tests"].append(test_id)
                ids[f"tests:{number}"] = test_id
                if folder in under_way:
                    RangeTest.objects.filter(pk=test_id).update(state=RangeTest.State.RIDING)
            for mapping in about.get("mappings") or []:
                keep_mapping(owner, mapping_in(mapping))
            take_desk(owner, uuid5(SPACE, f"{brought_id}"), about, files, ids)
            take_ways(owner, about)
            return note(owner, brought_id, name, [], made)


def _take_test(owner: User, folder: str, files: Mapping[str, bytes], test_id: UUID) -> RangeTest:
    inside = {
        path.removeprefix(f"{folder}/"): held
        for path, held in files.items()
        if path.startswith(f"{folder}/")
    }
    try:
        read = {path: held if is_read(path) else b"" for path, held in inside.items()}
        test = read_files(read, begun=True)
    except BundleError as error:
        raise BundleError(
            [Fault(f"{folder}/{f.file}", f.line, f.column, f.message) for f in error.faults]
        ) from error
    return store_intake(owner, test_id, intake_of(test), None)


def _files_of(name: str, archive: ZipFile, packed: int) -> dict[str, bytes]:
    members = [item for item in archive.infolist() if not item.filename.endswith("/")]
    unpacked = sum(member.file_size for member in members)
    if (
        len(members) > MOST_FILES
        or unpacked > MAX_UNPACKED_BYTES
        or unpacked > MAX_RATIO * max(packed, 1)
    ):
        raise BundleError(
            [Fault(name, 0, 0, "unpacks to more than an account holds; export it in parts")]
        )
    found = {}
    for member in members:
        try:
            found[member.filename] = archive.read(member)
        except Exception as cause:  # zlib.error and its kin share no base of their own
            raise BundleError(
                [Fault(name, 0, 0, f"{member.filename} is damaged; export the account again")]
            ) from cause
    return found


def _about(name: str, files: Mapping[str, bytes]) -> dict[str, Any]:
    if ABOUT not in files:
        raise BundleError([Fault(name, 0, 0, f"has no {ABOUT}; export the account again")])
    document, _ = parse_json(ABOUT, files[ABOUT])
    if not isinstance(document, dict) or document.get("limpet_account") != VERSION:
        raise BundleError([Fault(ABOUT, 1, 1, "is of another version; export the account again")])
    about: dict[str, Any] = document
    for shelf in (
        "vehicles",
        "packs",
        "riders",
        "routes",
        "tests",
        "mappings",
        "under_way",
        "plans",
        "trips",
        "claims",
        "assumptions",
    ):
        if not isinstance(about.get(shelf, []), list) or len(about.get(shelf, [])) > MOST_TESTS:
            raise BundleError(
                [Fault(ABOUT, 1, 1, f"{shelf} must be a list of at most {MOST_TESTS:,}")]
            )
    if not all(
        isinstance(folder, str) and folder.startswith("tests/") for folder in about.get("tests", [])
    ):
        raise BundleError([Fault(ABOUT, 1, 1, "tests must be folders of the zip")])
    return about


def _store(
    owner: User, model: type[Named], asked: type[Sent], row: Any, item_id: UUID, where: str
) -> None:
    values = checked(asked, row, ABOUT, where).model_dump()
    try:
        kit.store(model, owner, item_id, values)
    except FieldError as cause:
        raise ConflictError(
            f"{where}: {cause}. Bring the zip into an empty account, or rename that piece of kit first."
        ) from cause


def _take_route(owner: User, row: Any, files: Mapping[str, bytes], item_id: UUID) -> str:
    if not isinstance(row, dict):
        raise BundleError([Fault(ABOUT, 0, 0, "a route must be an object: { … }")])
    track = row.get("gpx")
    if track is not None:
        if track not in files:
            raise BundleError([Fault(ABOUT, 0, 0, f"{str(track)[:60]} is not in the zip")])
        return str(
            kit.import_route(
                owner, item_id, str(row.get("name", "Route"))[:100], str(track), files[track]
            ).pk
        )
    values = checked(RouteIn, row, ABOUT, "a route").model_dump()
    return str(kit.store_route(owner, item_id, values).pk)
