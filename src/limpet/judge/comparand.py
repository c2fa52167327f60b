"""A test as comparisons see it: its figures with what makes them uncertain, and how it was ridden."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cache
from typing import Any, Literal

import numpy as np
from pydantic import TypeAdapter

from limpet.evidence.model import EndReason, Purpose, RangeTest
from limpet.evidence.noted import conditions_noted, is_assisted, pedalled_share
from limpet.figures.budget import Part
from limpet.history.facts import pack_key
from limpet.judge.along import Way, way_of
from limpet.judge.places import Place, places_of
from limpet.pack.chemistry import Chemistry
from limpet.quantity import Quantity
from limpet.read.line import METERED
from limpet.read.moving import STANDING_MPS, driving_hours
from limpet.road import Surface, VehicleKind
from limpet.tell import Result
from limpet.units import METRES_PER_KM, SECONDS_PER_HOUR

#: A stop in a log of speeds: from rolling to standing [m/s]; fewer known speeds than this are no log.
ROLLING_MPS, LEAST_SPEEDS = 2.0, 100
#: How a speed scatters about its average where nobody logged it [-] (handbook section 10).
STEADY_CV, TRAFFIC_CV = 0.1, 0.3

#: Faster on average is no light vehicle [m/s] (assumption).
FASTEST_MPS = 60.0

Name = Literal["wh_per_km", "range_to_cutoff", "retained_fraction"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Figure:
    """A figure of a test with its standard uncertainty, and the inputs' shares of its variance."""

    value: float
    std: float
    parts: tuple[tuple[str, float], ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Ridden:
    """How a test was ridden; None is "nobody said".

    `speed_cv` is how the speed scattered about its average, `climb_m_per_km` what went up and
    `stops_per_km` how often it stood, where heights and speeds were logged. `pedal_w` is what legs gave,
    the mean over the ride.
    """

    speed_mps: float | None = None
    speed_cv: float = STEADY_CV
    load_kg: float | None = None
    wind_mps: float | None = None
    temp_c: float | None = None
    pressure_hpa: float | None = None
    climb_m_per_km: float | None = None
    stops_per_km: float | None = None
    tyre_kpa: float | None = None
    surface: Surface | None = None
    assisted: bool = False
    pedal_w: float | None = None

    @property
    def legs_known(self) -> bool:
        """Whether what legs gave is known: nothing, or so many watts."""
        return not self.assisted or self.pedal_w is not None


@dataclass(frozen=True, slots=True, kw_only=True)
class Comparand:
    """What comparing asks of a test; small enough to keep."""

    key: str
    title: str
    started_at: str | None
    purpose: Purpose | None
    vehicle: str | None
    kind: VehicleKind
    mass_kg: float | None
    pack: str | None
    pack_name: str | None
    #: What stands on the pack, in one string.
    label: str | None = None
    chemistry: Chemistry
    rider: str | None
    instruments: dict[str, str | None]
    figures: dict[Name, Figure]
    metered: bool
    reached_end: bool
    reason: EndReason | None
    used_fraction: float | None
    ridden: Ridden
    #: Equivalent full cycles that the pack had behind it.
    cycles: float | None = None
    places: tuple[Place, ...] = ()
    way: Way | None = None


@cache
def _adapter() -> TypeAdapter[Comparand]:
    """Made when it is first wanted: building it takes some ten milliseconds."""
    return TypeAdapter(Comparand)


def comparand_from_json(kept: Any, key: str) -> Comparand:
    """What was kept of a test (`dataclasses.asdict`), under the key that it goes by now.

    Parameters
    ----------
    kept : of a test, by any version
    key : by which it goes now

    Raises
    ------
    pydantic.ValidationError
        When it is none, or of a version that kept something else.
    """
    return replace(_adapter().validate_python(kept), key=key)


def comparand_of(test: RangeTest, result: Result, key: str) -> Comparand:
    """What comparing asks of a test.

    Parameters
    ----------
    key : what tells it from others, such as its id
    """
    sheet = test.sheet
    figures: dict[Name, Figure] = {}
    if result.consumption is not None:
        figures["wh_per_km"] = _figure(result.consumption.wh_per_km, result.budget.wh_per_km)
    if result.range_to_cutoff is not None:
        figures["range_to_cutoff"] = _figure(result.range_to_cutoff, result.budget.range_to_cutoff)
    warm = result.pack.at_25_degc
    if warm is not None and warm.retained_fraction is not None:
        figures["retained_fraction"] = _figure(warm.retained_fraction, ())
    used = result.energy_used_fraction
    return Comparand(
        key=key,
        title=sheet.title,
        started_at=None if sheet.started_at is None else sheet.started_at.isoformat(),
        purpose=sheet.purpose,
        vehicle=sheet.vehicle.name,
        kind=sheet.vehicle.kind,
        mass_kg=sheet.vehicle.mass_kg,
        pack=pack_key(test),
        pack_name=sheet.pack.name,
        label=f"{sheet.pack.chemistry}, {sheet.pack.series} in series, {sheet.pack.rated_ah:g} Ah",
        chemistry=sheet.pack.chemistry,
        rider=None if sheet.rider is None else sheet.rider.name,
        instruments=_instruments(test),
        figures=figures,
        metered=any(item.used and item.method in METERED for item in result.energy_methods),
        reached_end=result.ride.reached_end,
        reason=None if sheet.ending is None else sheet.ending.reason,
        used_fraction=None if used is None else used.value,
        ridden=_ridden(test, result),
        cycles=sheet.pack.equivalent_full_cycles,
        places=places_of(test, result),
        way=way_of(test, result),
    )


def _figure(found: Quantity, parts: tuple[Part, ...]) -> Figure:
    return Figure(
        value=found.value,
        std=found.standard_uncertainty,
        parts=tuple((part.input, part.share_of_variance) for part in parts),
    )


def _instruments(test: RangeTest) -> dict[str, str | None]:
    """What each instrument is called; one that has no name is its vehicle's own."""
    tools = test.sheet.instruments
    if tools is None:
        return {}
    names = ("voltage", "current", "charge", "energy", "trip", "gps", "odometer", "lap", "wall")
    return {name: getattr(getattr(tools, name), "name", None) for name in names}


def _ridden(test: RangeTest, result: Result) -> Ridden:
    sheet = test.sheet
    far = 0.0 if result.distance is None else result.distance.value
    hours = driving_hours(test, result.ride)
    rider, air = sheet.rider, conditions_noted(test)
    stops, cv = _logged(test, far)
    traffic = sheet.protocol is not None and sheet.protocol.speed_policy == "with_traffic"
    known_rider = rider is not None and rider.mass_kg is not None
    return Ridden(
        speed_mps=_speed_mps(far, hours),
        speed_cv=cv if cv is not None else TRAFFIC_CV if traffic else STEADY_CV,
        load_kg=(rider.mass_kg or 0.0) + (rider.gear_kg or 0.0)
        if rider is not None and known_rider
        else None,
        wind_mps=None if air is None else air.wind_mps,
        temp_c=_temp_c(test),
        pressure_hpa=None if air is None else air.pressure_hpa,
        climb_m_per_km=METRES_PER_KM * result.climb.ascent_m / far
        if result.climb is not None and far > 0
        else None,
        stops_per_km=stops,
        tyre_kpa=None if sheet.tyres is None else sheet.tyres.pressure_kpa,
        surface=None if air is None else air.surface,
        assisted=is_assisted(test),
        pedal_w=None
        if rider is None or rider.pedal_power_w is None
        else rider.pedal_power_w * pedalled_share(test),
    )


def _speed_mps(far_m: float, hours: float) -> float | None:
    """The average while riding; one that no such vehicle reaches is a wrong clock, and unknown."""
    speed = far_m / hours / SECONDS_PER_HOUR if far_m > 0 and hours > 0 else 0.0
    return speed if 0 < speed <= FASTEST_MPS else None


def _temp_c(test: RangeTest) -> float | None:
    """Of the air, the mean of what was noted [°C]."""
    air = test.sheet.conditions
    said = [] if air is None else [t for t in (air.temp_start_c, air.temp_end_c) if t is not None]
    said = said or [one.air_temp_c for one in test.entries if one.air_temp_c is not None]
    return sum(said) / len(said) if said else None


def _logged(test: RangeTest, far_m: float) -> tuple[float | None, float | None]:
    """Stops a kilometre and the scatter of the speed ridden [-], out of logged speeds."""
    speed = test.column("speed_mps")
    if speed is None or far_m <= 0:
        return None, None
    known = speed[~np.isnan(speed)]
    if len(known) < LEAST_SPEEDS:
        return None, None
    state = np.where(known > ROLLING_MPS, 1, np.where(known < STANDING_MPS, -1, 0))
    state = state[state != 0]
    stops = int(((state[1:] < 0) & (state[:-1] > 0)).sum())
    moving = known[known > STANDING_MPS]
    cv = float(moving.std() / moving.mean()) if len(moving) else STEADY_CV
    return METRES_PER_KM * stops / far_m, min(cv, 1.0)
