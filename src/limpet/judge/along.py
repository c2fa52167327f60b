"""Where along the way a difference arises: two rides laid over each other by their tracks, or by distance."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from math import cos, radians
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import TypeAdapter

from limpet.evidence.model import RangeTest
from limpet.read.where_read import energy_read_at
from limpet.tell import Result

FloatArray = NDArray[np.float64]
Known = tuple[float | None, ...]

#: Points that a way is kept by, and readings of energy that tell where it went.
MOST_POINTS, LEAST_READINGS = 400, 5
#: A column that is silent for longer is not known in between [s].
GAP_S = 90.0
#: Two tracks are at one place within this [m]: what receivers and lanes differ by (assumption); and one
#: ride may be so far ahead of the other by its own distance, of it [-] and [m].
TOGETHER_M, AHEAD, AHEAD_M = 45.0, 0.08, 250.0
#: A place so much further along counts as one so much further away [-] (assumption).
ALONG = 0.2
#: Of the first's way so much must be found in the second's before they are one way [-].
ONE_WAY = 0.6
#: A degree of latitude [m]; good to a third of a per cent, where metres within a street are asked.
DEGREE_M = 111_200.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Way:
    """A ride along its way at even steps: metres, energy used since its start [Wh], height, place; equally long."""

    at_m: tuple[float, ...]
    energy_wh: tuple[float, ...]
    height_m: Known | None = None
    latitude_deg: Known | None = None
    longitude_deg: Known | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Arising:
    """How much more the second had used than the first [Wh], along the first's way; equally long.

    `height_m` of the first's way where it is known. `by` says whether the places were found by both tracks or
    are those of one distance.
    """

    by: Literal["track", "distance"]
    at_m: tuple[float, ...]
    more_wh: tuple[float, ...]
    height_m: Known | None


def way_of(test: RangeTest, result: Result) -> Way | None:
    """A ride's way with what it took; None where its energy is known at its ends alone."""
    metres, energy, used = result.distance_line, result.energy_line, result.energy_estimate
    if metres is None or energy is None or used is None:
        return None
    read = energy_read_at(test, result.ride, used.method).time_s
    if (read <= result.ride.end_s).sum() < LEAST_READINGS:
        return None
    if metres.span <= 0:
        return None
    at_m = np.linspace(0, metres.span, MOST_POINTS)
    # A stop is one place of many times: the last of them has all that was used there.
    rising = np.append(np.diff(metres.total) > 0, True)
    time_s = np.interp(at_m, (metres.total - metres.total[0])[rising], metres.time_s[rising])
    latitude, longitude = (_at(test, name, time_s, 6) for name in ("latitude_deg", "longitude_deg"))
    return Way(
        at_m=_rounded(at_m, 1),
        energy_wh=_rounded(energy.at(time_s) - energy.total[0], 2),
        height_m=_at(test, "altitude_m", time_s, 1),
        latitude_deg=latitude if longitude is not None else None,
        longitude_deg=longitude if latitude is not None else None,
    )


@cache
def _adapter() -> TypeAdapter[Way]:
    """Made when it is first wanted: building it takes some ten milliseconds."""
    return TypeAdapter(Way)


def way_from_json(kept: Any) -> Way:
    """A way as it was kept (`dataclasses.asdict`).

    Raises
    ------
    pydantic.ValidationError
        When it is none, or of a version that kept something else.
    """
    return _adapter().validate_python(kept)


def arising(one: Way | None, two: Way | None) -> Arising | None:
    """Where the second uses more than the first; None where one of them is known at its ends alone."""
    if one is None or two is None:
        return None
    here, there_m = _together(one, two)
    if len(here) >= ONE_WAY * len(one.at_m):
        by: Literal["track", "distance"] = "track"
    else:
        here = np.flatnonzero(np.array(one.at_m) <= two.at_m[-1])
        there_m = np.array(one.at_m)[here]
        by = "distance"
    first = np.array(one.energy_wh)[here]
    second = np.interp(there_m, two.at_m, two.energy_wh)
    more = (second - second[0]) - (first - first[0])
    return Arising(
        by=by,
        at_m=tuple(one.at_m[k] for k in here),
        more_wh=_rounded(more, 2),
        height_m=None if one.height_m is None else tuple(one.height_m[k] for k in here),
    )


