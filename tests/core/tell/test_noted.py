"""What riders note beside the meter: pieces pushed, climbs, promises of the display, how full it was."""

from __future__ import annotations

from dataclasses import replace

import pytest

from limpet.evidence.model import Ending, Entry, Gauge, Instruments, Start
from limpet.files import read_bundle, write_folder
from limpet.tell import analyse
from tests.strategies import accuracies, range_test


def entry(time_s, kind="checkpoint", **values):
    return Entry(time_s=time_s, kind=kind, **values)


def ridden(*between, last=None, **changes):
    return range_test(
        entry(0, "start", trip_m=0.0, charge_ah=0.0, voltage_rest_v=54.6),
        *between,
        entry(3600, "end", trip_m=20_000.0, charge_ah=6.0, **(last or {})),
        **{"instruments": accuracies(charge=1.0, trip=1.0, gps=1.0), **changes},
    )


def test_what_was_pushed_is_no_riding():
    plain, pushed = (
        analyse(ridden()),
        analyse(ridden(entry(1800, trip_m=10_000.0, walked_m=1500.0))),
    )
    assert plain.distance.value - pushed.distance.value == pytest.approx(1500.0)
    assert pushed.consumption.wh_per_km.value > plain.consumption.wh_per_km.value
    assert pushed.distance.standard_uncertainty > plain.distance.standard_uncertainty


def test_a_way_that_was_all_pushed_is_no_ride():
    result = analyse(ridden(entry(1800, trip_m=10_000.0, walked_m=50_000.0)))
    assert result.distance is None
    assert result.consumption is None


def test_what_the_tracker_missed_is_added_to_the_track_and_to_nothing_else():
    def noted(missed):
        return ridden(
            entry(1800, trip_m=10_000.0, gps_m=10_000.0, untracked_m=missed),
            last={"gps_m": 18_000.0},
        )

    methods = {m.method: m.quantity.value for m in analyse(noted(2000.0)).distance_methods}
    before = {m.method: m.quantity.value for m in analyse(noted(None)).distance_methods}
    assert methods["gps"] - before["gps"] == pytest.approx(2000.0)
    assert methods["trip"] == before["trip"]


def test_a_noted_climb_is_reckoned_like_a_logged_one():
    level = analyse(ridden())
    above = analyse(ridden(last={"ascent_m": 160.0, "descent_m": 20.0}))
    assert (above.climb.ascent_m, above.climb.descent_m) == (160.0, 20.0)
    # On the level the same pack goes further than on a ride that ended 140 m above its start.
    assert above.range_to_cutoff.value > 1.05 * level.range_to_cutoff.value
    assert "height_corrected" in {notice.code for notice in above.warnings}


def test_the_displays_promise_stands_beside_what_came():
    test = ridden(
        entry(900, trip_m=5_000.0, shown_range_m=38_000.0),
        entry(2700, trip_m=15_000.0, shown_range_m=18_000.0),
        ending=Ending(reason="cutoff"),
    )
    result = analyse(test)
    assert [(s.at_m, s.shown_m) for s in result.shown_range] == [(5000, 38_000), (15_000, 18_000)]
    # Ridden to its end at 20 km: 15 and 5 km came.
    assert [s.came_m.value for s in result.shown_range] == pytest.approx([15_000, 5000], rel=0.02)
    assert analyse(ridden()).shown_range is None


def test_the_sheet_tells_how_full_the_pack_began():
    def shared(start, end_v):
        test = range_test(
            entry(0, "start", trip_m=0.0, charge_ah=0.0),
            entry(3600, "end", trip_m=20_000.0, charge_ah=4.0, voltage_rest_v=end_v),
            instruments=accuracies(charge=1.0),
            start=start,
        )
        return analyse(test)

    full, part = shared(Start(full=True), 50.0), shared(Start(energy_fraction=0.6), 45.0)
    assert full.started_fraction.value > 0.95
    assert 0.45 < part.started_fraction.value < 0.75
    # "60%" is known to ±5%, and never to a digit.
    assert part.started_fraction.high - part.started_fraction.low > 0.05
    assert part.range_to_cutoff.value > full.range_to_cutoff.value * 0.5
    # Full, a third of the amp-hours gone and a fifth left: that can't be.
    assert shared(Start(full=True), 45.0).range_to_cutoff is None


def test_one_of_two_packs_in_sequence_is_not_both():
    alone = analyse(ridden())
    second = analyse(ridden(packs_used=2, packs_use="in_sequence"))
    beside = analyse(ridden(packs_used=2, packs_use="in_parallel"))
    assert second.energy_used_fraction.value == pytest.approx(
        alone.energy_used_fraction.value / 2, rel=0.05
    )
    assert second.range_to_cutoff.value == pytest.approx(2 * alone.range_to_cutoff.value, rel=0.08)
    # In parallel each gives half the current, sags less, and gives a little more.
    assert beside.range_to_cutoff.value >= 0.97 * second.range_to_cutoff.value


def test_an_entry_says_which_pack_it_reads():
    def noted(pack):
        return range_test(
            entry(0, "start", trip_m=0.0, voltage_rest_v=54.6),
            entry(1800, "swap", trip_m=10_000.0, voltage_rest_v=46.0, pack=pack),
            entry(3600, "end", trip_m=14_000.0),
        )

    of_the_first = analyse(noted(1.0)).packs
    of_the_second = analyse(noted(2.0)).packs
    # 46 V of the first: it was used to that; of the second: it began there.
    assert of_the_first[0].range_to_cutoff.value != pytest.approx(
        of_the_second[0].range_to_cutoff.value, rel=0.05
    )


def test_air_that_was_noted_on_the_way_makes_it_a_cold_ride():
    cold = analyse(ridden(entry(1800, trip_m=10_000.0, air_temp_c=-8.0)))
    assert {i.name: i.value for i in cold.inputs}["cold"] < 0.9


def test_everything_noted_survives_a_bundle(tmp_path):
    test = ridden(
        entry(
            1800, "event", what="charged", place="Quay", pack=1.0, shown_range_m=9000.0, speedometer_mps=7.0,
            walked_m=10.0, untracked_m=20.0, ascent_m=30.0, descent_m=5.0, air_temp_c=9.0, wind_mps=4.0,
            wind_from_deg=250.0, charged_wh=50.0, charged_s=1200.0, photo="a.jpg",
        ),
        start=Start(full=True),
        packs_used=2,
        packs_use="in_sequence",
        instruments=replace(Instruments(), gauge=Gauge(kind="bars", steps=5, name="dash")),
    )  # fmt: skip
    write_folder(test, tmp_path / "b")
    again = read_bundle(tmp_path / "b")
    assert again.entries == test.entries
    assert again.sheet == test.sheet
