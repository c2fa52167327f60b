"""Nothing near certain until something on the ride has shown charge; limits of the vehicle come first."""

from __future__ import annotations

from dataclasses import replace

import pytest

from limpet.evidence.model import Gauge, Instruments, Start
from limpet.state.priors import NOTHING, Learned
from limpet.under_way import WayAhead, advise, follow
from limpet.under_way.sure import MOST_UNSHOWN, shows_charge
from tests.core.under_way.test_follow import entry, riding
from tests.strategies import range_test

HOME = WayAhead(onward="given", from_m=0.0, until_m=6000.0)
MEASURED = NOTHING.also(
    capacity_factor=Learned(value=1.0, standard_uncertainty=0.02, tests=("Last week",))
)


def first(**read):
    return range_test(entry(0, "start", trip_m=0.0, **read))


def test_a_pack_of_which_nobody_said_that_it_is_full_is_not_taken_for_full():
    told = follow(first())
    assert told.energy_left_fraction.low < 0.25
    assert told.energy_left_fraction.high > 0.95
    assert not told.shows_charge
    assert "no_charge_shown" in {notice.code for notice in told.warnings}
    said = follow(
        range_test(entry(0, "start", trip_m=0.0), start=Start(full=True, just_charged=True))
    )
    assert said.energy_left_fraction.low > 0.93


def test_no_chance_is_told_as_over_95_percent_before_a_reading_shows_charge():
    sheet = {"start": Start(full=True, just_charged=True)}
    unread = advise(range_test(entry(0, "start", trip_m=0.0), **sheet), ahead=HOME)
    way = unread.following.way
    assert way is not None
    assert way.reaches_probability == way.arrives_probability == MOST_UNSHOWN
    assert unread.matter.code == "probably"
    assert max(choice.reaches_probability for choice in unread.choices) == MOST_UNSHOWN
    read = advise(range_test(entry(0, "start", voltage_rest_v=54.4), **sheet), ahead=HOME)
    assert read.following.way is not None
    assert read.following.way.reaches_probability > 0.99
    assert read.matter.code == "home"


@pytest.mark.parametrize(
    "read",
    [{"voltage_rest_v": 54.0}, {"voltage_load_v": 51.0}, {"gauge": 90.0}, {"charge_ah": 0.0}],
)
def test_volts_a_gauge_or_a_meter_show_charge(read):
    assert shows_charge(first(**read), NOTHING)


def test_just_charged_shows_it_only_of_a_pack_that_was_measured():
    said = range_test(entry(0, "start", trip_m=0.0), start=Start(just_charged=True))
    assert not shows_charge(said, NOTHING)
    assert shows_charge(said, MEASURED)
    assert not shows_charge(first(), MEASURED)


def test_the_range_that_the_display_shows_is_evidence_and_alarm():
    percent = Instruments(gauge=Gauge(kind="percent", steps=100))
    start = entry(0, "start", trip_m=0.0, gauge=100.0)
    plain = range_test(start, entry(1800, trip_m=8000.0, gauge=60.0), instruments=percent)
    warned = range_test(
        start, entry(1800, trip_m=8000.0, gauge=60.0, shown_range_m=5000.0), instruments=percent
    )
    before, after = follow(plain), follow(warned)
    assert after.range_left_to_cutoff.value < 0.8 * before.range_left_to_cutoff.value
    # A prior of 0.5 to 1.6 times what is shown, not the figure itself.
    assert after.range_left_to_cutoff.high > 6000
    told = advise(warned)
    assert told.matter.code == "shown_short"
    assert told.matter.values["shown_m"] == pytest.approx(5000.0)
    assert told.matter.values["left_m"] == pytest.approx(8000.0, abs=100)


def test_a_read_out_that_is_frozen_says_nothing_new():
    shown = [entry(600 * k, trip_m=4000.0 * k, shown_range_m=30_000.0) for k in range(1, 4)]
    start = entry(0, "start", trip_m=0.0, voltage_rest_v=54.2)
    once = follow(range_test(start, *shown[:1], replace(shown[2], shown_range_m=None)))
    frozen = follow(range_test(start, *shown))
    assert frozen.range_left_to_cutoff.value == pytest.approx(
        once.range_left_to_cutoff.value, rel=0.02
    )


@pytest.mark.parametrize(
    ("what", "code"),
    [("tilt_back", "tilt_back"), ("beeping", "beeping"), ("speed_step", "speed_step"),
     ("overheated", "too_hot")],
)  # fmt: skip
def test_a_limit_that_the_vehicle_showed_outranks_any_range(what, code):
    out = riding(10.0)
    at = out.entries[-1].time_s
    hit = replace(out, entries=(*out.entries, entry(at + 60, "event", what=what)))
    assert advise(out).matter.code == "turn_by"
    assert advise(hit).matter.code == code


def test_a_limit_is_over_when_another_pack_is_in_or_it_was_charged():
    out = riding(10.0)
    at = out.entries[-1].time_s
    hit = (*out.entries, entry(at + 60, "event", what="tilt_back"))
    later = entry(at + 1800, trip_m=10_000.0)
    still = replace(out, entries=(*hit, later))
    assert advise(still).matter.code == "tilt_back"
    charged = entry(at + 1200, "event", what="charged", charged_wh=200.0)
    assert advise(replace(out, entries=(*hit, charged, later))).matter.code != "tilt_back"


def test_two_packs_behind_one_gauge_may_be_shown_by_the_fuller_one():
    percent = Instruments(gauge=Gauge(kind="percent", steps=100))
    noted = (
        entry(0, "start", trip_m=0.0, gauge=100.0), entry(4000, trip_m=20_000.0, gauge=100.0)
    )  # fmt: skip
    both = follow(range_test(*noted, instruments=percent, packs_used=2, packs_use="in_parallel"))
    # Full by its gauge after 20 km: as much as half of all may be gone.
    assert both.energy_left_fraction.low < 0.72
    assert both.energy_left_fraction.high < 0.97


def test_a_pack_in_the_bag_is_no_range_until_it_is_put_in():
    one = follow(riding(10.0))
    bag = follow(riding(10.0, packs_used=2, packs_use="spare"))
    turn = follow(riding(10.0, packs_used=2, packs_use="in_sequence"))
    assert bag.range_left_to_cutoff.value == pytest.approx(one.range_left_to_cutoff.value, rel=0.02)
    assert turn.range_left_to_cutoff.value > 1.5 * one.range_left_to_cutoff.value
