"""At a stop somebody asks whether what is left brings them home; `./limpet bench decisions` asks them all.

Of those who are told over 95% hardly anybody may be stranded, whatever they had to read; and whoever turns
where it says "turn back" comes home. The rides are a porous-electrode model's (PyBaMM), the gauges the
trade's; nothing of either is the core's.
"""

from __future__ import annotations

import pytest
from scipy.stats import binomtest

from tests.calibration.bets import KINDS, Bet, Outcome, Turn, outcome, upper_bound


@pytest.fixture(scope="module")
def small() -> Outcome:
    """Every nineteenth rider, seeded."""
    return outcome(every=19)


def test_of_those_who_are_told_over_95_percent_hardly_anybody_is_stranded(small):
    sure = [bet for bet in small.bets if bet.told > 0.95]
    assert len(sure) >= 20
    assert sum(not bet.home for bet in sure) <= 0.05 * len(sure)


def test_what_is_told_between_is_neither_sure_nor_hopeless(small):
    between = [bet for bet in small.bets if 0.2 <= bet.told <= 0.95]
    assert len(between) >= 25
    home = sum(bet.home for bet in between) / len(between)
    mean = sum(bet.told for bet in between) / len(between)
    # Told too carefully by up to this in a run as small; the whole bench holds each rung.
    assert mean - 0.10 <= home <= mean + 0.20


def test_whoever_turns_when_told_comes_home(small):
    assert len(small.turns) >= 10
    assert all(turn.share <= 1 for turn in small.turns)


def test_an_outcome_counts_what_it_says():
    kind = KINDS[0]
    bets = [Bet(kind, 0.97, True)] * 19 + [Bet(kind, 0.97, False), Bet(kind, 0.6, False)]
    found = Outcome(
        bets=bets, turns=[Turn(kind, 0.4, 0.8), Turn(kind, 0.72, 0.8), Turn(kind, 1.1, 0.8)]
    )
    assert found.sure(kind) == (20, 1)
    # Of the 0.8 that keep the reserve 0.72 is a tenth too early.
    assert found.early(kind) == pytest.approx(0.1)
    assert found.stranded(kind) == pytest.approx(1 / 3)
    assert [row[2] for row in found.rungs()] == [1, 20]
    assert "told 95 to 99%:    20 bets" in str(found)


@pytest.mark.parametrize(("lost", "count"), [(0, 40), (3, 60), (9, 120)])
def test_the_upper_bound_is_that_of_the_binomial(lost, count):
    """SciPy's exact test has the same one-sided bound."""
    exact = binomtest(lost, count, alternative="less").proportion_ci(confidence_level=0.95)
    assert upper_bound(lost, count) == pytest.approx(exact.high, rel=1e-6)
