"""What the page ships with for a ride that nobody has judged is of this core.

`python -m tools.make_start_values` writes it anew; `web/src/roadside/startTable.test.ts` holds what the
page makes of it against the core's own answers.
"""

from __future__ import annotations

import json

import numpy as np
import pytest

from limpet.pack import CHEMISTRIES
from limpet.road.kinds import VehicleKind
from tools.make_start_values import DRAWS, FILE, RIDES, content, rides


@pytest.fixture(scope="module")
def kept():
    return json.loads(FILE.read_text())


@pytest.fixture(scope="module")
def made():
    return content()


def test_every_kind_of_vehicle_and_of_cells_has_its_start_values(kept):
    assert set(kept["kinds"]) == set(VehicleKind.__args__)
    assert set(kept["packs"]) == set(CHEMISTRIES)
    for kind in kept["kinds"].values():
        assert len(kind["per_m"]) == DRAWS
        assert np.shape(kind["rest_wh"]) == (len(kind["places_m"]), DRAWS)
    for cells in kept["packs"].values():
        for name in ("voltage_rest_v", "voltage_load_v"):
            assert np.shape(cells["volts"][name]["shown"]) == (len(cells["left"]), DRAWS)


def test_what_the_page_ships_with_is_of_this_core(kept, made):
    for kind, columns in made["kinds"].items():
        for name in ("per_m", "rest_wh", "home_wh"):
            assert np.median(columns[name], axis=-1) == pytest.approx(
                np.median(kept["kinds"][kind][name], axis=-1), rel=0.01, abs=0.2
            ), (kind, name)
            assert np.std(columns[name], axis=-1) == pytest.approx(
                np.std(kept["kinds"][kind][name], axis=-1), rel=0.02, abs=0.2
            ), (kind, name)
    for cell, columns in made["packs"].items():
        assert columns["usable"] == pytest.approx(kept["packs"][cell]["usable"], abs=0.01), cell
        for name, volts in columns["volts"].items():
            theirs = kept["packs"][cell]["volts"][name]
            assert np.asarray(volts["shown"]) == pytest.approx(
                np.asarray(theirs["shown"]), abs=0.01
            )
    for name, value in made["start"].items():
        assert value == pytest.approx(kept["start"][name], abs=0.01), name


def test_the_rides_that_the_page_is_held_against_are_of_this_core():
    told = json.loads(RIDES.read_text())
    for name, ride in rides().items():
        assert ride["reaches"] == pytest.approx(told[name]["reaches"], abs=0.01), name
        assert ride["left"]["value"] == pytest.approx(told[name]["left"]["value"], abs=0.01), name


def test_start_values_are_wide(kept):
    """Of what such a vehicle takes nobody knows more than a fifth to a half (handbook section 10)."""
    for name, kind in kept["kinds"].items():
        spread = float(np.std(np.log(kind["per_m"])))
        assert 0.2 < spread < 0.6, name
    assert min(kept["start"]["unsaid"]) < 0.05
    assert max(kept["start"]["unsaid"]) > 0.95
