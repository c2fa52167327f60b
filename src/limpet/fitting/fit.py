"""C_rr, CdA, η and auxiliary power of a vehicle from its own rides."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from limpet.carry.start_values import START_VALUES, StartValues
from limpet.errors import OutOfRangeError
from limpet.road import VehicleKind, gaussian_smoothed
from limpet.road.load import ROTATING, air_force_n, along_and_up
from limpet.trip import RoadFit
from limpet.units import SECONDS_PER_HOUR, STANDARD_GRAVITY_MPS2

if TYPE_CHECKING:
    from scipy.optimize import OptimizeResult

FloatArray = NDArray[np.float64]

NAMES = ("crr", "cda_m2", "drivetrain_efficiency", "aux_w")
WORDS = {
    "crr": "rolling resistance",
    "cda_m2": "air drag",
    "drivetrain_efficiency": "drive efficiency",
    "aux_w": "auxiliary power",
}
#: Length of the windows over which energies are compared [s]: long beside a gust, short beside a
#: hill (assumption).
WINDOW_S = 15.0
#: Fewer windows than this are too few for a fit of their own.
LEAST_WINDOWS = 20
#: Standard deviation of the smoothing of speed before it is differentiated [s] (assumption).
SPEED_SMOOTHING_S = 1.5
#: How far a whole ride's energy is off the model for reasons no ride shows, stops and gusts
#: among them [-] (assumption; for rides known by their totals alone).
TOTALS_STD = 0.08
#: Beyond so many standard deviations a window counts by its distance, not by its square
#: (Huber's k; 2.5 keeps 98% of the efficiency on normal data).
ROBUST_FROM = 2.5
#: A parameter is told by the data when its spread fell under the first share of what it was,
#: and not told when it stays above the second (assumption).
TOLD, NOT_TOLD = 0.5, 0.9


@dataclass(frozen=True, slots=True, kw_only=True)
class SampledRide:
    """A ride as a logger saw it; arrays of shape (n,) in order of time.

    `power_w` at the pack's terminals; `grade` sin θ; `headwind_mps` along the way;
    `wind2` is half the square of a wind whose direction along the way is not known [m²/s²];
    `surface` the factor on C_rr and its u.
    """

    time_s: FloatArray
    speed_mps: FloatArray
    power_w: FloatArray
    grade: FloatArray
    headwind_mps: FloatArray
    density_kgpm3: float
    mass_kg: float
    wind2: float = 0.0
    surface: tuple[float, float] = (1.0, 0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class RideTotals:
    """A ride known by its sums: energy and its u [Wh], distance [m], moving time [s]."""

    energy_wh: float
    energy_std_wh: float
    distance_m: float
    moving_s: float
    climb_m: float
    density_kgpm3: float
    mass_kg: float
    wind2: float = 0.0
    surface: tuple[float, float] = (1.0, 0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class FitResult:
    """Parameters with covariance, how much each was told by the data, and that in words."""

    fit: RoadFit
    standard_uncertainties: tuple[float, ...]
    told: tuple[float, ...]
    windows: int
    residual_share: float
    statement: str


@dataclass(frozen=True, slots=True)
class _Rows:
    """Sums over windows, shape (n,): the energy that was measured, and what multiplies what."""

    measured_j: FloatArray
    std_j: FloatArray
    rolling: FloatArray
    rough: FloatArray
    lifting: FloatArray
    air0: FloatArray
    air1: FloatArray
    air2: FloatArray
    seconds: FloatArray
    ride: NDArray[np.int64]


def fit_road(
    kind: VehicleKind,
    rides: Sequence[SampledRide | RideTotals],
    *,
    tests: int | None = None,
    mass_std: float = 0.02,
    power_gain_std: float = 0.012,
    wind_std_mps: float = 0.5,
    tyre_kpa: float | None = None,
) -> FitResult:
    """Road-load parameters by robust least squares with the kind's start values as priors.

    Parameters
    ----------
    kind : gives the priors
    rides : logged, or known by their totals; at least one
    tests : how many tests they come from; by default as many as rides
    mass_std, power_gain_std : relative u of mass and of the power meter, shared by all rides [-]
    wind_std_mps : u of the headwind, each ride its own [m/s]
    tyre_kpa : pressure at which they were ridden, kept with the fit

    Raises
    ------
    OutOfRangeError
        When no ride has anything to compare.

    Notes
    -----
    In windows of 15 s in which the motor drives (or rests) throughout, the pack gives
    E = γ·[(C_rr·Σm·g·cosθ·v + Σm·(g·sinθ + 1.03·a)·v + ½ρCdA·Σ(v+w)²·v)/η + P_aux·T]. Gain,
    mass, wind and the surface's factor are unknowns with priors too, so that what the meter, the
    scale and the table do not know widens the answer. Braking windows are left out. Residuals that hang together from window to
    window widen it as well. Handbook section 10.

    References
    ----------
    Robust loss: P. J. Huber, "Robust Estimation of a Location Parameter", Ann. Math. Statist. 35
    (1964) 73-101, doi:10.1214/aoms/1177703732, in its smooth form as SciPy has it.
    """
    prior = START_VALUES[kind]
    sampled = [_windows(r, prior, k) for k, r in enumerate(rides) if isinstance(r, SampledRide)]
    totals = [_total(r, k) for k, r in enumerate(rides) if isinstance(r, RideTotals)]
    logged = [rows for rows in sampled if len(rows.measured_j) >= LEAST_WINDOWS]
    if not logged and not totals:
        raise OutOfRangeError(
            "fit: no ride has a stretch of steady driving with power, speed and time; log volts and "
            "amps with the speed for ten minutes, or note energy and distance"
        )
    # One unknown each for mass, meter and surface, then one wind for every ride.
    scales = np.array([mass_std, power_gain_std, 1.0, *([wind_std_mps] * len(rides))])
    rows = _joined([*logged, *totals])
    answer = _solve(rows, prior, scales)
    for _ in range(2 if logged else 0):
        spread = [_spread(part, prior, answer.x, scales) for part in logged]
        parts = [_with_std(part, std) for part, std in zip(logged, spread, strict=True)]
        rows = _joined([*parts, *totals])
        answer = _solve(rows, prior, scales, answer.x)
    return _result(prior, answer, rows, len(rides) if tests is None else tests, tyre_kpa)


def _windows(ride: SampledRide, prior: StartValues, number_of_ride: int) -> _Rows:
    """A logged ride as sums over windows in which the drive drives throughout, or rests."""
    time = ride.time_s
    step = np.gradient(time)
    usual = float(np.median(np.diff(time)))
    speed = _smoothed(ride.speed_mps, SPEED_SMOOTHING_S / max(usual, 1e-3))
    accel = np.gradient(speed, time)
    air = speed + ride.headwind_mps
    mass, g = ride.mass_kg, STANDARD_GRAVITY_MPS2
    half_rho = 0.5 * ride.density_kgpm3
    pressing, pulling = along_and_up(ride.grade)
    roll = mass * g * pressing * speed * ride.surface[0]
    lift = mass * (g * pulling + ROTATING * accel) * speed
    air0 = (air_force_n(half_rho, air) + half_rho * ride.wind2) * speed
    wheel = prior.crr[0] * roll + lift + prior.cda_m2[0] * air0
    number = np.floor((time - time[0]) / WINDOW_S).astype(np.int64)
    starts = np.flatnonzero(np.diff(number, prepend=-1))
    gaps = np.maximum.reduceat(step, starts) > 5 * max(usual, 0.2)
    known = np.isfinite(np.add.reduceat(ride.power_w + speed + lift + air0, starts))
    least = np.minimum.reduceat(wheel, starts)
    slowest = np.minimum.reduceat(speed, starts)
    hardest = np.maximum.reduceat(np.abs(accel), starts)
    usual_power = max(float(np.nanmedian(np.maximum(wheel, 0))), 1.0)
    # Near nothing the motor switches between driving and coasting, which the sums cannot tell.
    driving = (least > 0.1 * usual_power) & (slowest > 1.0) & (hardest < 0.6)
    keep = driving & known & ~gaps

    def summed(values: FloatArray) -> FloatArray:
        return np.asarray(np.add.reduceat(np.nan_to_num(values) * step, starts)[keep])

    measured = summed(ride.power_w)
    return _Rows(
        measured_j=measured,
        std_j=np.full(len(measured), 0.1 * max(float(np.mean(np.abs(measured))), 1.0))
        if len(measured)
        else measured,
        rolling=summed(roll),
        rough=summed(roll) * (ride.surface[1] / ride.surface[0]),
        lifting=summed(lift),
        air0=summed(air0),
        air1=summed(2 * half_rho * np.abs(air) * speed),
        air2=summed(half_rho * speed),
        seconds=summed(np.ones_like(time)),
        ride=np.full(len(measured), number_of_ride),
    )


def _smoothed(values: FloatArray, sigma: float) -> FloatArray:
    if sigma < 0.3:
        return values
    return gaussian_smoothed(values, sigma)


def _total(ride: RideTotals, number_of_ride: int) -> _Rows:
    """A ride's totals as one long window at its mean speed."""
    if not (ride.distance_m > 0 and ride.moving_s > 0):
        raise OutOfRangeError(
            f"fit: a ride of {ride.distance_m:g} m in {ride.moving_s:g} s has no speed; note its "
            "distance and how long it took"
        )
    speed = ride.distance_m / ride.moving_s
    half_rho = 0.5 * ride.density_kgpm3
    energy = ride.energy_wh * SECONDS_PER_HOUR
    std = np.hypot(ride.energy_std_wh * SECONDS_PER_HOUR, TOTALS_STD * energy)
    weight = ride.mass_kg * STANDARD_GRAVITY_MPS2

    def one(value: float) -> FloatArray:
        return np.array([value])

    return _Rows(
        measured_j=one(energy),
        std_j=one(float(std)),
        rolling=one(weight * ride.distance_m * ride.surface[0]),
        rough=one(weight * ride.distance_m * ride.surface[1]),
        lifting=one(weight * ride.climb_m),
        air0=one(half_rho * (speed**2 + ride.wind2) * ride.distance_m),
        air1=one(2 * half_rho * speed * ride.distance_m),
        air2=one(half_rho * ride.distance_m),
        seconds=one(ride.moving_s),
        ride=np.array([number_of_ride]),
    )


