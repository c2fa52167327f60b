"""What was measured wrong in 0.2, one test each, with numbers that would have caught it.

The rides are generated here; where a pack's volts are needed they come from a published set alone,
not from the family of curves that the core draws from.
"""

from __future__ import annotations

import numpy as np
import polars as pl
import pytest

from limpet.evidence.gaps import gap_threshold_s
from limpet.evidence.model import (
    Claim,
    Conditions,
    Ending,
    Entry,
    Instrument,
    Instruments,
    RiderSpec,
)
from limpet.pack import PackSpec
from limpet.pack.sets import read_set
from limpet.tell import analyse
from tests.strategies import accuracies, range_test

CUTOFF = Ending(reason="cutoff")


def entry(time_s, kind="checkpoint", **values):
    return Entry(time_s=time_s, kind=kind, **values)


def codes(result):
    return [notice.code for notice in result.warnings]


def energy_by(result, method):
    return next(m.quantity for m in result.energy_methods if m.method == method)


# 1. Two rates of logging.


def two_rates():
    """A second when busy, a minute when steady: 97 minutes in 97 steps, the rest by the second."""
    steps = np.concatenate([np.full(60, 1.0), np.full(97, 60.0), np.full(62, 1.0)])
    time = np.concatenate([[0.0], np.cumsum(steps)])
    return time, pl.DataFrame(
        {
            "time_s": time, "voltage_v": np.full(len(time), 50.0),
            "current_a": np.full(len(time), 1.4), "distance_m": 4.0 * time,
        }
    )  # fmt: skip


def test_a_log_with_two_rates_has_no_gaps():
    time, frame = two_rates()
    result = analyse(range_test(samples=frame))
    assert gap_threshold_s(time) == 300.0
    assert not {"sample_gap", "sample_gaps"} & set(codes(result))
    assert result.energy.value == pytest.approx(50 * 1.4 * time[-1] / 3600)


def test_one_long_pause_in_a_steady_log_is_a_gap_however_much_of_the_time_it_is():
    time = np.concatenate([np.arange(0.0, 600.0), np.arange(3000.0, 3600.0)])
    assert gap_threshold_s(time) == 10.0


# 3. The rider's meter reads low.


def to_the_end(meter=1.0, limp_s=0):
    """Full power to where the drive stops at a true 39.0 V, then a limp at little power."""
    time = np.arange(0.0, 3600.0 + limp_s)
    volts = np.interp(time, [0, 3400, 3599], [52.0, 42.0, 38.8])
    amps = np.full(len(time), 9.0)
    if limp_s:
        rest = time > 3600
        volts[rest], amps[rest] = 40.5, 1.5
        amps[(time > 3599) & (time < 3640)] = 0.0
    return range_test(
        samples=pl.DataFrame(
            {"time_s": time, "voltage_v": np.round(volts * meter, 2), "current_a": amps,
             "distance_m": 5.0 * time}
        ),
        ending=CUTOFF,
    )  # fmt: skip


@pytest.mark.parametrize("meter", [0.993, 0.996, 1.0])
def test_a_meter_that_reads_low_does_not_end_the_ride_before_the_drive_does(meter):
    result = analyse(to_the_end(meter))
    assert result.distance.value == pytest.approx(5 * 3599, rel=2e-3)
    assert "limp_distance" not in codes(result)


def test_what_is_crawled_after_the_drive_stopped_is_limp():
    result = analyse(to_the_end(limp_s=300))
    assert result.distance.value == pytest.approx(5 * 3599, rel=2e-3)
    assert "limp_distance" in codes(result)


# 4, 5. Curves: the flat of LFP, and the family that a label names.


def rests(stem, chemistry, left, series, *, step=0.1, gain=1.0, limits):
    """A ride by volts at rest alone, of cells of one published set."""
    z, volts = read_set(stem)
    low, high = np.interp(limits, volts, z)
    cell = np.interp(low + np.array([1.0, left]) * (high - low), z, volts)
    shown = np.round(cell * series * gain / step) * step
    pack = PackSpec(
        chemistry=chemistry, series=series, rated_ah=20.0, full_v=round(limits[1] * series, 1),
        cutoff_v=limits[0] * series,
    )  # fmt: skip
    return analyse(
        range_test(
            entry(0, "start", trip_m=0.0, voltage_rest_v=float(shown[0])),
            # 16 Wh a kilometre of a pack of 950.
            entry(3600, "stop", trip_m=60_000.0 * (1 - left)),
            entry(7200, "end", trip_m=60_000.0 * (1 - left), voltage_rest_v=float(shown[1])),
            pack=pack,
            instruments=Instruments(voltage=Instrument(accuracy_pct=0.5)),
        )
    )


