"""A charge on the way: what went in is drawn with the rest, and the range is that of one pack."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from limpet.evidence.checks import all_questions
from limpet.evidence.model import Ending, Entry
from limpet.figures.strip import strip_of
from limpet.pack import full_energy_wh, ocv_curve
from limpet.read.charges import BY_TIME_STD, KEPT, KEPT_STD, charges_of
from limpet.read.window import ride_window
from limpet.tell import analyse
from limpet.under_way import follow
from tests.strategies import PACK, accuracies, range_test

PER_KM = 17.0
WHOLE = full_energy_wh(PACK)
CURVE = ocv_curve("nmc")


def rest_v(left_wh: float) -> float:
    """Resting volts of the pack with so much left, on the mean curve."""
    z = np.linspace(0, 1, 501)
    return round(13 * float(np.interp(left_wh / WHOLE, CURVE.energy_left(z), CURVE.voltage(z))), 1)


def ride(*, charged: dict[str, object], wh: float, first_km=22.0, then_km=18.0, end=None):
    """Full, so far, charged by so much in truth, and on; volts well settled before and after."""
    before = WHOLE - PER_KM * first_km
    after = min(before + wh, WHOLE)
    rows = [
        Entry(time_s=0, kind="start", trip_m=0.0, voltage_rest_v=rest_v(WHOLE), gauge=100.0),
        Entry(time_s=4000, kind="stop", trip_m=1000 * first_km),
        Entry(time_s=7600, kind="stop", trip_m=1000 * first_km, voltage_rest_v=rest_v(before)),
        Entry(time_s=13_000, kind="event", trip_m=1000 * first_km, voltage_rest_v=rest_v(after), **charged),
        Entry(time_s=16_000, kind="end", trip_m=1000 * (first_km + then_km)),
        Entry(time_s=20_000, kind="settle", voltage_rest_v=rest_v(after - PER_KM * then_km)),
    ]  # fmt: skip
    return range_test(*rows, ending=end, instruments=accuracies(trip=1.0))


NOTED = {"charged_wh": 200.0, "what": "charged"}
#: From full to where 13 cells of NMC sag to 39 V at such a load: a tenth of the pack is left.
TRUTH = 0.93 * WHOLE / PER_KM * 1000


def test_what_was_charged_is_ridden_too_and_the_range_is_that_of_one_pack():
    found = analyse(ride(charged=NOTED, wh=200 * KEPT))
    assert found.range_to_cutoff.low < TRUTH < found.range_to_cutoff.high
    assert found.range_to_cutoff.value == pytest.approx(TRUTH, rel=0.12)
    # 40 km of it: more than the share that the volts at both ends would make of it.
    assert found.energy_used_fraction.value > 0.95
    # Two readings with a charger between them tell no energy by their difference.
    methods = {item.method for item in found.energy_methods}
    assert not methods & {"rest_voltage", "linear_voltage", "gauge"}
    codes = {notice.code for notice in found.warnings}
    assert "charged_reckoned" in codes
    assert "charged_on_the_way" not in codes
    # Of a charge that nobody counted, volts that rose in the middle of a ride tell no range.
    overlooked = analyse(ride(charged={"what": "charged"}, wh=200 * KEPT))
    assert overlooked.range_to_cutoff is None
    codes = {notice.code for notice in overlooked.warnings}
    assert {"charged_on_the_way", "readings_contradict"} <= codes


def test_a_time_alone_tells_it_by_a_usual_rate_and_the_volts_sharpen_it():
    test, both = ride(charged={"charged_s": 5400.0}, wh=180.0), ride(charged=NOTED, wh=180.0)
    charges = charges_of(test, ride_window(test))
    assert charges.energy_wh == pytest.approx(0.2 * 1.5 * WHOLE)
    assert charges.std == BY_TIME_STD
    assert charges_of(both, ride_window(both)).std == pytest.approx(KEPT_STD)
    found = analyse(test)
    assert found.range_to_cutoff.low < TRUTH < found.range_to_cutoff.high
    charged = next(item for item in found.inputs if item.name == "charged")
    assert charged.standard_uncertainty < 0.7 * BY_TIME_STD


def test_a_ride_to_the_end_with_a_charge_in_it_is_no_measured_range():
    last_km = (WHOLE - 22 * PER_KM + 180 - 0.07 * WHOLE) / PER_KM
    test = ride(charged=NOTED, wh=180.0, then_km=last_km, end=Ending(reason="cutoff"))
    found = analyse(test)
    assert not found.range_measured
    assert found.distance.value > 1.15 * found.range_to_cutoff.value
    assert found.range_to_cutoff.low < TRUTH < found.range_to_cutoff.high


def test_a_full_pack_takes_no_more():
    # 500 Wh of charger into a pack that misses 170: the rest was never in it.
    short = ride(charged={"charged_wh": 500.0}, wh=500.0, first_km=10.0, then_km=20.0)
    found = analyse(short)
    assert found.range_to_cutoff.value == pytest.approx(TRUTH, rel=0.15)


def test_after_a_charge_there_is_more_left_under_way():
    test = ride(charged=NOTED, wh=180.0)
    before, after = (follow(test, until_s=at).energy_left_fraction.value for at in (7600, 13_000))
    assert after - before == pytest.approx(180 / WHOLE, abs=0.08)


def test_a_gauge_that_rises_at_a_charger_is_not_asked_about():
    rows = [
        Entry(time_s=0, kind="checkpoint", trip_m=0.0, gauge=50.0),
        Entry(time_s=3600, kind="event", trip_m=0.0, gauge=80.0, charged_s=3500.0),
    ]
    assert not all_questions(PACK, 1, rows)
    plain = [rows[0], Entry(time_s=3600, kind="checkpoint", trip_m=0.0, gauge=80.0)]
    assert {notice.code for notice in all_questions(PACK, 1, plain)} >= {"gauge_rises"}


def test_amp_hours_over_a_charge_give_the_packs_capacity():
    def counted(charged):
        rows = ride(charged=charged, wh=200 * KEPT).entries
        ah = [0.0, 22 * PER_KM / 48.3, None, 22 * PER_KM / 48.3, 40 * PER_KM / 48.3, None]
        return analyse(
            range_test(
                *(replace(row, charge_ah=a) for row, a in zip(rows, ah, strict=True)),
                instruments=accuracies(trip=1.0, charge=0.5),
            )
        )

    found = counted(NOTED)
    assert found.pack.capacity_ah.low < 0.93 * 14 < found.pack.capacity_ah.high
    assert found.pack.capacity_ah.value == pytest.approx(0.93 * 14, rel=0.1)


def test_the_tideline_rises_at_the_charger_and_ends_where_both_carry_it():
    test = ride(charged=NOTED, wh=180.0)
    found = analyse(test)
    strip = strip_of(test, found)
    at = {mark.time_s: mark.energy_left for mark in strip.marks}
    assert at[13_000] - at[7600] == pytest.approx(180 / found.pack.usable_energy_wh.value, rel=0.1)
    assert at[16_000] > 0.05
    low, value, _ = strip.cutoff_m
    assert low > found.distance.value
    # From the end on: what is left at the consumption of the ride.
    ahead = at[16_000] * found.range_to_cutoff.value
    assert value == pytest.approx(found.distance.value + ahead, rel=0.06)
