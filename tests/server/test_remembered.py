"""A ride from memory over HTTP: rows as typed, a result at once, every fault beside its row."""

from uuid import uuid4

import pytest

from server.logbook.models import RangeTest


@pytest.fixture
def told(kit):
    return {
        "title": "Last Sunday",
        "purpose": "everyday",
        "started_at": "2026-05-10T09:12:00+02:00",
        "full": True,
        "reason": "home",
        **kit,
        "entries": [
            {"clock": "9:12", "trip_m": "0", "voltage_rest_v": "54,4 V", "charge_ah": 0},
            {"trip_m": "6 mi", "voltage_rest_v": 51.0, "charge_ah": "3.1 Ah"},
            {"clock": "10:12", "trip_m": "12 mi", "voltage_rest_v": 48.2, "charge_ah": 6.4,
             "note": "Wind in the back."},
        ],
    }  # fmt: skip


def test_a_ride_from_memory_has_its_result_at_once(ines, told):
    test_id = uuid4()
    answer = ines.put(f"/tests/{test_id}/remembered", told)
    assert answer.status_code == 200, answer.json()
    found = ines.get(f"/tests/{test_id}").json()
    assert found["state"] == "ended"
    assert [entry["time_s"] for entry in found["entries"]] == [0.0, pytest.approx(1800), 3600.0]
    assert [entry["kind"] for entry in found["entries"]] == ["start", "checkpoint", "end"]
    assert 15 < found["figures"]["wh_per_mi"]["value"] < 40
    assert found["sheet"]["parts"]["start"]["full"] is True
    assert found["sheet"]["parts"]["ending"]["reason"] == "home"
    assert (found["vehicle_name"], found["pack_name"]) == ("Sandpiper", "Eider-2")


def test_sent_again_it_changes_nothing(ines, told):
    test_id = uuid4()
    for _ in range(2):
        assert ines.put(f"/tests/{test_id}/remembered", told).status_code == 200
    assert RangeTest.objects.get().entries.count() == 3


def test_without_any_clock_the_distance_orders_the_rows(ines, told):
    for row in told["entries"]:
        row.pop("clock", None)
    test_id = uuid4()
    body = {**told, "started_at": None}
    assert ines.put(f"/tests/{test_id}/remembered", body).status_code == 200
    times = [entry["time_s"] for entry in ines.get(f"/tests/{test_id}").json()["entries"]]
    assert times == sorted(times)
    assert times[-1] > 1800


def test_every_fault_stands_at_its_row_and_nothing_is_stored(ines, told):
    told["entries"][0]["voltage_rest_v"] = 544
    told["entries"][1]["clock"] = "soon"
    answer = ines.put(f"/tests/{uuid4()}/remembered", told)
    assert answer.status_code == 422
    assert set(answer.json()["fields"]) == {"entries.0.voltage_rest_v", "entries.1.clock"}
    told["entries"][2]["trip_m"] = "12 kg"
    typed = ines.put(f"/tests/{uuid4()}/remembered", told)
    assert "entries.2.trip_m" in typed.json()["fields"]
    assert ines.put(f"/tests/{uuid4()}/remembered", {**told, "entries": []}).status_code == 422
    assert not RangeTest.objects.exists()


def test_anothers_kit_is_not_ridden(tobias, told):
    answer = tobias.put(f"/tests/{uuid4()}/remembered", told)
    assert answer.status_code == 422
    assert set(answer.json()["fields"]) == {"vehicle_id", "pack_id", "rider_id"}


def test_a_pasted_table_is_understood_and_nothing_is_stored(ines, nobody):
    text = "Clock\tTrip (mi)\tVolts\n9:12\t0\t54,4\n"
    found = ines.post("/tests/pasted", {"text": text}).json()
    assert [column["name"] for column in found["columns"]] == ["clock", "trip_m", "voltage_rest_v"]
    assert found["rows"] == [["9:12", "0", "54,4"]]
    assert nobody.post("/tests/pasted", {"text": text}).status_code == 401
    assert ines.post("/tests/pasted", {"text": "x" * 200_001}).status_code == 422
