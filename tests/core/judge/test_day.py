"""A condition is in every table that asks for one."""

from __future__ import annotations

from dataclasses import fields
from typing import get_args

import numpy as np
import pytest

from limpet.judge.day import _MADE_OF, FACTORS, Day, Factor, day_of, one_by_one, with_factors
from limpet.words import FACTOR_WORDS
from tests.core.judge.kit import seen


def test_every_condition_has_its_words_its_values_and_its_place():
    assert sorted(FACTORS) == sorted(get_args(Factor))
    assert set(FACTOR_WORDS) == set(_MADE_OF) == set(FACTORS)
    values = [name for factor in FACTORS for name in _MADE_OF[factor]]
    assert sorted(values) == sorted(field.name for field in fields(Day))


@pytest.mark.parametrize("factor", FACTORS)
def test_a_day_with_one_condition_of_another_has_that_and_no_more(factor):
    windy = seen("b", wind_mps=6.0, load_kg=100.0, speed_mps=7.0, temp_c=2.0, surface="gravel",
                 climb_m_per_km=20.0, stops_per_km=2.0, tyre_kpa=200.0, assisted=True, pedal_w=60.0)  # fmt: skip
    calm = seen("a")
    day, of = day_of(calm, windy), day_of(windy, calm)
    changed = with_factors(day, of, [factor])
    for field in fields(Day):
        like = of if field.name in _MADE_OF[factor] else day
        np.testing.assert_array_equal(getattr(changed, field.name), getattr(like, field.name))
    both = one_by_one(day, of, [factor])
    np.testing.assert_array_equal(both.load_kg[0], day.load_kg)
    np.testing.assert_array_equal(both.load_kg[1], changed.load_kg)
