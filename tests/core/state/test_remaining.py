"""How far a reading of the pack may be off: what has not settled, what one instrument repeats."""

import math
from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest

from demo.skerrow import ridden
from limpet.evidence.model import Entry
from limpet.figures.findings import find
from limpet.pack import PackSpec
from limpet.read.readings import Reading
from limpet.state.remaining import (
    WORTH,
    _of_all,
    gauge_share,
    gauge_std,
    less_worth,
    map_std,
    unsettled,
)
from tests.strategies import range_test


def rest(settled_s):
    return Reading(
        kind="rest", time_s=0.0, value=50.0, step=0.1, settled_s=settled_s, source="entries"
    )


@pytest.mark.parametrize(
    ("settled_s", "left"),
    [
        (0.0, 1.0),
        (120.0, 0.6 / math.e + 0.4 * math.exp(-0.08)),
        (1500.0, 0.4 / math.e),
        (math.inf, 0.0),
    ],
)
def test_six_tenths_of_the_lag_go_in_minutes_and_the_rest_in_half_an_hour(settled_s, left):
    # A fast and a slow part, 120 s and 1,500 s: an assumption, no source.
    assert unsettled(rest(settled_s)) == pytest.approx(left, abs=3e-6)


def test_under_load_nothing_has_settled():
    assert unsettled(rest(None)) == 1.0


def test_readings_of_one_instrument_are_worth_a_few_of_their_number():
    worth = WORTH["gauge"]
    assert less_worth("gauge", worth) == 1.0
    assert less_worth("gauge", 1) == 1.0
    # n readings of u·√(n/w) each tell as much together as w of u do.
    assert less_worth("gauge", 4 * worth) ** 2 / (4 * worth) == pytest.approx(1 / worth)


def test_a_step_is_read_a_quarter_under_its_upper_end():
    bar = Reading(kind="gauge", time_s=0.0, value=4.0, step=1.0, source="entries")
    assert gauge_share(bar, 5.0) == pytest.approx((4 - 0.25) / 5)
    fine = Reading(kind="gauge", time_s=0.0, value=80.0, step=1.0, source="entries")
    assert gauge_std(fine, 100.0) < gauge_std(bar, 5.0)
    assert gauge_std(bar, 5.0, map_std("nmc", learned=True)) < gauge_std(bar, 5.0)
    assert np.isclose(gauge_std(bar, 5.0), math.hypot(0.035, 0.35 / 5))


def seen_at(time_s, value):
    return Reading(kind="gauge", time_s=time_s, value=value, step=1.0, source="entries")


@pytest.mark.parametrize(
    ("before", "after", "steps", "watches_all"),
    [
        # A fresh pack and the gauge is at the top again: it watches the one in use.
        (2.0, 5.0, 5.0, False),
        # A display jitters by a few per cent: that is no fresh pack.
        (60.0, 62.0, 100.0, True),
        (60.0, 75.0, 100.0, False),
        # Hardly used: nothing could have risen.
        (95.0, 96.0, 100.0, False),
    ],
)
def test_one_gauge_for_all_packs_does_not_rise_where_a_fresh_one_is_put_in(
    before, after, steps, watches_all
):
    ride = SimpleNamespace(packs=((0.0, 3600.0), (3600.0, 7200.0)))
    gauges = [seen_at(3000.0, before), seen_at(3600.0, after)]
    assert _of_all(ride, gauges, steps) is watches_all
    # What was read before the swap alone says nothing.
    assert _of_all(ride, gauges[:1], steps) is False


def test_the_packs_fit_does_not_move_a_meters_stated_accuracy():
    """Volts that the curve would sharpen stay as unsure as their maker says (handbook section 4)."""
    metered = ridden("turnstone-frost")
    found = find(metered)
    rows = found.remaining.model.rows
    names = [name for name, _ in found.evidence.meter.gains]
    assert {"voltage", "current"} <= set(names)
    posterior = found.remaining.posterior
    for name in names:
        assert np.array_equal(posterior.scores[rows[name]], posterior.before[rows[name]])
    # A voltmeter alone is learned from the curve as any other input.
    notes = find(replace(metered, samples=None))
    assert notes.evidence.meter is None or "voltage" not in dict(notes.evidence.meter.gains)
    row = notes.remaining.model.rows["voltage"]
    alone = notes.remaining.posterior
    assert not np.array_equal(alone.scores[row], alone.before[row])


def test_a_gauge_of_iron_phosphate_is_near_no_smooth_map():
    assert map_std("lfp", learned=True) == map_std("lfp", learned=False) == 0.20
    assert map_std("nmc", learned=True) < map_std("nmc", learned=False) < 0.05


@pytest.mark.parametrize(("chemistry", "series", "more"), [("nmc", 13, 0.35), ("lfp", 16, 0.6)])
def test_volts_read_at_once_are_the_less_sure_the_harder_it_was_ridden(chemistry, series, more):
    def std_at(hours):
        rows = (
            Entry(time_s=0.0, kind="start", trip_m=0.0, voltage_rest_v=3.4 * series),
            Entry(time_s=3600 * hours, kind="end", trip_m=30_000.0, voltage_rest_v=3.25 * series),
        )
        pack = PackSpec(chemistry=chemistry, series=series, rated_ah=14.0)
        model = find(range_test(*rows, pack=pack), draws=20).remaining.model
        return model.ride.volts, model.inputs[model.rows["consumption"]].value

    (slow, slow_wh_per_m), (fast, fast_wh_per_m) = std_at(3.0), std_at(1.0)
    assert fast.unsettled_std_v > slow.unsettled_std_v > 0.010
    # Its square goes with the current's beside the 10 mV of any such reading.
    ratio = (fast.unsettled_std_v**2 - 1e-4) / (slow.unsettled_std_v**2 - 1e-4)
    assert ratio == pytest.approx((3 * fast_wh_per_m / slow_wh_per_m) ** 2, rel=1e-6)
    assert more * 0.030 * 6 > fast.unsettled_std_v
