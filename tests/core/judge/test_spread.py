"""What runs differ by, against SciPy and the NIST/SEMATECH e-Handbook."""

from __future__ import annotations

from math import log, log1p, sqrt

import numpy as np
import pytest
from scipy import stats

from limpet.assumptions import RUN_CARRIED
from limpet.judge import compare
from limpet.judge.carrying import carried
from limpet.judge.comparand import Figure
from limpet.judge.spread import (
    ASSUMED_RUNS,
    MOST_LEARNED,
    Spread,
    assumed_spread,
    comparable,
    learned_spread,
    pairs_in_time,
    shown_by,
    spread_of,
)
from limpet.uncertain.scatter import Scatter
from tests.core.judge.kit import PARTS, seen

NOTHING_KNOWN = Scatter(variance=0.0, freedom=0.0)


def bare(key, value=10.0, at=None, **more):
    """A run whose figure has no error of its own."""
    figures = {"wh_per_km": Figure(value=value, std=0.0, parts=PARTS)}
    started_at = None if at is None else f"2026-09-{at}:00+00:00"
    return seen(key, figures=figures, started_at=started_at, **more)


def made_of(mean, std, count):
    """So many numbers with exactly this mean and standard deviation."""
    numbers = np.random.default_rng(3).standard_normal(count)
    return mean + std * (numbers - numbers.mean()) / numbers.std(ddof=1)


def test_two_groups_of_cars_of_the_nist_handbook():
    """NIST/SEMATECH e-Handbook 1.3.5.3 (AUTO83B): t = -12.9463 with 136.875 freedoms (from memory)."""
    sides = [made_of(20.14458, 6.41470, 249), made_of(30.48101, 6.10771, 79)]
    found = Spread(
        value=30.48101 - 20.14458,
        common=0.0,
        each=0.0,
        runs=(249, 79),
        of_runs=tuple(shown_by(side, 0.0, NOTHING_KNOWN) for side in sides),
        by="welch",
    )
    assert -found.value / sqrt(found.variance()) == pytest.approx(-12.9463, abs=5e-5)
    assert found.freedom() == pytest.approx(136.875, abs=5e-4)


def test_what_is_known_before_counts_as_so_many_runs():
    known = Scatter(variance=0.04, freedom=8.0)
    found = shown_by(np.array([1.0, 1.6, 0.7, 1.1]), 0.01, known)
    squares = 3 * np.var([1.0, 1.6, 0.7, 1.1], ddof=1) - 3 * 0.01
    assert found.variance == pytest.approx((8 * 0.04 + squares) / 11)
    assert found.freedom == 11
    # Less scatter than the runs' own errors make is no scatter, never less than none.
    assert shown_by(np.array([1.0, 1.0]), 0.5, known).variance == pytest.approx(8 * 0.04 / 9)


ONES, TWOS = [10.0, 10.9, 9.6, 10.4], [11.2, 12.0, 10.5, 11.6]
#: A B B A, B A A B: every pair on a day of its own.
TURNS = [("03T10:00", "03T12:00"), ("04T12:00", "04T10:00"), ("05T12:00", "05T10:00"), ("06T10:00", "06T12:00")]  # fmt: skip


def in_turns(days=TURNS):
    ones = [bare(f"a{k}", v, at=days[k][0]) for k, v in enumerate(ONES)]
    twos = [bare(f"b{k}", v, at=days[k][1]) for k, v in enumerate(TWOS)]
    return ones, twos


def test_rides_in_turns_are_judged_in_pairs(monkeypatch):
    """SciPy 1.17, `stats.ttest_rel` of the logarithms."""
    monkeypatch.setattr("limpet.judge.spread.ASSUMED_RUNS", 1e-9)
    answer = compare(*in_turns())
    found = stats.ttest_rel(np.log(TWOS), np.log(ONES)).confidence_interval(0.95)
    assert answer.judged_by == "paired"
    # What carrying like to like leaves of wind and speed is taken off the spread that is seen.
    assert log1p(answer.relative_difference.low) == pytest.approx(found.low, abs=0.012)
    assert log1p(answer.relative_difference.high) == pytest.approx(found.high, abs=0.012)


def test_groups_that_were_not_ridden_in_turns_have_a_spread_each(monkeypatch):
    """SciPy 1.17, `stats.ttest_ind` with unequal variances (Welch)."""
    monkeypatch.setattr("limpet.judge.spread.ASSUMED_RUNS", 1e-9)
    ones, twos = [10.0, 10.9, 9.6, 10.4], [14.5, 11.0, 12.9]
    answer = compare(
        [bare(f"a{k}", v) for k, v in enumerate(ones)],
        [bare(f"b{k}", v) for k, v in enumerate(twos)],
    )
    found = stats.ttest_ind(np.log(twos), np.log(ones), equal_var=False).confidence_interval(0.95)
    assert answer.judged_by == "welch"
    assert log1p(answer.relative_difference.low) == pytest.approx(found.low, abs=0.025)
    assert log1p(answer.relative_difference.high) == pytest.approx(found.high, abs=0.025)


def test_what_a_day_does_to_both_rides_of_a_pair_goes_out():
    """Days a tenth apart: seen in pairs a twentieth is shown, from unordered runs it is not."""
    day = [1.0, 1.12, 0.9, 1.05]
    ones, twos = in_turns()
    ones = [bare(f"a{k}", 10 * f, at=TURNS[k][0]) for k, f in enumerate(day)]
    twos = [bare(f"b{k}", 10.8 * f, at=TURNS[k][1]) for k, f in enumerate(day)]
    paired = compare(ones, twos)
    loose = compare([bare(f"a{k}", 10 * f) for k, f in enumerate(day)], [bare(f"b{k}", 10.8 * f) for k, f in enumerate(day)])  # fmt: skip
    assert (paired.judged_by, loose.judged_by) == ("paired", "welch")
    assert paired.smallest_seen < 0.75 * loose.smallest_seen
    assert (paired.verdict, loose.verdict) == ("first_less", "no_difference_shown")