def _joined(parts: Sequence[_Rows]) -> _Rows:
    return _Rows(
        *(
            np.concatenate([getattr(part, name) for part in parts])
            for name in _Rows.__dataclass_fields__
        )
    )


def _with_std(rows: _Rows, std: float) -> _Rows:
    values = {name: getattr(rows, name) for name in _Rows.__dataclass_fields__}
    return _Rows(**{**values, "std_j": np.full(len(rows.measured_j), std)})


def _parameters(x: FloatArray, prior: StartValues) -> tuple[float, float, float, float]:
    """From scores, 0 at the prior and 1 at one u above it, to the parameters."""

    def positive(pair: tuple[float, float], score: float) -> float:
        value, std = pair
        return float(value * np.exp(score * np.sqrt(np.log1p((std / value) ** 2))))

    eta, eta_std = prior.drivetrain_efficiency
    return (
        positive(prior.crr, x[0]),
        positive(prior.cda_m2, x[1]),
        float(np.clip(eta + eta_std * x[2], 0.3, 0.99)),
        positive(prior.aux_w, x[3]),
    )


def _modelled(rows: _Rows, prior: StartValues, x: FloatArray, scales: FloatArray) -> FloatArray:
    crr, cda, eta, aux = _parameters(x, prior)
    mass, gain, surface = scales[:3] * x[4:7]
    wind = (scales[3:] * x[7:])[rows.ride]
    rolling = rows.rolling + surface * rows.rough
    air = rows.air0 + rows.air1 * wind + rows.air2 * wind**2
    wheel = (1 + mass) * (crr * rolling + rows.lifting) + cda * air
    return np.asarray((1 + gain) * (wheel / eta + aux * rows.seconds))


