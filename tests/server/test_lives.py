"""Kit's life over HTTP: its tests, what they say together, and what of it is used."""

from __future__ import annotations

from uuid import uuid4

import pytest
from django.apps import apps

from server.kit.models import Vehicle
from server.logbook.models import RangeTest
from server.plans import services
from server.removed import KINDS
from server.results.models import TestResult
from server.results.worker import look_once
from server.wire.owned import Owned
from tests.server.conftest import note


def rides(api, kit, title, *, started, scale=1.05, ah=6.4, reason="cutoff", **more):
    """Twenty laps, on the whole 20.5 km, of which the trip meter shows 21."""
    test_id = str(uuid4())
    body = {"title": title, "started_at": started, "reserve": 0.2, **kit, **more}
    assert api.put(f"/tests/{test_id}", body).status_code == 200
    sheet = {
        "base": 0,
        "instruments": {"lap_length_m": 1000, "lap_accuracy_pct": 0.5, "charge_accuracy_pct": 0.5},
    }
    found = api.put(f"/tests/{test_id}/sheet", sheet)
    assert found.status_code == 200, found.content
    note(api, test_id, 0, "start", voltage_rest_v=54.4, trip_m=0, laps=0, charge_ah=0)
    note(api, test_id, 3600, "end", voltage_load_v=39.2, trip_m=f"{20 * scale} km", laps=20, charge_ah=ah)  # fmt: skip
    note(api, test_id, 4500, "settle", voltage_rest_v=41.5)
    assert api.put(f"/tests/{test_id}/ending", {"reason": reason}).status_code == 200
    return test_id


@pytest.fixture
def three(ines, kit):
    ids = [
        rides(ines, kit, f"Lap day {year}", started=f"{year}-05-14T09:12:00+00:00", ah=ah)
        for year, ah in ((2024, 13.6), (2025, 12.9), (2026, 12.1))
    ]
    look_once()
    return ids


def test_a_vehicles_page_has_its_tests_and_what_they_taught(ines, kit, three):
    found = ines.get(f"/vehicles/{kit['vehicle_id']}/life").json()
    assert found["item"]["name"] == "Sandpiper"
    assert [test["title"] for test in found["tests"]] == ["Lap day 2026", "Lap day 2025", "Lap day 2024"]  # fmt: skip
    assert found["count"] == 3
    taught = {item["name"]: item for item in found["life"]["taught"]}
    assert taught["trip"]["value"]["value"] == pytest.approx(21 / 20.5, abs=0.005)
    assert taught["trip"]["tests"] == ["Lap day 2024", "Lap day 2025", "Lap day 2026"]
    assert found["keys"]["Lap day 2025"] == three[1]


def test_a_packs_page_has_its_fading_and_when_to_test_again(ines, kit, three):
    found = ines.get(f"/packs/{kit['pack_id']}/life").json()
    points = found["life"]["points"]
    assert [point["key"] for point in points] == three
    assert [round(point["months"]) for point in points] == [0, 12, 24]
    for name in ("retained_fraction", "retained_at_25c"):
        kept = [point[name]["value"] for point in points]
        assert kept == sorted(kept, reverse=True)
    assert found["life"]["retained_by_month"]["x"][0] == 0
    assert found["life"]["again"][0]["code"] in ("again_in", "again_now")


def test_a_riders_page_has_what_was_weighed_then(ines, kit, three):
    ines.put(f"/riders/{kit['rider_id']}", {"name": "Ines", "mass_kg": 70})
    rides(ines, kit, "Heavier", started="2026-08-14T09:12:00+00:00")
    found = ines.get(f"/riders/{kit['rider_id']}/life").json()
    assert [one["mass_kg"] for one in found["life"]] == [64, 64, 64, 70]
    assert found["life"][-1]["title"] == "Heavier"


