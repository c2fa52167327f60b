"""The server's own order: migrations, the demo, the page, one shape of failure."""

from io import StringIO

import pytest
from django.core.management import call_command
from django.db import IntegrityError, connection, transaction
from django.test import Client

from server.kit.models import Vehicle
from server.logbook.models import RangeTest, SampleChunk, Stream
from tests.server.conftest import Api


def test_the_models_have_their_migrations(db):
    call_command("makemigrations", check=True, dry_run=True, stdout=StringIO())


def test_the_database_is_mariadb_strict_and_in_four_byte_unicode(db):
    with connection.cursor() as cursor:
        cursor.execute("SELECT VERSION(), @@sql_mode, @@character_set_database")
        version, mode, charset = cursor.fetchone()
    assert "MariaDB" in version
    assert "STRICT_ALL_TABLES" in mode
    assert charset == "utf8mb4"


def test_what_must_hold_holds_in_the_database_too(ines, kit, ride):
    test = RangeTest.objects.get()
    chunk = {
        "stream": Stream.objects.create(test=test, instrument="meter"),
        "sequence": 0,
        "through": 0,
        "first_time_s": 0,
        "last_time_s": 1,
        "count": 1,
        "data": b"",
    }
    SampleChunk.objects.create(**chunk)
    with pytest.raises(IntegrityError), transaction.atomic():
        SampleChunk.objects.create(**chunk)
    with pytest.raises(IntegrityError), transaction.atomic():
        Vehicle.objects.create(owner=ines.user, name="Sandpiper", kind="moped")


def test_every_failure_has_one_shape(ines, nobody):
    for answer in (
        nobody.get("/tests"),
        ines.get("/tests/not-an-id"),
        ines.get("/vehicles/nothing"),
        ines.post("/session", {}),
    ):
        assert answer.status_code >= 400
        if answer["Content-Type"].startswith("application/json"):
            assert set(answer.json()) == {"code", "message", "fields", "faults"}


def test_an_unexpected_failure_is_told_without_its_insides(ines, monkeypatch, caplog):
    monkeypatch.setattr("server.results.api.row_of", lambda test: 1 / 0)
    from tests.strategies import minimal

    answer = ines.import_files(
        {"test.json": minimal(), "entries.csv": b"time_s,kind\n0,start\n9,end\n"}
    )
    assert answer.status_code == 500
    assert answer.json()["code"] == "failed"
    # The test was stored already when its row could not be made: it was rolled back, and that is said.
    assert "Nothing was stored." in answer.json()["message"]
    assert not RangeTest.objects.exists()
    assert "ZeroDivision" not in answer.content.decode()
    assert "division by zero" in caplog.text


def test_the_api_is_documented_without_fetching_anything(ines):
    schema = ines.get("/openapi.json").json()
    assert Api(Client(), None).get("/openapi.json").status_code == 401
    assert schema["paths"]["/api/tests/import"]["post"]["operationId"] == "importBundle"
    page = ines.get("/docs").content.decode()
    assert "http://" not in page
    assert "https://" not in page


def test_any_address_of_the_page_answers_with_the_page(db, client):
    for path in ("/", "/logbook", "/tests/abc", "/kit/packs"):
        answer = client.get(path)
        assert answer.status_code == 200
        assert b'<div id="root">' in answer.content
    assert client.get("/api/nothing-here").status_code == 404
