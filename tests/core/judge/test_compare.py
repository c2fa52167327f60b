"""Verdicts: what is shown and what is not, what is common cancels, and Student's interval against SciPy."""

from __future__ import annotations

import json
from dataclasses import replace
from math import exp, expm1, log, sqrt
from pathlib import Path

import pytest
from scipy import stats

from demo.skerrow import ridden
from limpet.assumptions import CHARGER, RUN_CARRIED
from limpet.cli import main
from limpet.files import write_zip
from limpet.judge import compare
from limpet.judge.comparand import Figure
from limpet.judge.pairs import pairs_of
from limpet.readers import METRIC
from tests.calibration.pairs import judged
from tests.core.judge.kit import place, seen


def codes(notices):
    return [notice.code for notice in notices]


def test_half_as_much_again_is_shown_and_told_by_the_names_of_the_vehicles():
    answer = compare([seen("a", 10.0)], [seen("b", 15.0, vehicle="Dotterel")])
    assert (answer.verdict, answer.question, answer.quantity) == (
        "first_less",
        "vehicle",
        "wh_per_km",
    )
    assert answer.relative_difference.value == pytest.approx(0.5, rel=0.01)
    assert answer.difference.value == pytest.approx(5.0, rel=0.02)
    said = answer.reasons[0].said(METRIC)
    assert said.startswith("Plover uses *33% less energy* per kilometre (")
    swapped = compare([seen("b", 15.0, vehicle="Dotterel")], [seen("a", 10.0)])
    assert swapped.verdict == "second_less"
    assert swapped.relative_difference.value == pytest.approx(1 / 1.5 - 1, rel=0.01)


def test_a_difference_of_a_hundredth_is_not_shown_and_says_what_would_show_it():
    answer = compare([seen("a", 10.0)], [seen("b", 10.1)])
    assert answer.verdict == "no_difference_shown"
    assert codes(answer.reasons) == ["compare_none", "compare_many"]
    assert 0.05 < answer.smallest_seen < 0.2
    assert answer.wanted == 0.05
    more = answer.runs_needed
    assert 2 <= more <= 20
    # Ridden so often, the same difference of five in a hundred is seen.
    ones = [seen(f"a{k}", 10.0) for k in range(more + 1)]
    twos = [seen(f"b{k}", 10.0) for k in range(more + 1)]
    assert compare(ones, twos).smallest_seen <= 0.055


def test_one_run_is_never_mistaken_for_many():
    one = compare([seen("a", 10.0)], [seen("b", 10.8)])
    many = compare([seen(f"a{k}", 10.0) for k in range(6)], [seen(f"b{k}", 10.8) for k in range(6)])
    assert (one.verdict, many.verdict) == ("no_difference_shown", "first_less")
    assert "compare_single" in codes(one.warnings)
    assert "compare_single" not in codes(many.warnings)


def test_what_is_common_cancels():
    def half(**more):
        far = {"figures": {"wh_per_km": Figure(value=10.0, std=0.8, parts=(("energy", 0.97),))}}
        answer = compare([seen("a", **far)], [seen("b", **far, **more)])
        return (answer.relative_difference.high - answer.relative_difference.low) / 2

    same, other = half(), half(instruments={"energy": "Shunt", "trip": None})
    assert same < 0.6 * other
    # Eight in a hundred of either, of instruments of their own: √2 · 8%, and the runs' own spread.
    assert other > 1.9 * 0.08 * 2**0.5


def test_two_single_runs_differ_by_what_runs_do():
    bare = {"wh_per_km": Figure(value=10.0, std=0.0)}
    answer = compare([seen("a", figures=bare)], [seen("b", figures=bare)])
    half = (answer.relative_difference.high - answer.relative_difference.low) / 2
    spread = log(1 + RUN_CARRIED.std)
    assert half > stats.t.ppf(0.975, 8) * spread * 2**0.5 * 0.8


def test_conditions_are_set_right_before_anything_is_said():
    calm, gale = seen("a", 10.0), seen("b", 13.0, wind_mps=8.0, load_kg=100.0)
    answer = compare([calm], [gale])
    assert answer.verdict == "no_difference_shown"
    assert answer.as_found.value == pytest.approx(3.0, rel=0.01)
    worth = {item.name: item.change.value for item in answer.corrections}
    assert worth["wind"] < -1.0
    assert worth["load"] < -0.5
    assert {item.applied_to for item in answer.corrections} == {"second"}
    # In what more than the question they differ comes right behind the verdict.
    assert codes(answer.reasons)[:2] == ["compare_none", "compare_differs"]
    by_run = {run.key: run for run in answer.runs}
    assert by_run["b"].as_found.value == pytest.approx(13.0, rel=0.01)
    assert by_run["b"].carried.value == pytest.approx(13.0 + sum(worth.values()), rel=0.02)


