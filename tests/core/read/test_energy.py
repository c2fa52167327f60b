"""Energy from counters, resting volts and the label."""

import numpy as np
import pytest

from limpet.evidence.model import Conditions, Ending, Entry, Instrument, Instruments
from limpet.pack import PackSpec, capacity_factor, curve_family, full_energy_wh, ocv_curve
from limpet.pack.family import GRID
from limpet.read.line import FILL_STD, counted_on
from limpet.tell import analyse
from tests.strategies import PACK, accuracies, range_test


def method(result, name):
    return next((m for m in result.energy_methods if m.method == name), None)


def entry(time_s, kind="checkpoint", **values):
    return Entry(time_s=time_s, kind=kind, **values)


def test_the_meters_watt_hours_are_a_difference():
    result = analyse(
        range_test(
            entry(0, "start", energy_wh=100.0), entry(3600, "end", energy_wh=340.0),
            instruments=accuracies(energy=2.0),
        )
    )  # fmt: skip
    found = method(result, "energy_counter").quantity
    assert found.value == pytest.approx(240.0)
    assert found.standard_uncertainty == pytest.approx(240 * 0.02 / 3**0.5)


@pytest.mark.parametrize(
    ("readings", "total", "resets"),
    [
        ([0, 5, 9], 9, 0),
        ([0, 5, 1, 4], 9, 1),  # a counter that falls was reset: count on
        ([3, 5, 9], 6, 0),
        ([0, 5, 4.9, 8], 8, 0),  # a small fall is regeneration
    ],
)
def test_a_counter_counts_on_after_a_reset(readings, total, resets):
    line, found = counted_on(np.array(readings, dtype=float), may_fall_by=0.7)
    assert line[-1] == pytest.approx(total)
    assert found == resets


def test_any_fall_at_a_swap_is_a_reset():
    swap = np.array([False, True, False])
    assert (
        counted_on(
            np.array([0, 5.0, 4.8]), may_fall_by=0.7, reset_at=np.array([False, False, True])
        )[1]
        == 1
    )
    assert counted_on(np.array([0, 5.0, 6.0]), may_fall_by=0.7, reset_at=swap)[1] == 0


def test_amp_hours_times_the_charge_weighted_mean_of_loaded_volts():
    # By hand: 52 → 50 V over the first 4 Ah (mean 51), 50 → 46 V over the next 2 Ah (mean 48).
    result = analyse(
        range_test(
            entry(0, "start", charge_ah=0.0, voltage_load_v=52.0),
            entry(3000, charge_ah=4.0, voltage_load_v=50.0),
            entry(3600, "end", charge_ah=6.0, voltage_load_v=46.0),
        )
    )
    assert method(result, "charge_counter").quantity.value == pytest.approx(4 * 51 + 2 * 48)


def test_amp_hours_with_resting_volts_alone_use_the_curves_mean_less_the_sag():
    # Mean OCV of the window from the curve, integrated here with numpy on its own grid.
    ends = np.array([54.0, 48.0])
    result = analyse(
        range_test(
            entry(0, "start", charge_ah=0.0, voltage_rest_v=ends[0]),
            entry(3600, "end", charge_ah=7.0, voltage_rest_v=ends[1]),
        )
    )
    curve = ocv_curve("nmc")
    z1, z2 = curve.charge_left(ends / 13)
    z = np.linspace(z2, z1, 4001)
    mean_ocv = 13 * np.trapezoid(curve.voltage(z), z) / (z1 - z2)
    sag = 7.0 * 0.12 * 13 / 14.0  # mean 7 A through the assumed 0.12 Ω·Ah a cell group
    found = method(result, "charge_counter").quantity.value
    # Entries' own resting volts less the sag, or the curve's mean: both within a percent.
    assert found == pytest.approx(7.0 * (mean_ocv - sag), rel=0.01)


def rest_ride(first=54.4, last=47.0, hours=2.0, pack=PACK, **changes):
    return analyse(
        range_test(
            entry(0, "start", voltage_rest_v=first, trip_m=0.0),
            entry(3600 * hours, "end", trip_m=20_000.0),
            entry(3600 * hours + 900, "settle", voltage_rest_v=last),
            pack=pack,
            **changes,
        )
    )


def test_resting_volts_go_through_the_curve_less_the_heat():
    # E_full·(ε(V₁) − ε(V₂))·(1 − ĪR/V̄), handbook section 4, worked out here step by step on the
    # mean of the chemistry's curves; the label gives 0 to 13% more, a pack of unknown age less.
    found = method(rest_ride(), "rest_voltage").quantity.value
    family = curve_family("nmc")
    z, volts, stored = GRID, family.volts[0], family.integral[0]
    ends = np.interp(np.interp(np.array([54.4, 47.0]) / 13, volts, z), z, stored)
    cold = capacity_factor("nmc", 20.0)
    gross = PACK.rated_ah * 1.065 * 0.965 * cold * 13 * (ends[0] - ends[1])
    amps = gross / (13 * family.mean_v) / 2.0
    ohm = 0.12 * 13 / 14 * 2 ** (5 / 25)
    loss = 1.2 * amps * ohm / (13 * family.mean_v)
    # The median over curves that bend both ways is not quite that of their mean.
    assert found == pytest.approx(gross * (1 - loss), rel=0.03)


def test_two_packs_hold_twice_the_energy():
    one, two = (method(rest_ride(packs_used=n), "rest_voltage").quantity.value for n in (1, 2))
    assert two == pytest.approx(2 * one, rel=0.02)


