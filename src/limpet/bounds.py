"""The span of numbers that a field may hold, once for files, forms and the core's own values.

The bounds catch slips (grams for kilograms, millivolts for volts), not unusual vehicles.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any, Final

from pydantic import Field

from limpet.units import Kind


@dataclass(frozen=True, slots=True, kw_only=True)
class Span:
    """What a field may hold: `low` to `high` in the core's unit of its kind, both included."""

    kind: Kind
    low: float
    high: float

    def field(self) -> Any:
        """The span as pydantic reads it."""
        return Field(ge=self.low, le=self.high, allow_inf_nan=False)

    def holds(self, value: float) -> bool:
        """Whether a number lies within; NaN does not."""
        return self.low <= value <= self.high


def _span(kind: Kind, low: float, high: float) -> Span:
    return Span(kind=kind, low=low, high=high)


# Vehicle and rider.
VEHICLE_MASS: Final = _span("mass", 1, 2000)
RIDER_MASS: Final = _span("mass", 1, 400)
LOAD: Final = _span("mass", 0, 1000)
DRAG_AREA: Final = _span("area", 0.05, 5)
ROLLING: Final = _span("share", 0.001, 0.2)
EFFICIENCY: Final = _span("share", 0.2, 1)
AUXILIARY: Final = _span("power", 0, 5000)
REGENERATION: Final = _span("share", 0, 1)
MOTOR_POWER: Final = _span("power", 20, 200_000)
#: A walking pace at least, and what no light vehicle passes.
SPEED: Final = _span("speed", 0.1, 100)
TARGET_SPEED: Final = _span("speed", 0.1, 60)
CURRENT_LIMIT: Final = _span("current", 0.1, 2000)
# The pack. Less than a twentieth of an amp-hour moves nobody.
PACK_VOLTAGE: Final = _span("voltage", 0.1, 1000)
PACK_CHARGE: Final = _span("charge", 0.05, 2000)
PACK_ENERGY: Final = _span("energy", 0.1, 200_000)
PACK_RESISTANCE: Final = _span("resistance", 1e-4, 20)
RETAINED: Final = _span("share", 0.1, 1.3)
CYCLES: Final = _span("share", 0, 100_000)
# A cell's data sheet.
CELL_CHARGE: Final = _span("charge", 0.05, 500)
CELL_VOLTAGE: Final = _span("voltage", 1, 4.5)
CELL_CURRENT: Final = _span("current", 0.01, 2000)
CELL_RESISTANCE: Final = _span("resistance", 1e-5, 1)
CELL_MASS: Final = _span("mass", 0.0005, 20)
# The day. 40 m/s is above force 12: nobody rides in that.
AIR_TEMPERATURE: Final = _span("temperature", -40, 50)
SHEET_TEMPERATURE: Final = _span("temperature", -60, 80)
WIND: Final = _span("speed", 0, 40)
SHEET_WIND: Final = _span("speed", 0, 60)
BEARING: Final = _span("angle", 0, 360)
AIR_PRESSURE: Final = _span("air_pressure", 500, 1100)
PERCENT: Final = _span("share", 0, 100)
TYRE_PRESSURE: Final = _span("pressure", 20, 1500)
# The way.
LENGTH: Final = _span("distance", 0.01, 2_000_000)
LAP: Final = _span("distance", 0.01, 200_000)
CLIMB: Final = _span("length", 0, 9000)
STOPS: Final = _span("share", 0, 1000)
CLAIMED_SPEED: Final = _span("speed", 0.5, 60)
MINIMUM_SPEED: Final = _span("speed", 0.1, 20)
PEDALLING: Final = _span("power", 0, 1000)
CLIMB_PER_KM: Final = _span("length", 0, 400)
STOPS_PER_KM: Final = _span("share", 0, 100)
START_SHARE: Final = _span("share", 0.01, 1)
CHARGER_SHARE: Final = _span("share", 0.4, 1)
PROBABILITY: Final = _span("share", 0.5, 0.999)
CONSUMPTION: Final = _span("consumption", 0.5, 1000)

CELLS_IN_SERIES: Final = _span("share", 1, 300)
CELLS_IN_PARALLEL: Final = _span("share", 1, 1000)
GAUGE_SHARE: Final = _span("share", 0.0, 1.0)
GAUGE_STEPS: Final = _span("share", 1, 1000)
#: A load of a sheet; a rider's and a vehicle's are held to the bounds of a sheet there.
SHEET_MASS: Final = _span("mass", 0.001, 2000)
KEPT_BACK: Final = _span("share", 0, 0.99)

#: Packs that go along at most.
MOST_PACKS: Final = 20

#: Longest texts [characters].
MOST_NAME, MOST_TITLE, MOST_WORDS, MOST_NOTE = 100, 300, 200, 5000

#: Tags of a test, and their length.
MOST_TAGS, MOST_TAG = 12, 40

Tag = Annotated[str, Field(min_length=1, max_length=MOST_TAG)]
Name = Annotated[str, Field(max_length=MOST_TITLE)]
Words = Annotated[str, Field(max_length=MOST_WORDS)]
NoteText = Annotated[str, Field(max_length=MOST_NOTE)]

Number = Annotated[float, Field(allow_inf_nan=False)]
Mass = Annotated[float, Field(gt=0, le=2000, allow_inf_nan=False)]
Load = Annotated[float, LOAD.field()]
Share = Annotated[float, Field(ge=0, lt=1, allow_inf_nan=False)]
Volts = Annotated[float, PACK_VOLTAGE.field()]
AmpHours = Annotated[float, PACK_CHARGE.field()]
WattHours = Annotated[float, PACK_ENERGY.field()]
Celsius = Annotated[float, SHEET_TEMPERATURE.field()]
Speed = Annotated[float, SPEED.field()]
TargetSpeed = Annotated[float, TARGET_SPEED.field()]
Percent = Annotated[float, PERCENT.field()]
Metres = Annotated[float, LENGTH.field()]
LapMetres = Annotated[float, LAP.field()]
Climb = Annotated[float, CLIMB.field()]
Stops = Annotated[float, STOPS.field()]
Bearing = Annotated[float, BEARING.field()]
Kilopascal = Annotated[float, TYRE_PRESSURE.field()]
Hectopascal = Annotated[float, AIR_PRESSURE.field()]
WindSpeed = Annotated[float, SHEET_WIND.field()]
Cycles = Annotated[float, CYCLES.field()]
