"""A ride under way over HTTP: what matters now, its table, its way; resumed; two who change one entry."""

from __future__ import annotations

from base64 import b64encode
from datetime import UTC, datetime, timedelta
from importlib import import_module
from io import BytesIO
from uuid import uuid4
from zipfile import ZipFile

import pytest
from django.apps import apps

from limpet.files.photos import plain_jpeg
from limpet.under_way import advise
from server.logbook.models import Photo, RangeTest
from server.logbook.rows import core_test
from tests.core.files.test_photos import HIDDEN
from tests.server.conftest import note

#: A picture as a camera makes it, and what is kept of it.
CAMERA = HIDDEN["exif"]
PLAIN = plain_jpeg(CAMERA)

LEG = {"length_m": "6 km", "climb_m": 40, "bearing_deg": 90, "stops": 3}


@pytest.fixture
def out(ines, ride):
    """Six miles out, with volts at rest."""
    note(ines, ride, 0, "start", voltage_rest_v=54.4, trip_m=0)
    note(ines, ride, 1800, voltage_rest_v=51.4, trip_m="6 mi")
    return ride


def test_the_page_is_told_what_the_core_says(ines, out):
    answer = ines.get(f"/tests/{out}/follow").json()
    found = advise(core_test(RangeTest.objects.get(pk=out)))
    assert answer["matter"] == {
        "code": found.matter.code,
        "values": pytest.approx(dict(found.matter.values)),
    }
    assert answer["matter"]["code"] in ("turn_by", "turn_now")
    assert answer["onward"] == "back"
    way = found.following.way
    assert answer["way"]["arrives_probability"] == way.arrives_probability
    assert [item["what"] for item in answer["choices"]] == [item.what for item in found.choices]
    assert [item["name"] for item in answer["more"]] == [item.name for item in found.more]
    assert answer["table"] is None


def evidence_of(who, test_id):
    return who.get(f"/tests/{test_id}/follow").json()["evidence"]


def test_an_answer_names_the_evidence_that_it_was_made_from(ines, ride):
    bare = evidence_of(ines, ride)
    assert bare["entries"] == []
    first = note(ines, ride, 0, "start", voltage_rest_v=54.4).json()["entry"]["id"]
    found = evidence_of(ines, ride)
    assert found["revision"] > bare["revision"]
    assert found["digest"] != bare["digest"]
    assert found["entries"] == [{"id": first, "changes": 0}]
    # Asked again of the same evidence, it is the same.
    assert evidence_of(ines, ride) == found


def test_a_correction_a_removal_and_a_change_of_the_sheet_are_other_evidence(ines, ride):
    note(ines, ride, 0, "start", voltage_rest_v=54.4)
    later = note(ines, ride, 1200, trip_m=5000).json()["entry"]["id"]
    seen = [evidence_of(ines, ride)]
    # A corrected entry keeps its time, and is another reading.
    path = f"/tests/{ride}/entries/{later}"
    stored = ines.put(path, {"kind": "checkpoint", "time_s": 1200, "trip_m": "9 km"}).json()
    seen.append(evidence_of(ines, ride))
    assert stored["revision"] == seen[-1]["revision"]
    assert {"id": later, "changes": 1} in seen[-1]["entries"]
    gone = ines.delete(path).json()
    seen.append(evidence_of(ines, ride))
    assert gone["revision"] == seen[-1]["revision"]
    assert later not in {entry["id"] for entry in seen[-1]["entries"]}
    base = ines.get(f"/tests/{ride}").json()["sheet"]["changes"]
    said = ines.put(f"/tests/{ride}/sheet", {"base": base, "start": {"just_charged": True}})
    assert said.status_code == 200, said.content
    seen.append(evidence_of(ines, ride))
    assert said.json()["revision"] == seen[-1]["revision"]
    assert seen[-1]["sheet_changes"] == base + 1
    revisions = [one["revision"] for one in seen]
    assert revisions == sorted(set(revisions))
    assert len({one["digest"] for one in seen}) == len(seen)