def test_volts_cannot_tell_on_the_plateau_and_the_result_says_so():
    lfp = PackSpec(chemistry="lfp", series=16, rated_ah=20.0, full_v=57.6, cutoff_v=44.8)
    flat = rest_ride(first=56.0, last=52.6, pack=lfp)
    steep = rest_ride()
    assert (
        method(flat, "rest_voltage").quantity.relative
        > 2 * method(steep, "rest_voltage").quantity.relative
    )
    assert any(w.code == "volts_cannot_tell" for w in flat.warnings)
    assert not any(w.code == "volts_cannot_tell" for w in steep.warnings)


def test_an_unsettled_reading_is_less_certain_and_said_so():
    late = rest_ride()
    early = analyse(
        range_test(
            entry(0, "start", voltage_rest_v=54.4, trip_m=0.0),
            entry(7200, "end", trip_m=20_000.0),
            entry(7260, "settle", voltage_rest_v=47.0),
        )
    )
    assert (
        method(early, "rest_voltage").quantity.relative
        > method(late, "rest_voltage").quantity.relative
    )
    assert any("Wait ten minutes next time" in w.message for w in early.warnings)
    assert not any(w.code == "not_settled" for w in late.warnings)


def test_resting_volts_that_rose_say_nothing_alone():
    assert method(rest_ride(first=47.0, last=54.0), "rest_voltage") is None


def test_volts_of_a_pack_without_a_published_curve_say_what_a_line_says():
    # A 36 V lead-acid battery of 18 cells, 38.2 V full and 34.8 V empty (common practice, no source).
    lead = PackSpec(chemistry="lead_acid_agm", series=18, rated_ah=12.0, cutoff_v=31.5)
    found = rest_ride(first=38.2, last=36.6, pack=lead)
    assert method(found, "rest_voltage") is not None
    assert found.energy_used_fraction.low < 0.47 < found.energy_used_fraction.high


def test_each_pack_of_a_swap_is_read_by_itself():
    result = analyse(
        range_test(
            entry(0, "start", trip_m=0.0, voltage_rest_v=54.4),
            entry(3600, "swap", trip_m=15_000.0, voltage_rest_v=54.4),
            entry(7200, "end", trip_m=30_000.0, voltage_rest_v=47.0),
            packs_used=2,
        )
    )  # fmt: skip
    # The first pack's end was not read: nothing but the second tells, and the road.
    assert 0.3 < result.energy_used_fraction.value < 1.0
    assert result.range_to_cutoff.value > 30_000


def to_cutoff(**changes):
    return analyse(
        range_test(
            entry(0, "start", trip_m=0.0, voltage_rest_v=54.4), entry(7200, "end", trip_m=30_000.0),
            ending=Ending(reason="cutoff"), **changes,
        )
    )  # fmt: skip


def test_the_label_counts_only_from_full_to_the_end():
    assert method(rest_ride(), "rated") is None
    found = method(to_cutoff(), "rated")
    # Less the curve's share under 39 V (3 V a cell and the sag) and the heat: a few percent.
    assert 0.88 * full_energy_wh(PACK) < found.quantity.value < full_energy_wh(PACK)
    # Label, age and the start: 0.0375, 0.04 and what the cut-off leaves (assumptions).
    assert 0.05 < found.quantity.relative < 0.11


def test_the_label_is_taken_lower_in_the_cold():
    warm = method(to_cutoff(conditions=Conditions(temp_start_c=25.0)), "rated").quantity.value
    cold = method(to_cutoff(conditions=Conditions(temp_start_c=0.0)), "rated").quantity.value
    # Handbook section 5: NMC at 0 °C gives 0.90, and the doubled resistance ends it sooner.
    assert 0.85 * warm < cold <= 0.90 * warm


def test_the_least_uncertain_is_used_and_the_others_are_shown():
    result = rest_ride(instruments=Instruments(energy=Instrument(accuracy_pct=1.0)))
    assert [m.method for m in result.energy_methods if m.used] == ["rest_voltage"]
    both = analyse(
        range_test(
            entry(0, "start", voltage_rest_v=54.4, energy_wh=0.0),
            entry(7200, "end", energy_wh=400.0),
            entry(8100, "settle", voltage_rest_v=47.0),
        )
    )
    assert {m.method: m.used for m in both.energy_methods} == {
        "energy_counter": True,
        "rest_voltage": False,
        "linear_voltage": False,
    }


def test_a_disagreement_is_shown_and_explained_never_averaged():
    result = analyse(
        range_test(
            entry(0, "start", voltage_rest_v=54.4, energy_wh=0.0),
            entry(7200, "end", energy_wh=100.0),
            entry(8100, "settle", voltage_rest_v=45.0),
        )
    )
    assert result.energy.value == pytest.approx(100.0)
    assert method(result, "rest_voltage").agrees is False
    assert any(
        w.code == "energy_methods_disagree" and "The resting volts gives" in w.message
        for w in result.warnings
    )


def test_what_a_counter_missed_is_as_unsure_in_energy_as_in_charge():
    """The counter was last read after twenty of thirty kilometres: the third that is filled in keeps its share."""
    result = analyse(
        range_test(
            entry(0, "start", trip_m=0.0, charge_ah=0.0, voltage_load_v=52.0),
            entry(2400, trip_m=20_000.0, charge_ah=6.0, voltage_load_v=50.0),
            entry(3600, "end", trip_m=30_000.0, voltage_load_v=48.0),
            instruments=accuracies(charge=0.1, voltage=0.1, trip=0.1),
        )
    )
    found = method(result, "charge_counter").quantity
    assert found.value == pytest.approx(6 * 51 + 3 * 49, rel=0.02)
    # A third of it by distance, which is known to FILL_STD of itself and no better.
    assert found.relative >= 0.95 * FILL_STD / 3
