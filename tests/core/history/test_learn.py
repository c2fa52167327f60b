"""What earlier tests teach: a gauge's map, a pack's capacity and resistance."""

from __future__ import annotations

import json
from dataclasses import asdict, replace

import numpy as np
import polars as pl
import pytest

from demo.skerrow import ridden
from limpet.evidence.model import Ending, Entry, Instrument, Protocol, SampleSources
from limpet.files import bundle_files
from limpet.history import facts_from_json, facts_of, informed, learn, learn_from
from limpet.history.inform import taught_by
from limpet.outlook.forecast import forecast
from limpet.pack import curve_family
from limpet.pack.family import GRID
from limpet.state.calibrated import calibrated
from limpet.state.priors import Learned, Priors, Rides
from limpet.tell import analyse
from limpet.trip import Known, RoadFit, TripVehicle
from limpet.under_way import follow
from tests.strategies import PACK, accuracies, range_test
from tests.trips import routed, trip


def entry(time_s, kind="checkpoint", **values):
    return Entry(time_s=time_s, kind=kind, **values)


#: A pack that gives 13.4 Ah of its 14, and a gauge that hangs high: shown = left^0.5.
TRUE_AH = 13.4


def metered(title, to=1.0, seed=0, gauge=True, pack=PACK):
    rng = np.random.default_rng(seed)
    entries = []
    for k in range(9):
        used = to * k / 8
        reads = {"trip_m": 30_000.0 * used, "charge_ah": round(TRUE_AH * used, 2)}
        if gauge:
            shown = 100 * (1 - used) ** 0.5 + rng.normal(0, 1)
            reads["gauge"] = float(np.clip(round(shown), 0, 100))
        if k == 0:
            reads["voltage_rest_v"] = 54.6
        if k in (2, 5):
            rest = round(
                float(np.interp(1 - 0.9 * used, GRID, curve_family("nmc").volts[0])) * 13, 1
            )
            reads |= {"voltage_rest_v": rest, "voltage_load_v": rest - 1.0, "current_a": 10.0}
        kind = "start" if k == 0 else "end" if k == 8 else "stop"
        entries.append(entry(600.0 * k, kind, **reads))
    test = range_test(
        *entries, pack=pack, ending=Ending(reason="cutoff") if to == 1.0 else None,
        instruments=accuracies(charge=0.5, trip=1.0),
    )  # fmt: skip
    return replace(test, sheet=replace(test.sheet, title=title))


def by_gauge(shown=71.0):
    """Half of the pack by a gauge alone: it shows 71%."""
    return range_test(
        entry(0, "start", trip_m=0.0, gauge=100.0), entry(3000, "end", trip_m=15_000.0, gauge=shown)
    )


def half_width(quantity):
    return (quantity.high - quantity.low) / 2 / quantity.value


def test_a_gauge_that_was_learned_reads_far_better():
    # Aim of the handbook's section 18: a percent gauge alone within 20% once its map is learned.
    past = [metered(f"run {k}", seed=k) for k in range(3)]
    test = by_gauge()
    before, after = analyse(test), analyse(test, learn(past, test))
    assert half_width(before.range_to_cutoff) > 0.4
    assert half_width(after.range_to_cutoff) < 0.24
    assert after.range_to_cutoff.low < 30_000 < after.range_to_cutoff.high
    assert after.energy_used_fraction.value == pytest.approx(0.5, abs=0.06)


def test_what_was_learned_names_its_tests_and_can_be_switched_off():
    past = [metered("spring"), metered("summer", seed=1)]
    priors = learn(past, by_gauge())
    assert priors.learned["gauge_bend"].tests == ("spring", "summer")
    inputs = {item.name: item.source for item in analyse(by_gauge(), priors).inputs}
    assert inputs["gauge_bend"] == "learned: spring, summer"
    said = [n.values for n in analyse(by_gauge(), priors).warnings if n.code == "learned"]
    assert len(said) == 1
    assert said[0]["what"].startswith("the gauge")
    assert said[0]["tests"] == "2 tests: spring, summer"
    off = analyse(by_gauge(), priors.without("gauge_bend", "gauge_bottom"))
    assert {item.name: item.source for item in off.inputs}["gauge_bend"] == "assumption"


