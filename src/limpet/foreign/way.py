"""Speed and distance: in which unit, by each other and by the track."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from limpet.foreign.candidate import SURE, TRIED, Candidate, Chosen, FloatArray, middle
from limpet.foreign.checks import path_m, running, slope_of
from limpet.notices import Notice
from limpet.units import SECONDS_PER_HOUR


def settle_way(of: Chosen, time_s: FloatArray, unsure: list[Notice]) -> None:
    """Speed and distance by each other, and by the track where there is one."""
    lat, lon = next(iter(of("latitude_deg")), None), next(iter(of("longitude_deg")), None)
    for place in (lat, lon):
        if place is not None and middle(place.values) > 400:
            place.factor = 1e-7
            place.why.append(Notice("look_size", value=middle(place.values)))
    track = path_m(lat.si(), lon.si()) if lat is not None and lon is not None else None
    speed, distance = next(iter(of("speed_mps")), None), next(iter(of("distance_m")), None)
    if distance is not None:
        tries = (
            [(distance.meaning.unit, 1.0)] if distance.meaning.unit else list(TRIED["distance_m"])
        )
        _fit_to(distance, tries, track, "the track", 0.15)
    if speed is not None:
        tries = [(speed.meaning.unit, 1.0)] if speed.meaning.unit else list(TRIED["speed_mps"])
        come = (
            distance.si()
            if distance is not None and (distance.meaning.unit or distance.sure > 0.9)
            else track
        )
        _fit_speed(
            speed, tries, come, time_s, distance.source if distance is not None else "the track"
        )
    if distance is not None and not distance.meaning.unit and distance.sure < 0.9:
        if speed is not None and (speed.meaning.unit or speed.sure > 0.9):
            summed = running(time_s, speed.si())
            _fit_to(distance, list(TRIED["distance_m"]), summed, speed.source, 0.15)
        else:
            _by_size_of_way(distance, speed, time_s)
    for item in (speed, distance):
        if item is not None and not item.meaning.unit and item.sure < 0.9:
            item.sure = min(item.sure, 0.6)
            unsure.append(Notice("look_unit_unsure", name=item.source))
        elif item is not None and item.sure < SURE:
            unsure.append(Notice("look_way_apart", name=item.source))


def _fit_to(
    item: Candidate,
    tries: Sequence[tuple[str, float]],
    come: FloatArray | None,
    called: str,
    near: float,
) -> None:
    """The unit under which a distance gains what another way of measuring it does."""
    item.unit, item.factor = tries[0]
    if come is None or come[-1] - come[0] < 200:
        return
    for unit, factor in tries:
        item.unit, item.factor = unit, factor
        slope, straight = slope_of(item.si(), come)
        if abs(slope - 1) < near and straight > 0.95:
            item.sure = max(item.sure, 0.95)
            item.why.append(Notice("look_slope", of=called))
            return
    item.unit, item.factor = tries[0]
    item.sure = min(item.sure, 0.5)


def _fit_speed(
    item: Candidate,
    tries: Sequence[tuple[str, float]],
    come: FloatArray | None,
    time_s: FloatArray,
    called: str,
) -> None:
    item.unit, item.factor = tries[0]
    if come is None or np.nanmax(come) - np.nanmin(come) < 200:
        return
    for unit, factor in tries:
        item.unit, item.factor = unit, factor
        slope, straight = slope_of(come, running(time_s, item.si()))
        if abs(slope - 1) < 0.2 and straight > 0.95:
            item.sure = max(item.sure, 0.95)
            item.why.append(Notice("look_slope", of=called))
            return
    item.unit, item.factor = tries[0]
    item.sure = min(item.sure, 0.5)


def _by_size_of_way(distance: Candidate, speed: Candidate | None, time_s: FloatArray) -> None:
    """Metres, where the mean speed in kilometres would be no vehicle's."""
    gained = float(np.nanmax(distance.values) - np.nanmin(distance.values))
    hours = float(time_s[-1] - time_s[0]) / SECONDS_PER_HOUR
    if hours > 0 and gained / hours > 400:
        distance.unit, distance.factor = "m", 1.0
        distance.sure = max(distance.sure, 0.9)
        distance.why.append(Notice("look_size", value=gained))
        if speed is not None and not speed.meaning.unit:
            _fit_speed(speed, list(TRIED["speed_mps"]), distance.si(), time_s, distance.source)
