"""What `follow` answers: the JSON of bundle.md."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any, Final

from limpet.figures.parts import InputResult
from limpet.figures.strip import Strip
from limpet.notices import Notice
from limpet.outlook.answer import SlowTo
from limpet.quantity import Quantity
from limpet.state.contradiction import CONTRADICTIONS
from limpet.under_way.reads import Reads


@dataclass(frozen=True, slots=True, kw_only=True)
class Way:
    """The way that is left.

    `left_m` of it; `arrives_probability` keeps the reserve, `reaches_probability` gets there at all;
    `energy_left_fraction` of usable energy on arrival; `turn_by_m` how far out, from the start, one may
    go and still come back, None once under way home or where it is too late; `slow_to` the highest speed
    at which it arrives, None where none is needed or none does.
    """

    left_m: float
    arrives_probability: float
    reaches_probability: float
    energy_left_fraction: Quantity
    turn_by_m: float | None
    slow_to: SlowTo | None

    def to_json(self) -> dict[str, Any]:
        """The object of bundle.md."""
        return {
            "left_m": self.left_m,
            "arrives_probability": self.arrives_probability,
            "reaches_probability": self.reaches_probability,
            "energy_left_fraction": self.energy_left_fraction.to_json(),
            "turn_by_m": self.turn_by_m,
            "slow_to": None if self.slow_to is None else asdict(self.slow_to),
        }


@dataclass(frozen=True, slots=True, kw_only=True)
class Enough:
    """How well the range of a full pack would be known if the ride stopped now (95% half-width,
    relative), and from what distance it would be known as well as is wanted; None before the end."""

    relative_half_width: float
    wanted: float
    at_distance_m: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Consumption:
    """What the ride took so far, or what it would take by all that is known of it."""

    wh_per_km: Quantity
    wh_per_mi: Quantity


#: What is not told of readings that contradict each other, beside the way.
OF_WHAT_IS_LEFT: Final = ("energy_left_fraction", "range_left_to_cutoff", "range_left_to_reserve")


@dataclass(frozen=True, slots=True, kw_only=True)
class Following:
    """The state of a ride under way; what nothing tells is None.

    Everything in it is of one evidence: `distance` so far and `reads`, what the rider's own instrument
    shows there; `consumption`; `strip`, its tideline; `shows_charge`, whether anything on this ride has
    shown how much is in the pack; until then no chance is given as over 95%.
    """

    at_s: float
    distance: Quantity | None
    reads: Reads | None
    consumption: Consumption | None
    strip: Strip
    shows_charge: bool
    energy_left_fraction: Quantity
    range_left_to_cutoff: Quantity
    range_left_to_reserve: Quantity
    reserve: float
    way: Way | None
    enough: Enough | None
    inputs: tuple[InputResult, ...]
    warnings: tuple[Notice, ...]

    @property
    def contradicts(self) -> bool:
        """Whether its readings contradict each other, so that no number is to be told."""
        return any(notice.code in CONTRADICTIONS for notice in self.warnings)

    def left_told(self, name: str) -> Quantity | None:
        """One of `OF_WHAT_IS_LEFT`; None where its readings contradict each other."""
        found: Quantity = getattr(self, name)
        return None if self.contradicts else found

    def to_json(self) -> dict[str, Any]:
        """The JSON of bundle.md; of readings that contradict each other nothing is told of what is left."""
        left = {name: self.left_told(name) for name in OF_WHAT_IS_LEFT}
        return {
            "limpet_follow": 1,
            "at_s": self.at_s,
            "distance": None if self.distance is None else self.distance.to_json(),
            **{name: None if told is None else told.to_json() for name, told in left.items()},
            "reserve": self.reserve,
            "way": None if self.way is None else self.way.to_json(),
            "enough": None if self.enough is None else asdict(self.enough),
            "inputs": [asdict(item) for item in self.inputs],
            "warnings": [notice.to_json() for notice in self.warnings],
        }
