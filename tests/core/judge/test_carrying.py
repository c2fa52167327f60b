"""Tests carried to other conditions: against the forecast's own walk, there and back, and by the parts."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from limpet.assumptions import as_assumed
from limpet.judge.carrying import carried
from limpet.judge.comparand import Figure
from limpet.judge.day import body_of, day_of, hours_apart, wh_per_km
from limpet.judge.measured import distance_off, measured
from limpet.judge.named_errors import DRAWS, score
from limpet.outlook.forecast import forecast
from limpet.road import Leg
from limpet.trip import RouteSpec, SpeedSpec, TripConditions, TripRider
from tests.core.judge.kit import seen
from tests.trips import certain, routed, sure

HELD: frozenset = frozenset()


def worth(one, two, quantity="wh_per_km", held=HELD):
    """What carrying the second to the first changes, by condition [log]."""
    return {
        item.name: float(item.log.mean()) for item in carried(two, one, quantity, held).corrections
    }


def test_named_errors_are_normal_and_their_own():
    one, two = score("wind", "a"), score("wind", "b")
    assert one is score("wind", "a")
    assert (one.mean(), one.std()) == (pytest.approx(0, abs=1e-9), pytest.approx(1, abs=5e-3))
    assert abs(np.corrcoef(one, two)[0, 1]) < 4 / DRAWS**0.5
    with pytest.raises(ValueError, match="read-only"):
        one[0] = 1


def test_a_test_is_not_carried_to_itself():
    one = seen("a")
    found = carried(one, one, "wh_per_km", HELD)
    assert found.corrections == ()
    assert (found.log == measured(one, "wh_per_km")).all()


@pytest.mark.parametrize(
    ("name", "change", "less"),
    [
        ("speed", {"speed_mps": 7.5}, True),
        ("wind", {"wind_mps": 7.0}, True),
        ("load", {"load_kg": 110.0}, True),
        ("temperature", {"temp_c": -5.0}, True),
        ("climb", {"climb_m_per_km": 20.0}, True),
        ("stops", {"stops_per_km": 3.0}, True),
        ("tyres", {"tyre_kpa": 160.0}, True),
        ("surface", {"surface": "gravel"}, True),
        ("speed", {"speed_mps": 4.0}, False),
        ("pedalling", {"assisted": True, "pedal_w": 40.0}, False),
    ],
)
def test_what_made_a_ride_harder_is_taken_off_it_and_put_on_going_back(name, change, less):
    one, two = seen("a"), seen("b", **change)
    there, back = worth(one, two), worth(two, one)
    assert (there[name] < -0.005) if less else (there[name] > 0.005)
    assert max(there, key=lambda key: abs(there[key])) == name
    # There and back nothing is gained.
    assert there[name] + back[name] == pytest.approx(0, abs=0.004)


def test_the_parts_make_the_whole_whatever_their_order():
    one = seen("a")
    two = seen("b", speed_mps=8.0, wind_mps=6.0, load_kg=110.0, temp_c=0.0)
    parts = worth(one, two)
    alone = [worth(one, seen("b", **change)) for change in (
        {"speed_mps": 8.0}, {"wind_mps": 6.0}, {"load_kg": 110.0}, {"temp_c": 0.0},
    )]  # fmt: skip
    whole = carried(two, one, "wh_per_km", HELD)
    assert float((whole.log - whole.found).mean()) == pytest.approx(sum(parts.values()), abs=1e-9)
    for name, change in zip(("speed", "wind", "load", "temperature"), alone, strict=True):
        assert parts[name] == pytest.approx(change[name], rel=0.5)


def test_what_is_the_question_stays_as_it_was():
    one, two = seen("a"), seen("b", temp_c=-5.0, load_kg=110.0)
    assert set(worth(one, two, held=frozenset({"temperature"}))) >= {"load"}
    assert "temperature" not in worth(one, two, held=frozenset({"temperature"}))


def test_in_the_cold_a_range_is_set_right_for_air_and_pack():
    figures = dict(seen("a").figures)
    figures["range_to_cutoff"] = replace(figures["wh_per_km"], value=40_000.0, std=1000.0)
    one, two = seen("a", figures=figures), seen("b", figures=figures, temp_c=-5.0)
    air = worth(one, two)["temperature"]
    # NMC keeps 0.85 of its energy at −5 °C and 0.973 at 15 (handbook section 5, between its points).
    assert worth(one, two, "range_to_cutoff")["temperature"] == pytest.approx(
        np.log(0.9733 / 0.85) - air, abs=0.01
    )


def test_what_nobody_noted_changes_nothing_and_is_unsure():
    one, two = seen("a", wind_mps=3.0), seen("b", wind_mps=None)
    found = carried(two, one, "wh_per_km", HELD)
    assert abs(worth(one, two).get("wind", 0.0)) < 0.03
    known = carried(seen("b", wind_mps=3.0), one, "wh_per_km", HELD)
    assert found.log.std() > 1.3 * known.log.std()


@pytest.mark.parametrize(
    ("name", "here", "there"),
    [
        ("load", {"load_kg": 70.0}, {"load_kg": 110.0}),
        ("speed", {"speed_mps": 5.0}, {"speed_mps": 7.0}),
        ("temperature", {"temp_c": 25.0}, {"temp_c": 0.0}),
        ("pedalling", {"pedal_w": 0.0, "assisted": True}, {"pedal_w": 35.0, "assisted": True}),
    ],
)
def test_as_the_forecasts_own_walk_has_it(name, here, there):
    """Two models of one road: the walk goes step by step along a route, this one has a kilometre."""
    by_walk = np.log(walked(**{**there, "assisted": None}) / walked(**{**here, "assisted": None}))
    level = {"climb_m_per_km": 0.0}
    by_model = -worth(seen("a", **level, **here), seen("b", **level, **there))[name]
    assert by_model == pytest.approx(by_walk, rel=0.3, abs=0.01)


def walked(load_kg=85.0, speed_mps=5.6, temp_c=15.0, pedal_w=0.0, assisted=None):
    """Consumption of a forecast [Wh/km] on a level way with a stop every three kilometres."""
    legs = (Leg(length_m=3000, stops=1),) * 3
    asked = certain(
        rider=TripRider(mass_kg=sure(load_kg), gear_kg=sure(0.0), pedal_power_w=pedal_w),
        conditions=TripConditions(temp_c=sure(temp_c), wind_mps=sure(2.0), wind_from_deg=0.0),
        route=RouteSpec(legs=legs),
        speed=SpeedSpec(policy="fixed", target_mps=speed_mps),
    )
    return forecast(*routed(asked)).wh_per_km.value


def test_legs_that_nobody_measured_are_unsure_and_those_that_were_are_set_right():
    one = seen("a", assisted=True, pedal_w=80.0)
    told = carried(seen("b", assisted=True, pedal_w=50.0), one, "wh_per_km", HELD)
    silent = carried(seen("b", assisted=True), one, "wh_per_km", HELD)
    assert "pedalling" in {item.name for item in told.corrections}
    # Taken as on the other ride, and unsure by what one ride differs from the next.
    assert abs(worth(one, silent.test).get("pedalling", 0.0)) < 0.04
    assert silent.log.std() > 1.5 * told.log.std()


def test_legs_never_give_all_of_it():
    idle, strong, giant = (
        seen(key, assisted=True, pedal_w=w) for key, w in (("b", 0.0), ("c", 400.0), ("d", 4000.0))
    )
    body = body_of(idle)
    alone, helped, most = (
        wh_per_km(body, day_of(test, test)).mean() for test in (idle, strong, giant)
    )
    assert helped == pytest.approx(most, rel=0.02)
    # What runs beside the drive, and a twentieth of what the road asks.
    beside = float((body.aux_w / 5.6).mean()) / 3.6
    assert most - beside == pytest.approx(0.05 * (alone - beside), rel=0.1)


def test_what_a_condition_is_worth_may_be_a_quarter_wrong_and_alike_in_all_tests_of_a_vehicle():
    summer, winter = seen("a"), seen("b", temp_c=-8.0)
    (cold,) = [
        c
        for c in carried(winter, summer, "wh_per_km", frozenset()).corrections
        if c.name == "temperature"
    ]
    (again,) = [
        c for c in carried(seen("c", temp_c=-8.0), summer, "wh_per_km", frozenset()).corrections
        if c.name == "temperature"
    ]  # fmt: skip
    wrong = score("carrying", "temperature", "Plover")
    for item in (cold, again):
        own = item.log / (1 + 0.25 * wrong)
        added = np.var(item.log) - np.var(own)
        assert added == pytest.approx((0.25 * np.mean(item.log)) ** 2, rel=0.2)


def test_a_speed_that_nobody_knows_widens_what_is_carried_by_15_percent():
    known, unknown = seen("a"), seen("b", speed_mps=None)
    told = carried(unknown, known, "wh_per_km", frozenset())
    alone = told.log - 0.15 * score("no speed", "b")
    assert np.var(told.log) - np.var(alone) == pytest.approx(0.15**2, rel=0.15)


def hours_later(hours, wind_mps, key="b"):
    begun = f"2026-05-{14 + int(hours // 24):02d}T{9 + int(hours % 24):02d}:00:00+00:00"
    return replace(seen(key, wind_mps=wind_mps), started_at=begun)


def winds(one, two):
    """The winds of two rides as they are carried, (J,) each, without the gain that both have."""
    with as_assumed(lambda: {"wind_gain": (1.0, 0.0)}):
        return day_of(one, two).wind_mps, day_of(two, one).wind_mps


@pytest.mark.parametrize("hours", [2, 8, 24 * 6])
def test_what_two_winds_were_noted_apart_is_in_part_an_error_the_more_the_sooner(hours):
    """The mean and the variance of a normal distribution given two noisy readings of it, by their formula."""
    one, two = hours_later(0, 6.0, "a"), hours_later(hours, 8.0)
    first, second = winds(one, two)
    changes = min(0.6 * np.sqrt(hours), 3.0)
    kept = changes**2 / (changes**2 + 2 * 0.5**2)
    assert (second - first).mean() == pytest.approx(2.0 * kept, abs=0.02)
    assert (second - first).std() == pytest.approx(np.sqrt(2 * kept) * 0.5, rel=0.05)
    assert (0.5 * (first + second)).mean() == pytest.approx(7.0, abs=0.02)
    assert (0.5 * (first + second)).std() == pytest.approx(0.5 / np.sqrt(2), rel=0.05)


@pytest.mark.parametrize("other", [None, "2026-05-14T09:00:00"])
def test_without_times_that_can_be_told_apart_winds_are_taken_as_noted(other):
    one, two = hours_later(0, 6.0, "a"), replace(hours_later(0, 8.0), started_at=other)
    assert hours_apart(one, two) is None
    first, second = winds(one, two)
    assert (second - first).mean() == pytest.approx(2.0, abs=0.02)


def test_rides_an_hour_apart_by_their_clocks_are_so_in_whatever_zone():
    one = replace(seen("a"), started_at="2026-05-14T09:00:00+00:00")
    two = replace(seen("b"), started_at="2026-05-14T11:00:00+01:00")
    assert hours_apart(one, two) == pytest.approx(1.0)


def test_a_distance_that_reads_too_long_is_too_fast_a_speed_and_too_small_a_consumption():
    one, two = seen("a"), seen("b", speed_mps=5.7)
    trip = Figure(value=10.0, std=0.2, parts=(("trip", 0.75), ("energy", 0.2)))
    two = replace(two, figures={**two.figures, "wh_per_km": trip})
    off = distance_off(two)
    assert off.std() == pytest.approx(0.02 * np.sqrt(0.75), rel=0.02)
    logs = np.log(day_of(two, one).speed_mps)
    assert np.corrcoef(off, logs)[0, 1] > 0.85
    assert np.corrcoef(off, measured(two, "wh_per_km"))[0, 1] == pytest.approx(
        -np.sqrt(0.75), abs=0.06
    )
    # So that carrying makes more of it, not less: to a slower ride less is taken, where less was found already.
    found = carried(two, one, "wh_per_km", HELD)
    speed = next(item.log for item in found.corrections if item.name == "speed")
    assert np.corrcoef(off, speed)[0, 1] < -0.3


def test_a_distance_that_nobody_read_makes_no_speed_unsure():
    one = replace(seen("a"), figures={})
    assert (distance_off(one) == 0).all()
