"""Routes in the kit, and road load found from a vehicle's own tests."""

from __future__ import annotations

import io
import zipfile
from uuid import uuid4

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from demo.plans import lighthouse_gpx
from demo.skerrow import ridden
from limpet.files import write_zip
from server.kit.models import Route, Vehicle

LAP = {"length_m": "1720 m", "climb_m": 3, "stops": 1}


def import_gpx(api, data: bytes, name="Lighthouse road", route_id=None):
    file = SimpleUploadedFile("road.gpx", data)
    return api.client.post(
        "/api/routes/import", {"id": str(route_id or uuid4()), "name": name, "file": file}
    )


def test_legs_and_laps_are_kept_and_a_lap_comes_back_to_its_height(ines):
    road, lap = str(uuid4()), str(uuid4())
    legs = [{"length_m": "3.2 km", "climb_m": "28 m", "bearing_deg": 40}, {"length_m": 2600}]
    stored = ines.put(f"/routes/{road}", {"name": "Farm round", "kind": "legs", "legs": legs})
    assert stored.json()["length_m"] == 5800
    assert stored.json()["ascent_m"] == 28
    body = {"name": "Quay loop", "kind": "loop", "legs": [LAP], "readings_m": [1720, 1716, 1728]}
    loop = ines.put(f"/routes/{lap}", body).json()
    assert loop["length_m"] == pytest.approx(1721.33, abs=0.01)
    assert loop["length_std_m"] == pytest.approx(3.53, abs=0.01)
    assert loop["legs"][0]["descent_m"] == 3
    assert [route["name"] for route in ines.get("/routes").json()] == ["Farm round", "Quay loop"]


def test_a_route_can_be_forecast_and_is_only_its_owners(ines, tobias, kit):
    lap = str(uuid4())
    ines.put(f"/routes/{lap}", {"name": "Quay loop", "kind": "loop", "legs": [LAP]})
    trip = {**kit, "route_id": lap, "laps": 5}
    answer = ines.post("/forecast", trip).json()
    assert answer["route"]["laps"] == 5
    assert answer["route"]["distance_m"] == pytest.approx(8600)
    assert tobias.get("/routes").json() == []
    assert tobias.delete(f"/routes/{lap}").status_code == 404
    taken = tobias.put(f"/routes/{lap}", {"name": "Mine", "kind": "loop", "legs": [LAP]})
    assert taken.status_code == 409


def test_a_gpx_file_becomes_a_route_with_a_profile_and_its_file_is_kept(ines):
    route_id = uuid4()
    stored = import_gpx(ines, lighthouse_gpx(), route_id=route_id)
    assert stored.status_code == 201
    route = stored.json()
    assert route["kind"] == "track"
    assert route["length_m"] == pytest.approx(8900, rel=0.005)
    assert 55 < route["ascent_m"] < 95
    assert len(route["profile"]["distance_m"]) == len(route["profile"]["height_m"]) > 50
    assert bytes(Route.objects.get(pk=route_id).gpx) == lighthouse_gpx()
    assert import_gpx(ines, lighthouse_gpx(), route_id=route_id).json()["id"] == str(route_id)
    assert Route.objects.count() == 1


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"not xml", "not XML"),
        (b"<?xml version='1.0'?><kml/>", "track"),
        (
            lighthouse_gpx().replace(b'lat="47.5', b'lat="49.5', 1),
            "the route jumps 222.",
        ),
        (b'<!DOCTYPE x [<!ENTITY a "b">]><gpx/>', "declares a document type"),
    ],
)
def test_a_file_that_is_no_way_to_ride_is_refused_whole(ines, data, words):
    answer = import_gpx(ines, data)
    assert answer.status_code == 422
    assert words in " ".join(fault["message"] for fault in answer.json()["faults"])
    assert Route.objects.count() == 0


@pytest.mark.parametrize(
    ("body", "field", "words"),
    [
        ({"legs": [{"length_m": 100, "climb_m": 90}]}, "legs", "leg 1 rises and falls 90 m"),
        ({"legs": []}, "legs", ""),
        ({"legs": [LAP], "name": ""}, "name", "give it a name"),
        ({"legs": [LAP], "kind": "loop", "readings_m": [1700, 1710, 3400]}, "readings_m", "off the others"),
    ],
)  # fmt: skip
def test_a_route_that_cannot_be_is_refused_beside_its_field(ines, body, field, words):
    answer = ines.put(f"/routes/{uuid4()}", {"name": "Road", "kind": "legs", **body})
    assert answer.status_code == 422
    assert words in answer.json()["fields"][field]
    assert Route.objects.count() == 0


