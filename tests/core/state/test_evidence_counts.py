"""Every reading counts: what is added sharpens or leaves, what contradicts widens, what repeats repeats."""

from __future__ import annotations

import itertools

import numpy as np
import polars as pl
import pytest

from limpet.evidence.model import Entry
from limpet.tell import analyse
from tests.strategies import accuracies, range_test


def entry(time_s, kind="checkpoint", **values):
    return Entry(time_s=time_s, kind=kind, **values)


def half_width(quantity):
    return (quantity.high - quantity.low) / 2 / quantity.value


START = entry(0, "start", trip_m=0.0, voltage_rest_v=54.5)
END = entry(7200, "end", trip_m=20_000.0)
SETTLED = entry(8100, "settle", voltage_rest_v=47.6)


def reach(*entries, **changes):
    return analyse(range_test(*entries, **changes)).range_to_cutoff


def test_any_two_readings_are_enough_wherever_they_lie():
    early = entry(1800, trip_m=5000.0, voltage_load_v=51.0)
    late = entry(5400, trip_m=15_000.0, voltage_load_v=47.8)
    assert reach(entry(0, "start", trip_m=0.0), early, late, END) is not None
    # One voltage here, a trip meter there.
    assert reach(entry(0, "start", trip_m=0.0), entry(5400, voltage_load_v=47.8), END) is not None


def test_a_third_reading_that_agrees_improves_the_answer():
    two = reach(START, END, SETTLED)
    three = reach(START, entry(3600, "stop", trip_m=10_000.0), entry(4200, voltage_rest_v=50.2),
                  entry(4300, "resume"), END, SETTLED)  # fmt: skip
    assert half_width(three) < 1.05 * half_width(two)
    assert three.value == pytest.approx(two.value, rel=0.10)


@pytest.mark.parametrize(
    "more",
    [
        {"gauge": 3.0}, {"voltage_load_v": 49.6}, {"charge_ah": 3.5}, {"gauge": 55.0},
        {"voltage_rest_v": 50.0, "voltage_load_v": 49.0, "current_a": 9.0},
    ],
)  # fmt: skip
def test_one_more_kind_of_evidence_never_makes_an_answer_disappear(more):
    found = reach(START, entry(3600, trip_m=10_000.0, **more), END, SETTLED)
    assert found is not None
    assert found.low < found.value < found.high


def test_a_worse_instrument_that_is_added_never_narrows():
    meter = [entry(0, "start", trip_m=0.0, energy_wh=0.0, voltage_rest_v=54.5),
             entry(7200, "end", trip_m=20_000.0, energy_wh=330.0)]  # fmt: skip
    alone = analyse(range_test(*meter, instruments=accuracies(energy=1.0))).energy
    beside = analyse(
        range_test(
            *(entry(e.time_s, e.kind, trip_m=e.trip_m, energy_wh=e.energy_wh,
                    voltage_rest_v=e.voltage_rest_v, charge_ah=0.0 if e.time_s == 0 else 6.9)
              for e in meter),
            instruments=accuracies(energy=1.0, charge=8.0),
        )
    ).energy  # fmt: skip
    assert beside.standard_uncertainty >= 0.98 * alone.standard_uncertainty


def test_instruments_that_disagree_widen_the_answer_until_it_holds_both():
    found = analyse(
        range_test(
            entry(0, "start", trip_m=0.0, odometer_m=0.0),
            entry(3600, "end", trip_m=20_000.0, odometer_m=22_500.0),
            instruments=accuracies(trip=1.0, odometer=3.0),
        )
    ).distance
    assert found.value == 20_000
    assert found.high >= 22_400


def test_the_order_of_entries_at_one_time_does_not_matter():
    here = [entry(3600, "stop", trip_m=10_000.0), entry(3600, voltage_rest_v=50.4),
            entry(3600, gauge=60.0)]  # fmt: skip
    answers = {
        tuple(round(x, 6) for x in (q.value, q.low, q.high))
        for order in itertools.permutations(here)
        for q in [reach(START, *order, END, SETTLED)]
    }
    assert len(answers) == 1


def test_the_same_test_gives_the_same_answer():
    assert reach(START, END, SETTLED) == reach(START, END, SETTLED)


def log(every):
    time = np.arange(0.0, 3601.0, every)
    amps = 6 + 2 * np.sin(time / 150)
    return pl.DataFrame(
        {"time_s": time, "voltage_v": 53 - time / 700 - 0.1 * amps, "current_a": amps,
         "distance_m": 5.5 * time}
    )  # fmt: skip


def test_energy_and_range_do_not_depend_on_the_rate_of_the_log():
    fine, coarse = (analyse(range_test(samples=log(every))) for every in (1.0, 5.0))
    assert coarse.energy.value == pytest.approx(fine.energy.value, rel=1e-4)
    assert coarse.range_to_cutoff.value == pytest.approx(fine.range_to_cutoff.value, rel=0.02)


@pytest.mark.parametrize(
    "entries",
    [
        (entry(0, "start"),),
        (entry(0, "start", voltage_rest_v=54.0),),
        (entry(0, "start", gauge=5), entry(600, "end", gauge=4)),
        (entry(0, "start", voltage_rest_v=54.0), entry(600, voltage_rest_v=53.0)),
        (entry(0, "start", trip_m=0.0), entry(0, "end", trip_m=9000.0, voltage_rest_v=50.0)),
        (entry(0, trip_m=5000.0, charge_ah=3.0), entry(600, trip_m=100.0, charge_ah=0.1)),
    ],
)
def test_poor_evidence_gets_the_best_honest_partial_answer(entries):
    result = analyse(range_test(*entries))
    assert result.warnings
    for name in ("energy", "distance", "range_to_cutoff"):
        quantity = getattr(result, name)
        assert quantity is None or quantity.low <= quantity.value <= quantity.high


def test_volts_without_any_distance_tell_the_share_and_no_range():
    result = analyse(
        range_test(entry(0, "start", voltage_rest_v=54.5), entry(7200, "end"), SETTLED)
    )
    assert result.range_to_cutoff is None
    assert 0.4 < result.energy_used_fraction.value < 0.75
