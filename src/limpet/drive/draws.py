"""From uncertain inputs to columns of numbers: one column is one way the day may go."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from typing import Self

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import (
    AIR_HUMIDITY,
    AIR_PRESSURE_PA,
    AIR_TEMP_C,
    STOP_WAIT_S,
    WORN_RESISTANCE,
)
from limpet.carry.road import LOST_OF_CLIMB, LOST_OF_STOP
from limpet.carry.start_values import POLICIES
from limpet.drive.inputs import Inputs, middling_deg, reference_kpa
from limpet.pack import (
    capacity_factors,
    curve_family,
    full_energy_wh,
    is_lead,
    mean_pack_temp_c,
    ocv_curve,
    peukert_factor,
    resistance_factor,
)
from limpet.pack.usable import LOW_CHARGE_OHM, LOW_CHARGE_STD
from limpet.road import SURFACE_FACTOR, air_density, density_ratio, steady_wh_per_km, tyre_factors
from limpet.trip import Trip
from limpet.uncertain.hypercube import latin_hypercube
from limpet.uncertain.input import Input
from limpet.uncertain.normal import normal_quantile
from limpet.units import SECONDS_PER_HOUR, STANDARD_GRAVITY_MPS2

FloatArray = NDArray[np.float64]
Table = dict[str, FloatArray]

#: How a pack's resistance grows towards empty.
LOW_CHARGE = Input(
    name="low_charge",
    value=LOW_CHARGE_OHM,
    standard_uncertainty=LOW_CHARGE_STD * LOW_CHARGE_OHM,
    source="assumption",
    shape="lognormal",
)

#: Draws beyond this many standard uncertainties are drawn in: a mass is never negative.
FURTHEST_STD = 3.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Columns:
    """What the walk needs to know of each draw; every array of shape (J,).

    `mass_kg` all that moves; `rolling` C_rr with tyres and riding; `hills`, `stopping` factors on the
    route's climbs and stops; `drag` ½·ρ·CdA with riding
    [N·s²/m²]; `wind_east`, `wind_north` where the air goes to, seen as a headwind part on a
    bearing; `wind_unknown` the headwind part where no bearing is known; `capacity_as` of one pack
    as used [A·s] and `resistance_ohm` of the packs as used, both at 25 °C until `at_temperature`;
    `low_charge` what the resistance grows by towards empty [-]; `modes` which curve of its family a pack
    has, shape (m, J).
    """

    mass_kg: FloatArray
    rolling: FloatArray
    surface: FloatArray
    hills: FloatArray
    stopping: FloatArray
    drag: FloatArray
    inverse_efficiency: FloatArray
    aux_w: FloatArray
    regeneration: FloatArray
    target_mps: FloatArray
    max_power_w: FloatArray
    wind_east: FloatArray
    wind_north: FloatArray
    wind_unknown: FloatArray
    capacity_as: FloatArray
    resistance_ohm: FloatArray
    low_charge: FloatArray
    modes: FloatArray

    def __len__(self) -> int:
        return len(self.mass_kg)

    def at_speed(self, factor: FloatArray) -> Self:
        """The same draws with their target speeds multiplied by a factor."""
        return replace(self, target_mps=self.target_mps * factor)

    def first(self, count: int) -> Columns:
        """The first few draws."""
        return Columns(
            **{item.name: getattr(self, item.name)[..., :count] for item in fields(Columns)}
        )

    @classmethod
    def joined(cls, parts: Sequence[Columns]) -> Columns:
        """Several sets of draws side by side."""
        return Columns(
            **{
                item.name: np.concatenate([getattr(part, item.name) for part in parts], axis=-1)
                for item in fields(Columns)
            }
        )


def drawn_inputs(trip: Trip, inputs: Inputs, count: int, seed: int) -> Table:
    """Draws of every input, by Latin hypercube.

    Parameters
    ----------
    count : draws beside the first
    seed : of the generator

    Returns
    -------
    name → values, shape (count + 1,); the first is the best value of each

    References
    ----------
    M. D. McKay, R. J. Beckman and W. J. Conover, "A comparison of three methods for selecting
    values of input variables", Technometrics 21 (1979) 239-245, doi:10.2307/1268522. Propagation
    of distributions: JCGM 101:2008.
    """
    items = list(inputs.by_name.values())
    # Which curve a pack has, how its resistance grows, and a wind from anywhere, beside the inputs.
    modes = curve_family(trip.pack.chemistry).modes
    more = len(items) + modes
    cube = latin_hypercube(more + 2, count, np.random.default_rng(seed))
    score = np.clip(normal_quantile(cube), -FURTHEST_STD, FURTHEST_STD)
    table = {
        item.name: _drawn(item, score[:, column], cube[:, column])
        for column, item in enumerate(items)
    }
    if inputs.fitted and trip.vehicle.fit is not None:
        table |= _drawn_together(trip, inputs, items, score)
    # Where a leg's bearing is not known, the same unknown direction holds for the whole way.
    middling = inputs.value("wind_from_deg") + middling_deg(trip)
    table["unknown_bearing_deg"] = np.concatenate([[middling], 360 * cube[:, -1]])
    for k in range(modes):
        table[f"curve_{k + 1}"] = np.concatenate([[0.0], score[:, len(items) + k]])
    table["low_charge"] = _drawn(LOW_CHARGE, score[:, more], cube[:, more])
    return table


def _drawn(item: Input, score: FloatArray, uniform: FloatArray) -> FloatArray:
    # A direction is drawn from the cube itself, so that its draws are spread as evenly as the others'.
    drawn = 360 * uniform if item.shape == "any_direction" else item.drawn(score)
    return np.concatenate([[item.value], drawn])


def _drawn_together(trip: Trip, inputs: Inputs, items: list[Input], score: FloatArray) -> Table:
    """Fitted parameters with their covariance: C_rr and CdA found together trade off."""
    fit = trip.vehicle.fit
    assert fit is not None
    names = [name for name in fit.names if inputs.by_name[name].source.startswith("vehicle fit")]
    rows = [fit.names.index(name) for name in names]
    columns = [next(k for k, item in enumerate(items) if item.name == name) for name in names]
    values = np.array([fit.values[row] for row in rows])
    relative = np.array(fit.covariance)[np.ix_(rows, rows)] / np.outer(values, values)
    scale, turn = np.linalg.eigh(relative)
    factor = turn * np.sqrt(np.maximum(scale, 0.0))
    log_ratio = np.clip(score[:, columns] @ factor.T, -1.5, 1.5)
    drawn = values * np.exp(log_ratio)
    return {name: np.concatenate([[values[k]], drawn[:, k]]) for k, name in enumerate(names)}


def columns_of(trip: Trip, inputs: Inputs, table: Table) -> Columns:
    """The walk's columns for a table of drawn inputs; all arrays of one shape (J,)."""
    mass = np.maximum(
        table["vehicle_mass_kg"] + table["rider_mass_kg"] + np.maximum(table["gear_kg"], 0.0), 5.0
    )
    temp = table["temp_c"]
    density = _density(trip, inputs, temp)
    efficiency = np.clip(table["drivetrain_efficiency"], 0.3, 0.98)
    aux = np.maximum(table["aux_w"], 0.0)
    tyres = tyre_factors(table["tyre_kpa"], reference_kpa(trip))
    crr, cda = table["crr"] * tyres, table["cda_m2"]
    if "known_consumption_wh_per_km" in table:
        scale = _known_scale(trip, table, mass, efficiency, aux)
        crr, cda, aux = crr * scale, cda * scale, aux * scale
    angle = np.radians(table["wind_from_deg"])
    wind = table["wind_mps"]
    surface_std = table["surface"]
    label = trip.pack.label
    used_together = trip.packs.count if trip.packs.use == "in_parallel" else 1
    rated = table["rated_energy_wh"] / full_energy_wh(label)
    retained = np.clip(table["retained_fraction"], 0.05, 1.3)
    warm_ohm = table["resistance_ohm"] / used_together
    # A worn pack's resistance grows as its capacity goes: but
    # only where the resistance was not given for the pack as it is.
    if trip.pack.resistance_ohm is None:
        warm_ohm = warm_ohm * (1 + WORN_RESISTANCE.value * np.maximum(1 - retained, 0.0))
    return Columns(
        mass_kg=mass,
        rolling=crr * table["riding"],
        surface=surface_std,
        hills=table["climb_factor"],
        stopping=table["stops_factor"],
        drag=0.5
        * density
        * cda
        * table["riding"]
        # An average understates the air: its square is less than the mean of the squares.
        * (1 + 3 * table["speed_cv"] ** 2),
        inverse_efficiency=1 / efficiency,
        aux_w=aux,
        regeneration=np.full_like(mass, trip.vehicle.regeneration),
        target_mps=np.maximum(table["target_speed_mps"], 0.3),
        max_power_w=table["max_power_w"],
        wind_east=wind * np.sin(angle),
        wind_north=wind * np.cos(angle),
        wind_unknown=wind * np.cos(angle - np.radians(table["unknown_bearing_deg"])),
        capacity_as=label.rated_ah
        * _energy_to_charge(trip)
        * used_together
        * rated
        * retained
        * SECONDS_PER_HOUR,
        resistance_ohm=warm_ohm,
        low_charge=table["low_charge"],
        modes=np.stack([table[name] for name in table if name.startswith("curve_")]),
    )


