"""The life of a pack and of a vehicle over several tests' facts."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest

from demo.skerrow import ROUNDS, ridden
from limpet.assumptions import LOST_PER_MONTH
from limpet.history import Facts, facts_of
from limpet.history.dated import Dated
from limpet.history.life import vehicle_life
from limpet.history.packlife import SECONDS_PER_MONTH, pack_life
from limpet.state.priors import LESSONS
from limpet.tell import analyse

START = datetime(2024, 3, 1, tzinfo=UTC)
BLANK = Facts(
    title="", vehicle="v", pack="p", wh_per_km=None, metered=True, speed_mps=5.0, load_kg=80.0,
    temp_c=15.0, climb_m_per_km=None, surface=None, assisted=False, distance_m=20_000.0,
    resistance_ohm=None, capacity=True, inputs={}, factors={}, names={},
)  # fmt: skip


def dated(month, **values):
    title = f"month {month}"
    at = START + timedelta(seconds=month * SECONDS_PER_MONTH)
    return Dated(key=f"k{month}", at=at, facts=replace(BLANK, title=title, **values))


def after(months):
    return START + timedelta(seconds=months * SECONDS_PER_MONTH)


def fading(*, cycles=True, std=0.01):
    """0.6% of the label lost a month from 0.98 on, 10 cycles a month."""
    return [
        dated(
            month,
            retained_at_25c=(0.98 - 0.006 * month, std),
            capacity_ah=(14 * (0.98 - 0.006 * month), 14 * std),
            cycles=2.0 + 10 * month if cycles else None,
            charge_ah=14.0,
        )
        for month in (0, 6, 12, 18)
    ]


def codes(life):
    return [notice.code for notice in life.again]


def test_a_pack_new_at_its_first_test_is_worn_by_what_it_gave_then():
    life = pack_life(fading(), 14.0, after(19))
    assert [point.months for point in life.points] == pytest.approx([0, 6, 12, 18])
    assert life.fresh_by_test
    assert life.fresh_fraction == pytest.approx(0.98, abs=0.003)
    first, *ends = life.again
    assert first.code == "again_in"
    assert [notice.code for notice in ends] == ["again_crosses", "again_crosses"]
    # 80% of 0.98 is lost after 0.196 / 0.006 months, 70% after 0.294 / 0.006.
    for notice, months in zip(ends, (32.7, 49.0), strict=True):
        assert notice.values["months"] == pytest.approx(months, abs=1.5)
        assert notice.values["low_months"] < months < notice.values["high_months"]
    assert "what it gave first" in ends[0].message


def test_a_pack_that_was_ridden_before_is_held_against_its_label():
    old = [replace(item, facts=replace(item.facts, cycles=300.0)) for item in fading()]
    life = pack_life(old, 14.0, after(19))
    assert (life.fresh_by_test, life.fresh_fraction) == (False, 1.0)
    # 0.98 − 0.006 m = 0.8.
    assert life.again[1].values["months"] == 30
    assert "its label" in life.again[1].message


def test_what_was_crossed_before_the_last_test_is_said_as_past():
    life = pack_life([dated(0, retained_at_25c=(0.9, 0.005), cycles=1.0), *fading()[1:], dated(40, retained_at_25c=(0.6, 0.005))], 14.0, after(41))  # fmt: skip
    assert "again_crossed" in codes(life)


def test_trends_go_by_months_and_by_cycles():
    life = pack_life(fading(), 14.0, after(19))
    by_month, by_cycle = life.retained_by_month, life.retained_by_cycle
    assert (by_month.x[0], by_month.x[-1]) == pytest.approx((0, 18))
    assert (by_cycle.x[0], by_cycle.x[-1]) == pytest.approx((2, 182))
    for trend in (by_month, by_cycle):
        assert trend.value[0] == pytest.approx(0.98, abs=0.003)
        assert all(low < value < high for low, value, high in zip(trend.low, trend.value, trend.high, strict=True))  # fmt: skip
    assert life.resistance_by_month is None


def test_cycles_that_nobody_states_again_are_counted_from_what_the_tests_took():
    first, *rest = fading(cycles=False)
    first = replace(first, facts=replace(first.facts, cycles=100.0))
    life = pack_life([first, *rest], 14.0, after(19))
    # Each ride took 14 Ah of 14: one cycle.
    assert [point.cycles for point in life.points] == pytest.approx([100, 101, 102, 103])
    assert all(point.cycles is None for point in pack_life(rest, 14.0, after(19)).points)


def test_when_to_test_again_goes_by_how_fast_it_fades_and_how_well_one_test_tells():
    soon = pack_life(fading(std=0.004), 14.0, after(18)).again[0]
    late = pack_life(fading(std=0.008), 14.0, after(18)).again[0]
    vague = pack_life(fading(std=0.02), 14.0, after(18)).again[0]
    # 2u = 0.8% at 0.6% a month; 1.6% takes longer, 4% longer still.
    assert soon.values["months"] == 1
    assert late.values["months"] == round(0.016 / 0.006)
    assert vague.values["months"] == pytest.approx(0.04 / 0.006, abs=1)
    level = [dated(month, retained_at_25c=(0.98, 0.01)) for month in (0, 6, 12)]
    unseen = pack_life(level, 14.0, after(12)).again[0]
    # Where no loss is shown, what is assumed of a month.
    assert unseen.values["months"] == round(0.02 / LOST_PER_MONTH.value)
    overdue = pack_life(fading(std=0.004), 14.0, after(25)).again[0]
    assert (overdue.code, overdue.values["months"]) == ("again_now", 7)


def test_without_a_capacity_or_a_trend_it_says_what_is_lacking():
    assert codes(pack_life([dated(0)], 14.0, after(1))) == ["again_no_capacity"]
    assert codes(pack_life([], 14.0, after(1))) == ["again_no_capacity"]
    assert codes(pack_life(fading()[:1], 14.0, after(7)))[1:] == ["again_trend"]
    level = [dated(month, retained_at_25c=(0.98, 0.01)) for month in (0, 6, 12)]
    assert codes(pack_life(level, 14.0, after(13)))[1] == "again_steady"


def test_two_vague_tests_leave_the_end_to_what_is_usual_and_say_so():
    life = pack_life(
        [dated(0, retained_at_25c=(0.98, 0.04)), dated(3, retained_at_25c=(0.97, 0.04))],
        14.0,
        after(4),
    )
    assert not life.by_tests
    assert codes(life)[1:] == ["again_steady", "again_usual"]
    worn = life.ends[0]
    assert worn.months.low < 0.2 / LOST_PER_MONTH.value < worn.months.high
    assert not worn.is_past
    # Too few tests: it says by when at the latest, never a month with a span around it.
    assert life.again[-1].values["high_months"] == round(worn.months.high)


def test_laps_and_a_distance_alone_tell_a_packs_age_and_how_far_it_will_go():
    """Common practice, no source: a worn twin does 6 laps where a fresh one does 10."""
    lap = 1600.0
    tests = [
        replace(dated(month), range_m=(laps * lap, 0.03 * laps * lap))
        for month, laps in ((0, 10), (12, 9), (24, 7.4), (36, 6))
    ]
    life = pack_life(tests, 14.0, after(37))
    assert life.told_by == "range"
    assert life.fresh_by_test
    assert [point.range_fraction.value for point in life.points] == pytest.approx(
        [1, 0.9, 0.74, 0.6]
    )
    eighty, seventy = life.ends
    assert eighty.is_past
    assert 14 < eighty.months.value < seventy.months.value < 32
    assert eighty.range_m.value == pytest.approx(8 * lap, rel=0.05)
    assert codes(life)[1:] == ["again_crossed", "again_crossed"]


def test_a_counted_capacity_tells_before_a_distance_does():
    both = [replace(item, range_m=(20_000.0, 500.0)) for item in fading()]
    life = pack_life(both, 14.0, after(19))
    assert life.told_by == "capacity"
    # What it will go then: 80% of what it went while it was whole.
    assert life.ends[0].range_m.value < 20_000
    # One capacity makes no course: two distances do.
    once = [
        both[0],
        *(replace(item, facts=replace(item.facts, retained_at_25c=None)) for item in both[1:]),
    ]
    assert pack_life(once, 14.0, after(19)).told_by == "range"
    assert pack_life(once[:1], 14.0, after(19)).told_by == "capacity"


def test_a_dead_group_is_a_step_between_two_named_tests():
    held = [
        dated(
            month,
            retained_at_25c=(0.99 - 0.002 * month - (0.15 if month > 8 else 0.0), 0.01),
            cycles=1.0,
        )
        for month in range(0, 18, 2)
    ]
    life = pack_life(held, 14.0, after(17))
    assert (life.step.before, life.step.after) == ("month 8", "month 10")
    assert life.step.lost_fraction.low < 0.15 < life.step.lost_fraction.high
    assert "again_step" in codes(life)
    assert pack_life(fading(), 14.0, after(19)).step is None


def test_speed_bands_are_pooled_by_their_u_and_leave_pedalled_rides_out():
    slow, fast = ("2..4", 3000.0, 8.0, 0.2), ("6..8", 5000.0, 12.0, 0.1)
    life = vehicle_life(
        [
            dated(0, bands=(slow, fast)),
            dated(1, bands=(("6..8", 1000.0, 14.0, 0.2),)),
            dated(2, bands=(("6..8", 9000.0, 3.0, 0.1),), assisted=True),
        ],
        "v",
    )
    first, second = life.bands
    assert (first.from_mps, first.to_mps, first.tests) == (2.0, 4.0, ("month 0",))
    # 12 ±0.1 and 14 ±0.2 weigh 4 to 1.
    assert second.wh_per_km.value == pytest.approx(12.4)
    assert second.distance_m == 6000
    assert second.wh_per_km.standard_uncertainty > 0.5, "they lie further apart than they say"


def test_instruments_of_other_names_are_learned_apart_and_each_lesson_has_its_switch():
    rides = [
        dated(0, factors={"trip": (1.06, 0.01)}, names={"trip": "old wheel"}),
        dated(1, factors={"trip": (1.08, 0.01)}, names={"trip": "old wheel"}),
        dated(2, factors={"trip": (1.0, 0.01)}, names={"trip": "new wheel"}),
        dated(3, wh_per_km=(9.0, 0.2)),
        dated(4, wh_per_km=(9.6, 0.2)),
    ]
    taught = vehicle_life(rides, "v").taught
    old, new, *rest = taught
    assert (old.of, old.value.value) == ("old wheel", pytest.approx(1.07))
    assert (new.of, new.value.value) == ("new wheel", 1.0)
    assert [item.name for item in rest] == ["consumption_wh_per_m", "run_to_run"]
    assert rest[0].value.value == pytest.approx(9.3)
    assert rest[0].value.unit == "Wh/km"
    assert {item.lesson for item in taught} <= set(LESSONS)


def test_the_demos_long_boards_pack_fades_as_it_was_made_to():
    tests = []
    for item in ROUNDS:
        if item.vehicle == "Knot":
            test = ridden(item.slug)
            tests.append(Dated(key=item.slug, at=item.started_at, facts=facts_of(test, analyse(test))))  # fmt: skip
    life = pack_life(tests, 6.0, datetime(2026, 11, 1, tzinfo=UTC))
    assert [point.cycles for point in life.points] == [4, 95, 190, 280, 360]
    lost = life.retained_by_month.value[-1] / life.retained_by_month.value[0]
    # It was ridden with 1.0, 0.97, 0.93, 0.89 and 0.86 of what it had.
    assert lost == pytest.approx(0.86, abs=0.06)
    assert life.fresh_by_test
