"""The tide table: as the forecast itself has each cell, and as everybody knows that it must go."""

from __future__ import annotations

import csv
import io
import json
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from scipy import stats

from limpet.cli import main
from limpet.errors import LimpetError
from limpet.judge.tidetable import LAP_M, MOST_OF_AXIS, _bounds, tide_table
from limpet.outlook.forecast import forecast
from limpet.trip import Known, LoopSpec, RouteSpec, SpeedSpec
from tests.trips import trip

EXAMPLE = Path(__file__).resolve().parents[3] / "docs" / "examples" / "trip.json"


@pytest.fixture(scope="module")
def table():
    """Of a bicycle."""
    return tide_table(trip())


def test_it_has_five_speeds_five_temperatures_and_three_terrains(table):
    assert table.floor_m.shape == table.typical_m.shape == table.best_m.shape == (3, 5, 5)
    assert len(table.rows()) == 75
    assert (table.floor_m < table.typical_m).all()
    assert (table.typical_m < table.best_m).all()


def test_colder_faster_and_hillier_is_less_far(table):
    far = table.typical_m
    assert (np.diff(far, axis=1) > 0).all()
    assert (np.diff(far, axis=2) < 0).all()
    assert (np.diff(far, axis=0) < 0).all()


@pytest.mark.parametrize(("terrain", "temp", "speed"), [(0, 0, 1), (1, 2, 2), (2, 4, 4), (0, 4, 0)])
def test_a_cell_is_what_the_forecast_says_of_it(table, terrain, temp, speed):
    asked = replace(
        trip(),
        draws=600,
        conditions=replace(trip().conditions, temp_c=Known(value=table.temps_c[temp])),
        route=RouteSpec(loop=LoopSpec(length_m=LAP_M)),
        speed=SpeedSpec(policy="fixed", target_mps=table.speeds_mps[speed]),
    )
    found = forecast(asked, table.terrains[terrain].route, swings=False)
    # Few draws and coarse blocks: a card is read to the mile.
    assert table.floor_m[terrain, temp, speed] == pytest.approx(found.floor_m, rel=0.08)
    assert table.typical_m[terrain, temp, speed] == pytest.approx(
        found.range_to_reserve.value, rel=0.09
    )


def test_other_axes_are_asked_for_within_bounds():
    small = tide_table(trip(), speeds_mps=(4.0, 6.0), temps_c=(10.0,))
    assert small.floor_m.shape == (3, 1, 2)
    for speeds in ((), (5.0,) * (MOST_OF_AXIS + 1), (0.0, 4.0)):
        if speeds:
            with pytest.raises(LimpetError):
                tide_table(trip(), speeds_mps=speeds)
    with pytest.raises(LimpetError, match="temperatures"):
        tide_table(trip(), temps_c=())


def test_the_command_prints_it_in_words_in_json_and_as_rows(capsys):
    assert main(["tidetable", str(EXAMPLE), "--units", "km"]) == 0
    words = capsys.readouterr().out
    assert "Bad day (19 rides in 20 go further)" in words
    assert "hilly, 18 m of climb a kilometre" in words
    assert main(["tidetable", str(EXAMPLE), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["limpet_tidetable"] == 1
    assert np.shape(told["floor_m"]) == (3, len(told["temps_c"]), len(told["speeds_mps"]))
    assert main(["tidetable", str(EXAMPLE), "--csv"]) == 0
    rows = list(csv.DictReader(io.StringIO(capsys.readouterr().out)))
    assert len(rows) == 75
    assert float(rows[0]["floor_m"]) == pytest.approx(told["floor_m"][0][0][0], abs=1)


def test_its_bounds_are_those_of_a_lognormal_and_hang_on_no_single_draw():
    """SciPy 1.17, `stats.lognorm`; one ride in a hundred that ends at once moves them little."""
    draws = np.exp(stats.norm.ppf((np.arange(200) + 0.5) / 200) * 0.12) * 40_000
    told = _bounds(draws[None])[:, 0]
    np.testing.assert_allclose(
        told, stats.lognorm(0.12, scale=40_000).ppf([0.05, 0.5, 0.95]), rtol=0.01
    )
    hurt = draws.copy()
    hurt[:2] = 0.0
    np.testing.assert_allclose(_bounds(hurt[None])[:, 0], told, rtol=0.02)
