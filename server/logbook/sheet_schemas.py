"""The sheet over HTTP: its parts out of the core's one list, as typed and as kept, with their history."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field, create_model

from limpet.bounds import MOST_TAGS
from limpet.evidence.model import MOST_STEPS_DOWN
from limpet.evidence.sheet import SHEET_PARTS, SheetItem, SheetPart, choices_of, values_of
from server.kit.schemas import StepDownIn, StepDownOut
from server.logbook.kept_kit import MOST_COPIES, Copy
from server.logbook.models import RangeTest, SheetRevision
from server.wire.derived import Derived
from server.wire.schema import Schema, Sent
from server.wire.times import RideTime
from server.wire.typed import Held, Line, Lines, NoTruth, Typed

#: Changes of a sheet that its history shows.
MOST_SHOWN = 60


def _sent(item: SheetItem) -> tuple[Any, Any]:
    """A field of the list as a form sends it."""
    kind: Any
    if item.kind == "number" and item.field is not None:
        reader = Typed if item.field.shown == "unit" else Held
        kind = Annotated[float | None, reader(item.field)]
    elif item.kind == "whole" and item.field is not None:
        span = item.field.span
        kind = Annotated[int, Field(ge=int(span.low), le=int(span.high)), NoTruth] | None
    elif item.kind == "choice":
        kind = Literal[choices_of(item)]
        kind = kind if item.needed else kind | None
    elif item.kind == "flag":
        kind = bool | None
    elif item.kind == "moment":
        kind = RideTime | None
    elif item.kind == "steps":
        return (Annotated[list[StepDownIn], Field(max_length=MOST_STEPS_DOWN)], [])
    elif item.kind == "tags":
        tag: Any = Annotated[Line, Field(min_length=1, max_length=item.longest)]
        return (Annotated[list[tag], Field(max_length=MOST_TAGS)], [])
    else:
        words: Any = Lines if item.kind == "lines" else Line
        least = 1 if item.needed else 0
        text: Any = Annotated[words, Field(min_length=least, max_length=item.longest)]
        kind = text if item.needed else text | None
    return (kind, ... if item.needed else None)


_OUT: dict[str, Any] = {
    "number": float | None,
    "whole": int | None,
    "flag": bool | None,
    "steps": list[StepDownOut] | None,
    "tags": list[str] | None,
}


def _kept(item: SheetItem) -> tuple[Any, Any]:
    """The same as it goes out."""
    if item.kind == "choice":
        return (Literal[choices_of(item)] | None, None)
    return (_OUT.get(item.kind, str | None), None)


def _model(part: SheetPart, base: type[Schema], ending: str, of: Any) -> Any:
    fields: dict[str, Any] = {item.name: of(item) for item in part.items}
    return create_model(
        f"Sheet{part.name.title()}{ending}", __base__=base, __doc__=f"{part.label}.", **fields
    )


_IN = {name: _model(part, Sent, "In", _sent) for name, part in SHEET_PARTS.items()}
_PARTS_OUT = {name: _model(part, Schema, "Out", _kept) for name, part in SHEET_PARTS.items()}

_parts_in: dict[str, Any] = {name: (model | None, None) for name, model in _IN.items()}
_parts_out: dict[str, Any] = {name: (model, ...) for name, model in _PARTS_OUT.items()}


class _SheetIn(Sent):
    """Parts of a sheet as typed; a part that is left out stays. `base` is the `changes` that they were
    read with."""

    base: int = Field(ge=0)


SheetIn: Any = create_model("SheetIn", __base__=_SheetIn, __doc__=_SheetIn.__doc__, **_parts_in)
SheetPartsOut: Any = create_model(
    "SheetPartsOut", __base__=Derived, __doc__="A sheet, part by part.", **_parts_out
)


class SheetChangeOut(Schema):
    """A change of a part: what it held before, what after. One that was not taken is kept beside it."""

    id: int
    part: str
    taken: bool
    made_at: datetime
    by: str
    before: dict[str, Any]
    after: dict[str, Any]


class CarryIn(Sent):
    """Tests into which a piece of kit is carried as it is now."""

    tests: list[UUID] = Field(min_length=1, max_length=MOST_COPIES)


class DifferenceOut(Schema):
    """A field that a test's copy of the kit has otherwise."""

    field: str
    label: str
    was: Any
    now: Any


class CopyOut(Schema):
    """A test that was ridden with a piece of kit as it was described then."""

    id: UUID
    title: str
    started_at: str | None
    differs: list[DifferenceOut]


class CarriedOut(Schema):
    """Tests that were changed; their results are computed anew."""

    tests: list[UUID]


def copy_of(copy: Copy) -> CopyOut:
    """A test with what its copy has otherwise."""
    return CopyOut(
        id=copy.test.id,
        title=copy.test.title,
        started_at=copy.test.started_at_text or None,
        differs=[DifferenceOut.model_validate(item) for item in copy.differs],
    )


def parts_in(payload: Any) -> dict[str, dict[str, Any]]:
    """The parts that a request names, moments and rows as test.json has them."""
    found = {}
    for name in SHEET_PARTS:
        part = getattr(payload, name)
        if part is not None:
            values = part.model_dump(mode="json")
            moments = (item for item in SHEET_PARTS[name].items if item.kind == "moment")
            for item in moments:
                moment = getattr(part, item.name)
                values[item.name] = None if moment is None else moment.isoformat()
            found[name] = values
    return found


def parts_of(document: dict[str, Any]) -> Any:
    """A stored sheet, part by part."""
    return SheetPartsOut(
        **{
            name: _PARTS_OUT[name](**values_of(document, part))
            for name, part in SHEET_PARTS.items()
        }
    )


def changes_of(test: RangeTest) -> list[SheetChangeOut]:
    """The newest changes of a sheet."""
    rows = test.sheet_revisions.select_related("by")[:MOST_SHOWN]
    return [_change_of(row) for row in rows]


def _change_of(row: SheetRevision) -> SheetChangeOut:
    return SheetChangeOut(
        id=row.pk,
        part=row.part,
        taken=row.taken,
        made_at=row.made_at,
        by=row.by.username if row.by else "",
        before=row.before,
        after=row.after,
    )
