"""The table for a device without signal: the core's own draws, small, whole and as the page was given it."""

from __future__ import annotations

import gzip
import json

import numpy as np
import pytest

from limpet.under_way import advise
from limpet.under_way.now import LAST_STD
from limpet.under_way.offline_table import few
from limpet.under_way.seeing import LEFT
from tests.core.under_way.test_follow import entry
from tests.strategies import range_test
from tools.make_follow_rides import FILE, content, rides

RIDES = rides()
#: As it goes over the line.
MOST_BYTES = 75_000


@pytest.fixture(scope="module", params=RIDES)
def made(request):
    test, _, ahead = RIDES[request.param]
    advice = advise(test, ahead=ahead)
    return advice, advice.table()


def test_its_draws_say_what_follow_says(made):
    advice, table = made
    way = advice.following.way
    left = table.left_wh
    # All draws but the best value, to three digits.
    reaches = (table.rest_wh[0] <= left).mean()
    arrives = (table.rest_wh[0] <= left - table.reserve * table.usable_wh).mean()
    assert reaches == pytest.approx(way.reaches_probability, abs=0.01)
    assert arrives == pytest.approx(way.arrives_probability, abs=0.01)
    share = np.median(left / table.usable_wh)
    assert share == pytest.approx(advice.following.energy_left_fraction.value, abs=0.02)
    on = np.median(left / table.per_m)
    assert on == pytest.approx(advice.following.range_left_to_cutoff.value, rel=0.04)


def test_what_it_takes_to_a_place_and_from_there_is_what_the_way_takes(made):
    advice, table = made
    if table.onward != "given":
        return
    whole = table.takes_wh[-1]
    begun = table.takes_wh[0]
    assert (begun == 0).all()
    # What is ridden is not to be ridden again; how pieces scatter is told for each on its own.
    assert np.median(table.takes_wh[4] + table.rest_wh[4]) == pytest.approx(
        np.median(whole), rel=0.05
    )
    assert table.rest_wh[-1] == pytest.approx(
        0.0, abs=1e-6 + abs(2 * advice.riding.onward.height_wh).max()
    )


def test_what_instruments_show_falls_with_what_is_left(made):
    _, table = made
    for sight in table.sights:
        assert sight.shown.shape == (len(LEFT), len(table.left_wh))
        rising = np.diff(np.median(sight.shown, axis=1))
        if sight.name in ("charge_ah", "energy_wh"):
            assert (rising <= 1e-9).all()
        else:
            assert (rising >= -1e-9).all()
        assert sight.std > 0


def test_it_is_small_and_plain_json(made):
    _, table = made
    text = json.dumps(table.to_json(), separators=(",", ":"), allow_nan=False)
    assert len(gzip.compress(text.encode())) < MOST_BYTES


def test_there_is_one_before_the_first_metre():
    """A phone that loses its signal on the first road has an answer too."""
    table = advise(range_test(entry(0, "start", voltage_rest_v=54.2))).table()
    assert not table.leads
    assert table.done_m == 0
    assert (table.takes_wh[-1] > 0).all()
    assert table.home_wh is not None
    ratio = table.home_wh[-1] / table.takes_wh[-1]
    # Home is as long as out, and in no draw exactly as hard.
    assert np.median(ratio) == pytest.approx(1.0, abs=0.15)
    assert ratio.std() > 0.05
    assert {"voltage_rest_v", "shown_range_m"} <= {sight.name for sight in table.sights}
    # A way out that takes more than was thought is in part a headwind, which helps on the way home.
    per_m = np.log(table.per_m)
    home = np.log(table.home_wh[-1] / table.places_m[-1])
    slope = np.cov(home, per_m)[0, 1] / per_m.var()
    assert 0.3 < slope < 0.9
    # Twice the current leaves some per cent more as heat; a draw of a ride under way has its own current.
    assert -0.12 < table.heat_slope < -0.02
    assert advise(RIDES["percent"][0]).table().heat_slope == 0


def test_it_says_whether_anything_has_shown_charge():
    """By this the page tells no chance as over 95%."""
    assert not advise(range_test(entry(0, "start"))).table().shows_charge
    assert advise(range_test(entry(0, "start", voltage_rest_v=54.2))).table().shows_charge


def test_a_pack_that_is_full_is_full_in_what_readings_tell_of_too():
    """What no reading tells of may stand above what a pack holds: what is drawn first comes out of it."""
    noted = entry(0, "start", voltage_rest_v=54.2, charge_ah=0.0)
    table = advise(range_test(noted)).table()
    assert (table.left_wh > table.usable_wh).any()
    counter = next(sight for sight in table.sights if sight.name == "charge_ah")
    read = (table.left_wh - table.last_wh) / table.usable_wh
    begins = [np.interp(share, LEFT, counter.shown[:, j]) for j, share in enumerate(read)]
    # Nothing was counted where nothing was drawn.
    assert np.abs(begins).mean() < 0.02


def test_what_no_reading_tells_of_stands_beside_what_is_left(made):
    _, table = made
    share = table.last_wh / table.usable_wh
    assert share.std() == pytest.approx(LAST_STD, rel=0.15)
    # An instrument is asked of what it can tell: that goes along with the rest, and not with this.
    for sight in table.sights:
        if sight.name == "charge_ah":
            told = (table.left_wh - table.last_wh) / table.usable_wh
            here = [np.interp(s, LEFT, sight.shown[:, j]) for j, s in enumerate(told)]
            assert np.ptp(here) < 0.02


def test_what_a_display_promises_adds_nothing_beside_a_meter():
    by_meter, by_gauge = (
        advise(RIDES[name][0]).table() for name in ("metered, out and back", "percent")
    )
    assert "shown_range_m" not in {sight.name for sight in by_meter.sights}
    assert "shown_range_m" in {sight.name for sight in by_gauge.sights}


def test_a_column_keeps_as_many_digits_as_it_is_worth():
    assert few(np.array([1234.567, 0.00123456, 0.0, -98.7654])) == [1230.0, 0.00123, 0.0, -98.8]


def test_what_the_page_is_held_against_is_of_this_core():
    """`python -m tools.make_follow_rides` writes it anew."""
    kept = json.loads(FILE.read_text())
    for name, item in content().items():
        assert item["now"]["code"] == kept[name]["now"]["code"], name
        for figure in ("arrives", "reaches", "left"):
            assert item["now"][figure] == pytest.approx(kept[name]["now"][figure], abs=0.01), name
