"""Distances that cannot be of one ride, and samples of another clock: asked about, and never half of it told."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import polars as pl
import pytest

from limpet.evidence.model import Entry, LapInstrument
from limpet.tell import analyse
from tests.strategies import accuracies, range_test

MILE_M = 1609.344


def ridden(trip_m, odometer_m, laps=None):
    """From full to 45 V at rest by trip meter and odometer."""
    tools = replace(accuracies(trip=2.0, odometer=2.0), lap=LapInstrument(length_m=1950.0))
    return analyse(
        range_test(
            Entry(time_s=0.0, kind="start", trip_m=0.0, odometer_m=100_000.0, voltage_rest_v=54.4, laps=None if laps is None else 0.0),
            Entry(time_s=6000.0, kind="end", trip_m=trip_m, odometer_m=100_000.0 + odometer_m, voltage_rest_v=45.0, laps=laps),
            instruments=tools,
        )
    )  # fmt: skip


def codes(result):
    return {notice.code: notice for notice in result.warnings}


@pytest.mark.parametrize(
    ("trip_m", "guess"),
    [
        (39.0, "kilometres noted as metres"),
        (39.0 * MILE_M, "kilometres noted as miles"),
        (39_000 / MILE_M, "miles noted as metres"),
        (90_000.0, "misread"),
    ],
    ids=["km as m", "km as mi", "mi as m", "neither"],
)
def test_two_distances_that_cannot_be_of_one_ride_tell_none(trip_m, guess):
    result = ridden(trip_m, 39_000.0)
    assert result.distance is None
    assert result.range_to_cutoff is None
    assert result.consumption is None
    assert {item.method for item in result.distance_methods} == {"trip", "odometer"}
    asked = codes(result)
    assert guess in asked["distances_contradict"].message
    assert "no_distance" not in asked


def test_the_one_that_stands_alone_against_two_is_left_out_and_does_not_widen():
    result = ridden(39.0, 39_000.0, laps=20.0)
    assert result.distance.value == pytest.approx(39_000, rel=0.01)
    assert result.distance.relative < 0.02
    assert "distances_contradict" not in codes(result)
    # It is still said that it lies apart.
    assert "distance_methods_disagree" in codes(result)


def test_two_that_differ_as_scales_do_are_told_as_before():
    result = ridden(44_000.0, 40_000.0)
    assert result.distance is not None
    assert "distances_contradict" not in codes(result)


def logged(late_s, *, hours=1.0):
    """Entries of 22 km in an hour, and a log of the same that begins and ends so much later."""
    time = np.arange(3600.0 * hours)
    samples = pl.DataFrame(
        {"time_s": time + late_s, "voltage_v": 54.2 - time * 0.0016, "current_a": np.full(len(time), 8.0),
         "distance_m": time * 6.11}
    )  # fmt: skip
    entries = (
        Entry(time_s=100_000.0, kind="start", trip_m=0.0, voltage_rest_v=54.4),
        Entry(time_s=101_800.0, kind="checkpoint", trip_m=11_000.0),
        Entry(time_s=103_600.0, kind="end", trip_m=22_000.0, voltage_rest_v=46.4),
    )
    samples = samples.with_columns(pl.col("time_s") + 100_000.0)
    return analyse(range_test(*entries, samples=samples))


@pytest.mark.parametrize("hours", [-2.0, -1.0, 1.0, 5.5])
def test_samples_an_hour_beside_the_entries_are_asked_about_and_left_out(hours):
    result = logged(3600 * hours + 40)
    asked = codes(result)["samples_of_another_clock"]
    assert asked.values == {
        "ahead_s": abs(3600 * hours),
        "side": "after" if hours > 0 else "before",
    }
    # Neither 11 km for 22 nor 44.
    assert result.distance.value == pytest.approx(22_000)
    assert not any(item.method == "sampled" for item in result.energy_methods)


@pytest.mark.parametrize(("late_s", "hours"), [(0.0, 1.0), (500.0, 0.85), (1800.0, 0.5), (0.0, 2.0)])  # fmt: skip
def test_a_logger_that_was_started_late_or_ran_on_keeps_its_samples(late_s, hours):
    result = logged(late_s, hours=hours)
    assert "samples_of_another_clock" not in codes(result)
    assert any(item.method == "sampled" for item in result.energy_methods)
