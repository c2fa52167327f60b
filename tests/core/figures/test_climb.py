"""Climb on laps: a barometer that drifts climbs nothing."""

from __future__ import annotations

import numpy as np
import polars as pl
import pytest

from limpet.evidence.model import Entry, Instruments, LapInstrument
from limpet.figures.climb import by_place
from limpet.tell import analyse
from tests.strategies import range_test

LAP_M, RISE_M, LAPS = 1720.0, 7.0, 8


def on_laps(*, counted: bool):
    """Eight laps that rise and fall by 7 m, by a barometer that wanders by metres meanwhile."""
    rng = np.random.default_rng(3)
    time = np.arange(0.0, LAPS * LAP_M / 5.0 + 1, 1.0)
    metres = 5.0 * time
    true = RISE_M / 2 * (1 - np.cos(2 * np.pi * metres / LAP_M))
    wander = np.cumsum(rng.normal(0, 0.18, len(time)))
    frame = pl.DataFrame({"time_s": time, "distance_m": metres, "altitude_m": true + wander})
    laps = {"laps": 0.0} if counted else {}
    end = {"laps": float(LAPS)} if counted else {}
    return range_test(
        Entry(time_s=0.0, kind="start", **laps),
        Entry(time_s=float(time[-1]), kind="end", **end),
        samples=frame,
        instruments=Instruments(lap=LapInstrument(length_m=LAP_M)),
    )


def test_heights_are_averaged_by_place_before_the_climb_is_counted():
    plain, placed = (analyse(on_laps(counted=counted)).climb.ascent_m for counted in (False, True))
    assert plain > 1.12 * LAPS * RISE_M
    assert placed == pytest.approx(LAPS * RISE_M, rel=0.08)


def test_the_mean_of_like_laps_is_the_lap():
    along = np.linspace(0, 4 * 500.0, 401)
    height = 3 * np.sin(2 * np.pi * along / 500.0)
    assert by_place(along, height, 500.0) == pytest.approx(height, abs=0.05)
