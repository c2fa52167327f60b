"""A ride logged by hand, over HTTP, on the real database."""

from datetime import timedelta
from uuid import uuid4

import pytest
from django.utils import timezone

from server.logbook.models import Entry, EntryRevision, RangeTest
from server.logbook.rows import core_test
from server.logbook.signals import evidence_changed
from server.removed import purge_all
from server.wire.owned import KEPT_REMOVED
from tests.server.conftest import note
from tests.strategies import minimal


def test_a_ride_by_hand_ends_with_a_result(ines, ridden):
    answer = ines.put(f"/tests/{ridden}/ending", {"reason": "home"})
    assert answer.status_code == 200
    assert answer.json()["state"] == "ended"
    found = ines.get(f"/tests/{ridden}").json()
    assert found["state"] == "ended"
    assert found["result"]["distance"]["value"] == pytest.approx(12 * 1609.344)
    assert 15 < found["figures"]["wh_per_mi"]["value"] < 40
    assert found["figures"]["range_to_cutoff"]["value"] > 12 * 1609.344
    assert found["sheet"]["load_kg"] == 68


def test_a_ride_has_a_result_while_it_is_under_way(ines, ride):
    assert ines.get(f"/tests/{ride}").json()["result"] is None
    note(ines, ride, 5, "start", voltage_rest_v=54.4, trip_m=0)
    note(ines, ride, 1800, voltage_rest_v=51.0, trip_m="6 mi")
    assert ines.get(f"/tests/{ride}").json()["figures"]["wh_per_mi"]["value"] > 0
    assert ines.get("/tests").json()["items"][0]["state"] == "riding"


def test_an_entry_sent_again_changes_nothing(ines, ride):
    entry_id = uuid4()
    first = note(ines, ride, 5, "start", entry_id=entry_id, voltage_rest_v=54.4)
    again = note(ines, ride, 5, "start", entry_id=entry_id, voltage_rest_v=54.4)
    assert (first.status_code, again.status_code) == (201, 200)
    assert Entry.objects.count() == 1
    assert EntryRevision.objects.count() == 0
    assert RangeTest.objects.get().revision == 2


def test_a_ride_started_again_changes_nothing(ines, kit, ride):
    body = {"title": "Another name", "started_at": "2026-05-14T10:00:00+02:00", **kit}
    assert ines.put(f"/tests/{ride}", body).json()["title"] == "Harbour and back"
    assert RangeTest.objects.count() == 1


def test_a_changed_entry_keeps_what_it_said_and_the_result_follows(ines, ridden):
    before = ines.get(f"/tests/{ridden}").json()
    last = before["entries"][-1]
    note(
        ines,
        ridden,
        3600,
        "end",
        entry_id=last["id"],
        voltage_rest_v=48.2,
        trip_m="14 mi",
        charge_ah=6.4,
    )
    after = ines.get(f"/tests/{ridden}").json()
    assert after["figures"]["wh_per_mi"]["value"] < before["figures"]["wh_per_mi"]["value"]
    kept = after["entries"][-1]
    assert kept["changes"] == 1
    assert kept["earlier"][0]["trip_m"] == pytest.approx(12 * 1609.344)


def test_an_entry_taken_out_is_out_of_the_result_and_in_the_history(ines, ridden):
    middle = ines.get(f"/tests/{ridden}").json()["entries"][1]["id"]
    for _ in range(2):
        assert ines.delete(f"/tests/{ridden}/entries/{middle}").status_code == 200
    assert len(ines.get(f"/tests/{ridden}").json()["entries"]) == 2
    assert Entry.objects.get(pk=middle).removed
    assert EntryRevision.objects.count() == 1
    back = f"/tests/{ridden}/entries/{middle}/restored/{uuid4()}"
    for _ in range(2):
        answer = ines.put(back, {}).json()
        assert (answer["removed"], answer["entry"]["id"]) == (False, middle)
    assert len(ines.get(f"/tests/{ridden}").json()["entries"]) == 3
    assert EntryRevision.objects.count() == 2


