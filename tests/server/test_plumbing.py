"""What the server hands to the core: the kit as it is kept, and only what may be read."""

from __future__ import annotations

from uuid import uuid4

import pytest
from django.db import transaction

from demo.skerrow import ridden
from limpet.figures.strip import Strip
from limpet.files import bundle_files
from server.kit.models import Pack, Vehicle
from server.logbook.models import RangeTest
from server.plans.models import Plan
from server.plans.trips import trip_pack, trip_vehicle
from server.results import worker
from server.results.figures import MOST_BEYOND, _reach_m
from server.results.models import TestResult
from server.results.services import keep
from tests.server.conftest import note

TRIP = {"legs": [{"length_m": 6000, "climb_m": 60}], "quick": True, "target_mps": "30 km/h"}


def test_a_packs_own_resistance_reaches_the_forecast(ines, kit):
    pack = {"name": "Eider-2", "chemistry": "nmc", "series": 13, "rated_ah": 14}
    loaded = []
    for milliohm in (40, 400):
        ines.put(f"/packs/{kit['pack_id']}", {**pack, "resistance_ohm": f"{milliohm} mΩ"})
        stored = Pack.objects.get()
        assert trip_pack(stored).resistance_ohm.value == pytest.approx(milliohm / 1000)
        answer = ines.post("/forecast", {**kit, **TRIP}).json()
        loaded.append(answer["peak"]["loaded_v"])
    assert loaded[0] > loaded[1] + 1


@pytest.mark.parametrize(
    ("model", "path", "body", "reader"),
    [
        (
            Vehicle, "/vehicles",
            {"name": "Knot", "kind": "moped", "mass_kg": 61, "cda_m2": 0.51, "crr": 0.013,
             "drivetrain_efficiency": 0.77, "aux_w": 17, "regeneration": 0.21, "max_power_w": 1900,
             "max_speed_mps": 12.5, "controller_current_limit_a": 33,
             "step_down": [{"below_v": 44, "max_speed_mps": 5}]},
            trip_vehicle,
        ),
        (
            Pack, "/packs",
            {"name": "Auk-1", "chemistry": "lfp", "series": 16, "parallel": 3, "rated_ah": 31,
             "rated_wh": 1600, "full_v": 56, "cutoff_v": 44, "resistance_ohm": 0.07,
             "retained_fraction": 0.83, "equivalent_full_cycles": 210},
            trip_pack,
        ),
    ],
)  # fmt: skip
def test_every_field_of_the_kit_is_handed_on(ines, model, path, body, reader):
    assert ines.put(f"{path}/{uuid4()}", body).status_code == 200
    spec = reader(model.objects.get())
    for name, value in body.items():
        found = getattr(spec, name, None)
        if name == "step_down":
            assert [(s.below_v, s.max_speed_mps) for s in found] == [(44, 5)]
        else:
            assert getattr(found, "value", found) == value, name


def test_a_vehicles_own_tests_tell_its_forecasts_and_can_be_left_out(ines, kit, ride):
    before = ines.post("/forecast", {**kit, **TRIP}).json()
    note(ines, ride, 0, "start", voltage_rest_v=54.4, trip_m=0, charge_ah=0)
    note(ines, ride, 3600, "end", voltage_rest_v=44.0, trip_m="24 km", charge_ah=10.5)
    worker.compute_due()
    # Under way a ride teaches nothing.
    assert ines.post("/forecast", {**kit, **TRIP}).json()["inputs"] == before["inputs"]
    ines.put(f"/tests/{ride}/ending", {"reason": "home"})
    worker.compute_due()
    after = ines.post("/forecast", {**kit, **TRIP}).json()
    sources = {item["name"]: item["source"] for item in after["inputs"]}
    assert sources["known_consumption_wh_per_km"].startswith("1 test: ")
    shown = ines.get(f"/tests/{ride}").json()["result"]["consumption"]["wh_per_km"]["value"]
    known = {item["name"]: item["value"] for item in after["inputs"]}
    assert known["known_consumption_wh_per_km"] == pytest.approx(shown)
    without = ines.post("/forecast", {**kit, **TRIP, "use_tests": False}).json()
    assert without["inputs"] == before["inputs"]
    stated = ines.post("/forecast", {**kit, **TRIP, "known_consumption_wh_per_km": 9}).json()
    assert {i["name"]: i["source"] for i in stated["inputs"]}[
        "known_consumption_wh_per_km"
    ] == "trip"


