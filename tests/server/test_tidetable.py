"""The tide table over HTTP: the core's own cells, by what the kit's tests taught; of one's own kit alone."""

from __future__ import annotations

from uuid import uuid4

import pytest

from limpet.judge.tidetable import tide_table
from server.plans.schemas import TripIn
from server.plans.trips import trip_of
from server.results.worker import look_once
from tests.server.test_lives import rides


def path_of(kit, **more):
    asked = {**kit, **more}
    return "/tidetable?" + "&".join(f"{name}={value}" for name, value in asked.items())


def test_a_table_is_that_of_the_core_and_names_the_tests_it_rests_on(ines, kit):
    assert ines.get(path_of(kit)).json()["own_tests"] == []
    rides(ines, kit, "Lap day", started="2026-05-14T09:12:00+00:00", ah=13.0)
    look_once()
    found = ines.get(path_of(kit)).json()
    assert found["own_tests"] == ["Lap day"]
    assert found["vehicle"] == "Sandpiper"
    assert [item["name"] for item in found["terrains"]] == ["flat", "rolling", "hilly"]
    owner = ines.user
    trip = trip_of(owner, TripIn(**kit, legs=[{"length_m": 4000}]).model_dump()).trip
    table = tide_table(trip)
    assert found["floor_m"][0][2] == pytest.approx([round(x) for x in table.floor_m[0][2]])
    assert found["best_m"][2][0] == pytest.approx([round(x) for x in table.best_m[2][0]])


def test_another_policy_is_another_table_and_anothers_kit_is_refused(ines, tobias, kit):
    gently = ines.get(path_of(kit, policy="gentle")).json()["speeds_mps"]
    flat_out = ines.get(path_of(kit, policy="flat_out")).json()["speeds_mps"]
    assert gently[2] < flat_out[2]
    assert tobias.get(path_of(kit)).status_code == 422
    assert ines.get(path_of({**kit, "pack_id": uuid4()})).status_code == 422
    assert ines.get(path_of(kit, policy="fast")).status_code == 422
