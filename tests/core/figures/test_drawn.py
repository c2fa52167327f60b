"""The end of a ride, the share used, and range."""

import numpy as np
import polars as pl
import pytest

from limpet.evidence.model import (
    Conditions,
    Ending,
    Entry,
    Protocol,
    RangeTest,
    RiderSpec,
    VehicleSpec,
)
from limpet.pack import PackSpec
from limpet.read.window import cutoff_time_s, ride_window
from limpet.tell import analyse
from tests.strategies import range_test, sheet


def entry(time_s, kind="checkpoint", **values):
    return Entry(time_s=time_s, kind=kind, **values)


def codes(result):
    return [w.code for w in result.warnings]


@pytest.mark.parametrize(
    ("under", "expected"),
    [([50, 51, 52], None), ([50, 51, 52, 53], 50.0), ([20, 50, 51, 52, 53], 50.0)],
)
def test_cutoff_is_three_seconds_at_or_under_it(under, expected):
    # bundle.md, Definitions: "stays at or under cutoff_v for 3 s".
    volts = np.full(100, 45.0)
    volts[under] = 39.0
    assert cutoff_time_s(np.arange(100.0), volts, 39.0) == expected


def test_a_log_that_begins_before_the_pack_was_on_does_not_end_there():
    volts = np.concatenate([np.zeros(10), np.full(80, 45.0), np.full(10, 38.0)])
    assert cutoff_time_s(np.arange(100.0), volts, 39.0) == 90.0


def fading(cutoff_at=1500, n=1800):
    time = np.arange(float(n))
    volts = np.where(time < cutoff_at, 54.4 - time * 0.008, 38.5)
    return pl.DataFrame(
        {"time_s": time, "voltage_v": volts, "current_a": np.full(n, 8.0), "distance_m": time * 5}
    )


def test_range_to_cutoff_is_measured_and_limp_distance_kept_apart():
    result = analyse(range_test(samples=fading()))
    assert result.range_measured
    assert result.range_to_cutoff.value == pytest.approx(1500 * 5)
    assert result.distance.value == pytest.approx(1500 * 5)
    assert any("You rode 1,495 m after the end" in w.message for w in result.warnings)


def test_the_riders_word_ends_a_ride_too():
    test = range_test(entry(0, "start", trip_m=0.0, voltage_rest_v=54.5), entry(3600, "end", trip_m=18_000.0),
                      entry(4000, "settle", trip_m=18_400.0), ending=Ending(reason="protect"))  # fmt: skip
    result = analyse(test)
    assert result.range_to_cutoff.value == pytest.approx(18_050)  # with half a step of the display
    assert result.energy_used_fraction.value == 1.0
    assert "limp_distance" in codes(result)


def test_a_settle_ends_the_ride_only_where_no_end_is_noted():
    assert (
        ride_window(range_test(entry(0, "start"), entry(900, "end"), entry(1500, "settle"))).end_s
        == 900
    )
    assert ride_window(range_test(entry(0, "start"), entry(1500, "settle"))).end_s == 1500
    assert (
        ride_window(
            range_test(entry(0, "start"), entry(900, "settle"), entry(1800), entry(2700))
        ).end_s
        == 2700
    )


def test_a_swap_does_not_end_the_ride_at_the_first_packs_cutoff():
    test = RangeTest(sheet=sheet(packs_used=2), samples=fading(), entries=(entry(1510, "swap"),))
    assert ride_window(test).cutoff_s is None


def partial(last_v, **changes):
    return range_test(
        entry(0, "start", trip_m=0.0, voltage_rest_v=54.5, charge_ah=0.0),
        entry(3600, "end", trip_m=18_000.0, charge_ah=6.0),
        entry(4500, "settle", voltage_rest_v=last_v),
        **changes,
    )


def test_a_partial_ride_is_extrapolated_by_its_share_of_energy():
    result = analyse(partial(48.0))
    used = result.energy_used_fraction
    assert not result.range_measured
    # Both are medians of draws that share their share.
    assert result.range_to_cutoff.value == pytest.approx(18_000 / used.value, rel=0.02)
    assert result.range_to_cutoff.low < 18_000 / used.value < result.range_to_cutoff.high
    assert result.pack.usable_energy_wh.value == pytest.approx(
        result.energy.value / used.value, rel=0.02
    )


