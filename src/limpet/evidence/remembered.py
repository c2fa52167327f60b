"""Entries of a ride that is written down afterwards: clocks where they were read, distance for the rest."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.clock import filled_times
from limpet.evidence.model import Entry
from limpet.units import METRES_PER_MILE

FloatArray = NDArray[np.float64]

#: A day's seconds: a clock that goes back has passed midnight.
_DAY_S: Final = 86_400.0
_CLOCK: Final = re.compile(
    r"^\s*(\d{1,2})[:.h](\d{2})(?:[:.](\d{2}))?\s*([ap])?\.?m?\.?\s*$", re.IGNORECASE
)
#: Distances that tell when an entry was, the first that was noted anywhere.
_TELLS: Final = ("trip_m", "gps_m", "odometer_m", "laps")


def clock_s(text: str) -> float:
    """Seconds since midnight of a clock such as "9:12", "21.40" or "1:05 pm".

    Raises
    ------
    ValueError
        When it is none.
    """
    found = _CLOCK.match(text)
    if found is None:
        raise ValueError(f"is '{text[:20]}', expected a clock like 9:12 or 21:40")
    hours, minutes, seconds = int(found[1]), int(found[2]), int(found[3] or 0)
    half = (found[4] or "").lower()
    if half:
        hours = hours % 12 + (12 if half == "p" else 0)
    if hours > 23 or minutes > 59 or seconds > 59:
        raise ValueError(f"is '{text[:20]}', and no clock shows that")
    return hours * 3600.0 + minutes * 60.0 + seconds


def remembered(
    rows: Sequence[Mapping[str, Any]], lap_m: float | None = None
) -> tuple[tuple[Entry, ...], dict[str, str]]:
    """Entries in the order in which they were written down, each with a time.

    Parameters
    ----------
    rows : fields of `Entry` by name, in core units, without `time_s`; `clock` as text where it was read
    lap_m : length of a lap, where laps alone tell the distance [m]

    Returns
    -------
    the entries; and what is wrong by `row.field`, with which there are none

    Notes
    -----
    The first clock is the start. Without clocks the distance tells, at a usual speed; a first row without a
    distance is where it began. The first row is a start, the last an end, where nobody says otherwise.
    """
    faults: dict[str, str] = {}
    time = np.full(len(rows), np.nan)
    began: float | None = None
    day = 0.0
    before = 0.0
    for index, row in enumerate(rows):
        text = str(row.get("clock") or "").strip()
        if not text:
            continue
        try:
            at = clock_s(text)
        except ValueError as error:
            faults[f"{index}.clock"] = str(error)
            continue
        if began is None:
            began, before = at, at
        # Half a day back is midnight; less is a slip.
        if at < before and before - at > _DAY_S / 2:
            day += _DAY_S
        elif at < before:
            faults[f"{index}.clock"] = "is before the clock above it; put the rows in order"
        before = at
        time[index] = at + day - began
    time = filled_times(time, _distance(rows, lap_m))
    for index in np.flatnonzero(np.isnan(time)).tolist():
        if not any(name.startswith(f"{index}.") for name in faults):
            faults[f"{index}.clock"] = "needs a clock, or a distance that tells when it was"
    if faults:
        return (), faults
    last = len(rows) - 1
    entries = []
    for index, row in enumerate(rows):
        values = {
            name: value for name, value in row.items() if name != "clock" and value is not None
        }
        usual = "start" if index == 0 else "end" if index == last else "checkpoint"
        values.setdefault("kind", usual)
        entries.append(Entry(time_s=float(time[index]), **values))
    return tuple(entries), {}


def _distance(rows: Sequence[Mapping[str, Any]], lap_m: float | None) -> FloatArray:
    """How far it was at each row [m], NaN where nothing tells."""
    for name in _TELLS:
        if all(row.get(name) is None for row in rows):
            continue
        found: FloatArray = np.array(
            [np.nan if row.get(name) is None else float(row[name]) for row in rows]
        )
        if np.isnan(found[0]):
            found[0] = 0.0 if name in ("trip_m", "laps", "gps_m") else np.nanmin(found)
        found -= np.nanmin(found)
        if name == "laps":
            found *= lap_m or METRES_PER_MILE
        return found
    return np.full(len(rows), np.nan)
