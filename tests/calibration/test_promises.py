"""What to plan on is kept by later rides, in such weather and in other, while the promise is for.

`./limpet bench promises` asks more of them. What the rides are ridden by stands in `promises`.
"""

from __future__ import annotations

import pytest

from tests.calibration.promises import kept_by_clause


@pytest.fixture(scope="module")
def small():
    """Thirty riders, each with three later rides of each clause, seeded."""
    return kept_by_clause(30)


@pytest.mark.parametrize("clause", ["alike", "in other weather"])
def test_a_promise_is_kept_within_its_clause(small, clause):
    assert small[clause].asked == 90
    assert small[clause].share >= 0.92


@pytest.mark.parametrize("clause", ["alike", "in other weather"])
def test_and_is_not_timid(small, clause):
    """Runs that differ by 4 to 5% alone take 11%, by a pack's wear and the weather some more."""
    assert small[clause].timid < 0.19


@pytest.mark.parametrize("clause", ["as told, 12 °C colder", "after its time"])
def test_beyond_its_clauses_it_would_not_be_kept(small, clause):
    """What the clauses are for: without them so many would have stood somewhere."""
    assert small[clause].share < 0.90
