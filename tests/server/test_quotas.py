# ruff: noqa: F811
"""What an account may keep: counted, shown, refused with words; a disk that is full is told as that."""

from __future__ import annotations

from importlib import import_module
from uuid import uuid4

import pytest
from django.apps import apps
from django.db import OperationalError

from server.logbook.models import Entry, Photo, RangeTest, SampleChunk, Stream
from server.logbook.quotas import used_by
from server.wire import room
from tests.core.files.test_photos import PLAIN
from tests.server.conftest import note
from tests.server.test_follow import as_base64
from tests.server.test_streams import METER, batch, send, stream  # noqa: F401 (a fixture)


def used(user):
    return {quota.name: quota.used for quota in used_by(user)}


@pytest.fixture
def tight(settings):
    """An account may keep next to nothing."""
    settings.QUOTAS = {
        "tests": 2,
        "entries": 3,
        "sample_bytes": 6000,
        "photo_bytes": len(PLAIN) + 10,
    }
    return settings


def refused(answer, words):
    assert answer.status_code == 409, answer.content
    told = answer.json()
    assert told["code"] == "quota"
    assert words in told["message"]
    assert "Remove what you no longer need" in told["message"]


def test_what_is_kept_is_counted_for_each_account(ines, tobias, ride, stream):
    note(ines, ride, 0, "start", voltage_rest_v=54.4)
    send(ines, stream, 2)
    ines.put(f"/tests/{ride}/photos/{uuid4()}", {"jpeg": as_base64(PLAIN)})
    chunks = sum(len(bytes(chunk.data)) for chunk in SampleChunk.objects.all())
    assert used(ines.user) == {
        "tests": 1, "entries": 1, "sample_bytes": chunks, "photo_bytes": len(PLAIN),
    }  # fmt: skip
    assert set(used(tobias.user).values()) == {0}
    shown = {row["name"]: row["used"] for row in ines.get("/account").json()["kept"]}
    assert shown == used(ines.user)
    # A bundle brings its own, and what is drawn together is counted as it lies then.
    bundle = ines.get(f"/tests/{ride}/bundle.zip").content
    assert ines.import_files({"ride.zip": bundle}).status_code == 201
    now = used(ines.user)
    assert (now["tests"], now["entries"], now["photo_bytes"]) == (2, 2, 2 * len(PLAIN))
    assert now["sample_bytes"] == sum(len(bytes(chunk.data)) for chunk in SampleChunk.objects.all())
    ines.put(f"/tests/{ride}/ending", {"reason": "home"})
    import_module("server.logbook.streams").compact_due()
    assert used(ines.user)["sample_bytes"] == sum(len(bytes(chunk.data)) for chunk in SampleChunk.objects.all())  # fmt: skip


def test_no_more_is_taken_than_an_account_may_keep(ines, kit, ride, tight):
    begun = {"title": "Two", "started_at": "2026-05-14T09:12:00+02:00", **kit}
    second, third = uuid4(), uuid4()
    assert ines.put(f"/tests/{second}", begun).status_code == 200
    refused(ines.put(f"/tests/{third}", begun), "2 tests at most")
    # Sent again, what is there already is no more.
    assert ines.put(f"/tests/{second}", begun).status_code == 200
    for k in range(3):
        note(ines, ride, 100 * k, voltage_rest_v=54 - k)
    entry = {"time_s": 900, "kind": "checkpoint", "voltage_rest_v": 50}
    refused(ines.put(f"/tests/{ride}/entries/{uuid4()}", entry), "3 entries at most")
    kept = Entry.objects.first()
    assert ines.put(f"/tests/{ride}/entries/{kept.pk}", {**entry, "from_changes": 0}).status_code == 200  # fmt: skip
    path = f"/tests/{ride}/photos/{uuid4()}"
    assert ines.put(path, {"jpeg": as_base64(PLAIN)}).status_code == 200
    assert ines.put(path, {"jpeg": as_base64(PLAIN)}).status_code == 200
    refused(ines.put(f"/tests/{ride}/photos/{uuid4()}", {"jpeg": as_base64(PLAIN)}), "MiB of pictures")  # fmt: skip
    at = f"/tests/{ride}/streams/{uuid4()}"
    ines.put(at, METER)
    codes = [ines.put(f"{at}/batches/{k}", batch(60 * k)).status_code for k in range(6)]
    assert codes[0] == 200
    assert codes[-1] == 409
    assert Stream.objects.get().bytes <= 6000
    assert RangeTest.objects.count() == 2
    assert Photo.objects.count() == 1


def test_short_batches_are_held_to_the_limit_every_sixteenth_time(ines, ride, tight):
    at = f"/tests/{ride}/streams/{uuid4()}"
    ines.put(at, METER)
    codes = [ines.put(f"{at}/batches/{k}", batch(5 * k, rows=5)).status_code for k in range(17)]
    assert codes == [200] * 16 + [409]


