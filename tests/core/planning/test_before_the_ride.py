"""Claims, pack sizes, planning rules, schedules, calendars, guesses and "enough"."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime, timedelta, timezone
from uuid import UUID

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from icalendar import Calendar
from scipy import stats

from limpet.errors import OutOfRangeError
from limpet.evidence.model import Purpose
from limpet.outlook.forecast import forecast
from limpet.planning.claim import ClaimQuestion, check_claim, least_wh_per_km
from limpet.planning.enough import enough
from limpet.planning.guesses import ranked
from limpet.planning.rules import (
    charge_time_s,
    days_of,
    rules_for,
    runs_for_difference,
    runs_for_mean,
)
from limpet.planning.schedule import calendar, schedule
from limpet.planning.size import Cell, cell_faults, size_pack
from limpet.road import Leg
from limpet.trip import Known, LoopSpec, RouteSpec, TripConditions
from tests.trips import PACK, rng, routed, sure, trip

CLAIM = ClaimQuestion(
    rated_wh=473.0, distance_m=40_000, speed_mps=4.2, load_kg=75.0,
    vehicle_kind="kick_scooter", vehicle_mass_kg=16.5,
)  # fmt: skip


def test_the_least_is_section_tens_formula_with_the_generous_values():
    # By hand: 91.5 kg at 6 m/s: 0.006·91.5·9.80665 + ½·1.2·0.40·36 = 14.024 N → /0.9/3.6.
    assert least_wh_per_km(6.0, 91.5) == pytest.approx(14.0238 / 0.9 / 3.6, rel=1e-4)


def test_a_fair_claim_is_fair_and_an_impossible_one_names_the_speed_it_would_need():
    fair = check_claim(CLAIM)
    assert fair.possible
    assert fair.implied_wh_per_km == pytest.approx(473 / 40)
    assert fair.verdict in ("normal", "modest")
    impossible = check_claim(replace(CLAIM, distance_m=120_000, speed_mps=6.9))
    assert not impossible.possible
    assert impossible.verdict == "not_possible"
    assert "Not physically possible at 25 km/h" in impossible.notice.message
    needed = impossible.speed_it_would_need_mps
    assert needed is not None
    assert least_wh_per_km(needed, 91.5) == pytest.approx(473 / 120, rel=1e-6)


def test_a_claim_that_a_generous_label_could_carry_says_so():
    least = least_wh_per_km(CLAIM.speed_mps, 91.5)
    for over, code in ((1.10, "claim_not_possible_on_label"), (1.20, "claim_not_possible")):
        short = check_claim(replace(CLAIM, distance_m=1000 * CLAIM.rated_wh * over / least))
        assert short.notice.code == code
        assert short.notice.values["needed_mps"] == short.speed_it_would_need_mps


def test_a_pack_that_sags_deeply_is_told_with_how_much():
    what, route = routed(commute(6))
    soft = size_pack(what, route, replace(CELL, resistance_ohm=0.35))
    assert soft.sag_fraction > 0.12
    assert soft.notice.code == "size_fits_but_sags"
    assert soft.notice.values["sag"] == soft.sag_fraction


def test_a_claim_that_rolling_alone_exceeds_has_no_speed():
    absurd = check_claim(replace(CLAIM, distance_m=1_000_000))
    assert absurd.speed_it_would_need_mps is None
    assert "No speed would do" in absurd.notice.message


@given(st.floats(10_000, 200_000), st.floats(2, 15))
def test_a_longer_claim_is_never_more_possible(distance, speed):
    near = check_claim(replace(CLAIM, distance_m=distance, speed_mps=speed))
    far = check_claim(replace(CLAIM, distance_m=1.3 * distance, speed_mps=speed))
    order = ("not_possible", "gentle_and_light", "normal", "modest")
    assert order.index(far.verdict) <= order.index(near.verdict)


CELL = Cell(
    capacity_ah=3.4, nominal_v=3.6, max_current_a=8.0, resistance_ohm=0.03, mass_kg=0.048,
    chemistry="nmc",
)  # fmt: skip


def commute(km: float):
    legs = (Leg(length_m=km * 500, climb_m=30, bearing_deg=90, stops=3),)
    return trip(
        route=RouteSpec(legs=legs, and_back=True),
        conditions=TripConditions(temp_c=sure(-2.0), wind_mps=sure(3.0), wind_from_deg=90.0),
    )


def test_the_smallest_pack_fits_and_one_group_less_does_not():
    what, route = routed(commute(30))
    found = size_pack(what, route, CELL)
    assert found.fits
    assert found.series == 13
    assert found.rated_wh == pytest.approx(13 * found.parallel * 3.4 * 3.6)
    assert found.retained_fraction == 0.8
    less = size_pack(what, route, replace(CELL, parallel=found.parallel - 1))
    assert not less.fits
    assert "too small" in less.notice.message
    more = size_pack(what, route, replace(CELL, parallel=found.parallel + 1))
    assert more.arrives_probability == pytest.approx(found.arrives_with_one_more, abs=0.02)
    assert found.range_gain_with_one_more_m > 0
    assert found.mass_kg == pytest.approx(13 * found.parallel * 0.048 * 1.35)


def test_a_cell_beyond_its_rating_is_refused_and_the_groups_that_would_bear_it_are_named():
    what, route = routed(commute(6))
    weak = replace(CELL, max_current_a=1.5)
    few = size_pack(what, route, replace(weak, parallel=3))
    assert not few.fits
    assert few.peak_cell_current_a > 1.5
    assert "won’t do: each cell would give" in few.notice.message
    enough_groups = size_pack(what, route, weak)
    assert enough_groups.fits
    assert enough_groups.peak_cell_current_a <= 1.5
    strong = size_pack(what, route, CELL)
    assert enough_groups.parallel > strong.parallel


def test_a_trip_that_no_pack_makes_is_refused_with_what_would_work():
    what, route = routed(commute(3000))
    with pytest.raises(OutOfRangeError, match=r"no pack of up to 200 groups .* shorten it"):
        size_pack(what, route, CELL)


@pytest.mark.parametrize(
    ("changes", "field", "words"),
    [
        ({"nominal_v": 2.1}, "nominal_v", "a cell of nmc cannot have"),
        ({"resistance_ohm": 0.9}, "resistance_ohm", "milliohms for ohms"),
    ],
)
def test_cells_that_cannot_be_are_named(changes, field, words):
    [(path, message)] = cell_faults(replace(CELL, **changes))
    assert path == (field,)
    assert words in message


@pytest.mark.parametrize("purpose", Purpose.__args__)
def test_every_question_has_its_rules(purpose):
    rules = rules_for(purpose)
    assert rules.question.endswith("?")
    assert 1 <= rules.runs <= 30
    assert 0 <= rules.reserve < 0.5
    assert rules.why
    assert rules.cautions
    if rules.end_rule == "cutoff":
        assert any("fading pack" in caution for caution in rules.cautions)


def test_runs_for_a_mean_are_those_whose_t_interval_is_narrow_enough():
    # By hand from the t table: n = 7 gives 2.447·8/√7 = 7.4%, n = 6 gives 2.571·8/√6 = 8.4%.
    assert runs_for_mean(0.08) == 7
    assert runs_for_mean(0.30) == 3


def test_runs_for_a_difference_see_it_four_times_in_five():
    # Against a simulation with SciPy's own Welch test.
    n = runs_for_difference(0.15, 0.08)
    generator = rng(4)
    a = generator.normal(1.0, 0.08, (4000, n))
    b = generator.normal(1.15, 0.08, (4000, n))
    seen = float((stats.ttest_ind(a, b, axis=1, equal_var=False).pvalue < 0.05).mean())
    assert 0.76 <= seen <= 0.92


def test_a_comparison_swaps_its_order_with_every_pair():
    days = days_of(replace(rules_for("compare"), runs=2))
    assert [day[0] for day in days] == ["A", "B", "B", "A"]
    assert days_of(rules_for("temperature"))[0].startswith("warm")
    assert days_of(rules_for("economy")) == ("run",)


def test_a_precision_no_rides_reach_is_refused():
    with pytest.raises(OutOfRangeError, match=r"write 0\.05 for ±5%"):
        rules_for("floor", wanted=5)


def test_a_charge_takes_the_energy_over_the_power_and_its_tapering_end():
    assert charge_time_s(500.0, 0.0, 100.0) == pytest.approx(5 * 3600 * 1.15)
    with pytest.raises(OutOfRangeError, match="watts of the charger"):
        charge_time_s(500.0, 0.0, 0.0)


def test_entries_lie_evenly_in_energy_and_on_whole_laps():
    lap = trip(route=RouteSpec(loop=LoopSpec(length_m=1720.0)))
    answer = forecast(*routed(lap), swings=False)
    plan = schedule(answer, 500.0, lap_m=1720.0, to_cutoff=True)
    left = [entry.energy_left for entry in plan.entries]
    drops = -np.diff([1.0, *left, 0.0])
    assert len(plan.entries) == 6
    assert drops == pytest.approx(1 / 7, abs=0.035)
    assert all(entry.distance_m == pytest.approx(1720 * entry.lap) for entry in plan.entries)
    assert plan.laps == int(np.ceil(answer.range_to_cutoff.value / 1720))
    assert plan.total_s == plan.riding_s + plan.resting_s
    # Off a loop they lie where the energy says, to the metre.
    road = forecast(*routed(trip()), swings=False)
    spread = [e.energy_left for e in schedule(road, 500.0, lap_m=None, to_cutoff=False).entries]
    assert np.diff(spread) == pytest.approx(np.diff(spread)[0], abs=0.01)


PLAN = UUID("7f1f7f0e-57b5-4c53-8b9f-3a4f3b1f0001")


def test_the_calendar_file_holds_each_day_as_rfc_5545_has_it():
    begin = datetime(2026, 5, 14, 9, 0, tzinfo=timezone(timedelta(hours=2)))
    data = calendar(PLAN, "Quay loop", ("warm", "cold"), first=begin, total_s=7300, days_apart=182)
    assert data == calendar(
        PLAN, "Quay loop", ("warm", "cold"), first=begin, total_s=7300, days_apart=182
    )
    read = Calendar.from_ical(data)
    events = list(read.walk("VEVENT"))
    assert [str(event["SUMMARY"]) for event in events] == ["Quay loop: warm", "Quay loop: cold"]
    assert events[0].decoded("DTSTART") == begin
    assert events[1].decoded("DTSTART") - begin == timedelta(days=182)
    assert events[0].decoded("DTEND") - begin == timedelta(seconds=8100)
    assert len({str(event["UID"]) for event in events}) == 2
    with pytest.raises(OutOfRangeError, match="has no zone"):
        calendar(PLAN, "x", ("run",), first=datetime(2026, 5, 14), total_s=60, days_apart=1)


def test_guesses_are_ranked_by_nearness_and_equals_share_a_place():
    found = ranked([("Ines", 30_000), ("Maren", 36_000), ("Tobias", 31_000)], 33_000)
    assert [(g.name, g.place) for g in found] == [("Tobias", 1), ("Ines", 2), ("Maren", 2)]
    assert found[1].off_m == -3000


def test_volts_alone_never_give_five_percent_and_a_measured_pack_does():
    by_volts = enough(40_000, counts_charge=False)
    assert by_volts.distance_m is None
    assert "volts can tell" in by_volts.notice.message
    # By hand at the middle: 2·√((√(0.015²+0.03²)/0.5)² + (0.05/√3)² + (0.15/√20)²) = 16.1%.
    middle = min(by_volts.curve, key=lambda point: abs(point[0] - 20_000))
    assert middle[1] == pytest.approx(0.161, abs=0.003)
    measured = enough(40_000, capacity_std=0.01, wanted=0.10)
    assert measured.distance_m is not None
    assert 2_000 < measured.distance_m < 40_000
    widths = [width for _, width in measured.curve]
    assert widths == sorted(widths, reverse=True)


def test_the_coldest_day_and_the_worn_pack_are_what_is_sized_for():
    warm = commute(30)
    warm = replace(warm, conditions=replace(warm.conditions, temp_c=sure(20.0)))
    fresh = replace(warm, pack=replace(PACK, retained_fraction=Known(value=1.0)))
    sizes = [size_pack(*routed(what), CELL).rated_wh for what in (fresh, warm, commute(30))]
    assert sizes[0] <= sizes[1] <= sizes[2]
    assert sizes[0] < sizes[2]