def test_on_the_flat_of_lfp_the_display_and_the_meter_leave_the_share_open():
    rng = np.random.default_rng(5)
    held, widths = 0, []
    for left in rng.uniform(0.35, 0.9, 14):
        gain = 1 + rng.uniform(-0.005, 0.005)
        found = rests("lfp_prada2013", "lfp", left, 16, gain=gain, limits=(2.5, 3.6))
        share = found.energy_used_fraction
        held += share.low <= 1 - left <= share.high + 0.02
        widths.append(share.high - share.low)
    assert held >= 13
    # 0.5% of 52 V is 16 mV a cell, of a curve that falls 50 mV from 0.9 to 0.3.
    assert np.median(widths) > 0.15


@pytest.mark.parametrize("left", [0.7, 0.5, 0.3])
@pytest.mark.parametrize(
    "stem", ["nmc811_chen2020", "nmc532_mohtat2020", "nca_kim2011", "nmc811_oregan2022"]
)
def test_a_pack_of_any_set_of_its_family_is_read_within_the_interval(stem, left):
    share = rests(stem, "nmc", left, 13, limits=(3.0, 4.2)).energy_used_fraction
    # By energy: the integral of the set's own volts between its limits.
    z, volts = read_set(stem)
    low, high = np.interp((3.0, 4.2), volts, z)
    upper, whole = (
        np.trapezoid(np.interp(np.linspace(a, high, 2001), z, volts), np.linspace(a, high, 2001))
        for a in (low + left * (high - low), low)
    )
    # Of twelve intervals of 95% one may lie half a point beside.
    assert share.low - 0.005 <= upper / whole <= share.high + 0.005


# 6. Partial rides: what is counted while standing is not the current that ends a ride.


def test_standing_does_not_make_the_current_gentle_and_the_range_long():
    def notes(standing_s):
        return analyse(
            range_test(
                entry(0, "start", trip_m=0.0, charge_ah=0.0, voltage_rest_v=54.4),
                entry(1800, "stop", trip_m=10_000.0, charge_ah=4.0),
                entry(1800 + standing_s, "resume", trip_m=10_000.0, charge_ah=4.0),
                entry(3600 + standing_s, "end", trip_m=20_000.0, charge_ah=8.0),
            )
        ).range_to_cutoff.value

    assert notes(7200.0) == pytest.approx(notes(60.0), rel=0.01)


# 7. Full or not quite.


def test_a_start_a_little_under_full_is_full_give_or_take():
    result = analyse(
        range_test(
            entry(0, "start", trip_m=0.0, voltage_rest_v=54.6 - 0.05 * 13),
            entry(7200, "end", trip_m=45_000.0),
            ending=CUTOFF,
        )
    )
    # About 4% of the energy (handbook section 4).
    assert result.range_to_cutoff.value == pytest.approx(45_000)
    assert 1.02 < result.range_to_cutoff.high / 45_000 < 1.10


# 8. Gaps are filled by the finest line of distance.


def test_a_gap_is_filled_from_the_loggers_own_distance_and_not_from_the_coarse_notes():
    time = np.concatenate([np.arange(0.0, 1800.0), np.arange(2400.0, 3600.0)])
    # The logger's distance runs on through the gap, in which little was ridden.
    way = np.interp(time, [0, 1800, 2400, 3600], [0, 9000, 9200, 15_200])
    frame = pl.DataFrame(
        {"time_s": time, "voltage_v": np.full(len(time), 50.0),
         "current_a": np.full(len(time), 6.0), "distance_m": way}
    )  # fmt: skip
    result = analyse(
        range_test(
            entry(0, "start", trip_m=0.0), entry(3600, "end", trip_m=15_200.0), samples=frame,
            instruments=accuracies(trip=0.1),
        )
    )  # fmt: skip
    per_m = 50 * 6 * 3000 / 3600 / (9000 + 6000)
    filled = result.energy.value - 50 * 6 * (1799 + 1199) / 3600
    assert filled == pytest.approx(200 * per_m, abs=1.5)


# 10. A swap.


def test_a_second_pack_of_which_one_mile_was_used_does_not_end_both():
    mile = 1609.344
    result = analyse(
        range_test(
            entry(0, "start", trip_m=0.0, voltage_rest_v=54.5),
            entry(5000, voltage_load_v=39.5, trip_m=27.5 * mile),
            entry(5200, "swap", trip_m=27.6 * mile, voltage_rest_v=54.5),
            entry(5600, "end", trip_m=28.6 * mile, voltage_rest_v=53.9),
            packs_used=2,
        )
    )
    first, second = result.packs
    # The display of one decimal shows on average half a step too little.
    assert (first.from_m, first.to_m) == pytest.approx((0.0, 27.65 * mile))
    assert first.range_to_cutoff.value == pytest.approx(27.6 * mile, rel=0.12)
    assert second.to_m - second.from_m == pytest.approx(mile, rel=1e-3)
    # Both together would give about twice the first.
    assert result.range_to_cutoff.value == pytest.approx(2 * 27.6 * mile, rel=0.15)