def at_temperature(trip: Trip, columns: Columns, table: Table, current_a: FloatArray) -> Columns:
    """The columns with capacity and resistance as they are on the day, the pack's own heat in.

    Parameters
    ----------
    current_a : mean current of the ride of each draw [A], shape (J,)
    """
    chemistry = trip.pack.chemistry
    mean_v = ocv_curve(chemistry).mean_v * trip.pack.series
    temp = mean_pack_temp_c(
        table["temp_c"],
        chemistry=chemistry,
        current_a=current_a,
        warm_ohm=columns.resistance_ohm,
        full_wh=columns.capacity_as * mean_v / SECONDS_PER_HOUR,
        mean_v=mean_v,
        warming=table["pack_warming"],
    )
    at_rate = np.ones_like(temp)
    if is_lead(chemistry):
        packs = trip.packs.count if trip.packs.use == "in_parallel" else 1
        at_rate = peukert_factor(current_a / packs, trip.pack.rated_ah, table["peukert"])
    return replace(
        columns,
        capacity_as=columns.capacity_as * capacity_factors(chemistry, temp) * at_rate,
        resistance_ohm=columns.resistance_ohm * resistance_factor(temp),
    )


def _energy_to_charge(trip: Trip) -> float:
    """Ah that the curve needs to hold the label's Wh, over the label's Ah [-]."""
    label = trip.pack.label
    return full_energy_wh(label) / (
        label.rated_ah * label.series * ocv_curve(label.chemistry).mean_v
    )