def test_all_of_an_answer_is_of_one_estimate(ines, out):
    answer = ines.get(f"/tests/{out}/follow").json()
    strip = answer["strip"]
    assert strip["ridden_m"] == answer["distance"]["value"]
    assert strip["cutoff_m"][1] == pytest.approx(
        strip["ridden_m"] + answer["range_left_to_cutoff"]["value"]
    )
    assert answer["consumption"]["wh_per_km"]["value"] > 0
    assert answer["reads"]["instrument"] == "trip_m"
    assert ines.get(f"/tests/{out}").json()["revision"] == answer["evidence"]["revision"]


def test_the_table_comes_where_it_is_asked_for(ines, out):
    table = ines.get(f"/tests/{out}/follow?table=true").json()["table"]
    assert table["follow_table"] == 2
    assert table["done_m"] == pytest.approx(6 * 1609.344, abs=1)
    assert {base["name"] for base in table["bases"]} == {"trip_m"}
    assert {sight["name"] for sight in table["sights"]} >= {"voltage_rest_v", "voltage_load_v"}


def test_readings_that_contradict_each_other_give_no_number_and_no_table(ines, ride):
    note(ines, ride, 0, "start", voltage_rest_v=54.4, trip_m=0)
    for k, volts in enumerate((45.0, 53.9, 44.0, 53.8), start=1):
        stored = note(ines, ride, 720 * k, voltage_rest_v=volts, trip_m=f"{4 * k} km")
        assert stored.status_code in (200, 201)
    answer = ines.get(f"/tests/{ride}/follow?table=true").json()
    assert answer["matter"]["code"] == "contradict"
    assert answer["energy_left_fraction"] is None
    assert answer["range_left_to_cutoff"] is None
    assert answer["table"] is None
    assert answer["way"] is None
    assert answer["choices"] == []
    assert "readings_contradict" in [notice["code"] for notice in answer["warnings"]]


def test_from_nothing_on_there_is_a_line(ines, ride):
    assert ines.get(f"/tests/{ride}/follow").json()["matter"]["code"] == "read_volts"
    note(ines, ride, 0, "start", voltage_rest_v=54.4)
    answer = ines.get(f"/tests/{ride}/follow?table=true").json()
    assert answer["matter"]["code"] == "range_left"
    # One that is left on the phone before the first metre.
    assert answer["table"]["done_m"] == 0
    assert not answer["table"]["leads"]


def test_the_way_is_the_riders_word(ines, out):
    near = ines.get(f"/tests/{out}/follow?way=given&from_m=9656&until_m=12000").json()
    far = ines.get(f"/tests/{out}/follow?way=given&from_m=9656&until_m=60000&climb_m=200").json()
    assert near["onward"] == far["onward"] == "given"
    assert near["matter"]["code"] == "home"
    assert near["way"]["left_m"] == pytest.approx(12_000 - 9656, abs=2)
    assert far["way"]["arrives_probability"] < 0.5 < near["way"]["arrives_probability"]


def test_the_way_of_a_planned_ride_is_the_plans(ines, kit):
    plan_id, test_id = str(uuid4()), str(uuid4())
    trip = {**kit, "legs": [LEG], "and_back": True, "policy": "fixed", "target_mps": "20 km/h"}
    body = {**trip, "title": "Over the hill", "purpose": "commute", "end_rule": "route_end"}
    assert ines.put(f"/plans/{plan_id}", body).status_code == 200
    at = {"started_at": "2026-05-14T09:00:00+02:00"}
    assert ines.put(f"/plans/{plan_id}/ride/{test_id}", at).status_code == 200
    note(ines, test_id, 0, "start", voltage_rest_v=54.4, trip_m=0)
    note(ines, test_id, 900, voltage_rest_v=53.0, trip_m="5 km")
    answer = ines.get(f"/tests/{test_id}/follow").json()
    assert answer["onward"] == "planned"
    assert answer["way"]["left_m"] == pytest.approx(7000, abs=5)
    # Another way than the plan's is told on the road, and the plan stays.
    assert ines.get(f"/tests/{test_id}/follow?way=back").json()["onward"] == "back"
    ines.delete(f"/vehicles/{kit['vehicle_id']}")
    assert ines.get(f"/tests/{test_id}/follow").json()["onward"] == "back"


