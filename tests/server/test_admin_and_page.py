"""The edges of the server: the admin's door, the page's cache, uploads too large."""

import pytest
from django.contrib.auth.models import User

from tests.strategies import minimal


def test_the_admin_is_for_staff(client, db):
    assert client.get("/admin/").status_code == 302
    User.objects.create_superuser("maren", password="a-long-enough-password")
    client.login(username="maren", password="a-long-enough-password")
    assert b"Range tests" in client.get("/admin/").content.replace(b"range tests", b"Range tests")
    assert client.get("/admin/logbook/rangetest/").status_code == 200


def test_the_page_is_asked_for_anew_and_sets_the_forms_token(client, db):
    answer = client.get("/logbook")
    assert answer["Cache-Control"] == "no-cache"
    assert any(name.startswith("limpet_csrf") for name in answer.cookies)


def test_scripts_and_fonts_come_from_here(client, db):
    page = b"".join(client.get("/").streaming_content).decode()
    assert "/assets/index-" in page
    assert "http://" not in page
    assert "https://" not in page


def test_an_upload_over_the_limit_is_told_before_it_is_read(ines, settings):
    settings.MOST_UPLOAD_BYTES = 100
    answer = ines.import_files(
        {"test.json": minimal(title="x" * 200), "entries.csv": b"time_s\n0\n"}
    )
    assert answer.status_code == 413
    assert answer.json()["code"] == "too_large"


@pytest.mark.parametrize("path", ["/api/tests", "/api/vehicles", "/api/packs", "/api/riders"])
def test_a_host_of_another_name_is_refused(client, db, path):
    assert client.get(path, headers={"Host": "evil.example"}).status_code == 400
