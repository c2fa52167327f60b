"""The current at which a drive stops is a pull of the log's, whatever was rolled or given back between pulls."""

from __future__ import annotations

import numpy as np
import polars as pl
import pytest

from limpet.read.evidence import read_test
from tests.strategies import range_test


def pull_a(amps: np.ndarray) -> float:
    """Current at cut-off [A], of an hour's log with these amps, again and again."""
    seconds = np.arange(0.0, 3600.0, 1.0)
    samples = pl.DataFrame(
        {
            "time_s": seconds,
            "voltage_v": np.full(len(seconds), 50.0),
            "current_a": np.resize(amps, len(seconds)),
            "speed_mps": np.full(len(seconds), 6.0),
        }
    )
    found = read_test(range_test(samples=samples), mean_v=3.7).progress
    assert found.metered_a is not None
    assert found.metered_a == pytest.approx(amps.mean(), rel=0.02)
    return found.metered_a * found.amps_per_mean[0]


def steady(pull: float, rolling: float, back: float) -> np.ndarray:
    """A hundred seconds: so many of them rolling, and so many giving back 6 A."""
    amps = np.full(100, pull)
    amps[: int(rolling)] = 0.0
    amps[int(rolling) : int(rolling + back)] = -6.0
    return amps


@pytest.mark.parametrize(("rolling", "back"), [(0, 0), (40, 0), (40, 20), (0, 30)])
def test_a_pull_is_what_the_log_shows_of_it(rolling, back):
    # Closed form: where every pull is of 20 A the drive stops at 20 A.
    assert pull_a(steady(20.0, rolling, back)) == pytest.approx(20.0, rel=0.02)


def test_a_log_that_is_nothing_on_balance_bounds_the_pull():
    assert pull_a(steady(20.0, 20, 60)) <= 20.0
