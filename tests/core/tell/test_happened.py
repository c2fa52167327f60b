"""Events count: where the drive held back, what each mode took, a hot drive, a soft tyre, rain."""

from __future__ import annotations

from dataclasses import replace

import pytest

from limpet.read.moving import driving_hours
from limpet.read.window import ride_window
from limpet.tell import analyse
from limpet.under_way import follow
from tests.core.under_way.test_follow import entry, riding
from tests.strategies import range_test


def with_events(*events):
    test = riding(12.0)
    entries = sorted([*test.entries, *events], key=lambda one: one.time_s)
    return replace(test, entries=tuple(entries))


def told(test, code):
    return [notice.values for notice in analyse(test).warnings if notice.code == code]


def at(km):
    return km * 1000 / 5.6


@pytest.mark.parametrize(
    ("what", "said"),
    [("tilt_back", "the tilt-back"), ("power_cut", "the power cut"), ("warning", "the warning light")],
)  # fmt: skip
def test_where_the_drive_holds_back_is_told_by_what_was_still_ahead(what, said):
    test = with_events(entry(at(9), "event", what=what), entry(at(11), "event", what=what))
    (values,) = told(test, "held_back_before")
    assert values["what"] == said
    # The first of two.
    assert values["at_m"] == pytest.approx(9000, rel=0.01)
    reach = analyse(test).range_to_cutoff.value
    assert values["share"] == pytest.approx(1 - values["at_m"] / reach)


@pytest.mark.parametrize(
    ("what", "code"),
    [("overheated", "overheated"), ("puncture", "punctured"), ("rain", "rained"), ("fall", "fell"),
     ("overnight", "stood_overnight")],
)  # fmt: skip
def test_what_makes_a_ride_another_is_said_with_its_place(what, code):
    (values,) = told(with_events(entry(at(6), "event", what=what)), code)
    assert values["at_m"] == pytest.approx(6000, rel=0.01)
    assert told(riding(12.0), code) == []


@pytest.mark.parametrize("noted", ["in the evening", "in the morning"])
def test_a_night_is_no_riding_time_whenever_it_was_noted(noted):
    ride = riding(12.0)
    hours = driving_hours(ride, ride_window(ride))
    night_s, half_s = 9 * 3600.0, at(6)
    later = [
        replace(one, time_s=one.time_s + (night_s if one.time_s > half_s else 0.0))
        for one in ride.entries
    ]
    noted_s = half_s + 60 if noted == "in the evening" else half_s + night_s - 60
    night = entry(noted_s, "event", what="overnight")
    slept = replace(ride, entries=tuple(later))
    told = replace(ride, entries=tuple(sorted([*later, night], key=lambda one: one.time_s)))
    assert driving_hours(slept, ride_window(slept)) > hours + 8
    assert driving_hours(told, ride_window(told)) == pytest.approx(hours, abs=0.12)


def test_a_drive_that_overheated_is_stopped_until_it_has_ridden_on():
    hot = with_events(entry(at(12) + 30, "event", what="overheated"))
    assert "overheated_now" in [notice.code for notice in follow(hot).warnings]
    cooled = replace(hot, entries=(*hot.entries, entry(at(12) + 600, "resume")))
    assert "overheated_now" not in [notice.code for notice in follow(cooled).warnings]
    later = follow(hot, until_s=at(12) + 3600)
    assert "overheated_now" not in [notice.code for notice in later.warnings]


def test_each_mode_is_told_with_what_it_took():
    def metered(*events):
        # Fifteen watt-hours a kilometre for eight of them, then twice as much.
        counted = [(0, 0.0), (4, 60.0), (8, 120.0), (12, 240.0)]
        read = [entry(at(km), trip_m=1000.0 * km, energy_wh=wh) for km, wh in counted]
        return range_test(*sorted([*read, *events], key=lambda one: one.time_s))

    eco = entry(0.5, "event", what="mode", mode="eco")
    sport = entry(at(8), "event", what="mode", mode="sport")
    values = {one["mode"]: one for one in told(metered(eco, sport), "mode_took")}
    assert set(values) == {"eco", "sport"}
    assert values["eco"]["length_m"] == pytest.approx(8000, rel=0.01)
    assert values["eco"]["wh_per_km"] == pytest.approx(15.0, rel=0.02)
    assert values["sport"]["wh_per_km"] == pytest.approx(30.0, rel=0.02)
    # One mode all the way tells nothing that the result does not.
    assert told(metered(eco), "mode_took") == []
