"""Running quantities: clipping, completing, counting on."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from limpet.read.line import Line, completed, counted_on, estimate

STEPS = st.lists(st.floats(0.1, 100), min_size=2, max_size=20)


def line_of(steps, amounts=None):
    time = np.concatenate([[0.0], np.cumsum(steps)])
    total = np.concatenate([[0.0], np.cumsum(amounts if amounts is not None else steps)])
    return Line(time_s=time, total=total)


@given(STEPS, st.floats(0, 1), st.floats(0, 1))
def test_parts_add_up_to_the_whole(steps, a, b):
    line = line_of(steps, [step * (1 + k % 3) for k, step in enumerate(steps)])
    first, second = sorted((a, b))
    ends = [0.0, first * line.time_s[-1], second * line.time_s[-1], line.time_s[-1]]
    parts = [line.between(ends[k], ends[k + 1]) for k in range(3)]
    assert sum(parts) == pytest.approx(line.span)
    clipped = line.clipped(ends[1], ends[2])
    assert clipped.span == pytest.approx(parts[1], abs=1e-9)
    assert clipped.total[0] == 0.0


@given(STEPS)
def test_a_line_that_covers_the_ride_is_left_alone(steps):
    line = line_of(steps)
    assert line.clipped(-1, line.time_s[-1] + 1) is line
    whole, filled, std = completed(line, 0.0, float(line.time_s[-1]), None)
    assert (whole, filled, std) == (line, 0.0, 0.0)


def test_what_lies_before_and_after_is_filled_at_the_same_rate():
    line = Line(time_s=np.array([100.0, 300.0]), total=np.array([0.0, 50.0]))
    whole, filled, std = completed(line, 0.0, 400.0, None)
    assert whole.span == pytest.approx(100.0)
    assert filled == pytest.approx(50.0)
    assert std == pytest.approx(15.0)  # 30% of the piece, handbook section 4
    assert whole.time_s[[0, -1]].tolist() == [0.0, 400.0]


def test_filling_follows_the_distance_rather_than_the_clock():
    line = Line(time_s=np.array([0.0, 300.0]), total=np.array([0.0, 50.0]))
    metres = Line(time_s=np.array([0.0, 300.0, 900.0]), total=np.array([0.0, 1000.0, 1200.0]))
    whole, _, _ = completed(line, 0.0, 900.0, metres)
    assert whole.span == pytest.approx(60.0)


@given(st.lists(st.floats(0, 1000), min_size=1, max_size=20))
def test_a_running_total_never_falls_where_nothing_may(values):
    total, resets = counted_on(np.array(values))
    assert (np.diff(total) >= 0).all()
    assert resets == sum(b < a for a, b in itertools.pairwise(values))


def test_a_gain_counts_for_what_was_read_and_not_for_what_was_filled():
    line = line_of([1.0], [100.0])
    found = estimate("trip", line, "m", gains={"trip": 0.1}, filled=50.0, filled_std=0.0)
    assert found.quantity.standard_uncertainty == pytest.approx(5.0)
