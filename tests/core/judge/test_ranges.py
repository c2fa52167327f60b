"""Ranges of one pack at one set of conditions."""

from __future__ import annotations

import pytest

from limpet.assumptions import RUN_CARRIED
from limpet.judge.comparand import Figure
from limpet.judge.ranges import ranges_at_first
from tests.core.judge.kit import seen


def far(key, km, **more):
    figures = {"range_to_cutoff": Figure(value=1000 * km, std=20 * km)}
    return seen(key, figures=figures, **more)


def test_ranges_ridden_alike_stay_and_others_are_carried_to_the_first():
    found = ranges_at_first([far("a", 50), far("b", 40), far("c", 40, wind_mps=8.0)])
    assert found["a"][0] == pytest.approx(50_000)
    assert found["a"][1] == pytest.approx(RUN_CARRIED.std * 50_000, rel=0.01)
    assert found["b"][0] == pytest.approx(40_000, rel=0.01)
    assert found["c"][0] > 41_000, "in calm air it would have gone further"
    assert found["c"][1] > found["b"][1]


def test_another_vehicle_or_legs_say_nothing_of_the_pack():
    tests = [far("o", 90, vehicle="Ruff"), far("a", 50), far("b", 45), far("p", 80, assisted=True)]
    assert set(ranges_at_first(tests)) == {"a", "b"}
    assert ranges_at_first([far("p", 80, assisted=True), seen("n")]) == {}