def test_a_capacity_that_was_measured_replaces_the_label():
    priors = learn([metered("to the end", gauge=False)], by_gauge())
    factor = priors.learned["capacity_factor"]
    # 13.4 Ah were drawn of a label of 14, from full to where the sag of 16 A meets 3 V a cell: a tenth is left.
    assert factor.value == pytest.approx(13.4 / 14 / 0.9, abs=0.05)
    assert factor.standard_uncertainty < 0.04
    partial = metered("half", to=0.5, gauge=False)
    before, after = (
        analyse(partial),
        analyse(partial, learn([metered("whole", gauge=False)], partial)),
    )
    assert half_width(after.range_to_cutoff) < half_width(before.range_to_cutoff)
    assert after.range_to_cutoff.value == pytest.approx(30_000, rel=0.06)


def test_resistance_is_learned_from_a_pair_of_volts():
    priors = learn([metered("noted")], by_gauge())
    # (rest − loaded)/I = 0.1 Ω at 20 °C, brought to 25 °C.
    assert priors.learned["resistance_ohm"].value == pytest.approx(0.1 * 2 ** (-5 / 25), rel=0.15)


def test_another_pack_and_another_vehicle_teach_nothing():
    other = metered("other", pack=replace(PACK, name="Gannet-9"))
    # The vehicle is the same: its gauge and what it takes are its own, the pack's numbers are not.
    assert not {"capacity_factor", "resistance_ohm"} & set(learn([other], by_gauge()).learned)
    nameless = range_test(entry(0, "start"), pack=replace(PACK, name=None))
    assert "capacity_factor" not in learn([metered("x")], nameless).learned


def test_a_test_does_not_teach_itself_and_nothing_teaches_nothing():
    test = metered("itself")
    assert learn([test], test) == Priors()
    assert learn([], test) == Priors()


def test_tests_that_differ_teach_less_surely_than_tests_that_agree():
    agree = learn([metered("a"), metered("b", seed=1)], by_gauge()).learned["gauge_bend"]
    high = [
        e if e.gauge is None else replace(e, gauge=min(100.0, e.gauge**0.5 * 10))
        for e in metered("c").entries
    ]
    differs = replace(metered("c"), entries=tuple(high))
    apart = learn([metered("a"), differs], by_gauge()).learned["gauge_bend"]
    assert apart.standard_uncertainty > agree.standard_uncertainty


def test_the_command_learns_from_the_other_bundles_of_a_folder(tmp_path, capsys):
    from limpet.cli import main

    for name, test in (("one", metered("one")), ("asked", by_gauge())):
        (tmp_path / name).mkdir()
        for file, data in bundle_files(test).items():
            (tmp_path / name / file).write_bytes(data)
    (tmp_path / "broken").mkdir()
    (tmp_path / "broken" / "test.json").write_text("{")
    assert main(["analyse", str(tmp_path / "asked"), "--with", str(tmp_path), "--json"]) == 0
    out = capsys.readouterr()
    assert '"learned: one"' in out.out
    assert out.err.startswith("broken: left out: ")
    assert main(["analyse", str(tmp_path / "asked"), "--with", str(tmp_path / "none")]) == 2
    assert "not a folder" in capsys.readouterr().err


