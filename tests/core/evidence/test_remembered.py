"""A ride written down afterwards: clocks, distances and order put the entries in time."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from limpet.evidence.clock import USUAL_MPS
from limpet.evidence.remembered import clock_s, remembered
from limpet.files.pasted import MOST_ROWS, pasted


@pytest.mark.parametrize(
    ("text", "seconds"),
    [("9:12", 33_120), ("09.12", 33_120), ("21:40:30", 78_030), ("1:05 pm", 47_100),
     ("12:30 am", 1_800), ("12:00pm", 43_200), ("7h45", 27_900)],
)  # fmt: skip
def test_clocks_as_riders_write_them(text, seconds):
    assert clock_s(text) == seconds


@pytest.mark.parametrize("text", ["soon", "25:00", "9", "9:75", ""])
def test_what_is_no_clock(text):
    with pytest.raises(ValueError, match="clock"):
        clock_s(text)


def test_clocks_put_the_entries_in_time_past_midnight():
    rows = [{"clock": "23:50"}, {"clock": "0:20", "trip_m": 9000.0}, {"clock": "0:50"}]
    entries, faults = remembered(rows)
    assert faults == {}
    assert [entry.time_s for entry in entries] == [0, 1800, 3600]
    assert [entry.kind for entry in entries] == ["start", "checkpoint", "end"]


def test_distance_alone_orders_them():
    rows = [{"voltage_rest_v": 54.0}, {"trip_m": 5500.0}, {"trip_m": 11_000.0, "kind": "turn"}]
    entries, faults = remembered(rows)
    assert faults == {}
    assert [entry.time_s for entry in entries] == pytest.approx(
        [0, 5500 / USUAL_MPS, 11_000 / USUAL_MPS]
    )
    assert [entry.kind for entry in entries] == ["start", "checkpoint", "turn"]


def test_laps_are_as_long_as_the_lap():
    entries, _ = remembered([{"laps": 0.0}, {"laps": 4.0}], lap_m=1100.0)
    assert entries[1].time_s == pytest.approx(4400 / USUAL_MPS)


def test_what_nothing_tells_is_asked_for_row_by_row():
    entries, faults = remembered(
        [{"clock": "9:00"}, {"voltage_rest_v": 50.0}, {"clock": "soon"}, {"clock": "8:30"}]
    )
    assert entries == ()
    assert set(faults) == {"1.clock", "2.clock", "3.clock"}
    assert "needs a clock" in faults["1.clock"]
    assert "before the clock above" in faults["3.clock"]


def test_a_table_out_of_a_spreadsheet():
    found = pasted(
        "Clock\tTrip (mi)\tVolts at rest\tGauge %\tNote\n9:12\t0\t54,4\t100\tstart\n10:02\t6.1\t51.2\t71\t"
    )
    assert [(column.name, column.unit) for column in found.columns] == [
        ("clock", ""), ("trip_m", "mi"), ("voltage_rest_v", ""), ("gauge", ""), ("note", ""),
    ]  # fmt: skip
    assert found.rows == (("9:12", "0", "54,4", "100", "start"), ("10:02", "6.1", "51.2", "71", ""))


@pytest.mark.parametrize(
    ("text", "names", "rows"),
    [
        ("km;V;Ah\n0;54,4;0\n10;52,1;3,2", ["trip_m", "voltage_rest_v", "charge_ah"], 2),
        ("miles  volts pulling  bars\n0  52.3  5\n4  49.9  4", ["trip_m", "voltage_load_v", "gauge"], 2),
        ("time,odo km,wh\n9:00,120,0\n9:40,131,88", ["clock", "odometer_m", "energy_wh"], 2),
        # Without a heading nobody knows what is what: whoever pasted it says.
        ("0\t54.4\n6\t51.0", [None, None], 2),
        ("trip_m\tvoltage_rest_v\n0\t54", ["trip_m", "voltage_rest_v"], 1),
        ("volts\tvoltage\n54\t54", ["voltage_rest_v", None], 1),
        ("", [], 0),
    ],
)  # fmt: skip
def test_columns_are_recognised_by_their_headings(text, names, rows):
    found = pasted(text)
    assert [column.name for column in found.columns] == names
    assert len(found.rows) == rows


def test_a_decimal_comma_is_no_mark_between_cells():
    found = pasted("trip  volts\n0,0  54,4\n6,1  51,2")
    assert found.rows == (("0,0", "54,4"), ("6,1", "51,2"))


def test_no_more_is_read_than_is_kept():
    found = pasted("trip\n" + "\n".join("1" for _ in range(MOST_ROWS + 20)))
    assert (len(found.rows), found.left_out) == (MOST_ROWS, 20)


@given(st.text(max_size=400))
def test_no_text_breaks_it(text):
    found = pasted(text)
    assert all(len(row) == len(found.columns) for row in found.rows)