def test_a_plan_has_a_table_before_its_ride_and_asking_begins_none(ines, tobias, kit):
    plan_id, test_id = str(uuid4()), str(uuid4())
    trip = {**kit, "legs": [LEG], "and_back": True, "policy": "fixed", "target_mps": "20 km/h"}
    body = {**trip, "title": "Over the hill", "purpose": "commute", "end_rule": "route_end"}
    assert ines.put(f"/plans/{plan_id}", body).status_code == 200
    tests = RangeTest.objects.count()
    answer = ines.get(f"/plans/{plan_id}/follow").json()
    assert answer["matter"]["code"] == "read_volts"
    assert answer["table"]["done_m"] == 0
    assert answer["table"]["until_m"] == pytest.approx(12_000, abs=5)
    assert tobias.get(f"/plans/{plan_id}/follow").status_code == 404
    assert ines.get(f"/plans/{plan_id}").json()["test_id"] is None
    assert RangeTest.objects.count() == tests
    # What it foresees is what the ride's own table says before its first metre.
    at = {"started_at": "2026-05-14T09:00:00+02:00"}
    assert ines.put(f"/plans/{plan_id}/ride/{test_id}", at).status_code == 200
    begun = ines.get(f"/tests/{test_id}/follow?table=true").json()["table"]
    assert begun == answer["table"]
    assert ines.get(f"/plans/{plan_id}/follow").status_code == 409


@pytest.mark.parametrize(
    "query",
    ["way=home", "way=given&until_m=-1", "way=given&until_m=1e12", "way=lap&laps=0", "from_m=nan",
     "climb_m=1e9", "table=perhaps"],
)  # fmt: skip
def test_no_way_that_cannot_be_is_asked_of_the_core(ines, out, query):
    assert ines.get(f"/tests/{out}/follow?{query}").status_code == 422


def test_nobody_follows_anothers_ride(tobias, nobody, out):
    assert tobias.get(f"/tests/{out}/follow").status_code == 404
    assert nobody.get(f"/tests/{out}/follow").status_code == 401


def test_an_ended_ride_is_taken_up_again(ines, tobias, ridden):
    assert ines.put(f"/tests/{ridden}/ending", {"reason": "cutoff"}).status_code == 200
    ended = ines.get(f"/tests/{ridden}").json()
    assert ended["sheet"]["ending"] == "cutoff"
    assert tobias.delete(f"/tests/{ridden}/ending").status_code == 404
    for _ in range(2):
        again = ines.delete(f"/tests/{ridden}/ending")
        assert (again.status_code, again.json()["state"]) == (200, "riding")
    found = ines.get(f"/tests/{ridden}").json()
    assert (found["state"], found["sheet"]["ending"]) == ("riding", None)
    # How it had ended is in the sheet's history, and it can be ended anew.
    assert found["sheet"]["history"]
    assert ines.put(f"/tests/{ridden}/ending", {"reason": "home"}).json()["state"] == "ended"


def test_two_who_change_one_entry_are_both_kept(ines, ride):
    entry_id = uuid4()
    note(ines, ride, 5, entry_id=entry_id, voltage_rest_v=54.4)
    path = f"/tests/{ride}/entries/{entry_id}"
    said = {"time_s": 5, "kind": "checkpoint"}
    first = ines.put(path, {**said, "voltage_rest_v": 53.9, "from_changes": 0})
    assert first.status_code == 200
    second = ines.put(path, {**said, "voltage_rest_v": 52.1, "from_changes": 0})
    assert second.status_code == 409
    assert "changed on another device" in second.json()["message"]
    kept = ines.get(f"/tests/{ride}").json()["entries"][0]
    assert (kept["voltage_rest_v"], kept["changes"]) == (53.9, 1)
    # What says the same is no conflict; whoever has seen both may choose.
    assert ines.put(path, {**said, "voltage_rest_v": 53.9, "from_changes": 0}).status_code == 200
    assert ines.put(path, {**said, "voltage_rest_v": 52.1}).status_code == 200
    assert ines.get(f"/tests/{ride}").json()["entries"][0]["voltage_rest_v"] == 52.1