def test_a_lesson_that_is_switched_off_teaches_no_test_and_no_trip(ines, kit, three):
    vehicle = f"/vehicles/{kit['vehicle_id']}"
    last = f"/tests/{three[-1]}"
    # A ride by the trip meter alone is set right by what the earlier ones taught.
    alone = str(uuid4())
    ines.put(f"/tests/{alone}", {"title": "Trip alone", "started_at": "2026-06-14T09:12:00+00:00", **kit})  # fmt: skip
    note(ines, alone, 0, "start", voltage_rest_v=54.4, trip_m=0, charge_ah=0)
    note(ines, alone, 3600, "end", voltage_rest_v=46.2, trip_m="21 km", charge_ah=6.2)
    ines.put(f"/tests/{alone}/ending", {"reason": "home"})

    def distance():
        return ines.get(f"/tests/{alone}").json()["result"]["distance"]["value"]

    assert distance() == pytest.approx(20_500, rel=0.005)
    stored = ines.put(f"{vehicle}/lessons", {"left_aside": ["trip"]}).json()
    assert stored["left_aside"] == ["trip"]
    assert TestResult.objects.get(test_id=alone).lessons_due
    assert distance() == pytest.approx(21_000)
    assert ines.put(f"{vehicle}/lessons", {"left_aside": []}).status_code == 200
    assert distance() == pytest.approx(20_500, rel=0.005)
    assert ines.get(last).status_code == 200

    trip = {**kit, "legs": [{"length_m": 5000}], "quick": False}
    what = {item["what"] for item in ines.post("/forecast", trip).json()["own_tests"]}
    assert "consumption" in what
    ines.put(f"{vehicle}/lessons", {"left_aside": ["consumption"]})
    answer = ines.post("/forecast", trip).json()
    assert "consumption" not in {item["what"] for item in answer["own_tests"]}
    assert not any(item["name"] == "known_consumption_wh_per_km" for item in answer["inputs"])


def test_an_unknown_lesson_is_refused_and_nothing_changes(ines, kit):
    found = ines.put(f"/vehicles/{kit['vehicle_id']}/lessons", {"left_aside": ["gps", "trip"]})
    assert found.status_code == 422
    assert "has no gps" in found.json()["fields"]["left_aside"]
    assert Vehicle.objects.get().left_aside == []


def test_nobody_sees_anothers_kit_live(ines, tobias, kit):
    for shelf, name in (("vehicles", "vehicle"), ("packs", "pack"), ("riders", "rider")):
        assert tobias.get(f"/{shelf}/{kit[f'{name}_id']}/life").status_code == 404
    aside = tobias.put(f"/vehicles/{kit['vehicle_id']}/lessons", {"left_aside": ["trip"]})
    assert aside.status_code == 404


def test_a_trip_names_the_own_tests_that_it_rests_on(ines, kit, three):
    trip = {**kit, "legs": [{"length_m": 5000}]}
    own = {item["what"]: item for item in ines.post("/forecast", trip).json()["own_tests"]}
    used = own["consumption"]
    assert (used["shelf"], used["item_id"]) == ("vehicles", kit["vehicle_id"])
    assert [test["id"] for test in used["tests"]] == three
    typed = ines.post("/forecast", {**trip, "known_consumption_wh_per_km": "12 Wh/km"}).json()
    assert "consumption" not in {item["what"] for item in typed["own_tests"]}
    assert ines.post("/forecast", {**trip, "quick": True}).json()["own_tests"] == []


def test_a_trip_is_kept_changed_listed_and_had_back(ines, tobias, kit):
    trip_id = str(uuid4())
    asked = {**kit, "legs": [{"length_m": "5 km"}], "temp_c": "28 °F"}
    kept = ines.put(f"/trips/{trip_id}", {"name": "To the light", "asked": asked})
    assert kept.status_code == 200, kept.content
    assert kept.json()["asked"]["temp_c"] == pytest.approx(-2.22, abs=0.01)
    assert (
        ines.put(f"/trips/{trip_id}", {"name": "To the light", "asked": asked}).status_code == 200
    )
    (listed,) = ines.get("/trips").json()
    assert (listed["id"], listed["asked"]["legs"][0]["length_m"]) == (trip_id, 5000)
    # What was kept is what a forecast takes.
    assert ines.post("/forecast", listed["asked"]).status_code == 200
    other = ines.put(f"/trips/{uuid4()}", {"name": "To the light", "asked": asked})
    assert "saved already" in other.json()["fields"]["name"]
    assert tobias.get("/trips").json() == []
    assert tobias.put(f"/trips/{trip_id}", {"name": "Mine", "asked": asked}).status_code in (404, 409, 422)  # fmt: skip
    assert ines.delete(f"/trips/{trip_id}").status_code == 204
    assert ines.get("/trips").json() == []
    assert ines.post(f"/trips/{trip_id}/restore").status_code == 204
    assert len(ines.get("/trips").json()) == 1


