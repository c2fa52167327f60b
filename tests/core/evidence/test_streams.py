"""Streams of several instruments: nothing is lost, nothing is counted twice."""

import numpy as np
import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st
from polars.testing import assert_frame_equal

from limpet.evidence.gaps import gap_threshold_s
from limpet.evidence.reduction import Reduction, reduced
from limpet.evidence.streams import Stream, joined
from limpet.read.logged import integrate
from limpet.tell import analyse
from tests.strategies import range_test


def frame(**columns):
    return pl.DataFrame({name: [float(v) if v is not None else None for v in values] for name, values in columns.items()}, strict=False)  # fmt: skip


METER = frame(time_s=range(10), voltage_v=[50] * 10, current_a=range(10))


def test_one_stream_is_the_table_and_none_is_none():
    assert joined([]) is None
    assert_frame_equal(joined([Stream(samples=METER)]), METER)


def test_a_clock_that_is_off_and_a_meter_that_counts_charging_are_put_right():
    (placed,) = [Stream(samples=METER, clock_offset_s=-2.5, sign=-1).placed()]
    assert placed["time_s"].to_list() == [k - 2.5 for k in range(10)]
    assert placed["current_a"].to_list() == [-float(k) for k in range(10)]


def test_a_receiver_stands_beside_the_meter_as_of_its_times():
    receiver = frame(time_s=[0.4, 1.4, 8.4], speed_mps=[4, 5, 6])
    table = joined([Stream(samples=receiver), Stream(samples=METER)])
    # The meter leads, whichever came first: its rows are all there and no more.
    assert table["time_s"].to_list() == METER["time_s"].to_list()
    assert table["current_a"].to_list() == METER["current_a"].to_list()
    assert table["speed_mps"].to_list()[:3] == [4.0, 5.0, 5.0]
    assert table["speed_mps"].to_list()[-1] == 6.0


def test_what_the_others_measured_while_the_meter_was_silent_stands_alone():
    receiver = frame(time_s=[-100, -90, 5, 100, 110], speed_mps=[1, 2, 3, 4, 5])
    table = joined([Stream(samples=METER), Stream(samples=receiver)])
    assert table.height == 10 + 4
    assert table["time_s"].is_sorted()
    alone = table.filter(pl.col("current_a").is_null())
    assert alone["speed_mps"].to_list() == [1.0, 2.0, 4.0, 5.0]


def test_nothing_is_carried_across_a_gap_of_the_other():
    meter = frame(time_s=range(100), voltage_v=[50] * 100, current_a=[5] * 100)
    receiver = frame(time_s=[0, 1, 2, 90, 91], speed_mps=[1, 2, 3, 4, 5])
    speed = joined([Stream(samples=meter), Stream(samples=receiver)])["speed_mps"]
    # Its gaps are what is longer than 10 s: so far its last reading is taken to hold, no farther.
    assert speed[12] == 3.0
    assert speed[13:80].null_count() == 67
    assert speed[80] == 4.0


def test_what_two_instruments_measure_is_the_leading_ones_and_filled_from_the_other():
    meter = METER.with_columns(pl.Series("speed_mps", [9.0] * 5 + [None] * 5))
    receiver = frame(time_s=range(10), speed_mps=[1] * 10)
    table = joined([Stream(samples=receiver), Stream(samples=meter)])
    assert table["speed_mps"].to_list() == [9.0] * 5 + [1.0] * 5
    assert set(table.columns) == {"time_s", "voltage_v", "current_a", "speed_mps"}


def test_the_same_ride_in_two_streams_comes_to_the_same_energy():
    time = np.arange(0.0, 600.0)
    volts, amps = 52 - time / 300, 5 + np.sin(time / 20)
    whole = pl.DataFrame({"time_s": time, "voltage_v": volts, "current_a": amps})
    apart = joined(
        [Stream(samples=whole.select("time_s", "voltage_v")), Stream(samples=whole.select("time_s", "current_a"))]
    )  # fmt: skip
    one, two = analyse(range_test(samples=whole)), analyse(range_test(samples=apart))
    assert two.energy.value == pytest.approx(one.energy.value, rel=1e-12)


readings = st.one_of(st.none(), st.floats(-50, 60))


