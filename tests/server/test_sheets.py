"""The sheet over HTTP: each part corrected, its history kept and put back, two at once both kept."""

from uuid import uuid4

import pytest

from limpet.evidence.sheet import SHEET_PARTS
from server.logbook.models import RangeTest, SheetRevision
from tests.server.conftest import note


@pytest.fixture
def ended(ines, ridden):
    assert ines.put(f"/tests/{ridden}/ending", {"reason": "home"}).status_code == 200
    return ridden


def sheet_of(api, test_id):
    return api.get(f"/tests/{test_id}").json()["sheet"]


def put(api, test_id, base, **parts):
    return api.put(f"/tests/{test_id}/sheet", {"base": base, **parts})


def test_every_part_is_taken_and_comes_back(ines, ended):
    parts = {
        "test": {"title": "Harbour, corrected", "purpose": "claim", "tags": ["winter", "quay"],
                 "started_at": "2026-05-14T09:20:00+02:00"},
        "vehicle": {"kind": "trike", "name": "Dunlin", "mass_kg": "70 lb", "regeneration": 0.1,
                    "max_speed_mps": "25 km/h",
                    "step_down": [{"below_v": "44 V", "max_speed_mps": "20 km/h"}]},
        "pack": {"name": "Eider-3", "nominal_v": "52 V", "rated_ah": "24 Ah", "cutoff_v": 40},
        "packs": {"packs_used": 2, "packs_use": "in_sequence"},
        "start": {"full": False, "energy_fraction": 0.9},
        "rider": {"name": "Maren", "mass_kg": "10 st", "gear_kg": 3, "pedal_power_w": 80},
        "conditions": {"temp_start_c": "41 °F", "temp_end_c": 7, "wind_mps": "10 mph",
                       "wind_from_deg": 270, "pressure_hpa": 1003, "humidity_pct": 80,
                       "surface": "gravel"},
        "tyres": {"pressure_kpa": "40 psi"},
        "protocol": {"speed_policy": "fixed", "target_speed_mps": "15 mph", "propulsion": "assist",
                     "end_rule": "cutoff", "reserve": 0.1},
        "gauge": {"gauge_name": "five bars", "gauge_kind": "bars", "gauge_steps": 5},
        "instruments": {"trip_name": "hub", "trip_accuracy_pct": 3, "lap_length_m": "1.2 mi",
                        "charge_accuracy_pct": 1.5, "samples_distance": "gps"},
        "claim": {"distance_m": "25 mi", "speed_mps": "15 mph", "load_kg": 75},
        "ending": {"reason": "cutoff", "note": "It stopped\nby the church."},
    }  # fmt: skip
    assert set(parts) == set(SHEET_PARTS)
    for name, values in parts.items():
        answer = put(ines, ended, sheet_of(ines, ended)["changes"], **{name: values})
        assert answer.status_code == 200, (name, answer.json())
    found = sheet_of(ines, ended)["parts"]
    assert found["conditions"]["temp_start_c"] == pytest.approx(5.0)
    assert found["rider"]["mass_kg"] == pytest.approx(63.5, abs=0.01)
    assert found["tyres"]["pressure_kpa"] == pytest.approx(275.8, abs=0.1)
    assert found["instruments"]["lap_length_m"] == pytest.approx(1.2 * 1609.344)
    assert found["vehicle"]["step_down"][0]["max_speed_mps"] == pytest.approx(20 / 3.6)
    assert found["test"]["tags"] == ["winter", "quay"]
    assert found["test"]["started_at"] == "2026-05-14T09:20:00+02:00"
    assert found["ending"]["note"] == "It stopped\nby the church."
    # What nobody says of the pack any more is taken, and not shown as said.
    assert found["pack"]["series"] is None
    head = ines.get(f"/tests/{ended}").json()
    assert (head["title"], head["vehicle_name"], head["pack_name"]) == (
        "Harbour, corrected", "Dunlin", "Eider-3",
    )  # fmt: skip
    # And it goes out and in again as it stands.
    bundle = ines.get(f"/tests/{ended}/bundle.zip").content
    again = str(uuid4())
    assert ines.import_files({"again.zip": bundle}, again).status_code == 201
    assert sheet_of(ines, again)["parts"] == found


