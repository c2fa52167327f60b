"""Fields of a form: quantities as a rider types them, bare numbers, words. Each has its bounds.

What is needed and what may be left out are different types: `typed` never holds None.
"""

from __future__ import annotations

import unicodedata
from typing import Annotated, Any

from pydantic import AfterValidator, BeforeValidator, Field, WithJsonSchema
from pydantic_core import PydanticCustomError

from limpet.bounds import Span
from limpet.units import CORE_UNITS, LONGEST_TYPED, Kind, parse_quantity


def _read(value: Any, kind: Kind) -> Any:
    if isinstance(value, bool):
        raise PydanticCustomError("quantity", "expected a number or a quantity")
    return parse_quantity(value, kind) if isinstance(value, str) else value


def _needed(kind: Kind) -> BeforeValidator:
    def read(value: Any) -> Any:
        if value is None or (isinstance(value, str) and not value.strip()):
            _, example = CORE_UNITS[kind]
            text = f"is needed; write it like {example}"
            raise PydanticCustomError("needed", "{text}", {"text": text})
        return _read(value, kind)

    return BeforeValidator(read)


def _may_be_absent(kind: Kind) -> BeforeValidator:
    def read(value: Any) -> Any:
        return None if isinstance(value, str) and not value.strip() else _read(value, kind)

    return BeforeValidator(read)


def _schema(span: Span, *, needed: bool) -> WithJsonSchema:
    short, example = CORE_UNITS[span.kind]
    kinds: list[dict[str, Any]] = [
        {"type": "number", "minimum": span.low, "maximum": span.high},
        {"type": "string", "maxLength": LONGEST_TYPED},
    ]
    if not needed:
        kinds.append({"type": "null"})
    words = f"A number in {short}, or text with a unit such as {example}"
    return WithJsonSchema({"anyOf": kinds, "description": words})


def typed(span: Span) -> Any:
    """The type of a form field that must hold a quantity within a span."""
    number = Annotated[float, span.field()]
    return Annotated[number, _needed(span.kind), _schema(span, needed=True)]


def typed_or_none(span: Span) -> Any:
    """The type of a form field that may hold a quantity within a span."""
    # The bounds stand on the number alone: "not known" has none.
    number = Annotated[float, span.field()]
    return Annotated[number | None, _may_be_absent(span.kind), _schema(span, needed=False)]


def _no_truth(value: Any) -> Any:
    """True is not 1 here: whoever sends it means something else."""
    if isinstance(value, bool):
        raise PydanticCustomError("number", "expected a number")
    return value


def number(span: Span) -> Any:
    """The type of a field that must hold a bare number within a span."""
    return Annotated[float, span.field(), BeforeValidator(_no_truth)]


def number_or_none(span: Span) -> Any:
    """The type of a field that may hold a bare number within a span."""
    return number(span) | None


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
