"""What a ride is taken to use before any reading tells: the road model, with what the sheet says of the ride."""

from __future__ import annotations

from collections.abc import Mapping
from math import sqrt
from typing import Final

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import (
    HIDDEN_STANDING,
    USUAL_CLIMB_M_PER_KM,
    WIND_UNKNOWN_MPS,
    Spread,
    load_kg,
)
from limpet.carry.road import road_wh_per_km
from limpet.carry.start_values import POLICIES, START_VALUES
from limpet.evidence.model import RangeTest
from limpet.evidence.noted import is_assisted, pedalled_share
from limpet.read.height_difference import noted_climb_m
from limpet.read.line import Line
from limpet.read.stated import air_density_of
from limpet.read.window import RideWindow
from limpet.road import SURFACE_FACTOR
from limpet.road.surface import tyre_factors
from limpet.units import METRES_PER_KM, SECONDS_PER_HOUR

FloatArray = NDArray[np.float64]

#: What riding takes over the road model's even ride, and u: a throttle is not held evenly, a wind is met more
#: than it helps, tyres are soft. Rides of the trade (handbook section 18) lie at 0.7 to 1.4, the calibration's
#: riders at 1.2 (assumption).
TAKEN_OVER_MODEL: Final[Spread] = (1.20, 0.23)
#: A speed by the clock; one that was only planned, and one of which nobody said anything, relative u (assumption).
CLOCK_STD, PLANNED_STD, UNSAID_STD = 0.05, 0.10, 0.25
#: How a speed scatters about its average where nobody said how it was ridden [-] (assumption).
UNSAID_CV = 0.2
#: Of the standing that nobody noted so much is left on an even ride [-] (assumption).
EVENLY = 0.3
#: A wind as noted, as far as a rider feels it [m/s] (assumption).
WIND_STD_MPS = 1.0
#: Stops and slowings of a way of which nobody counted any [1/km] (assumption).
STOPS: Final[Spread] = (0.7, 0.5)
#: What legs that nobody measured give [W]; measured ones to a share of themselves (assumption).
LEGS_W: Final[Spread] = (80.0, 35.0)
LEGS_STD = 0.25
#: Slower averages than this are a clock that nobody stopped [m/s] (assumption).
SLOWEST_MPS = 1.5
#: A surface of which nobody said anything: its rolling resistance over that of smooth paving (assumption).
SURFACE_UNSAID: Final[Spread] = (1.1, 0.12)


def usual_wh_per_m(test: RangeTest, ride: RideWindow, way: Line | None, hours: float) -> Spread:
    """Consumption at the pack, and u [Wh/m].

    Parameters
    ----------
    test : whose sheet says what moves, on what, in which air
    ride : the window
    way : metres over time; None where nothing tells
    hours : of driving [h]

    Notes
    -----
    `road_wh_per_km` at the middle of each input, and once more with each of them one u higher: the
    relative changes add in squares (GUM 5.1.2), with what the model itself misses.
    """
    inputs = road_inputs(test, ride, way, hours)
    names = list(inputs)
    rows = np.array([[inputs[name][0] for name in names]] * (1 + len(names)))
    for row, name in enumerate(names):
        rows[row + 1, row] += inputs[name][1]
    found = taken_wh_per_km(test, dict(zip(names, rows.T, strict=True)))
    apart = np.log(found[1:] / found[0])
    over, over_std = TAKEN_OVER_MODEL
    relative = sqrt(float(apart @ apart) + over_std**2)
    per_m = over * float(found[0]) / METRES_PER_KM
    return per_m, relative * per_m


def shares(
    test: RangeTest, ride: RideWindow, way: Line | None, hours: float
) -> tuple[float, float]:
    """How much of a consumption goes with the density of the air, and with rolling, by the road model [-].

    Parameters
    ----------
    test, ride, way, hours : as for `usual_wh_per_m`
    """
    middle = {
        name: np.array([value]) for name, (value, _) in road_inputs(test, ride, way, hours).items()
    }
    whole = float(taken_wh_per_km(test, middle)[0])
    without_air = float(taken_wh_per_km(test, middle, density=0.0)[0])
    rolling_freely = {**middle, "crr": np.zeros(1)}
    return 1 - without_air / whole, 1 - float(taken_wh_per_km(test, rolling_freely)[0]) / whole


def taken_wh_per_km(
    test: RangeTest, at: Mapping[str, FloatArray], *, density: float | None = None
) -> FloatArray:
    """What a kilometre takes by the road model [Wh/km], of the inputs' shape.

    Parameters
    ----------
    test : with its air, and how it was ridden
    at : the inputs of `road_inputs`, each of one shape
    density : of the air [kg/m³]; that of the test's air when None
    """
    speed, scatter = at["speed"], _policy_cv(test)
    return road_wh_per_km(
        speed_mps=speed,
        mass_kg=at["mass"] + at["load"],
        crr=at["crr"] * at["surface"],
        cda_m2=at["cda"],
        density_kgpm3=np.full_like(speed, air_density_of(test) if density is None else density),
        efficiency=at["efficiency"],
        aux_w=at["aux"],
        against_m2ps2=speed**2 * (1 + 3 * scatter**2) + 0.5 * at["wind"] ** 2,
        climb_m_per_km=at["climb"],
        stops_per_km=at["stops"],
        legs_w=at["legs"],
    )