def _together(one: Way, two: Way) -> tuple[NDArray[np.int64], FloatArray]:
    """Points of the first way that the second passed too, and its metres there.

    In the order of the way, so that there and back are not mixed up: the nearest place of the second's track,
    between its points as well, about as far along as it was ahead before.
    """
    places = _east_north(one), _east_north(two)
    found: list[int] = []
    passed: list[float] = []
    if places[0] is None or places[1] is None:
        return np.array(found, dtype=np.int64), np.array(passed)
    there_m = np.array(two.at_m)
    from_, step = places[1][:, :-1], np.diff(places[1])
    span = np.maximum(np.diff(there_m), 1e-9)
    length = np.maximum((step**2).sum(axis=0), 1e-9)
    ahead, last = 0.0, 0.0
    for k, at in enumerate(one.at_m):
        slack = max(AHEAD * at, AHEAD_M)
        near = (there_m[1:] >= max(at + ahead - slack, last)) & (there_m[:-1] <= at + ahead + slack)
        near &= ~np.isnan(step[0])
        here = places[0][:, k : k + 1]
        if not near.any() or np.isnan(here).any():
            continue
        off = here - from_[:, near]
        # Never back behind where it was.
        least = np.clip((last - there_m[:-1][near]) / span[near], 0, 1)
        part = np.clip((off * step[:, near]).sum(axis=0) / length[near], least, 1)
        apart = np.hypot(*(off - part * step[:, near]))
        # At a turn the way out and the way back are both near: the one that is about as far along.
        along = there_m[:-1][near] + part * span[near]
        off_m = apart + ALONG * np.abs(along - at - ahead)
        off_m[apart > TOGETHER_M] = np.inf
        nearest = int(np.argmin(off_m))
        if np.isinf(off_m[nearest]):
            continue
        segment = int(np.flatnonzero(near)[nearest])
        last = float(there_m[segment] + part[nearest] * span[segment])
        ahead = last - at
        found.append(k)
        passed.append(last)
    return np.array(found, dtype=np.int64), np.array(passed)


def _east_north(way: Way) -> FloatArray | None:
    """Metres east and north of nought, shape (2, n); one scale for all ways of a place."""
    if way.latitude_deg is None or way.longitude_deg is None:
        return None
    latitude = np.array(way.latitude_deg, dtype=np.float64)
    longitude = np.array(way.longitude_deg, dtype=np.float64)
    if np.isnan(latitude).all():
        return None
    # Two rides of one place are within a hundredth of a degree of a whole one's cosine.
    scale = cos(radians(round(float(np.nanmedian(latitude)), 1)))
    return np.stack([longitude * DEGREE_M * scale, latitude * DEGREE_M])


def _at(test: RangeTest, name: str, time_s: FloatArray, decimals: int) -> Known | None:
    """A logged column at some times; None where it was silent."""
    values, times = test.column(name), test.column("time_s")
    if values is None or times is None:
        return None
    known = ~np.isnan(values)
    if known.sum() < LEAST_READINGS:
        return None
    there = np.interp(time_s, times[known], values[known])
    after = np.clip(np.searchsorted(times[known], time_s), 1, known.sum() - 1)
    silent = times[known][after] - times[known][after - 1] > GAP_S
    return tuple(
        None if gone else round(float(value), decimals)
        for value, gone in zip(there, silent, strict=True)
    )


def _rounded(values: FloatArray, decimals: int) -> tuple[float, ...]:
    return tuple(round(float(value), decimals) for value in values)
