"""Fields of a form: quantities as a rider types them, bare numbers, words. Each has its bounds.

What is needed and what may be left out are different types: `Annotated[float, Typed(field)]` never
holds None, `Annotated[float | None, Typed(field)]` may.
"""

from __future__ import annotations

import unicodedata
from typing import Annotated, Any, Final

from pydantic import (
    AfterValidator,
    BeforeValidator,
    GetCoreSchemaHandler,
    GetJsonSchemaHandler,
    ValidatorFunctionWrapHandler,
)
from pydantic_core import CoreSchema, PydanticCustomError, core_schema

from limpet.fields import FormField, bounds_in, value_in
from limpet.units import CORE_UNITS, LONGEST_TYPED, parse_quantity
from server.wire.reader import reader_units

#: A refusal that says all there is to say, what was given among it.
SAID_WHOLE: Final = "said_whole"


def _no_truth(value: Any) -> Any:
    """True is not 1 here: whoever sends it means something else."""
    if isinstance(value, bool):
        raise PydanticCustomError("number", "expected a number")
    return value


NoTruth = BeforeValidator(_no_truth)


class Held:
    """A number within the bounds of a field, which a refusal says in the units of who typed it."""

    #: Whether text with a unit is taken.
    reads_text = False

    def __init__(self, field: FormField) -> None:
        self.field = field

    def __get_pydantic_core_schema__(
        self, source: Any, handler: GetCoreSchemaHandler
    ) -> CoreSchema:
        """Around the type's own: `float` must be there, `float | None` may be left out."""
        return core_schema.no_info_wrap_validator_function(
            self._needed if source is float else self._or_none, handler(source)
        )

    def __get_pydantic_json_schema__(
        self, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        """What may be sent."""
        span = self.field.span
        short, example = CORE_UNITS[span.kind]
        kinds: list[dict[str, Any]] = [
            {"type": "number", "minimum": span.low, "maximum": span.high}
        ]
        words = "A number"
        if self.reads_text:
            kinds.append({"type": "string", "maxLength": LONGEST_TYPED})
            words = f"A number in {short}, or text with a unit such as {example}"
        if "null" in str(handler(schema)):
            kinds.append({"type": "null"})
        return {"anyOf": kinds, "description": words}

    def _needed(self, value: Any, inner: ValidatorFunctionWrapHandler) -> Any:
        if self.reads_text and (value is None or (isinstance(value, str) and not value.strip())):
            text = f"is needed; write it like {CORE_UNITS[self.field.span.kind][1]}"
            raise PydanticCustomError(SAID_WHOLE, "{text}", {"text": text})
        return self._or_none(value, inner)

    def _or_none(self, value: Any, inner: ValidatorFunctionWrapHandler) -> Any:
        found = inner(self._taken(value))
        if found is not None and not self.field.span.holds(found):
            units = reader_units()
            # What was typed with a unit is said as it was typed.
            given = value if isinstance(value, str) else value_in(self.field, found, units)
            text = f"is {given}, takes {bounds_in(self.field, units)}"
            raise PydanticCustomError(SAID_WHOLE, "{text}", {"text": text})
        return found

    def _taken(self, value: Any) -> Any:
        return _no_truth(value)


class Typed(Held):
    """The same for a quantity as a rider types it; nothing typed is not known."""

    reads_text = True

    def _taken(self, value: Any) -> Any:
        if isinstance(value, str) and not value.strip():
            return None
        value = _no_truth(value)
        return parse_quantity(value, self.field.span.kind) if isinstance(value, str) else value


#: Characters that are neither shown nor break a line; a table or a file would lose them.
_LINE_BREAKS = frozenset("\n\r\t")


def _clean(text: str, *, lines: bool) -> str:
    for mark in text:
        if unicodedata.category(mark) in ("Cc", "Cs") and not (lines and mark in _LINE_BREAKS):
            raise PydanticCustomError(
                "control", "holds the control character {code}; remove it", {"code": hex(ord(mark))}
            )
    return text


def _one_line(text: str) -> str:
    return _clean(text, lines=False)


def _lines(text: str) -> str:
    return _clean(text, lines=True)


#: A text on one line, and one that may have several: with `Field(max_length=…)` beside them.
Line = Annotated[str, AfterValidator(_one_line)]
Lines = Annotated[str, AfterValidator(_lines)]
