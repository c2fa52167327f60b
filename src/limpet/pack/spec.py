"""A pack as its label describes it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from limpet.bounds import AmpHours, Cycles, Name, Volts, WattHours
from limpet.pack.chemistry import Chemistry


@dataclass(frozen=True, slots=True, kw_only=True)
class PackSpec:
    """One pack: S series by P parallel cells, its label and its voltage limits."""

    chemistry: Chemistry
    series: Annotated[int, Field(ge=1, le=300)]
    rated_ah: AmpHours
    name: Name | None = None
    parallel: Annotated[int, Field(ge=1, le=1000)] | None = None
    rated_wh: WattHours | None = None
    full_v: Volts | None = None
    cutoff_v: Volts | None = None
    equivalent_full_cycles: Cycles | None = None