def sent(api, ride, entry_id, **values):
    return api.put(f"/tests/{ride}/entries/{entry_id}", {"time_s": 1800, "kind": "checkpoint", **values})  # fmt: skip


def standing(api, ride):
    return {row["id"]: row for row in api.get(f"/tests/{ride}").json()["entries"]}


def test_an_entry_sent_again_late_brings_nothing_back(ines, ride):
    """Found: the answer of a PUT was lost, the entry was removed elsewhere, and the repeat revived it."""
    entry, out, back = str(uuid4()), uuid4(), uuid4()
    at = f"/tests/{ride}/entries/{entry}"
    note(ines, ride, 0, "start", voltage_rest_v=54.4, trip_m=0)
    assert sent(ines, ride, entry, trip_m="3.2 mi").status_code == 201
    assert ines.delete(f"{at}?act={out}").status_code == 200
    revision = RangeTest.objects.get().revision

    again = sent(ines, ride, entry, trip_m="3.2 mi")
    assert (again.status_code, again.json()["removed"]) == (200, True)
    assert again.json()["questions"] == []
    assert entry not in standing(ines, ride)
    # Nor does a change that was made without knowing of it; it is said, and kept where it was made.
    for more in ({}, {"from_changes": 0}):
        changed = sent(ines, ride, entry, trip_m="8.2 mi", **more)
        assert changed.status_code == 409
        assert "removed on another device" in changed.json()["message"]
    assert RangeTest.objects.get().revision == revision

    # Brought back once; sent again after it was taken out anew, that changes nothing either.
    assert ines.put(f"{at}/restored/{back}", {}).status_code == 200
    assert standing(ines, ride)[entry]["trip_m"] == pytest.approx(3.2 * 1609.344)
    assert ines.delete(f"{at}?act={out}").status_code == 200
    assert entry in standing(ines, ride), "that removal was done, and undone"
    assert ines.delete(f"{at}?act={uuid4()}").status_code == 200
    assert ines.put(f"{at}/restored/{back}", {}).json()["removed"] is True
    assert entry not in standing(ines, ride)


def test_an_entry_sent_again_late_undoes_no_correction(ines, ride):
    entry = str(uuid4())
    sent(ines, ride, entry, trip_m="3.2 mi")
    assert sent(ines, ride, entry, trip_m="8.2 mi", from_changes=0).status_code == 200
    assert sent(ines, ride, entry, trip_m="3.2 mi").status_code == 200
    assert standing(ines, ride)[entry]["trip_m"] == pytest.approx(8.2 * 1609.344)
    # Whoever has seen the correction may well go back.
    assert sent(ines, ride, entry, trip_m="3.2 mi", from_changes=1).status_code == 200
    assert standing(ines, ride)[entry]["trip_m"] == pytest.approx(3.2 * 1609.344)


def test_an_entry_of_anothers_ride_is_brought_back_by_nobody(ines, tobias, ridden):
    entry = ines.get(f"/tests/{ridden}").json()["entries"][1]["id"]
    ines.delete(f"/tests/{ridden}/entries/{entry}")
    for who, ride in ((tobias, ridden), (ines, uuid4())):
        assert who.put(f"/tests/{ride}/entries/{entry}/restored/{uuid4()}", {}).status_code == 404
    assert Entry.objects.get(pk=entry).removed


