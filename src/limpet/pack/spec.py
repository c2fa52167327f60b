"""A pack as its label describes it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from limpet.bounds import AmpHours, Cycles, Name, Volts, WattHours
from limpet.pack.chemistry import Chemistry

#: What may be filled in where nobody says it.
TakenName = Literal["chemistry", "series", "rated_ah"]
Taken = tuple[TakenName, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class PackSpec:
    """One pack: S series by P parallel cells, its label and its voltage limits.

    `taken` names what nobody said and is a guess (`pack.labelled`).
    """

    chemistry: Chemistry
    series: Annotated[int, Field(ge=1, le=300)]
    rated_ah: AmpHours
    name: Name | None = None
    parallel: Annotated[int, Field(ge=1, le=1000)] | None = None
    rated_wh: WattHours | None = None
    nominal_v: Volts | None = None
    full_v: Volts | None = None
    cutoff_v: Volts | None = None
    equivalent_full_cycles: Cycles | None = None
    taken: Annotated[Taken, Field(max_length=3)] = ()

    @property
    def knows_energy(self) -> bool:
        """Whether a label tells its energy."""
        return self.rated_wh is not None or "rated_ah" not in self.taken
