"""Locks on the real database: what two phones send at once is neither lost nor doubled."""

import json
import threading
from uuid import uuid4

import pytest
from django.contrib.auth.models import User
from django.db import connection
from django.test import Client

from server.logbook.models import Entry, RangeTest
from tests.server.conftest import Api

pytestmark = pytest.mark.django_db(transaction=True)


def at_once(*calls):
    """Run calls in threads that start together; gives what each returned."""
    barrier = threading.Barrier(len(calls))
    results = [None] * len(calls)

    def run(index, call):
        barrier.wait()
        try:
            results[index] = call()
        finally:
            connection.close()

    threads = [threading.Thread(target=run, args=pair) for pair in enumerate(calls)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return results


@pytest.fixture
def rider():
    user = User.objects.create_user("ines", password="a-long-enough-password")
    client = Client()
    client.force_login(user)
    api = Api(client, user)
    ids = {"vehicle_id": str(uuid4()), "pack_id": str(uuid4())}
    api.put(f"/vehicles/{ids['vehicle_id']}", {"name": "Sandpiper", "kind": "bicycle"})
    pack = {"name": "Eider-2", "chemistry": "nmc", "series": 13, "rated_ah": 14}
    api.put(f"/packs/{ids['pack_id']}", pack)
    test_id = str(uuid4())
    body = {"title": "Harbour", "started_at": "2026-05-14T09:12:00+02:00", **ids}
    assert api.put(f"/tests/{test_id}", body).status_code == 200
    return api, test_id


def put(rider, entry_id, time_s):
    api, test_id = rider
    client = Client()
    client.cookies = api.client.cookies
    body = json.dumps({"time_s": time_s, "kind": "checkpoint", "voltage_rest_v": 50})
    path = f"/api/tests/{test_id}/entries/{entry_id}"
    return lambda: client.put(path, body, content_type="application/json").status_code


def test_one_entry_sent_by_two_phones_at_once_is_stored_once(rider):
    entry_id = uuid4()
    codes = at_once(put(rider, entry_id, 60), put(rider, entry_id, 60))
    assert sorted(codes) == [200, 201]
    assert Entry.objects.count() == 1
    assert RangeTest.objects.get().revision == 2


def test_entries_sent_at_once_are_all_stored_and_all_counted(rider):
    codes = at_once(*(put(rider, uuid4(), 60 * k) for k in range(6)))
    assert codes == [201] * 6
    test = RangeTest.objects.get()
    assert test.revision == 7
    assert sorted(test.entries.values_list("position", flat=True)) == list(range(6))


def test_a_failed_write_leaves_nothing_behind(rider, monkeypatch):
    def fail(test):
        raise RuntimeError("the disk is full")

    monkeypatch.setattr("server.logbook.entries.touch", fail)
    api, test_id = rider
    answer = api.put(f"/tests/{test_id}/entries/{uuid4()}", {"time_s": 5, "kind": "start"})
    assert answer.status_code == 500
    assert not Entry.objects.exists()