def test_a_correction_changes_the_result_and_undo_brings_it_back(ines, ended):
    before = ines.get(f"/tests/{ended}").json()
    assert put(ines, ended, before["sheet"]["changes"], pack={"rated_ah": 20, "series": 13,
               "chemistry": "nmc", "full_v": 54.6, "cutoff_v": 39}).status_code == 200  # fmt: skip
    after = ines.get(f"/tests/{ended}").json()
    was, now = (found["result"]["range_to_cutoff"]["value"] for found in (before, after))
    assert now > 1.2 * was
    change = after["sheet"]["history"][0]
    assert (change["part"], change["by"], change["before"]["rated_ah"]) == ("pack", "ines", 14.0)
    undone = ines.post(f"/tests/{ended}/sheet/changes/{change['id']}/undo")
    assert undone.status_code == 200
    back = ines.get(f"/tests/{ended}").json()
    assert back["result"]["range_to_cutoff"]["value"] == pytest.approx(was)
    # The undoing is a change of its own, and can be undone.
    assert len(back["sheet"]["history"]) == len(after["sheet"]["history"]) + 1


def test_the_same_again_changes_nothing(ines, ended):
    base = sheet_of(ines, ended)["changes"]
    put(ines, ended, base, tyres={"pressure_kpa": 300})
    revision = RangeTest.objects.get().revision
    assert put(ines, ended, base, tyres={"pressure_kpa": 300}).status_code == 200
    assert RangeTest.objects.get().revision == revision
    assert sheet_of(ines, ended)["changes"] == base + 1


def test_the_later_of_two_is_told_and_both_are_kept(ines, ended):
    base = sheet_of(ines, ended)["changes"]
    assert put(ines, ended, base, conditions={"temp_start_c": 3}).status_code == 200
    # Another part is in nobody's way.
    assert put(ines, ended, base, tyres={"pressure_kpa": 300}).status_code == 200
    late = put(ines, ended, base, conditions={"temp_start_c": 5, "wind_mps": 2})
    assert late.status_code == 409
    assert "ines" in late.json()["message"]
    assert "Conditions" in late.json()["message"]
    sheet = sheet_of(ines, ended)
    assert sheet["parts"]["conditions"]["temp_start_c"] == 3
    aside = sheet["history"][0]
    assert (aside["taken"], aside["after"]["temp_start_c"]) == (False, 5.0)
    # Sent again, it is kept once.
    put(ines, ended, base, conditions={"temp_start_c": 5, "wind_mps": 2})
    assert SheetRevision.objects.filter(taken=False).count() == 1
    ines.post(f"/tests/{ended}/sheet/changes/{aside['id']}/undo")
    assert sheet_of(ines, ended)["parts"]["conditions"]["wind_mps"] == 2.0


def test_every_fault_stands_beside_its_field_and_changes_nothing(ines, ended):
    before = sheet_of(ines, ended)
    answer = put(
        ines, ended, before["changes"],
        conditions={"temp_start_c": "cold", "wind_mps": "500 mph"}, packs={"packs_used": 0},
    )  # fmt: skip
    assert answer.status_code == 422
    assert set(answer.json()["fields"]) == {
        "conditions.temp_start_c", "conditions.wind_mps", "packs.packs_used",
    }  # fmt: skip
    # What no field can show by itself: 120 V from thirteen cells.
    odd = put(ines, ended, before["changes"], pack={"series": 13, "full_v": 120, "rated_ah": 14,
              "chemistry": "nmc"})  # fmt: skip
    assert odd.status_code == 422
    assert "pack.full_v" in odd.json()["fields"]
    assert sheet_of(ines, ended) == before


def test_a_sheet_is_its_owners(ines, tobias, nobody, ended):
    assert put(tobias, ended, 0, tyres={"pressure_kpa": 300}).status_code == 404
    assert put(nobody, ended, 0, tyres={"pressure_kpa": 300}).status_code == 401
    change = sheet_of(ines, ended)["history"][0]["id"]
    assert tobias.post(f"/tests/{ended}/sheet/changes/{change}/undo").status_code == 404