def _solve(
    rows: _Rows, prior: StartValues, scales: FloatArray, start: FloatArray | None = None
) -> OptimizeResult:
    """Least squares in scores: the data robustly, each prior as a reading of 0 ±1."""

    def residuals(x: FloatArray) -> FloatArray:
        off = (rows.measured_j - _modelled(rows, prior, x, scales)) / rows.std_j
        # The smooth Huber loss, on the data alone: a prior is no outlier.
        soft = np.sign(off) * ROBUST_FROM * np.sqrt(2 * (np.sqrt(1 + (off / ROBUST_FROM) ** 2) - 1))
        return np.concatenate([soft, x])

    begin = np.zeros(4 + len(scales)) if start is None else start
    # Here and not above: only a fit needs it, and it takes longer to load than a forecast.
    from scipy.optimize import least_squares

    return least_squares(residuals, begin, method="trf")


def _spread(rows: _Rows, prior: StartValues, x: FloatArray, scales: FloatArray) -> float:
    """Standard deviation of a ride's windows about the model, more where they hang together [J]."""
    off = rows.measured_j - _modelled(rows, prior, x, scales)
    std = 1.4826 * float(np.median(np.abs(off - np.median(off))))
    inner = off - off.mean()
    lag = float((inner[1:] * inner[:-1]).mean() / max(float((inner**2).mean()), 1e-12))
    lag = float(np.clip(lag, 0.0, 0.9))
    floor = 0.002 * float(np.mean(np.abs(rows.measured_j)))
    return float(max(std, floor) * np.sqrt((1 + lag) / (1 - lag)))


