"""The promise's clauses: which weather it is for, how long, and what other weather makes of it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from demo.skerrow import ridden
from limpet.cli import main
from limpet.evidence.model import Conditions
from limpet.figures.plan_on import MONTHS, WITHIN_C
from limpet.files import write_folder
from limpet.pack.chemistry import capacity_factor
from limpet.road.surface import TYRE_PER_C
from limpet.tell import analyse


def plan(conditions, **pack):
    test = ridden("turnstone-quay-cutoff")
    sheet = replace(
        test.sheet, conditions=conditions, pack=replace(test.sheet.pack, **pack)
    )  # fmt: skip
    test = replace(
        test, sheet=sheet, entries=tuple(replace(e, air_temp_c=None) for e in test.entries)
    )
    return analyse(test).plan_on


def at(temp_c, **pack):
    return plan(Conditions(temp_start_c=temp_c, temp_end_c=temp_c), **pack)


def test_it_says_which_weather_and_how_long():
    told = at(14.0)
    assert (told.temp_c, told.temp_assumed, told.within_c) == (14.0, False, WITHIN_C)
    # 0.2/0.0042 months and 0.2/0.0004 cycles are usual for 80%: an eighth of each, the cycles in tens.
    assert (told.months, told.cycles) == (MONTHS, 60.0)
    assert [row.temp_c for row in told.in_weather] == [-10, 0, 10, 20, 30]


def test_nobody_noted_how_warm_it_was():
    told = plan(None)
    assert told.temp_assumed
    # Mild weather is no surer than what is told of it.
    mild = next(row for row in told.in_weather if row.temp_c == 20)
    known = next(row for row in at(20.0).in_weather if row.temp_c == 20)
    assert mild.distance_m < known.distance_m


def test_the_colder_the_less_and_by_what_the_cold_takes_and_the_air():
    rows = {row.temp_c: row.distance_m for row in at(20.0).in_weather}
    assert list(rows.values()) == sorted(rows.values())
    # By hand: what the pack gives; air that is 293.15/273.15 as dense and rubber that is 16% stiffer, of which
    # each has between a third and two thirds of what a kick scooter takes.
    cold = capacity_factor("nmc", 0.0) / capacity_factor("nmc", 20.0)
    air, tyres = 293.15 / 273.15 - 1, 20 * TYRE_PER_C[0]
    least, most = (cold / (1 + share * air + (0.95 - share) * tyres) for share in (0.33, 0.67))
    # The twentieth ride is one of the colder ones, and of those whose change was more than reckoned.
    assert 0.92 * least < rows[0] / rows[20] < 1.02 * most


def test_weather_like_the_rides_own_is_what_the_promise_is_for():
    told = at(20.0)
    near = next(row.distance_m for row in told.in_weather if row.temp_c == 20)
    # Five degrees either way are a little surer than eight.
    assert told.distance_m <= near
    assert near == pytest.approx(told.distance_m, rel=0.02)


def test_a_ride_in_the_cold_promises_more_for_the_warm_but_not_all_that_cold_took():
    told = at(0.0)
    rows = {row.temp_c: row.distance_m for row in told.in_weather}
    whole = 1 / capacity_factor("nmc", 0.0)
    assert 1.05 < rows[20] / rows[0] < whole * 1.16


def test_an_old_pack_loses_slower_and_is_promised_for_more():
    fresh, used = (at(14.0, equivalent_full_cycles=cycles) for cycles in (0.0, 250.0))
    assert fresh.wear > used.wear > 0


def test_the_promise_is_the_quantile_that_it_says(monkeypatch):
    """Against fresh random numbers: the same distribution drawn here by its formula, without weather."""
    monkeypatch.setattr("limpet.figures.plan_on.WITHIN_C", 0.0)
    monkeypatch.setattr("limpet.figures.plan_on.lost_within", lambda m, c, n, r: np.zeros(n))
    test = ridden("turnstone-quay-cutoff")
    result = analyse(test)
    reach = result.range_to_cutoff
    rng = np.random.default_rng(99)
    relative = np.hypot(reach.standard_uncertainty / reach.value, np.sqrt(2) * 0.69 * 0.08)
    drawn = reach.value * (1 - result.reserve) * np.exp(relative * rng.standard_normal(200_000))
    assert result.plan_on.distance_m == pytest.approx(np.quantile(drawn, 0.05), rel=0.02)


def test_its_formula_has_the_numbers_that_it_was_reckoned_with():
    result = analyse(ridden("turnstone-quay-cutoff"))
    (working,) = [item for item in result.workings if item.figure == "plan_on"]
    numbers = {item.symbol: item.value for item in working.numbers}
    plan = result.plan_on
    assert numbers["w"] == plan.wear > 0.005
    assert numbers["sigma"] == plan.run_to_run == pytest.approx(0.69 * 0.08)
    assert (numbers["low"], numbers["high"]) == (plan.temp_c - WITHIN_C, plan.temp_c + WITHIN_C)
    assert numbers["P"] == plan.distance_m


@pytest.mark.parametrize(("units", "words"), [("km", "km"), ("mi", "mi")])
def test_the_command_says_the_clauses(tmp_path, capsys, units, words):
    write_folder(ridden("turnstone-quay-cutoff"), tmp_path / "bundle")
    assert main(["analyse", str(tmp_path / "bundle"), "--units", units]) == 0
    said = capsys.readouterr().out
    assert "for 6 months or 60 full charges, whichever comes first" in said
    assert "at -10 °C" in said or "at 14 °F" in said
