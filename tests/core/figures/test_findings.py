"""What a result finds beside its headline: budget and advice, climb, fade, legs, gauge, packs."""

from __future__ import annotations

import numpy as np
import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import isotonic_regression

from limpet.evidence.model import Ending, Entry, Gauge, Instrument, Instruments, Protocol
from limpet.tell import analyse
from limpet.uncertain.isotonic import isotonic
from tests.strategies import accuracies, range_test

CUTOFF = Ending(reason="cutoff")


def entry(time_s, kind="checkpoint", **values):
    return Entry(time_s=time_s, kind=kind, **values)


def logged(seconds=3600, speed=None, altitude=None, volts=None, amps=None, **more):
    time = np.arange(float(seconds))
    speed = np.full(seconds, 6.0) if speed is None else speed
    frame = {
        "time_s": time,
        "voltage_v": np.linspace(53.5, 47.0, seconds) if volts is None else volts,
        "current_a": np.full(seconds, 6.0) if amps is None else amps,
        "speed_mps": speed,
        "distance_m": np.concatenate([[0.0], np.cumsum(speed[:-1])]),
    }
    if altitude is not None:
        frame["altitude_m"] = altitude
    return pl.DataFrame({**frame, **more})


# Budget and advice.


def metered(**accuracy):
    return analyse(
        range_test(
            entry(0, "start", trip_m=0.0, energy_wh=0.0, voltage_rest_v=54.5),
            entry(3600, "end", trip_m=20_000.0, energy_wh=300.0),
            instruments=accuracies(**accuracy),
        )
    )


def test_the_budget_of_a_quotient_is_that_of_the_gum():
    # c = E/D: (u_c/c)² = (u_E/E)² + (u_D/D)² (GUM 5.1.6); 3% against 4% is 9 to 16.
    shares = {p.input: p.share_of_variance for p in metered(energy=3.0, trip=4.0).budget.wh_per_km}
    assert shares["trip"] == pytest.approx(16 / 25, abs=0.05)
    assert shares["energy"] == pytest.approx(9 / 25, abs=0.05)
    assert sum(shares.values()) == pytest.approx(1.0, abs=0.03)


def test_a_budget_begins_with_its_largest_part():
    for figure in (metered().budget.wh_per_km, metered().budget.range_to_cutoff):
        shares = [part.share_of_variance for part in figure]
        assert shares == sorted(shares, reverse=True)


def test_advice_tells_to_what_a_figure_would_narrow():
    # The trip meter is by far the worst here: without it little is left.
    result = analyse(
        range_test(
            entry(0, "start", trip_m=0.0, voltage_rest_v=54.5),
            entry(3600, "end", trip_m=20_000.0),
            ending=CUTOFF,
            instruments=accuracies(trip=15.0, voltage=0.1),
        )
    )
    first = result.advice[0]
    assert first.code == "measure_wheel"
    assert first.figure == "range_to_cutoff"
    assert first.then < 0.5 * first.relative_half_width_now
    assert "Check the trip meter" in first.notice.message


def test_nobody_is_told_to_do_what_was_done():
    codes = {item.code for item in metered().advice}
    assert not codes & {"log_charge", "note_start", "wait_to_settle"}


def test_volts_read_too_soon_are_told_what_waiting_would_give():
    result = analyse(
        range_test(
            entry(0, "start", trip_m=0.0, voltage_rest_v=54.5),
            entry(3600, "end", trip_m=20_000.0, voltage_rest_v=50.0),
            instruments=accuracies(voltage=0.1, trip=0.5),
        )
    )
    assert "lag" in {part.input for part in result.budget.range_to_cutoff}


def test_every_input_names_its_source():
    inputs = {item.name: item for item in metered(trip=4.0).inputs}
    assert inputs["trip"].source == "stated accuracy"
    assert inputs["trip"].standard_uncertainty == pytest.approx(0.04 / 3**0.5, rel=0.05)
    assert inputs["voltage"].source == "assumed accuracy"
    assert inputs["start_1"].source == "resting volts at the start"


# Climb.


def test_climb_is_counted_with_a_hysteresis():
    # Four hills of 30 m over 21.6 km, and a barometer's ripple of 0.1 m.
    time = np.arange(3600.0)
    hills = 15 * (1 - np.cos(2 * np.pi * time / 900)) + 0.1 * np.sin(time)
    climb = analyse(range_test(samples=logged(altitude=hills))).climb
    assert climb.ascent_m == pytest.approx(120, rel=0.03)
    assert climb.descent_m == pytest.approx(120, rel=0.03)
    assert climb.hysteresis_m == 3.0


def test_a_receivers_heights_are_counted_with_ten_metres():
    rng = np.random.default_rng(1)
    climb = analyse(range_test(samples=logged(altitude=rng.normal(50, 3, 3600)))).climb
    assert climb.hysteresis_m == 10.0
    assert climb.ascent_m < 10


# Fade.


def fading(speed_after, protocol=None):
    speed = np.full(3600, 8.0)
    speed[2700:] = speed_after
    volts = np.linspace(53.0, 41.0, 3600)
    return analyse(
        range_test(
            samples=logged(speed=speed, volts=volts), protocol=protocol or Protocol(speed_policy="flat_out")
        )
    )  # fmt: skip


