"""What a forecast gives: the JSON of trip.md, and what the screens draw beside it."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any

from limpet.drive.ledger import Ledger
from limpet.notices import Notice
from limpet.quantity import Quantity
from limpet.uncertain.input import Input

#: The slowest that anybody is told to ride [m/s].
SLOWEST_MPS = 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class RouteAnswer:
    """The trip itself. `arrives_probability` is arriving with the reserve untouched;
    `reaches_probability` arriving at all. `laps` for a lap."""

    distance_m: float
    ascent_m: float
    energy: Quantity
    duration_s: Quantity
    energy_left_fraction: Quantity
    arrives_probability: float
    reaches_probability: float
    laps: int | None


@dataclass(frozen=True, slots=True, kw_only=True)
class TurnPoint:
    """How far out one may go and still come back, and the chance of that at points on the way."""

    distance_m: float
    probability: float
    curve: tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class SlowTo:
    """The highest speed at which the trip succeeds, and with what chance."""

    speed_mps: float
    probability: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Peak:
    """The most that the way asks of the pack, at the best values."""

    power_w: float
    current_a: float
    loaded_v: float
    per_cell_a: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ProfilePoint:
    """Energy left along the way, 95% band; volts and speed at the best values, None once ended."""

    distance_m: float
    low: float
    value: float
    high: float
    loaded_v: float | None
    speed_mps: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Swing:
    """What one input over its plausible span does to the range to cut-off."""

    input: str
    from_value: float
    to_value: float
    range_low_m: float
    range_high_m: float

    @property
    def size_m(self) -> float:
        """How much the range moves [m]."""
        return abs(self.range_high_m - self.range_low_m)


@dataclass(frozen=True, slots=True, kw_only=True)
class Forecast:
    """The whole answer; distances in m, energies in Wh."""

    wh_per_km: Quantity
    wh_per_mi: Quantity
    range_to_cutoff: Quantity
    range_to_reserve: Quantity
    reserve: float
    floor_m: float
    route: RouteAnswer
    turn_point: TurnPoint | None
    slow_to: SlowTo | None
    ends_by: dict[str, float]
    peak: Peak
    profile: tuple[ProfilePoint, ...]
    sensitivity: tuple[Swing, ...]
    inputs: tuple[Input, ...]
    usable_wh: float
    ledger: Ledger | None
    warnings: tuple[Notice, ...]

    def to_json(self) -> dict[str, Any]:
        """The object of trip.md; what it holds beyond that stands at the end."""
        turn, slow = self.turn_point, self.slow_to
        return {
            "limpet_forecast": 1,
            "consumption": {
                "wh_per_km": self.wh_per_km.to_json(),
                "wh_per_mi": self.wh_per_mi.to_json(),
            },
            "range_to_cutoff": self.range_to_cutoff.to_json(),
            "range_to_reserve": self.range_to_reserve.to_json(),
            "route": {
                "distance_m": self.route.distance_m,
                "ascent_m": self.route.ascent_m,
                "energy": self.route.energy.to_json(),
                "duration_s": self.route.duration_s.to_json(),
                "energy_left_fraction": self.route.energy_left_fraction.to_json(),
                "arrives_probability": self.route.arrives_probability,
                "reaches_probability": self.route.reaches_probability,
                "laps": self.route.laps,
            },
            "turn_point": None
            if turn is None
            else {"distance_m": turn.distance_m, "probability": turn.probability},
            "slow_to": None if slow is None else asdict(slow),
            "ends_by": dict(self.ends_by),
            "peak": asdict(self.peak),
            "profile": [
                {
                    "distance_m": point.distance_m,
                    "energy_left_fraction": {
                        "low": point.low,
                        "value": point.value,
                        "high": point.high,
                    },
                    "loaded_v": point.loaded_v,
                    "speed_mps": point.speed_mps,
                }
                for point in self.profile
            ],
            "sensitivity": [
                {
                    "input": swing.input,
                    "from": swing.from_value,
                    "to": swing.to_value,
                    "range_low_m": swing.range_low_m,
                    "range_high_m": swing.range_high_m,
                }
                for swing in self.sensitivity
            ],
            "inputs": [
                {
                    "name": item.name,
                    "value": item.value,
                    "standard_uncertainty": item.standard_uncertainty,
                    "source": item.source,
                }
                for item in self.inputs
            ],
            "warnings": [notice.to_json() for notice in self.warnings],
            "reserve": self.reserve,
            "floor_m": self.floor_m,
            "usable_wh": self.usable_wh,
            "turn_chances": []
            if turn is None
            else [{"distance_m": d, "probability": p} for d, p in turn.curve],
            "where_it_goes_wh": None
            if self.ledger is None
            else {name: joules / 3600 for name, joules in asdict(self.ledger).items()},
        }