def both(value, **more):
    return {
        "wh_per_km": Figure(value=10.0, std=0.1),
        "range_to_cutoff": Figure(value=value, std=0.01 * value),
        **more,
    }


def test_packs_are_compared_by_what_they_hold_and_else_by_how_far():
    kept = {"retained_fraction": Figure(value=0.96, std=0.02)}
    worn = {"retained_fraction": Figure(value=0.70, std=0.02)}
    one, two = (
        seen("a", figures=both(40e3, **kept)),
        seen("b", figures=both(30e3, **worn), pack="Worn"),
    )
    answer = compare([one], [two])
    assert (answer.question, answer.quantity, answer.verdict) == (
        "pack",
        "retained_fraction",
        "second_less",
    )
    far = compare([one], [replace(two, figures=both(30e3))])
    assert (far.quantity, far.verdict, far.unit) == ("range_to_cutoff", "second_less", "m")
    assert far.reasons[0].said(METRIC).startswith("Worn goes") or "goes" in far.reasons[0].said(
        METRIC
    )


def test_the_range_of_another_pack_says_nothing_of_a_vehicle():
    one = seen("a", figures=both(40e3))
    two = seen("b", figures=both(20e3), pack="Half", vehicle="Dotterel")
    answer = compare([one], [two])
    assert (answer.question, answer.quantity) == ("vehicle", "wh_per_km")
    assert codes(answer.reasons)[1] == "compare_packs"


def test_where_the_cold_is_the_question_it_stays():
    one = seen("a", purpose="temperature", figures=both(40e3))
    two = seen("b", purpose="temperature", figures=both(30e3), temp_c=-6.0)
    asked = compare([one], [two])
    assert asked.question == "temperature"
    assert "temperature" not in {item.name for item in asked.corrections}
    set_right = compare([one], [two], "repeat")
    assert "temperature" in {item.name for item in set_right.corrections}


@pytest.mark.parametrize(
    ("first", "second", "code"),
    [
        ([], [seen("b")], "compare_too_few"),
        ([seen("a")], [], "compare_too_few"),
        ([seen("a")], [seen("a")], "compare_same"),
        ([seen(f"a{k}") for k in range(31)], [seen("b")], "compare_too_many"),
        ([seen("a")], [seen("b", assisted=True)], "compare_assisted"),
        (
            [seen("a", assisted=True, pedal_w=90.0), seen("c")],
            [seen("b", assisted=True)],
            "compare_assisted",
        ),
        ([seen("a")], [seen("b", figures={})], "compare_no_figure"),
        # Each tells something, and nothing that the other tells too.
        (
            [seen("a")],
            [seen("b", figures={"range_to_cutoff": Figure(value=30e3, std=300.0)})],
            "compare_no_figure",
        ),
    ],
)
def test_what_cannot_be_compared_is_said_in_a_sentence(first, second, code):
    answer = compare(first, second)
    assert answer.verdict == "not_comparable"
    assert codes(answer.reasons) == [code]
    assert json.loads(json.dumps(answer.to_json()))["difference"] is None


def test_an_order_that_goes_with_the_day_is_warned_of():
    def at(key, hour):
        return seen(key, started_at=f"2026-05-14T{hour:02d}:00:00+00:00")

    one_after_other = compare([at("a", 9), at("c", 10)], [at("b", 11), at("d", 12)])
    assert "compare_order" in codes(one_after_other.warnings)
    turn_about = compare([at("a", 9), at("d", 12)], [at("b", 10), at("c", 11)])
    assert "compare_order" not in codes(turn_about.warnings)


def test_a_speed_that_nobody_knows_makes_it_unsure():
    known, unknown = (
        compare([seen("a")], [seen("b")]),
        compare([seen("a")], [seen("b", speed_mps=None)]),
    )
    assert unknown.smallest_seen > 2 * known.smallest_seen
    assert "compare_no_speed" in codes(unknown.warnings)