@st.composite
def logs(draw):
    count = draw(st.integers(2, 40))
    steps = draw(
        st.lists(st.sampled_from([0.5, 1.0, 3.0, 9.0, 11.0, 40.0]), min_size=count, max_size=count)
    )
    columns = {name: draw(st.lists(readings, min_size=count, max_size=count)) for name in ("voltage_v", "current_a", "speed_mps", "distance_m", "cell_min_v", "battery_temp_c")}  # fmt: skip
    return frame(time_s=np.cumsum(steps), **columns)


@given(log=logs(), data=st.data())
def test_stretches_carried_on_come_to_what_the_whole_does(log, data):
    # With one rhythm for all: how long a gap is depends on who looks at how much.
    whole = reduced(log)
    cuts = sorted(data.draw(st.sets(st.integers(1, log.height - 1), max_size=4)))
    parts = [reduced(log[a:b]) for a, b in zip([0, *cuts], [*cuts, log.height], strict=True)]
    if {part.longest_step_s for part in parts} != {whole.longest_step_s}:
        return
    total = parts[0]
    for part in parts[1:]:
        total = total.then(part)
    assert (total.first, total.last) == (whole.first, whole.last)
    for name, value in whole.to_json().items():
        if name not in ("first", "last"):
            near = value if value is None else pytest.approx(value, rel=1e-9, abs=1e-9)
            assert total.to_json()[name] == near, name


def test_what_a_stretch_does_not_know_is_carried_through_it():
    whole = frame(
        time_s=range(9),
        voltage_v=[50, 50, 50, None, None, None, 49, 49, 49],
        current_a=[4] * 9,
        speed_mps=[5, 6, 7, None, None, None, 8, 8, 8],
        distance_m=[0, 5, 10, None, None, None, 40, 45, 50],
    )
    first, second, third = (reduced(whole[a : a + 3]) for a in (0, 3, 6))
    total, expected = first.then(second).then(third), reduced(whole)
    assert total.energy_wh == pytest.approx(expected.energy_wh)
    assert total.rolled_m == pytest.approx(expected.rolled_m)
    assert total.counted_m == expected.counted_m == 50
    assert (total.first, total.last) == (expected.first, expected.last)


def test_sums_are_those_of_the_analysis():
    time = np.cumsum(np.r_[0, np.full(300, 1.0), 60.0, np.full(300, 1.0)])
    volts, amps = np.full(len(time), 50.0), np.where(time < 30, -2.0, 6.0)
    found = reduced(pl.DataFrame({"time_s": time, "voltage_v": volts, "current_a": amps}))
    whole = integrate(time, volts, amps)
    assert found.energy_wh == pytest.approx(whole.energy_wh[-1], rel=1e-12)
    assert found.charge_ah == pytest.approx(whole.charge_ah[-1], rel=1e-12)
    assert found.returned_wh == pytest.approx(whole.returned_wh, rel=1e-12)
    assert (found.gaps, found.count) == (1, len(time))
    assert found.longest_step_s == gap_threshold_s(time)


def test_sums_of_a_meter_that_counts_charging_are_those_of_its_turned_samples():
    log = frame(time_s=range(6), voltage_v=[50, 51, 52, 52, 51, 50], current_a=[5, 4, -2, -3, 1, 6])
    turned = Stream(samples=log, sign=-1).placed()
    expected, found = reduced(turned).to_json(), reduced(log).turned().to_json()
    assert (found.pop("first"), found.pop("last")) == (expected.pop("first"), expected.pop("last"))
    # Where the current changes its sign within a step, either way round is an approximation.
    returned = found.pop("returned_wh"), expected.pop("returned_wh")
    assert returned[0] == pytest.approx(returned[1], rel=1e-9)
    assert found == pytest.approx(expected)


def test_a_distance_counter_that_was_reset_counts_on():
    found = reduced(frame(time_s=range(5), distance_m=[100, 150, 0, 20, 60]))
    assert found.counted_m == 50 + 60


def test_a_stretch_is_not_carried_on_by_one_that_lies_before_it():
    with pytest.raises(ValueError, match="later"):
        reduced(METER[5:]).then(reduced(METER[:6]))


@pytest.mark.parametrize("kept", [None, [], {"count": 3}, {**reduced(METER).to_json(), "more": 1}, {**reduced(METER).to_json(), "first": {"of": 1}}])  # fmt: skip
def test_sums_of_another_shape_are_none(kept):
    assert Reduction.from_json(kept) is None


def test_kept_sums_come_back():
    assert Reduction.from_json(reduced(METER).to_json()) == reduced(METER)
