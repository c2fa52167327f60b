"""What the cold does, by speed: trade facts, the models' shares, and what is refused."""

from __future__ import annotations

from math import exp, log

import numpy as np
import pytest
import statsmodels.api as sm

from limpet.judge import named_errors
from limpet.judge.comparand import Figure
from limpet.judge.seasons import STEP_C, seasons
from limpet.notices import Notice
from limpet.pack.chemistry import capacity_factor
from limpet.readers import ReaderUnits
from tests.core.judge.kit import seen

MILE = 1609.344


def ridden(key, temp_c, speed_mps, miles, *, relative=0.03, **more):
    figures = {
        "range_to_cutoff": Figure(value=miles * MILE, std=relative * miles * MILE, parts=(("trip", 0.5), ("label", 0.4))),
        "wh_per_km": Figure(value=4474 / miles, std=relative * 4474 / miles, parts=(("trip", 0.5),)),
    }  # fmt: skip
    return seen(key, temp_c=temp_c, speed_mps=speed_mps, figures=figures, kind="moped", **more)


#: Common practice, no source: a 7.2 kWh motorcycle in town and on the motorway, warm and cold.
TOWN = (ridden("a", 22, 10, 107), ridden("b", 2, 10, 90))
MOTORWAY = (ridden("c", 22, 30, 46.1), ridden("d", 2, 30, 45.6))


def of(found, quantity):
    return [band for band in found.bands if band.quantity == quantity]


def test_a_sixth_lost_in_town_is_shown_and_half_a_mile_on_the_motorway_is_not():
    town, motorway = of(seasons([*TOWN, *MOTORWAY]), "range_to_cutoff")
    assert town.verdict == "shown"
    # 90 of 107 over 20 degrees.
    assert town.change.value == pytest.approx((90 / 107) ** 0.5 - 1, abs=0.003)
    assert town.change.high < 0
    assert town.said.code == "season_less_range"
    assert motorway.verdict == "no_difference_shown"
    assert motorway.smallest_seen > 0.03
    assert motorway.said.code == "season_none"


def test_the_shares_are_those_of_the_models_and_what_is_left_makes_up_the_whole():
    (town,) = of(seasons(TOWN), "range_to_cutoff")
    parts = {part.name: part.change.value for part in town.parts}
    pack = capacity_factor("nmc", 2.0) / capacity_factor("nmc", 22.0)
    assert parts["pack"] == pytest.approx(pack**0.5 - 1, abs=1e-6)
    # Air is denser by 293/283 and takes under half of it; stiff tyres by 8% of theirs.
    assert -(1 - 283 / 293) < parts["air"] < -0.005
    assert -0.05 < parts["tyres"] < -0.005
    whole = sum(log(1 + value) for value in parts.values())
    assert whole == pytest.approx(log(1 + town.change.value), abs=0.003)


def test_consumption_has_no_share_of_the_pack():
    (band,) = of(seasons(TOWN), "wh_per_km")
    assert [part.name for part in band.parts] == ["air", "tyres", "left"]
    assert band.change.value > 0


def test_the_line_is_the_weighted_line_of_statsmodels():
    rng = np.random.default_rng(3)
    temps = np.linspace(-4, 26, 12)
    miles = [60 * exp(-0.05 * (20 - t) / STEP_C + 0.01 * rng.standard_normal()) for t in temps]
    tests = [ridden(f"t{k}", t, 8.0, m) for k, (t, m) in enumerate(zip(temps, miles, strict=True))]
    (band,) = of(seasons(tests), "range_to_cutoff")
    line = sm.OLS(np.log(miles), sm.add_constant(-temps / STEP_C)).fit()
    # Carried for nothing but noise in what was noted: the slope is the plain one.
    assert log(1 + band.change.value) == pytest.approx(line.params[1], abs=0.002)
    told = {at.temp_c: at.figure for at in band.at}
    assert told[-4.0].value / told[26.0].value == pytest.approx(exp(3 * line.params[1]), rel=0.01)


def test_what_else_differed_is_set_right_before_the_cold_is_judged():
    loaded = ridden("b", 2, 10, 90, load_kg=135.0)
    (band,) = of(seasons([TOWN[0], loaded]), "range_to_cutoff")
    (plain,) = of(seasons(TOWN), "range_to_cutoff")
    assert band.change.value > plain.change.value + 0.005, "the load had taken a part of it"
    assert band.points[1].run.carried.value > band.points[1].run.as_found.value


def test_one_temperature_tells_no_season_and_says_so():
    (band,) = of(seasons([ridden("a", 12, 10, 100), ridden("b", 15, 10, 98)]), "range_to_cutoff")
    assert (band.verdict, band.change, band.said.code) == ("too_few", None, "season_too_few")


def test_pedalled_rides_and_those_without_temperature_or_speed_are_left_out_and_counted():
    found = seasons(
        [
            *TOWN,
            ridden("p", 2, 10, 60, assisted=True),
            ridden("n", None, 10, 60),
            ridden("s", 2, None, 60),
        ]
    )
    assert found.left_out == 3
    assert {point.run.key for band in found.bands for point in band.points} == {"a", "b"}


def test_another_kind_of_ride_is_named_and_no_season():
    hills = ridden("h", 2, 10, 60, climb_m_per_km=200.0)
    found = seasons([TOWN[0], hills])
    assert found.unlike == ("Ride h",)
    assert [band.verdict for band in found.bands] == ["too_few", "too_few"]


def test_another_packs_range_is_no_season_but_its_consumption_counts():
    found = seasons([*TOWN, ridden("o", 10, 10, 40, pack="other")])
    assert len(of(found, "range_to_cutoff")[0].points) == 2
    assert len(of(found, "wh_per_km")[0].points) == 3


def test_a_pack_that_aged_between_the_seasons_is_warned_of():
    first = ridden("a", 22, 10, 107, started_at="2024-07-01T09:00:00+01:00")
    then = ridden("b", 2, 10, 90, started_at="2026-01-10T09:00:00+00:00")
    assert [notice.code for notice in seasons([first, then]).warnings] == ["season_aged"]
    soon = ridden("b", 2, 10, 90, started_at="2025-01-10T09:00:00+00:00")
    assert seasons([first, soon]).warnings == ()


def test_few_draws_of_many_tests_tell_the_same(monkeypatch):
    many = [
        ridden(f"m{k}", (k * 7) % 30 - 4, 9.0, 100 * exp(-0.004 * (26 - (k * 7) % 30)))
        for k in range(24)
    ]
    (few,) = of(seasons(many), "range_to_cutoff")
    monkeypatch.setattr(named_errors, "MANY", 1000)
    (all_draws,) = of(seasons(many), "range_to_cutoff")
    assert few.change.value == pytest.approx(all_draws.change.value, abs=0.003)
    assert few.change.low == pytest.approx(all_draws.change.low, abs=0.006)


def test_ten_degrees_are_eighteen_to_who_reads_fahrenheit():
    said = Notice("season_none", seen=0.05, speed_mps=10.0, step_c=10.0)
    assert "for 10 °C." in said.said(ReaderUnits())
    assert "for 18 °F." in said.said(ReaderUnits(temperature="°F"))


def test_no_tests_make_no_bands():
    assert seasons([]).bands == ()
