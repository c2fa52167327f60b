"""Two recordings on one clock: moved by what is known, and unsure where they tell different rides."""

import numpy as np
import polars as pl
import pytest

from limpet.foreign.align import matched
from tests.core.foreign.strangers import ride

TRUTH = ride()


def part(names, since, until, noise=0.0):
    rows = (TRUTH["time_s"] >= since) & (TRUTH["time_s"] < until)
    draw = np.random.default_rng(7)
    columns = {name: TRUTH[name][rows] + noise * draw.normal(size=rows.sum()) for name in names}
    return pl.DataFrame({"time_s": TRUTH["time_s"][rows] - since, **columns})


LOG = part(("voltage_v", "current_a", "speed_mps"), 0, 1500, noise=0.1)
BARE = part(("voltage_v", "current_a"), 0, 1500)
TRACK = part(("latitude_deg", "longitude_deg", "altitude_m"), 137, 1400)


@pytest.mark.parametrize("by_clocks", [None, 137.0, 137 + 3600.0, 137 - 5 * 3600.0, 90.0])
def test_two_speeds_find_their_place_whatever_the_clocks_say(by_clocks):
    found = matched(LOG, TRACK, by_clocks_s=by_clocks)
    assert found.by == "speed"
    assert found.sure
    assert found.offset_s == pytest.approx(137, abs=1)
    assert "Sure" in found.notice.message


def test_the_other_way_round_it_is_moved_the_other_way():
    assert matched(TRACK, LOG).offset_s == pytest.approx(-137, abs=1)


def test_without_a_speed_the_power_is_held_against_the_hills():
    found = matched(BARE, TRACK, by_clocks_s=120.0)
    assert found.by in ("load", "stops")
    assert found.offset_s == pytest.approx(137, abs=12)


def test_another_ride_is_not_sure():
    other = LOG.select("time_s", pl.Series("speed_mps", LOG["speed_mps"].to_numpy()[::-1]))
    found = matched(LOG, other)
    assert not found.sure
    assert "Not sure" in found.notice.message


def test_laps_that_are_all_alike_are_not_sure():
    time = np.arange(0, 1200.0)
    lap = pl.DataFrame({"time_s": time, "speed_mps": 6 + 2 * np.sin(time * 2 * np.pi / 120)})
    assert not matched(lap, lap).sure


def test_what_has_nothing_in_common_gives_nothing():
    assert matched(pl.DataFrame({"time_s": [0.0, 1.0], "gauge": [1.0, 2.0]}), TRACK) is None
    assert matched(LOG.head(20), TRACK) is None