def test_a_fade_is_found_where_it_began():
    fade = fading(6.5).fade
    assert fade.reference_speed_mps == pytest.approx(8.0)
    assert fade.onset_distance_m == pytest.approx(8 * 2700, abs=8 * 90)
    assert fade.onset_voltage_v == pytest.approx(53 - 12 * 2700 / 3600, abs=0.4)


def test_four_percent_slower_is_no_fade():
    assert fading(7.7).fade is None


def test_a_speed_that_was_let_vary_is_no_reference():
    speed = 6 + 2 * np.sign(np.sin(np.arange(3600) / 200))
    speed[2700:] = 3.0
    assert analyse(range_test(samples=logged(speed=speed))).fade is None


def test_noted_speeds_tell_a_fade_too():
    held = [8.0, 8.1, 8.0, 7.9, 6.9, 6.4]
    notes = [entry(600.0 * (k + 1), trip_m=4800.0 * (k + 1), speed_mps=v, voltage_load_v=50.0 - k)
             for k, v in enumerate(held)]  # fmt: skip
    result = analyse(
        range_test(entry(0, "start", trip_m=0.0), *notes, entry(3900, "end", trip_m=31_000.0))
    )
    # The display of one decimal shows on average half a step too little.
    assert result.fade.onset_distance_m == pytest.approx(4800 * 5 + 50)
    assert result.fade.onset_voltage_v == 46.0


# Legs.


def test_legs_add_up_to_the_ride():
    marks = [entry(900.0 * k, "lap", laps=k) for k in range(1, 4)]
    ridden = logged(speed=np.full(3600, 6.5))
    test = range_test(entry(0, "start"), *marks, entry(3599, "end"), samples=ridden)
    result = analyse(test)
    legs = [leg for leg in result.legs if leg.by == "entry"]
    assert len(legs) == 4
    assert sum(leg.energy.value for leg in legs) == pytest.approx(result.energy.value, rel=1e-6)
    assert sum(leg.distance_m for leg in legs) == pytest.approx(result.distance_line.span, rel=1e-6)
    assert [leg.name for leg in result.legs if leg.by == "lap"] == ["lap 1", "lap 2", "lap 3"]
    bands = [leg for leg in result.legs if leg.by == "speed"]
    assert [leg.name for leg in bands] == ["6..8"]
    assert sum(leg.energy.value for leg in bands) == pytest.approx(result.energy.value, rel=0.01)


def test_modes_and_grades_are_bands_of_their_own():
    time = np.arange(3600.0)
    hills = 30 * (1 - np.cos(2 * np.pi * time / 900))
    amps = np.where(np.sin(2 * np.pi * time / 900) > 0, 12.0, 2.0)
    test = range_test(
        entry(0, "start", mode="eco"), entry(1800, mode="sport"), entry(3599, "end"),
        samples=logged(altitude=hills, amps=amps),
    )  # fmt: skip
    legs = analyse(test).legs
    assert [leg.name for leg in legs if leg.by == "mode"] == ["eco", "sport"]
    grades = {leg.name: leg.wh_per_km.value for leg in legs if leg.by == "grade"}
    assert grades["0.015..0.04"] > 3 * grades["-0.04..-0.015"]


def test_an_energy_known_only_as_a_whole_has_no_legs():
    result = analyse(
        range_test(entry(0, "start", trip_m=0.0, voltage_rest_v=54.5),
                   entry(1800, trip_m=9000.0), entry(3600, "end", trip_m=18_000.0, voltage_rest_v=48.0))
    )  # fmt: skip
    assert result.energy is not None
    assert result.legs == ()


def counted(*read_at, laps=False):
    """Four stretches of 5 km, twice eco and twice sport; amp-hours read at some of the five marks."""
    rows = []
    for k, mode in enumerate(("eco", "eco", "sport", "sport", None)):
        kind = "start" if k == 0 else "end" if k == 4 else "lap" if laps else "checkpoint"
        amp_hours = {0: 0.0, 1: 1.0, 2: 2.0, 3: 4.0, 4: 6.0}[k] if k in read_at else None
        rows.append(
            entry(900.0 * k, kind, trip_m=5000.0 * k, mode=mode, charge_ah=amp_hours,
                  voltage_load_v=50.0 if k in read_at else None)
        )  # fmt: skip
    return analyse(range_test(*rows))


def test_a_mode_is_told_only_where_the_meter_was_read_at_both_its_ends():
    for read_at in ((0, 2, 4), (0, 1, 2, 3, 4)):
        told = [leg for leg in counted(*read_at).legs if leg.by == "mode"]
        assert [leg.name for leg in told] == ["eco", "sport"]
        assert told[1].wh_per_km.value / told[0].wh_per_km.value == pytest.approx(2.0)
    # Read at the ends alone, or not where the mode was changed, nobody knows which of them took it.
    for read_at in ((0, 4), (0, 1, 3, 4)):
        assert not [leg for leg in counted(*read_at).legs if leg.by == "mode"]


