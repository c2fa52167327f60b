"""Kit is copied into a test when it is ridden; a correction of it can be carried into those copies."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import asdict, dataclass
from typing import Any, Final, Literal
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction

from limpet.evidence.sheet import SHEET_PARTS, values_of
from limpet.files.sheet import document_of
from server.kit.models import Named, Pack, Rider, Vehicle
from server.kit.services import pack_spec, rider_spec, vehicle_spec
from server.logbook import sheets
from server.logbook.changes import touch
from server.logbook.models import RangeTest
from server.logbook.rows import core_sheet
from server.wire.problems import UnreadableError

Shelf = Literal["vehicle", "pack", "rider"]
#: Tests of one piece of kit that are looked at, newest first.
MOST_COPIES: Final = 500
_SHELVES: Final[dict[Shelf, tuple[type[Named], Any]]] = {
    "vehicle": (Vehicle, vehicle_spec),
    "pack": (Pack, pack_spec),
    "rider": (Rider, rider_spec),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Difference:
    """A field that a test's copy has otherwise than the kit has now."""

    field: str
    label: str
    was: Any
    now: Any


@dataclass(frozen=True, slots=True, kw_only=True)
class Copy:
    """A test whose copy of a piece of kit differs from it."""

    test: RangeTest
    differs: tuple[Difference, ...]


def copies(owner: User, shelf: Shelf, item_id: UUID) -> list[Copy]:
    """The tests of a piece of kit that hold it otherwise than it is now. DoesNotExist without it."""
    model, spec_of = _SHELVES[shelf]
    item = model.objects.owned_by(owner).get(pk=item_id)
    now = _kit_values(shelf, spec_of(item))
    tests = RangeTest.objects.owned_by(owner).filter(**{shelf: item}).order_by("-sorted_at", "-id")
    found = []
    for test in tests[:MOST_COPIES]:
        try:
            had = values_of(document_of(core_sheet(test)), SHEET_PARTS[shelf])
        except UnreadableError:
            # Its own page says so; there is nothing to correct in what cannot be read.
            continue
        differs = _differences(shelf, had, now)
        if differs:
            found.append(Copy(test=test, differs=differs))
    return found


def carry(owner: User, shelf: Shelf, item_id: UUID, test_ids: Iterable[UUID]) -> list[RangeTest]:
    """Carry a piece of kit as it is now into tests of it; each keeps what it held before."""
    model, spec_of = _SHELVES[shelf]
    item = model.objects.owned_by(owner).get(pk=item_id)
    now = _kit_values(shelf, spec_of(item))
    changed = []
    with transaction.atomic():
        tests = RangeTest.objects.owned_by(owner).filter(**{shelf: item}, pk__in=list(test_ids))
        for test in tests.select_for_update().order_by("pk"):
            if sheets.change(test, owner, {shelf: now}):
                touch(test)
                changed.append(test)
    return changed


def _kit_values(shelf: Shelf, spec: Any) -> dict[str, Any]:
    """What a piece of kit says of a test's part; what the kit has no word for is left out."""
    said = asdict(spec)
    known = {item.path[-1]: item.name for item in SHEET_PARTS[shelf].items}
    values = {known[name]: value for name, value in said.items() if name in known}
    for name in said.get("taken") or ():
        values[known[name]] = None
    if shelf == "rider":
        # What was pedalled is of a ride, not of a rider.
        values.pop("pedal_power_w", None)
    if "step_down" in values:
        values["step_down"] = [dict(rule) for rule in values["step_down"]]
    return values


def _differences(
    shelf: Shelf, had: Mapping[str, Any], now: Mapping[str, Any]
) -> tuple[Difference, ...]:
    part = SHEET_PARTS[shelf]
    return tuple(
        Difference(field=name, label=part.item(name).label, was=had.get(name), now=value)
        for name, value in now.items()
        if (had.get(name) or None) != (value or None)
    )