def as_base64(data: bytes) -> str:
    return b64encode(data).decode()


def test_a_picture_is_kept_without_its_place_and_travels_in_the_bundle(ines, tobias, ride):
    photo_id = uuid4()
    path = f"/tests/{ride}/photos/{photo_id}"
    for _ in range(2):
        kept = ines.put(path, {"jpeg": as_base64(CAMERA)})
        assert kept.json() == {"id": str(photo_id), "name": f"photos/{photo_id}.jpg"}
    assert Photo.objects.count() == 1
    note(ines, ride, 5, "start", voltage_rest_v=54.4, photo=kept.json()["name"])
    shown = ines.get(f"/tests/{ride}/photo?name={kept.json()['name']}")
    assert (shown["Content-Type"], shown.content) == ("image/jpeg", PLAIN)
    assert tobias.get(f"/tests/{ride}/photo?name={kept.json()['name']}").status_code == 404
    # It is kept on its rider's device, and asked for anew each time.
    assert shown["Cache-Control"] == "private, no-cache"
    again_asked = ines.client.get(
        f"/api/tests/{ride}/photo?name={kept.json()['name']}",
        headers={"If-None-Match": shown["ETag"]},
    )
    assert again_asked.status_code == 304
    assert again_asked.content == b""
    # What the API answers is kept nowhere on the way.
    assert ines.get(f"/tests/{ride}")["Cache-Control"] == "private, no-store"
    bundle = ines.get(f"/tests/{ride}/bundle.zip").content
    again = ines.import_files({"ride.zip": bundle}).json()
    brought = ines.get(f"/tests/{again['id']}/photo?name={kept.json()['name']}")
    assert brought.content == PLAIN


def test_pictures_of_earlier_releases_lose_their_place_too(ines, ride):
    """What an earlier reader let through is made plain by the migration; what is no picture stays."""
    test = RangeTest.objects.get()
    kept = {"photos/a.jpg": HIDDEN["between the scans"], "photos/b.jpg": PLAIN, "photos/c.jpg": b"odd"}  # fmt: skip
    for name, data in kept.items():
        Photo.objects.create(test=test, name=name, data=data)
    migration = import_module("server.logbook.migrations.0018_photos_without_place")
    migration.make_plain(apps, None)
    found = {photo.name: bytes(photo.data) for photo in Photo.objects.all()}
    assert b"SECRET" not in found["photos/a.jpg"]
    assert found["photos/a.jpg"] == plain_jpeg(kept["photos/a.jpg"])
    assert (found["photos/b.jpg"], found["photos/c.jpg"]) == (PLAIN, b"odd")


def test_pictures_are_taken_as_files_beside_a_bundles(ines, ride):
    note(ines, ride, 5, "start", voltage_rest_v=54.4)
    with ZipFile(BytesIO(ines.get(f"/tests/{ride}/bundle.zip").content)) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    taken = ines.import_files({**files, "display.jpg": CAMERA}).json()
    assert ines.get(f"/tests/{taken['id']}/photo?name=photos/display.jpg").content == PLAIN


@pytest.mark.parametrize("jpeg", ["not base64 at all!", as_base64(b"no picture at all"), "x"])
def test_what_is_no_picture_is_refused_beside_its_field(ines, ride, jpeg):
    answer = ines.put(f"/tests/{ride}/photos/{uuid4()}", {"jpeg": jpeg})
    assert answer.status_code == 422
    assert "jpeg" in answer.json()["fields"]
    assert Photo.objects.count() == 0


def test_an_entry_of_a_time_to_come_is_asked_about_until_it_has_come(ines, kit):
    ride = str(uuid4())
    begun = (datetime.now(UTC) - timedelta(minutes=10)).isoformat()
    ines.put(f"/tests/{ride}", {"title": "Ahead of the clock", "started_at": begun, **kit})
    note(ines, ride, 60, "start", voltage_rest_v=54.4)
    note(ines, ride, 3 * 3600, voltage_rest_v=53.0)
    entries = ines.get(f"/tests/{ride}").json()["entries"]
    asked = [[one["notice"]["code"] for one in entry["questions"]] for entry in entries]
    assert asked == [[], ["entry_to_come"]]