# 11. An end that was only seen says nothing of the energy.


def test_from_distance_alone_a_worn_pack_does_not_look_thirsty():
    def ridden(metres):
        return analyse(
            range_test(entry(0, "start", trip_m=0.0, voltage_rest_v=54.5),
                       entry(5000, "end", trip_m=metres), ending=CUTOFF)
        )  # fmt: skip

    fresh, worn = ridden(30_000.0), ridden(18_000.0)
    assert fresh.range_to_cutoff.value / worn.range_to_cutoff.value == pytest.approx(30 / 18)
    for result in (fresh, worn):
        assert "energy_from_label" in codes(result)
        per_km = result.consumption.wh_per_km
        assert (per_km.high - per_km.low) / per_km.value > 0.25
    assert worn.consumption.wh_per_km.low < fresh.consumption.wh_per_km.high
    assert fresh.pack.retained_fraction is None


# 12. What is assumed is said; the claim is answered; the cycles are read.


def test_an_assumed_cutoff_is_said_of_a_ride_to_its_end_too():
    pack = PackSpec(chemistry="nmc", series=13, rated_ah=14.0)
    result = analyse(
        range_test(entry(0, "start", trip_m=0.0), entry(3600, "end", trip_m=20_000.0), pack=pack,
                   ending=CUTOFF)
    )  # fmt: skip
    assert "cutoff_assumed" in codes(result)


@pytest.mark.parametrize(
    ("claimed_m", "speed", "verdict", "differs"),
    [
        (18_000.0, 5.6, "held", ()),
        (25_000.0, 5.6, "missed", ()),
        (20_300.0, 5.6, "cannot_tell", ()),
        (25_000.0, 4.0, "cannot_tell", ("faster",)),  # missed, but ridden harder
        (18_000.0, 7.5, "cannot_tell", ("slower",)),  # held, but ridden easier
        (12_000.0, 7.5, "held", ("slower",)),  # so easily held that the harder ride holds it too
        (50_000.0, 4.0, "missed", ("faster",)),
        (18_000.0, 4.0, "held", ("faster",)),
    ],
)
def test_the_sheets_claim_is_answered(claimed_m, speed, verdict, differs):
    result = analyse(
        range_test(
            entry(0, "start", trip_m=0.0, voltage_rest_v=54.6),
            entry(3600, "end", trip_m=20_000.0),
            ending=CUTOFF,
            claim=Claim(distance_m=claimed_m, speed_mps=speed, load_kg=80.0),
            rider=RiderSpec(mass_kg=78.0, gear_kg=4.0),
            conditions=Conditions(temp_start_c=20.0),
        )
    )
    assert (result.claim.verdict, result.claim.differs) == (verdict, differs)
    assert result.claim.claimed_m == claimed_m


def test_a_packs_cycles_are_read():
    def seen(cycles):
        pack = PackSpec(chemistry="nmc", series=13, rated_ah=14.0, full_v=54.6, cutoff_v=39.0,
                        equivalent_full_cycles=cycles)  # fmt: skip
        result = analyse(
            range_test(entry(0, "start", trip_m=0.0), entry(3600, "end", trip_m=20_000.0),
                       pack=pack, ending=CUTOFF)
        )  # fmt: skip
        return energy_by(result, "rated").value

    assert seen(500) == pytest.approx(0.8 / 0.98 * seen(50), rel=0.02)


# 13. A promise.


def test_what_to_plan_on_is_less_than_the_interval_of_one_ride_says():
    result = analyse(
        range_test(entry(0, "start", trip_m=0.0, voltage_rest_v=54.6),
                   entry(3600, "end", trip_m=20_000.0), ending=CUTOFF, instruments=accuracies(trip=0.5))
    )  # fmt: skip
    # 0.8 of the range, less 1.645·√2·5.5% for the next run on such a day (handbook section 12), and what the
    # pack loses in the middle while the promise is for.
    expected = 16_000 * np.exp(-1.645 * np.sqrt(2) * 0.69 * 0.08) * (1 - result.plan_on.wear)
    assert result.plan_on.distance_m == pytest.approx(expected, rel=0.03)
    assert result.plan_on.distance_m < result.range_to_reserve.low
    assert (result.plan_on.runs, result.plan_on.probability) == (1, 0.95)