def test_a_loops_readings_are_worked_out_in_any_unit(ines):
    body = {"readings_m": ["1720 m", 1716, "1.728 km"]}
    found = ines.post("/routes/loop-length", body).json()
    assert found["value"] == pytest.approx(1721.33, abs=0.01)
    odd = ines.post("/routes/loop-length", {"readings_m": [1700, 1710, 3400]})
    assert "off the others" in odd.json()["fields"]["readings_m"]


def test_a_vehicles_limits_are_kept_and_reach_the_forecast(ines, kit):
    vehicle = {
        "name": "Sandpiper", "kind": "bicycle", "mass_kg": 38, "max_power_w": "400 W",
        "regeneration": 0.3, "step_down": [{"below_v": "44 V", "max_speed_mps": "20 km/h"}, {"gauge": 0.2, "max_speed_mps": 3}],
    }  # fmt: skip
    stored = ines.put(f"/vehicles/{kit['vehicle_id']}", vehicle).json()
    by_volts, by_gauge = stored["step_down"]
    assert by_volts == {"below_v": 44, "gauge": None, "max_speed_mps": pytest.approx(20 / 3.6)}
    assert by_gauge["below_v"] is None
    assert by_gauge["gauge"] == pytest.approx(0.2)
    for said in ({}, {"below_v": 44, "gauge": 0.2}):
        refused = ines.put(
            f"/vehicles/{kit['vehicle_id']}",
            {**vehicle, "step_down": [{**said, "max_speed_mps": 3}]},
        )
        assert refused.status_code == 422
        assert "Say where it slows" in refused.content.decode()
    steep = {**kit, "legs": [{"length_m": 2000, "climb_m": 160}], "target_mps": 6}
    answer = ines.post("/forecast", steep).json()
    assert answer["peak"]["power_w"] <= 400.001
    source = {item["name"]: item["source"] for item in answer["inputs"]}
    assert source["max_power_w"] == "trip"


def import_test(api, slug):
    archive = write_zip(ridden(slug))
    names = zipfile.ZipFile(io.BytesIO(archive)).namelist()
    assert any(name.endswith("test.json") for name in names)
    return api.import_files({"ride.zip": archive})


def test_a_vehicle_is_fitted_to_its_own_tests_and_forecasts_use_it(ines, kit):
    nothing = ines.put(f"/vehicles/{kit['vehicle_id']}/fit", {})
    assert nothing.status_code == 409
    assert "it has no ended test yet" in nothing.json()["message"]
    import_test(ines, "sandpiper-lighthouse")
    assert Vehicle.objects.get(pk=kit["vehicle_id"]).fit is None
    fitted = ines.put(f"/vehicles/{kit['vehicle_id']}/fit", {}).json()["fit"]
    assert fitted["tests"] == ["Lighthouse road, twice there and back"]
    assert "rides show" in fitted["statement"]
    calm = {"wind_mps": 0, "wind_from_deg": 0, "temp_c": 15, "target_mps": 5.5}
    trip = {**kit, **calm, "legs": [{"length_m": 5000, "bearing_deg": 0}], "policy": "fixed"}
    with_fit = ines.post("/forecast", trip).json()
    sources = {item["name"]: item["source"] for item in with_fit["inputs"]}
    assert sources["crr"] == "vehicle fit of 1 test: Lighthouse road, twice there and back"
    forgotten = ines.delete(f"/vehicles/{kit['vehicle_id']}/fit").json()
    assert forgotten["fit"] is None
    start = ines.post("/forecast", {**trip, "use_tests": False}).json()

    def width(answer):
        band = answer["consumption"]["wh_per_km"]
        return (band["high"] - band["low"]) / band["value"]

    assert width(with_fit) < 0.85 * width(start)


def test_another_accounts_vehicle_cannot_be_fitted(tobias, kit):
    assert tobias.put(f"/vehicles/{kit['vehicle_id']}/fit", {}).status_code == 404
    assert tobias.delete(f"/vehicles/{kit['vehicle_id']}/fit").status_code == 404
