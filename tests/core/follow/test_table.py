"""The table for a device without signal, against `follow` itself and against the table made exactly there."""

from __future__ import annotations

import json
from dataclasses import replace

import numpy as np
import pytest
from scipy.interpolate import interp1d

from limpet.follow import advise
from limpet.follow.table import Axes, bends, chance_over, over_at, score_over, table_of
from limpet.uncertain.normal import normal_probability
from tools.make_follow_rides import FILE, content, rides

RIDES = rides()
#: Points of chance that a device may be off by interpolating, at 95 of 100 places of a table.
POINTS = 0.015
MOST_BYTES = 60_000


@pytest.fixture(scope="module", params=RIDES)
def made(request):
    test, _, ahead = RIDES[request.param]
    advice = advise(test, ahead=ahead)
    table = advice.table()
    assert table is not None
    return advice, table


def test_between_its_figures_it_says_what_it_would_say_made_there(made):
    advice, table = made
    rng = np.random.default_rng(7)
    off = []
    for _ in range(8):
        at = float(rng.uniform(table.places_m[0], table.places_m[-1]))
        left, sure = float(rng.uniform(0.03, 0.95)), float(rng.uniform(0.012, 0.17))
        axes = Axes(left=(left,), sure=(sure,), at=(at,))
        exact = table_of(advice.riding.seen, advice.riding.onward, advice.following, axes=axes)
        for speed in range(len(table.speeds_mps)):
            here = chance_over(over_at(table, at, left, sure, speed), table.reserve)
            there = chance_over(over_at(exact, at, left, sure, speed), table.reserve)
            off.append(abs(float(here) - float(there)))
    assert np.quantile(off, 0.95) < POINTS
    assert np.mean(off) < 0.005


def test_where_the_ride_is_it_says_what_follow_says(made):
    advice, table = made
    left, sure = table.foreseen[0]
    found = over_at(table, table.done_m, float(left), float(sure))
    way = advice.following.way
    assert float(chance_over(found, table.reserve)) == pytest.approx(
        way.arrives_probability, abs=0.01
    )
    assert float(chance_over(found, 0.0)) == pytest.approx(way.reaches_probability, abs=0.01)
    assert max(float(found[0]), 0.0) == pytest.approx(way.energy_left_fraction.value, abs=0.02)


def test_it_is_small_and_plain_json(made):
    _, table = made
    text = json.dumps(table.to_json(), separators=(",", ":"), allow_nan=False)
    assert len(text) < MOST_BYTES


def test_more_left_is_never_worse_and_never_less_sure_of_it(made):
    _, table = made
    kept = chance_over(
        np.array(
            [
                over_at(table, float(table.places_m[2]), left, 0.05)
                for left in np.linspace(0.05, 0.95, 12)
            ]
        ).T,
        table.reserve,
    )
    assert (np.diff(kept) >= -1e-9).all()


def test_a_reading_moves_what_is_left_the_right_way(made):
    _, table = made
    for sight in table.sights:
        # A counter that shows more means that less is left; all others show more of what is left.
        sign = -1 if sight.name in ("charge_ah", "energy_wh") else 1
        # Where it was read last, a counter tells nothing new.
        assert (sign * sight.per[1:] > 0).all(), sight.name
        assert (sight.sure <= np.interp(table.places_m, table.places_m, table.foreseen[:, 1]) + 1e-4).all()  # fmt: skip


def test_the_rides_that_the_page_is_held_against_are_the_cores_own():
    kept, now = json.loads(FILE.read_text()), content()
    assert set(kept) == set(now)
    for name, ride in now.items():
        was = [kept[name]["now"], *(step["judged"] for step in kept[name]["later"])]
        isnow = [ride["now"], *(step["judged"] for step in ride["later"])]
        for before, after in zip(was, isnow, strict=True):
            assert after["code"] == before["code"], name
            for figure in ("arrives", "reaches", "left"):
                assert after[figure] == pytest.approx(before[figure], abs=0.02), (name, figure)


def test_normal_draws_have_the_chances_of_the_normal_distribution():
    draws = np.random.default_rng(3).standard_normal(200_000)
    quantiles = np.quantile(draws, (0.5, 0.2, 0.05, 0.8, 0.95))
    middle = quantiles[0]
    spread = np.array([middle, middle - quantiles[1], middle - quantiles[2], quantiles[3] - middle, quantiles[4] - middle])  # fmt: skip
    for least in (-2.0, -0.5, 0.0, 0.7, 1.9):
        exact = 1 - float(normal_probability(np.array([least]))[0])
        assert float(chance_over(spread, least)) == pytest.approx(exact, abs=0.004)
    assert float(score_over(spread, 1e9)) == -8.0


def test_places_are_where_the_way_bends():
    at = np.linspace(0.0, 100.0, 61)
    values = np.interp(at, [0, 40, 50, 100], [1.0, 0.8, 0.3, 0.0])
    chosen = bends(at, values, 6)
    assert len(chosen) == 6
    off = np.abs(interp1d(chosen, np.interp(chosen, at, values))(at) - values)
    assert off.max() < 0.01


def test_a_straight_way_has_its_places_spread_evenly():
    at = np.linspace(0.0, 100.0, 61)
    assert np.diff(bends(at, 1 - at / 100, 5)).max() <= 26.0


def test_a_ride_that_goes_on_has_another_table():
    test, later, ahead = RIDES["metered, so far still"]
    first = advise(test, ahead=ahead).table()
    second = advise(replace(test, entries=(*test.entries, later[0])), ahead=ahead).table()
    assert first is not None
    assert second is not None
    assert second.done_m > first.done_m
    assert second.bases[0].shown == later[0].trip_m