def test_the_interval_of_an_extrapolation_is_skewed_towards_far():
    # 1/f of an uncertain f is longer upwards (JCGM 101:2008 is there for such).
    found = analyse(
        range_test(
            entry(0, "start", trip_m=0.0, voltage_rest_v=54.5),
            entry(3600, "end", trip_m=9000.0),
            entry(4500, "settle", voltage_rest_v=50.5),
        )
    ).range_to_cutoff
    assert found.high - found.value > found.value - found.low


def test_range_to_reserve_keeps_its_share():
    result = analyse(partial(48.0, protocol=Protocol(reserve=0.3)))
    assert result.range_to_reserve.value == pytest.approx(0.7 * result.range_to_cutoff.value)
    assert not result.reserve_assumed
    assert analyse(partial(48.0)).reserve == 0.2
    assert "reserve_assumed" in codes(analyse(partial(48.0)))


def test_little_used_is_called_a_guess():
    result = analyse(range_test(
        entry(0, "start", trip_m=0.0, energy_wh=0.0, voltage_rest_v=54.5), entry(600, "end", trip_m=3000.0, energy_wh=40.0)
    ))  # fmt: skip
    assert result.energy_used_fraction.value < 0.15
    assert any("the range is a guess" in w.message for w in result.warnings)


def test_a_start_without_a_voltage_is_taken_as_full_and_said():
    result = analyse(
        range_test(
            entry(0, "start", trip_m=0.0),
            entry(3600, "end", trip_m=9000.0),
            ending=Ending(reason="cutoff"),
        )
    )
    assert "assumed_full" in codes(result)
    assert result.range_to_cutoff.value == pytest.approx(9000)


def test_a_ride_that_began_part_empty_is_scaled_up_to_full():
    result = analyse(range_test(
        entry(0, "start", trip_m=0.0, voltage_rest_v=49.0), entry(3600, "end", trip_m=9000.0), ending=Ending(reason="cutoff")
    ))  # fmt: skip
    assert result.energy_used_fraction.value < 0.7
    assert result.range_to_cutoff.value > 9000 / 0.7
    assert any("The pack began at 49.0 V" in w.message for w in result.warnings)


def test_more_than_the_label_is_not_extrapolated_below_what_was_ridden():
    result = analyse(range_test(
        entry(0, "start", trip_m=0.0, energy_wh=0.0, voltage_rest_v=54.5), entry(3600, "end", trip_m=9000.0, energy_wh=900.0)
    ))  # fmt: skip
    assert 9000 <= result.range_to_cutoff.value < 9000 * 1.1
    assert "more_than_label" in codes(result)


def test_a_ride_that_ended_higher_goes_further_on_the_level():
    # ΔE = m·g·Δh/η: 120 kg · 9.80665 · 100 m / 0.8 / 3600 = 40.9 Wh of 400 Wh (handbook section 7), of which
    # the way back down gives all but half of the tenth that is lost on a climb, there and back.
    time = np.arange(3601.0)
    frame = pl.DataFrame({
        "time_s": time, "voltage_v": np.full(3601, 50.0), "current_a": np.full(3601, 8.0),
        "distance_m": time * 5, "altitude_m": time / 36,
    })  # fmt: skip
    kit = {
        "vehicle": VehicleSpec(kind="trike", mass_kg=40.0),
        "rider": RiderSpec(mass_kg=80.0, gear_kg=0.0),
    }
    pack = PackSpec(chemistry="nmc", series=13, rated_ah=20.0, cutoff_v=39.0)
    climbed = analyse(range_test(samples=frame, pack=pack, **kit))
    level = analyse(range_test(samples=frame.drop("altitude_m"), pack=pack, **kit))
    lifted = 120 * 9.80665 * 100 * (3595.5 - 4.5) / 3600 / 0.8 / 3600
    expected = 400 / (400 - 0.95 * lifted)
    assert climbed.range_to_cutoff.value / level.range_to_cutoff.value == pytest.approx(
        expected, rel=2e-3
    )
    assert "height_corrected" in codes(climbed)
    # Half a per cent further on level roads is not worth a sentence.
    assert "level_range" not in codes(climbed)


