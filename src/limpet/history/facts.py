"""What one test can teach: the little of its result that later tests and trips ask for."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Any

import numpy as np
from pydantic import TypeAdapter

from limpet.evidence.model import RangeTest
from limpet.evidence.noted import is_assisted
from limpet.figures.curve_seen import CurveSeen
from limpet.figures.gauge_habits import MOST_STEPS
from limpet.figures.parts import MethodResult
from limpet.pack import PackSpec, resistance_factor
from limpet.quantity import Quantity
from limpet.read.line import METERED
from limpet.read.moving import driving_hours, speed_is_logged
from limpet.read.stated import pack_temp_c
from limpet.read.wall import charger_share, reading_std, wall_wh
from limpet.road import Surface
from limpet.state.remaining import SHOWN_STD
from limpet.tell import Result
from limpet.units import METRES_PER_KM, SECONDS_PER_HOUR

#: Inputs whose posterior a test hands on.
HANDED_ON = ("gauge_bend", "gauge_bottom", "capacity_factor")
#: Instruments that a rider can scale, and the distances that they give.
SCALED = {"trip": ("trip", "samples"), "odometer": ("odometer",)}

Spread = tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Facts:
    """A test's own findings, small enough to keep: (value, u) pairs, None where it tells nothing.

    `wh_per_km` with the conditions it was found in; `resistance_ohm` of one pack brought to 25 °C;
    `inputs` as the ride left them; `factors` of instruments, shown over true, and
    their `names`, which tell two of a kind apart; `gauge` of each step its share of full, the
    energy that was left and u of that, with `gauge_percent` for one that shows percent. `capacity_ah` of one
    pack at 25 °C, `retained` of its label as ridden, `retained_at_25c` the same at 25 °C, `cycles` as the sheet states them, `charge_ah` what the ride took
    of one pack; `bands` of each band of speed its name [m/s], metres, Wh/km and u of that; `came_of_shown` what came over
    what the display promised [-]; `speed_logged` whether the speed leaves out all standing;
    `curve` what it saw of the curve of its pack, of a `chemistry`; `charger` what the ride took over what was read at the
    socket [-], where another meter saw it.
    """

    title: str
    vehicle: str | None
    pack: str | None
    wh_per_km: Spread | None
    metered: bool
    speed_mps: float | None
    load_kg: float | None
    temp_c: float | None
    climb_m_per_km: float | None
    surface: Surface | None
    assisted: bool
    distance_m: float | None
    resistance_ohm: Spread | None
    capacity: bool
    inputs: dict[str, Spread]
    factors: dict[str, Spread]
    names: dict[str, str | None]
    gauge: tuple[tuple[float, float, float], ...] = ()
    gauge_percent: bool = False
    capacity_ah: Spread | None = None
    retained: Spread | None = None
    retained_at_25c: Spread | None = None
    cycles: float | None = None
    charge_ah: float | None = None
    bands: tuple[tuple[str, float, float, float], ...] = ()
    came_of_shown: Spread | None = None
    speed_logged: bool = False
    curve: CurveSeen | None = None
    chemistry: str = ""
    charger: Spread | None = None


@cache
def _adapter() -> TypeAdapter[Facts]:
    """Made when it is first wanted: building it takes some ten milliseconds."""
    return TypeAdapter(Facts)


def facts_from_json(kept: Any) -> Facts:
    """Facts as they were kept (`dataclasses.asdict`).

    Raises
    ------
    pydantic.ValidationError
        When it is none, or of a version that knew others.
    """
    return _adapter().validate_python(kept)


def pack_key(test: RangeTest) -> str | None:
    """What tells a pack from others: its name and what stands on its label; None without a name."""
    return pack_key_of(test.sheet.pack)


def pack_key_of(pack: PackSpec) -> str | None:
    """The same of a pack's label."""
    if not pack.name:
        return None
    return f"{pack.name}|{pack.chemistry}|{pack.series}|{pack.rated_ah:g}"


