"""The practice ride: its truth holds together, its log is judged as a real one, slips cost what they cost."""

import json
from dataclasses import replace

import pytest

from limpet.evidence.model import Entry
from limpet.practice import PracticeLog, practice_ride, review, said_of, slip_said
from limpet.practice.quality import HASTY_S
from limpet.readers import METRIC
from tests.core.practice.rides import rehearsed
from tools.make_practice import made


@pytest.fixture(scope="module")
def careful():
    return review(rehearsed(8000.0))


@pytest.fixture(scope="module")
def hasty():
    return review(rehearsed(8000.0, waits_s=10.0))


def lesson(found, code):
    return next(one for one in found.lessons if one.code == code)


def cost(found, code):
    return next(one for one in found.costs if one.code == code)


def test_the_file_is_what_the_stand_in_rides():
    assert json.loads(json.dumps(made())) == practice_ride().said


def test_a_way_home_goes_on_where_the_way_out_turns():
    ride = practice_ride()
    for way in ride.ways:
        begins = way.rows.at(way.rows.time_s[0])
        out = ride.out.at(way.rows.time_s[0])
        assert begins.distance_m == pytest.approx(way.turn_m, abs=6)
        assert out.distance_m == pytest.approx(begins.distance_m, abs=6)
        assert out.used_wh == pytest.approx(begins.used_wh, abs=0.3)
        assert way.home == (way.rows.at(1e9).distance_m > 2 * way.turn_m - 10)


def test_there_is_a_last_stone_from_which_one_comes_home(careful):
    homes = [way.home for way in practice_ride().ways]
    assert homes == sorted(homes, reverse=True)
    assert careful.turn.last_home_m == 1000.0 * sum(homes)
    assert 0 < careful.turn.last_kept_m < careful.turn.last_home_m
    assert careful.turn.turned_m == 8000.0


def test_stops_are_left_out_of_the_riding():
    log = rehearsed(8000.0)
    without = rehearsed(8000.0, ())
    end, other = log.entries[-1].time_s, without.entries[-1].time_s
    assert end == pytest.approx(other + 2 * (240.0 + 5.0))
    assert log.moving_s(end) == pytest.approx(without.moving_s(other))
    assert log.place(end) == without.place(other)
    assert log.stood_s(700.0 + 100) == pytest.approx(100.0)
    assert log.stood_s(600.0) is None
    # Standing takes nothing out of the pack and moves nobody.
    assert log.place(700.0 + 10) == log.place(700.0 + 200)


def test_what_is_known_at_each_entry_holds_the_truth(careful):
    assert careful.home
    assert careful.over
    assert careful.told[0].left_truly == pytest.approx(1.0, abs=0.001)
    assert careful.left_truly == pytest.approx(careful.told[-1].left_truly)
    for one in careful.told:
        assert one.left.low - 0.01 <= one.left_truly <= one.left.high + 0.01
    assert careful.range_to_cutoff.low < careful.range_truly_m < careful.range_to_cutoff.high


def test_a_careful_log_has_no_slip_but_the_turn(careful):
    assert [one.code for one in careful.costs] in ([], ["forgot_turn"])
    assert lesson(careful, "settle").state == "met"
    assert lesson(careful, "half_way").state == "met"
    assert lesson(careful, "half_way").values["out"] < 0.5


def test_haste_costs_width_and_truth(hasty):
    slips = [one for one in hasty.costs if one.code == "hasty"]
    assert len(slips) == 2
    assert slips[0].with_half < slips[0].half
    assert abs(slips[0].with_off) < abs(slips[0].off)
    said = lesson(hasty, "settle")
    assert said.state == "missed"
    assert said.values["waited_s"] == pytest.approx(10.0)
    assert said.values["read_v"] < said.values["truly_v"]


def test_who_waits_long_enough_is_not_hasty():
    log = rehearsed(8000.0, waits_s=HASTY_S)
    assert not [one for one in review(log).costs if one.code == "hasty"]


def test_pulling_is_not_resting():
    found = review(rehearsed(8000.0, mistakes=True))
    said = lesson(found, "pulling")
    assert said.state == "missed"
    assert said.values["read_v"] < said.values["truly_v"] - 0.5
    slip = cost(found, "mistaken")
    assert slip.off < 0 < slip.half - slip.with_half
    # Said for what it was, it is no mistake.
    log = rehearsed(8000.0, mistakes=True)
    honest = [
        replace(one, voltage_rest_v=None, voltage_load_v=one.voltage_rest_v)
        if one.kind == "checkpoint"
        else one
        for one in log.entries
    ]
    assert lesson(review(log.with_entries(honest)), "pulling").state == "met"


def test_what_was_forgotten_is_told_with_what_it_would_have_told():
    found = review(rehearsed(8000.0, (), starts=False, ends=False))
    # That it began full was said; a voltage at the start would have told nothing more.
    assert {one.code for one in found.costs} == {"forgot_turn", "forgot_end"}
    for code in ("forgot_turn", "forgot_end"):
        assert cost(found, code).with_half < 0.55 * cost(found, code).half
    assert found.range_to_cutoff is None


def test_whoever_turns_too_late_is_stranded():
    found = review(rehearsed(12000.0))
    assert not found.home
    assert found.over
    assert found.left_truly == pytest.approx(0.0, abs=0.06)
    assert lesson(found, "half_way").state == "missed"
    assert found.distance_m < 24_000


def test_the_last_bar_is_noted_where_it_came_on():
    log = rehearsed(8000.0)
    came = lesson(review(log), "last_step")
    assert came.state == "missed"
    assert 0.1 < came.values["left"] < 0.5
    way = log.way
    at_s = way.rows.when(came.values["at_m"]) + 2 * 245.0
    noted = Entry(time_s=at_s, kind="checkpoint", gauge=1.0)
    assert lesson(review(log.with_entries([*log.entries, noted])), "last_step").state == "met"


def test_many_entries_that_tell_nothing_more_are_enough():
    many = rehearsed(8000.0, tuple(range(200, 2600, 300)))
    said = lesson(review(many), "enough")
    assert said.state in ("met", "missed")
    assert said.values["noted"] == 10
    assert (said.state == "missed") == (said.values["few_m"] <= 1.25 * said.values["all_m"])


def test_a_ride_that_was_given_up_on_the_way_out():
    ride = practice_ride()
    start = Entry(time_s=0.0, kind="start", voltage_rest_v=42.0, trip_m=0.0)
    found = review(PracticeLog(ride, (start, Entry(time_s=300.0, kind="end"))))
    assert not found.over
    assert not found.home
    assert found.turn.turned_m is None
    assert lesson(found, "half_way").state == "untried"


def test_every_word_has_its_values():
    rides = (
        rehearsed(8000.0),
        rehearsed(12000.0, waits_s=10.0),
        rehearsed(8000.0, mistakes=True),
        rehearsed(9000.0, (), starts=False, ends=False),
    )

    for log in rides:
        found = review(log)
        for one in found.lessons:
            assert said_of(one.code, one.state, one.values, METRIC)
        for one in found.costs:
            assert slip_said(one.code, one.values, METRIC)
