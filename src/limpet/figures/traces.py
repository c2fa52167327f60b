"""Traces of a log for drawing: columns in bins, a stretch in figures, and the path over the ground."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import cos, radians
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from limpet.read.line import Line
from limpet.road.heights import HYSTERESIS_GPS_M, ascent_m
from limpet.units import METRES_PER_KM, SECONDS_PER_HOUR, Kind

if TYPE_CHECKING:
    import polars as pl

FloatArray = NDArray[np.float64]

#: Bins of a trace, each with its lowest, mean and highest value.
TRACE_BINS: Final = 700
#: Channels that are drawn at once, and those that are drawn unless others are asked for.
MOST_CHANNELS: Final = 8
USUAL: Final = ("voltage", "power", "speed", "height")
#: Points of a path, and the way over which its consumption is a mean [m].
PATH_POINTS, PATH_MEAN_M = 400, 150.0
#: Metres of a degree of latitude (mean of the WGS 84 ellipsoid).
METRES_PER_DEGREE: Final = 111_132.0
#: Steps longer than this are not counted into a stretch's energy [s]: the logger was silent.
SILENT_S: Final = 60.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ChannelKind:
    """A channel by its name: what it is called, in which unit of the core's, out of which columns."""

    label: str
    unit: str
    kind: Kind | None
    columns: tuple[str, ...]
    decimals: int


def _channel(
    label: str, unit: str, kind: Kind | None, *columns: str, decimals: int = 1
) -> ChannelKind:
    return ChannelKind(label=label, unit=unit, kind=kind, columns=columns, decimals=decimals)


