"""The core's draws against a sampler of another kind (emcee), one ride of each chemistry; all by `./limpet bench floors`."""

from __future__ import annotations

import pytest

from limpet.figures.findings import find
from tests.calibration.floors import BETTER_BY, asked_rides, better_minimum, floors
from tests.calibration.independent import beside


@pytest.mark.parametrize(
    ("chemistry", "kind"), [("nmc", "two volts"), ("nca", "percent"), ("lfp", "percent")]
)
def test_the_draws_are_those_of_an_independent_sampler(chemistry, kind):
    """Medians within 0.3 u, half-widths within 15% and the walkers' own noise of as much again."""
    item = next(asked_rides(kind, chemistry, 1))
    found = beside(item.test, steps=800)
    assert found.birge == 1.0
    assert found.apart < 0.35
    assert 0.8 < found.wider < 1.25


@pytest.mark.parametrize("chemistry", ["nmc", "nca", "lfp"])
def test_no_search_from_elsewhere_finds_a_better_minimum(chemistry):
    """SciPy's least squares from random places, on rides by volts at stops."""
    for item in asked_rides("two volts", chemistry, 2):
        assert better_minimum(find(item.test, draws=40), starts=2) < BETTER_BY


def test_the_table_of_floors_has_a_line_for_what_it_asked():
    head, *lines = floors(1, steps=200, kinds=("two volts",))
    assert head.split()[:3] == ["evidence", "cells", "n"]
    assert [line.split()[2] for line in lines] == ["nmc", "nca", "lfp"][: len(lines)]
    assert len(lines) >= 2
    ratio = [float(line.split()[6]) for line in lines]
    assert all(0.4 < one < 2.5 for one in ratio)
