"""Two recordings of one ride on one clock: by how much one of them must be moved, and how sure that is."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Final, Literal

import numpy as np
from numpy.typing import NDArray

from limpet.foreign.checks import path_m
from limpet.notices import Notice
from limpet.units import STANDARD_GRAVITY_MPS2

if TYPE_CHECKING:
    import polars as pl

FloatArray = NDArray[np.float64]
By = Literal["speed", "load", "stops"]
#: Recordings are compared second by second; a match needs so many of them in common [s, -].
STEP_S, LEAST_S, LEAST_SHARE = 1.0, 60.0, 0.5
#: How far two clocks are looked for apart [s]: a whole ride, and a time zone or two.
MOST_LAG_S: Final = 6 * 3600.0
#: A second best match further from the best than this is another one [s].
_APART_S: Final = 12.0
#: A match that is as good as this, and as much better than the second, is sure (assumption, by trials).
GOOD: Final[dict[By, float]] = {"speed": 0.75, "load": 0.55, "stops": 0.6}
MARGIN: Final = 0.12
_COMPARED: Final[dict[By, str]] = {
    "speed": "the two speeds",
    "load": "the power and the hills",
    "stops": "the stops",
}
#: Seconds of one recording that are looked at: a longer one is thinned.
_MOST_POINTS: Final = 50_000


@dataclass(frozen=True, slots=True, kw_only=True)
class Match:
    """How a second recording lies on a first one's clock.

    `offset_s` is what is to be added to the second's own times [s]; `likeness` and `second_best` are
    correlations (-1 to 1) of the best place and of the best other one; `by` what was compared.
    """

    offset_s: float
    likeness: float
    second_best: float
    by: By
    sure: bool
    notice: Notice


def matched(
    first: pl.DataFrame, second: pl.DataFrame, *, by_clocks_s: float | None = None
) -> Match | None:
    """The place of a second recording on a first one's clock at which they tell the same ride best.

    Parameters
    ----------
    first, second : samples of two instruments, each with its own time 0
    by_clocks_s : what their clocks say is to be added to the second's times [s], None where they say nothing:
        with it, only a quarter of an hour around it, and whole hours from it, are looked at

    Returns
    -------
    None where nothing in them can be compared, or they overlap nowhere for a minute

    Notes
    -----
    Correlation of the two speeds second by second; where one has none, of its power with the load that the
    other's speed and climb make, or of standing with standing.
    """
    kinds: tuple[tuple[By, FloatArray | None, FloatArray | None], ...] = (
        ("speed", _speed(first), _speed(second)),
        ("load", _power(first), _load(second)),
        ("load", _load(first), _power(second)),
        ("stops", _moves(first), _moves(second)),
    )
    best: Match | None = None
    for by, one, other in kinds:
        if one is None or other is None:
            continue
        found = _best_lag(one, other, by, by_clocks_s)
        if found is None:
            continue
        if found.sure:
            return found
        if best is None or found.likeness > best.likeness:
            best = found
    return best


def _grid(samples: pl.DataFrame, values: FloatArray) -> FloatArray:
    """Values each second from time 0, NaN where the log is silent for over ten."""
    time = samples["time_s"].to_numpy()
    known = ~np.isnan(values)
    if known.sum() < 10:
        return np.zeros(0)
    at = np.arange(0.0, min(float(time[-1]), _MOST_POINTS) + STEP_S, STEP_S)
    found = np.interp(at, time[known], values[known])
    nearest = np.searchsorted(time[known], at).clip(1, known.sum() - 1)
    gap = np.minimum(np.abs(time[known][nearest] - at), np.abs(time[known][nearest - 1] - at))
    return np.where(gap > 10, np.nan, found)


def _column(samples: pl.DataFrame, name: str) -> FloatArray | None:
    if name not in samples.columns or samples[name].null_count() == samples.height:
        return None
    return samples[name].to_numpy().astype(np.float64)


def _speed(samples: pl.DataFrame) -> FloatArray | None:
    speed = _column(samples, "speed_mps")
    if speed is not None:
        found = _grid(samples, np.abs(speed))
        return _smooth(found, 3) if len(found) else None
    way = _column(samples, "distance_m")
    latitude, longitude = _column(samples, "latitude_deg"), _column(samples, "longitude_deg")
    if way is None and latitude is not None and longitude is not None:
        way = path_m(latitude, longitude)
    if way is None:
        return None
    found = _grid(samples, way)
    return _smooth(np.clip(np.gradient(found), 0, 40), 5) if len(found) > 2 else None


def _power(samples: pl.DataFrame) -> FloatArray | None:
    volts, amps = _column(samples, "voltage_v"), _column(samples, "current_a")
    if volts is None or amps is None:
        return None
    found = _grid(samples, volts * amps)
    return _smooth(found, 7) if len(found) else None


def _load(samples: pl.DataFrame) -> FloatArray | None:
    """About the power that a speed and a climb take [W], for its shape alone: a light rider on a scooter."""
    speed = _speed(samples)
    if speed is None:
        return None
    mass_kg, roll_n, air = 100.0, 12.0, 0.35
    climb = np.zeros(len(speed))
    height = _column(samples, "altitude_m")
    if height is not None:
        heights = _grid(samples, height)
        if len(heights) == len(speed):
            climb = np.gradient(_smooth(heights, 15))
    gain = np.gradient(_smooth(speed, 5))
    force = roll_n + air * speed**2 + mass_kg * gain
    return _smooth(np.clip(force * speed + mass_kg * STANDARD_GRAVITY_MPS2 * climb, -500, 3000), 7)


def _moves(samples: pl.DataFrame) -> FloatArray | None:
    """1 where it moves or pulls, 0 where it stands."""
    speed = _speed(samples)
    if speed is not None:
        return np.where(np.isnan(speed), np.nan, (speed > 0.8).astype(float))
    amps = _column(samples, "current_a")
    if amps is None:
        return None
    found = _smooth(np.abs(_grid(samples, amps)), 5)
    if not len(found):
        return None
    return np.where(
        np.isnan(found), np.nan, (found > 0.12 * np.nanquantile(found, 0.9)).astype(float)
    )


def _smooth(values: FloatArray, width: int) -> FloatArray:
    if len(values) < width:
        return values
    known = ~np.isnan(values)
    kernel = np.ones(width)
    total = np.convolve(np.where(known, values, 0.0), kernel, "same")
    count = np.convolve(known.astype(float), kernel, "same")
    return np.where(known, total / np.maximum(count, 1.0), np.nan)


def _best_lag(one: FloatArray, other: FloatArray, by: By, near_s: float | None) -> Match | None:
    """The lag at which two lines are most alike; of lags with too little in common none counts."""
    if min(np.sum(~np.isnan(one)), np.sum(~np.isnan(other))) < LEAST_S:
        return None
    likeness, common = _correlations(one, other)
    lags = np.arange(-(len(other) - 1), len(one)) * STEP_S
    enough = common >= max(
        LEAST_S, LEAST_SHARE * min(np.sum(~np.isnan(one)), np.sum(~np.isnan(other)))
    )
    if near_s is not None:
        # A clock may be slow, or set to another zone.
        hours = np.round((lags - near_s) / 3600) * 3600
        enough &= (np.abs(lags - near_s - hours) <= 900) & (np.abs(hours) <= 14 * 3600)
        if not enough.any():
            return None
    enough &= np.abs(lags) <= MOST_LAG_S
    if not enough.any() or not np.isfinite(likeness[enough]).any():
        return None
    scored = np.where(enough & np.isfinite(likeness), likeness, -1.0)
    # Of matches that are as good, the one that the clocks say.
    if near_s is not None:
        scored = scored - 0.02 * np.minimum(np.abs(lags - near_s) / 3600, 1.0)
    at = int(np.argmax(scored))
    apart = np.abs(lags - lags[at]) > _APART_S
    second = float(np.max(scored[apart], initial=-1.0))
    offset = float(lags[at]) + _between(scored, at) * STEP_S
    value = float(likeness[at])
    sure = bool(value >= GOOD[by] and value - max(second, 0.0) >= MARGIN * value)
    code = "match_sure" if sure else "match_unsure"
    return Match(
        offset_s=round(offset, 2),
        likeness=value,
        second_best=second,
        by=by,
        sure=sure,
        notice=Notice(code, what=_COMPARED[by]),
    )


def _between(scored: FloatArray, at: int) -> float:
    """Where between two seconds the top of a peak lies, by a parabola through three of them."""
    if not 0 < at < len(scored) - 1 or min(scored[at - 1], scored[at + 1]) <= -1:
        return 0.0
    left, top, right = scored[at - 1], scored[at], scored[at + 1]
    bend = left - 2 * top + right
    return float(np.clip(0.5 * (left - right) / bend, -0.5, 0.5)) if bend < 0 else 0.0


def _correlations(one: FloatArray, other: FloatArray) -> tuple[FloatArray, FloatArray]:
    """Pearson's correlation at every lag over what both know there, and how many seconds that is.

    Returns
    -------
    both of shape (len(one) + len(other) - 1,), for lags -(len(other) - 1) to len(one) - 1
    """
    a_known, b_known = (~np.isnan(one)).astype(float), (~np.isnan(other)).astype(float)
    a = np.where(a_known > 0, one - np.nanmean(one), 0.0)
    b = np.where(b_known > 0, other - np.nanmean(other), 0.0)

    def across(x: FloatArray, y: FloatArray) -> FloatArray:
        size = 1 << (len(x) + len(y) - 2).bit_length()
        spectrum = np.fft.rfft(x, size) * np.conj(np.fft.rfft(y, size))
        wrapped = np.fft.irfft(spectrum, size)
        return np.concatenate([wrapped[size - (len(y) - 1) :], wrapped[: len(x)]])

    n = np.maximum(np.round(across(a_known, b_known)), 0.0)
    some = np.maximum(n, 1.0)
    sum_a, sum_b = across(a, b_known), across(a_known, b)
    cov = across(a, b) - sum_a * sum_b / some
    var_a = across(a * a, b_known) - sum_a**2 / some
    var_b = across(a_known, b * b) - sum_b**2 / some
    size = np.sqrt(np.maximum(var_a, 0) * np.maximum(var_b, 0))
    return np.where(size > 1e-9, cov / np.maximum(size, 1e-9), np.nan), n


def comparable(
    samples: pl.DataFrame,
) -> tuple[FloatArray, FloatArray | None, FloatArray | None]:
    """What a recording can be held against another by: times [s], speed [m/s] and power [W], second by second.

    Returns
    -------
    arrays of shape (n,), NaN where silent; None for what it does not tell
    """
    speed, power = _speed(samples), _power(samples)
    length = max(0 if speed is None else len(speed), 0 if power is None else len(power))
    return np.arange(length, dtype=np.float64) * STEP_S, speed, power