def test_a_wheel_that_counts_too_much_is_set_right_by_tests_with_a_better_track():
    # A trip meter that shows 6% too much, beside a track good to 1%, twice; then the trip meter alone.
    def both(title, seed):
        test = metered(title, seed=seed)
        entries = tuple(replace(e, gps_m=e.trip_m / 1.06) for e in test.entries)
        tools = accuracies(charge=0.5, trip=5.0, gps=1.0)
        return replace(test, sheet=replace(test.sheet, instruments=tools), entries=entries)

    alone = metered("alone", seed=9)
    sheet = replace(alone.sheet, instruments=accuracies(charge=0.5, trip=5.0))
    alone = replace(alone, sheet=sheet)
    priors = learn([both("a", 1), both("b", 2)], alone)
    assert priors.learned["trip"].value == pytest.approx(1.06, abs=0.001)
    before, after = analyse(alone), analyse(alone, priors)
    assert before.distance.value == pytest.approx(30_000)
    assert after.distance.value == pytest.approx(30_000 / 1.06, rel=1e-3)
    assert half_width(after.distance) < 0.7 * half_width(before.distance)
    said = {notice.code: notice.values for notice in after.warnings}
    assert said["set_right"]["instrument"] == "trip meter"
    assert said["set_right"]["share"] == pytest.approx(0.06, abs=0.001)
    assert said["set_right"]["side"] == "too much"
    assert said["set_right"]["tests"] == "2 tests: a, b"
    assert "set_right" not in {notice.code for notice in before.warnings}
    # The consumption that is shown is of the same metres.
    assert after.consumption.wh_per_km.value == pytest.approx(
        1.06 * before.consumption.wh_per_km.value, rel=1e-3
    )
    assert {i.name: i.source for i in after.inputs}["trip"] == "learned: a, b"
    # Another wheel on the same vehicle is another instrument.
    named = replace(alone.sheet.instruments, trip=Instrument(accuracy_pct=5.0, name="new wheel"))
    other = replace(alone, sheet=replace(alone.sheet, instruments=named))
    assert "trip" not in learn([both("a", 1), both("b", 2)], other).learned


def test_repeats_teach_how_far_the_next_run_differs():
    def runs(spread):
        rng = np.random.default_rng(4)
        found = []
        for k in range(8):
            test = metered(f"run {k}", gauge=False)
            factor = float(np.exp(spread * rng.standard_normal()))
            entries = tuple(replace(e, trip_m=e.trip_m * factor) for e in test.entries)
            found.append(replace(test, entries=entries))
        return found

    test = metered("now", gauge=False)
    alike, apart = (learn(runs(s), test).learned["run_to_run"].value for s in (0.01, 0.15))
    assert alike < 0.065 < 0.11 < apart
    alone = analyse(test).plan_on
    surer = analyse(test, learn(runs(0.01), test)).plan_on
    assert (alone.runs, surer.runs) == (1, 9)
    assert surer.distance_m > alone.distance_m
    assert "8 earlier rides" in surer.reason


def test_a_trip_is_told_what_the_vehicles_own_rides_took():
    what = trip(vehicle=TripVehicle(kind="bicycle", name=metered("x").sheet.vehicle.name))
    facts = [facts_of(test, analyse(test)) for test in (metered("a"), metered("b", seed=1))]
    key = facts[0].pack
    priors = learn_from(facts, what.vehicle.name, key)
    told = informed(what, priors)
    shown = analyse(metered("a")).consumption.wh_per_km.value
    assert told.known_consumption_wh_per_km.value == pytest.approx(shown, rel=0.02)
    assert told.known_consumption_wh_per_km.source == "2 tests: a, b"
    assert told.known_at.speed_mps == pytest.approx(30_000 / 4800, rel=0.01)
    assert told.pack.retained_fraction.source.startswith("2 tests")
    # What is stated stays.
    stated = replace(what, known_consumption_wh_per_km=Known(value=9.0))
    assert informed(stated, priors).known_consumption_wh_per_km.value == 9.0
    measured = replace(
        what,
        pack=replace(
            what.pack, retained_fraction=Known(value=0.7), resistance_ohm=Known(value=0.3)
        ),
    )
    kept = informed(measured, priors).pack
    assert (kept.retained_fraction.value, kept.resistance_ohm.value) == (0.7, 0.3)
    answer = forecast(*routed(replace(told, draws=200)), swings=False)
    sources = {item.name: item.source for item in answer.inputs}
    assert sources["known_consumption_wh_per_km"] == "2 tests: a, b"


def test_facts_are_kept_as_json_and_read_again():
    facts = facts_of(metered("a"), analyse(metered("a")))
    assert facts_from_json(json.loads(json.dumps(asdict(facts)))) == facts