def test_a_trip_that_cannot_be_ridden_is_not_kept(ines, kit):
    bad = ines.put(f"/trips/{uuid4()}", {"name": "Nowhere", "asked": kit})
    assert bad.status_code == 422
    assert "route_id" in bad.json()["fields"]
    long = {**kit, "legs": [{"length_m": 500}] * 21}
    bad = ines.put(f"/trips/{uuid4()}", {"name": "Long", "asked": long})
    assert "keep the way as a route" in bad.json()["fields"]["legs"]
    assert ines.get("/trips").json() == []


def test_every_kind_that_can_be_removed_goes_for_good_in_time():
    owned = {model for model in apps.get_models() if issubclass(model, Owned)}
    assert owned == set(KINDS)


def test_of_two_tests_of_one_title_the_newest_is_meant(ines, kit):
    ids = [rides(ines, kit, "Lap day", started=f"{year}-05-14T09:12:00+00:00") for year in (2025, 2026)]  # fmt: skip
    look_once()
    own = ines.post("/forecast", {**kit, "legs": [{"length_m": 5000}]}).json()["own_tests"]
    used = next(item for item in own if item["what"] == "consumption")
    assert {test["id"] for test in used["tests"]} == {ids[1]}


def test_an_account_keeps_so_many_trips_whatever_others_keep(ines, tobias, kit, monkeypatch):
    monkeypatch.setattr(services, "MOST_TRIPS", 1)
    asked = {**kit, "legs": [{"length_m": 5000}]}
    assert ines.put(f"/trips/{uuid4()}", {"name": "One", "asked": asked}).status_code == 200
    theirs = {"vehicle_id": str(uuid4()), "pack_id": str(uuid4())}
    tobias.put(f"/vehicles/{theirs['vehicle_id']}", {"name": "Other", "kind": "trike"})
    tobias.put(f"/packs/{theirs['pack_id']}", {"name": "Box"})
    body = {"name": "One", "asked": {**theirs, "legs": [{"length_m": 5000}]}}
    assert tobias.put(f"/trips/{uuid4()}", body).status_code == 200
    refused = ines.put(f"/trips/{uuid4()}", {"name": "Two", "asked": asked})
    assert refused.status_code == 409
    assert "1 trips are saved" in refused.json()["message"]


def test_a_packs_page_says_what_is_left_when_it_is_worn_and_how_far_it_goes_then(ines, kit, three):
    life = ines.get(f"/packs/{kit['pack_id']}/life").json()["life"]
    assert life["told_by"] == "capacity"
    assert life["left"]["code"] in ("life_left", "life_left_level")
    # Three lap days to cut-off: each tells a range, brought to the first one's conditions.
    ranges = [point["range_m"]["value"] for point in life["points"]]
    assert ranges == pytest.approx([20_500] * 3, rel=0.05)
    worn = life["ends"][0]
    assert worn["share"] == 0.8
    assert worn["months"]["low"] < worn["months"]["value"] < worn["months"]["high"]
    assert worn["range_m"]["value"] < 20_500


def test_a_vehicles_seasons_are_told_by_speed_and_only_to_its_owner(ines, tobias, kit):
    for title, day, temp in (("Warm", "2026-07-01", 24), ("Cold", "2026-01-10", 1)):
        rides(ines, kit, title, started=f"{day}T09:12:00+00:00", ah=13.0)
        row = RangeTest.objects.get(title=title)
        sheet = {"base": row.sheet_changes, "conditions": {"temp_start_c": temp}}
        assert ines.put(f"/tests/{row.pk}/sheet", sheet).status_code == 200
    look_once()
    path = f"/vehicles/{kit['vehicle_id']}/seasons"
    found = ines.get(path).json()
    assert found["item"]["name"] == "Sandpiper"
    bands = {band["quantity"]: band for band in found["seasons"]["bands"]}
    points = bands["range_to_cutoff"]["points"]
    assert sorted(point["temp_c"] for point in points) == [1, 24]
    assert {point["run"]["title"] for point in points} == {"Warm", "Cold"}
    assert {part["name"] for part in bands["range_to_cutoff"]["parts"]} == {
        "air",
        "pack",
        "tyres",
        "left",
    }
    assert bands["range_to_cutoff"]["said"]["message"].startswith("At about")
    assert tobias.get(path).status_code == 404