def test_range_keeps_the_hills_of_a_ride_and_level_roads_stand_beside_it():
    """There and back over a hill: nothing is set aside, and the two ways' losses are told."""
    time = np.arange(7201.0)
    hill = 180 * np.minimum(time, 7200 - time) / 3600
    frame = pl.DataFrame({
        "time_s": time, "voltage_v": np.full(7201, 50.0), "current_a": np.full(7201, 4.0),
        "distance_m": time * 5, "altitude_m": hill,
    })  # fmt: skip
    pack = PackSpec(chemistry="nmc", series=13, rated_ah=20.0, cutoff_v=39.0)
    kit = {
        "vehicle": VehicleSpec(kind="trike", mass_kg=40.0),
        "rider": RiderSpec(mass_kg=80.0, gear_kg=0.0),
    }
    there_and_back = analyse(range_test(samples=frame, pack=pack, **kit))
    level = analyse(
        range_test(samples=frame.with_columns(altitude_m=pl.lit(0.0)), pack=pack, **kit)
    )
    assert there_and_back.range_to_cutoff.value == pytest.approx(
        level.range_to_cutoff.value, rel=0.01
    )
    said = {notice.code: notice for notice in there_and_back.warnings}["level_range"]
    up = there_and_back.climb.ascent_m
    # A tenth of the climb's energy is lost (assumption): 120 kg, 0.8, as above.
    lost = 0.10 * 120 * 9.80665 * up / 0.8 / 3600
    assert said.values["lost_wh"] == pytest.approx(lost, rel=0.02)
    assert said.values["range_m"] / there_and_back.range_to_cutoff.value == pytest.approx(
        400 / (400 - lost), rel=3e-3
    )
    assert "level_range" not in codes(level)
    assert "height_corrected" not in codes(there_and_back)


def test_capacity_is_the_charge_from_full_to_the_end():
    result = analyse(
        range_test(
            samples=fading(),
            pack=PackSpec(chemistry="nmc", series=13, rated_ah=4.0, full_v=54.6, cutoff_v=39.0),
        )
    )
    assert result.pack.capacity_ah.value == pytest.approx(8 * 1500 / 3600, rel=1e-3)
    warm = result.pack.at_25_degc
    assert warm.capacity_ah.value == pytest.approx(8 * 1500 / 3600 / 0.9867, rel=0.01)
    assert warm.retained_fraction.value == pytest.approx(warm.capacity_ah.value / 4)
    # As ridden ÷ rated (bundle.md, Definitions), and nothing of a temperature.
    assert result.pack.retained_fraction.value == pytest.approx(result.pack.capacity_ah.value / 4)
    # At a low rate the pack is emptied further.
    assert warm.retained_at_low_rate.value > warm.retained_fraction.value
    assert warm.retained_at_low_rate.relative > warm.retained_fraction.relative


def test_a_cold_ride_is_brought_to_25_degrees_before_it_judges_the_pack():
    def pack_at(temp_c):
        air = Conditions(temp_start_c=temp_c, temp_end_c=temp_c)
        label = PackSpec(chemistry="nmc", series=13, rated_ah=4.0, full_v=54.6, cutoff_v=39.0)
        return analyse(range_test(samples=fading(), pack=label, conditions=air)).pack

    warm, cold = pack_at(25.0), pack_at(0.0)
    # Both gave the same charge; the handbook's table of cold has 0.90 at 0 °C for NMC.
    assert cold.capacity_ah.value == pytest.approx(warm.capacity_ah.value, rel=1e-3)
    assert warm.at_25_degc.retained_fraction.value == pytest.approx(
        warm.capacity_ah.value / 4, rel=1e-3
    )
    assert cold.at_25_degc.retained_fraction.value == pytest.approx(
        warm.retained_fraction.value / 0.9, rel=0.01
    )
    assert cold.retained_fraction.value == pytest.approx(warm.retained_fraction.value, rel=1e-3)
    assert cold.at_25_degc.usable_energy_wh.value == pytest.approx(
        cold.usable_energy_wh.value / 0.9, rel=0.01
    )
    brought, ridden = cold.at_25_degc.capacity_ah, cold.capacity_ah
    assert brought.low < brought.value < brought.high
    assert brought.high - brought.low > (ridden.high - ridden.low) / 0.95
    assert (brought.low + brought.high) / 2 == pytest.approx(brought.value, rel=0.06)
    # How much the cold took is not quite known.
    assert cold.at_25_degc.retained_fraction.relative > 2 * cold.retained_fraction.relative