def test_rides_with_pedals_teach_no_consumption():
    test = metered("pedalled")
    helped = replace(test, sheet=replace(test.sheet, protocol=Protocol(propulsion="assist")))
    assert learn([helped], by_gauge()).rides is None


def test_a_logger_that_counts_the_wheel_is_set_right_with_it():
    time = np.arange(0.0, 3000.0, 5.0)
    frame = pl.DataFrame(
        {"time_s": time, "voltage_v": 54 - time / 900, "current_a": 6 + 0 * time, "distance_m": 6.0 * time,
         "speed_mps": 6.0 + 0 * time}
    )  # fmt: skip
    learned = Priors(learned={"trip": Learned(value=1.06, standard_uncertainty=0.01, tests=("a",))})

    def logged(source):
        tools = replace(accuracies(trip=5.0), samples=SampleSources(distance=source))
        return range_test(samples=frame, instruments=tools)

    shown = 6.0 * time[-1]
    assert analyse(logged("trip"), learned).distance.value == pytest.approx(shown / 1.06)
    assert analyse(logged("gps"), learned).distance.value == pytest.approx(shown)
    # What was recorded stays as it is.
    assert calibrated(logged("trip"), learned).samples["speed_mps"][0] == pytest.approx(6 / 1.06)
    assert frame["speed_mps"][0] == 6.0


def test_a_gauge_is_pooled_over_the_vehicles_tests_and_printed(tmp_path, capsys):
    from limpet.cli import main

    past = [metered(f"run {k}", seed=k) for k in range(3)]
    pooled = learn(past, by_gauge()).gauge
    assert [step.shown for step in pooled] == sorted((s.shown for s in pooled), reverse=True)
    left = [step.energy_left_fraction.value for step in pooled]
    assert left == sorted(left, reverse=True)
    # The generator's gauge shows left^0.5: 70% shown is half of the pack.
    at = {round(step.shown, 2): step for step in pooled}
    near = min(at, key=lambda shown: abs(shown - 0.70))
    assert at[near].energy_left_fraction.value == pytest.approx(near**2, abs=0.05)
    assert at[near].energy_left_fraction.low < near**2 < at[near].energy_left_fraction.high
    assert {title for step in pooled for title in step.tests} == {"run 0", "run 1", "run 2"}
    # Steps that only one test saw are less sure than those that three agree on.
    assert learn(past[:1], by_gauge()).gauge
    assert learn([], by_gauge()).gauge == ()
    for name, test in (("one", past[0]), ("two", past[1]), ("asked", by_gauge())):
        (tmp_path / name).mkdir()
        for file, data in bundle_files(test).items():
            (tmp_path / name / file).write_bytes(data)
    assert main(["analyse", str(tmp_path / "asked"), "--with", str(tmp_path)]) == 0
    out = capsys.readouterr().out
    assert "What the gauge meant, over 2 tests" in out
    assert "A percent, above half lasted" in out
    assert analyse(by_gauge(), learn(past, by_gauge())).to_json()["gauge_pooled"][0]["shown"] == 1.0


def test_what_is_shown_as_taught_is_what_is_filled_in():
    found = Priors(
        learned={
            "capacity_factor": Learned(value=0.9, standard_uncertainty=0.02, tests=("A",)),
            "resistance_ohm": Learned(value=0.2, standard_uncertainty=0.02, tests=("A", "B")),
        },
        rides=Rides(wh_per_km=Learned(value=9.0, standard_uncertainty=0.3, tests=("B",))),
    )
    asked = trip()
    assert taught_by(asked, found) == {
        "consumption": ("B",),
        "capacity": ("A",),
        "resistance": ("A", "B"),
    }
    told = informed(asked, found)
    assert told.pack.retained_fraction.value == 0.9
    assert told.known_consumption_wh_per_km.value == 9.0
    # What was stated, and what was filled in just now, is taught by nobody.
    assert taught_by(told, found) == {}
    fit = RoadFit(names=("crr",), values=(0.01,), covariance=((1e-6,),), tests=1, titles=("C",))
    fitted = replace(asked, vehicle=replace(asked.vehicle, fit=fit))
    assert taught_by(fitted, found)["road"] == ("C",)
    assert "consumption" not in taught_by(fitted, found)
    assert informed(fitted, found).known_consumption_wh_per_km is None
    assert taught_by(asked, replace(found, road=fit))["road"] == ("C",)
    assert informed(asked, replace(found, road=fit)).vehicle.fit == fit


