"""The core's draws against a sampler of another kind (emcee), one ride of each chemistry; all by `./limpet bench floors`."""

from __future__ import annotations

import numpy as np
import pytest

from tests.calibration.cells import FOREIGN, cell_rides
from tests.calibration.independent import beside
from tests.calibration.riders import told


@pytest.mark.parametrize(
    ("chemistry", "kind"), [("nmc", "two volts"), ("nca", "percent"), ("lfp", "percent")]
)
def test_the_draws_are_those_of_an_independent_sampler(chemistry, kind):
    """Medians within 0.3 u, half-widths within 15% and the walkers' own noise of as much again."""
    rides = [
        ride
        for ride in cell_rides()
        if ride.chemistry == chemistry and ride.parameters not in FOREIGN
    ]
    told_by = (told(ride, kind, np.random.default_rng([3, k])) for k, ride in enumerate(rides))
    item = next(one for one in told_by if one is not None)
    found = beside(item.test, steps=800)
    assert found.birge == 1.0
    assert found.apart < 0.35
    assert 0.8 < found.wider < 1.25