def _density(trip: Trip, inputs: Inputs, temp_c: FloatArray) -> FloatArray:
    """Air density of each draw [kg/m³]: CIPM-2007 at the best values, then ∝ 1/T."""
    air = trip.conditions
    best = inputs.value("temp_c")
    pressure = AIR_PRESSURE_PA.value if air.pressure_hpa is None else 100 * air.pressure_hpa
    humidity = AIR_HUMIDITY.value if air.humidity_pct is None else air.humidity_pct / 100
    rho = air_density(best, pressure, humidity)
    return np.asarray(rho * density_ratio(temp_c, best))


def _known_scale(
    trip: Trip, table: Table, mass: FloatArray, efficiency: FloatArray, aux: FloatArray
) -> FloatArray:
    """What a draw's road load must be multiplied by to give the consumption that was measured.

    Each draw keeps its own mix of rolling, air and auxiliary power, so that carrying the figure
    to another speed or load stays as uncertain as it is.
    """
    at = trip.known_at
    load = None if at is None else at.load_kg
    trip_load = table["rider_mass_kg"] + table["gear_kg"]
    there = mass if load is None else mass - trip_load + load
    speed = table["target_speed_mps"]
    if at is not None and at.speed_mps is not None:
        speed = np.full_like(speed, at.speed_mps)
    temp = AIR_TEMP_C.value if at is None or at.temp_c is None else at.temp_c
    surface = 1.0 if at is None or at.surface is None else SURFACE_FACTOR[at.surface][0]
    level = steady_wh_per_km(
        speed_mps=speed,
        mass_kg=there,
        crr=table["crr"] * surface,
        cda_m2=table["cda_m2"],
        density_kgpm3=np.full_like(
            speed, air_density(temp, AIR_PRESSURE_PA.value, AIR_HUMIDITY.value)
        ),
        efficiency=efficiency,
        aux_w=aux,
    )
    # Hills and stops cost the same whatever the road load: what they took is not scaled.
    fixed = np.zeros_like(speed)
    if at is not None and at.climb_m_per_km:
        fixed += (
            there
            * STANDARD_GRAVITY_MPS2
            * at.climb_m_per_km
            * LOST_OF_CLIMB
            / efficiency
            / SECONDS_PER_HOUR
        )
    if at is not None and at.stops_per_km:
        fixed += (
            at.stops_per_km * 0.5 * there * speed**2 * LOST_OF_STOP / efficiency / SECONDS_PER_HOUR
        )
    wanted = np.maximum(table["known_consumption_wh_per_km"] - fixed, 0.3 * level)
    return np.asarray(wanted / level)


def waits_s(trip: Trip) -> tuple[float, float, float]:
    """Acceleration, braking [m/s²] and the wait at a stop [s] of the trip's way of riding."""
    policy = POLICIES[trip.speed.policy]
    return policy.accel_mps2, policy.brake_mps2, STOP_WAIT_S.value