def test_nothing_noted_gives_nothing_and_says_what_to_note():
    result = analyse(range_test(entry(0, "start"), entry(600, "end")))
    json = result.to_json()
    for name in ("distance", "energy", "consumption", "range_to_cutoff", "regeneration", "charge"):
        assert json[name] is None
    assert {"no_energy", "no_distance", "no_range", "no_capacity"} <= set(codes(result))


def test_a_ride_that_has_just_begun_is_not_an_error():
    assert analyse(range_test()).energy is None


def test_what_nothing_tells_is_null_and_not_invented():
    json = analyse(range_test(samples=fading())).to_json()
    absent = ("climb", "fade", "gauge_truth", "claim", "packs")
    assert [json[name] for name in absent] == [None] * len(absent)


@pytest.mark.parametrize(("charge_ah", "told"), [(1.0, False), (6.0, True)])
def test_of_a_pack_that_was_hardly_used_no_capacity_is_told(charge_ah, told):
    # Handbook section 7: below 15 % of the usable energy an extrapolation is a guess.
    used = charge_ah / 14
    result = analyse(
        range_test(
            entry(0, "start", charge_ah=0.0, trip_m=0.0, voltage_load_v=53.0),
            entry(3600, "end", charge_ah=charge_ah, trip_m=20_000.0 * used, voltage_load_v=50.0),
        )
    )
    assert (result.pack.capacity_ah is not None) is told
    assert ("no_capacity" in codes(result)) is not told


def test_resistance_is_told_of_one_pack():
    # 1.2 V of sag at 12 A is 0.1 Ω of all together: of two side by side each has twice that.
    for packs, ohm in ((1, 0.1), (2, 0.2)):
        result = analyse(
            range_test(
                entry(0, "start", voltage_rest_v=54.4),
                entry(600, voltage_rest_v=52.2, voltage_load_v=51.0, current_a=12.0),
                packs_used=packs,
                packs_use="in_parallel" if packs > 1 else "single",
            )
        )
        assert result.pack.resistance_ohm.value == pytest.approx(ohm)


def test_two_packs_side_by_side_are_one_of_twice_the_size_and_in_turn_are_two():
    def used(ah, **packs):
        pack = PackSpec(chemistry="nmc", series=13, rated_ah=ah, full_v=54.6, cutoff_v=39.0)
        rows = [
            entry(0, "start", trip_m=0.0, charge_ah=0.0, voltage_rest_v=54.4),
            entry(3600, "end", trip_m=20_000.0, charge_ah=10.0),
        ]
        found = analyse(range_test(*rows, pack=pack, **packs))
        return found.energy_used_fraction.value, found.range_to_cutoff.value

    whole = used(28.0)
    beside = used(14.0, packs_used=2, packs_use="in_parallel")
    assert beside == pytest.approx(whole, rel=0.02)
    # The second was not used yet: it counts as a full one.
    share, metres = used(14.0, packs_used=2, packs_use="in_sequence")
    assert metres == pytest.approx(whole[1], rel=0.05)
    assert share == pytest.approx(whole[0], rel=0.05)
    single, reach = used(14.0)
    assert share == pytest.approx(single / 2, rel=0.05)
    assert metres == pytest.approx(2 * reach, rel=0.05)
