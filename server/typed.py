"""Fields that take a number in the core's unit or a quantity as a rider types it."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import BeforeValidator, Field, WithJsonSchema

from limpet.units import CORE_UNITS, Kind, parse_quantity


def _reader(kind: Kind) -> BeforeValidator:
    def read(value: Any) -> Any:
        if isinstance(value, str):
            return parse_quantity(value, kind) if value.strip() else None
        return value

    return BeforeValidator(read)


def _schema(kind: Kind) -> WithJsonSchema:
    _, short, example = CORE_UNITS[kind]
    return WithJsonSchema(
        {
            "anyOf": [{"type": "number"}, {"type": "string"}, {"type": "null"}],
            "description": f"A number in {short}, or text with a unit such as {example}",
        }
    )


def typed(kind: Kind, **bounds: float) -> Any:
    """The type of an optional form field that holds a quantity.

    Parameters
    ----------
    kind : what sort of quantity
    bounds : gt, ge, lt, le in the core's unit of it
    """
    # The bounds stand on the number alone: "not known" has none.
    number = Annotated[float, Field(allow_inf_nan=False, **bounds)]
    return Annotated[number | None, _reader(kind), _schema(kind)]
