"""What was noted of the day on the way counts: the wind as it turned, and legs that helped."""

from __future__ import annotations

from dataclasses import replace

import pytest

from limpet.evidence.model import Claim, Conditions, Protocol
from limpet.evidence.noted import conditions_noted, is_assisted, wind_now
from limpet.history import facts_of
from limpet.tell import analyse
from limpet.under_way import WayAhead, follow
from tests.core.under_way.test_follow import entry, riding
from tests.strategies import range_test


def windy(*winds):
    return range_test(
        *(entry(60 * k, "event", what="wind", wind_mps=mps, wind_from_deg=deg) for k, (mps, deg) in enumerate(winds)),
    )  # fmt: skip


def test_the_wind_that_was_noted_last_is_the_wind_of_now():
    assert wind_now(windy((3.0, 270.0), (6.0, 250.0))) == (6.0, 250.0)
    sheet = replace(range_test().sheet, conditions=Conditions(wind_mps=2.0, wind_from_deg=90.0))
    assert wind_now(replace(range_test(), sheet=sheet)) == (2.0, 90.0)
    assert wind_now(range_test()) == (None, None)


def test_over_a_whole_ride_winds_are_added_as_vectors():
    # 3 m/s from the north and 4 from the east: half of 5 m/s from 53.13 degrees.
    found = conditions_noted(windy((3.0, 0.0), (4.0, 90.0)))
    assert found.wind_mps == pytest.approx(2.5)
    assert found.wind_from_deg == pytest.approx(53.1301, abs=1e-3)
    unsure = conditions_noted(windy((3.0, 0.0), (5.0, None)))
    assert (unsure.wind_mps, unsure.wind_from_deg) == (4.0, None)


def test_what_the_sheet_says_of_the_wind_stands():
    test = windy((9.0, 0.0))
    said = Conditions(wind_mps=2.0, wind_from_deg=10.0, temp_start_c=8.0)
    assert conditions_noted(replace(test, sheet=replace(test.sheet, conditions=said))) == said
    cold = Conditions(temp_start_c=8.0)
    filled = conditions_noted(replace(test, sheet=replace(test.sheet, conditions=cold)))
    assert (filled.temp_start_c, filled.wind_mps) == (8.0, 9.0)
    assert conditions_noted(range_test()) is None


def test_a_wind_that_gets_up_makes_the_way_home_dearer():
    # Before the ride has shown what it takes; once it has, only a change of wind would count.
    calm = range_test(entry(0, "start", voltage_rest_v=54.4, trip_m=0.0))
    gale = replace(
        calm, entries=(*calm.entries, entry(30, "event", what="wind", wind_mps=12.0, trip_m=0.0))
    )
    ahead = WayAhead(onward="given", until_m=14_000)
    before, after = follow(calm, ahead=ahead).way, follow(gale, ahead=ahead).way
    assert after.energy_left_fraction.value < before.energy_left_fraction.value - 0.02


def test_legs_that_helped_are_said_by_the_rules_or_by_an_event():
    plain = riding(8.0)
    helped = replace(plain, entries=(*plain.entries, entry(3000, "event", what="pedalled")))
    assert not is_assisted(plain)
    assert is_assisted(helped)
    ruled = replace(plain, sheet=replace(plain.sheet, protocol=Protocol(propulsion="mixed")))
    assert is_assisted(ruled)
    assert facts_of(helped, analyse(helped)).assisted
    claim = Claim(distance_m=40_000.0, speed_mps=5.5, load_kg=75.0)
    claimed = replace(helped, sheet=replace(helped.sheet, claim=claim))
    assert "pedalled" in analyse(claimed).claim.differs


def left_after(*winds, rain_s=None):
    """Of eight kilometres, with what the meter says that they took, and eight to come."""
    rained = [] if rain_s is None else [entry(rain_s, "event", what="rain")]
    rows = [
        entry(0, "start", voltage_rest_v=54.4, trip_m=0.0, charge_ah=0.0),
        entry(1440, trip_m=8000.0, charge_ah=2.4),
        *(entry(at, "event", what="wind", wind_mps=mps) for at, mps in winds),
        *rained,
    ]
    rows.sort(key=lambda one: one.time_s)
    test = range_test(*rows, conditions=Conditions(wind_mps=0.0))
    ahead = WayAhead(onward="given", from_m=8000, until_m=16_000)
    return follow(test, ahead=ahead).way.energy_left_fraction.value


def test_a_wind_that_is_noted_late_holds_from_there_on():
    # What was ridden in a calm was not ridden in a gale: the gale lies ahead, and makes it dearer.
    assert left_after((1440, 9.0)) < left_after() - 0.004


def test_a_wind_that_is_over_was_in_what_was_shown():
    # Half of it was ridden in a gale: what lies ahead in the calm is cheaper than what was shown.
    assert left_after((0, 9.0), (720, 0.0)) > left_after() + 0.005


def test_rain_makes_what_lies_ahead_dearer_than_what_was_ridden_in_the_dry():
    dry, wet = left_after(), left_after(rain_s=1440)
    assert wet < dry - 0.002
    # Rain from the start is in what was shown already.
    assert wet < left_after(rain_s=1)
    # And it rains in the gale that was noted before.
    assert left_after((1200, 9.0), rain_s=1440) < left_after((1200, 9.0)) - 0.002