def test_facts_of_another_version_teach_nothing_and_break_nothing(ines, kit, ride):
    note(ines, ride, 0, "start", voltage_rest_v=54.4, trip_m=0, charge_ah=0)
    note(ines, ride, 3600, "end", voltage_rest_v=44.0, trip_m="24 km", charge_ah=10.5)
    ines.put(f"/tests/{ride}/ending", {"reason": "home"})
    worker.compute_due()
    for odd in ({}, [], 7, {"schema": 9, "core": "x", "value": {"title": 3}}):
        TestResult.objects.update(facts=odd)
        answer = ines.post("/forecast", {**kit, **TRIP})
        assert answer.status_code == 200
        assert "known_consumption_wh_per_km" not in {i["name"] for i in answer.json()["inputs"]}


def test_a_fit_reads_no_ride_that_is_still_under_way(ines, kit, ride):
    note(ines, ride, 5, "start", voltage_rest_v=54.4, trip_m=0, charge_ah=0)
    note(ines, ride, 3600, voltage_rest_v=48.2, trip_m="12 mi", charge_ah=6.4)
    refused = ines.put(f"/vehicles/{kit['vehicle_id']}/fit", {})
    assert refused.status_code == 409
    assert "no ended test yet" in refused.json()["message"]
    ines.put(f"/tests/{ride}/ending", {"reason": "home"})
    assert ines.put(f"/vehicles/{kit['vehicle_id']}/fit", {}).status_code == 200


def test_a_planned_ride_takes_packs_and_conditions_along(ines, kit):
    plan_id, test_id = str(uuid4()), str(uuid4())
    asked = {
        **kit, "legs": [{"length_m": 6000}], "title": "Two packs", "packs_count": 2,
        "packs_use": "in_sequence", "temp_c": "40 °F", "tyre_kpa": "36 psi", "reserve": 0.25,
        "target_mps": "12 mph", "wind_mps": "3 m/s", "wind_from_deg": 250,
    }  # fmt: skip
    ines.put(f"/plans/{plan_id}", asked)
    ines.put(f"/plans/{plan_id}/ride/{test_id}", {"started_at": "2026-05-14T09:00:00Z"})
    sheet = RangeTest.objects.get().sheet
    assert sheet["packs_used"] == 2
    assert sheet["conditions"]["temp_start_c"] == pytest.approx(4.444, abs=1e-3)
    assert sheet["conditions"]["wind_from_deg"] == 250
    assert sheet["tyres"]["pressure_kpa"] == pytest.approx(248.2, abs=0.1)
    assert sheet["protocol"]["reserve"] == 0.25
    assert sheet["protocol"]["target_speed_mps"] == pytest.approx(5.364, abs=1e-3)


def test_an_import_is_tied_to_the_kit_of_its_names(ines):
    files = bundle_files(ridden("sandpiper-quay-gentle"))
    vehicle = str(uuid4())
    ines.put(f"/vehicles/{vehicle}", {"name": "Sandpiper", "kind": "bicycle"})
    ines.import_files(files)
    assert str(RangeTest.objects.get().vehicle_id) == vehicle


@pytest.mark.django_db(transaction=True)
def test_a_changed_test_calls_the_worker_once_it_is_on_disk(ines, ride):
    worker._called.clear()
    with transaction.atomic():
        note(ines, ride, 5400, trip_m=33_000)
        assert not worker._called.is_set()
    assert worker._called.is_set()


def test_a_band_without_an_end_does_not_squeeze_the_other_rows():
    def strip(ridden_m, cutoff_m):
        return Strip(
            distance_m=[], energy_left=[], marks=[], ridden_m=ridden_m, cutoff_m=cutoff_m,
            reserve=0.2, measured=False,
        )  # fmt: skip

    assert _reach_m(strip(9000.0, (10_000.0, 20_000.0, 23_000.0))) == 23_000
    assert _reach_m(strip(9000.0, (10_000.0, 20_000.0, 900_000.0))) == MOST_BEYOND * 20_000
    assert _reach_m(strip(31_000.0, (10_000.0, 20_000.0, 23_000.0))) == 31_000
    assert _reach_m(strip(9000.0, None)) == 9000


KM = {"distance": "km", "mass": "kg", "temperature": "°C", "pressure": "kPa"}