def test_a_correction_of_kit_is_offered_to_its_tests_and_carried(ines, kit, ended):
    assert ines.get(f"/tests/kit/pack/{kit['pack_id']}").json() == []
    pack = {"name": "Eider-2", "chemistry": "nmc", "series": 13, "rated_ah": 17.5, "full_v": 54.6}
    ines.put(f"/packs/{kit['pack_id']}", pack)
    copies = ines.get(f"/tests/kit/pack/{kit['pack_id']}").json()
    assert [copy["id"] for copy in copies] == [ended]
    differs = {item["field"]: (item["was"], item["now"]) for item in copies[0]["differs"]}
    assert differs == {"rated_ah": (14.0, 17.5), "cutoff_v": (39.0, None)}
    # Until it is carried the test keeps what it was ridden with.
    assert sheet_of(ines, ended)["pack"]["rated_ah"] == 14.0
    carried = ines.post(f"/tests/kit/pack/{kit['pack_id']}", {"tests": [ended]})
    assert carried.json() == {"tests": [ended]}
    assert sheet_of(ines, ended)["pack"]["rated_ah"] == 17.5
    assert sheet_of(ines, ended)["history"][0]["part"] == "pack"
    assert ines.get(f"/tests/kit/pack/{kit['pack_id']}").json() == []


def test_anothers_kit_is_not_carried(ines, tobias, kit, ended):
    assert tobias.get(f"/tests/kit/pack/{kit['pack_id']}").status_code == 404
    assert tobias.post(f"/tests/kit/pack/{kit['pack_id']}", {"tests": [ended]}).status_code == 404


def test_a_renamed_pack_on_the_sheet_belongs_to_that_pack_of_the_kit(ines, kit, ended):
    other = str(uuid4())
    ines.put(f"/packs/{other}", {"name": "Eider-9", "series": 13, "rated_ah": 14})
    base = sheet_of(ines, ended)["changes"]
    pack = sheet_of(ines, ended)["parts"]["pack"]
    assert put(ines, ended, base, pack={**pack, "name": "Eider-9"}).status_code == 200
    assert str(RangeTest.objects.get().pack_id) == other


def test_a_pack_is_understood_and_kept_with_what_was_taken(ines):
    found = ines.get("/packs/understood?text=52 V 24 Ah").json()
    assert (found["series"], found["rated_ah"], found["taken"]) == (
        14,
        24.0,
        ["chemistry", "series"],
    )
    pack_id = uuid4()
    stored = ines.put(f"/packs/{pack_id}", {"name": "Shed", **found["values"]}).json()
    assert (stored["series"], stored["taken"]) == (14, ["chemistry", "series"])
    # A pack of which nobody knows more than its name.
    stored = ines.put(f"/packs/{uuid4()}", {"name": "The grey one"}).json()
    assert set(stored["taken"]) == {"chemistry", "series", "rated_ah"}


def test_a_sheet_is_changed_while_the_ride_is_under_way(ines, ride):
    note(ines, ride, 5, "start", voltage_rest_v=54.4, trip_m=0)
    assert put(ines, ride, 0, conditions={"temp_start_c": 2}).status_code == 200
    found = ines.get(f"/tests/{ride}").json()
    assert (found["state"], found["sheet"]["temp_start_c"]) == ("riding", 2.0)


def test_a_rider_is_carried_and_what_was_pedalled_stays_the_rides(ines, kit, ended):
    base = sheet_of(ines, ended)["changes"]
    rider = {"name": "Ines", "mass_kg": 64, "gear_kg": 4, "pedal_power_w": 90}
    assert put(ines, ended, base, rider=rider).status_code == 200
    ines.put(f"/riders/{kit['rider_id']}", {"name": "Ines", "mass_kg": 66, "gear_kg": 4})
    assert ines.post(f"/tests/kit/rider/{kit['rider_id']}", {"tests": [ended]}).status_code == 200
    carried = sheet_of(ines, ended)["parts"]["rider"]
    assert (carried["mass_kg"], carried["pedal_power_w"]) == (66.0, 90.0)
