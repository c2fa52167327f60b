"""Odd evidence: one set of checks, whatever brings it."""

from dataclasses import replace

import numpy as np
import pytest

from limpet.evidence.checks import (
    all_questions,
    counts_backwards,
    not_rising,
    outside,
    questions,
    refused_readings,
)
from limpet.evidence.columns import ENTRY_COLUMNS, SAMPLE_COLUMNS
from limpet.evidence.model import Entry
from tests.strategies import PACK


def found(notices):
    return [notice.code for notice in notices]


def test_values_that_no_ride_can_have_are_named_with_their_rows():
    numbers = {
        "time_s": np.array([0.0, 1.0, 2.0]),
        "voltage_v": np.array([52.0, np.nan, 52_000.0]),
        "current_a": np.array([1.0, -2.0, 3.0]),
    }
    (odd,) = outside(SAMPLE_COLUMNS, numbers, PACK)
    assert (odd.name, odd.rows.tolist()) == ("voltage_v", [2])
    assert odd.says(0) == "is 52000; expected volts of 13 cells, not millivolts"


def test_without_a_pack_the_columns_own_bounds_hold():
    (odd,) = outside(SAMPLE_COLUMNS, {"voltage_v": np.array([300.0, 2001.0])}, None)
    assert odd.says(0) == "is 2001; expected zero or more"


def test_a_typed_reading_is_refused_in_the_same_words():
    assert refused_readings(
        ENTRY_COLUMNS, {"voltage_load_v": 52_000.0, "note": "x", "laps": 2.0, "gauge": None}, PACK
    ) == {"voltage_load_v": "is 52000; expected volts of 13 cells, not millivolts"}


def test_time_must_rise_strictly_in_samples_and_not_fall_in_entries():
    time = np.array([0.0, 1.0, 1.0, 0.5, 2.0])
    assert not_rising(time, strictly=True).tolist() == [2, 3]
    assert not_rising(time, strictly=False).tolist() == [3]


@pytest.mark.parametrize(
    ("amps", "backwards"),
    [
        ([1.0, 2.0, -0.5], False),
        ([-1.0, -2.0, 0.5], True),
        ([np.nan, -1.0, np.nan], False),
        ([], False),
    ],
)
def test_a_log_that_charges_on_the_whole_has_the_other_sign(amps, backwards):
    assert counts_backwards(np.arange(len(amps), dtype=float), np.array(amps)) is backwards


def test_each_entry_is_held_against_the_one_before_it():
    entries = [
        Entry(time_s=60.0 * k, kind="checkpoint", trip_m=m)
        for k, m in enumerate((0, 900, 800, 1700))
    ]
    assert found(all_questions(PACK, 1, entries)) == ["distance_backwards"]


@pytest.mark.parametrize(
    ("values", "before", "code"),
    [
        ({"voltage_rest_v": 5.43}, {}, "voltage_outside"),
        ({"voltage_rest_v": 49.0, "voltage_load_v": 52.0}, {}, "rest_below_load"),
        ({"charge_ah": 94.0}, {}, "charge_beyond_rating"),
        ({"trip_m": 900.0}, {"trip_m": 1000.0}, "distance_backwards"),
        ({"odometer_m": 1_200_000.0}, {"odometer_m": 1_000_000.0}, "distance_too_far"),
    ],
)
def test_a_slip_of_the_finger_is_asked_about(values, before, code):
    earlier = Entry(time_s=0, kind="start", **before)
    entry = Entry(time_s=600, kind="checkpoint", **values)
    assert found(questions(PACK, 1, entry, earlier)) == [code]


def test_a_sound_entry_is_not_asked_about():
    entry = Entry(
        time_s=600,
        kind="checkpoint",
        voltage_rest_v=52.0,
        voltage_load_v=50.0,
        trip_m=3000.0,
        charge_ah=2.0,
    )
    assert questions(PACK, 1, entry, Entry(time_s=0, kind="start", trip_m=0.0)) == []


def test_charging_voltage_above_rest_is_no_slip():
    entry = Entry(
        time_s=600, kind="checkpoint", voltage_rest_v=50.0, voltage_load_v=51.0, current_a=-4.0
    )
    assert questions(PACK, 1, entry, None) == []