def facts_of(test: RangeTest, result: Result) -> Facts:
    """What a test teaches.

    Parameters
    ----------
    test : as recorded
    result : what `analyse` made of it
    """
    sheet = test.sheet
    distance = result.distance
    hours = driving_hours(test, result.ride)
    used = result.consumption.wh_per_km if result.consumption is not None else None
    rider, air = sheet.rider, sheet.conditions
    known_air = air is not None and (air.temp_start_c is not None or air.temp_end_c is not None)
    ohm = result.pack.resistance_ohm
    warm = 1 / float(resistance_factor(np.array([pack_temp_c(test)]))[0])
    far = distance.value if distance is not None else 0.0
    full = result.gauge_full
    climbed = result.climb is not None and far > 0
    warmed = result.pack.at_25_degc
    together = sheet.packs_used or 1
    return Facts(
        title=sheet.title,
        vehicle=sheet.vehicle.name,
        pack=pack_key(test),
        wh_per_km=None if used is None else (used.value, used.standard_uncertainty),
        metered=any(item.used and item.method in METERED for item in result.energy_methods),
        speed_mps=far / hours / SECONDS_PER_HOUR if far > 0 and hours > 0 else None,
        load_kg=None
        if rider is None or rider.mass_kg is None
        else rider.mass_kg + (rider.gear_kg or 0.0),
        temp_c=pack_temp_c(test) if known_air else None,
        climb_m_per_km=METRES_PER_KM * result.climb.ascent_m / far
        if result.climb is not None and climbed
        else None,
        surface=None if air is None else air.surface,
        assisted=is_assisted(test),
        distance_m=far or None,
        resistance_ohm=None if ohm is None else (ohm.value * warm, ohm.standard_uncertainty * warm),
        capacity=result.pack.capacity_ah is not None,
        inputs={
            item.name: (item.value, item.standard_uncertainty)
            for item in result.inputs
            if item.name in HANDED_ON
            and (result.gauge_truth is not None or not item.name.startswith("gauge"))
        },
        factors=_factors(result),
        names=instrument_names(test),
        gauge=tuple(
            (
                min(step.shown / full, 1.0),
                step.energy_left_fraction.value,
                step.energy_left_fraction.standard_uncertainty,
            )
            for step in result.gauge_truth or ()
        ),
        gauge_percent=full > MOST_STEPS,
        capacity_ah=None if warmed is None else _spread(warmed.capacity_ah),
        retained=_spread_of(result.pack.retained_fraction),
        retained_at_25c=None if warmed is None else _spread_of(warmed.retained_fraction),
        cycles=sheet.pack.equivalent_full_cycles,
        charge_ah=None if result.charge is None else result.charge.value / together,
        bands=tuple(
            (leg.name, leg.distance_m, leg.wh_per_km.value, leg.wh_per_km.standard_uncertainty)
            for leg in result.legs
            if leg.by == "speed"
        ),
        came_of_shown=_came_of_shown(result),
        speed_logged=speed_is_logged(test, result.ride),
        curve=result.curve,
        chemistry=sheet.pack.chemistry,
        charger=_charger(test, result),
    )


def _charger(test: RangeTest, result: Result) -> Spread | None:
    """The charger's share by a ride that a meter on board and one at the wall both saw."""
    by = {item.method: item for item in result.energy_methods}
    used = next((item for item in result.energy_methods if item.used), None)
    read = wall_wh(test)
    if "wall" not in by or used is None or used.method not in METERED or not read:
        return None
    share = charger_share(test) * used.quantity.value / by["wall"].quantity.value
    return share, share * float(np.hypot(used.quantity.relative, reading_std(read)))


#: A promise for less than this says nothing of the next one [m].
LEAST_PROMISE_M = 2000.0


def _came_of_shown(result: Result) -> Spread | None:
    """What came over what the display promised, on the whole of a ride, and u of that.

    Notes
    -----
    The median of its read-outs; u of their scatter, of the range that they are held against, and of what a
    display goes by (`SHOWN_STD`). A read-out that shows the same again is frozen, and counts once.
    """
    kept = {
        item.shown_m: item.came_m
        for item in reversed(result.shown_range or ())
        if item.shown_m >= LEAST_PROMISE_M and item.came_m.value > 0
    }
    if not kept:
        return None
    ratios = np.array([came.value / shown for shown, came in kept.items()])
    own = float(np.median([came.relative for came in kept.values()]))
    scatter = max(float(np.log(ratios).std()), SHOWN_STD) / np.sqrt(len(ratios))
    middle = float(np.median(ratios))
    return middle, middle * float(np.hypot(own, scatter))


def _spread_of(found: Quantity | None) -> Spread | None:
    return None if found is None else _spread(found)


def _spread(found: Quantity) -> Spread:
    return found.value, found.standard_uncertainty


def instrument_names(test: RangeTest) -> dict[str, str | None]:
    """What the instruments that can be scaled are called; None where nobody says."""
    tools = test.sheet.instruments
    return {
        name: None if (own := getattr(tools, name, None)) is None else own.name
        for name in (*SCALED, "wall")
    }


def _factors(result: Result) -> dict[str, Spread]:
    """What instruments showed over what a better one did, with u of that."""
    best = next((item for item in result.distance_methods if item.used), None)
    found: dict[str, Spread] = {}
    if best is None or best.quantity.value <= 0:
        return found
    for name, methods in SCALED.items():
        own = next((item for item in result.distance_methods if item.method in methods), None)
        if own is not None and not _same(own, best, methods):
            ratio = own.quantity.value / best.quantity.value
            found[name] = (ratio, ratio * best.quantity.relative)
    return found


def _same(own: MethodResult, best: MethodResult, methods: tuple[str, ...]) -> bool:
    return own is best or best.method in methods