def _result(
    prior: StartValues, answer: OptimizeResult, rows: _Rows, tests: int, tyre_kpa: float | None
) -> FitResult:
    covariance = np.linalg.inv(answer.jac.T @ answer.jac)[:4, :4]
    values = _parameters(answer.x, prior)
    widths = np.array(
        [
            values[0] * np.sqrt(np.log1p((prior.crr[1] / prior.crr[0]) ** 2)),
            values[1] * np.sqrt(np.log1p((prior.cda_m2[1] / prior.cda_m2[0]) ** 2)),
            prior.drivetrain_efficiency[1],
            values[3] * np.sqrt(np.log1p((prior.aux_w[1] / prior.aux_w[0]) ** 2)),
        ]
    )
    told = tuple(float(share) for share in np.sqrt(np.diag(covariance)))
    real = covariance * np.outer(widths, widths)
    off = rows.measured_j - _modelled(rows, prior, answer.x, np.zeros(len(answer.x) - 4))
    share = float(np.abs(off).sum() / max(float(np.abs(rows.measured_j).sum()), 1e-9))
    return FitResult(
        fit=RoadFit(
            names=NAMES,
            values=values,
            covariance=tuple(tuple(float(v) for v in row) for row in real),
            tests=tests,
            tyre_kpa=tyre_kpa,
        ),
        standard_uncertainties=tuple(float(v) for v in np.sqrt(np.diag(real))),
        told=told,
        windows=len(rows.measured_j),
        residual_share=share,
        statement=_statement(told, covariance),
    )


def _statement(told: tuple[float, ...], covariance: FloatArray) -> str:
    """What the data could tell, and what it could not, in a sentence or two."""
    words = [WORDS[name] for name in NAMES]
    clear = [word for word, share in zip(words, told, strict=True) if share < TOLD]
    partly = [word for word, share in zip(words, told, strict=True) if TOLD <= share <= NOT_TOLD]
    dark = [word for word, share in zip(words, told, strict=True) if share > NOT_TOLD]
    said = []
    if clear:
        said.append(f"The rides show {_list(clear)}.")
    if partly:
        said.append(f"They narrow {_list(partly)} a little.")
    if dark:
        said.append(f"They cannot tell {_list(dark)}: the start value stands.")
    spread = np.sqrt(np.diag(covariance))
    together = covariance[0, 1] / (spread[0] * spread[1])
    if together < -0.6:
        said.append(
            "Rolling and air trade off against each other: a ride at another speed would part them."
        )
    return " ".join(said)


def _list(words: list[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"
