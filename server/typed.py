"""Fields that take a number in the core's unit or a quantity as a rider types it."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import BeforeValidator, WithJsonSchema

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


MassIn = Annotated[float | None, _reader("mass"), _schema("mass")]
DistanceIn = Annotated[float | None, _reader("distance"), _schema("distance")]
SpeedIn = Annotated[float | None, _reader("speed"), _schema("speed")]
VoltageIn = Annotated[float | None, _reader("voltage"), _schema("voltage")]
CurrentIn = Annotated[float | None, _reader("current"), _schema("current")]
ChargeIn = Annotated[float | None, _reader("charge"), _schema("charge")]
EnergyIn = Annotated[float | None, _reader("energy"), _schema("energy")]
PressureIn = Annotated[float | None, _reader("pressure"), _schema("pressure")]
TemperatureIn = Annotated[float | None, _reader("temperature"), _schema("temperature")]
