"""Fields of a form: quantities as a rider types them, bare numbers, words. Each has its bounds.

What is needed and what may be left out are different types: `typed` never holds None.
"""

from __future__ import annotations

import unicodedata
from typing import Annotated, Any

from pydantic import AfterValidator, BeforeValidator, Field, WithJsonSchema
from pydantic_core import PydanticCustomError

from limpet.fields import FormField, bounds_in
from limpet.units import CORE_UNITS, LONGEST_TYPED, Kind, parse_quantity
from server.wire.reader import reader_units


def _read(value: Any, kind: Kind) -> Any:
    if isinstance(value, bool):
        raise PydanticCustomError("quantity", "expected a number or a quantity")
    return parse_quantity(value, kind) if isinstance(value, str) else value


def _needed(kind: Kind) -> BeforeValidator:
    def read(value: Any) -> Any:
        if value is None or (isinstance(value, str) and not value.strip()):
            text = f"is needed; write it like {CORE_UNITS[kind][1]}"
            raise PydanticCustomError("needed", "{text}", {"text": text})
        return _read(value, kind)

    return BeforeValidator(read)


def _may_be_absent(kind: Kind) -> BeforeValidator:
    def read(value: Any) -> Any:
        return None if isinstance(value, str) and not value.strip() else _read(value, kind)

    return BeforeValidator(read)


def _no_truth(value: Any) -> Any:
    """True is not 1 here: whoever sends it means something else."""
    if isinstance(value, bool):
        raise PydanticCustomError("number", "expected a number")
    return value


def _within(field: FormField) -> AfterValidator:
    """Holds a number to its bounds, and says them in the units of who typed it."""

    def check(value: float) -> float:
        if not field.span.holds(value):
            text = f"takes {bounds_in(field, reader_units())}"
            raise PydanticCustomError("outside", "{text}", {"text": text})
        return value

    return AfterValidator(check)


def _schema(field: FormField, *, needed: bool, bare: bool) -> WithJsonSchema:
    span = field.span
    kinds: list[dict[str, Any]] = [
        {"type": "number", "minimum": span.low, "maximum": span.high},
    ]
    short, example = CORE_UNITS[span.kind]
    words = "A number" if bare else f"A number in {short}, or text with a unit such as {example}"
    if not bare:
        kinds.append({"type": "string", "maxLength": LONGEST_TYPED})
    if not needed:
        kinds.append({"type": "null"})
    return WithJsonSchema({"anyOf": kinds, "description": words})


def typed(field: FormField) -> Any:
    """The type of a form field that must hold a quantity within its bounds."""
    held = Annotated[float, _within(field)]
    kind = field.span.kind
    return Annotated[held, _needed(kind), _schema(field, needed=True, bare=False)]


def typed_or_none(field: FormField) -> Any:
    """The type of a form field that may hold a quantity within its bounds."""
    # The bounds stand on the number alone: "not known" has none.
    held = Annotated[float, _within(field)]
    kind = field.span.kind
    return Annotated[held | None, _may_be_absent(kind), _schema(field, needed=False, bare=False)]


def number(field: FormField) -> Any:
    """The type of a field that must hold a bare number within its bounds."""
    held = Annotated[float, _within(field)]
    return Annotated[held, BeforeValidator(_no_truth), _schema(field, needed=True, bare=True)]


def number_or_none(field: FormField) -> Any:
    """The type of a field that may hold a bare number within its bounds."""
    held = Annotated[float, _within(field)]
    return Annotated[
        held | None, BeforeValidator(_no_truth), _schema(field, needed=False, bare=True)
    ]


def whole(low: int, high: int) -> Any:
    """The type of a field that must hold a whole number."""
    return Annotated[int, Field(ge=low, le=high), BeforeValidator(_no_truth)]


#: Characters that are neither shown nor break a line; a table or a file would lose them.
_LINE_BREAKS = frozenset("\n\r\t")


def _clean(text: str, *, lines: bool) -> str:
    for mark in text:
        if unicodedata.category(mark) in ("Cc", "Cs") and not (lines and mark in _LINE_BREAKS):
            raise PydanticCustomError(
                "control", "holds the control character {code}; remove it", {"code": hex(ord(mark))}
            )
    return text


def line(most: int, least: int = 0) -> Any:
    """The type of a text on one line, at most so many characters."""
    return Annotated[
        str,
        Field(min_length=least, max_length=most),
        AfterValidator(lambda text: _clean(text, lines=False)),
    ]


def paragraph(most: int) -> Any:
    """The type of a text that may have several lines, at most so many characters."""
    return Annotated[
        str, Field(max_length=most), AfterValidator(lambda text: _clean(text, lines=True))
    ]
