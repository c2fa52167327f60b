"""A maker's figure held against what a body on wheels can use at least."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Annotated, Any, Literal

import numpy as np

from limpet.assumptions import CLAIMED_LOAD_KG, USUAL_CLIMB_M_PER_KM
from limpet.bounds import CLAIMED_SPEED, VEHICLE_MASS, Load, Metres, WattHours
from limpet.carry.road import LOST_OF_STOP
from limpet.carry.start_values import POLICIES, START_VALUES, StartValues
from limpet.drive.steps import REAL_GRADES
from limpet.files.jsonfile import Path
from limpet.notices import Notice
from limpet.road import VehicleKind, steady_wh_per_km
from limpet.units import METRES_PER_KM, SECONDS_PER_HOUR, STANDARD_GRAVITY_MPS2

#: The least a body can use (handbook section 13, generous *assumptions*), in air of 20 °C.
LEAST_CDA_M2 = 0.40
LEAST_CRR = 0.006
MOST_EFFICIENCY = 0.90
LEAST_DENSITY_KGPM3 = 1.20
#: Where a figure stands between the least and the usual: under the first share of the usual it is
#: for gentle riding and a light rider, over the second it is modest (assumption).
GENTLE_BELOW = 0.80
MODEST_ABOVE = 1.20
#: What a pack may hold over its label at most [-] (common practice, no source).
MOST_OVER_LABEL = 1.13

Verdict = Literal["not_possible", "gentle_and_light", "normal", "modest", "up_to_a_speed"]


@dataclass(frozen=True, slots=True, kw_only=True)
class ClaimQuestion:
    """What the maker says; a load or mass that is not stated is taken as a light one. Without a speed
    the answer is up to which one it can be true."""

    rated_wh: WattHours
    distance_m: Metres
    speed_mps: Annotated[float, CLAIMED_SPEED.field()] | None = None
    vehicle_kind: VehicleKind = "other"
    load_kg: Load | None = None
    vehicle_mass_kg: Annotated[float, VEHICLE_MASS.field()] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class ClaimAnswer:
    """Whether a figure can be true, and what would have to be.

    `usual_wh_per_km` is with the stops and hills of an ordinary ride; it and `least_wh_per_km` are at the
    claim's speed, or at the kind's usual one.
    """

    implied_wh_per_km: float
    least_wh_per_km: float
    usual_wh_per_km: float
    possible: bool
    speed_it_would_need_mps: float | None
    verdict: Verdict
    notice: Notice

    def to_json(self) -> dict[str, Any]:
        """The object of trip.md."""
        return {**asdict(self), "notice": self.notice.to_json(), "reason": self.notice.message}


def claim_faults(claim: ClaimQuestion) -> list[tuple[Path, str]]:
    """What no single field of a claim can show."""
    if claim.distance_m < 100:
        return [(("distance_m",), f"is {claim.distance_m:g} m; kilometres for metres?")]
    return []


def check_claim(claim: ClaimQuestion) -> ClaimAnswer:
    """Hold a claim against the least that the road asks.

    Parameters
    ----------
    claim : a maker's figure, and what it is of

    Returns
    -------
    whether it can be true, and at which steady speed it would be

    Notes
    -----
    Least: CdA 0.40 m², C_rr 0.006, η 0.90, no wind, stops, climb or lights. Usual: the start
    values of the kind at the claim's speed and load. A label may give up to 13% more than it
    says (common practice), which the notice mentions where it decides.
    """
    start = START_VALUES[claim.vehicle_kind]
    vehicle = claim.vehicle_mass_kg
    if vehicle is None:
        vehicle = max(start.mass_kg[0] - 2 * start.mass_kg[1], 4.0)
    mass = vehicle + (CLAIMED_LOAD_KG.value if claim.load_kg is None else claim.load_kg)
    implied = claim.rated_wh / (claim.distance_m / METRES_PER_KM)
    speed = start.usual_mps if claim.speed_mps is None else claim.speed_mps
    least = least_wh_per_km(speed, mass)
    usual = _usual(speed, mass, start)
    if claim.speed_mps is None:
        return _up_to(implied, least, usual, mass, speed)
    needed = None if implied >= least else _speed_for(implied, mass)
    verdict = _verdict(implied, least, usual)
    return ClaimAnswer(
        implied_wh_per_km=implied,
        least_wh_per_km=least,
        usual_wh_per_km=usual,
        possible=implied >= least,
        speed_it_would_need_mps=needed,
        verdict=verdict,
        notice=_notice(verdict, implied, least, usual, speed, needed),
    )


def _up_to(
    implied: float, least: float, usual: float, mass: float, usual_mps: float
) -> ClaimAnswer:
    """The answer to a figure without a speed: the fastest at which it can be true."""
    needed = _speed_for(implied, mass)
    figures = {"implied_wh_per_km": implied, "speed_mps": usual_mps}
    if needed is None:
        verdict: Verdict = "not_possible"
        notice = Notice("claim_never_possible", **figures, least_wh_per_km=least)
    else:
        verdict = "up_to_a_speed"
        notice = Notice("claim_up_to", **figures, needed_mps=needed, usual_wh_per_km=usual)
    return ClaimAnswer(
        implied_wh_per_km=implied,
        least_wh_per_km=least,
        usual_wh_per_km=usual,
        possible=needed is not None,
        speed_it_would_need_mps=needed,
        verdict=verdict,
        notice=notice,
    )


def least_wh_per_km(speed_mps: float, mass_kg: float) -> float:
    """The least a body of a mass can use at a steady speed [Wh/km]."""
    return _steady(speed_mps, mass_kg, LEAST_CRR, LEAST_CDA_M2, MOST_EFFICIENCY, 0.0)


def _usual(speed: float, mass: float, start: StartValues) -> float:
    """Such a vehicle on an ordinary ride [Wh/km]: level road, slowings in traffic, hills.

    Notes
    -----
    A slowing loses ½·m·v² less what rolling out saves; a hill costs m·g·h less what its descent, on the
    grade that roads have, spares of the level (*assumptions* of the forecast).
    """
    efficiency = start.drivetrain_efficiency[0]
    level = _steady(speed, mass, start.crr[0], start.cda_m2[0], efficiency, start.aux_w[0])
    slowings = POLICIES["with_traffic"].slowings_per_km
    stopping_j = slowings * 0.5 * mass * speed**2 * LOST_OF_STOP
    grade = sum(REAL_GRADES) / len(REAL_GRADES)
    weight_n = mass * STANDARD_GRAVITY_MPS2
    level_n = (
        _steady(speed, mass, start.crr[0], start.cda_m2[0], 1.0, 0.0)
        * SECONDS_PER_HOUR
        / METRES_PER_KM
    )
    hills_j = USUAL_CLIMB_M_PER_KM.value * max(weight_n - level_n / grade, 0.0)
    return level + (stopping_j + hills_j) / efficiency / SECONDS_PER_HOUR


def _steady(
    speed: float, mass: float, crr: float, cda: float, efficiency: float, aux: float
) -> float:
    found = steady_wh_per_km(
        speed_mps=np.array([speed]),
        mass_kg=np.array([mass]),
        crr=np.array([crr]),
        cda_m2=np.array([cda]),
        density_kgpm3=np.array([LEAST_DENSITY_KGPM3]),
        efficiency=np.array([efficiency]),
        aux_w=np.array([aux]),
    )
    return float(found[0])


def _speed_for(implied: float, mass: float) -> float | None:
    """The speed at which the least equals what the claim implies; None when rolling alone is more."""
    if least_wh_per_km(1e-3, mass) >= implied:
        return None
    low, high = 1e-3, 100.0
    # The least grows with the speed: halving finds it to a nanometre a second.
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if least_wh_per_km(middle, mass) < implied else (low, middle)
    return (low + high) / 2


def _verdict(implied: float, least: float, usual: float) -> Verdict:
    if implied < least:
        return "not_possible"
    if implied < GENTLE_BELOW * usual:
        return "gentle_and_light"
    return "modest" if implied > MODEST_ABOVE * usual else "normal"


def _notice(
    verdict: Verdict, implied: float, least: float, usual: float, speed: float, needed: float | None
) -> Notice:
    figures = {"implied_wh_per_km": implied, "speed_mps": speed}
    if verdict == "not_possible":
        figures["least_wh_per_km"] = least
        if needed is None:
            return Notice("claim_never_possible", **figures)
        figures["needed_mps"] = needed
        by_label = implied * MOST_OVER_LABEL >= least
        return Notice(
            "claim_not_possible_on_label" if by_label else "claim_not_possible", **figures
        )
    figures["usual_wh_per_km"] = usual
    if verdict == "gentle_and_light":
        return Notice("claim_gentle", least_wh_per_km=least, **figures)
    return Notice("claim_fair" if verdict == "normal" else "claim_modest", **figures)
