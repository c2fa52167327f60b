"""What a kilometre takes under conditions, by the road model: what tests are carried by."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from datetime import datetime
from math import sqrt
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import (
    AIR_HUMIDITY,
    AIR_PRESSURE_PA,
    AIR_TEMP_C,
    USUAL_CLIMB_M_PER_KM,
    WIND_GAIN,
    WIND_OFFSET_MPS,
    WIND_UNKNOWN_MPS,
    load_kg,
)
from limpet.carry.road import road_wh_per_km
from limpet.carry.start_values import START_VALUES
from limpet.judge.comparand import Comparand, Ridden
from limpet.judge.measured import distance_off
from limpet.judge.named_errors import score
from limpet.pack.chemistry import capacity_factors
from limpet.road import SURFACE_FACTOR, air_density, density_ratio
from limpet.road.load import air_force_n
from limpet.road.surface import tyre_factors
from limpet.units import SECONDS_PER_HOUR

FloatArray = NDArray[np.float64]

Factor = Literal[
    "load", "speed", "wind", "temperature", "climb", "stops", "tyres", "surface", "pedalling"
]
#: In the order in which they are told.
FACTORS: tuple[Factor, ...] = (
    "speed", "wind", "load", "temperature", "climb", "stops", "tyres", "surface", "pedalling",
)  # fmt: skip


def held_by(question: str) -> frozenset[Factor]:
    """The condition that each side keeps its own of: the one that is asked about, where it is one."""
    return frozenset(name for name in FACTORS if name == question)


#: Headings that a way takes on the whole: a loop, or out and back.
HEADINGS = 8
_TURNS = np.cos(np.linspace(0, 2 * np.pi, HEADINGS, endpoint=False))
#: How well what was noted is known: a speed by its clock and a climb, relative, and a
#: temperature [°C], a load [kg], stops, relative (assumptions).
SPEED_STD, CLIMB_STD, STOPS_STD, TEMP_STD_C, LOAD_STD_KG = 0.008, 0.15, 0.15, 1.5, 1.5
#: Stops of a way of which nobody counted any [1/km], and u (assumption).
STOPS = (0.5, 0.5)
#: How much the wind changes between rides: with the root of the hours between them, at least so soon and at most
#: so far [m/s, h, m/s] (assumption).
WIND_CHANGES_MPS, SOONEST_H, WIND_MOST_APART_MPS = 0.6, 0.25, 3.0
#: What legs that nobody measured give, and how much one such ride differs from the next [W]; watts that a
#: rider told are known to a share of themselves (assumptions).
LEGS_W, LEGS_STD = (80.0, 15.0), 0.25


@dataclass(frozen=True, slots=True, kw_only=True)
class Body:
    """A vehicle's road load in draws, shape (J,): the same in all its tests."""

    mass_kg: FloatArray
    crr: FloatArray
    cda_m2: FloatArray
    efficiency: FloatArray
    aux_w: FloatArray


@dataclass(frozen=True, slots=True, kw_only=True)
class Day:
    """Conditions in draws, shape (J,); of several days at once (days, J), see `one_by_one`."""

    load_kg: FloatArray
    speed_mps: FloatArray
    speed_cv: FloatArray
    wind_mps: FloatArray
    temp_c: FloatArray
    #: Of the air of its pressure at the usual temperature [kg/m³], shape (1,).
    usual_density: FloatArray
    climb_m_per_km: FloatArray
    stops_per_km: FloatArray
    #: Over C_rr on smooth paving at its reference pressure.
    tyres: FloatArray
    surface: FloatArray
    #: What legs give at the wheel [W].
    legs_w: FloatArray


def body_of(test: Comparand) -> Body:
    """A vehicle's road load; of one vehicle the same draws whatever test it is asked for."""
    start = START_VALUES[test.kind]
    who = test.vehicle or test.kind

    def drawn(name: str, spread: tuple[float, float]) -> FloatArray:
        value, std = spread
        return np.maximum(value + std * score(name, who), 0.2 * value)

    mass = start.mass_kg if test.mass_kg is None else (test.mass_kg, 0.0)
    return Body(
        mass_kg=drawn("mass", mass),
        crr=drawn("crr", start.crr),
        cda_m2=drawn("cda", start.cda_m2),
        efficiency=np.minimum(drawn("efficiency", start.drivetrain_efficiency), 0.95),
        aux_w=drawn("aux", start.aux_w),
    )


