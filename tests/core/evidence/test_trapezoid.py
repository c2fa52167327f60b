"""The trapezoidal rule, with SciPy as its judge, and nothing across gaps."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import cumulative_trapezoid, trapezoid

from limpet.evidence.trapezoid import integral, running, seconds_between

FINITE = st.floats(-1e4, 1e4)


@given(st.lists(st.tuples(st.floats(0.01, 9.9), FINITE), min_size=2, max_size=40))
def test_it_is_scipys_where_there_is_no_gap(rows):
    steps, values = np.array(rows).T
    time = np.cumsum(steps)
    seconds = seconds_between(time, 10.0)
    assert integral(values, seconds) == pytest.approx(trapezoid(values, time), rel=1e-9, abs=1e-6)
    judge = cumulative_trapezoid(values, time, initial=0)
    assert running(values, seconds) == pytest.approx(judge, rel=1e-9, abs=1e-6)


def test_nothing_is_counted_across_a_gap():
    # Over the threshold is a gap (handbook section 4); at it is none.
    assert seconds_between(np.array([0.0, 10.0, 20.5]), 10.0).tolist() == [10, 0]
    seconds = seconds_between(np.array([0.0, 1.0, 21.0, 22.0]), 10.0)
    assert seconds.tolist() == [1, 0, 1]
    assert integral(np.array([1.0, 3.0, 5.0, 5.0]), seconds) == 7
    assert running(np.array([1.0, 3.0, 5.0, 5.0]), seconds).tolist() == [0, 2, 2, 7]


@pytest.mark.parametrize("count", [0, 1])
def test_of_fewer_than_two_values_nothing_adds_up(count):
    assert integral(np.ones(count), np.zeros(0)) == 0