def test_sentences_are_worded_for_who_reads_also_those_that_were_kept(ines, kit):
    claim = {"rated_wh": 480, "distance_m": "100 km", "speed_mps": "25 km/h",
             "vehicle_kind": "bicycle", "name": "The leaflet"}  # fmt: skip
    plan = {**kit, **TRIP, "purpose": "floor", "title": "One"}
    claim_id, plan_id = uuid4(), uuid4()
    assert ines.put(f"/claims/{claim_id}", claim).status_code == 200
    assert ines.put(f"/plans/{plan_id}", plan).status_code == 200

    def said():
        kept = ines.get("/claims").json()[0]["answer"]["notice"]["message"]
        enough = ines.get(f"/plans/{plan_id}").json()["answer"]["enough"]["notice"]["message"]
        return kept, enough

    in_miles, enough_miles = said()
    assert "Wh/mi" in in_miles
    assert "km" not in in_miles + enough_miles
    assert ines.put("/units", KM).status_code == 200
    in_km, enough_km = said()
    assert "Wh/km" in in_km
    assert "mph" not in in_km + enough_km


def test_a_plan_that_kept_its_sentences_in_words_is_still_read(ines, kit):
    plan_id = uuid4()
    plan = {**kit, **TRIP, "purpose": "floor", "title": "One"}
    assert ines.put(f"/plans/{plan_id}", plan).status_code == 200
    stored = Plan.objects.get()
    answer = stored.answer["value"]
    told = "From 12.0 km on the range is known to ±5%: more riding adds little."
    answer["enough"]["reason"] = told
    del answer["enough"]["notice"]
    answer["forecast"]["warnings"] = [{"code": "start_values", "message": "As it was said."}]
    # 0.2 kept the answer bare.
    Plan.objects.update(answer=answer)
    shown = ines.get(f"/plans/{plan_id}").json()["answer"]
    assert shown["enough"]["notice"] == {"code": "as_kept", "severity": "note", "message": told}
    assert shown["forecast"]["warnings"] == [
        {"code": "start_values", "severity": "note", "message": "As it was said."}
    ]


@pytest.mark.parametrize(
    ("path", "body", "said"),
    [
        ("/vehicles/{id}", {"name": "a", "kind": "bicycle", "mass_kg": "2 g"}, "Mass is 2 g, takes 1 to 2,000 kg"),
        ("/vehicles/{id}", {"name": "a", "kind": "bicycle", "step_down": [{"below_v": 44, "max_speed_mps": "500 mph"}]},
         "So fast of step down 1 is 500 mph, takes 0.224 to 134.2 mph"),
        ("/routes/{id}", {"name": "a", "kind": "legs", "legs": [{"length_m": 10}, {"length_m": 5, "climb_m": "40000 ft"}]},
         "Climb of leg 2 is 40000 ft, takes 0 to 29,528 ft"),
        ("/claims/{id}", {"rated_wh": 400, "distance_m": 9000, "speed_mps": "1 mph", "vehicle_kind": "bicycle"},
         "At a speed of is 1 mph, takes 1.118 to 134.2 mph"),
    ],
)  # fmt: skip
def test_a_refusal_names_the_field_and_its_bounds_as_the_form_does(ines, path, body, said):
    refused = ines.put(path.format(id=uuid4()), body)
    assert refused.status_code == 422
    assert said in refused.json()["message"]
    in_km = ines.put("/units", KM).status_code
    assert in_km == 200
    assert "mph" not in ines.put(path.format(id=uuid4()), body).json()["message"].split("takes")[1]


def test_a_result_that_comes_late_does_not_replace_a_newer_one(ines, ride):
    note(ines, ride, 0, "start", voltage_rest_v=54.4, trip_m=0)
    early = RangeTest.objects.get(pk=ride)
    note(ines, ride, 1800, "checkpoint", voltage_rest_v=51.4, trip_m="6 mi")
    ines.get(f"/tests/{ride}")
    newest = TestResult.objects.get(test_id=ride)
    assert newest.revision > early.revision
    keep(early, {"wh_per_km": 1.0})
    kept = TestResult.objects.get(test_id=ride)
    assert (kept.revision, kept.wh_per_km) == (newest.revision, newest.wh_per_km)


def test_ending_twice_changes_nothing_the_second_time(ines, ride):
    note(ines, ride, 0, "start", voltage_rest_v=54.4, trip_m=0)
    revisions = []
    for _ in range(2):
        assert ines.put(f"/tests/{ride}/ending", {"reason": "home"}).status_code == 200
        test = RangeTest.objects.get(pk=ride)
        assert test.state == RangeTest.State.ENDED
        revisions.append(test.revision)
    assert revisions[0] == revisions[1]
