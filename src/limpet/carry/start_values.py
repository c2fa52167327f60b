"""Start values: what a kind of vehicle is taken to be until something better is known.

From memory (handbook section 10 and, for masses, powers and speeds, common practice); each an
*assumption* that the Method page lists, wide enough to be honest.
"""

from __future__ import annotations

from dataclasses import dataclass

from limpet.road.kinds import SpeedPolicy, VehicleKind

Spread = tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class StartValues:
    """(value, standard uncertainty) of a kind, and its usual speeds [m/s] and tyres [kPa]."""

    mass_kg: Spread
    cda_m2: Spread
    crr: Spread
    drivetrain_efficiency: Spread
    aux_w: Spread
    max_power_w: Spread
    max_speed_mps: float
    usual_mps: float
    gentle_mps: float
    tyre_kpa: float


def _kind(
    mass: Spread,
    cda: Spread,
    crr: Spread,
    efficiency: Spread,
    aux: Spread,
    power: Spread,
    speeds: tuple[float, float, float],
    tyre_kpa: float,
) -> StartValues:
    top, usual, gentle = speeds
    return StartValues(
        mass_kg=mass,
        cda_m2=cda,
        crr=crr,
        drivetrain_efficiency=efficiency,
        aux_w=aux,
        max_power_w=power,
        max_speed_mps=top,
        usual_mps=usual,
        gentle_mps=gentle,
        tyre_kpa=tyre_kpa,
    )


_ETA = (0.78, 0.045)
START_VALUES: dict[VehicleKind, StartValues] = {
    "kick_scooter": _kind(
        (16, 3), (0.60, 0.06), (0.016, 0.003), _ETA, (9, 4), (750, 150), (7.5, 5.6, 4.3), 320
    ),
    "bicycle": _kind(
        (28, 6), (0.54, 0.06), (0.0105, 0.002), _ETA, (8, 4), (650, 130), (9.0, 5.8, 4.5), 320
    ),
    "fast_bicycle": _kind(
        (35, 7), (0.58, 0.07), (0.011, 0.0025), _ETA, (10, 5), (1500, 400), (14.0, 9.5, 7.0), 300
    ),
    "trike": _kind(
        (55, 12), (0.60, 0.08), (0.0115, 0.0025), _ETA, (10, 5), (900, 180), (8.0, 5.0, 4.0), 280
    ),
    "moped": _kind(
        (90, 15),
        (0.60, 0.06),
        (0.0125, 0.0025),
        (0.80, 0.04),
        (20, 8),
        (2800, 560),
        (13.0, 11.0, 8.0),
        220,
    ),
    "light_motorcycle": _kind(
        (75, 15),
        (0.62, 0.08),
        (0.018, 0.005),
        (0.80, 0.045),
        (20, 10),
        (6000, 2000),
        (22.0, 12.5, 9.0),
        200,
    ),
    "motorcycle": _kind(
        (150, 25),
        (0.58, 0.06),
        (0.014, 0.003),
        (0.82, 0.04),
        (30, 12),
        (14_000, 3500),
        (36.0, 13.0, 10.0),
        240,
    ),
    # Stood side-on.
    "skateboard": _kind(
        (9, 2),
        (0.48, 0.08),
        (0.014, 0.004),
        (0.80, 0.05),
        (4, 2),
        (1600, 600),
        (10.5, 6.5, 5.0),
        400,
    ),
    # Balancing draws 15 to 40 W beside the usual electronics.
    "self_balancing": _kind(
        (18, 5), (0.60, 0.06), (0.014, 0.003), _ETA, (34, 9), (1400, 280), (9.0, 6.5, 5.0), 250
    ),
    "conversion": _kind(
        (650, 150),
        (0.75, 0.12),
        (0.012, 0.0025),
        (0.78, 0.045),
        (150, 60),
        (20_000, 5000),
        (28.0, 13.0, 10.0),
        220,
    ),
    "other": _kind(
        (45, 20), (0.58, 0.09), (0.013, 0.004), _ETA, (15, 8), (1200, 400), (10.0, 6.0, 4.5), 300
    ),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class PolicyValues:
    """What a way of riding means (all *assumptions*).

    `speed_std` is how far the mean speed held may be off its target [-]; `slowings_per_km` stand
    for traffic (0.8 to 1.2), each as a stop without the wait; `speed_cv` is how the speed scatters about
    its average, when only that is known [-]; `accel_mps2` and `brake_mps2` how one starts and
    stops; `riding_std` what else a day's riding does to the road load [-].
    """

    speed_std: float
    slowings_per_km: float
    accel_mps2: float
    brake_mps2: float
    riding_std: float
    speed_cv: float = 0.1


POLICIES: dict[SpeedPolicy, PolicyValues] = {
    "fixed": PolicyValues(
        speed_std=0.03, slowings_per_km=0.0, accel_mps2=0.7, brake_mps2=1.1, riding_std=0.03
    ),
    "flat_out": PolicyValues(
        speed_std=0.03, slowings_per_km=0.0, accel_mps2=1.0, brake_mps2=1.4, riding_std=0.03
    ),
    "with_traffic": PolicyValues(
        speed_std=0.07,
        slowings_per_km=1.0,
        accel_mps2=0.8,
        brake_mps2=1.2,
        riding_std=0.05,
        speed_cv=0.3,
    ),
    "gentle": PolicyValues(
        speed_std=0.05, slowings_per_km=0.0, accel_mps2=0.4, brake_mps2=0.7, riding_std=0.04
    ),
}
