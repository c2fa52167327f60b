"""Bends that a track of few places cuts: seeded roads whose length is known."""

import numpy as np
import pytest

from limpet.road.bends import BENDS_STD, UNSEEN_STD, bends_m
from limpet.road.geodesic import step_lengths_m

LENGTH_M = 40_000
DEG_M = 1 / 111_320.0


def headings(kind, rng):
    if kind == "wandering":
        return np.cumsum(rng.normal(0, 0.055, LENGTH_M))
    if kind == "corners":
        at = np.cumsum(rng.exponential(300, 400)).astype(int)
        turns = np.zeros(LENGTH_M)
        turns[at[at < LENGTH_M]] = rng.choice([-1, 1], (at < LENGTH_M).sum()) * np.pi / 2
        return np.cumsum(turns)
    if kind == "arcs":
        pieces = [
            np.full(int(rng.uniform(100, 400)), rng.choice([0, 1, -1]) / rng.uniform(60, 400))
            for _ in range(400)
        ]
        return np.cumsum(np.concatenate(pieces)[:LENGTH_M])
    return np.zeros(LENGTH_M)


def thinned(kind, *, each_m, seed, noise_m=3.0):
    """Latitude and longitude at every `each_m` of a road made in steps of a metre, and its true length."""
    rng = np.random.default_rng(seed)
    heading = headings(kind, rng)
    x, y = np.cumsum(np.cos(heading)), np.cumsum(np.sin(heading))
    kept = np.arange(0, LENGTH_M, each_m)
    x, y = (line[kept] + rng.normal(0, noise_m, len(kept)) for line in (x, y))
    return y * DEG_M, x * DEG_M, float(kept[-1])


@pytest.mark.parametrize("kind", ["wandering", "corners", "arcs", "straight"])
@pytest.mark.parametrize("each_m", [80, 150, 240])
def test_the_bends_are_given_back_within_what_is_said(kind, each_m):
    off, u = [], []
    for seed in range(6):
        latitude, longitude, true = thinned(kind, each_m=each_m, seed=seed)
        chords = step_lengths_m(latitude, longitude)
        added = bends_m(latitude, longitude, np.ones(len(chords), dtype=bool))
        off.append(chords.sum() + added.sum() - true)
        u.append(np.hypot(BENDS_STD * added.sum(), UNSEEN_STD * chords.sum()))
    assert np.all(np.abs(off) < 2 * np.array(u))
    if kind in ("wandering", "corners"):
        assert abs(np.mean(off)) < 0.03 * true


def test_a_straight_road_gains_nothing_and_short_chords_neither():
    latitude, longitude, _ = thinned("straight", each_m=150, seed=1, noise_m=0.0)
    counts = np.ones(len(latitude) - 1, dtype=bool)
    assert bends_m(latitude, longitude, counts).sum() == pytest.approx(0, abs=0.01)
    latitude, longitude, _ = thinned("corners", each_m=20, seed=1)
    assert bends_m(latitude, longitude, np.ones(len(latitude) - 1, dtype=bool)).sum() == 0


def test_what_does_not_count_gives_no_bends():
    latitude, longitude, _ = thinned("corners", each_m=150, seed=1)
    counts = np.ones(len(latitude) - 1, dtype=bool)
    counts[100:] = False
    added = bends_m(latitude, longitude, counts)
    assert added[:99].sum() > 0
    assert added[100:].sum() == 0