CHANNELS: Final[dict[str, ChannelKind]] = {
    "voltage": _channel("Volts", "V", "voltage", "voltage_v"),
    "power": _channel("Power", "W", "power", "voltage_v", "current_a", decimals=0),
    "speed": _channel("Speed", "m/s", "speed", "speed_mps"),
    "height": _channel("Height", "m", "length", "altitude_m", decimals=0),
    "current": _channel("Amps", "A", "current", "current_a"),
    "charge": _channel("Amp-hours", "Ah", "charge", "charge_ah", decimals=2),
    "energy": _channel("Watt-hours", "Wh", "energy", "energy_wh"),
    "cell_min": _channel("Lowest cell", "V", "voltage", "cell_min_v", decimals=3),
    "gauge": _channel("Gauge", "", None, "gauge", decimals=0),
    "battery_temp": _channel("Pack temperature", "degC", "temperature", "battery_temp_c"),
    "motor_temp": _channel("Motor temperature", "degC", "temperature", "motor_temp_c"),
    "controller_temp": _channel(
        "Controller temperature", "degC", "temperature", "controller_temp_c"
    ),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Channel:
    """One quantity in bins: lowest, mean and highest, None in a bin without samples."""

    name: str
    unit: str
    low: tuple[float | None, ...]
    mean: tuple[float | None, ...]
    high: tuple[float | None, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Stretch:
    """A part of a ride in figures; None is "not recorded". Energy is net, gaps left out."""

    from_s: float
    to_s: float
    distance_m: float | None
    energy_wh: float | None
    wh_per_km: float | None
    ascent_m: float | None
    descent_m: float | None
    mean_speed_mps: float | None
    voltage_low_v: float | None
    voltage_mean_v: float | None
    voltage_high_v: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Traces:
    """Channels over common bins: mid-times [s] and distances there [m], shape (bins,).

    `available` names all channels that the log has; `stretch` is what is shown, in figures.
    """

    time_s: tuple[float, ...]
    distance_m: tuple[float, ...] | None
    channels: tuple[Channel, ...]
    available: tuple[str, ...]
    stretch: Stretch


@dataclass(frozen=True, slots=True, kw_only=True)
class TrackPath:
    """A track over the ground: metres east and north of its first point, with the time [s], the distance
    [m] and the consumption around each point, all of shape (n,); and where that first point is [deg], None
    in what was stored before it was asked for."""

    time_s: tuple[float, ...]
    distance_m: tuple[float, ...]
    east_m: tuple[float, ...]
    north_m: tuple[float, ...]
    wh_per_km: tuple[float | None, ...]
    latitude_deg: float | None = None
    longitude_deg: float | None = None


def columns_for(channels: Sequence[str]) -> tuple[str, ...]:
    """The columns of a log that some channels, and a stretch's figures, are made of."""
    named = {name for item in channels for name in CHANNELS[item].columns}
    return ("time_s", *sorted(named | {"voltage_v", "current_a", "altitude_m"}))


def traces_of(
    samples: pl.DataFrame | None,
    way: Line | None,
    from_s: float | None = None,
    to_s: float | None = None,
    *,
    channels: Sequence[str] = (),
    recorded: Sequence[str] | None = None,
) -> Traces | None:
    """Channels in bins, for the whole ride or a part; None without samples.

    Parameters
    ----------
    samples : a table as `RangeTest.samples` has it, or a part of one
    way : distance [m] over time; None when not known
    from_s, to_s : the part to show [s]; all there is when None
    channels : names of `CHANNELS`, `MOST_CHANNELS` at most; the usual ones when empty
    recorded : columns that the log has, where `samples` holds only some of them
    """
    if samples is None:
        return None
    column = _reader(samples)
    time = column("time_s")
    if time is None or len(time) < 2:
        return None
    begin = float(time[0]) if from_s is None else max(from_s, float(time[0]))
    end = float(time[-1]) if to_s is None else min(to_s, float(time[-1]))
    if end <= begin:
        return None
    first, last = np.searchsorted(time, [begin, end], side="left")
    last = min(int(last) + 1, len(time))
    shown = time[first:last]
    bins = min(TRACE_BINS, max(len(shown), 1))
    edges = np.searchsorted(shown, np.linspace(begin, end, bins + 1)[:-1], side="left")
    middle = begin + (np.arange(bins) + 0.5) * (end - begin) / bins
    known = set(recorded if recorded is not None else samples.columns)
    available = tuple(name for name, kind in CHANNELS.items() if set(kind.columns) <= known)
    wanted = [name for name in channels or USUAL if name in available][:MOST_CHANNELS]
    drawn = []
    for name in wanted:
        values = _values(column, name)
        if values is not None:
            drawn.append(_binned(name, CHANNELS[name].unit, values[first:last], edges))
    return Traces(
        time_s=tuple(np.round(middle, 2).tolist()),
        distance_m=tuple(np.round(way.at(middle), 1).tolist()) if way is not None else None,
        channels=tuple(drawn),
        available=available,
        stretch=_stretch(column, way, slice(first, last), begin, end),
    )


_Reader = Callable[[str], FloatArray | None]


def _reader(samples: pl.DataFrame) -> _Reader:
    def column(name: str) -> FloatArray | None:
        if name not in samples.columns or samples[name].null_count() == samples.height:
            return None
        return samples[name].to_numpy()

    return column


def _values(column: _Reader, name: str) -> FloatArray | None:
    parts = [found for part in CHANNELS[name].columns if (found := column(part)) is not None]
    if len(parts) < len(CHANNELS[name].columns):
        return None
    product: FloatArray = np.prod(parts, axis=0)
    return product


def _stretch(column: _Reader, way: Line | None, part: slice, begin: float, end: float) -> Stretch:
    """What lies between two times, in figures."""
    time = column("time_s")
    assert time is not None
    volts, amps, heights = column("voltage_v"), column("current_a"), column("altitude_m")
    metres = float(np.diff(way.at(np.array([begin, end])))[0]) if way is not None else None
    energy = None
    if volts is not None and amps is not None:
        energy = _energy_wh(time[part], volts[part] * amps[part])
    climbed = _climbed(heights[part]) if heights is not None else None
    seen = volts[part] if volts is not None else np.zeros(0)
    seen = seen[~np.isnan(seen)]
    per_km = None
    if energy is not None and metres is not None and metres > 1:
        per_km = energy / (metres / METRES_PER_KM)
    return Stretch(
        from_s=begin,
        to_s=end,
        distance_m=metres,
        energy_wh=energy,
        wh_per_km=per_km,
        ascent_m=climbed[0] if climbed else None,
        descent_m=climbed[1] if climbed else None,
        mean_speed_mps=metres / (end - begin) if metres is not None else None,
        voltage_low_v=float(seen.min()) if len(seen) else None,
        voltage_mean_v=float(seen.mean()) if len(seen) else None,
        voltage_high_v=float(seen.max()) if len(seen) else None,
    )


def _energy_wh(time: FloatArray, power: FloatArray) -> float | None:
    """∫P dt by trapezoids over the known samples, silent steps left out [Wh]."""
    known = ~np.isnan(power)
    if known.sum() < 2:
        return None
    at, watts = time[known], power[known]
    steps = np.diff(at)
    means = (watts[1:] + watts[:-1]) / 2
    return float((means * steps)[steps <= SILENT_S].sum() / SECONDS_PER_HOUR)


def _climbed(heights: FloatArray) -> tuple[float, float] | None:
    known = heights[~np.isnan(heights)]
    if len(known) < 2:
        return None
    return ascent_m(known, HYSTERESIS_GPS_M)


def path_of(samples: pl.DataFrame | None, way: Line | None) -> TrackPath | None:
    """A logged track on a plane, with the consumption around each of its points; None without one.

    Parameters
    ----------
    samples : a log with latitudes and longitudes
    way : metres over time

    Returns
    -------
    positions [m] east and north of the first fix, consumption [Wh/km] at each

    Notes
    -----
    A plane through the first fix, a degree of longitude shortened by the cosine of the latitude: good to
    0.1% over 20 km, for drawing alone. The consumption is a mean over `PATH_MEAN_M` of the way.
    """
    if samples is None or way is None:
        return None
    column = _reader(samples)
    time, latitude, longitude = (
        column(name) for name in ("time_s", "latitude_deg", "longitude_deg")
    )
    if time is None or latitude is None or longitude is None:
        return None
    known = ~(np.isnan(latitude) | np.isnan(longitude))
    if known.sum() < 2:
        return None
    at, north, east = time[known], latitude[known], longitude[known]
    keep = np.unique(np.linspace(0, len(at) - 1, PATH_POINTS).round().astype(int))
    at, north, east = at[keep], north[keep], east[keep]
    metres = way.at(at)
    shrink = cos(radians(float(north[0])))
    volts, amps = column("voltage_v"), column("current_a")
    per_km = np.full(len(at), np.nan)
    if volts is not None and amps is not None:
        per_km = _around(time, volts * amps, way, at)
    return TrackPath(
        time_s=tuple(round(float(value), 1) for value in at),
        distance_m=tuple(round(float(value), 1) for value in metres),
        east_m=tuple(
            round(float(value), 1) for value in (east - east[0]) * METRES_PER_DEGREE * shrink
        ),
        north_m=tuple(round(float(value), 1) for value in (north - north[0]) * METRES_PER_DEGREE),
        wh_per_km=_optional(per_km),
        latitude_deg=round(float(north[0]), 6),
        longitude_deg=round(float(east[0]), 6),
    )


def _around(time: FloatArray, power: FloatArray, way: Line, at: FloatArray) -> FloatArray:
    """Consumption over `PATH_MEAN_M` around some times [Wh/km], NaN where nothing was ridden."""
    known = ~np.isnan(power)
    if known.sum() < 2:
        return np.full(len(at), np.nan)
    t, watts = time[known], power[known]
    steps = np.diff(t)
    pieces = np.where(steps <= SILENT_S, (watts[1:] + watts[:-1]) / 2 * steps, 0.0)
    energy = np.concatenate([[0.0], np.cumsum(pieces)]) / SECONDS_PER_HOUR
    ridden = way.at(t)
    middle = np.interp(at, t, ridden)
    # Where it stands the way does not grow: times are looked up on its rising part.
    rising = np.concatenate([[True], np.diff(ridden) > 1e-6])
    low = np.interp(middle - PATH_MEAN_M / 2, ridden[rising], energy[rising])
    high = np.interp(middle + PATH_MEAN_M / 2, ridden[rising], energy[rising])
    span = np.interp(middle + PATH_MEAN_M / 2, ridden[rising], ridden[rising]) - np.interp(
        middle - PATH_MEAN_M / 2, ridden[rising], ridden[rising]
    )
    return np.where(span > 1, (high - low) / np.maximum(span, 1) * METRES_PER_KM, np.nan)


def _binned(name: str, unit: str, values: FloatArray, edges: NDArray[np.int64]) -> Channel:
    known = ~np.isnan(values)
    if known.all():
        counts = np.diff(np.append(edges, len(values)))
        parts = values
        starts = edges
    else:
        positions = np.concatenate([[0], np.cumsum(known)])
        starts = positions[edges]
        parts = values[known]
        counts = np.diff(np.append(starts, len(parts)))
    filled = counts > 0
    low, mean, high = (np.full(len(edges), np.nan) for _ in range(3))
    if filled.any():
        at = starts[filled]
        low[filled] = np.minimum.reduceat(parts, at)
        high[filled] = np.maximum.reduceat(parts, at)
        mean[filled] = np.add.reduceat(parts, at) / counts[filled]
    return Channel(
        name=name, unit=unit, low=_optional(low), mean=_optional(mean), high=_optional(high)
    )


def _optional(values: FloatArray) -> tuple[float | None, ...]:
    """Five figures of the largest are more than a pixel shows, and half the bytes to send."""
    known = ~np.isnan(values)
    if not known.any():
        return (None,) * len(values)
    largest = float(np.abs(values[known]).max())
    decimals = 4 - (int(np.floor(np.log10(largest))) if largest > 0 else 0)
    rounded = np.round(values, max(decimals, 0)).tolist()
    return tuple(
        value if there else None for value, there in zip(rounded, known.tolist(), strict=True)
    )