@pytest.mark.parametrize(
    ("values", "field", "words"),
    [
        ({"voltage_rest_v": "54 kg"}, "voltage_rest_v", "'kg' is not a unit of voltage"),
        ({"voltage_rest_v": 540}, "voltage_rest_v", "expected volts of 13 cells, not millivolts"),
        ({"trip_m": "-1 mi"}, "trip_m", "is -1 mi, takes 0 to 1,242,742 mi"),
        ({"laps": "many"}, "laps", "expected a number"),
        ({"kind": "begin"}, "kind", "expected one of start, checkpoint"),
        ({"time_s": -90_000}, "time_s", "is -90,000 s, takes -86,400 to 34,560,000 s"),
        ({"time_s": 1.7e9}, "time_s", "takes -86,400 to 34,560,000 s"),
        ({"battery_temp_c": "250 °C"}, "battery_temp_c", "takes -60 to 200 °C"),
        ({"mode": "x" * 201}, "mode", "at most 200"),
        ({"note": "a\x00b"}, "note", "control character 0x0"),
        ({"charge_ah": "1 " + "k" * 59}, "charge_ah", "characters long"),
        ({"kind": None}, "kind", "expected one of start"),
        ({"time_s": None}, "time_s", "a number"),
        ({"mood": "fine"}, "mood", "is not a field here"),
    ],
)
def test_a_faulty_entry_is_refused_beside_its_field_and_nothing_is_stored(
    ines, ride, values, field, words
):
    answer = ines.put(f"/tests/{ride}/entries/{uuid4()}", {"time_s": 5, "kind": "start", **values})
    assert answer.status_code == 422
    assert words in answer.json()["fields"][field]
    assert not Entry.objects.exists()
    assert RangeTest.objects.get().revision == 1


def test_what_may_be_a_slip_is_stored_and_asked_about(ines, ride):
    note(ines, ride, 5, "start", trip_m="3 mi")
    answer = note(ines, ride, 600, trip_m="2 mi", voltage_rest_v=91)
    assert answer.status_code == 201
    voltage, distance = answer.json()["questions"]
    assert "91 V at 10 min is outside the 26 to 57 V" in voltage
    assert "below the reading before it. Was it mistyped, or was the meter reset?" in distance


def test_a_ride_without_entries_cannot_be_ended(ines, ride):
    answer = ines.put(f"/tests/{ride}/ending", {"reason": "home"})
    assert answer.status_code == 409
    assert "Add an entry before you end" in answer.json()["message"]
    assert RangeTest.objects.get().state == "riding"


def test_a_ride_needs_kit_of_ones_own(ines, tobias, kit):
    body = {"title": "x", "started_at": "2026-05-14T09:12:00+02:00", **kit}
    answer = tobias.put(f"/tests/{uuid4()}", body)
    assert set(answer.json()["fields"]) == {"vehicle_id", "pack_id", "rider_id"}
    assert not RangeTest.objects.exists()


def test_a_ride_belongs_to_its_account(ines, tobias, nobody, ridden):
    entry = ines.get(f"/tests/{ridden}").json()["entries"][0]["id"]
    for path in ("", "/traces", "/result.json", "/bundle.zip"):
        assert tobias.get(f"/tests/{ridden}{path}").status_code == 404
        assert nobody.get(f"/tests/{ridden}{path}").status_code == 401
    assert note(tobias, ridden, 9).status_code == 404
    assert note(tobias, ridden, 9, entry_id=entry).status_code == 404
    assert tobias.delete(f"/tests/{ridden}/entries/{entry}").status_code == 404
    assert tobias.put(f"/tests/{ridden}/ending", {"reason": "home"}).status_code == 404
    assert tobias.delete(f"/tests/{ridden}").status_code == 404
    assert tobias.get("/tests").json()["items"] == []
    assert tobias.get("/tests/now").json()["under_way"] == []
    assert tobias.get("/tests/find").json() == []
    assert len(ines.get(f"/tests/{ridden}").json()["entries"]) == 3


def test_an_id_of_somebody_elses_test_is_not_taken_over(ines, tobias, ridden):
    files = {"test.json": minimal(), "entries.csv": b"time_s,kind\n0,start\n9,end\n"}
    assert tobias.import_files(files, ridden).status_code == 409
    mine = {"vehicle_id": str(uuid4()), "pack_id": str(uuid4())}
    tobias.put(f"/vehicles/{mine['vehicle_id']}", {"name": "Dunlin", "kind": "trike"})
    pack = {"name": "Fulmar", "chemistry": "lfp", "series": 16, "rated_ah": 20}
    tobias.put(f"/packs/{mine['pack_id']}", pack)
    body = {"title": "x", "started_at": "2026-05-14T09:12:00+02:00", **mine}
    assert tobias.put(f"/tests/{ridden}", body).status_code == 409
    assert RangeTest.objects.get().title == "Harbour and back"
    assert Entry.objects.count() == 3


