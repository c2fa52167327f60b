"""What earlier tests taught of a vehicle and a pack: inputs to draw from instead of what is assumed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, Final

import numpy as np

from limpet.pack import CurveFamily
from limpet.quantity import Quantity
from limpet.road.kinds import Surface
from limpet.uncertain.input import Input

if TYPE_CHECKING:
    from limpet.trip import RoadFit


@dataclass(frozen=True, slots=True, kw_only=True)
class Learned:
    """A number that earlier tests taught: value, u, and the titles of the tests.

    `said` names what taught it where that was no test.
    """

    value: float
    standard_uncertainty: float
    tests: tuple[str, ...] = ()
    said: str = ""

    @property
    def source(self) -> str:
        """Where it is from, as an input says it."""
        return self.said or f"learned: {', '.join(self.tests)}"[:300]


@dataclass(frozen=True, slots=True, kw_only=True)
class LearnedCurve:
    """A pack's own curve, as a ride of its own left the numbers of its family (`CurveFamily`).

    `mean` (m,) and `covariance` (m, m) of them, in the family of a `chemistry`; `test` by its title.
    """

    chemistry: str
    mean: tuple[float, ...]
    covariance: tuple[tuple[float, ...], ...]
    test: str = ""

    def of(self, family: CurveFamily, chemistry: str) -> CurveFamily:
        """A chemistry's family as this curve leaves it; the family itself where it is not of it."""
        if self.chemistry != chemistry or len(self.mean) != family.modes:
            return family
        source = f"learned: {self.test}"[:300]
        return family.narrowed(np.array(self.mean), np.array(self.covariance), source)


@dataclass(frozen=True, slots=True, kw_only=True)
class PooledStep:
    """What one step of a gauge (its share of full) meant over several tests, by their titles."""

    shown: float
    energy_left_fraction: Quantity
    tests: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Rides:
    """What like rides took [Wh/km], and where that was found on the whole; None is not known."""

    wh_per_km: Learned
    speed_mps: float | None = None
    load_kg: float | None = None
    temp_c: float | None = None
    climb_m_per_km: float | None = None
    surface: Surface | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Priors:
    """Learned numbers by name; without any, everything stays as it is assumed.

    `gauge_bend`, `gauge_bottom` of the vehicle's gauge; `came_of_shown` what came over what its display promised; `capacity_factor`, of one pack at 25 °C over its
    label [-]; `resistance_ohm` of one pack at 25 °C [Ω]; `consumption_wh_per_m` of the next such ride [Wh/m]; `run_to_run` its
    relative spread; `trip`, `odometer` what the instrument shows over what is true; `wall` what a ride gets of the energy at the socket. `rides` and
    `road`, the vehicle's road load, are what a trip is told, `gauge` what
    the gauge meant, `curve` the pack's own.
    """

    learned: Mapping[str, Learned] = field(default_factory=dict)
    rides: Rides | None = None
    road: RoadFit | None = None
    gauge: tuple[PooledStep, ...] = ()
    curve: LearnedCurve | None = None

    @property
    def tell(self) -> bool:
        """Whether there is anything that a result would be another by."""
        return bool(self.learned or self.gauge or self.curve)

    def also(self, **more: Learned) -> Priors:
        """The same with more of it."""
        return replace(self, learned={**self.learned, **more})

    def without(self, *names: str) -> Priors:
        """The same with some of it switched off."""
        kept = {k: v for k, v in self.learned.items() if k not in names}
        return replace(
            self,
            learned=kept,
            rides=None if "rides" in names else self.rides,
            road=None if "road" in names else self.road,
        )


NOTHING = Priors()

#: What a vehicle teaches, as a rider switches it on or off: the numbers that go with each.
LESSONS: Final[Mapping[str, tuple[str, ...]]] = {
    "trip": ("trip",),
    "odometer": ("odometer",),
    "gauge": ("gauge_bend", "gauge_bottom"),
    "shown_range": ("came_of_shown",),
    "consumption": ("consumption_wh_per_m", "run_to_run", "rides"),
}


def taught(
    inputs: list[Input], priors: Priors, *, slower: float, packs: int, by_distance: bool
) -> list[Input]:
    """The inputs of a test, with what was learned in place of what would be assumed.

    Parameters
    ----------
    slower : resistance at this test's temperature over that at 25 °C [-]
    packs : that share the current
    by_distance : whether progress is counted in metres
    """
    return [_one(item, priors, slower, packs, by_distance) for item in inputs]


def _one(item: Input, priors: Priors, slower: float, packs: int, by_distance: bool) -> Input:
    known = priors.learned
    if item.name in ("gauge_bend", "gauge_bottom", "came_of_shown") and item.name in known:
        return _from(item, known[item.name])
    if item.name == "retained" and "capacity_factor" in known:
        return _from(item, known["capacity_factor"])
    if item.name == "label" and "capacity_factor" in known:
        # The capacity was measured: what the label promises does not matter any more.
        return replace(item, value=1.0, standard_uncertainty=0.0, source="measured before")
    if item.name in ("trip", "odometer", "wall") and item.name in known:
        # The readings were set right already (`calibrated`).
        return replace(item, shape="normal", source=known[item.name].source)
    if item.name == "resistance_ohm" and item.source == "assumed" and item.name in known:
        return _from(item, known[item.name], slower / packs)
    if item.name == "consumption" and "consumption_wh_per_m" in known and by_distance:
        # Of a vehicle that is known none is ten times as thirsty.
        return replace(_from(item, known["consumption_wh_per_m"]), shape="lognormal")
    return item


def _from(item: Input, found: Learned, factor: float = 1.0) -> Input:
    return replace(
        item,
        value=found.value * factor,
        standard_uncertainty=found.standard_uncertainty * factor,
        source=found.source,
    )