def day_of(test: Comparand, like: Comparand) -> Day:
    """The day of a test; what it does not say is as it was in another, as far as that says it.

    Parameters
    ----------
    like : the test that it is carried to
    """
    own, other = test.ridden, like.ridden

    def told(
        name: str,
        one: float | None,
        two: float | None,
        usual: tuple[float, float],
        std: float = 0.0,
        who: str = "",
    ) -> FloatArray:
        """A condition: as noted, with its own error; else as in the other test, as unsure as unsaid."""
        if one is not None:
            return np.asarray(one + std * score(name, who or test.key))
        value = two if two is not None else usual[0]
        return np.asarray(value + usual[1] * score(f"{name} unsaid", who or test.key))

    usual_mps = START_VALUES[test.kind].usual_mps
    speed = own.speed_mps if own.speed_mps is not None else other.speed_mps or usual_mps
    wind = WIND_UNKNOWN_MPS.std * np.abs(score("wind unsaid", test.key))
    if own.wind_mps is not None:
        wind = np.maximum(_noted_wind_mps(test, like), 0.0)
    elif other.wind_mps is not None:
        wind = np.maximum(other.wind_mps + WIND_UNKNOWN_MPS.std * score("wind unsaid", test.key), 0)
    # One who is not named is taken for one and the same.
    who = f"rider {test.rider or ''}"
    surface, std = SURFACE_FACTOR[own.surface or other.surface or "smooth_paved"]
    pressure = own.pressure_hpa if own.pressure_hpa is not None else other.pressure_hpa
    reference = START_VALUES[test.kind].tyre_kpa
    # Where only one of the two knows its tyres, they are taken to have been alike.
    kpa = own.tyre_kpa or other.tyre_kpa or reference
    # A speed is off as its distance is, where it is of this ride.
    far = np.exp(distance_off(test)) if own.speed_mps is not None else 1.0
    return Day(
        load_kg=np.maximum(
            told("load", own.load_kg, other.load_kg, load_kg(None, None), LOAD_STD_KG, who), 20.0
        ),
        speed_mps=np.maximum(speed * (1 + SPEED_STD * score("speed", test.key)) * far, 0.5),
        speed_cv=np.full_like(score("speed", test.key), own.speed_cv),
        wind_mps=wind,
        temp_c=told("temperature", own.temp_c, other.temp_c, AIR_TEMP_C.spread, TEMP_STD_C),
        usual_density=np.array([_usual_density(AIR_PRESSURE_PA.value if pressure is None else 100 * pressure)]),
        climb_m_per_km=_share(
            "climb", own.climb_m_per_km, other.climb_m_per_km, USUAL_CLIMB_M_PER_KM.spread,
            CLIMB_STD, test.key,
        ),
        stops_per_km=_share(
            "stops", own.stops_per_km, other.stops_per_km, STOPS, STOPS_STD, test.key
        ),
        tyres=tyre_factors(np.full_like(score("speed", test.key), kpa), reference),
        surface=np.maximum(surface + std * score("surface", str(own.surface), test.vehicle or ""), 0.5),
        legs_w=_legs_w(own, other, test.key, who),
    )  # fmt: skip


def _noted_wind_mps(test: Comparand, like: Comparand) -> FloatArray:
    """The wind of a test that noted one, shape (J,) [m/s].

    Notes
    -----
    What was noted is off by a gain, which stands between a station and a rider's height and is the same on
    every day of one rider's, and by an error of its own, o. Of two rides within hours the winds were not far
    apart, by s: of what was noted between them s²/(s² + 2o²) is taken for a difference, and the rest for
    errors (the mean of a normal distribution given a noisy reading). Where either has no time s has no end.
    """
    own, other = test.ridden.wind_mps, like.ridden.wind_mps
    assert own is not None
    gain = 1 + WIND_GAIN.std * score("wind gain", test.rider or "")
    std = WIND_OFFSET_MPS.std
    error = std * score("wind offset", test.key)
    hours = hours_apart(test, like)
    if other is None or hours is None or test.key == like.key:
        return np.asarray(own * gain + error)
    changes = min(WIND_CHANGES_MPS * sqrt(max(hours, SOONEST_H)), WIND_MOST_APART_MPS)
    kept = changes**2 / (changes**2 + 2 * std**2) if std > 0 else 1.0
    theirs = std * score("wind offset", like.key)
    middle = 0.5 * ((own + other) * gain + error + theirs)
    apart = kept * (own - other) * gain + sqrt(kept) * (error - theirs)
    return np.asarray(middle + 0.5 * apart)