def road_inputs(
    test: RangeTest, ride: RideWindow, way: Line | None, hours: float
) -> dict[str, Spread]:
    """What the road model asks of a ride, each with its u: said, reckoned or as usual for the kind."""
    sheet = test.sheet
    start = START_VALUES[sheet.vehicle.kind]
    rider, air = sheet.rider, sheet.conditions
    mass = start.mass_kg if sheet.vehicle.mass_kg is None else (sheet.vehicle.mass_kg, 0.0)
    surface = None if air is None else air.surface
    crr, crr_std = start.crr
    pressure = None if sheet.tyres is None else sheet.tyres.pressure_kpa
    if pressure is not None:
        factor = float(tyre_factors(np.array([pressure]), start.tyre_kpa)[0])
        crr, crr_std = crr * factor, crr_std * factor
    wind = None if air is None else air.wind_mps
    return {
        "mass": mass,
        "load": load_kg(*((None, None) if rider is None else (rider.mass_kg, rider.gear_kg))),
        "speed": _speed(test, way, hours),
        "crr": (crr, crr_std),
        "surface": SURFACE_UNSAID if surface is None else SURFACE_FACTOR[surface],
        "cda": start.cda_m2,
        "efficiency": start.drivetrain_efficiency,
        "aux": start.aux_w,
        "wind": (WIND_UNKNOWN_MPS.std, WIND_UNKNOWN_MPS.std)
        if wind is None
        else (wind, WIND_STD_MPS),
        "climb": _climb(test, ride, way),
        "stops": _stops(test),
        "legs": _legs_w(test),
    }


def _speed(test: RangeTest, way: Line | None, hours: float) -> Spread:
    """Of riding, in the middle: by the clock, as planned, or as such vehicles go [m/s]."""
    start, plan = START_VALUES[test.sheet.vehicle.kind], test.sheet.protocol
    fastest = 1.2 * start.max_speed_mps
    logged = test.log.known("speed_mps") is not None
    if way is not None and hours > 0:
        speed = way.span / (hours * SECONDS_PER_HOUR)
        if SLOWEST_MPS <= speed <= fastest:
            standing, unsure = _standing(test) if not logged else (1.0, 0.0)
            return speed * standing, speed * float(np.hypot(CLOCK_STD, unsure))
    if plan is not None and plan.target_speed_mps is not None:
        return plan.target_speed_mps, PLANNED_STD * plan.target_speed_mps
    return start.usual_mps, UNSAID_STD * start.usual_mps


def _standing(test: RangeTest) -> Spread:
    """The speed ridden over that between entries: lights that nobody noted, where it was ridden evenly few."""
    plan = test.sheet.protocol
    evenly = plan is not None and plan.speed_policy in ("fixed", "flat_out")
    over, unsure = HIDDEN_STANDING.spread
    return (1 + EVENLY * (over - 1), EVENLY * unsure) if evenly else (over, unsure)


def _policy_cv(test: RangeTest) -> float:
    """How the speed scatters about its average [-]."""
    plan = test.sheet.protocol
    if plan is None or plan.speed_policy is None:
        return UNSAID_CV
    return POLICIES[plan.speed_policy].speed_cv


def _stops(test: RangeTest) -> Spread:
    """Stops and slowings [1/km]: as the way of riding means, or as usual where none were counted."""
    plan = test.sheet.protocol
    if plan is None or plan.speed_policy is None or plan.speed_policy == "with_traffic":
        return STOPS
    return POLICIES[plan.speed_policy].slowings_per_km + 0.2, 0.2


def _climb(test: RangeTest, ride: RideWindow, way: Line | None) -> Spread:
    """Ascent a kilometre [m/km]: as noted, or as usual where it was not."""
    noted = noted_climb_m(test, ride)
    if noted is None or way is None or way.span <= 0:
        return USUAL_CLIMB_M_PER_KM.spread
    per_km = METRES_PER_KM * noted[0] / way.span
    return per_km, 0.1 * per_km


def _legs_w(test: RangeTest) -> Spread:
    """What legs give at the wheel [W]."""
    if not is_assisted(test):
        return 0.0, 0.0
    rider = test.sheet.rider
    if rider is None or rider.pedal_power_w is None:
        return LEGS_W
    given = rider.pedal_power_w * pedalled_share(test)
    return given, LEGS_STD * given
