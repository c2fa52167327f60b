"""What an import brought, noted: the same file or readings are noticed again, and an instrument's mapping is kept."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User

from limpet.foreign.mapping_file import mapping_document
from limpet.foreign.recipe import LogMapping, heading_digest
from server.imports.models import Brought, BroughtFile, KeptMapping
from server.logbook.models import RangeTest, Stream
from server.wire.owned import create_once
from server.wire.problems import ConflictError
from server.wire.stored import wrapped


def note(
    owner: User, brought_id: UUID, name: str, files: list[dict[str, Any]], made: Mapping[str, Any]
) -> Brought:
    """Note what an import brought, with the digests by which the same is noticed."""
    brought, created = create_once(
        Brought,
        owner,
        brought_id,
        {
            "name": name[:300],
            "files": files,
            "tests": made.get("tests", []),
            "routes": made.get("routes", []),
            "streams": made.get("streams", []),
        },
    )
    if created:
        BroughtFile.objects.bulk_create(
            BroughtFile(brought=brought, digest=digest)
            for file in files
            for digest in (file["sha256"], file["readings"])
            if digest
        )
    return brought


def seen_before(owner: User, digests: Sequence[str]) -> dict[str, Brought]:
    """Earlier imports of the same files or readings, by digest; what was undone does not count."""
    rows = (
        BroughtFile.objects.filter(
            digest__in=list(digests), brought__owner=owner, brought__alive=True
        )
        .select_related("brought")
        .order_by("-brought__created_at")[:200]
    )
    found: dict[str, Brought] = {}
    for row in rows:
        if row.brought.routes or _still_there(owner, row.brought):
            found.setdefault(row.digest, row.brought)
    return found


def _still_there(owner: User, brought: Brought) -> bool:
    tests = [*brought.tests]
    if brought.streams:
        return Stream.objects.filter(pk__in=brought.streams, test__owner=owner).exists()
    return RangeTest.objects.owned_by(owner).filter(pk__in=tests).exists()


def refuse_twice(owner: User, digests: Iterable[str | None], asked: Mapping[str, Any]) -> None:
    """Readings that are in the logbook are taken again only when their rider says so."""
    if asked.get("again"):
        return
    before = seen_before(owner, [digest for digest in digests if digest])
    if before:
        name = next(iter(before.values())).name
        raise ConflictError(
            f"These readings are in your logbook already: {name}. To have them twice, choose “Save it again”."
        )


def keep_mapping(owner: User, mapping: LogMapping) -> None:
    """Keep how an instrument's tables are read, for the next one with the same headings."""
    if not mapping.headings:
        return
    digest = heading_digest(mapping.headings, mapping.unit_row)
    KeptMapping.objects.update_or_create(
        owner=owner,
        headings=digest,
        alive=True,
        defaults={"instrument": mapping.instrument, "mapping": wrapped(mapping_document(mapping))},
    )