def test_a_removed_test_is_gone_with_all_of_it(ines, ridden):
    before = ines.get(f"/tests/{ridden}").json()
    assert ines.delete(f"/tests/{ridden}").status_code == 204
    for path in ("", "/traces", "/result.json", "/bundle.zip"):
        assert ines.get(f"/tests/{ridden}{path}").status_code == 404
    assert ines.get("/tests").json()["count"] == 0
    assert note(ines, ridden, 60).status_code == 404
    # It can be had back whole for a while; then it goes for good.
    assert ines.post(f"/tests/{ridden}/restore").status_code == 204
    assert ines.get(f"/tests/{ridden}").json() == before
    ines.delete(f"/tests/{ridden}")
    assert purge_all() == 0
    RangeTest.objects.update(removed_at=timezone.now() - KEPT_REMOVED - timedelta(days=1))
    assert purge_all() > 0
    assert not RangeTest.objects.exists()
    assert not Entry.objects.exists()
    assert ines.post(f"/tests/{ridden}/restore").status_code == 404


def test_a_share_is_refused_in_the_percent_that_it_was_typed_in(ines, kit):
    ride = {"title": "", "started_at": "2026-05-14T09:12:00+02:00", "reserve": 2, **kit}
    told = ines.put(f"/tests/{uuid4()}", ride).json()
    assert told["fields"]["reserve"] == "is 200%, takes 0 to 99%"
    assert told["message"].startswith("Title is empty")


def test_what_is_said_at_the_start_stands_on_the_sheet(ines, kit):
    test_id = uuid4()
    said = {
        "title": "Two packs", "started_at": "2026-05-14T09:12:00+02:00", "purpose": "everyday",
        "packs_used": 2, "packs_use": "in_sequence", "charge": "not_full", "propulsion": "assist",
        "target_speed_mps": 5.5, "reserve": 0.15, "gear_kg": 9, "lap_length_m": 1200, **kit,
    }  # fmt: skip
    assert ines.put(f"/tests/{test_id}", said).status_code == 200
    sheet = core_test(RangeTest.objects.get(pk=test_id)).sheet
    assert (sheet.packs_used, sheet.packs_use, sheet.purpose) == (2, "in_sequence", "everyday")
    assert (sheet.rider.mass_kg, sheet.rider.gear_kg) == (64, 9)
    assert (sheet.start.full, sheet.start.just_charged) == (False, False)
    protocol = sheet.protocol
    assert (protocol.reserve, protocol.target_speed_mps, protocol.propulsion) == (
        0.15,
        5.5,
        "assist",
    )
    assert sheet.instruments.lap.length_m == 1200


def test_a_ride_taken_up_again_is_so_once_and_its_end_counts_anew(ines, ridden):
    def revision():
        return RangeTest.objects.get().revision

    begun = revision()
    assert ines.delete(f"/tests/{ridden}/ending").status_code == 200
    assert revision() == begun, "it rides already: nothing has changed"
    assert ines.put(f"/tests/{ridden}/ending", {"reason": "home"}).status_code == 200
    ended = revision()
    assert ended > begun
    assert ines.put(f"/tests/{ridden}/ending", {"reason": "home"}).status_code == 200
    assert revision() == ended
    assert ines.delete(f"/tests/{ridden}/ending").status_code == 200
    assert revision() > ended
    assert RangeTest.objects.get().state == "riding"


@pytest.mark.django_db(transaction=True)
def test_results_are_looked_after_when_a_ride_ends(ines, ridden):
    called = []
    evidence_changed.connect(lambda **_: called.append(1), weak=False, dispatch_uid="ends")
    try:
        ines.put(f"/tests/{ridden}/ending", {"reason": "home"})
    finally:
        evidence_changed.disconnect(dispatch_uid="ends")
    assert called