def test_rides_are_paired_by_place_then_by_lap_then_by_distance():
    hut, light = place("Hut", 2000, 20.0), place("Light", 5000, 55.0)
    back = place("Hut", 8000, 80.0)
    one = seen("a", places=(hut, light, back))
    two = seen(
        "b", places=(place("Hut", 2050, 26.0), place("Farm", 3000, 30.0), place("Hut", 8100, 99.0))
    )
    found = pairs_of(one, two)
    assert [(pair.by, pair.name, pair.more_wh) for pair in found] == [
        ("place", "Hut", 6.0), ("place", "Hut", 19.0),
    ]  # fmt: skip
    laps = seen("c", places=(place(None, 1700, 15.0, 1.0), place(None, 3400, 31.0, 2.0)))
    others = seen("d", places=(place(None, 1720, 18.0, 1.0), place(None, 2600, None, 1.5)))
    assert [(pair.by, pair.name, pair.more_wh) for pair in pairs_of(laps, others)] == [
        ("lap", "1", 3.0)
    ]
    far = seen("e", places=(place(None, 4000, 40.0), place(None, 9000, None)))
    near = seen("f", places=(place(None, 4100, 44.0), place(None, 9900, 90.0)))
    assert [(pair.by, pair.more_wh) for pair in pairs_of(far, near)] == [("distance", 4.0)]
    assert pairs_of(far, seen("g")) == ()
    warm = seen("h", places=(replace(hut, temp_c=18.5),))
    assert pairs_of(warm, one)[0].first.temp_c == 18.5


def test_the_json_is_that_of_compare_md():
    told = compare([seen("a", 10.0)], [seen("b", 15.0, vehicle="Dotterel", wind_mps=5.0)]).to_json()
    assert told["limpet_compare"] == 1
    assert set(told) == {
        "judged_by", "run_spread", "learned_runs", "limpet_compare", "verdict", "question", "quantity", "difference", "relative_difference",
        "as_found", "corrections", "runs", "smallest_seen", "wanted", "alike_runs", "alike_seen", "settle_runs", "along", "runs_needed", "paired",
        "reasons", "warnings",
    }  # fmt: skip
    assert told["difference"]["unit"] == "Wh/km"
    assert set(told["corrections"][0]) == {"name", "applied_to", "wh_per_km"}
    assert exp(log(told["difference"]["value"])) == told["difference"]["value"]


def test_verdicts_are_right_as_often_as_they_say():
    """A seeded part of `./limpet bench verdicts`, by a simulator that shares no model with the core."""
    none, fifth = judged(0.0, 16), judged(0.2, 32)
    assert none.shown <= 2
    # Of 120 such pairs on one course 110 showed it; of sixteen here all but two.
    assert fifth.shown_on_one_course >= 0.87
    assert fifth.wrong_way == 0
    assert none.held + fifth.held >= 1.8


def test_the_command_keeps_what_is_asked_about_in_both_tables(tmp_path, capsys):
    paths = [str(tmp_path / f"{slug}.zip") for slug in ("turnstone-quay-cutoff", "turnstone-frost")]
    for path in paths:
        Path(path).write_bytes(write_zip(ridden(Path(path).stem)))
    told = {}
    for question in ("repeat", "temperature"):
        assert main(["compare", *paths, "--question", question, "--json"]) == 0
        asked = json.loads(capsys.readouterr().out)
        second = asked["terms"]["second"]
        run = next(run for run in asked["runs"] if run["side"] == "second")
        if asked["quantity"] == "range_to_cutoff":
            assert second["range_m"] == pytest.approx(run["carried"]["value"], rel=1e-6)
        else:
            paid = second["socket_wh_per_km"] * CHARGER.value
            assert paid == pytest.approx(run["carried"]["value"], rel=1e-6)
        told[question] = second["range_m"]
    # In the frost it went less far, and it is the frost that is asked about.
    assert told["temperature"] < 0.97 * told["repeat"]


