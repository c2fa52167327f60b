"""The span of numbers that a field may hold, for files and forms alike."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

# The bounds catch slips (grams for kilograms, millivolts for
# volts), not unusual vehicles. Pydantic reads them when a bundle or a form comes in.
Number = Annotated[float, Field(allow_inf_nan=False)]
Mass = Annotated[float, Field(gt=0, le=2000, allow_inf_nan=False)]
Load = Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, lt=1, allow_inf_nan=False)]
Volts = Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)]
AmpHours = Annotated[float, Field(gt=0, le=2000, allow_inf_nan=False)]
WattHours = Annotated[float, Field(gt=0, le=200_000, allow_inf_nan=False)]
Celsius = Annotated[float, Field(ge=-60, le=80, allow_inf_nan=False)]
Speed = Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)]
Percent = Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]
Metres = Annotated[float, Field(gt=0, le=2_000_000, allow_inf_nan=False)]