def test_marks_between_two_readings_are_one_leg():
    entries = [leg for leg in counted(0, 2, 4).legs if leg.by == "entry"]
    assert [(leg.from_m, leg.to_m) for leg in entries] == [(0.0, 10_000.0), (10_000.0, 20_000.0)]
    assert [leg.energy.value for leg in entries] == pytest.approx([100.0, 200.0])
    laps = [leg for leg in counted(0, 2, 3, 4, laps=True).legs if leg.by == "lap"]
    assert [leg.name for leg in laps] == ["laps 1 to 2", "lap 3"]


# The gauge.


@given(st.lists(st.floats(-10, 10), min_size=1, max_size=30))
def test_isotonic_regression_is_scipys(values):
    array = np.array(values)
    weight = 1 + np.arange(len(values)) % 3
    expected = isotonic_regression(array, weights=weight).x
    assert isotonic(array, weight.astype(float)) == pytest.approx(expected, abs=1e-9)


def gauged(shown):
    """A ride to its end by amp-hours, even use, beside what the gauge showed at each eighth."""
    entries = [
        entry(450.0 * k, "end" if k == 8 else "start" if k == 0 else "checkpoint",
              trip_m=2500.0 * k, charge_ah=1.7 * k, gauge=g,
              voltage_rest_v=54.5 if k == 0 else None)
        for k, g in enumerate(shown)
    ]  # fmt: skip
    return analyse(range_test(*entries, ending=CUTOFF))


def test_a_gauge_is_told_what_it_really_meant():
    steps = gauged([5, 5, 5, 4, 4, 3, 3, 2, 1]).gauge_truth
    assert [step.shown for step in steps] == [5, 4, 3, 2, 1]
    lefts = [step.energy_left_fraction.value for step in steps]
    assert lefts == sorted(lefts, reverse=True)
    # Shown at 0, 1/8 and 2/8 used: 0.875 left on the mean; distance likewise.
    assert lefts[0] == pytest.approx(0.875, abs=0.03)
    assert steps[0].distance_left_fraction == pytest.approx(0.875, abs=0.02)
    # From the reset on, the display of one decimal shows on average half a step too little.
    assert [step.lasted_m for step in steps] == [7550, 5000, 5000, 2500, None]


@pytest.mark.parametrize(("full", "shown"), [(5, (5, 4, 4, 2, 1)), (100, (100, 92, 80, 50, 12))])
def test_a_ride_to_its_end_tells_by_its_way_what_the_gauge_meant(full, shown):
    """No meter and no volts: from full to the end, even riding, the way is the measure."""
    entries = [
        entry(1200.0 * k, "start" if k == 0 else "checkpoint", trip_m=8020.0 * k, gauge=g)
        for k, g in enumerate(shown)
    ]  # fmt: skip
    last = entry(5400, "end", trip_m=36_090.0)
    kit = {
        "instruments": Instruments(
            trip=Instrument(accuracy_pct=1.0), gauge=Gauge(kind="percent", steps=full)
        )
    }
    steps = analyse(range_test(*entries, last, ending=CUTOFF, **kit)).gauge_truth
    assert [step.shown for step in steps] == sorted(set(shown), reverse=True)
    places = {g: [8020.0 * k for k, one in enumerate(shown) if one == g] for g in shown}
    for step in steps:
        left = 1 - np.mean(places[int(step.shown)]) / 36_090
        found = step.energy_left_fraction
        assert found.low - 0.01 <= left <= found.high + 0.01
        assert step.distance_left_fraction == pytest.approx(left, abs=0.01)
        # A share is told within some per cent, not just anything.
        assert found.high - found.low < 0.35
    # Stopped on the way home it shows nothing: a gauge is not judged by itself.
    assert analyse(range_test(*entries, last, **kit)).gauge_truth is None


def test_a_gauge_is_not_judged_by_itself():
    result = analyse(
        range_test(entry(0, "start", trip_m=0.0, gauge=5), entry(1800, trip_m=9000.0, gauge=3),
                   entry(3600, "end", trip_m=18_000.0, gauge=2))
    )  # fmt: skip
    assert result.gauge_truth is None
    assert result.range_to_cutoff is not None


@pytest.mark.parametrize("steps", [None, 5])
def test_bars_alone_give_a_range_and_so_does_percent(steps):
    """0.2 was silent on both."""
    full = 5 if steps else 100
    instruments = Instruments(trip=Instrument(accuracy_pct=1.0))
    result = analyse(
        range_test(entry(0, "start", trip_m=0.0, gauge=full),
                   entry(3600, "end", trip_m=12_000.0, gauge=round(0.5 * full)), instruments=instruments)
    )  # fmt: skip
    assert result.range_to_cutoff.low < 24_000 < result.range_to_cutoff.high
    assert result.energy_used_fraction.standard_uncertainty < 0.26


def test_a_gauge_that_only_ever_shows_full_says_that_little_was_used():
    result = analyse(
        range_test(*(entry(600.0 * k, trip_m=1000.0 * k, gauge=100) for k in range(4)))
    )
    assert result.energy_used_fraction.value < 0.25
    assert result.range_to_cutoff.high > 10_000