def test_a_bundle_that_brings_too_much_brings_nothing(ines, ride, tight):
    note(ines, ride, 0, "start", voltage_rest_v=54.4)
    note(ines, ride, 900, voltage_rest_v=52)
    bundle = ines.get(f"/tests/{ride}/bundle.zip").content
    refused(ines.import_files({"ride.zip": bundle}), "3 entries at most")
    assert RangeTest.objects.count() == 1


def test_a_bundle_is_one_test_more(ines, ride, tight):
    note(ines, ride, 0, "start", voltage_rest_v=54.4)
    bundle = ines.get(f"/tests/{ride}/bundle.zip").content
    assert ines.import_files({"ride.zip": bundle}).status_code == 201
    refused(ines.import_files({"ride.zip": bundle}), "2 tests at most")
    assert RangeTest.objects.count() == 2


def test_what_was_removed_counts_until_it_is_emptied(ines, kit, ride, tight):
    other = uuid4()
    begun = {"title": "Two", "started_at": "2026-05-14T09:12:00+02:00", **kit}
    ines.put(f"/tests/{other}", begun)
    assert ines.delete(f"/tests/{other}").status_code == 204
    refused(ines.put(f"/tests/{uuid4()}", begun), "2 tests at most")
    assert ines.get("/account").json()["removed"] == 1
    assert ines.delete("/account/removed").json()["removed"] == 0
    assert ines.post(f"/tests/{other}/restore").status_code == 404
    assert ines.put(f"/tests/{uuid4()}", begun).status_code == 200


def test_what_was_kept_before_it_was_counted_is_counted_by_the_upgrade(ines, ride, stream):
    send(ines, stream, 3)
    ines.put(f"/tests/{ride}/photos/{uuid4()}", {"jpeg": as_base64(PLAIN)})
    before = used(ines.user)
    Stream.objects.update(bytes=0)
    Photo.objects.update(bytes=0)
    import_module("server.logbook.migrations.0019_bytes_kept").count(apps, None)
    assert used(ines.user) == before
    assert before["sample_bytes"] > 0


def test_a_disk_that_is_full_is_told_as_that(
    ines,
    kit,
    ride,
    stream,
    settings,
    tmp_path,
    monkeypatch,
):
    settings.DATABASE_FOLDER, settings.LEAST_FREE_BYTES = str(tmp_path), 2**60
    entry = {"time_s": 900, "kind": "checkpoint", "voltage_rest_v": 50}
    begun = {"title": "Two", "started_at": "2026-05-14T09:12:00+02:00", **kit}
    for answer in (
        ines.put(f"/tests/{ride}/entries/{uuid4()}", entry),
        ines.put(f"{stream}/batches/0", batch(0)),
        ines.put(f"/tests/{ride}/photos/{uuid4()}", {"jpeg": as_base64(PLAIN)}),
        ines.put(f"/tests/{uuid4()}", begun),
    ):
        assert answer.status_code == 507, answer.content
        assert "This Limpet’s disk is full, so nothing was stored" in answer.json()["message"]
    settings.LEAST_FREE_BYTES = 0
    assert ines.put(f"/tests/{ride}/entries/{uuid4()}", entry).status_code == 201
    # What is read is read.
    assert ines.get(f"/tests/{ride}").status_code == 200

    def full(*arguments, **more):
        raise OperationalError(1114, "The table 'logbook_entry' is full")

    monkeypatch.setattr(Entry.objects, "filter", full)
    told = ines.put(f"/tests/{ride}/entries/{uuid4()}", entry)
    assert (told.status_code, told.json()["code"]) == (507, "no_room")


@pytest.mark.parametrize(
    ("error", "is_one"),
    [
        (OperationalError(1021, "Disk full (/tmp); waiting for someone to free some space"), True),
        (OperationalError(1030, 'Got error 28 "No space left on device" from storage engine InnoDB'), True),
        (OperationalError(2013, "Lost connection to server during query"), False),
        (OperationalError(), False),
    ],
)  # fmt: skip
def test_the_databases_words_for_a_full_disk_are_known(error, is_one):
    """Codes of MariaDB's list of errors (ER_DISK_FULL, ER_RECORD_FILE_FULL), from memory."""
    assert room.is_full(error) is is_one


def test_a_test_keeps_so_many_pictures_and_no_more(ines, ride, monkeypatch):
    monkeypatch.setattr("server.logbook.entries.MOST_PHOTOS", 2)
    ids = [uuid4() for _ in range(3)]
    answers = [ines.put(f"/tests/{ride}/photos/{one}", {"jpeg": as_base64(PLAIN)}) for one in ids]
    assert [answer.status_code for answer in answers] == [200, 200, 409]
    assert "2 pictures at most" in answers[-1].json()["message"]
    # One that is there already may be sent again.
    assert ines.put(f"/tests/{ride}/photos/{ids[0]}", {"jpeg": as_base64(PLAIN)}).status_code == 200
