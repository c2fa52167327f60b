"""Stretches, paths, tides of several packs and sag, against closed forms; what was confirmed is not asked."""

from dataclasses import replace

import numpy as np
import polars as pl
import pytest

from demo.skerrow import ridden
from limpet.evidence.checks import all_questions, asked_about
from limpet.evidence.model import Entry
from limpet.figures.strip import sagging, strip_of
from limpet.figures.traces import path_of, traces_of
from limpet.pack import PackSpec
from limpet.read.line import Line
from limpet.tell import analyse

PACK = PackSpec(chemistry="nmc", series=10, rated_ah=10.0)


def steady(gap_s: float = 0.0) -> tuple[pl.DataFrame, Line]:
    """400 W at 5 m/s due north for 20 minutes, silent for a while after ten."""
    time = np.arange(1200.0)
    time[600:] += gap_s
    frame = pl.DataFrame(
        {
            "time_s": time,
            "voltage_v": np.full(1200, 40.0),
            "current_a": np.full(1200, 10.0),
            "latitude_deg": 56 + 5 * time / 111_132.0,
            "longitude_deg": np.full(1200, -5.0),
            "altitude_m": np.linspace(0, 60, 1200),
        }
    )
    return frame, Line(time_s=time, total=5 * time)


def test_a_stretch_has_the_figures_of_its_own_part():
    frame, way = steady()
    found = traces_of(frame, way, 300, 900).stretch
    # 400 W for 600 s, over 3 km: 66.7 Wh, 22.2 Wh/km, half of the climb.
    assert found.energy_wh == pytest.approx(400 * 600 / 3600, rel=0.01)
    assert found.wh_per_km == pytest.approx(400 / 5 / 3.6, rel=0.01)
    assert found.distance_m == pytest.approx(3000)
    assert found.ascent_m == pytest.approx(30, abs=1)
    assert found.mean_speed_mps == pytest.approx(5)
    assert (found.voltage_low_v, found.voltage_high_v) == (40.0, 40.0)


def test_what_a_silent_logger_did_not_see_is_not_counted():
    frame, way = steady(gap_s=3600)
    assert traces_of(frame, way).stretch.energy_wh == pytest.approx(400 * 1198 / 3600, rel=0.001)


def test_channels_are_those_that_are_asked_for_and_there():
    frame, way = steady()
    found = traces_of(frame, way, channels=["current", "gauge", "power"])
    assert [channel.name for channel in found.channels] == ["current", "power"]
    assert set(found.channels[1].mean) == {400.0}
    assert "gauge" not in found.available
    assert {"voltage", "current", "power", "height"} <= set(found.available)


def test_a_track_lies_where_it_was_ridden_and_knows_what_it_took():
    frame, way = steady()
    path = path_of(frame, way)
    assert path.north_m[-1] == pytest.approx(5 * 1199, rel=0.002)
    assert set(path.east_m) == {0.0}
    assert path.wh_per_km[len(path.wh_per_km) // 2] == pytest.approx(400 / 5 / 3.6, rel=0.02)
    first = frame["latitude_deg"][0], frame["longitude_deg"][0]
    assert (path.latitude_deg, path.longitude_deg) == pytest.approx(first, abs=1e-6)
    assert path_of(frame.drop("latitude_deg"), way) is None


def test_packs_in_turn_are_tides_of_their_own_that_add_up():
    test = ridden("sandpiper-two-packs")
    result = analyse(test)
    first, second = strip_of(test, result).tides
    assert second.energy_left[0] == 1.0
    assert first.distance_m[-1] == pytest.approx(second.distance_m[0], abs=1)
    used = sum(tide.energy_left[0] - tide.energy_left[-1] for tide in (first, second))
    # Each is a half of what both hold: what they gave together is twice the share of all.
    assert used / 2 == pytest.approx(result.energy_used_fraction.value, rel=0.05)
    assert strip_of(ridden("dunlin-peat"), analyse(ridden("dunlin-peat"))).tides == ()


def test_volts_pulling_lie_under_volts_at_rest_and_both_ebb():
    test = ridden("sandpiper-lighthouse")
    sag = sagging(test, analyse(test))
    both = [
        (rest, load)
        for rest, load in zip(sag.rest_v, sag.loaded_v, strict=True)
        if rest is not None and load is not None
    ]
    assert both
    assert all(load < rest for rest, load in both)
    assert both[0][0] < both[-1][0]


def test_what_was_confirmed_is_asked_about_no_more():
    odd = Entry(time_s=60, kind="checkpoint", voltage_rest_v=52.0)
    entries = [Entry(time_s=0, kind="start", voltage_rest_v=41.5), odd]
    asked = all_questions(PACK, 1, entries)
    assert [name for name, _ in asked_about(odd, asked)] == ["voltage_rest_v"]
    assert all_questions(PACK, 1, [entries[0], replace(odd, confirmed="yes")]) == []
