"""Fixes as they are read one by one, and the texts that they are read from."""

from __future__ import annotations

from datetime import datetime, timezone
from math import isfinite

import numpy as np

from limpet.foreign.track import Segment


class Fixes:
    """A segment that fills up fix by fix; None is "not known"."""

    def __init__(self) -> None:
        self._rows: list[tuple[float | None, ...]] = []

    def __len__(self) -> int:
        return len(self._rows)

    def add(
        self,
        latitude_deg: float | None,
        longitude_deg: float | None,
        altitude_m: float | None,
        time_s: float | None,
        speed_mps: float | None,
    ) -> None:
        """One fix more."""
        self._rows.append((latitude_deg, longitude_deg, altitude_m, time_s, speed_mps))

    def segment(self, *, no_zero_heights: bool = False) -> Segment:
        """All of them."""
        table = np.array(
            [[np.nan if value is None else value for value in row] for row in self._rows],
            dtype=np.float64,
        ).reshape(-1, 5)
        heights = table[:, 2]
        if no_zero_heights and not np.any(heights[~np.isnan(heights)]):
            heights = np.full(len(table), np.nan)
        return Segment(
            latitude_deg=table[:, 0],
            longitude_deg=table[:, 1],
            altitude_m=heights,
            time_s=None if np.isnan(table[:, 3]).all() else table[:, 3],
            speed_mps=None if np.isnan(table[:, 4]).all() else table[:, 4],
        )


def number_of(text: object) -> float | None:
    """A number, None where it is none."""
    if isinstance(text, bool) or text is None:
        return None
    try:
        value = float(str(text).strip())
    except ValueError:
        return None
    return value if isfinite(value) else None


def epoch_of(text: str | None) -> float | None:
    """Seconds since 1970 of a time as ISO 8601 has it, None where it is none; without an offset, UTC."""
    if text is None:
        return None
    try:
        moment = datetime.fromisoformat(text.strip().replace("Z", "+00:00"))
        aware = moment if moment.tzinfo is not None else moment.replace(tzinfo=timezone.utc)
        return (aware - datetime(1970, 1, 1, tzinfo=timezone.utc)).total_seconds()
    except (ValueError, OverflowError):
        return None