def spread(ones, twos):
    sides = [
        [carried(test, ones[0], "wh_per_km", frozenset()) for test in side] for side in (ones, twos)
    ]
    return spread_of(*sides, assumed_spread())


def test_what_is_assumed_counts_whole_for_pairs_and_half_for_a_side():
    variance = log(1 + RUN_CARRIED.std) ** 2
    single = spread([bare("a")], [bare("b")])
    assert single.by == "interval"
    assert single.of_runs == (Scatter(variance=variance, freedom=4.0),) * 2
    steady = [bare(f"a{k}", at=TURNS[k][0]) for k in range(4)]
    others = [bare(f"b{k}", 11.0, at=TURNS[k][1]) for k in range(4)]
    (pair,) = spread(steady, others).of_runs
    # Two runs differ by √2 of what one differs by; four pairs that all agree add three freedoms.
    assert pair.variance == pytest.approx(8 * 2 * variance / 11, rel=1e-3)
    assert pair.freedom == 11


def test_twice_the_pairs_halve_what_is_of_their_own():
    def own(key, value, at):
        figures = {"wh_per_km": Figure(value=value, std=0.04 * value)}
        return seen(key, figures=figures, started_at=f"2026-09-{at}:00+00:00")

    found = spread(
        [own(f"a{k}", 10.0, TURNS[k][0]) for k in range(4)],
        [own(f"b{k}", 11.0, TURNS[k][1]) for k in range(4)],
    )
    assert found.by == "paired"
    assert found.variance(4) == pytest.approx(found.variance() / 2, rel=0.1)


@pytest.mark.parametrize(
    ("first", "second", "pairs"),
    [
        (["03T10:00", "03T13:00"], ["03T11:00", "03T12:00"], [(0, 0), (1, 1)]),
        # The order in which they are given is not that of the day.
        (["03T13:00", "03T10:00"], ["03T11:00", "03T12:00"], [(0, 1), (1, 0)]),
        (["03T10:00", "03T11:00"], ["03T12:00", "03T13:00"], []),
        (["03T10:00", "06T11:00"], ["05T10:00", "06T10:00"], []),
        (["03T10:00"], ["03T11:00"], []),
        (["03T10:00", "03T13:00", "04T10:00"], ["03T11:00", "03T12:00"], []),
        (["03T10:00", None], ["03T11:00", "03T12:00"], []),
    ],
)
def test_pairs_are_two_rides_in_turn_within_a_day(first, second, pairs):
    sides = [
        [bare(f"{name}{k}", at=at) for k, at in enumerate(begun)]
        for name, begun in (("a", first), ("b", second))
    ]
    assert pairs_in_time(*sides) == pairs


def test_clocks_with_and_without_a_zone_make_no_pairs():
    ones, twos = in_turns()
    naive = seen("b0", started_at="2026-09-03T12:00:00")
    assert pairs_in_time(ones, [naive, *twos[1:]]) == []


def test_earlier_runs_of_the_vehicle_teach_the_spread():
    steady = [bare(f"e{k}", 10 + 0.02 * (k % 3)) for k in range(9)]
    wild = [bare(f"e{k}", 10 * (1 + 0.12 * (-1) ** k)) for k in range(9)]
    alone = compare([bare("a")], [bare("b", 11.0)])
    calm = compare([bare("a")], [bare("b", 11.0)], others=steady)
    rough = compare([bare("a")], [bare("b", 11.0)], others=wild)
    assert alone.run_spread == pytest.approx(RUN_CARRIED.std)
    assert calm.run_spread < alone.run_spread < rough.run_spread
    assert calm.smallest_seen < alone.smallest_seen < rough.smallest_seen
    assert (alone.learned_runs, calm.learned_runs) == (0, 9)
    assert "compare_single_learned" in {notice.code for notice in calm.warnings}
    # A scaled inverse χ²: eight runs assumed and eight freedoms of what was seen.
    squares = ASSUMED_RUNS * log(1 + RUN_CARRIED.std) ** 2 + 8 * np.var(
        np.log([10 * (1 + 0.12 * (-1) ** k) for k in range(9)]), ddof=1
    )
    assert log1p(rough.run_spread) == pytest.approx(sqrt(squares / (ASSUMED_RUNS + 8)), rel=0.03)


def test_only_other_metered_runs_of_the_same_vehicle_and_kind_of_test_teach():
    sides = [seen("a"), seen("b")]
    others = [
        seen("a"),
        seen("other", vehicle="Ruff"),
        seen("volts", metered=False),
        seen("cold", purpose="temperature"),
        seen("yes"),
    ]
    assert [[test.key for test in group] for group in comparable(others, sides)] == [["yes"]]
    assert learned_spread([[seen("one")]])[1] == 0
    unknown = [seen(f"l{k}", assisted=True) for k in range(4)]
    assert learned_spread([unknown])[1] == 0


def test_the_spread_is_learned_from_the_latest_runs():
    # Wild ones of years ago, and as many as are looked at that were all alike since.
    wild = [bare(f"old {k}", value) for k, value in enumerate((6.0, 14.0, 7.0, 15.0))]
    since = [bare(f"new {k}", 10.0) for k in range(MOST_LEARNED)]
    found, runs = learned_spread([[*wild, *since]])
    assert runs == MOST_LEARNED
    assert found.variance < assumed_spread().variance
    assert learned_spread([[*since[4:], *wild]])[0].variance > assumed_spread().variance
