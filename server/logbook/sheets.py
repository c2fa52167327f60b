"""Changing a sheet: part by part, each change kept with who, when and what stood there before."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from pydantic import ValidationError

from limpet.evidence.model import TestSheet
from limpet.evidence.sheet import SHEET_PARTS, SheetPart, item_at, values_of, with_values
from limpet.files.document import explain
from limpet.files.sheet import document_of, sheet_adapter, sheet_faults
from server.logbook.changes import locked, touch
from server.logbook.models import RangeTest, SheetRevision
from server.logbook.named_kit import named_in
from server.logbook.rows import core_sheet, sheet_columns
from server.wire.problems import ConflictError, FieldError, KeptBesideError

#: What parts of a sheet are to hold: part → field → value.
Parts = Mapping[str, Mapping[str, Any]]
#: Changes of one sheet that are kept; a form that is stored twice an hour for a year stays under it.
MOST_CHANGES = 20_000
#: Parts whose name says which piece of kit was ridden.
KIT_PARTS = frozenset({"vehicle", "pack", "rider"})


def put_sheet(owner: User, test_id: UUID, base: int, parts: Parts) -> RangeTest:
    """Change parts of a sheet that were read when it had seen `base` changes.

    Raises
    ------
    KeptBesideError
        When one of them was changed meanwhile: nothing is changed, and what was sent is kept beside it.
    FieldError
        With what a sheet cannot hold, by `part.field`.
    """
    with transaction.atomic():
        test = locked(owner, test_id)
        in_the_way = _overtaken(test, base, parts)
        if in_the_way is None:
            if change(test, owner, parts):
                touch(test)
            return test
        _set_aside(test, owner, in_the_way, parts)
    who = in_the_way.by.username if in_the_way.by else "somebody"
    label = SHEET_PARTS[in_the_way.part].label
    raise KeptBesideError(
        f"{label}: changed meanwhile by {who} at {in_the_way.made_at:%H:%M} UTC. "
        "Yours is in the sheet’s history beside it; look at both and choose."
    )


def undo(owner: User, test_id: UUID, change_id: int) -> RangeTest:
    """Put a part back to what it was before a change; one that was not taken is taken now."""
    with transaction.atomic():
        test = locked(owner, test_id)
        kept = test.sheet_revisions.get(pk=change_id)
        wanted = kept.before if kept.taken else kept.after
        if kept.part in SHEET_PARTS and change(test, owner, {kept.part: wanted}):
            touch(test)
    return test


def change(test: RangeTest, by: User, parts: Parts) -> bool:
    """Set parts of a locked test's sheet and keep what they held; whether anything was different.

    Raises
    ------
    FieldError
        With what a sheet cannot hold; nothing was changed.
    """
    before = document_of(core_sheet(test))
    document = before
    for name, values in parts.items():
        document = with_values(document, SHEET_PARTS[name], values)
    sheet = checked(document)
    after = document_of(sheet)
    for name in parts:
        part = SHEET_PARTS[name]
        had, has = values_of(before, part), values_of(after, part)
        if had != has:
            _keep(test, by, part, had, has)
    if after == before:
        return False
    columns = sheet_columns(sheet)
    if set(parts) & KIT_PARTS:
        columns.update(named_in(test.owner, sheet))
    for column, value in columns.items():
        setattr(test, column, value)
    test.save()
    return True


def checked(document: Mapping[str, Any]) -> TestSheet:
    """A sheet of what forms hold.

    Raises
    ------
    FieldError
        With every fault, by `part.field`.
    """
    try:
        sheet = sheet_adapter().validate_python(document)
    except ValidationError as cause:
        faults: dict[str, str] = {}
        for error in cause.errors(include_url=False):
            faults.setdefault(_field_at(error["loc"]), explain(error))
        raise FieldError(faults) from cause
    faults = {_field_at(path): message for path, message in sheet_faults(sheet)}
    if faults:
        raise FieldError(faults)
    return sheet


def _field_at(path: tuple[Any, ...]) -> str:
    found = item_at(tuple(str(step) for step in path))
    return (
        ".".join(str(step) for step in path)
        if found is None
        else f"{found[0].name}.{found[1].name}"
    )


def _keep(test: RangeTest, by: User, part: SheetPart, had: Any, has: Any) -> None:
    test.sheet_changes += 1
    if test.sheet_changes > MOST_CHANGES:
        raise ConflictError("This sheet was changed too often to keep more; import it anew.")
    SheetRevision.objects.create(
        test=test, number=test.sheet_changes, part=part.name, by=by, before=had, after=has
    )


def _overtaken(test: RangeTest, base: int, parts: Parts) -> SheetRevision | None:
    """The change of one of these parts that was made after they were read, if it differs."""
    later = test.sheet_revisions.filter(number__gt=base, part__in=list(parts), taken=True)
    found: SheetRevision | None = later.select_related("by").first()
    if found is None:
        return None
    # The same once more, or what stands there anyway, is in nobody's way.
    stands = document_of(core_sheet(test))
    wanted = stands
    for name, values in parts.items():
        wanted = with_values(wanted, SHEET_PARTS[name], values)
    return None if document_of(checked(wanted)) == stands else found


def _set_aside(test: RangeTest, by: User, in_the_way: SheetRevision, parts: Parts) -> None:
    stands = document_of(core_sheet(test))
    for name, values in parts.items():
        part = SHEET_PARTS[name]
        had = values_of(stands, part)
        wanted = values_of(document_of(checked(with_values(stands, part, values))), part)
        number = in_the_way.number
        rows = test.sheet_revisions.filter(part=name, number=number, taken=False)
        # A form that is sent again is kept once.
        if had == wanted or any(row.after == wanted for row in rows[:20]):
            continue
        SheetRevision.objects.create(
            test=test, number=number, part=name, taken=False, by=by, before=had, after=wanted
        )
