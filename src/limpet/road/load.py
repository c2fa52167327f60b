"""Road load: the force at the wheel, the power at the pack, the speed that a power can hold."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from limpet.units import SECONDS_PER_HOUR, STANDARD_GRAVITY_MPS2

FloatArray = NDArray[np.float64]

#: What turning wheels and a motor add to the mass that is accelerated [-] (handbook section 10).
ROTATING = 1.03
#: Steps of Newton's method before bisection takes what is left.
NEWTON_STEPS = 6
BISECTIONS = 60
#: A power is met when it is within this of what is asked [W].
POWER_WITHIN_W = 0.01


def air_force_n(drag_nps2pm2: FloatArray | float, air_mps: FloatArray) -> FloatArray:
    """Force of the air against the rider, negative from behind.

    Parameters
    ----------
    drag_nps2pm2 : k = ½·ρ·CdA [N·s²/m²]
    air_mps : speed through the air, v + w [m/s]

    Returns
    -------
    k·(v+w)·|v+w| [N]; the arrays broadcast
    """
    force = np.abs(air_mps)
    force *= air_mps
    return np.asarray(force * drag_nps2pm2)


def along_and_up(grade: FloatArray) -> tuple[FloatArray, FloatArray]:
    """Parts of a weight that press on the road and pull down it: cos θ and sin θ of a grade sin θ.

    Parameters
    ----------
    grade : rise over the way along the road, sin θ, any shape [-]

    Returns
    -------
    two arrays of the same shape [-]
    """
    return np.sqrt(1 - grade**2), grade


def wheel_power_w(
    resisting_n: FloatArray,
    drag_nps2pm2: FloatArray,
    speed_mps: FloatArray,
    headwind_mps: FloatArray,
) -> FloatArray:
    """Power at the wheel at a steady speed.

    Parameters
    ----------
    resisting_n : rolling and grade force together [N]
    drag_nps2pm2 : ½·ρ·CdA [N·s²/m²]
    speed_mps, headwind_mps : v, w [m/s]

    Returns
    -------
    (F + k·(v+w)·|v+w|)·v [W]; the arrays broadcast
    """
    power = air_force_n(drag_nps2pm2, speed_mps + headwind_mps)
    power += resisting_n
    power *= speed_mps
    return power


def wheel_force_n(
    *,
    speed_mps: FloatArray,
    mass_kg: FloatArray,
    crr: FloatArray,
    cda_m2: FloatArray,
    density_kgpm3: FloatArray,
    grade: FloatArray,
    headwind_mps: FloatArray,
    accel_mps2: FloatArray | float = 0.0,
) -> FloatArray:
    """Force that the wheel must give.

    Parameters
    ----------
    speed_mps : v over the ground [m/s]
    mass_kg : m, of all that moves [kg]
    crr : C_rr, with surface and tyre pressure in it [-]
    cda_m2 : CdA [m²]
    density_kgpm3 : ρ [kg/m³]
    grade : rise over length along the road, sin θ [-]
    headwind_mps : w, against the rider positive [m/s]
    accel_mps2 : a [m/s²]

    Returns
    -------
    F = C_rr·m·g·cosθ + m·g·sinθ + ½·ρ·CdA·(v+w)·|v+w| + 1.03·m·a [N]; all arrays broadcast

    Notes
    -----
    Rolling resistance is taken as independent of speed, and a crosswind as adding nothing; both
    flatter a windy day a little (*assumption*).
    """
    weight = mass_kg * STANDARD_GRAVITY_MPS2
    pressing, pulling = along_and_up(grade)
    force: FloatArray = (
        weight * (crr * pressing + pulling)
        + air_force_n(0.5 * density_kgpm3 * cda_m2, speed_mps + headwind_mps)
        + ROTATING * mass_kg * accel_mps2
    )
    return force


def pack_power_w(
    wheel_power_w: FloatArray,
    *,
    inverse_efficiency: FloatArray,
    aux_w: FloatArray,
    pedal_w: float = 0.0,
    returned: FloatArray | float = 0.0,
    most_returned_w: FloatArray | None = None,
) -> FloatArray:
    """Power that the pack gives, negative when it takes.

    Parameters
    ----------
    wheel_power_w : at the wheel [W]
    inverse_efficiency : 1/η from pack to wheel [-]
    aux_w : lights, controller, balancing [W]
    pedal_w : what the rider gives at the wheel while driving [W]
    returned : share of braking power at the wheel that comes back to the pack [-]
    most_returned_w : the most that the pack takes [W]; no limit when None

    Returns
    -------
    P = max(P_wheel - P_pedal, 0)/η + P_aux when driving, returned·P_wheel + P_aux when braking [W]
    """
    power = np.maximum(wheel_power_w - pedal_w, 0.0)
    power *= inverse_efficiency
    if np.any(returned):
        braking = np.minimum(wheel_power_w, 0.0) * returned
        power += braking if most_returned_w is None else np.maximum(braking, -most_returned_w)
    power += aux_w
    return power


def steady_wh_per_km(
    *,
    speed_mps: FloatArray,
    mass_kg: FloatArray,
    crr: FloatArray,
    cda_m2: FloatArray,
    density_kgpm3: FloatArray,
    efficiency: FloatArray,
    aux_w: FloatArray,
    grade: FloatArray | float = 0.0,
    headwind_mps: FloatArray | float = 0.0,
) -> FloatArray:
    """Consumption at a steady speed [Wh/km], at the pack's terminals, without regeneration.

    Parameters
    ----------
    speed_mps : over the ground
    mass_kg : all that moves
    crr, cda_m2 : rolling resistance [-], drag area [m²]
    density_kgpm3 : of the air
    efficiency : from terminals to wheel [-]
    aux_w : lights and electronics [W]
    grade : sin θ [-]
    headwind_mps : against the rider

    Returns
    -------
    shape of the arguments together [Wh/km]
    """
    force = wheel_force_n(
        speed_mps=speed_mps,
        mass_kg=mass_kg,
        crr=crr,
        cda_m2=cda_m2,
        density_kgpm3=density_kgpm3,
        grade=np.asarray(grade, dtype=np.float64),
        headwind_mps=np.asarray(headwind_mps, dtype=np.float64),
    )
    power = pack_power_w(force * speed_mps, inverse_efficiency=1 / efficiency, aux_w=aux_w)
    return np.asarray(power / speed_mps * 1000 / SECONDS_PER_HOUR)


def speed_at_power_mps(
    power_w: FloatArray,
    resisting_n: FloatArray,
    drag_nps2pm2: FloatArray,
    headwind_mps: FloatArray,
    at_most_mps: FloatArray,
) -> FloatArray:
    """The speed that a wheel power holds against rolling, grade and air, up to a limit.

    Parameters
    ----------
    power_w : P at the wheel, positive [W], shape (n,)
    resisting_n : rolling and grade force together [N], shape (n,)
    drag_nps2pm2 : ½·ρ·CdA [N·s²/m²], shape (n,)
    headwind_mps : w [m/s], shape (n,)
    at_most_mps : the speed from which the search goes down [m/s], shape (n,)

    Returns
    -------
    v [m/s], shape (n,): the root of (F + k·(v+w)·|v+w|)·v = P, or `at_most_mps` where the power
    holds that and more

    Notes
    -----
    Newton from above, then bisection for what has not met its power within 0.01 W: a strong
    tailwind makes the curve bend both ways.
    """
    power = np.maximum(power_w, 1e-9)

    def excess(v: FloatArray) -> FloatArray:
        return wheel_power_w(resisting_n, drag_nps2pm2, v, headwind_mps) - power

    speed = at_most_mps.astype(np.float64, copy=True)
    for _ in range(NEWTON_STEPS):
        air = speed + headwind_mps
        force = resisting_n + air_force_n(drag_nps2pm2, air)
        slope = force + 2 * drag_nps2pm2 * np.abs(air) * speed
        step = np.where(slope > 0, (force * speed - power) / np.where(slope > 0, slope, 1.0), 0.0)
        speed = np.minimum(np.maximum(speed - step, 0.2 * speed), at_most_mps)
    off = (np.abs(excess(speed)) > POWER_WITHIN_W) & (excess(at_most_mps) > 0)
    if off.any():
        speed[off] = _bisected(
            power[off], resisting_n[off], drag_nps2pm2[off], headwind_mps[off], at_most_mps[off]
        )
    return speed


def _bisected(
    power: FloatArray,
    resisting: FloatArray,
    drag: FloatArray,
    headwind: FloatArray,
    at_most: FloatArray,
) -> FloatArray:
    low, high = np.zeros_like(at_most), at_most.copy()
    for _ in range(BISECTIONS):
        middle = (low + high) / 2
        too_fast = wheel_power_w(resisting, drag, middle, headwind) > power
        high = np.where(too_fast, middle, high)
        low = np.where(too_fast, low, middle)
    return low
