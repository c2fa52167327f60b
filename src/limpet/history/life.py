"""The life of a vehicle: what all of its tests say together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from limpet.assumptions import load_kg
from limpet.carry.start_values import START_VALUES
from limpet.figures.legs import SPEED_EDGES, band_name
from limpet.fitting.curve import LevelCurve, level_curve
from limpet.history.dated import Dated
from limpet.history.drift import Drift, drifts_of
from limpet.history.facts import Facts
from limpet.history.gauge import pooled_gauge
from limpet.history.learn import learn_from
from limpet.history.pool import pooled
from limpet.quantity import Quantity
from limpet.road.kinds import VehicleKind
from limpet.state.priors import LESSONS, PooledStep
from limpet.trip import RoadFit
from limpet.units import METRES_PER_KM

#: Of an instrument's factor over several tests, u at least [-].
FACTOR_FLOOR = 0.01


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeedBand:
    """Consumption while a speed was held, over all tests that tell it; bounds in m/s, None is open."""

    from_mps: float | None
    to_mps: float | None
    distance_m: float
    wh_per_km: Quantity
    tests: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Taught:
    """A number that its tests taught, under the name that it is used by; `of` names an instrument.

    `lesson` is the name of `LESSONS` that it is switched off by.
    """

    name: str
    lesson: str
    of: str | None
    value: Quantity
    tests: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class VehicleLife:
    """A vehicle over its tests; `curve` is what its fitted road load takes on the level, None without a fit."""

    bands: tuple[SpeedBand, ...]
    curve: LevelCurve | None
    taught: tuple[Taught, ...]
    gauge: tuple[PooledStep, ...]
    drifts: tuple[Drift, ...]


def vehicle_life(
    tests: Sequence[Dated],
    vehicle: str,
    *,
    kind: VehicleKind = "bicycle",
    mass_kg: float | None = None,
    road: RoadFit | None = None,
) -> VehicleLife:
    """What tests say of one vehicle, by the same rules that teach the next test.

    Parameters
    ----------
    tests : of the vehicle, oldest first
    vehicle : what it is called in their facts
    kind, mass_kg : of the vehicle; its kind's mass where it was not weighed [kg]
    road : the road load that was fitted to its tests, for the curve
    """
    facts = [item.facts for item in tests]
    return VehicleLife(
        bands=_bands(facts),
        curve=None if road is None else level_curve(road, kind, _moving_kg(kind, mass_kg)),
        taught=(*_instruments(facts), *_learned(facts, vehicle)),
        gauge=pooled_gauge(facts),
        drifts=drifts_of(tests),
    )


def _moving_kg(kind: VehicleKind, mass_kg: float | None) -> float:
    """A vehicle with a rider as assumed [kg]."""
    own = START_VALUES[kind].mass_kg[0] if mass_kg is None else mass_kg
    return own + load_kg(None, None)[0]


def _bands(facts: Sequence[Facts]) -> tuple[SpeedBand, ...]:
    """Consumption by speed, slowest first: each test's word by 1/u², their spread counting."""
    edges = (None, *SPEED_EDGES, None)
    found = []
    for low, high in pairwise(edges):
        name = band_name(low, high)
        mine = [
            (item.title, metres, value, std)
            for item in facts
            if not item.assisted
            for band, metres, value, std in item.bands
            if band == name
        ]
        told = pooled([((value, std), title) for title, _, value, std in mine], 0.0)
        if told is not None:
            found.append(
                SpeedBand(
                    from_mps=low,
                    to_mps=high,
                    distance_m=sum(metres for _, metres, _, _ in mine),
                    wh_per_km=Quantity.of(told.value, "Wh/km", told.standard_uncertainty),
                    tests=told.tests,
                )
            )
    return tuple(found)


def _instruments(facts: Sequence[Facts]) -> tuple[Taught, ...]:
    """What each instrument showed over what was true, those of one kind apart by their names."""
    names = dict.fromkeys((kind, item.names.get(kind)) for item in facts for kind in item.factors)
    found = []
    for kind, called in names:
        told = pooled(
            [
                (item.factors[kind], item.title)
                for item in facts
                if kind in item.factors and item.names.get(kind) == called
            ],
            FACTOR_FLOOR,
        )
        if told is not None:
            value = Quantity.of(told.value, "1", told.standard_uncertainty)
            found.append(Taught(name=kind, lesson=kind, of=called, value=value, tests=told.tests))
    return tuple(found)


#: What else is learned of a vehicle, by name: the factor to its unit here, and the unit.
_UNITS = {
    "gauge_bend": (1.0, "1"),
    "gauge_bottom": (1.0, "1"),
    "came_of_shown": (1.0, "1"),
    "consumption_wh_per_m": (METRES_PER_KM, "Wh/km"),
    "run_to_run": (1.0, "1"),
}


_LESSON_OF = {name: lesson for lesson, names in LESSONS.items() for name in names}


def _learned(facts: Sequence[Facts], vehicle: str) -> tuple[Taught, ...]:
    learned = learn_from(facts, vehicle, None).learned
    return tuple(
        Taught(
            name=name,
            lesson=_LESSON_OF[name],
            of=None,
            value=Quantity.of(
                learned[name].value * factor, unit, learned[name].standard_uncertainty * factor
            ),
            tests=learned[name].tests,
        )
        for name, (factor, unit) in _UNITS.items()
        if name in learned
    )