def pair(first, second):
    """What is asked of the second of two entries, ten minutes apart."""
    before = Entry(time_s=0, kind="checkpoint", **first)
    return found(questions(PACK, 1, Entry(time_s=600, kind="checkpoint", **second), before))


@pytest.mark.parametrize(
    ("first", "second", "asked"),
    [
        # Handbook section 17: what a slip of the finger would make.
        ({"charge_ah": 5.0}, {"charge_ah": 4.0}, ["charge_falls"]),
        ({"charge_ah": 5.0}, {"charge_ah": 4.8}, []),  # a descent
        ({"charge_ah": 5.0}, {"charge_ah": 0.2}, []),  # reset
        ({"gauge": 40.0}, {"gauge": 70.0}, ["gauge_rises"]),
        ({"gauge": 40.0}, {"gauge": 45.0}, []),
        ({"gauge": 2.0}, {"gauge": 3.0}, []),  # bars bounce
        ({"gauge": 1.0}, {"gauge": 4.0}, ["gauge_rises"]),
        ({"trip_m": 1000.0, "odometer_m": 500_000.0}, {"trip_m": 4000.0, "odometer_m": 513_000.0}, ["odometer_apart"]),
        ({"trip_m": 1000.0, "odometer_m": 500_000.0}, {"trip_m": 4000.0, "odometer_m": 503_100.0}, []),
        ({}, {"cell_min_v": 0.4}, ["cell_absurd"]),
        ({}, {"cell_min_v": 2.9}, []),
    ],
)  # fmt: skip
def test_what_a_slip_of_the_finger_would_make_is_asked_about(first, second, asked):
    assert pair(first, second) == asked


def test_a_gauge_may_rise_at_a_stop():
    stopped = Entry(time_s=0, kind="stop", gauge=40.0)
    assert found(questions(PACK, 1, Entry(time_s=600, kind="resume", gauge=70.0), stopped)) == []


def test_a_jump_that_no_pack_could_take_is_asked_about_whatever_the_clock_says():
    start = Entry(time_s=0, kind="start", trip_m=0.0)
    later = Entry(time_s=86_400, kind="end", trip_m=400_000.0)
    assert found(questions(PACK, 1, later, start)) == ["distance_beyond_pack"]
    assert found(questions(PACK, 3, later, start)) == []


def test_a_lap_a_fifth_off_its_fellows_is_asked_about():
    ends = [0.0, 1720.0, 3440.0, 5600.0, 7320.0]
    laps = [Entry(time_s=300.0 * k, kind="lap", laps=k, trip_m=m) for k, m in enumerate(ends)]
    (asked,) = all_questions(PACK, 1, laps)
    assert (asked.code, asked.values["time_s"]) == ("lap_apart", 900.0)


def test_a_lap_by_the_clock_alone_is_asked_about_where_one_may_be_missed():
    times = [0.0, 300.0, 610.0, 1230.0, 1540.0]
    laps = [Entry(time_s=t, kind="lap" if k else "start", laps=k) for k, t in enumerate(times)]
    (asked,) = all_questions(PACK, 1, laps)
    assert (asked.code, asked.values["time_s"]) == ("lap_time_apart", 1230.0)
    # A slow lap is none, nor is one with a stop in it, nor one that was looked at.
    slower = [replace(lap, time_s=lap.time_s - 180 * (k > 2)) for k, lap in enumerate(laps)]
    assert all_questions(PACK, 1, slower) == []
    stop = [Entry(time_s=700.0, kind="stop"), Entry(time_s=1010.0, kind="resume")]
    assert all_questions(PACK, 1, sorted([*laps, *stop], key=lambda one: one.time_s)) == []
    assert all_questions(PACK, 1, [replace(lap, confirmed="yes") for lap in laps]) == []


def test_an_entry_of_a_time_to_come_is_asked_about_where_the_time_is_known():
    entries = [Entry(time_s=0.0, kind="start"), Entry(time_s=7800.0, kind="checkpoint")]
    (asked,) = all_questions(PACK, 1, entries, now_s=600.0)
    assert (asked.code, asked.values["ahead_s"]) == ("entry_to_come", 7200.0)
    assert all_questions(PACK, 1, entries, now_s=7600.0) == []
    assert all_questions(PACK, 1, entries) == []
    assert all_questions(PACK, 1, [replace(e, confirmed="yes") for e in entries], 600.0) == []