def hours_apart(one: Comparand, two: Comparand) -> float | None:
    """How long after each other two tests began [h]; None where that is not known."""
    if one.started_at is None or two.started_at is None:
        return None
    begun, other = datetime.fromisoformat(one.started_at), datetime.fromisoformat(two.started_at)
    if (begun.tzinfo is None) != (other.tzinfo is None):
        # A time with a zone and one without cannot be put in order.
        return None
    return abs((begun - other).total_seconds()) / SECONDS_PER_HOUR


def _usual_density(pressure_pa: float) -> float:
    return air_density(AIR_TEMP_C.value, pressure_pa, AIR_HUMIDITY.value)


def _legs_w(own: Ridden, other: Ridden, key: str, who: str) -> FloatArray:
    """What legs gave [W]: nothing, as the rider told, or as on the other ride, as unsure as unsaid."""
    if not own.assisted:
        return np.zeros_like(score("legs", who))
    if own.pedal_w is not None:
        return np.asarray(own.pedal_w * np.maximum(1 + LEGS_STD * score("legs", who), 0.0))
    usual, apart = LEGS_W
    like = other.pedal_w if other.assisted and other.pedal_w is not None else usual
    return np.asarray(np.maximum(like + apart * score("legs unsaid", key), 0.0))


def _share(
    name: str,
    one: float | None,
    two: float | None,
    usual: tuple[float, float],
    relative: float,
    key: str,
) -> FloatArray:
    """What is counted along a way: known to a share of itself, or taken as in the other test."""
    if one is not None:
        return np.asarray(one * np.maximum(1 + relative * score(name, key), 0.0))
    # Hills and stops belong to a course: two that do not say are taken for the same.
    value = two if two is not None else usual[0]
    return np.asarray(np.maximum(value * (1 + relative * score(name, key)), 0.0))


def wh_per_km(body: Body, day: Day) -> FloatArray:
    """What a kilometre takes at the pack [Wh/km], of the day's shape.

    Notes
    -----
    By `road_wh_per_km`, with the scatter of the speed (1 + 3·cv²) and a wind from all sides in turn.
    """
    mass = body.mass_kg + day.load_kg
    density = day.usual_density * density_ratio(day.temp_c, AIR_TEMP_C.value)
    if (day.wind_mps <= day.speed_mps).all():
        # Never from behind: over all headings the mean of (v + w·cos)² is v² + w²/2.
        against = day.speed_mps**2 + 0.5 * day.wind_mps**2
    else:
        turns = _TURNS.reshape(-1, *[1] * np.ndim(day.wind_mps))
        against = air_force_n(1.0, day.speed_mps + day.wind_mps * turns).mean(axis=0)
    against = against + 3 * day.speed_cv**2 * day.speed_mps**2
    return road_wh_per_km(
        speed_mps=day.speed_mps,
        mass_kg=mass,
        crr=body.crr * day.tyres * day.surface,
        cda_m2=body.cda_m2,
        density_kgpm3=density,
        efficiency=body.efficiency,
        aux_w=body.aux_w,
        against_m2ps2=against,
        climb_m_per_km=day.climb_m_per_km,
        stops_per_km=day.stops_per_km,
        legs_w=day.legs_w,
    )


#: Which of a day's values a factor is made of.
_MADE_OF: dict[Factor, tuple[str, ...]] = {
    "load": ("load_kg",),
    "speed": ("speed_mps", "speed_cv"),
    "wind": ("wind_mps",),
    "temperature": ("temp_c", "usual_density"),
    "climb": ("climb_m_per_km",),
    "stops": ("stops_per_km",),
    "tyres": ("tyres",),
    "surface": ("surface",),
    "pedalling": ("legs_w",),
}


def with_factors(day: Day, of: Day, factors: Sequence[Factor]) -> Day:
    """A day with some factors as on another."""
    names = [name for factor in factors for name in _MADE_OF[factor]]
    return replace(day, **{name: getattr(of, name) for name in names})


def one_by_one(day: Day, of: Day, factors: Sequence[Factor]) -> Day:
    """Days at once: the day itself, and for each of the factors the day with that one as on another.

    Returns
    -------
    Day with arrays of shape (1 + factors, J), in that order
    """
    rows = {
        field.name: np.repeat(getattr(day, field.name)[None], 1 + len(factors), axis=0)
        for field in fields(Day)
    }
    for row, factor in enumerate(factors, start=1):
        for name in _MADE_OF[factor]:
            rows[name][row] = getattr(of, name)
    return Day(**rows)


def pack_factor(test: Comparand, day: Day) -> FloatArray:
    """What the cold leaves of a pack's energy [-], shape (J,)."""
    return capacity_factors(test.chemistry, day.temp_c)