def test_the_command_compares_bundles_and_refuses_what_is_none(tmp_path, capsys):
    for slug in ("knot-2024-9", "knot-2026-9"):
        (tmp_path / f"{slug}.zip").write_bytes(write_zip(ridden(slug)))
    paths = [str(tmp_path / f"{slug}.zip") for slug in ("knot-2024-9", "knot-2026-9")]
    assert main(["compare", *paths, "--units", "km"]) == 0
    words = capsys.readouterr().out
    assert "has kept" in words
    assert "A  Quay loop till empty, autumn 2024" in words
    assert main(["compare", *paths, "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert (told["verdict"], told["judged_by"], told["learned_runs"]) == (
        "second_less",
        "interval",
        0,
    )
    assert told["terms"]["second"]["floor_m"] < told["terms"]["second"]["range_m"]
    # The same two in another folder are the same two.
    (tmp_path / "elsewhere").mkdir()
    again = [Path(path).rename(tmp_path / "elsewhere" / Path(path).name) for path in paths]
    assert main(["compare", *map(str, again), "--json"]) == 0
    assert json.loads(capsys.readouterr().out) == told
    for path, moved in zip(paths, again, strict=True):
        moved.rename(path)
    others = tmp_path / "others"
    others.mkdir()
    for slug in ("knot-2025-3", "knot-2025-9", "knot-2026-3"):
        (others / f"{slug}.zip").write_bytes(write_zip(ridden(slug)))
    assert main(["compare", *paths, "--with", str(others), "--units", "km"]) == 0
    assert "bad day: 19 rides in 20 go further" in capsys.readouterr().out
    assert main(["compare", *paths, "--with", str(others), "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["learned_runs"] == 3
    assert main(["compare", *paths, "--with", str(tmp_path / "nowhere")]) == 2
    # The folder of the two themselves teaches nothing.
    capsys.readouterr()
    assert main(["compare", *paths, "--with", str(tmp_path), "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["learned_runs"] == 0
    assert main(["compare", paths[0]]) == 2
    assert "2 to 60 bundles" in capsys.readouterr().err
    assert main(["compare", *paths, "--first", "2"]) == 2
    assert "at least one bundle for each side" in capsys.readouterr().err
    assert main(["compare", paths[0], str(tmp_path / "none.zip")]) == 2


def test_what_more_such_runs_cannot_show_runs_alike_can():
    """Two vehicles with two meters: more of the same never tell them apart by 1%."""
    far = compare([seen("a")], [seen("b", 10.001, vehicle="Ruff")], "vehicle", 0.01)
    assert far.runs_needed is None
    # Student's t of six pairs, 8 + 6 − 1 freedoms, with four chances of five, over √(2·0.025²/6).
    assert far.alike_runs == 6
    expected = expm1((stats.t.ppf(0.975, 13) + 0.8416) * log(1.025) * sqrt(2 / 6))
    assert far.alike_seen == pytest.approx(expected, rel=1e-6)
    (sentence,) = [notice for notice in far.reasons if notice.code == "compare_never"]
    assert "6 of each would show" in sentence.message
    shown = compare([seen("a")], [seen("b", 14.0)])
    assert (shown.alike_runs, shown.alike_seen) == (None, None)


def test_a_pack_that_changed_between_two_tests_is_said_and_what_can_be_said_still_is():
    one = seen("a", pack="1", label="nmc, 13 in series, 14 Ah")
    two = seen("b", 15.0, pack="2", label="nmc, 13 in series, 17.5 Ah")
    answer = compare([one], [two], "vehicle")
    assert "compare_pack_changed" in codes(answer.warnings)
    assert answer.verdict == "first_less"
    named = replace(two, pack_name="Eider-2")
    assert "compare_pack_changed" not in codes(compare([one], [named], "vehicle").warnings)


@pytest.mark.parametrize(
    ("first", "second", "told"),
    [
        ("2026-09-12T10:00:00+00:00", "2024-09-12T10:00:00+00:00", True),
        ("2024-09-12T10:00:00+00:00", "2026-09-12T10:00:00+00:00", False),
        # The same hour in two zones: text would put the second first.
        ("2026-09-12T10:00:00+05:00", "2026-09-12T09:00:00+00:00", False),
        ("2026-09-12T10:00:00", "2024-09-12T10:00:00+00:00", False),
    ],
)
def test_clocks_that_say_the_second_ride_came_first_are_told(first, second, told):
    kept = {"retained_fraction": Figure(value=0.9, std=0.02)}
    one = seen("a", started_at=first, figures=kept)
    two = seen("b", started_at=second, figures=kept)
    assert ("compare_clocks" in codes(compare([one], [two], "pack").warnings)) is told


def test_places_are_paired_for_single_rides_and_not_for_groups():
    places = (place("mill", 2000, 20.0), place("light", 4000, 42.0))
    tests = [replace(seen(key), places=places) for key in "abcd"]
    assert len(compare(tests[:1], tests[1:2]).pairs) == 2
    assert compare(tests[:2], tests[2:]).pairs == ()


def test_a_pedalled_ride_is_held_against_one_without_by_the_watts_that_were_told():
    helped = seen("b", 7.0, assisted=True, pedal_w=40.0)
    answer = compare([seen("a", 10.0)], [helped])
    assert "pedalling" in {change.name for change in answer.corrections}
    assert answer.as_found.value < -2.5 < answer.difference.value
    (told,) = (n for n in answer.warnings if n.code == "compare_legs_carried")
    assert "40 W" in told.message


def test_what_legs_give_can_be_the_question():
    answer = compare([seen("a", 10.0)], [seen("b", 6.0, assisted=True)], "pedalling")
    assert answer.verdict == "second_less"
    assert "pedalling" not in {change.name for change in answer.corrections}
    assert not {"compare_legs_carried", "compare_legs_unknown"} & set(codes(answer.warnings))


def test_two_rides_with_help_that_nobody_measured_say_so():
    answer = compare([seen("a", assisted=True)], [seen("b", assisted=True)])
    plain = compare([seen("a")], [seen("b")])
    assert "compare_legs_unknown" in codes(answer.warnings)
    assert answer.smallest_seen > 1.5 * plain.smallest_seen


def test_what_a_pack_keeps_is_told_whoever_pushed():
    kept = {"retained_fraction": Figure(value=0.96, std=0.02)}
    worn = {"retained_fraction": Figure(value=0.70, std=0.02)}
    one = seen("a", figures=both(40e3, **kept))
    two = seen("b", figures=both(30e3, **worn), pack="Worn", assisted=True)
    answer = compare([one], [two])
    assert (answer.quantity, answer.verdict) == ("retained_fraction", "second_less")
    assert not {"compare_legs_carried", "compare_legs_unknown"} & set(codes(answer.warnings))
    assert codes(compare([one], [two], "vehicle").reasons) == ["compare_assisted"]


def test_the_test_that_lacks_what_is_asked_is_the_one_that_is_named():
    empty = seen("b", figures={})
    answer = compare([seen("a"), seen("c")], [empty], "vehicle")
    assert answer.verdict == "not_comparable"
    assert "Ride b" in answer.reasons[0].message
    other = compare([empty], [seen("a"), seen("c")], "vehicle")
    assert "Ride b" in other.reasons[0].message


def test_ends_of_two_kinds_are_held_against_a_range_and_not_against_a_consumption():
    far = Figure(value=60_000.0, std=2000.0, parts=())
    ranged = {"range_to_cutoff": far}
    one = seen("a", reached_end=True, figures=ranged, pack="1", pack_name="One")
    two = seen("b", figures=ranged, pack="2", pack_name="Two")
    answer = compare([one], [two], "pack")
    assert answer.quantity == "range_to_cutoff"
    assert "compare_ends" in [notice.code for notice in answer.warnings]
    used = compare([seen("a", reached_end=True)], [seen("b", vehicle="Ruff")], "vehicle")
    assert used.quantity == "wh_per_km"
    assert "compare_ends" not in [notice.code for notice in used.warnings]


@pytest.mark.parametrize("second", [10.1, 10.6, 9.4])
def test_what_would_settle_it_is_one_number_of_rides_in_the_sentence_and_in_the_offer(second):
    answer = compare([seen("a", 10.0)], [seen("b", second)])
    assert answer.verdict == "no_difference_shown"
    told = next(notice for notice in answer.reasons if "runs" in notice.values)
    assert told.values["runs"] == answer.settle_runs <= 6
    few = answer.runs_needed is not None and answer.runs_needed <= 6
    assert told.code == ("compare_runs" if few else "compare_many")
    assert answer.settle_runs == (answer.runs_needed if few else answer.alike_runs)
    # Once it is shown there is nothing to settle.
    assert compare([seen("a", 10.0)], [seen("b", 16.0)]).settle_runs is None


def test_what_would_have_been_seen_goes_the_way_of_what_was_found():
    """Of something less, never more than all of it: 153% above is 60% below."""
    more = compare([seen("a", 10.0)], [seen("b", 10.1)])
    less = compare([seen("b", 10.1)], [seen("a", 10.0)])
    assert 0 < less.smallest_seen < 1
    assert less.smallest_seen < more.smallest_seen
    assert (1 + more.smallest_seen) * (1 - less.smallest_seen) == pytest.approx(1, rel=0.02)