def test_facts_keep_what_a_packs_life_is_made_of_of_one_pack():
    test = metered("Whole")
    result = analyse(test)
    found = facts_of(test, result)
    warm = result.pack.at_25_degc.capacity_ah
    assert found.capacity_ah == (warm.value, warm.standard_uncertainty)
    assert found.retained_at_25c == pytest.approx((warm.value / 14, warm.standard_uncertainty / 14))
    ridden_ah = result.pack.capacity_ah
    assert found.retained == pytest.approx(
        (ridden_ah.value / 14, ridden_ah.standard_uncertainty / 14)
    )
    assert found.retained_at_25c[0] > found.retained[0]
    assert found.charge_ah == pytest.approx(TRUE_AH, rel=0.01)
    worn = replace(test.sheet.pack, equivalent_full_cycles=120)
    two = replace(test, sheet=replace(test.sheet, pack=worn, packs_used=2, packs_use="in_parallel"))
    both = facts_of(two, analyse(two))
    assert both.cycles == 120
    assert both.charge_ah == pytest.approx(TRUE_AH / 2, rel=0.01)


def test_facts_keep_the_bands_of_speed_of_a_logged_ride():
    test = ridden("turnstone-frost")
    result = analyse(test)
    kept = facts_of(test, result).bands
    legs = [leg for leg in result.legs if leg.by == "speed"]
    assert [band[0] for band in kept] == [leg.name for leg in legs]
    assert kept[0][1:3] == (legs[0].distance_m, legs[0].wh_per_km.value)


def promising(title, factor, frozen=False, seed=0):
    """A metered ride whose display promises so many times what is to come, or stands still."""
    test = metered(title, gauge=False, seed=seed)
    entries = [
        replace(
            item, shown_range_m=60_000.0 if frozen else round(factor * (30_000.0 - item.trip_m), -2)
        )
        for item in test.entries
        if item.trip_m is not None
    ]
    return replace(test, entries=tuple(entries))


def test_what_came_of_a_displays_promises_is_a_fact_of_a_ride():
    for factor in (0.8, 1.5):
        test = promising("one", factor)
        value, std = facts_of(test, analyse(test)).came_of_shown
        assert value == pytest.approx(1 / factor, rel=0.05)
        assert 0.01 < std / value < 0.15
    assert facts_of(test, analyse(metered("none"))).came_of_shown is None


def test_a_display_that_stood_still_counts_once():
    test = promising("frozen", 1.0, frozen=True)
    value, std = facts_of(test, analyse(test)).came_of_shown
    # Its first promise of 60 km, of which 30 came.
    assert value == pytest.approx(0.5, rel=0.05)
    assert std / value >= 0.15


def test_a_vehicle_teaches_what_its_display_is_worth():
    earlier = [promising(f"ride {k}", 1.5, seed=k) for k in range(3)]
    now = range_test(
        Entry(time_s=0.0, kind="start", trip_m=0.0),
        Entry(time_s=1200.0, kind="checkpoint", trip_m=8000.0, shown_range_m=33_000.0),
    )
    priors = learn(earlier, now)
    found = priors.learned["came_of_shown"]
    assert found.value == pytest.approx(1 / 1.5, rel=0.05)
    assert found.standard_uncertainty / found.value == pytest.approx(0.12, abs=0.005)
    only = Priors(learned={"came_of_shown": found})
    wide, told = follow(now).range_left_to_cutoff, follow(now, priors=only).range_left_to_cutoff
    assert told.relative < 0.8 * wide.relative
    # 33 km were promised, 22 come.
    assert told.value == pytest.approx(22_000, rel=0.25)
    assert abs(told.value - 22_000) < abs(wide.value - 22_000)
